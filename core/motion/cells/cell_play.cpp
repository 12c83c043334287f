#include "motion/cells/cell_play.h"

#include <cmath>

#include "motion/cells/letter.h"

namespace rubble::motion {

namespace {

/// A stick this far from rest points somewhere.
constexpr double k_stick_pointed = 0.3;

Letter letter_of_stick(Vec2 stick) {
    if (glm::length(stick) < k_stick_pointed) return Letter::wait;
    if (std::abs(stick.x) >= std::abs(stick.y)) return stick.x < 0 ? Letter::west : Letter::east;
    return stick.y < 0 ? Letter::south : Letter::north;
}

Vec2 middle_of(const CellPuzzle& puzzle, const build::WalkedCells& cells, int cell) {
    return cells.middle_of(puzzle.at(cell));
}

} // namespace

double letter_s(const build::WalkedCells& cells, const Character& character) {
    return character.run_speed_mps > 0 ? cells.cell_m / character.run_speed_mps : 1;
}

CellState begun_in_cell(const CellPuzzle& puzzle, const build::WalkedCells& cells, const State& body) {
    CellState state = puzzle.start;
    const CellAt cell = cells.cell_at(flat(body.at));
    if (puzzle.inside(cell)) state.figure = uint16_t(puzzle.cell_of(cell));
    return state;
}

PlayState cell_play(const World& world, const Character& c, PlayState state, const Input& input) {
    const CellPuzzle& puzzle = *world.moving().puzzle;
    const build::WalkedCells& cells = *world.moving().cells;
    State& s = state.body;
    CellState& now = state.puzzle.cells;
    const Vec2 middle = middle_of(puzzle, cells, now.figure);
    Vec2 apart = middle - flat(s.at);
    const bool arrived = apart == Vec2(0);
    if (arrived) {
        const Letter letter = input.use ? Letter::use : letter_of_stick(input.stick);
        state.waited_s += step_s;
        const bool time_counts = puzzle.timed() || puzzle.floor_of(now.figure).belt >= 0;
        const bool due = time_counts && state.waited_s >= letter_s(cells, c) - 1e-9;
        // A key that is held down uses once: the next time after it was let go.
        const bool used_already = letter == Letter::use && s.jump_held;
        if ((letter != Letter::wait && !used_already) || due) {
            Played played = motion::played(puzzle, now, letter);
            // Whoever pushes against a wall waits.
            if (played.outcome == Played::Outcome::blocked && due)
                played = motion::played(puzzle, now, Letter::wait);
            if (played.outcome != Played::Outcome::blocked) now = played.state, state.waited_s = 0;
            s.dead = played.outcome == Played::Outcome::killed;
        }
        apart = middle_of(puzzle, cells, now.figure) - flat(s.at);
    }
    const double left = glm::length(apart), way = c.run_speed_mps * step_s;
    s.velocity = left > 0 ? raised(apart / left * c.run_speed_mps, 0) : Vec3(0);
    s.at = raised(left <= way * (1 + 1e-9) ? middle_of(puzzle, cells, now.figure)
                                           : flat(s.at) + apart / left * way,
                  s.at.z);
    s.standing = true;
    s.fall_from = s.at.z;
    s.off_ground_s = 0;
    s.jump_held = input.use;
    return state;
}

} // namespace rubble::motion
