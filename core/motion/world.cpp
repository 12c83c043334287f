#include "motion/world.h"

#include <algorithm>
#include <map>
#include <mutex>
#include <unordered_map>

#include "base/ensure.h"
#include "base/tolerance.h"
#include "motion/cells/puzzle.h"
#include "motion/elements.h"

namespace rubble::motion {

struct World::Others {
    std::mutex mutex;
    std::map<std::vector<SourceId>, std::unique_ptr<const World>> worlds;
    std::vector<std::unique_ptr<World>> to_lend;
};

World::World(std::vector<Column> columns, std::vector<Source> sources, WayOfMoving moving, size_t first_mover)
    : columns_(std::move(columns)),
      sources_(std::move(sources)),
      moving_(std::move(moving)),
      first_mover_(first_mover),
      others_(std::make_shared<Others>()) {
    first_moving_ = movers().empty() ? columns_.size() : size_t(movers().front().first);
    shifts_.resize(movers().size(), Vec3(0));
    std::vector<Box2> in_the_way, deadly;
    for (size_t i = 0; i < columns_.size(); ++i) {
        const Column& column = columns_[i];
        lowest_ = i == 0 ? column.low : std::min(lowest_, column.low);
        const bool kills = column.tags.has(MatterTag::deadly), moves = i >= first_moving_;
        in_the_way.push_back(kills || moves ? Box2{} : column.box);
        deadly.push_back(kills ? column.box : Box2{});
    }
    grid_ = geometry::BoxGrid(in_the_way);
    deadly_ = geometry::BoxGrid(deadly);
    for (Column& column : columns_)
        if (column.steep > 0) column.leads_to_deg = slope_led_to(column);
}

const World& World::without(const std::vector<SourceId>& gone) const {
    if (gone.empty() || !others_) return *this;
    const std::lock_guard lock(others_->mutex);
    std::unique_ptr<const World>& other = others_->worlds[gone];
    if (!other) {
        std::vector<Column> columns;
        std::vector<Source> sources;
        size_t first_mover = k_no_mover;
        for (size_t s = 0; s < sources_.size(); ++s) {
            const Source& source = sources_[s];
            if (std::binary_search(gone.begin(), gone.end(), source.id)) continue;
            if (s >= first_mover_) first_mover = std::min(first_mover, sources.size());
            const int shift = int(columns.size()) - source.first;
            for (int i = source.first; i < source.first + source.count; ++i) {
                Column column = columns_[size_t(i)];
                column.source = int(sources.size());
                column.cell.first += shift;
                columns.push_back(std::move(column));
            }
            sources.push_back({source.id, source.first + shift, source.count, source.tags});
        }
        auto made = std::make_unique<World>(std::move(columns), std::move(sources), moving_, first_mover);
        made->fixtures_ = fixtures_;
        other = std::move(made);
    }
    return *other;
}

World::Lent World::with_movers_at(std::span<const Vec3> shifts) const {
    std::unique_ptr<World> world;
    if (others_) {
        const std::lock_guard lock(others_->mutex);
        if (!others_->to_lend.empty())
            world = std::move(others_->to_lend.back()), others_->to_lend.pop_back();
    }
    if (!world) {
        world = std::make_unique<World>(*this);
        world->others_ = nullptr; // it has none of its own, and does not keep alive what it comes from
    }
    for (size_t m = 0; m < world->shifts_.size() && m < shifts.size(); ++m) {
        const Vec3 by = shifts[m] - world->shifts_[m];
        world->shifts_[m] = shifts[m];
        if (by == Vec3(0)) continue;
        // From where it was built, so that nothing adds up.
        const size_t source = world->first_mover_ + m;
        for (int i = sources_[source].first; i < sources_[source].first + sources_[source].count; ++i)
            world->columns_[size_t(i)] = moved(columns_[size_t(i)], shifts[m]);
    }
    return {std::move(world), others_};
}

World::Lent::~Lent() {
    if (!world_ || !to_) return;
    const std::lock_guard lock(to_->mutex);
    to_->to_lend.push_back(std::move(world_));
}

double World::slope_led_to(const Column& riser) const {
    constexpr double k_near_m = 0.02;
    double gentlest = std::numeric_limits<double>::infinity();
    for_near(riser.box.grown(k_near_m), [&](int i) {
        const Column& tread = columns_[size_t(i)];
        if (&tread == &riser || tread.slope_deg >= gentlest) return;
        if (tread.high < riser.high - k_near_m) return;
        for (Vec2 p : riser.area) {
            if (riser.top.at(p) < riser.high - tolerance::limit_m) continue;
            const Vec2 q = geometry::nearest(tread.area, p);
            if (glm::length(q - p) <= k_near_m && std::abs(tread.top.at(q) - riser.high) <= k_near_m)
                gentlest = tread.slope_deg;
        }
    });
    return gentlest;
}

void WorldMaker::begin(SourceId id, MatterTags tags) {
    sources_.push_back({std::move(id), int(columns_.size()), 0, tags});
}

void WorldMaker::add(const geometry::ConvexCell& cell) {
    RUBBLE_ENSURE(!sources_.empty(), return );
    std::vector<Column> parts = columns_of(cell, int(sources_.size()) - 1);
    const Column::Cell all{int(columns_.size()), int(parts.size())};
    for (Column& part : parts) {
        part.cell = all, part.tags = sources_.back().tags;
        columns_.push_back(std::move(part));
    }
    sources_.back().count += all.count;
}

void WorldMaker::add(Column column) {
    RUBBLE_ENSURE(!sources_.empty(), return );
    column.source = int(sources_.size()) - 1, column.tags = sources_.back().tags;
    column.cell = {int(columns_.size()), 1};
    columns_.push_back(std::move(column));
    ++sources_.back().count;
}

void WorldMaker::add(const World& from, const World::Source& source) {
    RUBBLE_ENSURE(!sources_.empty(), return );
    const int moved = int(columns_.size()) - source.first;
    for (int i = 0; i < source.count; ++i) {
        Column column = from.columns()[size_t(source.first + i)];
        column.source = int(sources_.size()) - 1, column.tags = sources_.back().tags;
        column.cell.first += moved;
        column.leads_to_deg = Column{}.leads_to_deg; // depends on what else is there
        columns_.push_back(std::move(column));
    }
    sources_.back().count += source.count;
}

World WorldMaker::finished(WayOfMoving moving) {
    return World(std::move(columns_), std::move(sources_), std::move(moving), first_mover_);
}

namespace {

/// Half as wide as matter reaches to both sides of the plane that a Side level is played in, and as the strip
/// in which its ground is looked for. Within that strip matter is alike, so that a body meets it as a box
/// would; how wide the strip is says nothing (metres).
constexpr double k_matter_half_m = 0.5, k_strip_half_m = 0.05;
/// How high tiles stand in a Plan level, how far the ground goes there, and how far from everything it is
/// looked at (metres).
constexpr double k_wall_m = 2, k_ground_m = 1e5, k_around_m = 4;

geometry::ConvexArea rectangle(Vec2 low, Vec2 high) { return {low, {high.x, low.y}, high, {low.x, high.y}}; }

/// What of a column lies in the plane y = 0, as matter that reaches far to both sides of it; nothing where
/// none does.
std::optional<Column> section_of(Column column) {
    double left = std::numeric_limits<double>::infinity(), right = -left;
    const auto& area = column.area;
    for (size_t i = 0; i < area.size(); ++i) {
        const Vec2 a = area[i], b = area[(i + 1) % area.size()];
        if (std::min(a.y, b.y) > tolerance::same_place_m || std::max(a.y, b.y) < -tolerance::same_place_m)
            continue;
        const double t = std::abs(b.y - a.y) < tolerance::same_place_m ? 0 : -a.y / (b.y - a.y);
        const Vec2 at = a + (b - a) * std::clamp(t, 0.0, 1.0);
        left = std::min(left, at.x), right = std::max(right, at.x);
        if (std::abs(b.y) <= tolerance::same_place_m)
            left = std::min(left, b.x), right = std::max(right, b.x);
    }
    if (!(right - left > tolerance::same_place_m)) return {};
    column.top.slope.y = column.bottom.slope.y = 0;
    column.area = rectangle({left, -k_matter_half_m}, {right, k_matter_half_m});
    completed(column);
    return column;
}

MatterTags tags_of(build::TileMatterKind kind) {
    switch (kind) {
    case build::TileMatterKind::one_way:
        return MatterTag::one_way;
    case build::TileMatterKind::deadly:
        return MatterTag::deadly;
    case build::TileMatterKind::solid:
        break;
    }
    return {};
}

HeightPlane line_over(double left, double right, double at_left, double at_right) {
    const double slope = (at_right - at_left) / (right - left);
    return {{slope, 0}, at_left - slope * left};
}

Column upright_column(const build::TilePrism& p) {
    Column column;
    column.area = rectangle({p.left, -k_matter_half_m}, {p.right, k_matter_half_m});
    column.top = line_over(p.left, p.right, p.high_left, p.high_right);
    column.bottom = line_over(p.left, p.right, p.low_left, p.low_right);
    completed(column);
    return column;
}

Column wall_column(const build::TilePrism& p) {
    Column column;
    column.area = geometry::hull(
        {{p.left, p.low_left}, {p.right, p.low_right}, {p.right, p.high_right}, {p.left, p.high_left}});
    column.top.c = k_wall_m;
    completed(column);
    return column;
}

} // namespace

namespace {

/// Where the columns of brushes and pieces stand in a world that was made before.
class KnownSources {
public:
    KnownSources() = default;
    KnownSources(const build::Solid& solid, const World& world) : solid_(&solid), world_(&world) {}

