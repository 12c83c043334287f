#include "build/solid.h"

#include <numeric>

#include "base/ensure.h"
#include "base/parallel.h"
#include "build/neighbours.h"

namespace rubble::build {

using geometry::Corner;
using geometry::PlaneRef;
using geometry::PlaneTable;
using geometry::Side;

PreparedBrush prepare(const Brush& brush, PlaneTable& planes) {
    const BrushBody body = body_of(brush);
    PreparedBrush out;
    out.effect = brush.effect;

    std::vector<size_t> face_of_edge(body.points.size() * body.points.size()); // by its ends, in order
    auto edge_at = [&](int from, int to) -> size_t& {
        return face_of_edge[size_t(from) * body.points.size() + size_t(to)];
    };
    std::vector<PlaneRef> refs;
    for (size_t f = 0; f < body.faces.size(); ++f) {
        const auto& loop = body.faces[f].loop;
        refs.push_back(planes.through(body.points[size_t(loop[0])], body.points[size_t(loop[1])],
                                      body.points[size_t(loop[2])]));
        for (size_t i = 0; i < loop.size(); ++i) edge_at(loop[i], loop[(i + 1) % loop.size()]) = f;
    }
    for (size_t f = 0; f < body.faces.size(); ++f) {
        const auto& loop = body.faces[f].loop;
        PreparedBrush::Face face{{refs[f], {}}, body.faces[f].side};
        geometry::ConvexCell::Face cell_face;
        for (size_t i = 0; i < loop.size(); ++i) {
            const int before = loop[(i + loop.size() - 1) % loop.size()], here = loop[i],
                      after = loop[(i + 1) % loop.size()];
            const int32_t in = refs[edge_at(here, before)].id;
            const int32_t outgoing = refs[edge_at(after, here)].id;
            face.polygon.edges.push_back({outgoing, planes.meet(refs[f].id, in, outgoing)});
            cell_face.loop.push_back(geometry::to_metres(body.points[size_t(here)]));
            out.box.add(cell_face.loop.back());
        }
        const Vec3 normal = planes.normal(refs[f]);
        cell_face.plane = {normal, -glm::dot(normal, cell_face.loop[0])};
        out.faces.push_back(std::move(face));
        out.cell.faces.push_back(std::move(cell_face));
    }
    return out;
}

namespace {

enum class Fate { kept, dropped, mixed };

/// The two parts of a polygon on either side of a plane that crosses it.
struct Halves {
    Polygon front, back;
};

/// In metres, larger than the polygon by what is not known of its corners.
Box3 box_of(const Polygon& polygon) {
    Vec3 low = polygon.edges[0].start.at, high = low;
    double error = 0;
    for (const auto& edge : polygon.edges) {
        low = glm::min(low, edge.start.at), high = glm::max(high, edge.start.at);
        error = std::max(error, edge.start.error);
    }
    constexpr double unit = geometry::ticks_per_metre;
    return Box3{low / unit, high / unit}.grown(error / unit + 1e-5);
}

using Sides = boost::container::small_vector<Side, 8>;

Halves split(const Polygon& polygon, const Sides& sides, PlaneRef by, const PlaneTable& planes) {
    Halves halves{{polygon.support, {}}, {polygon.support, {}}};
    const size_t n = polygon.edges.size();
    auto add = [&](Polygon& part, Side own, size_t i) {
        const Side here = sides[i], next = sides[(i + 1) % n];
        const auto& edge = polygon.edges[i];
        if (here == own || here == Side::on) {
            // From a corner on the plane the way leads along the plane if the next lies on the other side.
            const bool along = here == Side::on && next == -own;
            part.edges.push_back({along ? by.id : edge.plane, edge.start});
        }
        if ((here == Side::front && next == Side::back) || (here == Side::back && next == Side::front)) {
            const Corner corner = planes.meet(polygon.support.id, edge.plane, by.id);
            part.edges.push_back({here == own ? by.id : edge.plane, corner});
        }
    };
    for (size_t i = 0; i < n; ++i) add(halves.front, Side::front, i), add(halves.back, Side::back, i);
    return halves;
}

/// Works out which parts of one face of a brush bound the solid.
class FaceClipper {
public:
    struct Other {
        const PreparedBrush* brush;
        bool later;
    };

    FaceClipper(const PlaneTable& planes, Effect effect, const std::vector<Other>& others,
                std::vector<Polygon>& out)
        : planes_(planes),
          effect_(effect),
          others_(others),
          out_(out) {}

    void clip(const Polygon& polygon) {
        std::vector<int> all(others_.size());
        std::iota(all.begin(), all.end(), 0);
        clip(polygon, all, 0);
    }

private:
    using List = std::vector<int>; ///< of the others, in their order

