#include <algorithm>
#include <cmath>

#include "base/angle.h"
#include "level/shapes/body_maker.h"
#include "level/shapes/kinds.h"

namespace rubble::shapes {

namespace {

/// Rings of points about the middle line of a bend, one ring after the other, and the quads between them.
class PipeMesh {
public:
    explicit PipeMesh(const Brush& brush)
        : brush_(brush),
          sides_(brush.sides),
          pieces_(brush.steps),
          angle_deg_(std::abs(brush.angle_deg)),
          closed_(angle_deg_ >= 360),
          rings_(closed_ ? pieces_ : pieces_ + 1) {}

    FaceMesh made() {
        const double outer = brush_.size.z / 2;
        const bool bored = brush_.thickness_m > 0;
        add_rings(outer);
        add_wall(0, false);
        if (bored) {
            add_rings(outer - brush_.thickness_m);
            add_wall(rings_ * sides_, true);
        }
        if (!closed_) add_ends(bored);
        if (brush_.angle_deg < 0) mirror();
        return std::move(mesh_);
    }

private:
    int point(int first, int ring, int side) const {
        return first + (ring % rings_) * sides_ + side % sides_;
    }
    void add_rings(double radius) {
        const double middle = brush_.size.x / 2 - brush_.size.z / 2;
        for (int ring = 0; ring < rings_; ++ring) {
            const auto [c, s] = cos_sin(angle_deg_ * ring / pieces_);
            for (int side = 0; side < sides_; ++side) {
                const auto [out, up] = cos_sin(360.0 * (side - 0.5) / sides_);
                const double from_axis = middle + out * radius;
                mesh_.points.push_back({c * from_axis, s * from_axis * brush_.size.y / brush_.size.x,
                                        brush_.size.z / 2 + up * radius});
            }
        }
    }
    void add_wall(int first, bool inward) {
        for (int ring = 0; ring < pieces_; ++ring)
            for (int side = 0; side < sides_; ++side) {
                FaceMesh::Loop quad{point(first, ring, side), point(first, ring + 1, side),
                                    point(first, ring + 1, side + 1), point(first, ring, side + 1)};
                if (inward) std::swap(quad[1], quad[3]);
                mesh_.faces.push_back(std::move(quad));
            }
    }
    /// One that bends clockwise.
    void mirror() {
        for (Vec3& p : mesh_.points) p.y = -p.y;
        for (FaceMesh::Loop& loop : mesh_.faces) std::reverse(loop.begin(), loop.end());
    }
    void add_ends(bool bored) {
        const int inner = rings_ * sides_;
        FaceMesh::Loop begin, end;
        for (int side = 0; side < sides_; ++side) {
            if (!bored) {
                begin.push_back(point(0, 0, side)), end.push_back(point(0, pieces_, sides_ - 1 - side));
                continue;
            }
            mesh_.faces.push_back(
                {point(0, 0, side), point(0, 0, side + 1), point(inner, 0, side + 1), point(inner, 0, side)});
            mesh_.faces.push_back({point(0, pieces_, side + 1), point(0, pieces_, side),
                                   point(inner, pieces_, side), point(inner, pieces_, side + 1)});
        }
        if (!bored) mesh_.faces.push_back(std::move(begin)), mesh_.faces.push_back(std::move(end));
    }

    const Brush& brush_;
    int sides_, pieces_;
    double angle_deg_;
    bool closed_;
    int rings_;
    FaceMesh mesh_;
};

/// Whether its tube leaves the middle free, and its bore a wall.
bool is_sound_pipe(const Brush& brush) {
    const double tube = brush.size.z, across = std::min(brush.size.x, brush.size.y);
    const int rings = brush.steps + 1;
    const double angle_deg = std::abs(brush.angle_deg);
    return angle_deg > 0 && angle_deg <= 360 && angle_deg / brush.steps <= 120 && tube >= 0.02 &&
           2 * tube <= across - 0.02 && brush.thickness_m >= 0 && brush.thickness_m <= tube / 2 - 0.01 &&
           rings * brush.sides * (brush.thickness_m > 0 ? 2 : 1) <= int(most_points);
}

BrushBody body_of_pipe(const Brush& brush) {
    const FaceMesh mesh = PipeMesh(brush).made();
    std::vector<FaceName> names; // piece by piece along the bend, its wall, its bore, its ends
    for (size_t f = 0; f < mesh.faces.size(); ++f) names.push_back({FacePart::side, int(f)});
    return concave_body(brush, mesh, names);
}

std::string problem_of_pipe(const Brush& brush) { return is_sound_pipe(brush) ? "" : "thickness_m"; }

} // namespace

/// Straight pieces of a tube that turns about the middle of the base; with a thickness, a bored one.
ShapeKind pipe() {
    return {.shape = Shape::pipe,
            .key = "pipe",
            .word = "pipe bend",
            .numbers = {k_sides, k_steps, k_angle, k_thickness},
            .body = body_of_pipe,
            .problem = problem_of_pipe};
}

} // namespace rubble::shapes
