#include "motion/elements.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include "base/angle.h"
#include "base/tolerance.h"
#include "level/element_kinds.h"
#include "level/element_values.h"
#include "motion/switch_numbers.h"

namespace rubble::motion {

namespace {

/// A door opens to a body that is this near and goes against it (metres), at the widest angle whose cosine
/// this is.
constexpr double k_touch_m = 0.12, k_against = 0.5;
/// How far one reaches to use a switch beyond one's own body, and how near under a crate one is that it lies
/// on (metres).
constexpr double k_hand_m = 0.5, k_lies_on_m = 0.2;
/// This near before a barrier one is let pass (metres): more than one step goes.
constexpr double k_let_m = 0.5;

class Reader {
public:
    explicit Reader(const build::Solid& solid) : solid_(solid) {
        out_.keys_are_kept = solid.rules.keys_are_kept;
        out_.nobody_pushes = solid.rules.nobody_pushes;
    }

    PlayElements run() {
        if (!solid_.elements) return {};
        for (const build::PlacedElement& one : *solid_.elements)
            if (acts_as(one.element) == "switch") add_switch(one);
        for (const build::PlacedElement& one : *solid_.elements) add(one);
        return std::move(out_);
    }

private:
    using Placed = build::PlacedElement;

    /// The next bits; -1 where there are no more.
    int bit() {
        if (out_.bits >= most_puzzle_bits) {
            out_.overflows = true;
            return -1;
        }
        return out_.bits++;
    }

    void add(const Placed& one) {
        const std::string& kind = acts_as(one.element);
        if (kind == "key")
            add_thing(one, flag_value(one.element, "kept", false) ? ThingKind::kept_key : ThingKind::key,
                      index_of(out_.keys, text_of(one.element, "kind")));
        else if (kind == "pickup")
            add_thing(one, ThingKind::pick_up, index_of(out_.pick_ups, text_of(one.element, "kind")));
        else if (kind == "item")
            add_item(one);
        else if (kind == "door" || kind == "gate")
            add_door(one);
        else if (kind == "hazard")
            add_hazard(one.id, room_of(one.element), one.element);
        else if (kind == "barrier")
            add_barrier(one);
        else if (kind == "floor")
            add_floor(one);
        else if (kind == "deck")
            add_deck(one, number_value(one.element, "crumbles_s", 0));
        else if (kind == "lift")
            add_lift(one);
        else if (kind == "foe")
            add_foe(one);
        else if (kind == "ladder")
            add_ladder(one);
        else if (kind == "crate")
            add_crate(one);
        else if (kind == "time_limit")
            out_.limit_s = number_of(one.element, "seconds");
        else if (kind == "launcher")
            out_.fixtures.launchers.push_back(
                {one.id, room_of(one.element), point_value(one.element, "velocity_mps", Vec3(0, 0, 8))});
    }

    void add_thing(const Placed& one, ThingKind kind, int name) {
        if (const int own = bit(); own >= 0)
            out_.things.push_back({one.id, kind, name, one.element.at, own, nullptr, 0});
    }

    void add_item(const Placed& one) {
        const size_t before = out_.things.size();
        add_thing(one, ThingKind::item, index_of(out_.items, text_of(one.element, "gives")));
        const CharacterField* skill = find_character_field(text_value(one.element, "skill"));
        if (out_.things.size() == before || !skill) return;
        out_.things.back().skill = skill->member;
        out_.things.back().adds = number_of(one.element, "adds");
    }

    void add_crate(const Placed& one) {
        const std::string needs = text_of(one.element, "needs");
        out_.crates.push_back(
            {one.id, room_of(one.element), needs.empty() ? -1 : index_of(out_.items, needs)});
    }

