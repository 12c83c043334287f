#pragma once

#include <optional>

#include "level/frame.h"

class QWidget;
class QString;

namespace rubble::app {

/// What a frame is called, and what that means.
QString frame_name(Frame frame);

/// Asks how a new level is seen and played, with a small picture of each way; nothing where the answer is to
/// stay.
std::optional<Frame> ask_frame(QWidget& parent);

} // namespace rubble::app