    /// Decides a polygon against the others of a list from `index` on. Parts that all stay become one again.
    Fate clip(const Polygon& polygon, const List& list, size_t index) {
        if (index < list.size()) {
            const Box3 box = box_of(polygon);
            for (; index < list.size(); ++index)
                if (reaches_into(polygon, box, others_[size_t(list[index])]))
                    return divide(polygon, list, index);
        }
        return keep(polygon, effect_ == Effect::fill);
    }

    /// The same for a part of a polygon: of a long list it keeps only what touches the part, so that a floor
    /// under a thousand brushes does not try every scrap of itself against all of them.
    Fate clip_part(const Polygon& part, const List& list, size_t index) {
        constexpr size_t k_long = 8;
        if (list.size() - index < k_long) return clip(part, list, index);
        const Box3 box = box_of(part);
        List near;
        for (size_t i = index; i < list.size(); ++i)
            if (others_[size_t(list[i])].brush->box.touches(box)) near.push_back(list[i]);
        return clip(part, near, 0);
    }

    Fate keep(const Polygon& polygon, bool kept) {
        if (kept) out_.push_back(polygon);
        return kept ? Fate::kept : Fate::dropped;
    }

    /// Whether some part of the polygon can lie in the other brush, or on the shared face that counts so.
    bool reaches_into(const Polygon& polygon, const Box3& box, const Other& other) const {
        if (!box.touches(other.brush->box)) return false;
        for (const auto& face : other.brush->faces) {
            const PlaneRef plane = face.polygon.support;
            if (plane.id == polygon.support.id) {
                if (plane.flipped == polygon.support.flipped && !other.later) return false;
                continue;
            }
            bool behind = false;
            for (const auto& edge : polygon.edges)
                if (planes_.side(edge.start, plane) == Side::back) {
                    behind = true;
                    break;
                }
            if (!behind) return false;
        }
        return true;
    }

    Fate divide(const Polygon& polygon, const List& list, size_t index) {
        const Other& other = others_[size_t(list[index])];
        const size_t mark = out_.size();
        bool any_kept = false, any_dropped = false;
        auto note = [&](Fate fate) {
            any_kept |= fate != Fate::dropped;
            any_dropped |= fate != Fate::kept;
        };
        Polygon rest = polygon;
        bool something_inside = true;
        for (const auto& face : other.brush->faces) {
            const PlaneRef plane = face.polygon.support;
            if (plane.id == polygon.support.id) continue;
            Sides sides;
            bool front = false, back = false;
            for (const auto& edge : rest.edges) {
                sides.push_back(planes_.side(edge.start, plane));
                front |= sides.back() == Side::front;
                back |= sides.back() == Side::back;
            }
            if (!front) continue;
            if (!back) {
                note(clip_part(rest, list, index + 1));
                something_inside = false;
                break;
            }
            Halves halves = split(rest, sides, plane, planes_);
            note(clip_part(halves.front, list, index + 1));
            rest = std::move(halves.back);
        }
        if (something_inside) {
            const bool outer_filled = other.brush->effect == Effect::fill;
            const bool kept = !other.later && (effect_ == Effect::fill ? !outer_filled : outer_filled);
            note(keep(rest, kept));
        }
        if (any_kept && any_dropped) return Fate::mixed;
        if (!any_kept) return Fate::dropped;
        out_.resize(mark);
        out_.push_back(polygon);
        return Fate::kept;
    }

