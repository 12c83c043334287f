#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "base/cancel.h"
#include "base/result.h"

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

} // namespace rubble::cli
