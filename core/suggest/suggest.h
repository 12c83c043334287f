#pragma once

#include <functional>
#include <memory>
#include <set>

#include "suggest/candidates.h"
#include "suggest/habits.h"

namespace rubble::suggest {

inline constexpr int most_suggestions = 5;

/// What could be added to a level next. Each was tried: with it no claim fails that held, and nothing new is
/// found that blocks or concerns.
using Suggestion = Candidate;

struct SuggestOptions {
    std::set<std::string> not_again; ///< what was thrown away in this sitting: as `name_of` gives it
    Cancel cancel;
    Progress progress;
};

/// Where and what a suggestion is: the same again has the same name.
std::string name_of(const Level& level, const Suggestion& suggestion);

/// Up to five, of kinds in the measure in which the project likes them. `result` is the check of the level.
std::vector<Suggestion> suggested(const Project& project, const Level& level,
                                  const std::shared_ptr<const check::CheckResult>& result,
                                  const SuggestOptions& options = {});

/// The level with one in it, on a layer.
Level with(const Level& level, int layer, const Suggestion& suggestion);

} // namespace rubble::suggest
