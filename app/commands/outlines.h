#pragma once

#include <QString>

class QWidget;

namespace rubble::app {

class Session;

/// Asks how large an SVG drawing is and what its lines become, and puts brushes along them into the level as
/// one step. An empty file is asked for. False where nothing came of it.
bool bring_in_outlines(Session& session, QWidget& window, QString file = {});

} // namespace rubble::app
