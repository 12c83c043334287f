#include "build/face_clipper.h"

#include <algorithm>
#include <numeric>

namespace rubble::build {

using geometry::Corner;
using geometry::PlaneRef;
using geometry::PlaneTable;
using geometry::Side;

namespace {

enum class Fate { kept, dropped, mixed };

/// Works out which parts of one face of a brush bound the solid.
class FaceClipper {
public:
    FaceClipper(const PlaneTable& planes, Effect effect, std::span<const Touching> others,
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

    /// The planes of a cell that cross a polygon; of the first the sides of the corners are known.
    struct Crossing {
        boost::container::small_vector<PlaneRef, 8> planes;
        CornerSides sides;
    };

    /// Decides a polygon against the others of a list from `index` on. Parts that all stay become one again.
    Fate clip(const Polygon& polygon, const List& list, size_t index) {
        if (index < list.size()) {
            const Box3 box = box_of(polygon);
            Crossing crossing;
            for (; index < list.size(); ++index)
                if (reaches_into(polygon, box, others_[size_t(list[index])], crossing))
                    return divide(polygon, list, index, crossing);
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
            if (others_[size_t(list[i])].cell->box.touches(box)) near.push_back(list[i]);
        return clip(part, near, 0);
    }

    Fate keep(const Polygon& polygon, bool kept) {
        if (kept) out_.push_back(polygon);
        return kept ? Fate::kept : Fate::dropped;
    }

    /// Whether some part of the polygon can lie in the other brush, or on the shared face that counts so.
    bool reaches_into(const Polygon& polygon, const Box3& box, const Touching& other,
                      Crossing& crossing) const {
        if (!box.touches(other.cell->box)) return false;
        if (!other.later)
            for (const auto& face : other.cell->faces)
                if (face.polygon.support == polygon.support) return false;
        if (lies_outside(*other.cell, box)) return false;
        crossing.planes.clear();
        for (const auto& face : other.cell->faces) {
            const PlaneRef plane = face.polygon.support;
            if (plane.id == polygon.support.id || planes_.side(box, plane) == Side::back) continue;
            CornerSides sides = sides_of(polygon, plane, planes_);
            if (!sides.back) return false;
            if (!sides.front) continue; // nor is any part of it before this plane
            if (crossing.planes.empty()) crossing.sides = std::move(sides);
            crossing.planes.push_back(plane);
        }
        return true;
    }

    /// Whether a box lies before one of a cell's planes, as most of what is near a round one does.
    bool lies_outside(const PreparedCell& cell, const Box3& box) const {
        return std::any_of(cell.faces.begin(), cell.faces.end(), [&](const auto& face) {
            return planes_.side(box, face.polygon.support) == Side::front;
        });
    }

    Fate divide(const Polygon& polygon, const List& list, size_t index, const Crossing& crossing) {
        const Touching& other = others_[size_t(list[index])];
        const size_t mark = out_.size();
        bool any_kept = false, any_dropped = false;
        auto note = [&](Fate fate) {
            any_kept |= fate != Fate::dropped;
            any_dropped |= fate != Fate::kept;
        };
        Polygon rest = polygon;
        bool something_inside = true;
        for (size_t i = 0; i < crossing.planes.size(); ++i) {
            const PlaneRef plane = crossing.planes[i];
            const CornerSides sides = i == 0 ? crossing.sides : sides_of(rest, plane, planes_);
            if (!sides.front) continue;
            if (!sides.back) {
                note(clip_part(rest, list, index + 1));
                something_inside = false;
                break;
            }
            Halves halves = split(rest, sides, plane, planes_);
            note(clip_part(halves.front, list, index + 1));
            rest = std::move(halves.back);
        }
        if (something_inside) {
            const bool outer_filled = other.effect == Effect::fill;
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
    std::span<const Touching> others_;
    std::vector<Polygon>& out_;
};

} // namespace

bool may_hold(const PreparedCell& cell, const Polygon& polygon, const PlaneTable& planes) {
    return std::all_of(cell.faces.begin(), cell.faces.end(), [&](const PreparedCell::Face& face) {
        const PlaneRef plane = face.polygon.support;
        return plane.id == polygon.support.id ||
               std::any_of(polygon.edges.begin(), polygon.edges.end(),
                           [&](const auto& edge) { return planes.side(edge.start, plane) == Side::back; });
    });
}

std::vector<Polygon> clipped_face(const Polygon& polygon, Effect effect, std::span<const Touching> others,
                                  const PlaneTable& planes) {
    std::vector<Polygon> out;
    FaceClipper(planes, effect, others, out).clip(polygon);
    return out;
}

std::vector<Strip> strips_of(const Polygon& polygon, std::span<const int32_t> cuts,
                             const PlaneTable& planes) {
    std::vector<Strip> out;
    Polygon rest = polygon;
    for (size_t i = 0; i < cuts.size(); ++i) {
        const CornerSides sides = sides_of(rest, {cuts[i], false}, planes);
        if (!sides.back) continue;
        if (!sides.front) {
            out.push_back({std::move(rest), i});
            return out;
        }
        Halves halves = split(rest, sides, {cuts[i], false}, planes);
        out.push_back({std::move(halves.back), i});
        rest = std::move(halves.front);
    }
    out.push_back({std::move(rest), cuts.size()});
    return out;
}

} // namespace rubble::build
