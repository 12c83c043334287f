#include "motion/cells/foe_ways.h"

#include <numeric>

#include "base/random.h"

namespace rubble::motion {

namespace {

/// How far who wanders goes before it turns back (cells).
constexpr int k_wander_cells = 24;

bool is_free(const CellPuzzle& puzzle, int cell) {
    return cell >= 0 && !puzzle.floor_of(cell).wall && !puzzle.floor_of(cell).deadly;
}

} // namespace

CellPuzzle::Foe turning_way(const CellPuzzle& puzzle, int from, int direction) {
    CellPuzzle::Foe foe;
    std::vector<uint16_t> ahead, behind;
    if (!is_free(puzzle, from)) return foe;
    const int back = (direction + 2) % 4;
    for (int at = puzzle.beside(from, direction); is_free(puzzle, at); at = puzzle.beside(at, direction))
        ahead.push_back(uint16_t(at));
    for (int at = puzzle.beside(from, back); is_free(puzzle, at); at = puzzle.beside(at, back))
        behind.push_back(uint16_t(at));
    std::vector<uint16_t>& way = foe.way;
    way.push_back(uint16_t(from));
    way.insert(way.end(), ahead.begin(), ahead.end());
    for (size_t i = ahead.size(); i-- > 1;) way.push_back(ahead[i - 1]);
    if (!ahead.empty()) way.push_back(uint16_t(from));
    way.insert(way.end(), behind.begin(), behind.end());
    for (size_t i = behind.size(); i-- > 1;) way.push_back(behind[i - 1]);
    if (behind.empty() && way.size() > 1) way.pop_back(); // it stands where it began already
    return foe;
}

CellPuzzle::Foe following_way(const CellPuzzle& puzzle, int from, int direction, bool left) {
    CellPuzzle::Foe foe;
    if (!is_free(puzzle, from)) return foe;
    // When it is where it was, going the same way, it goes on as it did then.
    std::vector<int> seen(size_t(puzzle.cells()) * 8, -1);
    bool had_wall = false;
    const int side = left ? 1 : 3;
    int at = from;
    for (;;) {
        int& first = seen[size_t(at) * 8 + size_t(direction) * 2 + size_t(had_wall)];
        if (first >= 0) {
            foe.repeats_from = first;
            return foe;
        }
        first = int(foe.way.size());
        foe.way.push_back(uint16_t(at));
        for (const int turn : {side, 0, (side + 2) % 4, 2}) {
            const int next = puzzle.beside(at, (direction + turn) % 4);
            if (!is_free(puzzle, next)) {
                had_wall = true;
                continue;
            }
            if (turn == side && !had_wall) continue;
            direction = (direction + turn) % 4, at = next;
            break;
        }
    }
}

CellPuzzle::Foe wandering_way(const CellPuzzle& puzzle, int from, uint64_t seed) {
    CellPuzzle::Foe foe;
    if (!is_free(puzzle, from)) return foe;
    RandomSource random(seed);
    foe.way.push_back(uint16_t(from));
    for (int at = from, came_by = -1, i = 0; i < k_wander_cells; ++i) {
        std::vector<int> open;
        for (int direction = 0; direction < 4; ++direction)
            if (direction != (came_by + 2) % 4 || came_by < 0)
                if (is_free(puzzle, puzzle.beside(at, direction))) open.push_back(direction);
        if (open.empty()) break;
        came_by = open[random.below(open.size())];
        at = puzzle.beside(at, came_by);
        foe.way.push_back(uint16_t(at));
    }
    for (size_t i = foe.way.size() - 1; i-- > 1;) foe.way.push_back(foe.way[i]);
    return foe;
}

CellPuzzle::Foe nearing_way(const CellPuzzle& puzzle, int from, int sight_cells) {
    CellPuzzle::Foe foe;
    if (!is_free(puzzle, from)) return foe;
    foe.way.resize(size_t(puzzle.cells()));
    std::iota(foe.way.begin(), foe.way.end(), uint16_t(0));
    foe.sight = sight_cells, foe.begins = from;
    return foe;
}

} // namespace rubble::motion