    void add_switch(const Placed& one) {
        PlayElements::Press press;
        press.id = one.id, press.at = one.element.at;
        const std::string mode = text_value(one.element, "mode", "once");
        press.mode = mode == "toggle" ? PressMode::toggle
                     : mode == "held" ? PressMode::held
                                      : PressMode::once;
        const std::string by = text_value(one.element, "by", "any");
        press.by_foot = by == "foot" || by == "any", press.by_crate = by == "crate" || by == "any";
        press.by_use = by == "use";
        if (press.by_use && press.mode == PressMode::held) press.mode = PressMode::toggle;
        press.bit = bit(), press.stood_on = bit();
        if (press.stood_on >= 0) out_.switches.push_back(press);
    }

    Room room_of(const Element& element) const {
        return {{element.at, element.facing_deg, {}}, size_of(element)};
    }

    void add_door(const Placed& one) {
        PlayElements::Door door;
        door.id = one.id, door.room = room_of(one.element);
        if (acts_as(one.element) == "gate") {
            door.pick_up = index_of(out_.pick_ups, text_of(one.element, "pickup"));
            door.count = int(number_value(one.element, "count", 1));
        } else {
            if (const std::string key = text_of(one.element, "key"); !key.empty()) {
                door.key = index_of(out_.keys, key);
                door.opened = bit(), door.paid = bit();
                if (door.paid < 0) door.key = -1;
            }
            door.open = flag_value(one.element, "open", false);
            door.switches = switch_numbers(out_.switches, one.element, "open_by");
        }
        out_.doors.push_back(std::move(door));
    }

    void add_hazard(const ItemId& id, Room room, const Element& element) {
        const std::string without = text_of(element, "without");
        out_.hazards.push_back({id, std::move(room), without.empty() ? -1 : index_of(out_.items, without)});
    }

    void add_barrier(const Placed& one) {
        const auto [x, y] = cos_sin(one.element.facing_deg);
        out_.barriers.push_back({one.id, room_of(one.element), flag_value(one.element, "one_way", false),
                                 flag_value(one.element, "crates", false), Vec2(x, y)});
    }

    void add_floor(const Placed& one) {
        const std::string acts = text_value(one.element, "acts", "slippery");
        const Room room = room_of(one.element);
        if (acts == "deadly") return add_hazard(one.id, room, one.element);
        if (acts == "crumbles") return add_deck(one, number_of(one.element, "crumbles_s"));
        ActingFloor floor{room, FloorAct::slippery, {}};
        if (acts == "carries") {
            const auto [x, y] = cos_sin(number_value(one.element, "towards_deg", 0));
            floor.acts = FloorAct::carries;
            floor.carries = Vec2(x, y) * number_of(one.element, "speed_mps");
        }
        out_.fixtures.floors.push_back(std::move(floor));
    }

    void add_deck(const Placed& one, double crumbles_s) {
        PlayElements::Deck deck;
        deck.id = one.id, deck.room = room_of(one.element);
        deck.one_way = acts_as(one.element) == "deck" && flag_value(one.element, "one_way", false);
        if (crumbles_s > 0)
            if (deck.gone = bit(); deck.gone >= 0)
                deck.crumbles_steps = std::max(int(std::lround(crumbles_s / step_s)), 1);
        out_.decks.push_back(std::move(deck));
    }

    void add_lift(const Placed& one) {
        std::vector<Vec3> stops = points_value(one.element, "stops");
        if (stops.size() < 2) stops.insert(stops.begin(), one.element.at);
        PlayElements::Lift lift;
        lift.id = one.id, lift.room = room_of(one.element);
        lift.room.place.at = stops[0];
        lift.course = Course(std::move(stops), number_of(one.element, "speed_mps"),
                             number_of(one.element, "wait_s"), true);
        lift.called = text_value(one.element, "runs", "always") == "called";
        lift.switches = switch_numbers(out_.switches, one.element, "called_by");
        out_.lifts.push_back(std::move(lift));
    }

