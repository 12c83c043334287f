#pragma once

#include <array>
#include <optional>
#include <span>
#include <string>
#include <vector>

#include "motion/freely/course.h"
#include "motion/freely/fixtures.h"
#include "motion/play_kinds.h"
#include "motion/play_state.h"

namespace rubble::motion {

/// The elements of a level that is not played from cell to cell, as they act: doors and gates are matter
/// until they are open, what is taken is taken by whoever has it, switches are pressed by who stands on them.
struct PlayElements {
    /// Something that is taken.
    struct Thing {
        ItemId id;
        ThingKind kind = ThingKind::pick_up;
        int name = -1; ///< which kind of key, pick-up or item
        Vec3 at{0};
        int bit = 0;
        double Character::*skill = nullptr; ///< the metric of which whoever has it has more
        double adds = 0;
    };
    struct Door {
        ItemId id;
        Room room;
        int key = -1;
        bool open = false;
        std::vector<int> switches; ///< any of them swaps it
        int pick_up = -1, count = 0;
        int opened = -1, paid = -1; ///< bits
        SourceId source() const { return {id, 0}; }
    };
    struct Press {
        ItemId id;
        PressMode mode = PressMode::once;
        Vec3 at{0};
        int bit = 0, stood_on = 0; ///< bits: it is on, and somebody stands on it, or is using it
        bool by_foot = true, by_crate = true, by_use = false;
    };
    /// What kills whoever is in it without an item.
    struct Hazard {
        ItemId id;
        Room room;
        int without = -1;
        SourceId source() const { return {id, 0}; }
    };
    /// What bodies pass in one direction only, or not at all where they are crates.
    struct Barrier {
        ItemId id;
        Room room;
        bool one_way = false, crates = false; ///< whether crates pass it too
        Vec2 towards{1, 0};                   ///< the direction in which one that is one-way lets pass
        SourceId source() const { return {id, 0}; }
        /// Whether a crate passes it that is moved like this.
        bool lets_crate(Vec2 by) const { return crates && (!one_way || glm::dot(by, towards) > 0); }
    };
    /// A deck that goes through its stops and carries who stands on it, always or while it is called.
    struct Lift {
        ItemId id;
        Room room; ///< at its first stop
        Course course;
        bool called = false;
        std::vector<int> switches; ///< any of them calls it
        SourceId source() const { return {id, 0}; }
    };
    /// A plate of matter; one that crumbles is gone some time after somebody stepped on it.
    struct Deck {
        ItemId id;
        Room room;
        bool one_way = false;
        int crumbles_steps = 0; ///< 0: it stays
        int gone = -1;          ///< bit
        SourceId source() const { return {id, 0}; }
    };
    /// Who goes a way and kills whom it touches.
    struct Foe {
        ItemId id;
        Room room; ///< where it begins
        Course course;
        FoeWay way = FoeWay::drawn; ///< the course of those that go by a rule is known to a world
        double speed_mps = 0, sight_m = 0;
        uint64_t seed = 0;
        int nearing = -1; ///< which one it is of those that come nearer
    };
    /// A box that is pushed along its sides, and falls.
    struct Crate {
        ItemId id;
        Room room;      ///< where it was built
        int needs = -1; ///< the item without which nobody pushes it
        SourceId source() const { return {id, 0}; }
    };

    std::vector<Thing> things;
    std::vector<Door> doors;
    std::vector<Press> switches;
    std::vector<Hazard> hazards;
    std::vector<Barrier> barriers;
    std::vector<Lift> lifts;
    std::vector<Deck> decks;
    std::vector<Foe> foes;
    std::vector<Crate> crates;
    Fixtures fixtures;
    std::vector<std::string> keys, pick_ups, items; ///< the names of kinds
    bool keys_are_kept = false, nobody_pushes = false;
    double limit_s = 0; ///< within which the goal has to be reached; 0: any time
    int nearing = 0;    ///< how many foes come nearer
    int bits = 0;
    bool overflows = false; ///< there are more than play can tell apart: those that are too many do nothing

