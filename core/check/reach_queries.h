#pragma once

#include <array>
#include <map>

#include "check/check.h"
#include "check/leap_search.h"

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
          searcher_(ground, world, character) {}

    const Character& character() const { return character_; }
    const LeapSearch& searcher() const { return searcher_; }

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
    using Key = std::array<double, 3>;
    static Key key_of(const Vec3& p) { return {p.x, p.y, p.z}; }
    std::map<Key, std::shared_ptr<const Reach>> by_start_;
};

} // namespace rubble::check
