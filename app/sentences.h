#pragma once

#include <QString>

#include "check/sentences.h"

namespace rubble::app {

/// What a check has to say in the user's language, items called as the level calls them.
QString in_words(const check::Sentences& sentences, const Level& level);
/// The first sentence alone.
QString first_in_words(const check::Sentences& sentences, const Level& level);

} // namespace rubble::app
