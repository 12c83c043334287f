#include "check/timed_run.h"

#include <algorithm>

#include "motion/elements.h"

namespace rubble::check {

using motion::PlayState;

namespace {

/// How long one waits between two tries, and at most; and how many steps all tries may take.
constexpr int k_wait_steps = 30, k_longest_wait = 120 * 30, k_most_steps = 60'000;
/// A leg ended where it was to end when the feet are no further from there (metres).
constexpr double k_there_m = 0.02;

class WaitSearch {
public:
    WaitSearch(const motion::World& world, const Character& character, const std::vector<TimedLeg>& legs)
        : world_(world),
          character_(character),
          legs_(legs),
          longest_wait_(std::min(longest_course(world), k_longest_wait)) {}

    std::optional<TimedRun> run(const PlayState& begin) {
        waits_.assign(legs_.size(), 0);
        PlayState end = begin;
        if (!from(0, end)) return {};
        TimedRun out;
        out.end = std::move(end);
        for (size_t i = 0; i < legs_.size(); ++i) {
            if (waits_[i] > 0) out.recording.append({{}, {{waits_[i], {Vec2(0), false, low_[i], false}}}});
            out.begins.push_back(out.recording.steps());
            out.recording.append(legs_[i].run);
        }
        return out;
    }

private:
    /// Plays the legs from one on; changes the state to how it ends.
    bool from(size_t leg, PlayState& state) {
        if (leg == legs_.size()) return true;
        low_.resize(std::max(low_.size(), leg + 1));
        low_[leg] = state.body.crouched;
        PlayState waiting = state;
        for (int waited = 0; waited <= longest_wait_; waited += k_wait_steps) {
            PlayState played = waiting;
            if (play(legs_[leg], played) && from(leg + 1, played)) {
                waits_[leg] = waited, state = std::move(played);
                return true;
            }
            if (steps_ > k_most_steps) return false;
            for (int i = 0; i < k_wait_steps; ++i) advance(waiting, {Vec2(0), false, low_[leg], false});
            if (waiting.body.dead) return false;
        }
        return false;
    }

    bool play(const TimedLeg& leg, PlayState& state) {
        for (const motion::Recording::Run& run : leg.run.runs)
            for (int i = 0; i < run.steps && !state.body.dead; ++i) advance(state, run.input);
        return !state.body.dead && state.body.standing && glm::length(state.body.at - leg.rest) <= k_there_m;
    }

    void advance(PlayState& state, const motion::Input& input) {
        state = step(world_, character_, state, input);
        ++steps_;
    }

    const motion::World& world_;
    const Character& character_;
    const std::vector<TimedLeg>& legs_;
    const int longest_wait_;
    int steps_ = 0;
    std::vector<int> waits_;
    std::vector<bool> low_; ///< whether one waits crouched before each leg
};

} // namespace

int longest_course(const motion::World& world) {
    const auto& elements = world.elements();
    int longest = 0;
    if (!elements) return longest;
    for (const auto& lift : elements->lifts) longest = std::max(longest, lift.course.steps());
    for (const auto& foe : elements->foes) longest = std::max(longest, foe.course.steps());
    return longest;
}

std::optional<TimedRun> timed_run(const motion::World& world, const Character& character,
                                  const PlayState& begin, const std::vector<TimedLeg>& legs) {
    return WaitSearch(world, character, legs).run(begin);
}

} // namespace rubble::check
