#pragma once

#include <array>
#include <map>
#include <memory>
#include <vector>

#include "check/leap_search.h"
#include "check/reach.h"
#include "motion/elements.h"

namespace rubble::check {

/// How a lift is left: after how many steps of its course, in which direction, and with a jump after how many
/// steps more; -1 for none.
struct LiftExit {
    int clock = 0;
    Vec2 direction{0};
    int jump_at = -1;
};

/// What a level is like while the same things are open, and what was searched in it.
struct OpenLevel {
    Character character;                            ///< with the skills that it has taken
    const motion::World* world = nullptr;           ///< without what is out of the way, and what moves
    std::shared_ptr<const motion::World> own_world; ///< where it was made for this
    Ground ground;
    std::unique_ptr<LeapSearch> searcher;
    std::vector<std::shared_ptr<const Reach>> searches;
    /// By lifts that were ridden, and the ledges that they lead to: how it was left for them.
    std::map<size_t, std::map<int, std::vector<LiftExit>>> exits;
};

/// The states of one level, each made when it is asked for and kept.
class OpenLevels {
public:
    /// The world and the character outlive it; so does the ground of the world as it was built, where it is
    /// known.
    OpenLevels(const motion::World& world, const Character& character, const Ground* built,
               const Cancel& cancel)
        : world_(world),
          character_(character),
          built_(built),
          cancel_(cancel) {}

    /// As play made it: without what is out of the way and what moves by itself, with crates where they were
    /// pushed, for a character with the skills that it took.
    std::shared_ptr<OpenLevel> like(const motion::PuzzleState& puzzle);
    /// The same with one lift waiting at a stop.
    std::shared_ptr<OpenLevel> with_lift_at(const motion::PuzzleState& puzzle, size_t lift, int stop);

    /// Where one gets to from a state, in which `before` is the run so far. Where an earlier search reached
    /// as much by links that lead on from here, arrivals say by which links, and are not played until
    /// `played`.
    Reach search(OpenLevel& level, const motion::PlayState& begin, const motion::Recording& before) const;
    /// The same with every arrival played, whatever was searched before.
    Reach search_anew(OpenLevel& level, const motion::PlayState& begin,
                      const motion::Recording& before) const;
    /// The arrivals from the beginning of a search to a ledge, each of them played; empty where the ledge is
    /// not reached, or a link cannot be played from where the one before it ended.
    std::vector<std::shared_ptr<const Arrival>> played(const OpenLevel& level, const Reach& reach,
                                                       int ledge) const;

    const motion::World& world() const { return world_; }
    const Character& character() const { return character_; }

private:
    /// What tells levels apart: what is gone, which lift waits where, where crates are, and the skills.
    struct Name {
        std::vector<motion::SourceId> gone;
        int lift = -1, stop = 0;
        std::vector<std::array<int, 3>> moved;
        std::vector<int> skills;
        auto operator<=>(const Name&) const = default;
    };
    Name name_of(const motion::PuzzleState& puzzle, int lift, int stop) const;
    std::shared_ptr<OpenLevel> made(const motion::World& world, const motion::PuzzleState& puzzle) const;
    /// A level whose crates, or a lift, are elsewhere than they were built.
    std::shared_ptr<OpenLevel> made_with(const Name& name, const motion::PuzzleState& puzzle) const;

    const motion::World& world_;
    const Character& character_;
    const Ground* built_;
    Cancel cancel_;
    std::map<Name, std::shared_ptr<OpenLevel>> known_;
};

} // namespace rubble::check
