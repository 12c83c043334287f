#include "check/puzzle_mends.h"

#include <algorithm>
#include <array>
#include <set>

#include "build/solid_builder.h"
#include "edit/fresh_ids.h"
#include "edit/items.h"
#include "level/element_values.h"
#include "level/order.h"
#include "motion/cells/puzzle.h"

namespace rubble::check {

namespace {

/// Larger puzzles are not solved again and again, and so many ruins and elements are looked at.
constexpr size_t k_most_states = 60'000, k_most_ruins = 8, k_most_elements = 24;

/// A level as a puzzle, solved.
struct Solved {
    std::optional<motion::CellPuzzle> puzzle;
    solve::Answer answer;
};

Solved solved(const Level& level, const Cancel& cancel) {
    Solved out;
    const build::Solid solid = build::build_solid(level);
    if (!solid.elements || !solid.cells) return out;
    auto puzzle = motion::puzzle_of(*solid.elements, *solid.cells, solid.rules);
    if (!puzzle || !puzzle->has_start) return out;
    solve::SolveOptions options;
    options.most_states = k_most_states, options.cancel = cancel;
    out.answer = solve::solved(*puzzle, options);
    out.puzzle = std::move(*puzzle);
    return out;
}

bool is_late(const solve::Ruin& ruin) { return !ruin.noticed_after || *ruin.noticed_after > 0; }

int late_ruins(const solve::Answer& answer) {
    return int(std::count_if(answer.ruins.begin(), answer.ruins.end(), is_late));
}

/// The layer that elements of a level are put into.
int play_layer(const Level& level) {
    for (size_t i = 0; i < level.layers.size(); ++i)
        for (const auto& item : level.layers[i]->items)
            if (item->element()) return int(i);
    return -1;
}

} // namespace

std::vector<PuzzleMend> puzzle_mends(const Level& level, const solve::Answer& answer, const Cancel& cancel) {
    std::vector<PuzzleMend> out;
    const int layer = play_layer(level);
    if (layer < 0 || !answer.complete || answer.states > k_most_states || !answer.solvable.value_or(false))
        return out;
    const build::Solid solid = build::build_solid(level);
    if (!solid.elements || !solid.cells) return out;
    const auto puzzle = motion::puzzle_of(*solid.elements, *solid.cells, solid.rules);
    if (!puzzle) return out;
    std::vector<solve::Ruin> ruins;
    for (const solve::Ruin& ruin : answer.ruins)
        if (is_late(ruin) && ruin.crate >= 0 && ruin.letter != motion::Letter::wait) ruins.push_back(ruin);
    const auto late = [](const solve::Ruin& ruin) { return ruin.noticed_after.value_or(1 << 30); };
    std::stable_sort(ruins.begin(), ruins.end(), [&](auto& a, auto& b) { return late(a) > late(b); });
    std::set<int> tried; // cells
    for (const solve::Ruin& ruin : ruins) {
        const int crate = puzzle->beside(ruin.from, int(ruin.letter));
        const int target = crate < 0 ? -1 : puzzle->beside(crate, int(ruin.letter));
        if (target < 0 || puzzle->floor_of(target).wall || tried.size() >= k_most_ruins ||
            !tried.insert(target).second)
            continue;
        const double cell_m = solid.cells->cell_m;
        const Vec3 at = raised(solid.cells->middle_of(puzzle->at(target)), 0);
        const Element barrier =
            with_value(Element{"barrier", at, 0, {}}, "size_m", Vec3(cell_m, cell_m, 0.2));
        for (const Element& element : {barrier, Element{"pickup", at, 0, {}}}) {
            if (cancel.requested()) return out;
            PuzzleMend mend{Item{edit::fresh_id(level, "m"), {}, false, element, {}}, ruin, 0, 0};
            const Solved then = solved(edit::with_item(level, layer, mend.item), cancel);
            if (!then.puzzle || !then.answer.complete || !then.answer.solvable.value_or(false)) continue;
            const bool still = std::any_of(
                then.answer.ruins.begin(), then.answer.ruins.end(), [&](const solve::Ruin& other) {
                    return other.from == ruin.from && other.letter == ruin.letter &&
                           other.crate == ruin.crate && is_late(other);
                });
            mend.fewer_ruins = late_ruins(answer) - late_ruins(then.answer);
            mend.steps = then.answer.steps();
            if (!still && mend.fewer_ruins > 0) out.push_back(std::move(mend));
        }
    }
    std::stable_sort(out.begin(), out.end(),
                     [](const auto& a, const auto& b) { return a.fewer_ruins > b.fewer_ruins; });
    return out;
}

std::vector<ItemId> decoration_of(const Level& level, const solve::Answer& answer, const Cancel& cancel) {
    std::vector<ItemId> out;
    if (!answer.solvable.value_or(false) || !answer.complete || answer.states > k_most_states) return out;
    size_t looked_at = 0;
    for (const Item* item : elements_of(level)) {
        const Role role = role_of(*item->element());
        if (role == Role::start || role == Role::goal || role == Role::note || role == Role::place) continue;
        if (++looked_at > k_most_elements || cancel.requested()) break;
        const std::array gone{item->id};
        const Solved then = solved(edit::without(level, gone), cancel);
        if (then.answer.solvable.value_or(false) && then.answer.steps() == answer.steps() &&
            then.answer.pushes == answer.pushes)
            out.push_back(item->id);
    }
    return out;
}

} // namespace rubble::check
