#pragma once

#include <array>

#include "build/face_clipper.h"
#include "build/solid.h"

namespace rubble::build {

/// A brush that touches another, as that one sees it.
struct Neighbour {
    const Brush* brush;
    const PreparedBrush* prepared;
    bool later; ///< in the order of brushes
};

/// A brush as it was and as it is now; null where it was not, or is not any more.
struct BrushChange {
    const PreparedBrush* before;
    const PreparedBrush* after;
    bool only_placed; ///< all but its place and size, and its place in the order, is as it was
};

/// What changed of a brush itself: nothing, no more than its place and size, or anything.
enum class OwnChange { none, placed, otherwise };

/// The parts of one brush, kept from build to build. Faces, and cells with cuts, that very many brushes touch
/// are built tile by tile, so that an edit does not build all of a floor anew.
class BrushParts {
public:
    /// The planes of tiles, where there may be some, come into the table before brushes are built side by
    /// side.
    void plan_tiles(const PreparedBrush& prepared, size_t touching, geometry::PlaneTable& planes);

    /// `touching` are the later ones in order, then the earlier ones, last first. Where the brush itself is
    /// as it was (`own`), only what `changes` among them reach into, before or after, is built again; what
    /// comes out as it was stays the very same part.
    std::vector<std::shared_ptr<const SolidPart>> build(const Brush& brush, const PreparedBrush& prepared,
                                                        const std::vector<Neighbour>& touching,
                                                        const std::vector<BrushChange>& changes,
                                                        OwnChange own, const geometry::PlaneTable& planes);

    struct FaceTile {
        Polygon polygon;
        Box3 box;
        std::shared_ptr<const SolidPart> part;
        bool as_before; ///< of a brush that changed, but not here
    };
    struct CellTile {
        std::shared_ptr<const geometry::ConvexCell> cell;
        Box3 box;
        std::shared_ptr<const SolidPart> part;
        bool as_before;
    };

private:
    template <class Tile> struct Tiles {
        bool cut_up = false; ///< else the one tile is all
        std::vector<Tile> tiles;
    };
    struct Job;
    std::shared_ptr<const SolidPart> whole(const Job& job) const;
    void add_face_tiles(const Job& job, std::vector<std::shared_ptr<const SolidPart>>& parts);
    void add_cell_tiles(const Job& job, std::vector<std::shared_ptr<const SolidPart>>& parts);

    std::array<std::vector<int32_t>, 3> tile_planes_; ///< across each axis
    std::shared_ptr<const SolidPart> whole_;          ///< of a brush that not very many touch
    std::vector<Tiles<FaceTile>> face_tiles_;         ///< of the others, for the faces of all cells
    std::vector<Tiles<CellTile>> cell_tiles_;
};

} // namespace rubble::build
