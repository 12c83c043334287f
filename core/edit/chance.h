#pragma once

#include <map>
#include <string>
#include <vector>

#include "level/level.h"

namespace rubble::edit {

/// The places of a level that hold one of several assemblies by chance, in order.
std::vector<ItemId> chance_places(const Level& level);

/// The elements of which only one is there at a time, by the word under which they are kept as one of
/// several.
std::map<std::string, std::vector<ItemId>> chance_groups(const Level& level);
/// Whether anything in a level is drawn by chance.
bool has_chance(const Level& level);

/// A level as its places of chance turn out by a seed, each by the weights of what it may hold, and with one
/// element of each group, all as likely; without either the level itself.
Level drawn(const Project& project, const Level& level, uint64_t seed);

/// Ways in which all places of chance may turn out: for each, the file that each place holds.
struct Outcomes {
    std::vector<ItemId> places;
    std::vector<std::vector<std::string>> sources;
    std::vector<std::vector<ItemId>> groups; ///< of elements of which one is there
    std::vector<std::vector<size_t>> kept;   ///< for each way and group: which one
    bool all = true;                         ///< false: there are more
};
/// All ways but the one that the level shows, where there are no more than `most`; else as many.
Outcomes outcomes_of(const Level& level, size_t most);
/// The level as its places turn out in one of these.
Level with_outcome(const Project& project, Level level, const Outcomes& outcomes, size_t which);

/// A place that may hold another assembly too, or with another weight; with a weight of 0, no longer. What it
/// holds now is the first of its alternatives; with one left it is no place of chance.
Level with_alternative(const Project& project, const Level& level, const ItemId& place,
                       const std::string& source, double weight);

} // namespace rubble::edit
