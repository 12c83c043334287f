#include "puzzle_watch.h"

#include "build/solid_builder.h"
#include "motion/cells/puzzle.h"

namespace rubble::app {

namespace {

/// States that are looked at while one works: some hundreds of megabytes.
constexpr size_t k_most_states = 4'000'000;

} // namespace

PuzzleWatch::PuzzleWatch(Session& session, QObject* parent)
    : QObject(parent),
      session_(session),
      jobs_(
          [this](const Level& level, uint64_t number, const Cancel& cancel) { run(level, number, cancel); }) {
    qRegisterMetaType<PuzzleAnswer>();
    connect(this, &PuzzleWatch::solved, this, [this](quint64 request, const PuzzleAnswer& answer) {
        if (request == request_) session_.set_puzzle_answer(answer);
    });
    connect(&session_, &Session::levelChanged, this, &PuzzleWatch::follow);
    connect(&session_, &Session::documentOpened, this, &PuzzleWatch::follow);
}

void PuzzleWatch::follow() {
    const Level& level = session_.level();
    if (level.frame != Frame::plan || level.walked != Walked::by_cells) {
        jobs_.drop();
        of_.reset(), request_ = 0;
        if (session_.puzzle_answer().puzzle) session_.set_puzzle_answer({});
        return;
    }
    if (of_ && of_->layers == level.layers && of_->rules == level.rules) return;
    of_ = level;
    PuzzleAnswer old = session_.puzzle_answer();
    old.newest = false;
    session_.set_puzzle_answer(std::move(old));
    request_ = jobs_.ask(level);
}

void PuzzleWatch::run(const Level& level, uint64_t number, const Cancel& cancel) {
    PuzzleAnswer out;
    const build::Solid solid = build::build_solid(level);
    if (solid.elements && solid.cells)
        if (auto puzzle = motion::puzzle_of(*solid.elements, *solid.cells, solid.rules);
            puzzle && puzzle->has_start) {
            out.puzzle = std::make_shared<const motion::CellPuzzle>(std::move(*puzzle));
            out.cells = solid.cells;
        }
    if (out.puzzle) {
        solve::SolveOptions options;
        options.most_states = k_most_states, options.cancel = cancel;
        options.on_solution = [&](const solve::Answer& known) {
            PuzzleAnswer first = out;
            first.answer = known;
            if (!cancel.requested()) emit solved(number, first);
        };
        out.answer = solve::solved(*out.puzzle, options);
    }
    out.newest = true;
    if (!cancel.requested()) emit solved(number, out);
    if (!out.puzzle || cancel.requested()) return;
    // Trying takes longer; what is known already is shown meanwhile.
    out.mends = check::puzzle_mends(level, out.answer, cancel);
    out.decoration = check::decoration_of(level, out.answer, cancel);
    if (!cancel.requested() && !(out.mends.empty() && out.decoration.empty())) emit solved(number, out);
}

} // namespace rubble::app