    void add_foe(const Placed& one) {
        std::vector<Vec3> way = points_value(one.element, "path");
        if (way.empty()) way.push_back(one.element.at);
        PlayElements::Foe foe;
        foe.id = one.id, foe.room = room_of(one.element);
        foe.room.place.at = way[0];
        const bool back = text_value(one.element, "way", "loop") == "back_and_forth";
        foe.way = foe_way_of(text_value(one.element, "way"));
        foe.speed_mps = number_of(one.element, "speed_mps");
        foe.sight_m = number_of(one.element, "sight_m");
        foe.seed = uint64_t(number_of(one.element, "seed"));
        if (foe.way == FoeWay::drawn)
            foe.course = Course(std::move(way), foe.speed_mps, 0, back);
        else
            foe.room.place.at = one.element.at;
        if (foe.way == FoeWay::comes_nearer) foe.nearing = out_.nearing++;
        out_.foes.push_back(std::move(foe));
    }

    void add_ladder(const Placed& one) {
        const auto [x, y] = cos_sin(one.element.facing_deg);
        out_.fixtures.ladders.push_back({one.id, one.element.at, Vec2(x, y),
                                         number_of(one.element, "height_m"),
                                         solid_.frame == Frame::side && std::abs(y) > std::abs(x)});
    }

