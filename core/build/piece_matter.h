#pragma once

#include <memory>
#include <unordered_map>
#include <vector>

#include "geometry/convex_cell.h"
#include "level/level.h"

namespace rubble::build {

/// What a piece keeps the character out of where it stands: its cells, made once in its own axes, and the
/// place.
struct PieceMatter {
    ItemId item;
    PlacedPiece placed;
    std::shared_ptr<const std::vector<geometry::ConvexCell>> cells;
};

/// Calls `visit(cell)` for every convex body of a placed piece, in the level's axes.
void for_each_matter(const PieceMatter& piece, const std::function<void(const geometry::ConvexCell&)>& visit);

/// Works out the matter of placed pieces; what did not change is the very same as before.
class PieceMatterBuilder {
public:
    using Pieces = std::vector<std::shared_ptr<const PieceMatter>>;
    /// The pieces of a level, in order.
    Pieces build(const Level& level);

private:
    using Cells = std::shared_ptr<const std::vector<geometry::ConvexCell>>;
    Cells cells_of(const PlacedPiece& placed);

    std::unordered_map<ItemId, std::shared_ptr<const PieceMatter>> known_;
    /// By body and kind of collision, each with its piece so that the pointer stays its own.
    std::map<std::pair<const Piece*, int>, std::pair<std::shared_ptr<const Piece>, Cells>> cells_;
    std::vector<Shared<Layer>> last_layers_;
    Pieces last_;
};

} // namespace rubble::build
