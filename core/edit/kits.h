#pragma once

#include "level/level.h"

namespace rubble::edit {

/// A kit more, or changed.
Project with_kit(const Project& project, Kit kit);
/// The kit with one piece changed, the one of its id; without a body where that has to be made anew.
Kit with_piece(Kit kit, Piece piece);

} // namespace rubble::edit
