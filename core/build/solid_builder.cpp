#include "build/solid_builder.h"

#include <cmath>

#include "base/parallel.h"
#include "build/brush_parts.h"
#include "geometry/space_order.h"

namespace rubble::build {

using geometry::PlaneTable;

/// A brush, or one chunk of a mass, with what touches it and what became of it.
struct SolidBuilder::Entry {
    Brush brush;
    std::vector<Brush> group_cuts; ///< that take away from it alone
    int item = -1;                 ///< the place of its item among the brushes
    int place = -1;                ///< in the order of entries
    PreparedBrush prepared;
    Entries touching;  ///< in order
    size_t sorted = 0; ///< so many of them are in order
    BrushParts parts;
    std::vector<std::shared_ptr<const SolidPart>> built;

    // While a change is worked in:
    bool is_new = true;
    bool changed = true;               ///< itself
    bool only_placed = false;          ///< by no more than its place and size
    bool stale = false;                ///< listed to be built again
    std::vector<const Entry*> changes; ///< that touched it before or touch it now
    PreparedBrush before;

    Box3 reach() const { return prepared.box.grown(2e-6); }
    bool in_grid() const { return !prepared.cells.empty(); }
};

namespace {

double usual_cell(const auto& entries) {
    double sum = 0;
    for (const auto* entry : entries) {
        const Vec3 size = entry->prepared.box.high - entry->prepared.box.low;
        sum += std::cbrt(std::max(size.x, 1e-3) * std::max(size.y, 1e-3) * std::max(size.z, 1e-3));
    }
    return std::max(0.25, 1.5 * sum / double(std::max<size_t>(entries.size(), 1)));
}

using Chunk = std::array<int, 2>;

/// Calls `visit(chunk, brush)` for what a brush is built in: itself, or a mass's chunks, each a mass of its
/// own, so that an edit of a mass builds no more of it than it changed.
template <class F> void for_each_unit(const Brush& brush, F visit) {
    if (brush.shape != Shape::mass) return visit(Chunk{}, brush);
    Brush part = brush;
    part.size = Vec3(1); // of the whole, which a chunk is not built by
    for (const auto& chunk : brush.cells.chunks) {
        part.cells.chunks = {chunk};
        visit(chunk.first, part);
    }
}

bool differs_in_place_only(Brush a, const Brush& b) {
    a.place = b.place, a.size = b.size;
    return a == b;
}

bool same(const std::vector<Brush>& a, const std::vector<const Brush*>& b) {
    return std::equal(a.begin(), a.end(), b.begin(), b.end(),
                      [](const Brush& one, const Brush* other) { return one == *other; });
}

/// Work on so few that another thread would cost more than it brings.
constexpr size_t k_chunk = 2;

} // namespace

void SolidBuilder::sort_along_curve(Entries& entries) {
    geometry::sort_along_curve(entries, [](const Entry* entry) { return entry->brush.place.at; });
}

SolidBuilder::SolidBuilder() : planes_(std::make_shared<PlaneTable>()) {}
SolidBuilder::~SolidBuilder() = default;
SolidBuilder::SolidBuilder(SolidBuilder&&) noexcept = default;

SolidBuilder::Unit* SolidBuilder::ItemEntries::unit_of(const std::array<int, 2>& chunk) {
    const auto at = std::lower_bound(units.begin(), units.end(), chunk,
                                     [](const Unit& unit, const auto& c) { return unit.chunk < c; });
    return at != units.end() && at->chunk == chunk ? &*at : nullptr;
}

/// Half-built entries must not be taken for finished ones, nor planes of brushes long gone be kept for ever.
void SolidBuilder::forget() {
    planes_ = std::make_shared<PlaneTable>();
    entries_.clear();
    items_.clear();
    order_.clear();
    grid_ = geometry::SpaceGrid<Entry*>();
    grid_made_for_ = 0;
    last_layers_.clear();
    last_ = {};
}

/// What is otherwise than in the last level, with the entries' `brush` and `place` brought up to date.
SolidBuilder::Change SolidBuilder::change_to(const Level& level) {
    const auto in_place = brushes_changed_in_place(last_layers_, level.layers);
    if (in_place && !order_.empty())
        if (auto change = change_in_place(*in_place)) return std::move(*change);
    Change change = change_of_order(level);
    sort_along_curve(change.entries);
    return change;
}

/// Nothing where a change of these comes to others, or brings or takes chunks.
std::optional<SolidBuilder::Change> SolidBuilder::change_in_place(const std::vector<const Item*>& items) {
    Change change;
    change.in_place = true;
    for (const Item* item : items) {
        ItemEntries& own = entries_.at(item->id);
        if (own.cuts_group || item->brush()->within_group) return {};
        size_t known = 0, count = 0;
        bool alike = true;
        for_each_unit(*item->brush(), [&](const Chunk& chunk, const Brush& brush) {
            const Unit* unit = own.unit_of(chunk);
            ++count;
            if (!unit) return;
            Entry& entry = *unit->entry;
            ++known;
            alike &= entry.group_cuts.empty();
            if (entry.brush == brush) return;
            entry.only_placed = differs_in_place_only(entry.brush, brush);
            entry.brush = brush;
            entry.changed = true;
            change.entries.push_back(&entry);
        });
        // What was noted as changed is looked at again with all others then.
        if (known != own.units.size() || count != known || !alike) return {};
    }
    return change;
}

SolidBuilder::Change SolidBuilder::change_of_order(const Level& level) {
    const std::vector<OrderedBrush> ordered = ordered_brushes(level);
    Change change;
    Entries order;
    std::unordered_map<ItemId, ItemEntries> kept;
    kept.reserve(ordered.size());
    items_.clear();
    int last = -1;
    for (const OrderedBrush& now : ordered) {
        const auto before = entries_.find(now.item->id);
        ItemEntries& after = kept[now.item->id];
        after.cuts_group = now.is_group_cut;
        const int item = int(items_.size());
        items_.push_back(now.item->id);
        if (now.is_group_cut) continue;
        for_each_unit(*now.brush, [&](const Chunk& chunk, const Brush& brush) {
            Unit* known = before == entries_.end() ? nullptr : before->second.unit_of(chunk);
            std::unique_ptr<Entry> entry = known ? std::move(known->entry) : std::make_unique<Entry>();
            // One that left the order of the others counts as new where it stands now.
            const bool anew = entry->place < last || entry->is_new || entry->changed;
            if (anew || !(entry->brush == brush) || !same(entry->group_cuts, now.group_cuts)) {
                entry->brush = brush;
                entry->only_placed = false;
                entry->group_cuts.clear();
                for (const Brush* cut : now.group_cuts) entry->group_cuts.push_back(*cut);
                change.entries.push_back(entry.get());
            } else {
                last = entry->place;
            }
            entry->item = item;
            order.push_back(entry.get());
            after.units.push_back({chunk, std::move(entry)});
        });
    }
    for (auto& [id, item] : entries_)
        for (auto& [chunk, entry] : item.units)
            if (entry) change.gone.push_back(std::move(entry));
    for (size_t i = 0; i < order.size(); ++i) order[i]->place = int(i);
    entries_ = std::move(kept);
    order_ = std::move(order);
    return change;
}

void SolidBuilder::prepare_all(const Entries& changed) {
    std::vector<BrushBody> bodies(changed.size());
    std::vector<std::vector<geometry::CanonicalPlane>> found(changed.size());
    std::vector<BodyPlanes> refs(changed.size());
    parallel_for(
        changed.size(),
        [&](size_t i) {
            bodies[i] = body_of(changed[i]->brush);
            found[i] = planes_of(bodies[i]);
        },
        k_chunk);
    // The table of planes grows here, one brush after the other.
    for (size_t i = 0; i < changed.size(); ++i) refs[i] = added(found[i], bodies[i], *planes_);
    std::vector<std::vector<PreparedBrush>> cuts(changed.size());
    for (size_t i = 0; i < changed.size(); ++i)
        for (const Brush& cut : changed[i]->group_cuts) {
            const BrushBody body = body_of(cut);
            const BodyPlanes planes = added(planes_of(body), body, *planes_);
            cuts[i].push_back(prepare(cut.effect, body, planes, *planes_));
        }
    parallel_for(
        changed.size(),
        [&](size_t i) {
            changed[i]->before = std::move(changed[i]->prepared);
            changed[i]->prepared = prepare(changed[i]->brush.effect, bodies[i], refs[i], *planes_);
            for (size_t c = 0; c < cuts[i].size(); ++c)
                changed[i]->prepared =
                    less(std::move(changed[i]->prepared), cuts[i][c], changed[i]->group_cuts[c], *planes_);
        },
        k_chunk);
}

/// Prepares what changed and finds out anew what touches what; gives all entries to be built again.
SolidBuilder::Entries SolidBuilder::link_all(const Change& change) {
    const Entries& changed = change.entries;
    Entries stale = changed;
    auto mark = [&](Entry& entry) {
        if (!entry.stale) stale.push_back(&entry);
        entry.stale = true;
    };
    auto leave = [&](Entry& entry) {
        for (Entry* other : entry.touching)
            if (!other->changed) mark(*other), other->changes.push_back(&entry);
        if (entry.in_grid()) grid_.remove(&entry, entry.reach());
    };
    for (Entry* entry : changed) entry->changed = entry->stale = true;
    for (const auto& entry : change.gone) entry->changed = true;
    for (Entry* entry : changed) leave(*entry);
    for (const auto& entry : change.gone) leave(*entry);
    for (size_t i = changed.size(); i < stale.size(); ++i) {
        std::erase_if(stale[i]->touching, [](const Entry* other) { return other->changed; });
        stale[i]->sorted = stale[i]->touching.size();
    }

    prepare_all(changed);
    if (order_.size() > 4 * grid_made_for_ || 4 * order_.size() < grid_made_for_) {
        grid_ = geometry::SpaceGrid<Entry*>(usual_cell(order_));
        grid_made_for_ = order_.size();
        for (Entry* entry : order_) grid_.add(entry, entry->reach());
    } else {
        for (Entry* entry : changed) grid_.add(entry, entry->reach());
    }
    parallel_for(
        changed.size(),
        [&](size_t i) {
            Entry& entry = *changed[i];
            entry.touching.clear(), entry.sorted = 0;
            grid_.for_touching(entry.reach(), [&](Entry* other) {
                if (other != &entry) entry.touching.push_back(other);
            });
        },
        k_chunk);
    for (Entry* entry : changed)
        for (Entry* other : entry->touching)
            if (!other->changed) {
                mark(*other);
                other->touching.push_back(entry);
                other->changes.push_back(entry);
            }
    for (Entry* entry : stale) {
        auto& list = entry->touching;
        const auto before = [](const Entry* a, const Entry* b) { return a->place < b->place; };
        const auto middle = list.begin() + long(entry->sorted);
        std::sort(middle, list.end(), before);
        std::inplace_merge(list.begin(), middle, list.end(), before);
        entry->sorted = list.size();
        entry->parts.plan_tiles(entry->prepared, list.size(), *planes_);
    }
    sort_along_curve(stale);
    return stale;
}

void SolidBuilder::build_entry(Entry& entry) const {
    std::vector<Neighbour> touching;
    touching.reserve(entry.touching.size());
    for (const Entry* other : entry.touching)
        if (other->place > entry.place) touching.push_back({&other->brush, &other->prepared, true});
    for (size_t i = entry.touching.size(); i-- > 0;)
        if (const Entry* other = entry.touching[i]; other->place < entry.place)
            touching.push_back({&other->brush, &other->prepared, false});
    std::vector<BrushChange> changes;
    for (const Entry* other : entry.changes)
        changes.push_back({&other->before, &other->prepared, other->only_placed});
    const OwnChange own = !entry.changed      ? OwnChange::none
                          : entry.only_placed ? OwnChange::placed
                                              : OwnChange::otherwise;
    entry.built = entry.parts.build(entry.brush, entry.prepared, touching, changes, own, *planes_);
}

/// What the entries of an item add, the very same as before where nothing is otherwise.
std::shared_ptr<const BrushSolid> SolidBuilder::solid_of(int item,
                                                         const std::shared_ptr<const BrushSolid>& before) {
    const ItemId& id = items_[size_t(item)];
    BrushSolid solid{id, Effect::cut, {}, {}};
    for (const auto& [chunk, entry] : entries_.at(id).units) {
        solid.effect = entry->brush.effect;
        solid.parts.insert(solid.parts.end(), entry->built.begin(), entry->built.end());
        solid.box.add(entry->prepared.box);
    }
    if (before && before->item == id && before->effect == solid.effect && before->box == solid.box &&
        before->parts == solid.parts)
        return before;
    return std::make_shared<const BrushSolid>(std::move(solid));
}

Solid SolidBuilder::build(const Level& level, const Cancel& cancel) {
    Solid solid = built_from_brushes(level, cancel);
    solid.frame = level.frame;
    if (!cancel.requested()) solid.pieces = pieces_.build(level);
    solid.elements = elements_of(level), solid.rules = level.rules;
    if (level.frame == Frame::space || cancel.requested()) return solid;
    const Level laid = laid_tiles_.of(level);
    solid.tiles = tiles_.build(laid);
    if (level.frame == Frame::side) return solid;
    solid.box = box_of(level);
    if (level.walked == Walked::by_cells) {
        auto cells = walked_cells(laid);
        solid.cells = cells && cells_ && *cells == *cells_ ? cells_ : cells;
        cells_ = solid.cells;
    }
    return solid;
}

/// The elements that take part in play, the very same as before where none is otherwise.
std::shared_ptr<const PlacedElements> SolidBuilder::elements_of(const Level& level) {
    PlacedElements now;
    for (const Item* item : rubble::elements_of(level)) {
        Element element = *item->element();
        const Role role = role_of(element);
        if (role == Role::note || role == Role::place) continue;
        if (role == Role::thing && element.kind.empty()) continue;
        element.at = met_at(level, element);
        now.push_back({item->id, std::move(element)});
    }
    const bool acts = std::any_of(now.begin(), now.end(), [](const PlacedElement& one) {
        const Role role = role_of(one.element);
        return role == Role::device || role == Role::thing;
    });
    if (!acts)
        elements_.reset();
    else if (!elements_ || *elements_ != now)
        elements_ = std::make_shared<const PlacedElements>(std::move(now));
    return elements_;
}

Solid SolidBuilder::built_from_brushes(const Level& level, const Cancel& cancel) {
    if (planes_->size() > 64 * (order_.size() + 64)) forget();
    const Change change = change_to(level);
    if (change.in_place && change.entries.empty()) return last_;
    const Entries stale = link_all(change);
    parallel_for(
        stale.size(),
        [&](size_t s) {
            if (!cancel.requested()) build_entry(*stale[s]);
        },
        k_chunk);
    if (cancel.requested()) {
        forget();
        return {};
    }
    Solid solid = last_;
    solid.planes = planes_;
    if (change.in_place) {
        std::vector<int> items;
        for (const Entry* entry : stale) items.push_back(entry->item);
        std::sort(items.begin(), items.end());
        items.erase(std::unique(items.begin(), items.end()), items.end());
        for (const int item : items)
            solid.brushes.set(size_t(item), solid_of(item, last_.brushes[size_t(item)]));
    } else {
        std::unordered_map<ItemId, std::shared_ptr<const BrushSolid>> before;
        for (const auto& brush : last_.brushes) before[brush->item] = brush;
        std::vector<std::shared_ptr<const BrushSolid>> all(items_.size());
        parallel_for(
            all.size(),
            [&](size_t item) {
                const auto known = before.find(items_[item]);
                all[item] = solid_of(int(item), known == before.end() ? nullptr : known->second);
            },
            k_chunk);
        solid.brushes = SharedList<std::shared_ptr<const BrushSolid>>(all);
    }
    for (Entry* entry : stale) {
        entry->is_new = entry->changed = entry->stale = false;
        entry->changes.clear();
        entry->before = {};
    }
    last_layers_ = level.layers;
    last_ = solid;
    return solid;
}

Solid build_solid(const Level& level) { return SolidBuilder().build(level); }

} // namespace rubble::build
