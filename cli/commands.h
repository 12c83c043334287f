#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "base/cancel.h"
#include "base/result.h"
#include "check/check.h"

namespace rubble::cli {

/// What the program ends with.
enum Exit { all_holds = 0, something_fails = 1, unusable = 2, interrupted = 3 };

/// Tells an error in one line, and what to end with.
int unusable_input(const Error& error);
/// Writes to a file, or to standard output for "-"; what to end with.
int put(const std::string& target, const std::string& text, int code);

/// What of a model is told: `info MODEL`.
int run_model_info(const std::string& file, const std::string& json);

struct ModelArguments {
    std::vector<std::string> files;
    std::string kit, collision, up;
    std::optional<double> scale;
};
/// Brings models into a kit: `import-model`.
int run_import_model(const ModelArguments& arguments, const std::string& json);

struct CastArguments {
    std::string rules, target;
    uint64_t seed = 1;
};
/// Puts a level together by chance: `cast`.
int run_cast(const CastArguments& arguments, const std::string& json);

struct SolveArguments {
    std::string level, json;
    size_t most_states = 20'000'000;
};
/// Solves a level that is walked by cells: `solve`.
int run_solve(const SolveArguments& arguments, const Cancel& cancel);
/// Plays letters in a level that is walked by cells: `replay --steps`.
int run_replay_steps(const std::string& level, const std::string& steps, const std::string& to);

/// What a check's result is to end with: 1 where a claim does not hold, or a blocker was found.
int exit_of(const check::CheckResult& result, bool claims_only);

struct PlayersArguments {
    std::string level, from, to, skill = "newcomer", shard, json;
    int runs = 1000;
    uint64_t seed = 1;
    bool exploring = false; ///< they do not know the way
    double within_s = 180;
};
/// Lets simulated players go from one element to another: `players`.
int run_players(const PlayersArguments& arguments, const Cancel& cancel);
/// Puts reports of parts together: `gather`.
int run_gather(const std::vector<std::string>& files, const std::string& json);
/// What would be with other metrics: `whatif`.
int run_what_if(const std::string& level, const std::vector<std::string>& sets, const std::string& json,
                const Cancel& cancel);
/// The two sides of a mirrored level beside each other: `sides`.
int run_sides(const std::string& level, const std::string& json, const Cancel& cancel);
/// How far metrics may go: `limits`.
int run_limits(const std::string& level, const std::vector<std::string>& metrics, const std::string& json,
               const Cancel& cancel);
/// What is better and worse in a level than in another: `check A --against B`.
int run_against(const std::string& now, const std::string& was, const std::string& json,
                const Cancel& cancel);
struct ParcelArguments {
    std::string level, receiver, target;
    bool must_hold = false; ///< no parcel while a claim fails or there is a blocker
};
/// Makes a parcel for somebody who goes on with a level: `parcel`.
int run_parcel(const ParcelArguments& arguments, const Cancel& cancel);

struct MergeArguments {
    std::string base, mine, theirs, target;
};
/// Puts two versions of a level together: `merge BASE MINE THEIRS`.
int run_merge(const MergeArguments& arguments);
/// Checks all levels of a folder: `check FOLDER`.
int run_check_all(const std::string& folder, const std::string& shard, const std::string& json,
                  bool claims_only, const Cancel& cancel);

} // namespace rubble::cli
