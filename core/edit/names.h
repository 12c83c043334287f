#pragma once

#include <string>
#include <vector>

#include "level/level.h"

namespace rubble::edit {

/// An item that is not called as its project wants, and what it would be called.
struct Misnamed {
    ItemId item;
    enum class Why { none, characters, length, pattern, twice } why = Why::none;
    std::string name, wanted;
};
/// Those of a level, in the order of storing; none where the project has no scheme. Groups count as items,
/// what is in them too.
std::vector<Misnamed> misnamed(const NameScheme& scheme, const Level& level);
/// All of them called as they are wanted.
Level with_names_by(const NameScheme& scheme, const Level& level);

/// What is wrong with a scheme itself; empty where nothing is. (In English.)
std::string problem_of(const NameScheme& scheme);

} // namespace rubble::edit
