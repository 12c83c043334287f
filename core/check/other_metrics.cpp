#include "check/other_metrics.h"

#include <algorithm>

namespace rubble::check {

namespace {

/// A ground takes memory; the extremes that every near miss begins with are fewer.
constexpr size_t k_most_known = 8;

} // namespace

OtherMetrics::Level& OtherMetrics::level_for(const Character& character) {
    const auto known = std::find_if(known_.begin(), known_.end(),
                                    [&](const Level& level) { return level.character == character; });
    if (known != known_.end()) {
        known_.splice(known_.begin(), known_, known);
        return known_.front();
    }
    if (known_.size() == k_most_known) known_.pop_back();
    Level& level = known_.emplace_front();
    level.character = character;
    level.ground = ground_of(world_, character, cancel_);
    level.queries.emplace(level.ground, world_, level.character, cancel_, false);
    return level;
}

Reached OtherMetrics::ask(const Character& character, const Vec3& from, const Vec3& to,
                          std::optional<Witness>* witness) {
    auto answer = level_for(character).queries->ask(from, to);
    if (witness) *witness = std::move(answer.witness);
    return answer.reached;
}

} // namespace rubble::check
