#pragma once

#include <array>
#include <memory>
#include <span>
#include <vector>

#include "build/solid.h"

namespace rubble::build {

/// A corner of a face and the edge that leads on from it.
struct SurfaceCorner {
    int point;
    /// Whether beyond the edge another face goes on in the same plane with the same material, so that both
    /// are one to the eye.
    bool inner;
    bool operator==(const SurfaceCorner&) const = default;
};

/// A face of the closed surface: a convex piece of a brush's face.
struct SurfaceFace {
    int first = 0, count = 0; ///< of its corners in the part
    Vec3 normal{0, 0, 1};
    int32_t plane = -1; ///< of the solid's planes
    NamedSide side;
    MaterialId material;
};

/// Faces that stay together from build to build, with their corners in whole ticks.
struct SurfacePart {
    std::vector<geometry::TickPoint> points; ///< each once
    std::vector<SurfaceCorner> corners;
    std::vector<SurfaceFace> faces;
    Box3 box; ///< metres

    /// Counter-clockwise seen from outside; corners may lie on straight edges.
    std::span<const SurfaceCorner> loop(const SurfaceFace& face) const {
        return std::span(corners).subspan(size_t(face.first), size_t(face.count));
    }
    /// A corner in metres.
    Vec3 point_m(int index) const { return geometry::to_metres(points[size_t(index)]); }
};

using BrushSurface = std::vector<std::shared_ptr<const SurfacePart>>;

/// The closed surface of a solid: every directed edge has as many opposites as copies, its ends compared
/// tick for tick, within a part and across parts. Faces look outward, away from matter.
struct Surface {
    SharedList<std::shared_ptr<const BrushSurface>> brushes; ///< in the order of the solid's
};

/// Calls `visit(brush, part, face)` for every face, `brush` an index into the solid's brushes.
template <class F> void for_each_face(const Surface& surface, F visit) {
    for (size_t b = 0; b < surface.brushes.size(); ++b)
        for (const auto& part : *surface.brushes[b])
            for (const SurfaceFace& face : part->faces) visit(int(b), *part, face);
}

struct SurfaceFacts {
    double volume_m3 = 0;
    double area_m2 = 0;
    size_t faces = 0;      ///< one for each connected area in one plane with one material
    size_t pieces = 0;     ///< the convex faces they are made of
    size_t open_edges = 0; ///< directed edges without an opposite
};
/// Counts and measures the whole surface.
SurfaceFacts facts_of(const Surface& surface);

/// A face as triangles of its part's points, as many as its corners less two, so that faces that share their
/// edges leave no crack. As few of them without area as its corners allow.
std::vector<std::array<int, 3>> triangles_of(const SurfacePart& part, const SurfaceFace& face);

} // namespace rubble::build
