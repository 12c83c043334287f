#pragma once

#include <glm/gtc/type_ptr.hpp>
#include <glm/mat4x4.hpp>

#include <QMatrix4x4>
#include <QOpenGLShaderProgram>
#include <QVector3D>

#include "geometry/vec.h"

namespace rubble::app {

/// Gives a program a matrix.
inline void set_matrix(QOpenGLShaderProgram& program, const char* name, const glm::mat4& m) {
    program.setUniformValue(name, QMatrix4x4(glm::value_ptr(glm::transpose(m))));
}

/// A place as programs take it.
inline QVector3D vector_of(const Vec3& v) { return {float(v.x), float(v.y), float(v.z)}; }

} // namespace rubble::app
