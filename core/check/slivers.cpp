#include "check/slivers.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <optional>
#include <set>

#include "base/tolerance.h"
#include "build/surface_builder.h"
#include "build/whole_faces.h"
#include "geometry/convex_area.h"
#include "level/brush_shape.h"

namespace rubble::check {

namespace {

/// Twice a polygon's area by the way around it: of a strip its width.
double width_m(const std::vector<Vec3>& ring) {
    Vec3 twice(0);
    double around = 0;
    for (size_t i = 0; i < ring.size(); ++i) {
        const Vec3 &a = ring[i], &b = ring[(i + 1) % ring.size()];
        twice += glm::cross(a - ring[0], b - ring[0]);
        around += glm::length(b - a);
    }
    return around > 0 ? glm::length(twice) / around : 0;
}

double width_m(const build::Polygon& polygon) {
    std::vector<Vec3> ring;
    for (const auto& edge : polygon.edges) ring.push_back(edge.start.at / geometry::ticks_per_metre);
    return width_m(ring);
}

/// Whether a brush has such narrow faces even where nothing touches it.
bool is_thin_by_itself(const Brush& brush) {
    const BrushBody body = body_of(brush);
    return std::any_of(body.faces.begin(), body.faces.end(), [&](const BrushBody::Face& face) {
        std::vector<Vec3> ring;
        for (const int p : face.loop) ring.push_back(geometry::to_metres(body.points[size_t(p)]));
        return width_m(ring) < sliver_m;
    });
}

/// A narrow piece of a face; it may be part of a wide one.
struct Piece {
    int32_t plane;
    Box3 box;
};
using Pieces = std::map<int, std::vector<Piece>>; ///< by brush

Pieces narrow_pieces(const Level& level, const build::Solid& solid) {
    Pieces out;
    for (size_t b = 0; b < solid.brushes.size(); ++b)
        for (const auto& part : solid.brushes[b]->parts)
            for (const build::FacePiece& piece : part->pieces)
                if (width_m(piece.polygon) < sliver_m)
                    out[int(b)].push_back({piece.polygon.support.id, box_of(piece.polygon)});
    std::erase_if(out, [&](const auto& own) {
        const Item* item = find_item(level, solid.brushes[size_t(own.first)]->item);
        // The faces of a mass are its cells'.
        return !item || !item->brush() || item->brush()->shape == Shape::mass ||
               is_thin_by_itself(*item->brush());
    });
    return out;
}

/// The brushes around some pieces, with their numbers in the whole solid.
struct Surroundings {
    build::Solid solid;
    std::vector<int> numbers;
};

Surroundings around(const Pieces& pieces, const build::Solid& solid) {
    std::vector<Box3> boxes;
    for (const auto& [brush, own] : pieces)
        for (const Piece& piece : own) boxes.push_back(piece.box.grown(1e-3));
    Surroundings out;
    std::vector<std::shared_ptr<const build::BrushSolid>> near;
    for (size_t b = 0; b < solid.brushes.size(); ++b) {
        const Box3& own = solid.brushes[b]->box;
        if (std::none_of(boxes.begin(), boxes.end(), [&](const Box3& box) { return box.touches(own); }))
            continue;
        near.push_back(solid.brushes[b]);
        out.numbers.push_back(int(b));
    }
    out.solid.planes = solid.planes;
    out.solid.brushes = SharedList(near);
    return out;
}

/// Some other brush with a face at the sliver.
int beside(const build::Solid& solid, const std::vector<int>& own, const Box3& box) {
    for (size_t b = 0; b < solid.brushes.size(); ++b) {
        if (!solid.brushes[b]->box.touches(box) || std::find(own.begin(), own.end(), int(b)) != own.end())
            continue;
        for (const auto& part : solid.brushes[b]->parts)
            for (const build::FacePiece& piece : part->pieces)
                if (box_of(piece.polygon).touches(box)) return int(b);
    }
    return -1;
}

} // namespace

namespace {

std::vector<Sliver> narrow_faces(const Level& level, const build::Solid& solid) {
    const Pieces pieces = narrow_pieces(level, solid);
    if (pieces.empty()) return {};
    const Surroundings near = around(pieces, solid);
    std::vector<Sliver> out;
    std::set<std::pair<int, int>> seen;
    for (const build::WholeFace& face : whole_faces_of(build::surface_of(near.solid))) {
        if (face.rings.empty() || face.width_m() >= sliver_m) continue;
        const Box3 box = face.box();
        for (const int local : face.brushes) {
            const auto own = pieces.find(near.numbers[size_t(local)]);
            if (own == pieces.end() ||
                std::none_of(own->second.begin(), own->second.end(), [&](const Piece& piece) {
                    return piece.plane == face.plane && piece.box.touches(box);
                }))
                continue;
            const int other = beside(near.solid, face.brushes, box);
            const Sliver sliver{Sliver::Kind::face, own->first, other < 0 ? -1 : near.numbers[size_t(other)],
                                face.width_m(), box.middle()};
            if (seen.insert(std::minmax(sliver.brush, sliver.beside)).second) out.push_back(sliver);
            break;
        }
    }
    return out;
}

/// A piece of a face with its plane, the offset along the plane's own normal.
struct Placed {
    const build::FacePiece* piece;
    int brush;
    double along_m;
    Vec3 normal; ///< outward
};

/// Pieces of faces by the normals of their planes, but for the rounding of turned corners: parallel ones
/// stand together, in order.
using Stacks = std::map<std::array<int64_t, 3>, std::vector<Placed>>;

Stacks stacks_of(const build::Solid& solid) {
    Stacks out;
    for (size_t b = 0; b < solid.brushes.size(); ++b)
        for (const auto& part : solid.brushes[b]->parts)
            for (const build::FacePiece& piece : part->pieces) {
                const auto support = piece.polygon.support;
                const Vec3 normal = solid.planes->normal({support.id, false});
                const double sign = support.flipped != piece.reversed ? -1 : 1;
                constexpr double k_steps = 1e4;
                const auto step = [&](int axis) { return int64_t(std::llround(normal[axis] * k_steps)); };
                out[{step(0), step(1), step(2)}].push_back(
                    {&piece, int(b),
                     glm::dot(normal, piece.polygon.edges[0].start.at) / geometry::ticks_per_metre,
                     normal * sign});
            }
    for (auto& [normal, stack] : out)
        std::sort(stack.begin(), stack.end(),
                  [](const Placed& a, const Placed& b) { return a.along_m < b.along_m; });
    return out;
}

/// A piece seen along an axis, counter-clockwise.
geometry::ConvexArea seen_along(const build::Polygon& polygon, int axis) {
    geometry::ConvexArea out;
    for (const auto& edge : polygon.edges) {
        const Vec3 p = edge.start.at / geometry::ticks_per_metre;
        out.push_back(axis == 0 ? Vec2(p.y, p.z) : axis == 1 ? Vec2(p.z, p.x) : Vec2(p.x, p.y));
    }
    if (geometry::area_of(out) < 0) std::reverse(out.begin(), out.end());
    return out;
}

/// Where two parallel pieces lie behind each other; nothing where hardly anything of them does.
std::optional<Vec3> facing_at(const Placed& a, const Placed& b) {
    constexpr double k_least_m2 = 1e-4;
    const Vec3 size = glm::abs(a.normal);
    const int axis = size.x >= size.y && size.x >= size.z ? 0 : size.y >= size.z ? 1 : 2;
    const auto both =
        geometry::common(seen_along(a.piece->polygon, axis), seen_along(b.piece->polygon, axis));
    if (both.empty() || geometry::area_of(both) < k_least_m2) return {};
    const Vec2 middle = geometry::middle_of(both);
    Vec3 at;
    at[axis] = 0, at[(axis + 1) % 3] = middle.x, at[(axis + 2) % 3] = middle.y;
    // On the plane of the first.
    const Vec3 on = a.piece->polygon.edges[0].start.at / geometry::ticks_per_metre;
    at[axis] = glm::dot(a.normal, on - at) / a.normal[axis];
    return at;
}

/// Faces that look at each other, or away from each other, from so near. What is exact in ticks is no sliver.
std::vector<Sliver> close_faces(const build::Solid& solid) {
    std::vector<Sliver> out;
    std::set<std::array<int, 3>> seen;
    for (const auto& [way, stack] : stacks_of(solid))
        for (size_t i = 0; i < stack.size(); ++i)
            for (size_t k = i + 1; k < stack.size(); ++k) {
                const Placed &a = stack[i], &b = stack[k];
                const double apart = b.along_m - a.along_m;
                if (apart >= sliver_m) break;
                // A brush that is thin by itself is meant so.
                if (apart < tolerance::on_each_other_m || a.brush == b.brush ||
                    glm::dot(a.normal, b.normal) > 0)
                    continue;
                const std::pair<int, int> pair = std::minmax(a.brush, b.brush);
                const Vec3 up{double(way[0]), double(way[1]), double(way[2])};
                const auto kind = glm::dot(a.normal, up) > 0 ? Sliver::Kind::gap : Sliver::Kind::wall;
                if (seen.contains({int(kind), pair.first, pair.second})) continue;
                const auto at = facing_at(a, b);
                if (!at) continue;
                seen.insert({int(kind), pair.first, pair.second});
                out.push_back({kind, a.brush, b.brush, apart, *at});
            }
    return out;
}

} // namespace

std::vector<Sliver> slivers_of(const Level& level, const build::Solid& solid) {
    std::vector<Sliver> out = narrow_faces(level, solid);
    const std::vector<Sliver> close = close_faces(solid);
    out.insert(out.end(), close.begin(), close.end());
    return out;
}

} // namespace rubble::check
