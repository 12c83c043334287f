#include "solve/card.h"

#include <algorithm>
#include <string_view>
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

/// So many letters are played at most to find the narrowest moment, and so long one waits.
constexpr int64_t k_most_played = 4'000'000;
constexpr int k_longest_wait = 64;

/// Whether letters lead from a state to a goal.
bool leads_on(const motion::CellPuzzle& puzzle, motion::CellState state, std::string_view letters) {
    for (const char c : letters) {
        const motion::Played played = motion::played(puzzle, state, *motion::letter_of(c));
        if (played.outcome != motion::Played::Outcome::moved) return false;
        state = played.state;
    }
    return motion::solved(puzzle, state);
}

/// Waits before each letter of the solution: for how many letters in a row the rest still leads to the goal.
void find_narrowest(const motion::CellPuzzle& puzzle, const std::string& letters, Card& card,
                    const Cancel& cancel) {
    if (puzzle.foes.empty()) return;
    int64_t played = 0;
    motion::CellState state = puzzle.start;
    for (size_t i = 0; i < letters.size() && played < k_most_played && !cancel.requested(); ++i) {
        const std::string_view rest = std::string_view(letters).substr(i);
        motion::CellState waiting = state;
        int free = 1;
        for (; free < k_longest_wait; ++free) {
            const motion::Played one = motion::played(puzzle, waiting, motion::Letter::wait);
            played += int64_t(rest.size()) + 1;
            if (one.outcome != motion::Played::Outcome::moved) break;
            waiting = one.state;
            if (!leads_on(puzzle, waiting, rest)) break;
        }
        if (free < k_longest_wait && (!card.narrowest || free < *card.narrowest))
            card.narrowest = free, card.narrowest_at = state.figure;
        state = motion::played(puzzle, state, *motion::letter_of(letters[i])).state;
    }
}

/// Where crates come to, but in no situation from which a goal is reached.
std::vector<int> astray(const motion::CellPuzzle& puzzle, const StateGraph& graph,
                        const std::vector<char>& good) {
    std::vector<char> meant(size_t(puzzle.cells()), 0), come_to(size_t(puzzle.cells()), 0);
    for (uint32_t state = 0; state < graph.states(); ++state) {
        const motion::CellState now = graph.state(state);
        auto& cells = good[graph.situation_of(state)] ? meant : come_to;
        for (size_t i = 0; i < puzzle.crates.size(); ++i)
            if (now.stands(i)) cells[now.crates[i]] = 1;
    }
    std::vector<int> out;
    for (int cell = 0; cell < puzzle.cells(); ++cell)
        if (come_to[size_t(cell)] && !meant[size_t(cell)]) out.push_back(cell);
    return out;
}

} // namespace

Card card_of(const motion::CellPuzzle& puzzle, const StateGraph& graph, const std::vector<char>& good,
             const Way& way, const Cancel& cancel) {
    Card card;
    card.shortest_ways = way.ways;
    count_choices(graph, good, way, card);
    find_narrowest(puzzle, way.letters, card, cancel);
    if (graph.situations() <= k_most_walked) {
        card.never_used = unused(puzzle, graph, good, cancel);
        card.astray = astray(puzzle, graph, good);
        card.cells_known = !cancel.requested();
    }
    return card;
}

} // namespace rubble::solve
