#pragma once

#include "check/ground.h"

namespace rubble::check {

/// The fragments of all tops, without portals and ledges. Large tops are taken in square tiles, so that no
/// list of fragments grows long.
struct Patches {
    std::vector<Top> tops;
    std::vector<Fragment> fragments;
};
Patches patches_of(const motion::World& world, const Character& character, const Cancel& cancel);

} // namespace rubble::check
