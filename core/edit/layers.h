#pragma once

#include <span>

#include "level/level.h"

namespace rubble::edit {

// Edits of layers. Layers stand in a row, which is the order of fills and cuts; `parent` makes a tree of them
// for the eye. What is hidden or locked with a layer is what lies in its children too.

/// Items sent to a layer, at its end; members of groups leave them. To a layer of tiles nothing goes.
Level sent_to_layer(const Level& level, std::span<const ItemId> ids, const LayerId& layer);
/// Only that layer, its children and its parents shown.
Level with_layer_alone(const Level& level, const LayerId& layer);
/// All layers and items shown.
Level with_all_shown(const Level& level);
/// A copy of a layer and all in it, moved, behind the last of its children: the base of a new area.
struct LayerCopy {
    Level level;
    LayerId id;
};
/// A copy of a layer with all it holds, moved by a step.
LayerCopy layer_duplicated(const Level& level, const LayerId& layer, const Vec3& by);
/// A layer without whose items nothing is lost: they go with it, and so do the layers in it.
Level without_layer(const Level& level, const LayerId& layer);
/// Every item hidden that is not among some, nor in a group among them, nor a group that holds one.
Level with_only_shown(const Level& level, std::span<const ItemId> ids);

} // namespace rubble::edit