    bool empty() const {
        return things.empty() && doors.empty() && switches.empty() && hazards.empty() && barriers.empty() &&
               lifts.empty() && decks.empty() && foes.empty() && crates.empty() && fixtures.empty();
    }
    /// Whether time counts: something goes its way or crumbles.
    bool timed() const { return clocks() > 0; }
    /// How many clocks play has: of the lifts, then the decks, then the foes, and the places of those foes
    /// that come nearer.
    size_t clocks() const { return lifts.size() + decks.size() + foes.size() + 3 * size_t(nearing); }
    size_t clock_of_deck(size_t deck) const { return lifts.size() + deck; }
    size_t clock_of_foe(size_t foe) const { return lifts.size() + decks.size() + foe; }
    /// The first of three.
    size_t place_of_nearing(int which) const {
        return lifts.size() + decks.size() + foes.size() + 3 * size_t(which);
    }
};

/// The elements of a solid that act in its frame.
PlayElements play_elements(const build::Solid& solid);

/// The corners of a box in plan, counter-clockwise.
std::vector<Vec2> corners_of(const Room& room);

/// Play begins with a body.
PlayState begun_with(const PlayElements& elements, const Character& character, const State& body);
/// What is opened by a body that goes against it with what it needs, before it moves.
PuzzleState opened(const PlayElements& elements, const Character& character, const PlayState& state,
                   const Input& input);
/// What a body takes, presses and lets go of where it is now.
PuzzleState acted(const PlayElements& elements, const Character& character, PuzzleState puzzle,
                  const State& body);

/// One step of play where one moves freely: what is in the way opens, what moves moves, with whom it carries,
/// then the body, and then what it comes to acts.
PlayState play_freely(const World& world, const Character& character, const PlayState& state,
                      const Input& input);

/// The course of a foe that goes by a rule, in the level as it was built: it keeps to where it has room and
/// ground.
Course course_by_rule(const World& world, const PlayElements::Foe& foe);
/// Where a foe that comes nearer is a step later, seen from a state: towards the body where it sees it and
/// has room and ground, else where it is. In `moved_unit_m` from where it was built.
std::array<int, 3> came_nearer(const World& world, const PlayElements::Foe& foe,
                               const std::array<int, 3>& moved, const Body& body);

/// How far what moves is from where it was built: what is matter, lifts and then crates, and foes.
struct Shifts {
    std::vector<Vec3> movers, foes;
};
/// See Shifts.
Shifts shifts_of(const PlayElements& elements, const PlayState& state);
/// A displacement in `moved_unit_m`, in metres.
inline Vec3 metres_of(const std::array<int, 3>& moved) {
    return Vec3(moved[0], moved[1], moved[2]) * moved_unit_m;
}
/// A place moved along, with the box around it.
inline Room shifted(Room room, const Vec3& by) {
    room.place.at += by;
    return room;
}
/// Crates a step later: pushed by a body that goes against one, carried by lifts that moved between two
/// places, fallen where nothing holds them. The body that pushes keeps up with what it pushes.
struct CratesMoved {
    PuzzleState puzzle;
    State body;
};
/// See CratesMoved.
CratesMoved crates_moved(const World& world, const PlayElements& elements, const Character& character,
                         const PlayState& state, const Input& input, std::span<const Vec3> lifts_before,
                         std::span<const Vec3> lifts_now);
/// The direction, along one of a crate's sides, in which a body would push it; nothing where it does not.
std::optional<Vec2> pushed_towards(const Room& crate, const Character& character, const State& body,
                                   const Input& input);

/// A character with what it has taken.
Character skilled(const PlayElements& elements, const PuzzleState& puzzle, Character character);
/// Whether a body stands on a box.
bool stands_on(const Room& room, const Character& character, const State& body);
/// How far a body is from a box: beside it in plan, and over or under it; negative where it is in it
/// (metres).
double apart_m(const Room& room, const Body& body);

/// Whether a body has a thing at a place: standing with its bottom over it, feet within a step height of it;
/// pick-ups also in the air where the body contains it.
bool has_at(const Character& character, const State& body, const Vec3& at, bool in_the_air);
/// How many things of a kind are held; keys that were spent do not count, one that is kept counts very many.
int held(const PlayElements& elements, const PuzzleState& puzzle, ThingKind kind, int name);
/// What is out of the way in a state of play, wherever one is: open doors, hazards against which one is
/// immune, decks that crumbled.
std::vector<SourceId> gone_by(const PlayElements& elements, const PuzzleState& puzzle);
/// The same wherever one is: a barrier that lets one pass where one stands does not count as gone.
PuzzleState wherever_one_is(const PlayElements& elements, PuzzleState puzzle);
/// Whether a switch is on.
bool is_on(const PlayElements& elements, const PuzzleState& puzzle, int press);
/// Whether a door lets pass.
bool is_open(const PlayElements& elements, const PuzzleState& puzzle, int door);

} // namespace rubble::motion
