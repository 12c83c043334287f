#include "build/prepared_brush.h"

#include <algorithm>
#include <span>

#include "build/body_cells.h"
#include "build/room.h"

namespace rubble::build {

using geometry::CanonicalPlane;
using geometry::PlaneRef;
using geometry::PlaneTable;

namespace {

using Face = BrushBody::Face;

/// Calls `visit` with the faces of every convex part of a body.
template <class F> void for_each_cell(const BrushBody& body, F visit) {
    if (!body.bounds.empty()) return;
    if (body.cells.empty()) visit(std::span<const Face>(body.faces));
    for (const auto& cell : body.cells) visit(std::span<const Face>(cell));
}

/// Twice the area of a loop, along its outward normal; only its direction matters.
Vec3 area_of(const BrushBody& body, const std::vector<int>& loop) {
    const Vec3 first = geometry::to_metres(body.points[size_t(loop[0])]);
    Vec3 sum(0);
    for (size_t i = 1; i + 1 < loop.size(); ++i)
        sum += glm::cross(geometry::to_metres(body.points[size_t(loop[i])]) - first,
                          geometry::to_metres(body.points[size_t(loop[i + 1])]) - first);
    return sum;
}

CanonicalPlane plane_of(const BrushBody& body, const Face& face) {
    if (face.plane >= 0) {
        CanonicalPlane found = geometry::canonical(body.planes[size_t(face.plane)]);
        const Vec3 normal(double(found.plane.nx), double(found.plane.ny), double(found.plane.nz));
        found.flipped = glm::dot(normal, area_of(body, face.loop)) < 0;
        return found;
    }
    // Three corners far apart: where a face is only nearly plane, its plane leans the least.
    const auto& loop = face.loop;
    const auto corner = [&](size_t part) { return body.points[size_t(loop[part * loop.size() / 3])]; };
    return geometry::canonical(geometry::plane_through(corner(0), corner(1), corner(2)));
}

PreparedCell prepare_cell(std::span<const Face> faces, std::span<const PlaneRef> refs,
                          const PlaneTable& planes) {
    PreparedCell out;
    // Bodies of many cells have many points, each cell but a few of them.
    boost::container::small_vector<int, 64> points;
    for (const Face& face : faces) points.insert(points.end(), face.loop.begin(), face.loop.end());
    std::sort(points.begin(), points.end());
    points.erase(std::unique(points.begin(), points.end()), points.end());
    auto number_of = [&](int point) {
        return size_t(std::lower_bound(points.begin(), points.end(), point) - points.begin());
    };
    boost::container::small_vector<int, 256> face_of_edge(points.size() * points.size(), -1); // by its ends
    auto edge_at = [&](int from, int to) -> int& {
        return face_of_edge[number_of(from) * points.size() + number_of(to)];
    };
    for (size_t f = 0; f < faces.size(); ++f) {
        const auto& loop = faces[f].loop;
        for (size_t i = 0; i < loop.size(); ++i) edge_at(loop[i], loop[(i + 1) % loop.size()]) = int(f);
    }
    const auto body = std::make_shared<geometry::ConvexCell>();
    body->faces.reserve(faces.size()), out.faces.reserve(faces.size());
    for (size_t f = 0; f < faces.size(); ++f) {
        const auto& loop = faces[f].loop;
        PreparedCell::Face face{{refs[f], {}}, faces[f].side, {}, {}};
        geometry::ConvexCell::Face cell_face;
        for (size_t i = 0; i < loop.size(); ++i) {
            const int before = loop[(i + loop.size() - 1) % loop.size()], here = loop[i],
                      after = loop[(i + 1) % loop.size()];
            const int32_t in = refs[size_t(edge_at(here, before))].id;
            const int32_t outgoing = refs[size_t(edge_at(after, here))].id;
            face.polygon.edges.push_back({planes.meet(refs[f].id, in, outgoing), outgoing});
            // Where the planes meet, which of a tipped round shape is up to a tick from the body's corner.
            cell_face.loop.push_back(geometry::to_metres(planes.rounded(face.polygon.edges.back().start)));
            out.box.add(cell_face.loop.back());
        }
        face.box = box_of(face.polygon);
        const Vec3 normal = planes.normal(refs[f]);
        cell_face.plane = {normal, -glm::dot(normal, cell_face.loop[0])};
        out.faces.push_back(std::move(face));
        body->faces.push_back(std::move(cell_face));
    }
    out.cell = body;
    return out;
}

} // namespace

std::vector<CanonicalPlane> planes_of(const BrushBody& body) {
    std::vector<CanonicalPlane> found;
    for_each_cell(body, [&](std::span<const Face> faces) {
        for (const Face& face : faces) found.push_back(plane_of(body, face));
    });
    for (const Face& face : body.bounds) found.push_back(plane_of(body, face));
    return found;
}

BodyPlanes added(const std::vector<CanonicalPlane>& found, const BrushBody& body, PlaneTable& planes) {
    BodyPlanes refs;
    refs.reserve(found.size());
    for (const CanonicalPlane& plane : found) refs.push_back(planes.add(plane));
    if (!body.bounds.empty()) add_planes_around(body, planes, refs);
    return refs;
}

PreparedBrush prepare(Effect effect, const BrushBody& body, const BodyPlanes& refs,
                      const PlaneTable& planes) {
    PreparedBrush out;
    out.effect = effect;
    size_t first = 0;
    for_each_cell(body, [&](std::span<const Face> faces) {
        out.cells.push_back(prepare_cell(faces, std::span(refs).subspan(first, faces.size()), planes));
        out.box.add(out.cells.back().box);
        first += faces.size();
    });
    for (PreparedCell& cell : cells_of(body, refs, planes)) {
        out.box.add(cell.box);
        out.cells.push_back(std::move(cell));
    }
    return out;
}

PreparedBrush less(PreparedBrush brush, const PreparedBrush& cut, const Brush& cutter,
                   const PlaneTable& planes) {
    const auto material =
        cutter.material.empty() ? nullptr : std::make_shared<const MaterialId>(cutter.material);
    for (const PreparedCell& taken : cut.cells) {
        std::vector<PreparedCell> left;
        for (const PreparedCell& cell : brush.cells)
            for (PreparedCell& piece : less(cell, taken, material, planes)) left.push_back(std::move(piece));
        brush.cells = std::move(left);
    }
    brush.box = {};
    for (const PreparedCell& cell : brush.cells) brush.box.add(cell.box);
    return brush;
}

} // namespace rubble::build
