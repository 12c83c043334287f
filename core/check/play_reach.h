#pragma once

#include <map>
#include <memory>
#include <vector>

#include "check/leap_search.h"
#include "check/reach.h"
#include "check/witness.h"
#include "motion/elements.h"

namespace rubble::check {

/// Where one gets to in a level with doors, keys and switches: chapters, each with what is open in it, from
/// where a thing was taken or a door opened on. In a chapter the search is that of a level as it is then.
class PlayReach {
public:
    /// What the level is like while the same things are open.
    struct Open {
        const motion::World* world = nullptr; ///< without what is out of the way
        Ground ground;
        std::unique_ptr<LeapSearch> searcher;
    };
    struct Chapter {
        motion::PlayState begin;  ///< in the level as it is played
        motion::Recording before; ///< from the start to there
        std::shared_ptr<const Open> open;
        Reach reach;
    };

    /// From a place on. The world and the character outlive it.
    PlayReach(const motion::World& world, const Character& character, const Vec3& start,
              const Cancel& cancel);

    const std::vector<Chapter>& chapters() const { return chapters_; }
    /// Whether every chapter was looked at.
    bool complete() const { return complete_; }

    struct Answer {
        bool reached = false, decided = true;
        std::optional<Witness> witness;
        Spot spot;
    };
    /// Whether one has what is at a place, with the run.
    Answer ask(const Vec3& to) const;

private:
    std::shared_ptr<const Open> open_with(const std::vector<motion::SourceId>& gone);
    void add(motion::PlayState begin, motion::Recording before);
    void go_on_from(size_t chapter);
    void take_at(size_t chapter, const Vec3& at);
    void open_door(size_t chapter, const motion::PlayElements::Door& door);
    /// The run to a spot of a chapter, from the level's start.
    tl::expected<Witness, WitnessFault> run_to(const Chapter& chapter, const Spot& spot) const;
    /// Plays a run from the start in the level as it is.
    motion::PlayState played(const motion::Recording& recording) const;

    const motion::World& world_;
    const Character& character_;
    const Vec3 start_;
    Cancel cancel_;
    std::map<std::vector<motion::SourceId>, std::shared_ptr<const Open>> opens_;
    std::map<motion::PuzzleState, size_t> known_;
    std::vector<Chapter> chapters_;
    bool complete_ = true;
};

} // namespace rubble::check
