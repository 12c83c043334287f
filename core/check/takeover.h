#pragma once

#include <functional>
#include <vector>

#include "check/reach.h"

namespace rubble::check {

/// What a search takes over from the one before an edit.

/// What is known from before an edit: ledges to which nothing led, as long as nothing new comes near them.
struct StillClosed {
    std::vector<bool> ledges;      ///< empty: nothing is known
    std::vector<bool> open_before; ///< fragments from which, before, one could have come already
    std::vector<Box2> news;        ///< what is new, grown by the range

    /// Whether a ledge was closed before, and nothing opened near it since.
    bool holds(const Ground& ground, int ledge) const {
        if (ledges.empty() || !ledges[size_t(ledge)]) return false;
        const Box2 box = flat(ground.ledges[size_t(ledge)].box);
        return std::none_of(news.begin(), news.end(), [&](const Box2& b) { return b.touches(box); });
    }
    /// From now on one can come from this ledge.
    void add(const Ground& ground, int ledge, double range) {
        if (ledges.empty()) return;
        for (int f : ground.ledges[size_t(ledge)].fragments) {
            if (open_before[size_t(f)]) continue;
            open_before[size_t(f)] = true;
            news.push_back(ground.fragments[size_t(f)].box.grown(range));
        }
    }
};

/// The ledges that are just what they were, with nothing changed within range, of which `closed(ledge
/// before)` said that nothing leads there; with those of which `open(ledge before)` said that one can come
/// from them.
StillClosed still_closed(const Ground& ground, const ReachBefore& before, double range_m,
                         const std::function<bool(int)>& closed, const std::function<bool(int)>& open);

/// Puts into an empty `reach` the runs that no change comes near, each with those before it, and the links
/// that no change comes near.
void take_over_runs(const Ground& ground, const Character& character, const std::vector<Vec3>& starts,
                    const ReachBefore& before, Reach& reach);

} // namespace rubble::check
