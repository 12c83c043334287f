#include "level/shapes/body_maker.h"
#include "base/tolerance.h"
#include "geometry/convex_hull.h"
#include <algorithm>
#include <cmath>

namespace rubble::shapes {

namespace {

/// Whether a face lies in the plane through three corners but for rounding.
bool is_plane(const std::vector<Vec3>& points, const Loop& loop, const std::array<int, 3>& through) {
    const Vec3 on = points[size_t(through[0])];
    const Vec3 normal =
        glm::normalize(glm::cross(points[size_t(through[1])] - on, points[size_t(through[2])] - on));
    return std::all_of(loop.begin(), loop.end(), [&](int i) {
        return std::abs(glm::dot(points[size_t(i)] - on, normal)) <= tolerance::rounding_m;
    });
}

/// For each face three corners of all the faces that lie in one plane with it, so that they name one plane:
/// with planes of their own, a rounding apart where a brush is turned, the rim of an opening would leave a
/// film across it.
std::vector<std::array<int, 3>> corners_of_planes(const BodyMaker& maker, const FaceMesh& mesh) {
    struct Group {
        Vec3 normal;
        double offset;
        Loop ring;
    };
    std::vector<Group> groups;
    std::vector<size_t> group_of;
    for (const Loop& loop : mesh.faces) {
        const Vec3 normal = glm::normalize(area_vector(mesh.points, loop));
        const double offset = glm::dot(normal, mesh.points[size_t(loop[0])]);
        const auto same = std::find_if(groups.begin(), groups.end(), [&](const Group& group) {
            return glm::dot(group.normal, normal) > 1 - tolerance::exactly_one_way &&
                   std::abs(group.offset - offset) < tolerance::exactly_one_plane_m;
        });
        group_of.push_back(size_t(same - groups.begin()));
        if (same == groups.end()) groups.push_back({normal, offset, {}});
        Loop& ring = groups[group_of.back()].ring;
        ring.insert(ring.end(), loop.begin(), loop.end());
    }
    std::vector<std::array<int, 3>> of_group, out;
    for (const Group& group : groups) of_group.push_back(far_corners(maker, group.ring));
    for (const size_t group : group_of) out.push_back(of_group[group]);
    return out;
}

} // namespace

BoxSide side_towards(const Vec3& own) {
    const Vec3 size = glm::abs(own);
    if (size.z >= size.x && size.z >= size.y) return own.z > 0 ? BoxSide::top : BoxSide::bottom;
    if (size.x >= size.y) return own.x > 0 ? BoxSide::right : BoxSide::left;
    return own.y > 0 ? BoxSide::away : BoxSide::near;
}

std::array<int, 3> far_corners(const BodyMaker& maker, const Loop& ring) {
    auto at = [&](int i) { return geometry::to_metres(maker.at(i)); };
    const Vec3 origin = at(ring[0]);
    int second = ring[1], third = ring[2];
    for (const int i : ring)
        if (glm::length(at(i) - origin) > glm::length(at(second) - origin)) second = i;
    auto area = [&](int i) { return glm::length(glm::cross(at(second) - origin, at(i) - origin)); };
    for (const int i : ring)
        if (area(i) > area(third)) third = i;
    return {ring[0], second, third};
}

int plane_of_ring(BodyMaker& maker, const Loop& ring) {
    const auto [a, b, c] = far_corners(maker, ring);
    return maker.plane(a, b, c);
}

BrushBody hull_of(const Brush& brush, const std::vector<Vec3>& own,
                  const std::function<FaceName(const Vec3& normal, const Vec3& middle)>& name) {
    BrushBody body;
    for (const Vec3& p : own) body.points.push_back(geometry::to_ticks(brush.place.to_level(p)));
    for (auto& loop : geometry::convex_hull(body.points)) {
        Vec3 normal(0);
        for (size_t i = 1; i + 1 < loop.size(); ++i)
            normal += glm::cross(own[size_t(loop[i])] - own[size_t(loop[0])],
                                 own[size_t(loop[i + 1])] - own[size_t(loop[0])]);
        const BoxSide side = side_towards(normal / brush.size);
        body.faces.push_back({loop, {side, name(glm::normalize(normal), middle_of(own, loop))}, -1});
    }
    return body;
}

BrushBody concave_body(const Brush& brush, const FaceMesh& mesh, const std::vector<FaceName>& names) {
    BodyMaker maker(brush);
    std::vector<Vec3> rounded;
    for (const Vec3& p : mesh.points) rounded.push_back(geometry::to_metres(maker.at(maker.point(p))));
    const auto shared = corners_of_planes(maker, mesh);
    for (size_t f = 0; f < mesh.faces.size(); ++f) {
        const Loop& loop = mesh.faces[f];
        const NamedSide side(side_towards(area_vector(mesh.points, loop) / brush.size), names[f]);
        maker.seen_face(loop, side);
        const auto through = is_plane(rounded, loop, shared[f]) ? shared[f] : far_corners(maker, loop);
        if (is_plane(rounded, loop, through))
            for (Loop& piece : convex_pieces(mesh.points, loop))
                maker.bound(std::move(piece), side, maker.plane(through[0], through[1], through[2]));
        else
            for (Loop& piece : triangles_of(mesh.points, loop)) maker.bound(std::move(piece), side, -1);
    }
    return maker.finish();
}

} // namespace rubble::shapes
