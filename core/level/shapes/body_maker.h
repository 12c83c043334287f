#pragma once

#include <array>
#include <functional>
#include <map>
#include <optional>
#include <vector>

#include "level/brush_shape.h"
#include "level/face_mesh.h"

namespace rubble::shapes {

// What the bodies of several shapes are made with.

using Loop = FaceMesh::Loop;

inline geometry::TickPoint operator+(const geometry::TickPoint& a, const geometry::TickPoint& b) {
    return {a.x + b.x, a.y + b.y, a.z + b.z};
}

/// The side of the base box to which a direction in the brush's own axes looks most.
BoxSide side_towards(const Vec3& own);
/// The same for the right side of an edge in plan, run counter-clockwise round a base.
inline BoxSide side_of_edge(Vec2 a, Vec2 b) { return side_towards({b.y - a.y, a.x - b.x, 0}); }

/// Puts bodies of several cells together. Faces of neighbouring cells that lie in one plane name it by the
/// same corners, so that they do so exactly, however the brush is turned and its corners rounded.
class BodyMaker {
public:
    /// `mirrored`: what is made is seen in the own plane y = 0.
    explicit BodyMaker(const Brush& brush, bool mirrored = false) : brush_(brush), mirrored_(mirrored) {}

    /// The number of a new corner.
    int point(const Vec3& own) { return point(geometry::to_ticks(brush_.place.to_level(seen(own)))); }
    /// The number of a new corner.
    int point(const geometry::TickPoint& at) {
        body_.points.push_back(at);
        return int(body_.points.size()) - 1;
    }
    const geometry::TickPoint& at(int point) const { return body_.points[size_t(point)]; }
    /// A way in own axes as whole ticks in the level.
    geometry::TickPoint way(const Vec3& own) const {
        return geometry::to_ticks(brush_.place.direction(seen(own)));
    }

    /// The plane through three points, the same for the same points.
    int plane(int a, int b, int c) {
        const auto [place, added] = planes_.try_emplace({a, b, c}, int(body_.planes.size()));
        if (added) body_.planes.push_back(geometry::plane_through(at(a), at(b), at(c)));
        return place->second;
    }
    /// The faces that follow are those of a new cell.
    void begin_cell() { body_.cells.emplace_back(); }
    /// A face of the cell begun last; `plane` as `plane` gives it, -1: through its own corners.
    void cell_face(Loop loop, const NamedSide& side, int plane = -1) {
        body_.cells.back().push_back(seen(std::move(loop), side, plane));
    }
    /// A polygon that bounds a body which is cut up when it is built.
    void bound(Loop loop, const NamedSide& side, int plane) {
        body_.bounds.push_back(seen(std::move(loop), side, plane));
    }
    /// A face as it is seen from outside, whatever the cells.
    void seen_face(Loop loop, const NamedSide& side) {
        body_.faces.push_back(seen(std::move(loop), side, -1));
    }

    /// A cell over a ring of points, counter-clockwise seen against the way from `first` to `second`, which
    /// are the same ring twice; `ends` are the planes of the two.
    void prism(const Loop& first, const Loop& second, std::array<int, 2> ends,
               std::array<BoxSide, 2> end_sides, const std::vector<NamedSide>& sides) {
        begin_cell();
        cell_face(Loop(first.rbegin(), first.rend()), end_sides[0], ends[0]);
        cell_face(second, end_sides[1], ends[1]);
        const size_t n = first.size();
        for (size_t i = 0; i < n; ++i) {
            const size_t k = (i + 1) % n;
            cell_face({first[i], first[k], second[k], second[i]}, sides[i],
                      upright(first[i], first[k], second[i]));
        }
    }
    /// The body, which is taken out.
    BrushBody finish() { return std::move(body_); }

private:
    Vec3 seen(const Vec3& own) const { return mirrored_ ? Vec3(own.x, -own.y, own.z) : own; }
    BrushBody::Face seen(Loop loop, NamedSide side, int plane) const {
        if (mirrored_) {
            std::reverse(loop.begin(), loop.end());
            if (side == BoxSide::near || side == BoxSide::away)
                side.side = side == BoxSide::near ? BoxSide::away : BoxSide::near;
        }
        return {std::move(loop), side, plane};
    }

    /// Named alike from both sides.
    int upright(int a, int b, int up) {
        if (at(b) < at(a)) return plane(b, a, up);
        return plane(a, b, up);
    }

    const Brush& brush_;
    bool mirrored_;
    BrushBody body_;
    std::map<std::array<int, 3>, int> planes_;
};

/// Three points of a ring far from each other and from one line.
std::array<int, 3> far_corners(const BodyMaker& maker, const Loop& ring);
/// The plane through far corners of a ring.
int plane_of_ring(BodyMaker& maker, const Loop& ring);

/// Prisms over convex pieces of a profile that all stand on one plane and end in another, such as an outline.
struct Raised {
    BodyMaker maker;
    int count = 0; ///< of the points of the base; the others lie above them in the same order
    geometry::TickPoint way;

    Raised(const Brush& brush, const std::vector<Vec3>& base, const Vec3& up)
        : maker(brush),
          count(int(base.size())),
          way(maker.way(up)) {
        for (const Vec3& p : base) maker.point(p);
        for (int i = 0; i < count; ++i) maker.point(maker.at(i) + way);
    }
    /// The ring at the other end.
    Loop over(const Loop& ring) const {
        Loop out;
        for (const int i : ring) out.push_back(i + count);
        return out;
    }
    /// The prism over a convex ring of the base.
    void piece(const Loop& ring, std::array<int, 2> ends, std::array<BoxSide, 2> end_sides,
               const std::vector<NamedSide>& sides) {
        maker.prism(ring, over(ring), ends, end_sides, sides);
    }
    /// The faces of the prism over a ring as they are seen.
    void seen(const Loop& ring, std::array<BoxSide, 2> end_sides, const std::vector<NamedSide>& sides) {
        maker.seen_face(Loop(ring.rbegin(), ring.rend()), end_sides[0]);
        maker.seen_face(over(ring), end_sides[1]);
        for (size_t i = 0; i < ring.size(); ++i) {
            const int a = ring[i], b = ring[(i + 1) % ring.size()];
            maker.seen_face({a, b, b + count, a + count}, sides[i]);
        }
    }
};

/// The hull of the points of a body, which are its corners where it is convex. `name` says what a face is by
/// its normal and the middle of its corners.
BrushBody hull_of(const Brush& brush, const std::vector<Vec3>& own,
                  const std::function<FaceName(const Vec3& normal, const Vec3& middle)>& name);
/// Any closed body, in the brush's own axes, with a name for each face; bent faces as triangles.
BrushBody concave_body(const Brush& brush, const FaceMesh& mesh, const std::vector<FaceName>& names);

} // namespace rubble::shapes
