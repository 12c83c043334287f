#pragma once

#include <QOpenGLShaderProgram>

#include "level/dressing/light.h"
#include "view/camera.h"

namespace rubble::app {

class ShadowMaps;

/// What an eye sees by: how much light it is used to, and how much it sees where none arrives (of 1).
struct UsedTo {
    double lux = 150;
    double in_the_dark = 0.1;
};

/// A fragment shader in which the word LIGHTS stands for `vec3 lit(vec3 at, vec3 normal)`, what arrives there
/// as an eye takes it, and for `light_count`.
QByteArray with_lights(const char* shader);

/// How much light an eye is used to that looks at a place lit by some lights from `arrives` lux; where little
/// arrives at the eye itself, what lamps commonly give.
double lux_used_to(const std::vector<Light>& lights, double arrives);

/// Tells a program of such a shader of the lights that count most from where the eye is, as strong as an eye
/// sees them that is used to so much, and of the shadows that some of them throw.
void set_lights(QOpenGLShaderProgram& program, const Camera& camera, const std::vector<Light>& lights,
                const UsedTo& eye, ShadowMaps* shadows);

} // namespace rubble::app
