#include <algorithm>
#include <cmath>

#include "base/tolerance.h"
#include "check/play_reach.h"
#include "check/walk.h"

// Crates that are pushed. Each place that a crate is left at is another level to walk in, so that it is left
// only where that may matter: as far as it goes, where it fell, on switches, and at every metre.

namespace rubble::check {

using motion::PlayElements;
using motion::PlayState;
using motion::Recorder;

namespace {

/// How far from a crate one stands before pushing it, and how far it is pushed at most (metres).
constexpr double k_behind_m = 0.01, k_farthest_m = 12;
/// How long a push lasts at most, after how long without moving it has ended, and how long a crate may fall
/// (steps).
constexpr int k_push_steps = 120 * 8, k_stuck_steps = 20, k_fall_steps = 120 * 4;
/// How far apart crates are left, and how near to a switch (metres).
constexpr double k_apart_m = 1, k_on_switch_m = 0.05;

/// Lets go until the figure stands and the crates lie still; false where that does not come.
bool settles(Recorder& recorder) {
    for (int step = 0; step < k_fall_steps && !recorder.state().dead; ++step) {
        const auto before = recorder.play().puzzle.moved;
        recorder.advance({});
        const motion::State& body = recorder.state();
        if (before == recorder.play().puzzle.moved && body.standing && body.velocity == Vec3(0)) return true;
    }
    return false;
}

} // namespace

void PlayReach::push(size_t index, size_t crate) {
    const PlayElements& elements = *world_.elements();
    const PlayElements::Crate& one = elements.crates[crate];
    if (elements.nobody_pushes || character_.push_part <= 0) return;
    const bool flat_on = world_.flat_on();
    for (int side = 0; side < 4; ++side) {
        if (cancel_.requested()) return;
        const motion::Room room =
            shifted(one.room, motion::metres_of(chapters_[index].begin.puzzle.moved[crate]));
        const bool along_x = side % 2 == 0;
        const double sign = side < 2 ? 1 : -1, half = (along_x ? room.size.x : room.size.y) / 2;
        const Vec3 inwards = along_x ? Vec3(sign, 0, 0) : Vec3(0, sign, 0);
        const Vec2 towards = flat(room.place.direction(inwards));
        if (flat_on && std::abs(towards.y) > tolerance::limit_m) continue;
        const Vec3 behind =
            room.place.at -
            raised(towards *
                       (half + levels_.like(chapters_[index].begin.puzzle)->character.radius_m + k_behind_m),
                   0);
        const auto run = run_to(chapters_[index], behind);
        if (!run) continue;
        used_.insert({key_of(chapters_[index].begin), one.id, side});
        Recorder pushing(world_, character_, run->end);
        const Way way = run->way();
        const auto place = [&](const PlayState& state) {
            return shifted(one.room, motion::metres_of(state.puzzle.moved[crate])).place.at;
        };
        const Vec3 begin = place(pushing.play());
        const auto leave_it = [&] {
            Recorder end = pushing;
            if (settles(end) && !is_known(end.play())) add(end.play(), way.with(end.recording()));
        };
        int still = 0;
        double last = 0;
        for (int step = 0; step < k_push_steps && still < k_stuck_steps && !pushing.state().dead; ++step) {
            const Vec3 before = place(pushing.play());
            pushing.advance({towards, false, false, false});
            const Vec3 now = place(pushing.play());
            const double gone = glm::length(flat(now - begin));
            still = now == before ? still + 1 : 0;
            if (now.z < before.z || gone > k_farthest_m) break; // it falls, or goes on for ever
            const bool on_switch =
                std::any_of(elements.switches.begin(), elements.switches.end(), [&](auto& press) {
                    return press.by_crate && glm::length(flat(press.at - now)) < k_on_switch_m &&
                           glm::length(flat(press.at - before)) >= k_on_switch_m;
                });
            if (gone - last < k_apart_m && !on_switch) continue;
            if (!on_switch) last = gone;
            leave_it();
        }
        if (glm::length(place(pushing.play()) - begin) > tolerance::limit_m) leave_it();
        // There are more places to leave it at than those.
        complete_ = false;
    }
}

} // namespace rubble::check
