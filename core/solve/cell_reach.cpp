#include "solve/cell_reach.h"

#include <algorithm>
#include <bit>
#include <limits>

namespace rubble::solve {

CellReach::CellReach(const motion::CellPuzzle& puzzle, const motion::CellState& start, size_t most_states,
                     const Cancel& cancel)
    : puzzle_(puzzle),
      table_(puzzle),
      finder_(puzzle),
      cells_(size_t(puzzle.cells())),
      events_(size_t(puzzle.cells()), std::numeric_limits<int>::max()) {
    motion::CellState eventful; // the bits of what is taken, pressed and opened
    for (const auto& thing : puzzle.things) eventful.set(thing.bit);
    for (const auto& press : puzzle.switches) eventful.set(press.bit);
    for (const auto& door : puzzle.doors)
        if (door.opened >= 0) eventful.set(door.opened);
    const auto events_of = [&](const motion::CellState& state) {
        int count = 0;
        for (size_t i = 0; i < state.bits.size(); ++i)
            count += std::popcount((state.bits[i] ^ start.bits[i]) & eventful.bits[i]);
        return count;
    };
    std::vector<std::vector<uint32_t>> buckets{{table_.add(start).number}};
    nodes_.push_back({0, k_none, 0, motion::Letter::wait});
    for (size_t steps = 0; steps < buckets.size(); ++steps)
        for (size_t k = 0; k < buckets[steps].size(); ++k) {
            const uint32_t node = buckets[steps][k];
            if (nodes_[node].steps != steps) continue;
            if (table_.size() > most_states || cancel.requested()) return;
            for (const Move& move : finder_.moves(table_.at(node))) {
                const uint32_t after = table_.add(move.after).number;
                if (after == nodes_.size()) nodes_.emplace_back();
                const uint32_t longer = uint32_t(steps) + uint32_t(move.steps);
                if (nodes_[after].steps <= longer) continue;
                nodes_[after] = {longer, node, uint16_t(move.from), move.letter};
                if (buckets.size() <= longer) buckets.resize(longer + 1);
                buckets[longer].push_back(after);
            }
            const int events = events_of(table_.at(node));
            for (const int cell : finder_.walked()) {
                events_[size_t(cell)] = std::min(events_[size_t(cell)], events);
                const uint32_t far = uint32_t(steps) + uint32_t(finder_.distance(cell));
                if (far < cells_[size_t(cell)].steps) cells_[size_t(cell)] = {node, far};
            }
        }
    complete_ = true;
}

std::string CellReach::letters_to(int cell) {
    std::vector<uint32_t> way;
    for (uint32_t node = cells_[size_t(cell)].node; node != k_none; node = nodes_[node].parent)
        way.push_back(node);
    std::reverse(way.begin(), way.end());
    std::string out;
    for (size_t i = 0; i < way.size(); ++i) {
        const bool last = i + 1 == way.size();
        out += finder_.walk(table_.at(way[i]), last ? cell : nodes_[way[i + 1]].from);
        if (!last) out += motion::char_of(nodes_[way[i + 1]].letter);
    }
    return out;
}

} // namespace rubble::solve
