#pragma once

#include <QOpenGLShaderProgram>

#include "level/dressing/light.h"
#include "view/camera.h"

namespace rubble::app {

/// A fragment shader in which the word LIGHTS stands for `vec3 lit(vec3 at, vec3 normal)`, what arrives there
/// as an eye takes it, and for `light_count`.
QByteArray with_lights(const char* shader);

/// Tells a program of such a shader of the lights that count most from where the eye is, as strong as an eye
/// used to the place sees them.
void set_lights(QOpenGLShaderProgram& program, const Camera& camera, std::vector<Light> lights);

} // namespace rubble::app
