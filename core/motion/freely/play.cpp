#include <algorithm>
#include <limits>
#include <span>

#include "base/tolerance.h"
#include "motion/elements.h"
#include "motion/sweep.h"

namespace rubble::motion {

namespace {

/// Who is deeper in matter than this after something moved has no room any more (metres).
constexpr double k_crushed_m = 0.03;

bool is_called(const PlayElements& elements, const PlayElements::Lift& lift, const PuzzleState& puzzle) {
    return std::any_of(lift.switches.begin(), lift.switches.end(),
                       [&](int press) { return is_on(elements, puzzle, press); });
}

/// The level without what moves by itself.
const World& still_world(const World& world, const PlayElements& elements, const PuzzleState& puzzle) {
    std::vector<SourceId> gone = puzzle.gone;
    for (const PlayElements::Lift& lift : elements.lifts) gone.push_back(lift.source());
    std::sort(gone.begin(), gone.end());
    return world.without(gone);
}

/// The clocks one step later.
std::vector<int> ticked(const World& world, const PlayElements& elements, const Character& c,
                        const PlayState& state) {
    std::vector<int> clocks = state.clocks;
    clocks.resize(elements.clocks(), 0);
    for (size_t i = 0; i < elements.lifts.size(); ++i) {
        const PlayElements::Lift& lift = elements.lifts[i];
        const Vec3 from = lift.course.at(0), now = lift.course.at(clocks[i]);
        const bool goes = !lift.called || lift.course.waits_at(clocks[i]) < 0 ||
                          is_called(elements, lift, state.puzzle) ||
                          stands_on(shifted(lift.room, now - from), c, state.body);
        // One that nobody calls any more waits from the beginning, for the next one.
        clocks[i] = goes ? (clocks[i] + 1) % lift.course.steps() : lift.course.wait_begins(clocks[i]);
    }
    for (size_t i = 0; i < elements.decks.size(); ++i) {
        const PlayElements::Deck& deck = elements.decks[i];
        int& clock = clocks[elements.clock_of_deck(i)];
        if (deck.gone >= 0 && clock < deck.crumbles_steps &&
            (clock > 0 || stands_on(deck.room, c, state.body)))
            ++clock;
    }
    for (size_t i = 0; i < elements.foes.size(); ++i) {
        int& clock = clocks[elements.clock_of_foe(i)];
        clock = elements.foes[i].course.next(clock);
        if (const int which = elements.foes[i].nearing; which >= 0) {
            int* const place = clocks.data() + elements.place_of_nearing(which);
            const auto now = came_nearer(still_world(world, elements, state.puzzle), elements.foes[i],
                                         {place[0], place[1], place[2]}, body_of(c, state.body));
            std::copy(now.begin(), now.end(), place);
        }
    }
    return clocks;
}

/// Whether a body has ground under it that does not move.
bool has_still_ground(const World& world, const PlayElements& elements, const Character& c,
                      const PlayState& state, const State& body) {
    Body under = body_of(c, body);
    under.radius -= 2 * tolerance::skin_m;
    return support_below(still_world(world, elements, state.puzzle), under, tolerance::limit_m,
                         tolerance::limit_m)
        .has_value();
}

/// A body after a lift moved: with it where it stands on it, out of its way where it comes against it. One
/// that goes down leaves behind who has other ground too (`held_up`).
State moved_by(const PlayElements::Lift& lift, const Vec3& before, const Vec3& now, const Character& c,
               State body, const auto& held_up) {
    if (before == now) return body;
    const Room old = shifted(lift.room, before), room = shifted(lift.room, now);
    const double top = room.place.at.z + room.size.z;
    if (stands_on(old, c, body)) {
        if (now.z <= before.z && held_up(body)) return body;
        body.at = raised(flat(body.at) + flat(now - before), top);
        return body;
    }
    if (apart_m(room, body_of(c, body)) >= -tolerance::skin_m) return body;
    const Vec3 way = now - before;
    if (way.z > 0 && body.at.z >= old.place.at.z + old.size.z - c.step_height_m) {
        body.at.z = top; // it comes from below
        body.velocity.z = std::max(body.velocity.z, 0.0);
    } else if (flat(way) != Vec2(0)) {
        body.at += raised(flat(way), 0);
    }
    return body;
}

} // namespace

Shifts shifts_of(const PlayElements& elements, const PlayState& state) {
    Shifts out;
    const auto clock = [&](size_t i) { return i < state.clocks.size() ? state.clocks[i] : 0; };
    for (size_t i = 0; i < elements.lifts.size(); ++i)
        out.movers.push_back(elements.lifts[i].course.at(clock(i)) - elements.lifts[i].course.at(0));
    for (size_t i = 0; i < elements.crates.size(); ++i)
        out.movers.push_back(i < state.puzzle.moved.size() ? metres_of(state.puzzle.moved[i]) : Vec3(0));
    for (size_t i = 0; i < elements.foes.size(); ++i) {
        const PlayElements::Foe& foe = elements.foes[i];
        if (foe.nearing >= 0) {
            const size_t place = elements.place_of_nearing(foe.nearing);
            out.foes.push_back(metres_of({clock(place), clock(place + 1), clock(place + 2)}));
        } else {
            out.foes.push_back(foe.course.at(clock(elements.clock_of_foe(i))) - foe.course.at(0));
        }
    }
    return out;
}

PlayState play_freely(const World& world, const Character& character, const PlayState& state,
                      const Input& input) {
    const PlayElements& elements = *world.elements();
    const Character c = skilled(elements, state.puzzle, character);
    PlayState next{state.body, opened(elements, c, state, input), 0, {}};
    if (!elements.timed() && elements.crates.empty()) {
        next.body = step(world.without(next.puzzle.gone), c, state.body, input);
        next.puzzle = acted(elements, c, std::move(next.puzzle), next.body);
        return next;
    }
    next.clocks = ticked(world, elements, c, state);
    const Shifts before = shifts_of(elements, state), now = shifts_of(elements, next);
    const size_t lifts = elements.lifts.size();
    for (size_t i = 0; i < lifts; ++i)
        next.body =
            moved_by(elements.lifts[i], before.movers[i], now.movers[i], c, next.body,
                     [&](const State& body) { return has_still_ground(world, elements, c, next, body); });
    for (size_t i = 0; i < elements.decks.size(); ++i) {
        const PlayElements::Deck& deck = elements.decks[i];
        if (deck.gone >= 0 && next.clocks[elements.clock_of_deck(i)] >= deck.crumbles_steps &&
            !next.puzzle.cells.has(deck.gone)) {
            next.puzzle.cells.set(deck.gone);
            const SourceId source = deck.source();
            next.puzzle = without(std::move(next.puzzle), source);
        }
    }
    if (!elements.crates.empty()) {
        CratesMoved moved =
            crates_moved(world, elements, c, next, input, std::span(before.movers).first(lifts),
                         std::span(now.movers).first(lifts));
        next.puzzle = std::move(moved.puzzle), next.body = moved.body;
    }
    const World& there = world.without(next.puzzle.gone);
    if (now.movers.empty()) {
        next.body = step(there, c, next.body, input);
    } else {
        const World::Lent lent = there.with_movers_at(shifts_of(elements, next).movers);
        Body narrow = body_of(c, next.body);
        narrow.radius -= k_crushed_m, narrow.height -= k_crushed_m;
        if (!state.body.dead && next.body.at != state.body.at &&
            overlap_m(*lent, narrow) > tolerance::limit_m)
            next.body.dead = true;
        else
            next.body = step(*lent, c, next.body, input);
    }
    for (size_t i = 0; i < elements.foes.size(); ++i)
        if (apart_m(shifted(elements.foes[i].room, now.foes[i]), body_of(c, next.body)) < 0)
            next.body.dead = true;
    next.puzzle = acted(elements, c, std::move(next.puzzle), next.body);
    return next;
}

} // namespace rubble::motion
