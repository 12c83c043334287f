#pragma once

#include <string>

#include "level/extra.h"

namespace rubble::io {

/// Tags and values for the game as somebody types them: a line for each, "key = value"; a tag alone is true.
/// Values are numbers, true, false, or text.
std::string text_of_values(const Extra& values);
/// The same read; lines without a key are passed over.
Extra values_from_text(const std::string& text);

} // namespace rubble::io
