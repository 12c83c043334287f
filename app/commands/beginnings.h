#pragma once

#include "session/session.h"

class QWidget;

namespace rubble::app {

/// Asks for a level and what of it is kept, and begins a new one from that. False where nothing came of it.
bool begin_from_level(Session& session, QWidget& window, QString path = {});

} // namespace rubble::app
