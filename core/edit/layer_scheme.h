#pragma once

#include <vector>

#include "level/level.h"

namespace rubble::edit {

/// How a level differs from its project's scheme of layers.
struct SchemeChange {
    enum class What { comes, name, cell, solid, depth, opacity, parallax };
    LayerId layer;
    std::string name; ///< of the layer as the scheme calls it
    What what = What::comes;
    bool operator==(const SchemeChange&) const = default;
};

/// What taking the scheme over would change of a level, in the order of the scheme; nothing where they agree,
/// and where the scheme has no layer of the level's frame. Layers that the scheme does not know are left
/// alone.
std::vector<SchemeChange> scheme_changes(const Project& project, const Level& level);
/// The level with the scheme taken over: layers that it lacks come, bare; those that it has become as the
/// scheme says, with what is painted in them.
Level with_scheme_of(const Project& project, const Level& level);
/// The project with the level's layers of tiles as the scheme of its frame.
Project with_scheme_from(const Project& project, const Level& level);

/// The level with all that is bare in its first solid layer of tiles filled with whole cells, but for those
/// that its elements stand in: a path is carved by erasing. Itself where no layer of tiles is solid.
Level all_wall(const Level& level);

/// The level with a layer at another place among its layers, counted without it. A layer of tiles keeps to
/// the depth of the layers of tiles that it comes between, so that it is drawn there too.
Level with_layer_at(const Level& level, const LayerId& layer, size_t place);

} // namespace rubble::edit
