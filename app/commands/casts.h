#pragma once

#include "session/session.h"

class QWidget;

namespace rubble::app {

/// Shows casts and takes the one that is chosen into the level, as ordinary items. False where
/// none was.
bool cast_level(Session& session, QWidget& window);

} // namespace rubble::app
