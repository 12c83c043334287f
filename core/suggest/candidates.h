#pragma once

#include <vector>

#include "check/check.h"

namespace rubble::suggest {

/// Something that could be added, before it was tried.
struct Candidate {
    std::string kind; ///< of what is learned: an element's kind, or "step"
    std::vector<Item> items;
    check::Sentences reason;
    double promise = 0;                       ///< the more the sooner it is tried
    std::vector<check::MendCells> cells = {}; ///< of tile layers, that are empty yet
};

/// Where a candidate is: its first item, or the first of its cells.
Vec3 place_of(const Level& level, const Candidate& candidate);

/// Pick-ups where somebody gets who leaves the way, and nothing is yet.
std::vector<Candidate> pick_ups(const Level& level, const check::CheckResult& result);
/// A checkpoint halfway where the way is long.
std::vector<Candidate> checkpoints(const Level& level, const check::CheckResult& result);
/// Foes that go to and fro where there is room for them.
std::vector<Candidate> foes(const Level& level, const check::CheckResult& result);
/// Ladders onto ground that nobody gets to.
std::vector<Candidate> ladders(const Level& level, const check::CheckResult& result);
/// Decks in the middle of gaps that are too wide.
std::vector<Candidate> decks(const Level& level, const check::CheckResult& result);
/// What was tried already as a mend of a place that is not reached.
std::vector<Candidate> steps(const Level& level, const check::CheckResult& result);

} // namespace rubble::suggest
