#pragma once

#include <memory>
#include <vector>

#include "base/result.h"
#include "check/check.h"
#include "level/skill.h"

namespace rubble::study {

struct PlayersOptions {
    Skill skill;
    int runs = 1000;
    uint64_t first_seed = 1; ///< the runs have this and the following ones
    int tracks = 0;          ///< of the first runs the tracks are kept
    Cancel cancel;
    Progress progress;
};

/// A leap that did not get there.
struct Miss {
    int link = -1; ///< in Crowd::links
    Vec3 at{0};    ///< where it ended
    bool died = false;
    double lost_s = 0; ///< until the next leap was tried, or the run ended
    bool operator==(const Miss&) const = default;
};

struct PlayerRun {
    bool arrived = false;
    double seconds = 0;
    std::vector<Miss> misses;
    std::vector<Vec3> track; ///< of the feet, every `track_s`; only where it was asked for
    bool operator==(const PlayerRun&) const = default;
};
inline constexpr double track_s = 0.1;

/// What became of many who played from one place to another.
struct Crowd {
    std::vector<PlayerRun> runs; ///< by their seeds
    double route_s = 0;          ///< of the run that proves that one gets there
    int arrived = 0;
    double share = 0, low = 0, high = 0;                   ///< who arrive, with its 95 % interval
    std::vector<double> times_s;                           ///< of those who arrived, ascending
    std::vector<std::shared_ptr<const check::Link>> links; ///< that were missed
    /// What a leap cost all of them.
    struct Cost {
        int link = -1, misses = 0, deaths = 0;
        double lost_s = 0;
    };
    std::vector<Cost> costs; ///< the one that cost most time first
    bool complete = true;
};

/// Lets players go from one element to another; they know the way and have imperfect hands. Same seeds, same
/// result, on any number of threads. `checked` is the level's check. An error where an end is no element,
/// where nobody gets there, and in levels that are walked by cells.
Result<Crowd> run_players(const Level& level, const check::CheckResult& checked, const ItemId& from,
                          const ItemId& to, const PlayersOptions& options);

/// Judges the claims of a check that speak of players (`share`): so many play that the interval tells, or as
/// many as are patient. Others stay as they are.
void judge_shares(const Project& project, const Level& level, check::CheckResult& checked,
                  const Cancel& cancel = {});

/// Counts who arrived, with the interval and their times.
void tally(Crowd& crowd);

/// The interval in which a share lies with 95 % confidence (E. B. Wilson, 1927).
struct Interval {
    double low = 0, high = 1;
};
/// See Interval.
Interval wilson(int successes, int trials);

} // namespace rubble::study
