#pragma once

#include <array>
#include <map>
#include <memory>
#include <span>
#include <unordered_map>
#include <vector>

#include "base/cancel.h"
#include "build/prepared_brush.h"
#include "level/order.h"

namespace rubble::build {

/// A part of a brush's face that bounds the solid.
struct Fragment {
    Polygon polygon;
    BoxSide side;
    MaterialId material;
    bool reversed; ///< made by a cut: matter lies on the support's outer side
};

/// Fragments that stay together from build to build: all of a brush, or those of one tile of a face that very
/// many brushes touch.
struct FacePart {
    std::vector<Fragment> fragments;
};

/// What one brush adds to the solid.
struct BrushSolid {
    ItemId item;
    Effect effect = Effect::fill;
    std::vector<std::shared_ptr<const FacePart>> parts;
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
    struct Entry;
    struct Neighbour {
        const Entry* entry;
        bool later;
        bool operator==(const Neighbour&) const = default;
    };
    /// One tile of a face that very many brushes touch, as it was built last.
    struct Tile {
        std::vector<Neighbour> touching;
        std::shared_ptr<const FacePart> part;
    };
    struct Entry {
        Brush brush;
        PreparedBrush prepared;
        std::vector<Neighbour> touching; ///< the later ones in order, then the earlier ones, last first
        std::array<std::vector<int32_t>, 3> tile_planes; ///< across each axis
        std::map<std::array<size_t, 3>, Tile> tiles;     ///< by face, row and column
        std::shared_ptr<const BrushSolid> result;
        bool changed = true;
    };
    static std::vector<Fragment> fragments_of(const Entry& entry, size_t face, const Polygon& polygon,
                                              std::span<const Neighbour> touching,
                                              const geometry::PlaneTable& planes);
    static MaterialId material_behind(const Vec3& at_m, std::span<const Neighbour> touching);
    static void build_tiles(Entry& entry, size_t face, std::span<const Neighbour> touching,
                            const geometry::PlaneTable& planes, BrushSolid& out);
    static void build_brush(Entry& entry, const ItemId& id, const geometry::PlaneTable& planes);

    std::shared_ptr<geometry::PlaneTable> planes_ = std::make_shared<geometry::PlaneTable>();
    std::unordered_map<ItemId, std::shared_ptr<Entry>> entries_;
    std::vector<Shared<Layer>> last_layers_; ///< of the last level, with its solid
    Solid last_;
};

/// One build from nothing.
Solid build_solid(const Level& level);

} // namespace rubble::build