    /// The source of the very same brush, the `i`-th by now; null where it was none.
    const World::Source* of(const std::shared_ptr<const build::BrushSolid>& brush, size_t i) {
        return found(
            brush, i, solid_ ? solid_->brushes.size() : 0, 0,
            brushes_, [&](size_t k) -> const auto& { return solid_->brushes[k]; });
    }
    /// The same for a piece. Sources stand in the order of brushes, pieces, tiles.
    const World::Source* of(const std::shared_ptr<const build::PieceMatter>& piece, size_t i) {
        return found(
            piece, i, solid_ ? solid_->pieces.size() : 0, solid_ ? solid_->brushes.size() : 0,
            pieces_, [&](size_t k) -> const auto& { return solid_->pieces[k]; });
    }
    const World& world() const { return *world_; }

private:
    using Places = std::unordered_map<const void*, size_t>;

    /// Most stand where they stood; only where one does not all are looked through, once.
    template <class Matter, class At>
    const World::Source* found(const Matter& matter, size_t i, size_t count, size_t first, Places& places,
                               At at) {
        if (i < count && at(i) == matter) return &world_->sources()[first + i];
        if (count == 0) return nullptr;
        if (places.empty())
            for (size_t k = 0; k < count; ++k) places.emplace(at(k).get(), k);
        const auto place = places.find(matter.get());
        return place == places.end() ? nullptr : &world_->sources()[first + place->second];
    }

