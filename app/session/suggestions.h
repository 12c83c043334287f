#pragma once

#include <set>
#include <string>
#include <vector>

#include "suggest/suggest.h"

namespace rubble::app {

/// What is suggested for the shown level and neither kept nor thrown away yet.
struct Suggestions {
    std::vector<suggest::Suggestion> open;
    std::set<std::string> thrown; ///< since the program was started, by name
    bool looking = false;
};

} // namespace rubble::app
