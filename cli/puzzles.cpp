#include <algorithm>
#include <iostream>

#include "commands.h"
#include "io/project_file.h"
#include "io/report.h"
#include "solve/solve.h"

namespace rubble::cli {

namespace {

io::Json json_of(const motion::CellPuzzle& puzzle, int cell) {
    const CellAt at = puzzle.at(cell);
    return {at.column, at.row};
}

Result<motion::CellPuzzle> loaded_puzzle(const std::string& file) {
    const auto loaded = io::load_level_with_project(file);
    if (!loaded) return tl::unexpected(loaded.error());
    return motion::puzzle_of(loaded->level);
}

io::Json json_of(const motion::CellPuzzle& puzzle, const solve::Ruin& ruin) {
    io::Json json;
    json["at"] = json_of(puzzle, ruin.from);
    json["crate"] = ruin.crate < 0 ? io::Json() : io::Json(puzzle.crates[size_t(ruin.crate)].id.value);
    json["direction"] = std::string(1, motion::char_of(ruin.letter));
    json["noticed_after"] = ruin.noticed_after ? io::Json(*ruin.noticed_after) : io::Json();
    return json;
}

io::Json json_of(const motion::CellPuzzle& puzzle, const solve::Card& card) {
    io::Json json;
    json["shortest_ways"] = card.shortest_ways, json["decisions"] = card.decisions;
    json["longest_without_choice"] = card.longest_without_choice;
    json["never_used"] = io::Json();
    if (card.narrowest)
        json["narrowest"] = {{"steps", *card.narrowest}, {"at", json_of(puzzle, card.narrowest_at)}};
    if (card.cells_known) {
        json["astray"] = io::Json::array();
        for (const int cell : card.astray) json["astray"].push_back(json_of(puzzle, cell));
        json["never_used"] = io::Json::array();
        for (const int cell : card.never_used) json["never_used"].push_back(json_of(puzzle, cell));
    }
    return json;
}

} // namespace

int run_solve(const SolveArguments& arguments, const Cancel& cancel) {
    const auto puzzle = loaded_puzzle(arguments.level);
    if (!puzzle) return unusable_input(puzzle.error());
    solve::SolveOptions options;
    options.most_states = arguments.most_states, options.cancel = cancel;
    const solve::Answer answer = solve::solved(*puzzle, options);
    const bool yes = answer.solvable.value_or(false);
    io::Json json;
    json["solvable"] = answer.solvable ? io::Json(*answer.solvable) : io::Json();
    json["steps"] = yes ? io::Json(answer.steps()) : io::Json();
    json["pushes"] = yes ? io::Json(answer.pushes) : io::Json();
    json["states"] = answer.states, json["complete"] = answer.complete;
    json["solution"] = yes ? io::Json(answer.letters) : io::Json();
    json["ruins"] = io::Json::array();
    for (const solve::Ruin& ruin : answer.ruins) json["ruins"].push_back(json_of(*puzzle, ruin));
    json["ruined_share"] = answer.ruined_share;
    if (answer.card) json["card"] = json_of(*puzzle, *answer.card);
    const int code = yes ? all_holds : something_fails;
    if (!arguments.json.empty()) return put(arguments.json, io::to_text(json), code);
    if (yes)
        std::cout << "Solved in " << answer.steps() << " steps with " << answer.pushes
                  << " pushes: " << answer.letters << '\n';
    else
        std::cout << (answer.solvable ? "The goal cannot be reached." : "Undecided: too many states.")
                  << '\n';
    std::cout << answer.states << " states, " << answer.ruins.size() << " ruins"
              << (answer.complete ? "" : ", not all of them looked at") << '\n';
    return code;
}

int run_replay_steps(const std::string& level, const std::string& steps, const std::string& to) {
    const auto puzzle = loaded_puzzle(level);
    if (!puzzle) return unusable_input(puzzle.error());
    motion::CellState state = puzzle->start;
    size_t played = 0;
    const char* ended = puzzle->has_start ? nullptr : "no start";
    int pushes = 0;
    for (; played < steps.size() && !ended; ++played) {
        const auto letter = motion::letter_of(steps[played]);
        if (!letter)
            return unusable_input(fail("solve.letter", level,
                                       "\"" + std::string(1, steps[played]) +
                                           "\" is no step: expected e, n, w, s or . for waiting.")
                                      .value());
        const motion::Played now = motion::played(*puzzle, state, *letter);
        if (now.outcome != motion::Played::Outcome::moved) {
            ended = now.outcome == motion::Played::Outcome::blocked ? "blocked" : "killed";
            break;
        }
        state = now.state, pushes += now.pushed >= 0;
    }
    const bool solved = !ended && motion::solved(*puzzle, state);
    io::Json json;
    json["played"] = played, json["pushes"] = pushes;
    json["ended"] = ended ? io::Json(ended) : io::Json();
    json["at"] = json_of(*puzzle, state.figure);
    json["crates"] = io::Json::array();
    for (size_t i = 0; i < puzzle->crates.size(); ++i) {
        const bool fills = state.crates[i] & motion::CellState::filled;
        json["crates"].push_back({{"id", puzzle->crates[i].id.value},
                                  {"at", json_of(*puzzle, state.crates[i] & ~motion::CellState::filled)},
                                  {"fills", fills}});
    }
    json["taken"] = io::Json::array();
    for (const auto& thing : puzzle->things)
        if (state.has(thing.bit)) json["taken"].push_back(thing.id.value);
    json["open"] = io::Json::array();
    for (size_t i = 0; i < puzzle->doors.size(); ++i)
        if (motion::is_open(*puzzle, state, int(i))) json["open"].push_back(puzzle->doors[i].id.value);
    json["goal"] = solved;
    return put(to.empty() ? "-" : to, io::to_text(json), solved ? all_holds : something_fails);
}

} // namespace rubble::cli
