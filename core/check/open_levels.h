#pragma once

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

    /// Without some sources, and without what moves.
    std::shared_ptr<OpenLevel> without(const std::vector<motion::SourceId>& gone);
    /// The same with one lift waiting at a stop.
    std::shared_ptr<OpenLevel> with_lift_at(const std::vector<motion::SourceId>& gone, size_t lift, int stop);

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
    std::shared_ptr<OpenLevel> made(const motion::World& world) const;

    const motion::World& world_;
    const Character& character_;
    const Ground* built_;
    Cancel cancel_;
    std::map<std::vector<motion::SourceId>, std::shared_ptr<OpenLevel>> known_;
};

} // namespace rubble::check