    const build::Solid& solid_;
    PlayElements out_;
};

/// Whether a barrier lets a body pass where it is: before it, or in it where it let it in.
bool lets_pass(const PlayElements::Barrier& barrier, bool let_in, const Body& body) {
    const double apart = apart_m(barrier.room, body);
    if (let_in && apart < tolerance::skin_m) return true;
    const Vec3 towards = barrier.room.place.to_own(barrier.room.place.at + raised(barrier.towards, 0));
    const double half =
        (std::abs(towards.x) * barrier.room.size.x + std::abs(towards.y) * barrier.room.size.y) / 2;
    const double along = glm::dot(flat(body.at - barrier.room.place.at), barrier.towards);
    return apart < k_let_m && along <= tolerance::limit_m - half;
}

/// What is out of the way for a body: also doors in which it is, and barriers that let it pass.
std::vector<SourceId> gone_now(const PlayElements& elements, const PuzzleState& puzzle, const Body& body) {
    std::vector<SourceId> gone = gone_by(elements, puzzle);
    for (size_t i = 0; i < elements.doors.size(); ++i) {
        const PlayElements::Door& door = elements.doors[i];
        const bool was =
            std::find(puzzle.gone.begin(), puzzle.gone.end(), door.source()) != puzzle.gone.end();
        if (was && !is_open(elements, puzzle, int(i)) && apart_m(door.room, body) < tolerance::skin_m)
            gone.push_back(door.source());
    }
    for (const PlayElements::Barrier& barrier : elements.barriers) {
        if (!barrier.one_way) continue; // those have no matter
        const bool was =
            std::find(puzzle.gone.begin(), puzzle.gone.end(), barrier.source()) != puzzle.gone.end();
        if (lets_pass(barrier, was, body)) gone.push_back(barrier.source());
    }
    std::sort(gone.begin(), gone.end());
    return gone;
}

} // namespace

double apart_m(const Room& room, const Body& body) {
    const Vec3 own = room.place.to_own(body.at);
    const Vec2 beside(std::max(std::abs(own.x) - room.size.x / 2, 0.0),
                      std::max(std::abs(own.y) - room.size.y / 2, 0.0));
    const double over = std::max(own.z - room.size.z, -own.z - body.height);
    return std::max(glm::length(beside) - body.radius, over);
}

bool stands_on(const Room& room, const Character& character, const State& body) {
    if (!body.standing || body.dead) return false;
    Body near = body_of(character, body);
    near.height = 0;
    return std::abs(room.place.to_own(body.at).z - room.size.z) <= tolerance::limit_m &&
           apart_m(room, near) <= tolerance::limit_m;
}

PlayElements play_elements(const build::Solid& solid) { return Reader(solid).run(); }

std::vector<Vec2> corners_of(const Room& room) {
    std::vector<Vec2> out;
    for (const auto& [x, y] : {std::pair{-0.5, -0.5}, {0.5, -0.5}, {0.5, 0.5}, {-0.5, 0.5}})
        out.push_back(flat(room.place.to_level({x * room.size.x, y * room.size.y, 0})));
    return out;
}

int held(const PlayElements& elements, const PuzzleState& puzzle, ThingKind kind, int name) {
    int count = 0;
    for (const PlayElements::Thing& thing : elements.things)
        if (thing.kind == kind && thing.name == name && puzzle.cells.has(thing.bit)) ++count;
    if (kind != ThingKind::key) return count;
    if ((count > 0 && elements.keys_are_kept) || held(elements, puzzle, ThingKind::kept_key, name) > 0)
        return std::numeric_limits<int>::max();
    for (const PlayElements::Door& door : elements.doors)
        if (door.key == name && puzzle.cells.has(door.paid)) --count;
    return count;
}

bool is_on(const PlayElements& elements, const PuzzleState& puzzle, int index) {
    const PlayElements::Press& press = elements.switches[size_t(index)];
    return puzzle.cells.has(press.mode == PressMode::held ? press.stood_on : press.bit);
}

bool is_open(const PlayElements& elements, const PuzzleState& puzzle, int index) {
    const PlayElements::Door& door = elements.doors[size_t(index)];
    if (door.opened >= 0 && puzzle.cells.has(door.opened)) return true;
    if (door.pick_up >= 0 && held(elements, puzzle, ThingKind::pick_up, door.pick_up) >= door.count)
        return true;
    const bool swapped = std::any_of(door.switches.begin(), door.switches.end(),
                                     [&](int press) { return is_on(elements, puzzle, press); });
    return door.open != swapped;
}

std::vector<SourceId> gone_by(const PlayElements& elements, const PuzzleState& puzzle) {
    std::vector<SourceId> gone;
    for (size_t i = 0; i < elements.doors.size(); ++i)
        if (is_open(elements, puzzle, int(i))) gone.push_back(elements.doors[i].source());
    for (const PlayElements::Hazard& hazard : elements.hazards)
        if (hazard.without >= 0 && held(elements, puzzle, ThingKind::item, hazard.without) > 0)
            gone.push_back(hazard.source());
    for (const PlayElements::Deck& deck : elements.decks)
        if (deck.gone >= 0 && puzzle.cells.has(deck.gone)) gone.push_back(deck.source());
    std::sort(gone.begin(), gone.end());
    return gone;
}

PuzzleState wherever_one_is(const PlayElements& elements, PuzzleState puzzle) {
    for (const PlayElements::Barrier& barrier : elements.barriers)
        puzzle = with_again(std::move(puzzle), barrier.source());
    return puzzle;
}

bool has_at(const Character& c, const State& body, const Vec3& at, bool in_the_air) {
    const double aside = glm::length(flat(body.at) - flat(at));
    if (body.dead || aside > c.radius_m + tolerance::limit_m) return false;
    if (body.standing && std::abs(body.at.z - at.z) <= c.step_height_m + tolerance::limit_m) return true;
    const double height = body.crouched ? c.crouched_height_m : c.height_m;
    return in_the_air && at.z >= body.at.z && at.z <= body.at.z + height;
}

Character skilled(const PlayElements& elements, const PuzzleState& puzzle, Character character) {
    for (const PlayElements::Thing& thing : elements.things) {
        if (!thing.skill || !puzzle.cells.has(thing.bit)) continue;
        double& metric = character.*thing.skill;
        for (const CharacterField& field : character_fields())
            if (field.member == thing.skill)
                metric = std::clamp(metric + thing.adds, field.least, field.most);
    }
    return character;
}

PlayState begun_with(const PlayElements& elements, const Character& character, const State& body) {
    PlayState state{body, {}, 0};
    state.puzzle.gone = gone_now(elements, state.puzzle, body_of(character, body));
    state.puzzle = acted(elements, character, std::move(state.puzzle), body);
    state.clocks.assign(elements.clocks(), 0);
    state.puzzle.moved.assign(elements.crates.size(), {});
    return state;
}

namespace {

/// Switches that are used: once for each time that the key is pressed beside them.
bool use(const PlayElements& elements, const Character& c, const State& body, bool pressed,
         PuzzleState& puzzle) {
    bool any = false;
    for (const PlayElements::Press& press : elements.switches) {
        if (!press.by_use || pressed == puzzle.cells.has(press.stood_on)) continue;
        const bool near = glm::length(flat(body.at) - flat(press.at)) <= c.radius_m + k_hand_m &&
                          std::abs(press.at.z - body.at.z) <= c.height_m;
        if (pressed && !near) continue;
        puzzle.cells.flip(press.stood_on);
        if (pressed && press.mode == PressMode::once) puzzle.cells.set(press.bit);
        if (pressed && press.mode == PressMode::toggle) puzzle.cells.flip(press.bit);
        any = true;
    }
    return any;
}

/// Whether a crate lies on a switch.
bool crate_on(const PlayElements& elements, const PuzzleState& puzzle, const PlayElements::Press& press) {
    for (size_t i = 0; i < elements.crates.size() && i < puzzle.moved.size(); ++i)
        if (shifted(elements.crates[i].room, metres_of(puzzle.moved[i])).holds(press.at, k_lies_on_m))
            return true;
    return false;
}

} // namespace

PuzzleState opened(const PlayElements& elements, const Character& c, const PlayState& state,
                   const Input& input) {
    PuzzleState puzzle = state.puzzle;
    const Body body = body_of(c, state.body);
    bool any = use(elements, c, state.body, input.use, puzzle);
    const double size = glm::length(input.stick);
    if (size < k_against) {
        if (any) puzzle.gone = gone_now(elements, puzzle, body);
        return puzzle;
    }
    for (size_t i = 0; i < elements.doors.size(); ++i) {
        const PlayElements::Door& door = elements.doors[i];
        if (door.key < 0 || is_open(elements, puzzle, int(i)) || apart_m(door.room, body) > k_touch_m)
            continue;
        const int keys = held(elements, puzzle, ThingKind::key, door.key);
        // The nearest place of the door is where one goes.
        const Vec3 own = door.room.place.to_own(body.at);
        const Vec3 nearest(std::clamp(own.x, -door.room.size.x / 2, door.room.size.x / 2),
                           std::clamp(own.y, -door.room.size.y / 2, door.room.size.y / 2), own.z);
        const Vec2 towards = flat(door.room.place.to_level(nearest) - body.at);
        if (keys <= 0 || glm::dot(towards, input.stick / size) < k_against * glm::length(towards)) continue;
        puzzle.cells.set(door.opened);
        if (keys < std::numeric_limits<int>::max()) puzzle.cells.set(door.paid);
        any = true;
    }
    if (any) puzzle.gone = gone_now(elements, puzzle, body);
    return puzzle;
}

PuzzleState acted(const PlayElements& elements, const Character& c, PuzzleState puzzle, const State& body) {
    const PuzzleState before = puzzle;
    for (const PlayElements::Thing& thing : elements.things)
        if (!puzzle.cells.has(thing.bit) && has_at(c, body, thing.at, thing.kind == ThingKind::pick_up))
            puzzle.cells.set(thing.bit);
    for (const PlayElements::Press& press : elements.switches) {
        if (press.by_use) continue;
        const bool stands = (press.by_foot && has_at(c, body, press.at, false)) ||
                            (press.by_crate && crate_on(elements, puzzle, press)),
                   stood = puzzle.cells.has(press.stood_on);
        if (stands == stood) continue;
        puzzle.cells.flip(press.stood_on);
        if (stands && press.mode == PressMode::once) puzzle.cells.set(press.bit);
        if (stands && press.mode == PressMode::toggle) puzzle.cells.flip(press.bit);
    }
    // Doors that closed behind somebody stay closed, those in which somebody stands wait.
    if (before.cells != puzzle.cells || !puzzle.gone.empty() || !elements.barriers.empty())
        puzzle.gone = gone_now(elements, puzzle, body_of(c, body));
    return puzzle;
}

} // namespace rubble::motion