    const PlaneTable& planes_;
    Effect effect_;
    const std::vector<Other>& others_;
    std::vector<Polygon>& out_;
};

MaterialId material_of(const Brush& brush, BoxSide side) {
    const auto own = brush.side_materials.find(side);
    return own != brush.side_materials.end() ? own->second : brush.material;
}

/// The material of the matter that a cut opens: the last earlier fill that holds the place.
MaterialId material_behind(const Vec3& at_m, const std::vector<const Brush*>& before,
                           const std::vector<const PreparedBrush*>& prepared) {
    for (size_t k = before.size(); k-- > 0;) {
        if (before[k]->effect != Effect::fill) continue;
        bool inside = true;
        for (const auto& face : prepared[k]->cell.faces) inside &= face.plane.distance(at_m) <= 1e-6;
        if (inside) return before[k]->material;
    }
    return {};
}

Vec3 middle_of(const Polygon& polygon) {
    Vec3 sum(0);
    for (const auto& edge : polygon.edges) sum += edge.start.at;
    return sum / (double(polygon.edges.size()) * geometry::ticks_per_metre);
}

std::vector<geometry::ConvexCell> matter_of(const PreparedBrush& fill,
                                            const std::vector<const PreparedBrush*>& later_cuts) {
    std::vector<geometry::ConvexCell> cells{fill.cell};
    for (const PreparedBrush* cut : later_cuts) {
        std::vector<geometry::ConvexCell> next;
        for (const auto& cell : cells) {
            if (!cell.box().touches(cut->box)) {
                next.push_back(cell);
                continue;
            }
            for (auto& piece : geometry::subtracted(cell, cut->cell)) next.push_back(std::move(piece));
        }
        cells = std::move(next);
    }
    return cells;
}

} // namespace

Solid SolidBuilder::build(const Level& level, const Cancel& cancel) {
    if (last_.planes && level.layers == last_layers_) return last_; // layers are shared and never change
    const std::vector<OrderedBrush> ordered = ordered_brushes(level);
    // The table is shared with solids handed out before; it only grows, so a copy is made before adding.
    auto planes = std::make_shared<PlaneTable>(*planes_);
    if (planes->size() > 64 * (ordered.size() + 64)) { // mostly planes of brushes long gone
        planes = std::make_shared<PlaneTable>();
        entries_.clear();
    }

    std::vector<std::shared_ptr<Entry>> entries;
    std::vector<Box3> boxes;
    for (const OrderedBrush& brush : ordered) {
        auto& entry = entries_[brush.item->id];
        if (!entry || !(entry->brush == *brush.brush)) {
            entry = std::make_shared<Entry>();
            entry->brush = *brush.brush;
            entry->prepared = prepare(*brush.brush, *planes);
        }
        entries.push_back(entry);
        boxes.push_back(entry->prepared.box.grown(2e-6));
    }
    const std::vector<std::vector<int>> near = touching(boxes);

    std::vector<size_t> stale;
    for (size_t i = 0; i < entries.size(); ++i) {
        std::vector<const Entry*> before, after;
        bool changed = entries[i]->changed;
        for (int k : near[i]) {
            (size_t(k) < i ? before : after).push_back(entries[size_t(k)].get());
            changed |= entries[size_t(k)]->changed;
        }
        if (changed || before != entries[i]->before || after != entries[i]->after) stale.push_back(i);
        entries[i]->before = std::move(before), entries[i]->after = std::move(after);
    }

    parallel_for(stale.size(), [&](size_t s) {
        if (cancel.requested()) return;
        const size_t i = stale[s];
        Entry& entry = *entries[i];
        std::vector<FaceClipper::Other> others;
        std::vector<const Brush*> before;
        std::vector<const PreparedBrush*> before_prepared, later_cuts;
        for (int k : near[i])
            if (size_t(k) > i) {
                others.push_back({&entries[size_t(k)]->prepared, true});
                if (entries[size_t(k)]->brush.effect == Effect::cut)
                    later_cuts.push_back(&entries[size_t(k)]->prepared);
            } else {
                before.push_back(&entries[size_t(k)]->brush);
                before_prepared.push_back(&entries[size_t(k)]->prepared);
            }
        for (size_t k = before.size(); k-- > 0;) others.push_back({before_prepared[k], false});

        auto result = std::make_shared<BrushSolid>();
        result->item = ordered[i].item->id;
        result->effect = entry.brush.effect;
        result->box = entry.prepared.box;
        for (const auto& face : entry.prepared.faces) {
            std::vector<Polygon> parts;
            FaceClipper(*planes, entry.brush.effect, others, parts).clip(face.polygon);
            for (Polygon& part : parts) {
                MaterialId material = material_of(entry.brush, face.side);
                if (material.empty() && entry.brush.effect == Effect::cut)
                    material = material_behind(middle_of(part), before, before_prepared);
                result->fragments.push_back(
                    {std::move(part), face.side, material, entry.brush.effect == Effect::cut});
            }
        }
        if (entry.brush.effect == Effect::fill) result->matter = matter_of(entry.prepared, later_cuts);
        entry.result = std::move(result);
    });

    Solid solid;
    solid.planes = planes;
    if (cancel.requested()) {
        // Half-built entries must not be taken for finished ones.
        entries_.clear();
        planes_ = std::make_shared<PlaneTable>();
        return {};
    }
    std::unordered_map<ItemId, std::shared_ptr<Entry>> kept;
    for (size_t i = 0; i < entries.size(); ++i) {
        entries[i]->changed = false;
        solid.brushes.push_back(entries[i]->result);
        kept[ordered[i].item->id] = entries[i];
    }
    entries_ = std::move(kept);
    planes_ = planes;
    last_layers_ = level.layers;
    last_ = solid;
    return solid;
}

Solid build_solid(const Level& level) { return SolidBuilder().build(level); }

} // namespace rubble::build
