#pragma once

#include "check/bands.h"

#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "build/solid_builder.h"
#include "check/maze.h"
#include "check/rules.h"
#include "check/sentences.h"
#include "check/spans.h"
#include "check/witness.h"

namespace rubble::check {

enum class Reached { yes, with_help, no, undecided };
enum class ClaimState { holds, fails, undecided };

/// Whether an element is had from the level's starts.
struct Place {
    ItemId item;
    Vec3 at{0};
    Reached reached = Reached::no;
    double time_s = 0;
    std::optional<Witness> witness;
};

/// An item as it would be.
struct MendEdit {
    Item item;
    bool added = false; ///< it is not there yet
};

/// Cells of a tile layer as they would be.
struct MendCells {
    LayerId layer;
    std::vector<TileGrid::Change> cells;
};

/// A change that was tried for real and makes the place reached.
struct Mend {
    Sentences says;
    std::vector<MendEdit> edits;
    std::vector<MendCells> cells;
    std::vector<ClaimId> breaks; ///< other claims that fail with it
    std::optional<Grade> grade;  ///< of the hardest span on the way then; none where it is walked
};

/// What a character would have to do better.
enum class Limit { gap, height, headroom, slope, step, width, fall, item };

/// What is missing to reach a place.
struct NearMiss {
    ItemId from, to;
    Limit limit = Limit::gap;
    double missing_m = 0;
    double missing_deg = 0;
    double gap_m = 0, rise_m = 0; ///< of the span that would be needed
    Vec3 take_off{0}, landing{0};
    int landing_column = -1, take_off_column = -1;
    Sentences says;
    std::vector<Mend> mends;
};

/// All that a claim's verdict on a terrain depends on.
struct ClaimQuestion {
    Claim claim;
    std::optional<Vec3> from, to; ///< where its ends are; nothing where one is no element
    std::string who;
    bool operator==(const ClaimQuestion&) const = default;
};

struct ClaimResult {
    ClaimId id;
    ClaimQuestion question;
    ClaimState state = ClaimState::undecided;
    Sentences reason; ///< empty while it holds
    double time_s = 0;
    std::optional<Witness> witness; ///< the run that proves it; for not_reaches the run that refutes it
};

struct Finding {
    RuleId rule = RuleId::start_none;
    Severity severity = Severity::remark;
    Sentences says;
    Vec3 at{0};
    std::vector<ItemId> items;
};

/// One that the level lets stand, with why.
struct Excused {
    Finding finding;
    std::string reason;
};

struct Timing {
    double build_ms = 0, reach_ms = 0, total_ms = 0;
};

/// What near misses and their mends were looked for with.
struct ExplainedWith {
    Project project;
    std::vector<Shared<Layer>> layers;
    std::vector<Claim> claims;
    CharacterId character;
    std::vector<AlsoProven> also;
    bool explain = false, mends = false;
};

/// Whether the way of a foe is seen before it matters.
struct FoeWatch {
    ItemId foe;
    bool matters = false;     ///< the way to a goal comes near its way
    double seen_share = 0;    ///< of its way, from the best place before that
    std::optional<Vec3> from; ///< that place, on the way to a goal
};

/// All that is known about one level for one character. Shared parts are immutable; the window keeps the
/// result while the next one is computed, which takes from it what did not change.
struct CheckResult {
    Character character; ///< for whom
    std::shared_ptr<const build::Solid> solid;
    std::shared_ptr<const motion::World> world;
    std::shared_ptr<const Ground> ground;
    std::vector<Vec3> starts, goals;    ///< where they are
    std::shared_ptr<const Reach> reach; ///< from all starts
    std::vector<bool> returns;          ///< for each ledge: back to a start, or on to a goal
    std::shared_ptr<const Bands> bands; ///< in which order it opens up; null where nothing acts
    std::vector<Place> places;
    std::shared_ptr<const MeasuredLinks> measured;
    std::vector<Span> spans;
    std::vector<ClaimResult> judged; ///< the verdicts, before what is missing was looked for
    std::vector<ClaimResult> claims; ///< the same; reasons say what is missing too
    std::vector<NearMiss> near_misses;
    std::shared_ptr<const ExplainedWith> explained;
    std::vector<Finding> findings; ///< without those of rules that are switched off, or excused
    std::vector<Excused> excused;
    std::vector<FoeWatch> foe_watches; ///< of foes that go a way, where a goal is reached
    std::shared_ptr<const Maze> maze;  ///< of Plan levels with a start and a goal
    Timing timing;
    bool complete = false;
};

struct CheckOptions {
    bool all_spans = false;
    bool explain =
        true; ///< says what is missing, and what would need a late jump, where something is not reached
    bool mends = true; ///< looks for mends too
    /// An earlier result, of which what an edit left alone is taken over. Used where it is for the same
    /// character.
    std::shared_ptr<const CheckResult> before;
    /// Called as soon as it is known where one gets to, with a result that has no more than that.
    std::function<void(const CheckResult&)> on_reach;
    Cancel cancel;
    Progress progress;
};

/// Checks a level from nothing, with a builder that remembers the level before, or with its solid.
CheckResult check_level(const Project& project, const Level& level, const CheckOptions& options = {});
CheckResult check_level(const Project& project, const Level& level, build::SolidBuilder& builder,
                        const CheckOptions& options);
CheckResult check_level(const Project& project, const Level& level, std::shared_ptr<const build::Solid> solid,
                        const CheckOptions& options = {});

/// Only whether one element is had from another, and how hard the way is, for trying mends. Quickest with a
/// builder that built a level like this one before.
struct Trial {
    Reached reached = Reached::undecided;
    std::optional<Grade> hardest; ///< of the spans on the way
};
/// Builds the level and asks for the way between two elements, nothing else.
Trial tried(const Project& project, const Level& level, build::SolidBuilder& builder, const ItemId& from,
            const ItemId& to, const Cancel& cancel);

/// The level with a mend's edits made.
Level mended(const Level& level, const Mend& mend);

/// In reports.
const char* reached_key(Reached reached);
/// In reports.
const char* state_key(ClaimState state);
/// In reports.
const char* severity_key(Severity severity);
/// In reports.
const char* limit_key(Limit limit);

} // namespace rubble::check
