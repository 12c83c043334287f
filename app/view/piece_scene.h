#pragma once

#include <memory>
#include <vector>

#include <glm/mat4x4.hpp>

#include "build/solid.h"
#include "level/level.h"
#include "view/picking.h"

namespace rubble::app {

/// The pieces of a level as they are drawn and pointed at: each body once, with all places that it stands in.
struct PieceScene {
    struct Place {
        ItemId item;
        PlacedPiece placed;
        Box3 box;
    };
    struct Kind {
        std::shared_ptr<const Piece> piece; ///< null: stand-ins for what could not be read
        std::vector<glm::mat4> matrices;    ///< from own axes to the level's
    };
    std::vector<Place> places; ///< that are seen
    std::vector<Kind> kinds;
};

/// Those that are not hidden.
PieceScene piece_scene(const Level& level, const build::Solid& solid);
/// Where a piece's own axes lie in the level.
glm::mat4 matrix_of(const PlacedPiece& placed);

/// The first seen piece that a ray meets, none above `cut_z`; `Hit::item` says which.
std::optional<Hit> pick(const PieceScene& scene, const Ray& ray, double cut_z);

} // namespace rubble::app
