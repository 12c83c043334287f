#pragma once

#include <algorithm>
#include <cstdint>
#include <string>
#include <vector>

namespace rubble::motion {

/// What is taken by whoever comes to it.
enum class ThingKind : uint8_t { key, kept_key, pick_up, item };
/// How a switch works: it stays on, changes each time, or is on while somebody is on it.
enum class PressMode : uint8_t { once, toggle, held };

/// What ground does to whoever is on it.
enum class FloorAct : uint8_t { slippery, carries };

/// The number of a name, which is added where it is new.
inline int index_of(std::vector<std::string>& names, const std::string& name) {
    const auto known = std::find(names.begin(), names.end(), name);
    if (known != names.end()) return int(known - names.begin());
    names.push_back(name);
    return int(names.size()) - 1;
}

} // namespace rubble::motion
