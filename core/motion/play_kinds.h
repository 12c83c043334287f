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

/// How a foe goes: where a way was drawn for it, or by a rule.
enum class FoeWay : uint8_t { drawn, turns, follows_left, follows_right, wanders, comes_nearer };
/// The way of a word in files; one that is drawn where it is none of the others.
inline FoeWay foe_way_of(const std::string& word) {
    return word == "turns"           ? FoeWay::turns
           : word == "follows_left"  ? FoeWay::follows_left
           : word == "follows_right" ? FoeWay::follows_right
           : word == "wanders"       ? FoeWay::wanders
           : word == "comes_nearer"  ? FoeWay::comes_nearer
                                     : FoeWay::drawn;
}

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
