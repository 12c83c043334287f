#pragma once

#include <map>

#include "build/face_clipper.h"
#include "build/solid.h"

namespace rubble::build {

/// A brush that touches another, as that one sees it.
struct Neighbour {
    const Brush* brush;
    const PreparedBrush* prepared;
    bool later; ///< in the order of brushes
};

/// The parts of one brush, kept from build to build. Faces, and cells with cuts, that very many brushes touch
/// are built tile by tile, so that an edit does not build all of a floor anew.
class BrushParts {
public:
    /// The planes of tiles, where there may be some, come into the table before brushes are built side by
    /// side.
    void plan_tiles(const PreparedBrush& prepared, size_t touching, geometry::PlaneTable& planes);

    /// `touching` are the later ones in order, then the earlier ones, last first. Where the brush itself is as
    /// it was, only what the boxes `dirty` touch is built again.
    std::vector<std::shared_ptr<const SolidPart>> build(const Brush& brush, const PreparedBrush& prepared,
                                                        const std::vector<Neighbour>& touching,
                                                        const std::vector<Box3>& dirty, bool changed,
                                                        const geometry::PlaneTable& planes);

private:
    struct FaceTile {
        Polygon polygon;
        Box3 box;
        std::shared_ptr<const SolidPart> part;
    };
    struct CellTile {
        geometry::ConvexCell cell;
        Box3 box;
        std::shared_ptr<const SolidPart> part;
    };
    using Key = std::pair<size_t, size_t>; ///< cell and face

    std::array<std::vector<int32_t>, 3> tile_planes_; ///< across each axis
    std::map<Key, std::vector<FaceTile>> face_tiles_;
    std::map<size_t, std::vector<CellTile>> cell_tiles_;
};

} // namespace rubble::build
