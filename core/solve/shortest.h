#pragma once

#include <optional>
#include <string>
#include <vector>

#include "solve/state_graph.h"

namespace rubble::solve {

/// Letters that a figure at least has to play from each cell to a goal: as if nothing was in its way but
/// walls.
class LettersToGoal {
public:
    explicit LettersToGoal(const motion::CellPuzzle& puzzle);
    static constexpr int never = 1 << 28;
    int from(int cell) const { return letters_.empty() ? 0 : letters_[size_t(cell)]; }

private:
    std::vector<int> letters_; ///< by cells; empty where belts carry, so that nothing is known
};

/// A solution.
struct Way {
    std::string letters;
    int pushes = 0;
    std::vector<uint32_t> states = {};     ///< of a graph, that it goes through
    std::vector<int> letters_between = {}; ///< from each of them to the next
    double ways = 0; ///< how many there are of as few letters and pushes; 0: not counted
};

/// The solution of the fewest letters, and of those of the fewest pushes, through situations from which the
/// goal is reached (A*: Hart, Nilsson, Raphael 1968, with a bucket for each number of letters).
std::optional<Way> shortest_way(const motion::CellPuzzle& puzzle, const StateGraph& graph,
                                const std::vector<char>& good, const Cancel& cancel);

/// The same without knowing all states; nothing where none was found among so many states.
std::optional<Way> shortest_way(const motion::CellPuzzle& puzzle, size_t most_states, const Cancel& cancel);

/// The fewest letters from some states to one of a situation that is marked; nothing where none is come to.
std::optional<int> letters_to(const motion::CellPuzzle& puzzle, const StateGraph& graph,
                              const std::vector<uint32_t>& states, const std::vector<char>& marked);

} // namespace rubble::solve
