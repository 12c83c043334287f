#include <algorithm>
#include <limits>

#include "base/tolerance.h"
#include "motion/elements.h"
#include "motion/sweep.h"

namespace rubble::motion {

namespace {

/// Who is deeper in matter than this after something moved has no room any more (metres).
constexpr double k_crushed_m = 0.03;

Room shifted(Room room, const Vec3& by) {
    room.place.at += by;
    return room;
}

bool is_called(const PlayElements& elements, const PlayElements::Lift& lift, const PuzzleState& puzzle) {
    return std::any_of(lift.switches.begin(), lift.switches.end(),
                       [&](int press) { return is_on(elements, puzzle, press); });
}

/// The clocks one step later.
std::vector<int> ticked(const PlayElements& elements, const Character& c, const PlayState& state) {
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
        clock = (clock + 1) % elements.foes[i].course.steps();
    }
    return clocks;
}

/// Whether a body has ground under it that does not move.
bool has_still_ground(const World& world, const PlayElements& elements, const Character& c,
                      const PlayState& state, const State& body) {
    std::vector<SourceId> gone = state.puzzle.gone;
    for (const PlayElements::Lift& lift : elements.lifts) gone.push_back(lift.source());
    std::sort(gone.begin(), gone.end());
    Body under = body_of(c, body);
    under.radius -= 2 * tolerance::skin_m;
    return support_below(world.without(gone), under, tolerance::limit_m, tolerance::limit_m).has_value();
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

std::vector<Vec3> shifts_of(const PlayElements& elements, const std::vector<int>& clocks) {
    std::vector<Vec3> out;
    const auto clock = [&](size_t i) { return i < clocks.size() ? clocks[i] : 0; };
    for (size_t i = 0; i < elements.lifts.size(); ++i)
        out.push_back(elements.lifts[i].course.at(clock(i)) - elements.lifts[i].course.at(0));
    for (size_t i = 0; i < elements.foes.size(); ++i)
        out.push_back(elements.foes[i].course.at(clock(elements.clock_of_foe(i))) -
                      elements.foes[i].course.at(0));
    return out;
}

PlayState play_freely(const World& world, const Character& c, const PlayState& state, const Input& input) {
    const PlayElements& elements = *world.elements();
    PlayState next{state.body, opened(elements, c, state, input), 0, {}};
    if (!elements.timed()) {
        next.body = step(world.without(next.puzzle.gone), c, state.body, input);
        next.puzzle = acted(elements, c, std::move(next.puzzle), next.body);
        return next;
    }
    next.clocks = ticked(elements, c, state);
    const std::vector<Vec3> before = shifts_of(elements, state.clocks),
                            now = shifts_of(elements, next.clocks);
    for (size_t i = 0; i < elements.lifts.size(); ++i)
        next.body = moved_by(elements.lifts[i], before[i], now[i], c, next.body, [&](const State& body) {
            return has_still_ground(world, elements, c, next, body);
        });
    for (size_t i = 0; i < elements.decks.size(); ++i) {
        const PlayElements::Deck& deck = elements.decks[i];
        if (deck.gone >= 0 && next.clocks[elements.clock_of_deck(i)] >= deck.crumbles_steps &&
            !next.puzzle.cells.has(deck.gone)) {
            next.puzzle.cells.set(deck.gone);
            const SourceId source = deck.source();
            next.puzzle = without(std::move(next.puzzle), source);
        }
    }
    const World& there = world.without(next.puzzle.gone);
    if (elements.lifts.empty()) {
        next.body = step(there, c, next.body, input);
    } else {
        const World::Lent lent = there.with_movers_at(std::span(now).first(elements.lifts.size()));
        Body narrow = body_of(c, next.body);
        narrow.radius -= k_crushed_m, narrow.height -= k_crushed_m;
        if (!state.body.dead && next.body.at != state.body.at &&
            overlap_m(*lent, narrow) > tolerance::limit_m)
            next.body.dead = true;
        else
            next.body = step(*lent, c, next.body, input);
    }
    for (size_t i = 0; i < elements.foes.size(); ++i)
        if (apart_m(shifted(elements.foes[i].room, now[elements.lifts.size() + i]), body_of(c, next.body)) <
            0)
            next.body.dead = true;
    next.puzzle = acted(elements, c, std::move(next.puzzle), next.body);
    return next;
}

} // namespace rubble::motion
