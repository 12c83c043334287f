#include "solve/state_graph.h"

#include <algorithm>

#include "solve/region.h"

namespace rubble::solve {

StateGraph::StateGraph(const motion::CellPuzzle& puzzle, size_t most, const Cancel& cancel,
                       const Progress& progress)
    : table_(puzzle) {
    complete_ = go_through(puzzle, most, cancel, progress);
    moves_begin_.push_back(moves_.size());
    if (complete_) number_states(puzzle.start.figure);
}

bool StateGraph::go_through(const motion::CellPuzzle& puzzle, size_t most, const Cancel& cancel,
                            const Progress& progress) {
    Region region(puzzle), other(puzzle);
    const auto situation = [&](motion::CellState state) {
        other.look_at(state);
        state.figure = other.first_cell();
        return state;
    };
    table_.add(situation(puzzle.start));
    std::vector<motion::CellState> after;
    for (uint32_t number = 0; number < table_.size(); ++number) {
        if (table_.size() > most || cancel.requested()) return false;
        if (progress && (number & 0xFFFF) == 0) progress(double(number) / double(table_.size()));
        const motion::CellState state = table_.at(number);
        moves_begin_.push_back(moves_.size());
        goal_.push_back(motion::solved(puzzle, state));
        if (goal_.back()) continue; // play ends
        region.look_at(state);
        after.clear();
        for (const solve::Move& move : region.moves(state)) {
            moves_.push_back({0, uint16_t(move.from), int8_t(move.pushed), move.letter});
            landings_.push_back(move.after.figure);
            after.push_back(move.after);
            if (const auto first = region.first_cell_after(move))
                after.back().figure = *first;
            else
                after.back() = situation(move.after);
        }
        table_.expect(after, [](const motion::CellState& one) -> const motion::CellState& { return one; });
        for (size_t i = 0; i < after.size(); ++i)
            moves_[moves_.size() - after.size() + i].after = table_.add(after[i]).number;
    }
    return true;
}

void StateGraph::number_states(uint16_t first_cell) {
    // The cells in which each situation is come into, each once.
    std::vector<size_t> begin(situations() + 1, 0);
    begin[1] = 1; // where play begins
    for (const Move& move : moves_) ++begin[move.after + 1];
    for (size_t i = 1; i < begin.size(); ++i) begin[i] += begin[i - 1];
    std::vector<uint16_t> cells(moves_.size() + 1);
    std::vector<size_t> next(begin.begin(), begin.end() - 1);
    cells[next[0]++] = first_cell;
    for (size_t m = 0; m < moves_.size(); ++m) cells[next[moves_[m].after]++] = landings_[m];
    std::vector<uint32_t> states_begin(situations() + 1, 0);
    for (size_t s = 0; s < situations(); ++s) {
        states_begin[s] = uint32_t(cells_.size());
        const auto first = cells.begin() + long(begin[s]), last = cells.begin() + long(begin[s + 1]);
        std::sort(first, last);
        cells_.insert(cells_.end(), first, std::unique(first, last));
        situation_of_.resize(cells_.size(), uint32_t(s));
    }
    states_begin.back() = uint32_t(cells_.size());
    const auto state_of = [&](uint32_t situation, uint16_t cell) {
        const auto first = cells_.begin() + states_begin[situation],
                   last = cells_.begin() + states_begin[situation + 1];
        return uint32_t(std::lower_bound(first, last, cell) - cells_.begin());
    };
    for (size_t m = 0; m < moves_.size(); ++m) moves_[m].after = state_of(moves_[m].after, landings_[m]);
    start_ = state_of(0, first_cell);
    landings_ = {};
}

std::vector<char> StateGraph::leading_to(std::vector<char> good) const {
    // Moves by the situation that they lead to.
    std::vector<size_t> begin(situations() + 1, 0);
    for (const Move& move : moves_) ++begin[situation_of_[move.after] + 1];
    for (size_t i = 1; i < begin.size(); ++i) begin[i] += begin[i - 1];
    std::vector<uint32_t> before(moves_.size());
    std::vector<size_t> next(begin.begin(), begin.end() - 1);
    for (uint32_t s = 0; s < situations(); ++s)
        for (size_t m = moves_begin_[s]; m < moves_begin_[s + 1]; ++m)
            before[next[situation_of_[moves_[m].after]]++] = s;
    std::vector<uint32_t> open;
    for (uint32_t s = 0; s < good.size(); ++s)
        if (good[s]) open.push_back(s);
    while (!open.empty()) {
        const uint32_t s = open.back();
        open.pop_back();
        for (size_t i = begin[s]; i < begin[s + 1]; ++i)
            if (char& one = good[before[i]]; !one) one = 1, open.push_back(before[i]);
    }
    return good;
}

} // namespace rubble::solve
