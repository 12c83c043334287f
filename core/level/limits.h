#pragma once

#include <string>

#include "level/level.h"

namespace rubble {

/// Why the items of `after` that `before` does not have in the same way could not be written and read again:
/// which item, and which of its keys. A level whose items all come from files or from levels that passed has
/// none.
struct Unkept {
    ItemId item;
    std::string key; ///< as `problem_of` says, or "items" for groups that lie too deep
    bool operator==(const Unkept&) const = default;
};
/// The first item of a changed level that could not be opened again as it is; nothing where all could.
std::optional<Unkept> unkept_item(const Level& before, const Level& after);

} // namespace rubble
