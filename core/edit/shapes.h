#pragma once

#include "level/character.h"
#include "level/level.h"

namespace rubble::edit {

/// The least number of steps with which stairs of that height can be walked.
int proposed_steps(double height_m, const Character& character);

/// A brush whose other values fit its size: stairs that the character walks, an arch that leaves an opening.
Brush with_fitting_values(Brush brush, const Character& character);

/// `brush` as another shape in the same place and of the same size. To an outline it goes by its base, to a
/// body as what it is, unless its surface touches itself.
/// A wall that had no thickness of its own gets the agreed one.
Brush with_shape(const Brush& brush, Shape shape, const Character& character, const Measures& agreed = {});

/// An outline over a ring of places at one height, or a wall along them; `at` becomes the middle of their
/// box. The ring may run either way round.
Brush outline_through(std::vector<Vec3> places, double height_m);
/// A wall run along places.
Brush wall_through(const std::vector<Vec3>& places, bool closed, double thickness_m, double height_m);

} // namespace rubble::edit
