#include <cmath>
#include <map>

#include "level/mass_body.h"
#include "level/shapes/body_maker.h"
#include "level/shapes/kinds.h"

namespace rubble::shapes {

namespace {

using geometry::Plane;
using geometry::TickPoint;

std::array<int64_t, 3> cross(const TickPoint& a, const TickPoint& b) {
    return {a.y * b.z - a.z * b.y, a.z * b.x - a.x * b.z, a.x * b.y - a.y * b.x};
}

__int128 dot(const std::array<int64_t, 3>& n, const TickPoint& p) {
    return __int128(n[0]) * p.x + __int128(n[1]) * p.y + __int128(n[2]) * p.z;
}

/// The grid of a mass in the level: every corner of a cell is a whole tick, and so every plane of the grid is
/// exact, however the mass is turned.
class Lattice {
public:
    Lattice(const Placement& place, double cell_m)
        : origin_(geometry::to_ticks(place.at)),
          x_(geometry::to_ticks(place.direction({cell_m, 0, 0}))),
          y_(geometry::to_ticks(place.direction({0, cell_m, 0}))),
          z_(geometry::to_ticks(place.direction({0, 0, cell_m}))),
          normals_{cross(y_, z_), cross(z_, x_), cross(x_, y_)} {}

    TickPoint at(const Vec3& p) const {
        const auto part = [&](int64_t origin, int64_t x, int64_t y, int64_t z) {
            return origin + std::llround(p.x * double(x) + p.y * double(y) + p.z * double(z));
        };
        return {part(origin_.x, x_.x, y_.x, z_.x), part(origin_.y, x_.y, y_.y, z_.y),
                part(origin_.z, x_.z, y_.z, z_.z)};
    }
    /// Cells c and the normals of the axes make n·p = d·(volume of a cell) + n·origin.
    Plane plane(const CellPlane& cells) const {
        std::array<int64_t, 3> n{};
        for (size_t i = 0; i < 3; ++i)
            n[i] = cells.a * normals_[0][i] + cells.b * normals_[1][i] + cells.c * normals_[2][i];
        return {n[0], n[1], n[2], -(cells.d * dot(normals_[2], z_) + dot(n, origin_))};
    }

private:
    TickPoint origin_, x_, y_, z_;
    std::array<std::array<int64_t, 3>, 3> normals_;
};

/// A convex part of a mass in cells: corners, and faces by them.
struct Hull {
    struct Face {
        Loop loop; ///< counter-clockwise seen from outside
        CellPlane plane;
    };
    std::vector<Vec3> points;
    std::vector<Face> faces;
};

Hull hull_of(const CellBox& box) {
    const auto &l = box.low, &h = box.high;
    Hull hull;
    for (int i = 0; i < 8; ++i)
        hull.points.push_back({i & 1 ? h[0] : l[0], i >> 1 & 1 ? h[1] : l[1], i >> 2 ? h[2] : l[2]});
    hull.faces = {{{0, 4, 6, 2}, {-1, 0, 0, -l[0]}}, {{1, 3, 7, 5}, {1, 0, 0, h[0]}},
                  {{0, 1, 5, 4}, {0, -1, 0, -l[1]}}, {{2, 6, 7, 3}, {0, 1, 0, h[1]}},
                  {{0, 2, 3, 1}, {0, 0, -1, -l[2]}}, {{4, 5, 7, 6}, {0, 0, 1, h[2]}}};
    return hull;
}

/// The part of a hull behind a plane. Corners have denominators below 2^14 and coefficients are as small, so
/// what lies nearer to a plane than this lies in it.
constexpr double k_on = 1e-6;

void clip(Hull& hull, const CellPlane& plane) {
    std::vector<double> over;
    bool any_out = false, any_in = false;
    for (const Vec3& p : hull.points) {
        over.push_back(plane.a * p.x + plane.b * p.y + plane.c * p.z - double(plane.d));
        if (std::abs(over.back()) < k_on) over.back() = 0;
    }
    for (const auto& face : hull.faces)
        for (const int i : face.loop) any_out |= over[size_t(i)] > 0, any_in |= over[size_t(i)] < 0;
    if (!any_in) hull.faces.clear();
    if (!any_out || !any_in) return;
    std::map<std::pair<int, int>, int> cuts; // of edges
    const auto cut = [&](int a, int b) {
        if (a > b) std::swap(a, b);
        const auto [place, added] = cuts.try_emplace({a, b}, int(hull.points.size()));
        if (added) {
            const double t = over[size_t(a)] / (over[size_t(a)] - over[size_t(b)]);
            const Vec3 p = hull.points[size_t(a)], q = hull.points[size_t(b)];
            hull.points.push_back(p + (q - p) * t);
            over.push_back(0);
        }
        return place->second;
    };
    std::map<int, int> lid; // its corners by the ones before them
    std::vector<Hull::Face> kept;
    for (const auto& face : hull.faces) {
        Loop loop;
        bool inside = false;
        for (size_t i = 0; i < face.loop.size(); ++i) {
            const int here = face.loop[i], next = face.loop[(i + 1) % face.loop.size()];
            inside |= over[size_t(here)] < 0;
            if (over[size_t(here)] <= 0) loop.push_back(here);
            if (over[size_t(here)] * over[size_t(next)] < 0) loop.push_back(cut(here, next));
        }
        if (!inside) continue;
        for (size_t i = 0; i < loop.size(); ++i) {
            const int here = loop[i], next = loop[(i + 1) % loop.size()];
            if (over[size_t(here)] == 0 && over[size_t(next)] == 0) lid[next] = here;
        }
        kept.push_back({std::move(loop), face.plane});
    }
    Hull::Face top{{}, plane};
    for (int i = lid.begin()->first; top.loop.size() < lid.size(); i = lid.at(i)) top.loop.push_back(i);
    kept.push_back(std::move(top));
    hull.faces = std::move(kept);
}

/// A part's corners and faces; no faces where its planes leave nothing of it.
Hull hull_of(const MassPart& part) {
    Hull hull = hull_of(part.box);
    for (const CellPlane& plane : part.planes) clip(hull, plane);
    if (hull.faces.size() < 4) hull.faces.clear();
    return hull;
}

} // namespace

FaceMesh mass_part(const MassPart& part, double cell_m) {
    const Hull hull = hull_of(part);
    FaceMesh mesh;
    std::map<int, int> points;
    for (const Hull::Face& face : hull.faces) {
        FaceMesh::Loop loop;
        for (const int i : face.loop) {
            const auto [point, is_new] = points.try_emplace(i, int(mesh.points.size()));
            if (is_new) mesh.points.push_back(hull.points[size_t(i)] * cell_m);
            loop.push_back(point->second);
        }
        mesh.faces.push_back(std::move(loop));
    }
    return mesh;
}

namespace {

BrushBody body_of_mass(const Brush& brush) {
    const Lattice lattice(brush.place, brush.cells.cell_m);
    BrushBody body;
    std::map<CellPlane, int> planes;
    for (const MassPart& part : parts_of(brush.cells)) {
        const Hull hull = hull_of(part);
        if (hull.faces.empty()) continue;
        std::map<int, int> points;
        std::vector<BrushBody::Face> faces;
        for (const Hull::Face& face : hull.faces) {
            const auto [place, added] = planes.try_emplace(face.plane, int(body.planes.size()));
            if (added) body.planes.push_back(lattice.plane(face.plane));
            BrushBody::Face out{{}, side_towards({face.plane.a, face.plane.b, face.plane.c}), place->second};
            for (const int i : face.loop) {
                const auto [point, is_new] = points.try_emplace(i, int(body.points.size()));
                if (is_new) body.points.push_back(lattice.at(hull.points[size_t(i)]));
                out.loop.push_back(point->second);
            }
            faces.push_back(std::move(out));
        }
        body.cells.push_back(std::move(faces));
    }
    return body;
}

std::string problem_of_mass(const Brush& brush) {
    if (brush.cells.empty()) return "cells";
    return brush.cells.cell_m >= least_cell_m && brush.cells.cell_m <= most_cell_m ? "" : "cell_m";
}

Box3 box_of_mass(const Brush& brush) {
    const CellBox cells = brush.cells.extent();
    const auto at = [&](const std::array<int, 3>& c) { return Vec3(c[0], c[1], c[2]) * brush.cells.cell_m; };
    return {at(cells.low), at(cells.high)};
}

} // namespace

/// One cell for each convex part of its matter. Its body has no `faces`: only cells.
ShapeKind mass() {
    return {.shape = Shape::mass,
            .key = "mass",
            .word = "mass",
            .data = ShapeData::cells,
            .body = body_of_mass,
            .problem = problem_of_mass,
            .own_box = box_of_mass};
}

} // namespace rubble::shapes
