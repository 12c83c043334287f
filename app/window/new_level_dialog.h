#pragma once

#include <optional>

#include "level/frame.h"

class QWidget;
class QString;

namespace rubble::app {

/// What a frame is called, and what that means.
QString frame_name(Frame frame);

/// How a new level begins.
struct Beginning {
    Frame frame = Frame::space;
    bool all_wall = false; ///< of a Plan level: a path is carved into it
};
/// Asks how a new level is seen and played, with a small picture of each way; nothing where the answer is to
/// stay.
std::optional<Beginning> ask_beginning(QWidget& parent);

} // namespace rubble::app
