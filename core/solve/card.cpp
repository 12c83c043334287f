#include "solve/card.h"

#include <algorithm>
#include <unordered_map>

namespace rubble::solve {

namespace {

/// More situations than this are not asked for the cells that they use: each is walked through.
constexpr size_t k_most_walked = 60'000;

int choices(const StateGraph& graph, const std::vector<char>& good, uint32_t situation) {
    int out = 0;
    for (auto move = graph.begin(situation); move != graph.end(situation); ++move)
        out += good[graph.situation_of(move->after)] != 0;
    return out;
}

void count_choices(const StateGraph& graph, const std::vector<char>& good, const Way& way, Card& card) {
    int since = 0;
    for (size_t i = 0; i < way.states.size(); ++i) {
        const uint32_t situation = graph.situation_of(way.states[i]);
        if (!graph.is_goal(situation) && choices(graph, good, situation) > 1) ++card.decisions, since = 0;
        since += i < way.letters_between.size() ? way.letters_between[i] : 0;
        card.longest_without_choice = std::max(card.longest_without_choice, since);
    }
}

/// The cells that are walked over or that crates stand in, in situations from which a goal is reached.
std::vector<int> unused(const motion::CellPuzzle& puzzle, const StateGraph& graph,
                        const std::vector<char>& good, const Cancel& cancel) {
    std::vector<char> used(size_t(puzzle.cells()), 0), seen(graph.situations(), 0);
    MoveFinder finder(puzzle);
    for (uint32_t state = 0; state < graph.states() && !cancel.requested(); ++state) {
        const uint32_t situation = graph.situation_of(state);
        if (!good[situation] || seen[situation]) continue;
        seen[situation] = 1;
        finder.walk_from(graph.state(state));
        for (const int cell : finder.walked()) used[size_t(cell)] = 1;
        for (const int cell : finder.crate_cells()) used[size_t(cell)] = 1;
    }
    // Where it comes into a situation it was too, though it does not walk on from there freely.
    for (uint32_t state = 0; state < graph.states(); ++state)
        if (good[graph.situation_of(state)]) used[graph.cell_of(state)] = 1;
    std::vector<int> out;
    for (int cell = 0; cell < puzzle.cells(); ++cell)
        if (!used[size_t(cell)] && !puzzle.floor_of(cell).wall) out.push_back(cell);
    return out;
}

} // namespace

Card card_of(const motion::CellPuzzle& puzzle, const StateGraph& graph, const std::vector<char>& good,
             const Way& way, const Cancel& cancel) {
    Card card;
    card.shortest_ways = way.ways;
    count_choices(graph, good, way, card);
    if (graph.situations() <= k_most_walked) {
        card.never_used = unused(puzzle, graph, good, cancel);
        card.cells_known = !cancel.requested();
    }
    return card;
}

} // namespace rubble::solve
