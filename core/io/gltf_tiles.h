#pragma once

#include "io/gltf_maker.h"

namespace rubble::io {

/// Layers of tiles and placed pictures as textured squares, each at its depth; and what of them collides,
/// drawn out to both sides of the plane of play, in nodes of their own that say what it does. An error where
/// a picture cannot be written.
Result<void> add_tiles(GltfMaker& maker, const Level& level);

} // namespace rubble::io