    const build::Solid* solid_ = nullptr;
    const World* world_ = nullptr;
    Places brushes_, pieces_;
};

World made_world(const build::Solid& solid, KnownSources known) {
    WorldMaker maker;
    const bool side = solid.frame == Frame::side;
    const auto add = [&](const geometry::ConvexCell& cell) {
        if (!side) return maker.add(cell);
        for (Column& column : columns_of(cell, 0))
            if (auto section = section_of(std::move(column))) maker.add(std::move(*section));
    };
    const auto add_all = [&](const auto& bodies) {
        size_t i = 0;
        for (const auto& body : bodies) {
            maker.begin({body->item, 0});
            if (const World::Source* same = known.of(body, i++))
                maker.add(known.world(), *same);
            else
                for_each_matter(*body, add);
        }
    };
    add_all(solid.brushes);
    add_all(solid.pieces);
    for (const auto& strip : solid.tiles) {
        const ItemId source = strip->item.empty() ? layer_source(strip->layer) : strip->item;
        maker.begin({source, strip->strip * 4 + int(strip->kind)}, tags_of(strip->kind));
        for (const build::TilePrism& prism : strip->prisms)
            if (auto column = side ? upright_column(prism) : wall_column(prism); !column.area.empty())
                maker.add(std::move(column));
    }
    auto elements = solid.cells ? PlayElements{} : play_elements(solid);
    const auto add_room = [&](const Room& room) {
        Column column;
        column.area = corners_of(room);
        column.bottom.c = room.place.at.z, column.top.c = room.place.at.z + room.size.z;
        if (solid.frame == Frame::plan) column.bottom.c = 0, column.top.c = k_wall_m;
        completed(column);
        if (!side) return maker.add(std::move(column));
        if (auto section = section_of(std::move(column))) maker.add(std::move(*section));
    };
    for (const PlayElements::Door& door : elements.doors) {
        maker.begin(door.source());
        add_room(door.room);
    }
    for (const PlayElements::Barrier& barrier : elements.barriers) {
        if (!barrier.one_way) continue; // everybody passes it but crates
        maker.begin(barrier.source());
        add_room(barrier.room);
    }
    for (const PlayElements::Hazard& hazard : elements.hazards) {
        maker.begin(hazard.source(), MatterTag::deadly);
        add_room(hazard.room);
    }
    for (const PlayElements::Deck& deck : elements.decks) {
        maker.begin(deck.source(), deck.one_way ? MatterTags(MatterTag::one_way) : MatterTags{});
        add_room(deck.room);
    }
    WayOfMoving moving;
    moving.frame = solid.frame;
    if (side) moving.ground.low.y = -k_strip_half_m, moving.ground.high.y = k_strip_half_m;
    if (solid.frame == Frame::plan) {
        moving.cells = solid.cells;
        moving.ground = flat(solid.box).grown(k_around_m);
        Column ground;
        ground.area = rectangle(Vec2(-k_ground_m), Vec2(k_ground_m));
        ground.bottom.c = -1;
        completed(ground);
        maker.begin({});
        maker.add(std::move(ground));
    }
    if (solid.cells && solid.elements)
        if (auto puzzle = puzzle_of(*solid.elements, *solid.cells, solid.rules))
            moving.puzzle = std::make_shared<const CellPuzzle>(std::move(*puzzle));
    maker.begin_movers();
    for (const PlayElements::Lift& lift : elements.lifts) {
        maker.begin(lift.source());
        add_room(lift.room);
    }
    for (const PlayElements::Crate& crate : elements.crates) {
        maker.begin(crate.source());
        add_room(crate.room);
    }
    World world = maker.finished(std::move(moving));
    for (PlayElements::Foe& foe : elements.foes)
        if (foe.way != FoeWay::drawn) foe.course = course_by_rule(world, foe);
    if (!elements.fixtures.empty()) world.set_fixtures(std::make_shared<const Fixtures>(elements.fixtures));
    if (!elements.empty()) world.set_elements(std::make_shared<const PlayElements>(std::move(elements)));
    return world;
}

} // namespace

World world_of(const build::Solid& solid) { return made_world(solid, KnownSources{}); }

World world_of(const build::Solid& solid, const build::Solid& before, const World& world_before) {
    return solid.frame == before.frame ? made_world(solid, KnownSources(before, world_before))
                                       : world_of(solid);
}

bool in_deadly(const World& world, const Body& body) {
    bool found = false;
    const double near = tolerance::limit_m, r = body.radius - near;
    world.for_near_deadly(Box2{flat(body.at), flat(body.at)}.grown(r), [&](int i) {
        const auto range = world.columns()[size_t(i)].over_disc(flat(body.at), r);
        found |= range && range->high > body.at.z + near && range->low < body.at.z + body.height - near;
    });
    return found;
}

double overlap_m(const World& world, const Body& body) {
    double deepest = 0;
    const Vec2 centre = flat(body.at);
    world.for_near(Box2{centre, centre}.grown(body.radius), [&](int i) {
        const Column& column = world.columns()[size_t(i)];
        if (column.one_way()) return;
        if (column.low >= body.at.z + body.height || column.most_under_disc(centre, body.radius) <= body.at.z)
            return;
        const auto range = column.over_disc(centre, body.radius);
        if (!range) return;
        const double up = range->high - body.at.z, down = body.at.z + body.height - range->low;
        if (up <= 0 || down <= 0) return;
        const auto beside = column.between(body.at.z, body.at.z + body.height);
        const double aside = beside.empty() ? 0 : body.radius - geometry::distance(beside, centre);
        deepest = std::max(deepest, std::min({up, down, std::max(aside, 0.0)}));
    });
    return deepest;
}

std::optional<Support> support_below(const World& world, const Body& body, double up, double down) {
    std::optional<Support> best;
    const Vec2 centre = flat(body.at);
    world.for_near(Box2{centre, centre}.grown(body.radius), [&](int i) {
        const Column& column = world.columns()[size_t(i)];
        const double reach = column.one_way() ? std::min(up, tolerance::limit_m) : up;
        if (column.low > body.at.z + reach) return;
        if (column.most_under_disc(centre, body.radius) < body.at.z - down) return;
        const auto range = column.over_disc(centre, body.radius);
        if (!range || range->high > body.at.z + reach || range->high < body.at.z - down) return;
        const bool gentler = best && range->high > best->height - tolerance::same_height_m &&
                             column.steep < world.columns()[size_t(best->column)].steep;
        if (!best || range->high > best->height + tolerance::same_height_m || gentler)
            best = Support{range->high, i};
    });
    return best;
}

} // namespace rubble::motion
