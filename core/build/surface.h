#pragma once

#include <memory>
#include <unordered_map>
#include <vector>

#include "build/seams.h"
#include "build/solid.h"

namespace rubble::build {

/// The closed surface of a solid: corners in whole ticks, each once, and faces that share them, so that
/// every directed edge has as many opposites as copies. Faces look outward, away from matter.
struct Surface {
    struct Face {
        std::vector<int> loop; ///< counter-clockwise seen from outside; may have corners on straight edges
        Vec3 normal{0, 0, 1};
        int brush = 0; ///< index into the solid's brushes
        BoxSide side = BoxSide::top;
        MaterialId material;
    };
    std::vector<geometry::TickPoint> points;
    std::vector<Face> faces;

    Vec3 point_m(int index) const { return geometry::to_metres(points[size_t(index)]); }
};

/// Puts the fragments together: equal corners become one, and every corner that lies on an edge of another
/// face is put into that edge (no T-junctions). Decided exactly, before corners are rounded to ticks;
/// rounding maps corners to corners and so keeps the surface closed.
///
/// Builds surfaces one after the other and finds the seams anew only of parts that changed.
class SurfaceBuilder {
public:
    Surface build(const Solid& solid);

private:
    struct Known {
        std::shared_ptr<const FacePart> part;
        Seams seams;
    };
    std::unordered_map<const FacePart*, std::shared_ptr<const Known>> known_;
};

/// One surface from nothing.
Surface surface_of(const Solid& solid);

struct SurfaceFacts {
    double volume_m3 = 0;
    double area_m2 = 0;
    size_t faces = 0;
    size_t open_edges = 0; ///< directed edges without an opposite
};
SurfaceFacts facts_of(const Surface& surface);

/// A face as triangles of its loop's indices, none without area where the face has any.
std::vector<std::array<int, 3>> triangles_of(const Surface& surface, const Surface::Face& face);

} // namespace rubble::build
