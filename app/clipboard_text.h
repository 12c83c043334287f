#pragma once

#include <optional>

#include "edit/clipboard.h"

namespace rubble::app {

/// The desktop's clipboard holds items as JSON text in the form of level files, so that they can be put
/// into another level, another window, or a message.
void put_on_clipboard(const edit::Clip& clip);
/// Nothing when the clipboard holds something else or something damaged.
std::optional<edit::Clip> clip_from_clipboard();

} // namespace rubble::app
