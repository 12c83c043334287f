#pragma once

#include "build/solid_builder.h"
#include "core/level_maker.h"
#include "motion/world.h"

namespace rubble::test {

/// The matter of a small level, to move in.
inline motion::World world_of(const LevelMaker& maker) {
    return motion::world_of(build::build_solid(maker.level()));
}

} // namespace rubble::test
