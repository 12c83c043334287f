#include "check/cell_answers.h"

#include "motion/cells/cell_play.h"

namespace rubble::check {

namespace {

/// States that a question goes through at most: a check is to be quick.
constexpr size_t k_most_states = 300'000;
/// Longest time that a letter takes (steps).
constexpr int k_longest_letter = 120 * 60;

Vec2 stick_of(motion::Letter letter) {
    switch (letter) {
    case motion::Letter::east:
        return {1, 0};
    case motion::Letter::north:
        return {0, 1};
    case motion::Letter::west:
        return {-1, 0};
    case motion::Letter::south:
        return {0, -1};
    case motion::Letter::wait:
    case motion::Letter::use:
        break;
    }
    return Vec2(0);
}

} // namespace

bool play_letters(motion::Recorder& recorder, const motion::World& world, const std::string& letters) {
    const motion::CellPuzzle& puzzle = *world.moving().puzzle;
    const build::WalkedCells& cells = *world.moving().cells;
    for (const char c : letters) {
        const auto letter = motion::letter_of(c);
        if (!letter) return false;
        const Vec2 stick = stick_of(*letter);
        const bool uses = *letter == motion::Letter::use;
        if (uses && recorder.state().jump_held) recorder.advance({}); // the key is let go between two uses
        // Held for one step; the figure arrives by itself. Waiting lasts until its letter was played.
        bool played = false;
        for (int i = 0; i < k_longest_letter; ++i) {
            const auto before = recorder.play();
            recorder.advance({played ? Vec2(0) : stick, false, false, uses && !played});
            const auto& now = recorder.play();
            if (now.body.dead) return false;
            played |= now.puzzle.cells != before.puzzle.cells || now.waited_s < before.waited_s ||
                      ((uses || stick != Vec2(0)) && i == 0);
            if (played && flat(now.body.at) == cells.middle_of(puzzle.at(now.puzzle.cells.figure))) break;
        }
        if (!played) return false;
    }
    return true;
}

int CellAnswers::cell_of(const Vec3& at) const {
    const motion::CellPuzzle& puzzle = *world_.moving().puzzle;
    const CellAt cell = world_.moving().cells->cell_at(flat(at));
    return puzzle.inside(cell) ? puzzle.cell_of(cell) : -1;
}

solve::CellReach& CellAnswers::reach_from(const Vec3& at) {
    auto& known = by_start_[cell_of(at)];
    if (!known) {
        const motion::PlayState begin = motion::begun_at(world_, character_, at);
        known = std::make_unique<solve::CellReach>(*world_.moving().puzzle, begin.puzzle.cells, k_most_states,
                                                   cancel_);
    }
    return *known;
}

std::optional<bool> CellAnswers::reached(const Vec3& from, const Vec3& to) {
    const int a = cell_of(from), b = cell_of(to);
    if (a < 0 || b < 0 || world_.moving().puzzle->floor_of(a).wall) return false;
    const solve::CellReach& reach = reach_from(from);
    if (reach.reached(b)) return true;
    return reach.complete() ? std::optional(false) : std::nullopt;
}

std::vector<bool> CellAnswers::cells_from(const Vec3& from) {
    std::vector<bool> out(size_t(world_.moving().puzzle->cells()), false);
    const int cell = cell_of(from);
    if (cell < 0 || world_.moving().puzzle->floor_of(cell).wall) return out;
    const solve::CellReach& reach = reach_from(from);
    for (size_t i = 0; i < out.size(); ++i) out[i] = reach.reached(int(i));
    return out;
}

std::vector<int> CellAnswers::events_from(const Vec3& from) {
    std::vector<int> out(size_t(world_.moving().puzzle->cells()), -1);
    const int cell = cell_of(from);
    if (cell < 0 || world_.moving().puzzle->floor_of(cell).wall) return out;
    const solve::CellReach& reach = reach_from(from);
    for (size_t i = 0; i < out.size(); ++i) out[i] = reach.events_before(int(i));
    return out;
}

std::optional<Witness> CellAnswers::way_back(const Vec3& from, const Vec3& to) {
    if (!reached(from, to).value_or(false)) return {};
    const motion::CellPuzzle& puzzle = *world_.moving().puzzle;
    motion::Recorder recorder(world_, character_, motion::begun_at(world_, character_, from));
    if (!play_letters(recorder, world_, reach_from(from).letters_to(cell_of(to)))) return {};
    solve::CellReach back(puzzle, recorder.play().puzzle.cells, k_most_states, cancel_);
    const int home = cell_of(from);
    if (!back.reached(home) || !play_letters(recorder, world_, back.letters_to(home))) return {};
    Witness witness;
    witness.recording = recorder.recording();
    witness.recording.start = from;
    witness.legs.push_back({nullptr, 0});
    witness.end = recorder.state();
    return witness;
}

std::optional<Witness> CellAnswers::witness(const Vec3& from, const Vec3& to) {
    if (!reached(from, to).value_or(false)) return {};
    motion::Recorder recorder(world_, character_, motion::begun_at(world_, character_, from));
    if (!play_letters(recorder, world_, reach_from(from).letters_to(cell_of(to)))) return {};
    Witness witness;
    witness.recording = recorder.recording();
    witness.recording.start = from;
    witness.legs.push_back({nullptr, 0});
    witness.end = motion::replayed(world_, character_, witness.recording);
    if (witness.end.dead || cell_of(witness.end.at) != cell_of(to)) return {};
    return witness;
}

} // namespace rubble::check
