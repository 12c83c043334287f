#pragma once

#include <string>
#include <vector>

#include "level/level.h"

namespace rubble {

/// The kinds of play that levels of a project can be about: those that every project has, changed and added
/// to by its own.
std::vector<KindOfPlay> kinds_of_play(const Project& project);
/// The one that a level says it is about; nothing where it says none, or one that is not known.
std::optional<KindOfPlay> kind_of_play(const Project& project, const Level& level);

/// The rules that are looked at only where a kind of play asks for them, by their keys.
inline constexpr const char* rule_loops = "play.no_loops";
inline constexpr const char* rule_spread = "play.not_spread";
inline constexpr const char* rule_seen_before = "play.not_seen_before";

} // namespace rubble
