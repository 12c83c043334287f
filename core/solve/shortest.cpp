#include "solve/shortest.h"

#include <algorithm>
#include <limits>
#include <unordered_map>
#include <utility>

namespace rubble::solve {

using motion::CellPuzzle;
using motion::CellState;
using motion::Letter;

namespace {

constexpr uint32_t k_none = std::numeric_limits<uint32_t>::max();

/// How a state was come to, the best way so far.
struct Step {
    uint32_t letters = k_none, pushes = 0;
    uint32_t before = k_none;
    uint16_t from = 0;
    Letter letter = Letter::wait;
};

/// States in the order of letters, with those that are still needed.
class Buckets {
public:
    void put(size_t bucket, uint32_t state) {
        if (buckets_.size() <= bucket) buckets_.resize(bucket + 1);
        buckets_[bucket].push_back(state);
    }
    size_t count() const { return buckets_.size(); }
    std::vector<uint32_t>& at(size_t bucket) { return buckets_[bucket]; }

private:
    std::vector<std::vector<uint32_t>> buckets_;
};

/// Puts together the letters of the states that led to one; `state(number)` gives a state, `step(number)`
/// how it was come to.
template <class State, class StepOf>
Way way_to(MoveFinder& finder, uint32_t number, State state, StepOf step) {
    Way out;
    out.pushes = int(step(number).pushes);
    std::vector<uint32_t> way;
    for (; number != k_none; number = step(number).before) way.push_back(number);
    std::reverse(way.begin(), way.end());
    for (size_t i = 1; i < way.size(); ++i) {
        out.letters += finder.walk(state(way[i - 1]), step(way[i]).from);
        out.letters += motion::char_of(step(way[i]).letter);
        out.letters_between.push_back(int(step(way[i]).letters - step(way[i - 1]).letters));
    }
    out.states = std::move(way);
    return out;
}

/// In how many ways a state is come to in as few letters and pushes as `steps` says, through states that
/// were gone on from.
double ways_to(const CellPuzzle& puzzle, const StateGraph& graph, const std::vector<char>& good,
               const std::vector<Step>& steps, std::vector<uint32_t> gone_on_from, uint32_t goal) {
    std::sort(gone_on_from.begin(), gone_on_from.end());
    gone_on_from.erase(std::unique(gone_on_from.begin(), gone_on_from.end()), gone_on_from.end());
    std::stable_sort(gone_on_from.begin(), gone_on_from.end(),
                     [&](uint32_t a, uint32_t b) { return steps[a].letters < steps[b].letters; });
    MoveFinder finder(puzzle);
    std::unordered_map<uint32_t, double> ways{{graph.start(), 1.0}};
    for (const uint32_t number : gone_on_from) {
        const auto known = ways.find(number);
        if (known == ways.end()) continue;
        const double so_far = known->second;
        finder.walk_from(graph.state(number));
        const uint32_t situation = graph.situation_of(number);
        for (auto move = graph.begin(situation); move != graph.end(situation); ++move) {
            if (!good[graph.situation_of(move->after)]) continue;
            const Step& after = steps[move->after];
            if (steps[number].letters + uint32_t(finder.distance(move->from)) + 1 == after.letters &&
                steps[number].pushes + (move->crate >= 0) == after.pushes)
                ways[move->after] += so_far;
        }
    }
    // All goals of as few letters and pushes count.
    double out = 0;
    for (const auto& [state, count] : ways)
        if (graph.is_goal(graph.situation_of(state)) && steps[state].letters == steps[goal].letters &&
            steps[state].pushes == steps[goal].pushes)
            out += count;
    return out;
}

bool is_better(uint32_t letters, uint32_t pushes, const Step& than) {
    return std::pair(letters, pushes) < std::pair(than.letters, than.pushes);
}

} // namespace

LettersToGoal::LettersToGoal(const CellPuzzle& puzzle) {
    const auto& floors = puzzle.floor;
    if (std::any_of(floors.begin(), floors.end(), [](const auto& one) { return one.belt >= 0; })) return;
    // From where a letter could bring the figure into a cell: it slides as far as somebody lets it.
    std::vector<std::vector<int>> before(floors.size());
    for (int cell = 0; cell < puzzle.cells(); ++cell)
        for (int direction = 0; direction < 4 && !puzzle.floor_of(cell).wall; ++direction)
            for (int at = puzzle.beside(cell, direction); at >= 0 && !puzzle.floor_of(at).wall;
                 at = puzzle.beside(at, direction)) {
                before[size_t(at)].push_back(cell);
                if (!puzzle.floor_of(at).slippery) break;
            }
    letters_.assign(floors.size(), never);
    std::vector<int> open;
    for (int cell = 0; cell < puzzle.cells(); ++cell)
        if (puzzle.floor_of(cell).goal) letters_[size_t(cell)] = 0, open.push_back(cell);
    for (size_t i = 0; i < open.size(); ++i)
        for (const int cell : before[size_t(open[i])])
            if (letters_[size_t(cell)] == never) {
                letters_[size_t(cell)] = letters_[size_t(open[i])] + 1;
                open.push_back(cell);
            }
}

std::optional<Way> shortest_way(const CellPuzzle& puzzle, const StateGraph& graph,
                                const std::vector<char>& good, const Cancel& cancel) {
    MoveFinder finder(puzzle);
    const LettersToGoal at_least(puzzle);
    std::vector<Step> steps(graph.states());
    Buckets open;
    steps[graph.start()].letters = 0;
    open.put(size_t(at_least.from(graph.cell_of(graph.start()))), graph.start());
    uint32_t best = k_none;
    std::vector<uint32_t> gone_on_from;
    for (size_t bucket = 0; bucket < open.count() && best == k_none; ++bucket)
        for (size_t k = 0; k < open.at(bucket).size(); ++k) {
            const uint32_t number = open.at(bucket)[k];
            const CellState state = graph.state(number);
            const Step here = steps[number];
            if (here.letters + uint32_t(at_least.from(state.figure)) != bucket) continue; // found shorter
            const uint32_t situation = graph.situation_of(number);
            if (graph.is_goal(situation)) {
                if (best == k_none || here.pushes < steps[best].pushes) best = number;
                continue;
            }
            if (cancel.requested()) return {};
            finder.walk_from(state);
            gone_on_from.push_back(number);
            for (auto move = graph.begin(situation); move != graph.end(situation); ++move) {
                if (!good[graph.situation_of(move->after)]) continue;
                const uint32_t letters = here.letters + uint32_t(finder.distance(move->from)) + 1,
                               pushes = here.pushes + (move->crate >= 0);
                if (!is_better(letters, pushes, steps[move->after])) continue;
                steps[move->after] = {letters, pushes, number, move->from, move->letter};
                open.put(letters + size_t(at_least.from(graph.cell_of(move->after))), move->after);
            }
        }
    if (best == k_none) return {};
    Way way = way_to(
        finder, best, [&](uint32_t n) { return graph.state(n); }, [&](uint32_t n) { return steps[n]; });
    way.ways = ways_to(puzzle, graph, good, steps, std::move(gone_on_from), best);
    return way;
}

std::optional<Way> shortest_way(const CellPuzzle& puzzle, size_t most_states, const Cancel& cancel) {
    MoveFinder finder(puzzle);
    StateTable table(puzzle);
    const LettersToGoal at_least(puzzle);
    std::vector<Step> steps(1);
    // By the letters that a way through them takes at least, then by pushes: what pushes more than it has to
    // waits until all that pushes less was tried. The newest first, which is the nearest to a goal.
    std::vector<Buckets> open;
    const auto put = [&](size_t letters, size_t pushes, uint32_t state) {
        if (open.size() <= letters) open.resize(letters + 1);
        open[letters].put(pushes, state);
    };
    if (at_least.from(puzzle.start.figure) == LettersToGoal::never) return {};
    steps[0].letters = 0;
    put(size_t(at_least.from(puzzle.start.figure)), 0, table.add(puzzle.start).number);
    for (size_t letters = 0; letters < open.size(); ++letters) {
        for (size_t pushes = 0; pushes < open[letters].count(); ++pushes)
            while (!open[letters].at(pushes).empty()) {
                const uint32_t number = open[letters].at(pushes).back();
                open[letters].at(pushes).pop_back();
                const CellState state = table.at(number);
                const Step here = steps[number];
                if (here.letters + uint32_t(at_least.from(state.figure)) != letters || here.pushes != pushes)
                    continue;
                if (motion::solved(puzzle, state))
                    return way_to(
                        finder, number, [&](uint32_t n) { return table.at(n); },
                        [&](uint32_t n) { return steps[n]; });
                if (table.size() > most_states || cancel.requested()) return {};
                const auto& moves = finder.moves(state);
                table.expect(moves, [](const Move& move) -> const CellState& { return move.after; });
                for (const Move& move : moves) {
                    const int to_goal = at_least.from(move.after.figure);
                    if (to_goal == LettersToGoal::never) continue;
                    const uint32_t after = table.add(move.after).number;
                    if (after == steps.size()) steps.emplace_back();
                    const uint32_t longer = here.letters + uint32_t(move.steps),
                                   pushed = here.pushes + (move.pushed >= 0);
                    if (!is_better(longer, pushed, steps[after])) continue;
                    steps[after] = {longer, pushed, number, uint16_t(move.from), move.letter};
                    put(longer + size_t(to_goal), pushed, after);
                }
            }
        open[letters] = {};
    }
    return {};
}

std::optional<int> letters_to(const CellPuzzle& puzzle, const StateGraph& graph,
                              const std::vector<uint32_t>& states, const std::vector<char>& marked) {
    MoveFinder finder(puzzle);
    std::unordered_map<uint32_t, uint32_t> letters;
    Buckets open;
    for (const uint32_t state : states)
        if (letters.try_emplace(state, 0).second) open.put(0, state);
    for (size_t bucket = 0; bucket < open.count(); ++bucket)
        for (size_t k = 0; k < open.at(bucket).size(); ++k) {
            const uint32_t number = open.at(bucket)[k];
            if (letters.at(number) != bucket) continue;
            const uint32_t situation = graph.situation_of(number);
            if (marked[situation]) return int(bucket);
            finder.walk_from(graph.state(number));
            for (auto move = graph.begin(situation); move != graph.end(situation); ++move) {
                const uint32_t longer = uint32_t(bucket) + uint32_t(finder.distance(move->from)) + 1;
                const auto [known, is_new] = letters.try_emplace(move->after, longer);
                if (!is_new && known->second <= longer) continue;
                known->second = longer;
                open.put(longer, move->after);
            }
        }
    return {};
}

} // namespace rubble::solve
