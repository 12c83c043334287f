#pragma once

#include <array>
#include <map>

#include "check/cell_answers.h"
#include "check/check.h"
#include "check/leap_search.h"
#include "check/play_reach.h"

namespace rubble::check {

/// Answers questions about one built level, each search made once.
class ReachQueries {
public:
    /// `with_help` says whether places are also looked for that need a late jump.
    ReachQueries(const Ground& ground, const motion::World& world, const Character& character,
                 const Cancel& cancel, bool with_help = true)
        : ground_(ground),
          world_(world),
          character_(character),
          cancel_(cancel),
          with_help_(with_help),
          searcher_(ground, world, character),
          levels_(world, character, &ground, cancel) {
        if (world.moving().puzzle) cells_.emplace(world, character, cancel);
    }

    const Character& character() const { return character_; }
    const Ground& ground() const { return ground_; }
    const motion::World& world() const { return world_; }
    const LeapSearch& searcher() const { return searcher_; }
    const Cancel& cancel() const { return cancel_; }

    /// Whether elements act in the level: then the ground alone does not say where one gets to.
    bool elements_act() const { return cells_ || world_.elements(); }
    /// By cells, where elements act.
    CellAnswers& by_cells() { return *cells_; }
    /// Freely, where elements act.
    const PlayReach& play_from(const Vec3& at);
    /// The states of the level then.
    OpenLevels& levels() { return levels_; }

    /// Takes over a search from a place that was made already.
    void know(const Vec3& start, std::shared_ptr<const Reach> reach) { by_start_[key_of(start)] = reach; }
    /// The search from a place, where one comes to rest that is put down there.
    const Reach& reach_from(const Vec3& at);

    struct Answer {
        Reached reached = Reached::no;
        std::optional<Witness> witness;
        Spot spot; ///< where it is had, or would be
    };
    /// Whether one gets from one place to another, with the run.
    Answer ask(const Vec3& from, const Vec3& to);
    /// Whether one who got from one place to another gets back, with what was taken and opened on the way.
    Answer ask_back(const Vec3& from, const Vec3& to);
    /// The same from the level's starts, with a search made by the caller.
    Answer ask(const Reach& reach, const Vec3& to) const;
    /// For a place that a search does not reach: whether a late jump does.
    Answer ask_with_help(const Reach& reach, const Vec3& to) const;

private:
    const Ground& ground_;
    const motion::World& world_;
    const Character& character_;
    Cancel cancel_;
    bool with_help_;
    LeapSearch searcher_;
    OpenLevels levels_;
    static Answer answer_of(PlayReach::Answer played);
    Answer ask_in_play(const Vec3& from, const Vec3& to);
    using Key = std::array<double, 3>;
    static Key key_of(const Vec3& p) { return {p.x, p.y, p.z}; }
    std::map<Key, std::shared_ptr<const Reach>> by_start_;
    std::optional<CellAnswers> cells_;
    std::map<Key, std::unique_ptr<const PlayReach>> plays_;
};

} // namespace rubble::check
