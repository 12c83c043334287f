#pragma once

#include "session/session.h"

class QWidget;

namespace rubble::app {

/// Puts the selected props onto what is below them.
void set_props_down(Session& session);
/// Asks what is strewn over the picked faces and shows it meanwhile; all of it becomes one group.
void strew_props(Session& session, QWidget& window);

} // namespace rubble::app
