#pragma once

#include <memory>
#include <unordered_map>
#include <vector>

#include <boost/container/small_vector.hpp>

#include "base/cancel.h"
#include "geometry/convex_cell.h"
#include "geometry/exact.h"
#include "level/brush_shape.h"
#include "level/order.h"

namespace rubble::build {

/// A convex polygon in a plane of the table. Every corner starts an edge that lies in another plane; the
/// corner is where that plane, the one of the edge before, and the supporting plane meet.
struct Polygon {
    struct Edge {
        int32_t plane;
        geometry::Corner start;
    };
    geometry::PlaneRef support; ///< counter-clockwise seen from its outside
    boost::container::small_vector<Edge, 6> edges;
};

/// A brush made ready for building: its body with every face in exact planes.
struct PreparedBrush {
    struct Face {
        Polygon polygon;
        BoxSide side;
    };
    Effect effect = Effect::fill;
    std::vector<Face> faces;
    geometry::ConvexCell cell;
    Box3 box; ///< metres
};

PreparedBrush prepare(const Brush& brush, geometry::PlaneTable& planes);

/// A part of a brush's face that bounds the solid.
struct Fragment {
    Polygon polygon;
    BoxSide side;
    MaterialId material;
    bool reversed; ///< made by a cut: matter lies on the support's outer side
};

/// What one brush adds to the solid.
struct BrushSolid {
    ItemId item;
    Effect effect = Effect::fill;
    std::vector<Fragment> fragments;
    std::vector<geometry::ConvexCell> matter; ///< convex bodies that the character collides with; may
                                              ///< overlap those of other brushes
    Box3 box;
};

/// Ordered fills and cuts put together, exact along the brushes' own planes.
struct Solid {
    std::shared_ptr<const geometry::PlaneTable> planes;
    std::vector<std::shared_ptr<const BrushSolid>> brushes; ///< in order
};

/// Builds solids one after the other and does again only what a change touches. A face is clipped against
/// the brushes that touch it: later brushes decide what they contain; of the earlier ones the last that
/// contains the outer side decides whether matter lies there. Of faces in one plane the later brush owns
/// the shared area; an earlier face that looks the same way gives way, and an earlier one that looks the
/// opposite way counts as containing the outer side.
class SolidBuilder {
public:
    /// The solid of a level. Hidden items count: hiding changes only the view.
    Solid build(const Level& level, const Cancel& cancel = {});

private:
    struct Entry {
        Brush brush;
        PreparedBrush prepared;
        std::vector<const Entry*> before, after; ///< touching brushes in order
        std::shared_ptr<const BrushSolid> result;
        bool changed = true;
    };
    std::shared_ptr<geometry::PlaneTable> planes_ = std::make_shared<geometry::PlaneTable>();
    std::unordered_map<ItemId, std::shared_ptr<Entry>> entries_;
    std::vector<Shared<Layer>> last_layers_; ///< of the last level, with its solid
    Solid last_;
};

/// One build from nothing.
Solid build_solid(const Level& level);

} // namespace rubble::build
