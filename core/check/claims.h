#pragma once

#include "check/reach_queries.h"

namespace rubble::check {

/// What is asked with a claim.
ClaimQuestion question_of(const Level& level, const Claim& claim, const std::string& character_name);

/// What became of a claim. Ends are elements; an end that is not there leaves it undecided, with the reason.
ClaimResult judge(const Level& level, const Claim& claim, const std::string& character_name,
                  ReachQueries& queries);

} // namespace rubble::check
