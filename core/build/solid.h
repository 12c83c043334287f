#pragma once

#include <memory>
#include <vector>

#include "base/shared_list.h"
#include "build/piece_matter.h"
#include "build/prepared_brush.h"
#include "build/tile_matter.h"

namespace rubble::build {

/// A part of a brush's face that bounds the solid.
struct FacePiece {
    Polygon polygon;
    NamedSide side;
    MaterialId material;
    bool reversed; ///< made by a cut: matter lies on the support's outer side
    bool operator==(const FacePiece&) const = default;
};

/// What stays together from build to build: all of a brush, or one tile of something that very many brushes
/// touch.
struct SolidPart {
    std::vector<FacePiece> pieces;
    /// Convex bodies that the character collides with; may overlap those of other brushes.
    std::vector<std::shared_ptr<const geometry::ConvexCell>> matter;
    Box3 box; ///< of the pieces
    /// How many pieces there are up to each face of each cell, and bodies up to each cell.
    std::vector<int> face_ends, cell_ends;
};

/// What one brush adds to the solid.
struct BrushSolid {
    ItemId item;
    Effect effect = Effect::fill;
    std::vector<std::shared_ptr<const SolidPart>> parts;
    Box3 box;
};

/// An element that takes part in play, where it is met.
struct PlacedElement {
    ItemId id;
    Element element;
    bool operator==(const PlacedElement&) const = default;
};
/// Those of a level, in order.
using PlacedElements = std::vector<PlacedElement>;

/// Ordered fills and cuts put together, exact along the brushes' own planes.
struct Solid {
    std::shared_ptr<const geometry::PlaneTable> planes;
    SharedList<std::shared_ptr<const BrushSolid>> brushes; ///< in order
    /// The pieces of kits that stand in it, in the order of the level.
    std::vector<std::shared_ptr<const PieceMatter>> pieces;
    Frame frame = Frame::space;
    TileMatterBuilder::Strips tiles;
    Box3 box;                                       ///< of a Plan level: all there is
    std::shared_ptr<const WalkedCells> cells;       ///< of a level that is walked by them
    std::shared_ptr<const PlacedElements> elements; ///< null where none takes part
    PuzzleRules rules;
};

/// Calls `visit(cell)` for every convex body that a brush adds.
template <class F> void for_each_matter(const BrushSolid& brush, F visit) {
    for (const auto& part : brush.parts)
        for (const auto& cell : part->matter) visit(*cell);
}

} // namespace rubble::build
