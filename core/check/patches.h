#pragma once

#include "check/ground.h"

namespace rubble::check {

/// The fragments of all tops, without portals and ledges. Large tops are taken in square tiles, so that no
/// list of fragments grows long.
struct Patches {
    std::vector<Top> tops;
    std::vector<Fragment> fragments; ///< those taken over still have the portals they had
    std::vector<Patch> patches;
    std::vector<int> before;   ///< as in `Ground`
    std::vector<Box2> renewed; ///< tiles that were worked out anew, or are gone
};
/// Cuts the tops of a world into fragments, taking over those that no change touches.
Patches patches_of(const motion::World& world, const Character& character, const Cancel& cancel,
                   const GroundBefore* before);

} // namespace rubble::check
