#pragma once

#include "session/session.h"

class QWidget;

namespace rubble::app {

/// Says what the project's scheme of layers would change of the level that is shown, and takes it over where
/// the answer is yes. Says nothing where the level agrees with it.
void offer_layer_scheme(Session& session, QWidget& window);
/// The layers of tiles of the level become those of all levels of the project.
void make_layer_scheme(Session& session);

} // namespace rubble::app
