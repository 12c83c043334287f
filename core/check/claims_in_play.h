#pragma once

#include "check/reach_queries.h"

namespace rubble::check {

// Claims about play as a whole: each says what became of it, and why where it does not hold.

/// `needs`, `order`: the second place is reached, and not without the item.
ClaimResult judge_needs(const Level& level, const Claim& claim, const std::string& who,
                        ReachQueries& queries);
/// `all_pickups`: in one run from where play begins all pick-ups are had, and then the goal where there is
/// one.
ClaimResult judge_all_pickups(const Level& level, const Claim& claim, const std::string& who,
                              ReachQueries& queries);
/// `never_stuck`: from everywhere that one gets to from where play begins a goal is reached.
ClaimResult judge_never_stuck(const Level& level, const Claim& claim, const std::string& who,
                              ReachQueries& queries);
/// `at_most`: there are no more elements of a kind than are claimed.
ClaimResult judge_at_most(const Level& level, const Claim& claim);

} // namespace rubble::check
