#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/tolerance.h"
#include "check/play_reach.h"
#include "check/timed_run.h"
#include "check/walk.h"

// How one gets on by what acts on the body: up and down ladders, thrown, on lifts, through doors that are
// open only while one stands on a switch. There the ground does not say where one may land, so players are
// let go on in several directions and looked at where they come to rest.

namespace rubble::check {

using motion::Input;
using motion::PlayElements;
using motion::PlayState;
using motion::Recorder;

namespace {

constexpr int k_directions = 8;
/// How near to a ladder's foot and to its upper edge one stands before it (metres).
constexpr double k_before_ladder_m = 0.05;
/// How far apart the places are at which one lets go of a ladder, and leaves a lift (metres, steps).
constexpr double k_rungs_m = 0.5;
constexpr int k_ride_steps = 30;
/// So many ways to leave a lift for the same ledge are kept.
constexpr size_t k_most_exits = 6;
/// How long a player goes on before it has to stand (steps).
constexpr int k_try_steps = 480;
/// How far it walks where the ground goes on (steps).
constexpr int k_walk_steps = 150;

/// How far away places are flown to, from how large a ledge on, and how far within its edge (metres).
constexpr double k_flight_m = 15, k_foothold_m2 = 1e-3, k_inside_m = 0.3;
/// How far before a barrier one stands that lets one pass, and how far one runs up at most (metres).
constexpr double k_before_barrier_m = 0.05, k_run_up_m = 3;
/// How eagerly one flies to a place (per second).
constexpr double k_eager_hz = 4;

/// How often a run that something comes in the way of is planned anew, and how many waits are tried then.
constexpr int k_most_detours = 4, k_detour_waits = 4;
/// A foe in the way is hopped over: how long before it one tries to jump, in steps of so many steps.
constexpr int k_longest_hop = 90, k_hop_steps = 6;

Input held_stick(Vec2 stick, bool jump = false) { return {stick, jump, false, false}; }

/// Goes in a direction until it stands elsewhere, with a jump after some steps where asked.
auto going(Vec2 direction, int jump_at) {
    return [=, left = false](const PlayState& now, int step) mutable -> std::optional<Input> {
        if (!now.body.standing) left = true;
        if (!left && step > k_walk_steps + std::max(jump_at, 0)) return {};
        if (now.body.dead || step > k_try_steps || (left && now.body.standing && step > jump_at)) return {};
        return held_stick(direction, jump_at >= 0 && step >= jump_at && step < jump_at + 30);
    };
}

/// Flies to over a place, until it stands elsewhere.
auto flying_to(Vec2 place, double speed_mps) {
    return [=, left = false](const PlayState& now, int step) mutable -> std::optional<Input> {
        if (!now.body.standing) left = true;
        if (now.body.dead || step > k_try_steps || (left && now.body.standing)) return {};
        Vec2 stick = (place - flat(now.body.at)) * (k_eager_hz / speed_mps);
        if (const double size = glm::length(stick); size > 1) stick /= size;
        return held_stick(stick);
    };
}

} // namespace

std::vector<Vec2> PlayReach::places_beyond(const PlayState& state, double highest_m) {
    const auto open = levels_.like(state.puzzle);
    std::vector<Vec2> out;
    const Vec2 here = flat(state.body.at);
    for (int ledge = 0; ledge < int(open->ground.ledges.size()); ++ledge) {
        const Ledge& one = open->ground.ledges[size_t(ledge)];
        if (one.area_m2 < k_foothold_m2 || one.box.low.z > highest_m) continue;
        if (is_tinted(state, ledge)) continue;
        Vec2 nearest(0);
        double least = k_flight_m;
        for (const int f : one.fragments) {
            const Fragment& fragment = open->ground.fragments[size_t(f)];
            const Vec2 place = geometry::nearest(fragment.area, here);
            const double apart = glm::length(place - here);
            if (apart >= least) continue;
            // A little inside, so that it stands there.
            const Vec2 middle = (fragment.box.low + fragment.box.high) * 0.5;
            const double inside = glm::length(middle - place);
            least = apart;
            nearest = place + (middle - place) * (inside > 0 ? std::min(k_inside_m / inside, 1.0) : 0.0);
        }
        if (least < k_flight_m) out.push_back(nearest);
    }
    return out;
}

std::vector<Vec2> PlayReach::directions() const {
    if (world_.flat_on()) return {{1, 0}, {-1, 0}, {0, 0}};
    std::vector<Vec2> out{{0, 0}};
    for (int k = 0; k < k_directions; ++k) {
        const double angle = 2 * std::numbers::pi * k / k_directions;
        out.push_back({std::cos(angle), std::sin(angle)});
    }
    return out;
}

int PlayReach::try_out(const PlayState& from, const Way& before, const Policy& policy) {
    Recorder recorder(world_, character_, from);
    for (int step = 0; !recorder.state().dead; ++step) {
        const auto input = policy(recorder.play(), step);
        if (!input) break;
        recorder.advance(*input);
    }
    const int ledge = levels_.like(from.puzzle)->ground.ledge_at(recorder.state().at, tolerance::feet_m);
    if (!recorder.state().standing || recorder.state().dead) return -1;
    if (is_known(recorder.play()) || !brake(recorder) || is_known(recorder.play())) return ledge;
    add(recorder.play(), before.with(recorder.recording()));
    return ledge;
}

bool PlayReach::is_tinted(const PlayState& state, int ledge) const {
    const auto same = known_.find(key_of(state));
    return same != known_.end() && std::any_of(same->second.begin(), same->second.end(),
                                               [&](size_t c) { return chapters_[c].reach.tinted(ledge); });
}

bool PlayReach::leads_nowhere(size_t chapter, size_t lift) const {
    const auto& exits = chapters_[chapter].open->exits;
    const auto known = exits.find(lift);
    return known != exits.end() && std::all_of(known->second.begin(), known->second.end(), [&](auto& one) {
               return is_tinted(chapters_[chapter].begin, one.first);
           });
}

std::optional<PlayReach::Run> PlayReach::on_from(const From& from, const Recorder& there,
                                                 const Spot& spot) const {
    if (--replans_left_ < 0) return {};
    Way so_far = from.before.with(there.recording());
    const Reach reach = levels_.search(*from.open, there.play(), so_far.recording);
    if (!reach.reached(spot.ledge)) return {};
    return run_to(From{there.play(), so_far, from.open, &reach, from.detours + 1}, spot);
}

std::optional<PlayReach::Run> PlayReach::hop(const From& from, int wait, const motion::Recording& first,
                                             int dies_at, const Spot& spot) const {
    for (int at = dies_at - k_hop_steps; at >= 0 && at >= dies_at - k_longest_hop; at -= k_hop_steps) {
        Recorder recorder(world_, character_, from.begin);
        for (int i = 0; i < wait; ++i) recorder.advance({});
        Input input;
        int step = 0;
        for (const auto& run : first.runs)
            for (int i = 0; i < run.steps && step < at; ++i, ++step)
                input = run.input, recorder.advance(input);
        input.jump = true, input.crouch = false;
        bool left = false;
        for (int i = 0; i < k_longest_hop * 2 && !recorder.state().dead; ++i) {
            recorder.advance(input);
            left = left || !recorder.state().standing;
            if (left && recorder.state().standing) break;
        }
        if (!recorder.state().standing || !brake(recorder)) continue;
        if (auto run = on_from(from, recorder, spot)) return run;
    }
    return {};
}

std::optional<PlayReach::Run> PlayReach::detour(const From& start, const std::vector<TimedLeg>& legs,
                                                const Spot& spot) const {
    const int longest = longest_course(world_);
    if (longest == 0 || start.detours >= k_most_detours || replans_left_ <= 0) return {};
    // To the leg that cannot be played.
    From from = start;
    size_t leg = 0;
    for (; leg + 1 < legs.size(); ++leg) {
        auto played = timed_run(world_, character_, from.begin, {legs[leg]});
        if (!played) break;
        from.begin = std::move(played->end);
        if (legs[leg].link)
            from.before.legs.push_back(
                {legs[leg].link, from.before.recording.steps() + played->begins[0] + legs[leg].leap_begins});
        from.before = from.before.with(played->recording);
    }
    const motion::Recording& first = legs[leg].run;
    for (int wait = 0; wait < longest && !cancel_.requested(); wait += longest / k_detour_waits + 1) {
        if (replans_left_ <= 0) return {};
        Recorder recorder(world_, character_, from.begin);
        for (int i = 0; i < wait; ++i) recorder.advance({});
        int steps = 0;
        for (const auto& run : first.runs)
            for (int i = 0; i < run.steps && !recorder.state().dead; ++i, ++steps)
                recorder.advance(run.input);
        if (recorder.state().dead && character_.jump_height_m > 0) {
            if (auto run = hop(from, wait, first, steps, spot)) return run;
            continue;
        }
        if (!brake(recorder)) continue;
        if (lift_under(recorder.play()) < 0) {
            if (auto run = on_from(from, recorder, spot)) return run;
            continue;
        }
        for (const Vec2 direction : directions()) {
            Recorder off = recorder;
            auto policy = going(direction, -1);
            for (int step = 0;; ++step) {
                const auto input = policy(off.play(), step);
                if (!input) break;
                off.advance(*input);
            }
            if (!brake(off) || lift_under(off.play()) >= 0) continue;
            if (auto run = on_from(from, off, spot)) return run;
        }
    }
    return {};
}

void PlayReach::climb(size_t index, const motion::Ladder& ladder) {
    const double r = character_.radius_m;
    if (character_.climb_speed_mps <= 0) return;
    const int longest = int(ladder.height_m / character_.climb_speed_mps / motion::step_s) + 240;
    const Vec2 up = ladder.behind ? Vec2(0, 1) : -ladder.front;
    // From its foot: to the top, or let go of it on the way.
    for (const double apart : {r + k_before_ladder_m, r + 0.2, 0.0}) {
        if (ladder.behind != (apart == 0)) continue;
        const auto run = run_to(chapters_[index], ladder.foot + raised(ladder.front * apart, 0));
        if (!run) continue;
        if (!first_use(index, ladder.id, 0)) break;
        const PlayState foot = run->end;
        const Way way = run->way();
        try_out(foot, way, [&](const PlayState& now, int step) -> std::optional<Input> {
            if (step > longest || (step > 10 && now.body.standing)) return {};
            return held_stick(up);
        });
        Recorder climbing(world_, character_, foot);
        double next_m = foot.body.at.z + k_rungs_m;
        for (int step = 0; step < longest && !climbing.state().dead; ++step) {
            climbing.advance(held_stick(up));
            if (step > 10 && !climbing.state().climbing) break;
            const bool at_top = climbing.state().at.z >= ladder.top() - tolerance::limit_m;
            if (climbing.state().at.z < next_m && !at_top) continue;
            next_m += k_rungs_m;
            const Way so_far = way.with(climbing.recording());
            // It drops, or jumps off.
            const auto let_go = [&](const Policy& then) {
                for (const bool jumps : {false, true}) {
                    Policy copy = then;
                    try_out(climbing.play(), so_far,
                            [&](const PlayState& now, int s) -> std::optional<Input> {
                                auto input = copy(now, s);
                                if (s == 0 && !jumps) return held_stick(Vec2(0), true);
                                if (input && jumps && s < 30) input->jump = true;
                                return input;
                            });
                }
            };
            const double highest = climbing.state().at.z + character_.jump_height_m;
            for (const Vec2 place : places_beyond(climbing.play(), highest))
                let_go(flying_to(place, character_.run_speed_mps));
            for (const Vec2 direction : directions())
                if (glm::dot(direction, up) <= 0.5) let_go(going(direction, -1));
            if (at_top) break;
        }
        break;
    }
    // From its upper end down.
    if (!ladder.behind) {
        for (const double apart : {r * 0.5, r + 0.1, 0.02}) {
            const Vec3 edge = raised(flat(ladder.foot) - ladder.front * apart, ladder.top());
            const auto run = run_to(chapters_[index], edge);
            if (!run) continue;
            if (!first_use(index, ladder.id, 1)) break;
            try_out(run->end, run->way(), [&](const PlayState& now, int step) -> std::optional<Input> {
                const bool below =
                    now.body.standing && now.body.at.z < ladder.top() - character_.step_height_m;
                if (step > longest || below) return {};
                return held_stick(ladder.front);
            });
            break;
        }
        return;
    }
    for (const double side : {-1.0, 1.0})
        for (const double apart : {0.5, 0.8, 1.2}) {
            const auto run = run_to(chapters_[index],
                                    raised(flat(ladder.foot) + Vec2(side * (apart + r), 0), ladder.top()));
            if (!run) continue;
            try_out(run->end, run->way(), [&](const PlayState& now, int step) -> std::optional<Input> {
                const bool below =
                    now.body.standing && now.body.at.z < ladder.top() - character_.step_height_m;
                if (step > longest + 240 || below) return {};
                const bool grips = !now.body.standing && ladder.holds(now.body.at, r);
                return held_stick(grips ? Vec2(0, -1) : Vec2(-side, 0));
            });
            break;
        }
}

void PlayReach::launch(size_t index, const motion::Launcher& launcher) {
    const auto sides = corners_of(launcher.room);
    for (size_t side = 0; side < sides.size(); ++side) {
        const Vec2 a = sides[side], b = sides[(side + 1) % sides.size()];
        const Vec2 way = glm::normalize(b - a), out(way.y, -way.x);
        const Vec2 before = (a + b) * 0.5 + out * 0.1;
        if (world_.flat_on() && std::abs(before.y) > 0.01) continue;
        const auto run = run_to(chapters_[index], raised(before, launcher.room.place.at.z));
        if (!run) continue;
        if (!first_use(index, launcher.id, 0)) return;
        const PlayState from = run->end;
        const Way before_it = run->way();
        const auto fly = [&](Policy flying) {
            bool thrown = false;
            try_out(from, before_it, [&](const PlayState& now, int step) -> std::optional<Input> {
                thrown = thrown || !now.body.standing;
                if (!thrown && step > k_walk_steps) return {};
                return thrown ? flying(now, step) : held_stick(-out);
            });
        };
        const double speed = std::max(launcher.velocity.z, 0.0);
        const double highest = from.body.at.z + speed * speed / (2 * character_.gravity_up_mps2);
        for (const Vec2 place : places_beyond(from, highest)) fly(flying_to(place, character_.run_speed_mps));
        for (const Vec2 direction : directions()) fly(going(direction, -1));
        return;
    }
}

void PlayReach::ride(size_t index, size_t lift) {
    const PlayElements::Lift& one = world_.elements()->lifts[lift];
    if (used_.contains({key_of(chapters_[index].begin), one.id, 0}) || leads_nowhere(index, lift)) return;
    const int stops = int(one.course.places().size());
    for (int stop = 0; stop < stops && !cancel_.requested(); ++stop) {
        const Chapter& chapter = chapters_[index];
        const auto open = levels_.with_lift_at(chapter.begin.puzzle, lift, stop);
        const Reach reach = levels_.search(*open, chapter.begin, chapter.before.recording);
        const Vec3 top = one.course.places()[size_t(stop)] + Vec3(0, 0, one.room.size.z);
        Spot spot;
        spot.fragment = open->ground.locate(top, tolerance::feet_m);
        if (spot.fragment < 0) continue;
        spot.at = flat(top), spot.ledge = open->ground.fragments[size_t(spot.fragment)].ledge;
        if (!reach.reached(spot.ledge)) continue;
        const auto run = run_to(From{chapter.begin, chapter.before, open.get(), &reach}, spot);
        if (!run) {
            // It is reached, but no time was found at which it stands there: from another chapter perhaps.
            missed_.insert({key_of(chapter.begin), one.id, 0});
            continue;
        }
        first_use(index, one.id, 0);
        return leave(run->end, run->way(), lift);
    }
}

void PlayReach::leave(const PlayState& on, const Way& before, size_t lift) {
    const PlayElements::Lift& one = world_.elements()->lifts[lift];
    const auto open = levels_.like(on.puzzle);
    const bool is_new = !open->exits.contains(lift);
    auto& exits = open->exits[lift];
    // How it was left another time tells how to leave it now.
    std::vector<LiftExit> known;
    for (const auto& [ledge, ways] : exits)
        if (!is_tinted(on, ledge)) known.insert(known.end(), ways.begin(), ways.end());
    Recorder riding(world_, character_, on);
    for (int step = 0; step < one.course.steps() && !riding.state().dead; ++step) {
        const int clock = riding.play().clocks[lift];
        // In the middle of every wait, and again and again on the way.
        const bool begins_to_wait = one.course.waits_at(clock) >= 0 && one.course.wait_begins(clock) == clock;
        std::vector<LiftExit> tried;
        if (is_new && (step % k_ride_steps == 0 || begins_to_wait)) {
            for (const Vec2 direction : directions())
                for (const int jump_at : {-1, 0, 12})
                    if (direction != Vec2(0) || jump_at < 0) tried.push_back({clock, direction, jump_at});
        } else if (!is_new) {
            std::copy_if(known.begin(), known.end(), std::back_inserter(tried),
                         [&](const LiftExit& exit) { return exit.clock == clock; });
        }
        if (tried.empty()) {
            riding.advance({});
            continue;
        }
        const Way so_far = before.with(riding.recording());
        for (const LiftExit& exit : tried) {
            if (cancel_.requested()) return;
            const int ledge = try_out(riding.play(), so_far, going(exit.direction, exit.jump_at));
            if (auto& ways = exits[ledge]; ledge >= 0 && is_new && ways.size() < k_most_exits)
                ways.push_back(exit);
        }
        riding.advance({});
    }
    exits.erase(-1);
}

void PlayReach::hold(size_t index, const PlayElements::Press& press) {
    const PlayElements& elements = *world_.elements();
    // Whoever leaves the switch finds its doors closed, but for those within the body's own reach.
    for (size_t d = 0; d < elements.doors.size(); ++d) {
        const PlayElements::Door& door = elements.doors[d];
        const bool listens = std::any_of(door.switches.begin(), door.switches.end(),
                                         [&](int s) { return elements.switches[size_t(s)].id == press.id; });
        if (!listens) continue;
        const motion::Body there{press.at, 2 * character_.radius_m + tolerance::limit_m, character_.height_m};
        if (apart_m(door.room, there) > 0) continue;
        for (const Spot& spot : spots_of(chapters_[index].open->ground, character_, press.at)) {
            if (!chapters_[index].reach.reached(spot.ledge)) continue;
            const auto run = run_to(chapters_[index], spot);
            if (!run) continue;
            const PlayState on = run->end;
            const Way way = run->way();
            for (const Vec2 direction : directions()) try_out(on, way, going(direction, 60));
            complete_ = false; // there are more ways than those to be in it while it closes
            break;
        }
    }
}

void PlayReach::pass(size_t index, const PlayElements::Barrier& barrier) {
    const Vec2 along(-barrier.towards.y, barrier.towards.x);
    const Vec3 own = barrier.room.place.to_own(barrier.room.place.at + raised(barrier.towards, 0));
    const Vec3& size = barrier.room.size;
    const double deep = std::abs(own.x) * size.x + std::abs(own.y) * size.y,
                 wide = std::abs(own.y) * size.x + std::abs(own.x) * size.y;
    const auto place = [&](double ahead, double aside) {
        return barrier.room.place.at + raised(barrier.towards * ahead + along * aside, 0);
    };
    const auto has_ground = [&](const Vec3& at) {
        return chapters_[index].open->ground.locate(at, character_.step_height_m) >= 0;
    };
    const double near = deep / 2 + character_.radius_m + k_before_barrier_m;
    for (const double part : {0.0, -1 / 3.0, 1 / 3.0}) {
        const double aside = wide * part;
        if (world_.flat_on() && std::abs(place(0, aside).y) > 0.01) continue;
        // Whoever flies through it may get where nobody gets who begins to run behind it.
        if (!has_ground(place(-near, aside)) || !has_ground(place(near + k_run_up_m, aside)))
            complete_ = false;
        const auto run = run_to(chapters_[index], place(-near, aside));
        if (!run || !first_use(index, barrier.id, part < 0 ? 1 : part > 0 ? 2 : 0)) continue;
        const PlayState from = run->end;
        const Way way = run->way();
        try_out(from, way, [&](const PlayState& now, int step) -> std::optional<Input> {
            const double ahead = glm::dot(flat(now.body.at - barrier.room.place.at), barrier.towards);
            if (now.body.dead || step > k_try_steps || (ahead > near && now.body.standing)) return {};
            return held_stick(barrier.towards);
        });
    }
}

} // namespace rubble::check
