#pragma once

#include <functional>
#include <map>
#include <memory>
#include <set>
#include <tuple>
#include <vector>

#include "check/open_levels.h"
#include "check/timed_run.h"
#include "check/witness.h"
#include "motion/elements.h"

namespace rubble::check {

/// Where one gets to in a level in which elements act: chapters, each with what is open in it, from where a
/// thing was taken, a door opened, a ladder climbed, a lift left. In a chapter the search is that of a level
/// as it is then, without what moves by itself; every run is then played in the level as it is, in which it
/// waits for what moves.
class PlayReach {
public:
    /// What is taken and opened on the way: what something in the level depends on, or all.
    enum class Take { what_matters, everything, nothing };

    /// A run from the level's start on, with the links on it.
    struct Way {
        motion::Recording recording;
        std::vector<Witness::Leg> legs;
        /// The same and what was played after it.
        Way with(const motion::Recording& more) const;
    };
    struct Chapter {
        motion::PlayState begin; ///< in the level as it is played
        Way before;              ///< from the start to there
        std::shared_ptr<OpenLevel> open;
        Reach reach;
    };

    /// From a place on. The levels outlive it. Where nothing is taken the level stays as `puzzle` says.
    PlayReach(OpenLevels& levels, const Vec3& start, const Cancel& cancel, Take take = Take::what_matters,
              const motion::PuzzleState& puzzle = {});
    /// From a state in the middle of play on, to which a run has led.
    PlayReach(OpenLevels& levels, const motion::PlayState& begin, const Witness& before,
              const Cancel& cancel);

    const std::vector<Chapter>& chapters() const { return chapters_; }
    /// Whether a lift was stood on.
    bool rode(size_t lift) const;
    /// Whether every chapter was looked at, and nothing was left open.
    bool complete() const { return complete_; }

    struct Answer {
        bool reached = false, decided = true;
        std::optional<Witness> witness;
        Spot spot;
        motion::PlayState end; ///< of the run
    };
    /// Whether one has what is at a place, with the run.
    Answer ask(const Vec3& to) const;

private:
    PlayReach(OpenLevels& levels, const Cancel& cancel, Take take, const motion::PuzzleState& puzzle);
    void begin_with(motion::PlayState begin, Way before);

    /// What a chapter differs by from others that play alike: what matters of what was taken and opened, and
    /// where lifts wait to be called.
    struct Key {
        motion::PuzzleState puzzle;
        std::vector<int> waits;
        auto operator<=>(const Key&) const = default;
    };
    struct Run {
        Witness witness; ///< from the level's start
        motion::PlayState end;
        Way way() const { return {witness.recording, witness.legs}; }
    };
    /// What a player does at every step, until it gives nothing.
    using Policy = std::function<std::optional<motion::Input>(const motion::PlayState&, int step)>;

    Key key_of(const motion::PlayState& state) const;
    /// Adds a chapter, where one is at a place that no chapter like it reaches.
    void add(motion::PlayState begin, Way before);
    bool is_known(const motion::PlayState& state);
    /// The lift on which a body stands; -1 for none.
    int lift_under(const motion::PlayState& state) const;
    /// Whether something is used for the first time while the same things are open; from now on it was.
    bool first_use(size_t chapter, const ItemId& what, int way);
    /// Whether at least as much is taken and open in the one as in the other.
    bool covers(const Key& more, const Key& less) const;
    /// Whether another chapter reaches as much with at least as much taken and opened.
    bool is_needless(size_t chapter) const;
    void go_on_from(size_t chapter);
    void ride_on(size_t chapter);
    void take_at(size_t chapter, const ItemId& id, const Vec3& at);
    void open_door(size_t chapter, const motion::PlayElements::Door& door);
    void hold(size_t chapter, const motion::PlayElements::Press& press);
    void crumble(size_t chapter, const motion::PlayElements::Deck& deck);
    void climb(size_t chapter, const motion::Ladder& ladder);
    void launch(size_t chapter, const motion::Launcher& launcher);
    void ride(size_t chapter, size_t lift);
    /// Through a barrier in the direction in which it lets pass.
    void pass(size_t chapter, const motion::PlayElements::Barrier& barrier);
    /// Pushes a crate along each of its sides as far as it goes, and stops at switches and again and again.
    void push(size_t chapter, size_t crate);
    /// Leaves a lift wherever and whenever that leads somewhere new.
    void leave(const motion::PlayState& on, const Way& before, size_t lift);
    /// Plays a policy from a state on; where it comes to rest at a new place a chapter begins.
    /// Gives the ledge on which it stood then; -1 for none.
    int try_out(const motion::PlayState& from, const Way& before, const Policy& policy);
    /// Whether a lift leads nowhere but where one is already, by what is known of it.
    bool leads_nowhere(size_t chapter, size_t lift) const;
    /// Whether a chapter like a state reaches a ledge.
    bool is_tinted(const motion::PlayState& state, int ledge) const;
    /// The directions that are tried.
    std::vector<Vec2> directions() const;
    /// Places near one, no higher than `highest_m`, on ledges that no chapter like it reaches.
    std::vector<Vec2> places_beyond(const motion::PlayState& state, double highest_m);
    /// The run to a place of a chapter, from the level's start; near a height.
    std::optional<Run> run_to(const Chapter& chapter, const Vec3& place) const;
    std::optional<Run> run_to(const Chapter& chapter, const Spot& spot) const;
    /// The same from a state on, in a search of it.
    struct From {
        motion::PlayState begin;
        Way before;
        OpenLevel* open;
        const Reach* reach;
        int detours = 0; ///< that were made already
    };
    std::optional<Run> run_to(const From& from, const Spot& spot) const;
    /// Where the run as planned is met by something that moves: goes as far as it gets, off what carried it
    /// away, and on from there.
    std::optional<Run> detour(const From& from, const std::vector<TimedLeg>& legs, const Spot& spot) const;
    /// The same over a foe that kills at a step of the first leg.
    std::optional<Run> hop(const From& from, int wait, const motion::Recording& first, int dies_at,
                           const Spot& spot) const;
    /// Plans the way to a spot anew from where a player came to rest.
    std::optional<Run> on_from(const From& from, const motion::Recorder& there, const Spot& spot) const;

    OpenLevels& levels_;
    const motion::World& world_;
    const Character& character_;
    Cancel cancel_;
    Take take_;
    motion::PuzzleState puzzle_; ///< where nothing is taken
    std::map<Key, std::vector<size_t>> known_;
    std::set<std::tuple<Key, ItemId, int>> used_;
    std::set<std::tuple<Key, ItemId, int>> missed_; ///< what is used in the same way, but no run was found
    mutable int replans_left_ = 300;                ///< how often runs may be planned anew in all
    std::vector<size_t> open_chapters_;             ///< that are not gone on from yet
    std::vector<Chapter> chapters_;
    bool complete_ = true;
};

/// Whether something in the level depends on who has a thing.
bool matters(const motion::PlayElements& elements, const motion::PlayElements::Thing& thing);

} // namespace rubble::check
