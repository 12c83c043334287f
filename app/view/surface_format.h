#pragma once

#include <QSurfaceFormat>

namespace rubble::app {

/// Asks for OpenGL 3.3 with a depth buffer, for all views. To be called before the application is made.
inline void use_surface_format() {
    QSurfaceFormat format;
    format.setVersion(3, 3);
    format.setProfile(QSurfaceFormat::CoreProfile);
    format.setDepthBufferSize(24);
    // The software renderer draws many samples slowly; edges are drawn as lines anyway.
    format.setSamples(qEnvironmentVariableIsSet("LIBGL_ALWAYS_SOFTWARE") ? 0 : 4);
    QSurfaceFormat::setDefaultFormat(format);
}

} // namespace rubble::app
