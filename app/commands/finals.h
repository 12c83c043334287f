#pragma once

#include "session/session.h"

namespace rubble::app {

/// Lays the pieces of the kit in the hand in the place of the grey brushes that are called like them.
void lay_finals(Session& session);
/// Shows the finals where the grey ones are seen, and the other way round.
void toggle_finals(Session& session);

} // namespace rubble::app
