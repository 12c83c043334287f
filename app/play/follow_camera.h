#pragma once

#include "level/character.h"
#include "motion/world.h"
#include "view/camera.h"

namespace rubble::app {

/// How the view goes along with a figure.
enum class Follow { stays, behind, above };

/// From behind a figure and over its head; matter behind it brings the eye nearer instead of into a wall.
/// `eye` is where the figure's own eyes are.
Camera camera_behind(const motion::World& world, const Character& character, const Vec3& eye,
                     double heading_deg, double tilt_deg, QSizeF size);

/// The direction a figure heads in a step later: turned towards where it goes, softly.
double headed(double heading_deg, const Vec3& velocity, double seconds);

} // namespace rubble::app
