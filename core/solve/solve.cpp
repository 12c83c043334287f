#include "solve/solve.h"

#include <algorithm>
#include <map>
#include <tuple>

#include "solve/shortest.h"

namespace rubble::solve {

namespace {

/// A first solution is looked for among so many states, which takes some hundredths of a second.
constexpr size_t k_most_early = 20'000;

/// Moves out of what can still be solved, each cell, crate and letter once.
std::vector<Ruin> ruins_of(const motion::CellPuzzle& puzzle, const StateGraph& graph,
                           const std::vector<char>& good, const Cancel& cancel) {
    std::map<std::tuple<int, int, int>, std::vector<uint32_t>> states; // where each leads to
    std::vector<char> pushing(graph.situations(), 0);
    for (uint32_t s = 0; s < graph.situations(); ++s)
        for (auto move = graph.begin(s); move != graph.end(s); ++move) {
            if (move->crate >= 0) pushing[s] = 1;
            if (good[s] && !good[graph.situation_of(move->after)])
                states[{move->from, move->crate, int(move->letter)}].push_back(move->after);
        }
    // Where no crate can be pushed any more, whatever is done, and from where one comes to that.
    std::vector<char> at_an_end = graph.leading_to(std::move(pushing));
    for (char& one : at_an_end) one = !one;
    const std::vector<char> ends = graph.leading_to(at_an_end);
    std::vector<Ruin> out;
    for (auto& [key, after] : states) {
        const auto [from, crate, letter] = key;
        Ruin ruin{from, crate, motion::Letter(letter), {}};
        std::erase_if(after, [&](uint32_t state) { return !ends[graph.situation_of(state)]; });
        const bool at_once = std::any_of(
            after.begin(), after.end(), [&](uint32_t state) { return at_an_end[graph.situation_of(state)]; });
        if (at_once)
            ruin.noticed_after = 0;
        else if (!after.empty() && !cancel.requested())
            ruin.noticed_after = letters_to(puzzle, graph, after, at_an_end);
        out.push_back(ruin);
    }
    return out;
}

} // namespace

Answer solved(const motion::CellPuzzle& puzzle, const SolveOptions& options) {
    Answer answer;
    if (!puzzle.has_start) {
        answer.solvable = false, answer.complete = true;
        return answer;
    }
    // A solution is found long before all states are seen.
    std::optional<Way> early =
        shortest_way(puzzle, std::min(options.most_states, k_most_early), options.cancel);
    const auto take = [&](const Way& way) {
        answer.letters = way.letters, answer.pushes = way.pushes;
        answer.too_late = puzzle.most_steps > 0 && answer.steps() > puzzle.most_steps;
        answer.solvable = !answer.too_late;
    };
    if (early) {
        take(*early);
        if (options.on_solution) options.on_solution(answer);
    }
    const StateGraph graph(puzzle, options.most_states, options.cancel, options.progress);
    answer.states = graph.complete() ? graph.states() : graph.situations(),
    answer.complete = graph.complete();
    std::optional<Way> way;
    if (graph.complete()) {
        std::vector<char> goals(graph.situations());
        for (uint32_t s = 0; s < goals.size(); ++s) goals[s] = graph.is_goal(s);
        const std::vector<char> good = graph.leading_to(std::move(goals));
        answer.solvable = bool(good[graph.situation_of(graph.start())]);
        if (*answer.solvable) way = shortest_way(puzzle, graph, good, options.cancel);
        answer.ruins = ruins_of(puzzle, graph, good, options.cancel);
        answer.ruined_share = double(std::count(good.begin(), good.end(), 0)) / double(good.size());
        if (way) answer.card = card_of(puzzle, graph, good, *way, options.cancel);
    } else {
        way = early ? std::move(early) : shortest_way(puzzle, options.most_states, options.cancel);
    }
    if (way) take(*way);
    return answer;
}

} // namespace rubble::solve
