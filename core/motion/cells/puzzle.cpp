#include "motion/cells/puzzle.h"

#include <algorithm>
#include <cmath>

#include "base/angle.h"
#include "build/solid_builder.h"
#include "level/element_kinds.h"
#include "level/element_values.h"
#include "level/order.h"
#include "motion/cells/foe_ways.h"
#include "motion/cells/rules.h"
#include "motion/switch_numbers.h"

namespace rubble::motion {

namespace {

/// How much room an element takes that has no size of its own (metres).
const Vec3 k_door_m(1, 0.2, 2), k_barrier_m(0.2, 1, 2), k_floor_m(1, 1, 0.1);

class Maker {
public:
    Maker(const build::PlacedElements& elements, const build::WalkedCells& cells)
        : elements_(elements),
          cells_(cells) {}

    Result<CellPuzzle> run(const CellRules& rules) {
        puzzle_.rules = rules;
        puzzle_.columns = cells_.columns, puzzle_.rows = cells_.rows;
        if (int64_t(cells_.columns) * cells_.rows >= most_puzzle_cells)
            return refused("It has more than 32768 cells.");
        puzzle_.floor.resize(size_t(puzzle_.cells()));
        using Kind = build::WalkedCells::Kind;
        for (size_t i = 0; i < puzzle_.floor.size(); ++i) {
            puzzle_.floor[i].wall = cells_.kinds[i] == Kind::wall;
            puzzle_.floor[i].deadly = cells_.kinds[i] == Kind::deadly;
        }
        for (const Placed& one : elements_) // before doors, which name them
            if (acts_as(one.element) == "switch") add_switch(one);
        for (const Placed& one : elements_)
            if (acts_as(one.element) != "foe") add(one);
        for (const Placed& one : elements_) // after the floors that they keep away from
            if (acts_as(one.element) == "foe") add_foe(one);
        if (puzzle_.crates.size() > size_t(most_crates)) return refused("It has more than 32 crates.");
        if (puzzle_.foes.size() > size_t(most_foes)) return refused("It has more than 8 foes.");
        if (bits_ > most_puzzle_bits)
            return refused("It has more than 256 things that change, such as doors, keys and switches.");
        if (puzzle_.has_start) begin();
        return std::move(puzzle_);
    }

private:
    using Placed = build::PlacedElement;

    tl::unexpected<Error> refused(const std::string& why) const {
        return rubble::fail("solve.size", {}, "The level is too large to be solved. " + why);
    }

    int cell_at(const Vec3& place) const {
        const CellAt at = cells_.cell_at(flat(place));
        return puzzle_.inside(at) ? puzzle_.cell_of(at) : -1;
    }

    /// The cells that lie under a box of a size around a place, as many as its sides are long, at least one.
    std::vector<int> cells_under(const Element& element, const Vec3& size) const {
        const bool across = std::abs(std::cos(radians(element.facing_deg))) < std::sqrt(0.5);
        const Vec2 sides = across ? Vec2(size.y, size.x) : Vec2(size.x, size.y);
        const auto count = [&](double side) {
            return std::clamp(int(std::lround(side / cells_.cell_m)), 1, 1 << 15);
        };
        const auto first = [&](double middle, int n) {
            return int(std::floor(middle / cells_.cell_m - n / 2.0 + 0.5 + 1e-9));
        };
        const int wide = count(sides.x), high = count(sides.y);
        const int left = first(element.at.x - cells_.corner.x, wide),
                  top = first(cells_.corner.y - element.at.y, high);
        std::vector<int> out;
        for (int row = std::max(top, 0); row < std::min(top + high, puzzle_.rows); ++row)
            for (int column = std::max(left, 0); column < std::min(left + wide, puzzle_.columns); ++column)
                out.push_back(puzzle_.cell_of({column, row}));
        return out;
    }

    static int direction_of(double deg) { return int(std::lround(wrapped(deg) / 90)) & 3; }
    static double wrapped(double deg) { return deg - std::floor(deg / 360) * 360; }

    int item_named(const std::string& name) { return name.empty() ? -1 : index_of(puzzle_.items, name); }

    void add(const Placed& item) {
        const Element& element = item.element;
        const Role role = role_of(element);
        const std::string& kind = acts_as(element);
        using Thing = ThingKind;
        if (role == Role::start && !puzzle_.has_start && cell_at(element.at) >= 0)
            puzzle_.start.figure = uint16_t(cell_at(element.at)), puzzle_.has_start = true;
        else if (role == Role::goal)
            each(element, Vec3(0), [&](auto& floor) { floor.goal = puzzle_.has_goal = true; });
        else if (kind == "key")
            add_thing(item, flag_value(element, "kept", false) ? Thing::kept_key : Thing::key,
                      index_of(puzzle_.keys, text_of(element, "kind")));
        else if (kind == "pickup")
            add_thing(item, Thing::pick_up, index_of(puzzle_.pick_ups, text_of(element, "kind")));
        else if (kind == "item")
            add_thing(item, Thing::item, index_of(puzzle_.items, text_of(element, "gives")));
        else if (kind == "door" || kind == "gate")
            add_door(item);
        else if (kind == "crate")
            add_crate(item);
        else if (kind == "dispenser")
            add_dispenser(item);
        else if (kind == "time_limit")
            puzzle_.most_steps = int(number_of(element, "steps"));
        else if (kind == "floor")
            add_floor(element);
        else if (kind == "hazard")
            each(element, point_value(element, "size_m", k_floor_m), [&](auto& floor) {
                floor.hazard = true,
                floor.hazard_without = int8_t(item_named(text_value(element, "without")));
            });
        else if (kind == "barrier")
            each(element, point_value(element, "size_m", k_barrier_m), [&](auto& floor) {
                floor.keeps_crates_out = !flag_value(element, "crates", false);
                if (flag_value(element, "one_way", false))
                    floor.one_way = int8_t(direction_of(element.facing_deg));
            });
    }

    template <class F> void each(const Element& element, const Vec3& size, F change) {
        for (const int cell : cells_under(element, size)) change(puzzle_.floor[size_t(cell)]);
    }

    void add_thing(const Placed& item, ThingKind kind, int name) {
        const int cell = cell_at(item.element.at);
        if (cell < 0) return;
        int16_t& first = puzzle_.floor[size_t(cell)].thing;
        puzzle_.things.push_back({item.id, kind, name, cell, bits_++, first});
        first = int16_t(puzzle_.things.size() - 1);
    }

    void add_switch(const Placed& item) {
        const Element& element = item.element;
        CellPuzzle::Press press;
        press.id = item.id;
        const std::string mode = text_value(element, "mode", "once"), by = text_value(element, "by", "any");
        press.mode = mode == "toggle" ? PressMode::toggle
                     : mode == "held" ? PressMode::held
                                      : PressMode::once;
        press.by_foot = by == "foot" || by == "any", press.by_crate = by == "crate" || by == "any";
        press.by_use = by == "use";
        if (press.by_use && press.mode == PressMode::held) press.mode = PressMode::toggle;
        press.bit = bits_++;
        press.cells = cells_under(element, point_value(element, "size_m", Vec3(0)));
        for (const int cell : press.cells)
            puzzle_.floor[size_t(cell)].press = int16_t(puzzle_.switches.size());
        puzzle_.switches.push_back(std::move(press));
    }

    void add_door(const Placed& item) {
        const Element& element = item.element;
        CellPuzzle::Door door;
        door.id = item.id;
        if (acts_as(element) == "gate") {
            door.pick_up = index_of(puzzle_.pick_ups, text_of(element, "pickup"));
            door.count = int(number_value(element, "count", 1));
        } else {
            if (const std::string key = text_value(element, "key"); !key.empty())
                door.key = index_of(puzzle_.keys, key), door.opened = bits_++, door.paid = bits_++;
            door.open = flag_value(element, "open", false);
            door.switches = switch_numbers(puzzle_.switches, element, "open_by");
        }
        door.cells = cells_under(element, point_value(element, "size_m", k_door_m));
        for (const int cell : door.cells) puzzle_.floor[size_t(cell)].door = int16_t(puzzle_.doors.size());
        puzzle_.doors.push_back(std::move(door));
    }

    void add_crate(const Placed& item) {
        const double side = number_value(item.element, "size_m", 1);
        const std::vector<int> under = cells_under(item.element, Vec3(side));
        const int size = std::max(1, int(std::lround(side / cells_.cell_m)));
        if (under.size() != size_t(size) * size_t(size)) return; // it reaches over the level's end
        if (puzzle_.crates.size() < size_t(most_crates))
            puzzle_.start.crates[puzzle_.crates.size()] = uint16_t(under[0]);
        puzzle_.crates.push_back({item.id, size, item_named(text_value(item.element, "needs"))});
    }

    void add_dispenser(const Placed& item) {
        CellPuzzle::Dispenser dispenser;
        dispenser.id = item.id, dispenser.cell = cell_at(item.element.at);
        if (dispenser.cell < 0 || puzzle_.floor_of(dispenser.cell).wall) return;
        dispenser.first = int(puzzle_.crates.size());
        dispenser.count = int(number_of(item.element, "count"));
        dispenser.switches = switch_numbers(puzzle_.switches, item.element, "called_by");
        for (int i = 0; i < dispenser.count; ++i) {
            if (puzzle_.crates.size() < size_t(most_crates))
                puzzle_.start.crates[puzzle_.crates.size()] = CellState::stored;
            puzzle_.crates.push_back({item.id, 1, -1});
        }
        puzzle_.floor[size_t(dispenser.cell)].dispenser = int8_t(puzzle_.dispensers.size());
        puzzle_.dispensers.push_back(std::move(dispenser));
    }

    void add_foe(const Placed& item) {
        const Element& element = item.element;
        CellPuzzle::Foe foe;
        foe.id = item.id;
        std::vector<Vec3> points = points_value(element, "path");
        if (points.empty()) points.push_back(element.at);
        if (auto by_rule = by_rule_of(element)) {
            by_rule->id = item.id;
            if (puzzle_.foes.size() < size_t(most_foes))
                puzzle_.start.foes[puzzle_.foes.size()] = uint16_t(by_rule->begins);
            if (!by_rule->way.empty()) puzzle_.foes.push_back(std::move(*by_rule));
            return;
        }
        const bool back = text_value(element, "way", "loop") == "back_and_forth";
        if (!back && points.size() > 1) points.push_back(points[0]);
        std::vector<int> way;
        for (const Vec3& point : points)
            if (const int cell = cell_at(point); cell >= 0) go_to(way, cell);
        if (way.empty()) return;
        // The last cell of a ring is its first one; there and back it is gone through both ways.
        if (!back && way.size() > 1) way.pop_back();
        for (size_t i = way.size() - 1; back && i-- > 1;) way.push_back(way[i]);
        foe.way.assign(way.begin(), way.end());
        puzzle_.foes.push_back(std::move(foe));
    }

    /// The way of a foe that follows none that was drawn.
    std::optional<CellPuzzle::Foe> by_rule_of(const Element& element) const {
        const FoeWay way = foe_way_of(text_value(element, "way"));
        const int from = cell_at(element.at), direction = direction_of(element.facing_deg);
        switch (way) {
        case FoeWay::drawn:
            return {};
        case FoeWay::turns:
            return turning_way(puzzle_, from, direction);
        case FoeWay::follows_left:
        case FoeWay::follows_right:
            return following_way(puzzle_, from, direction, way == FoeWay::follows_left);
        case FoeWay::wanders:
            return wandering_way(puzzle_, from, uint64_t(number_of(element, "seed")));
        case FoeWay::comes_nearer:
            break;
        }
        const int sight = int(std::lround(number_of(element, "sight_m") / cells_.cell_m));
        return nearing_way(puzzle_, from, std::max(1, sight));
    }

    /// Cells beside each other up to a cell, to the side first.
    void go_to(std::vector<int>& way, int cell) const {
        if (way.empty()) way.push_back(cell);
        const CellAt to = puzzle_.at(cell);
        for (CellAt at = puzzle_.at(way.back()); at != to; way.push_back(puzzle_.cell_of(at)))
            if (at.column != to.column)
                at.column += at.column < to.column ? 1 : -1;
            else
                at.row += at.row < to.row ? 1 : -1;
    }

    void add_floor(const Element& element) {
        const std::string acts = text_value(element, "acts", "slippery");
        const int without = item_named(text_value(element, "without"));
        const int direction = direction_of(number_value(element, "towards_deg", 0));
        each(element, point_value(element, "size_m", k_floor_m), [&](CellPuzzle::Floor& floor) {
            if (acts == "slippery") floor.slippery = true;
            if (acts == "carries") floor.belt = int8_t(direction);
            if (acts == "crumbles" && floor.crumbles < 0) floor.crumbles = int16_t(bits_++);
            if (acts == "deadly") floor.deadly = true, floor.deadly_without = int8_t(without);
        });
    }

    /// What the figure and crates do where they stand at first: the figure takes what is there, and switches
    /// that stay on are on.
    void begin() {
        CellState& start = puzzle_.start;
        // Those that nobody has to call give their first crates.
        cells::dispense(puzzle_, start, start);
        if (bits_ == 0) return;
        for (int thing = puzzle_.floor_of(start.figure).thing; thing >= 0;
             thing = puzzle_.things[size_t(thing)].next)
            start.set(puzzle_.things[size_t(thing)].bit);
        for (const CellPuzzle::Press& press : puzzle_.switches) {
            if (press.mode != PressMode::once) continue;
            for (const int cell : press.cells)
                if ((press.by_foot && start.figure == cell) ||
                    (press.by_crate && crate_in(puzzle_, start, cell) >= 0))
                    start.set(press.bit);
        }
    }

    const build::PlacedElements& elements_;
    const build::WalkedCells& cells_;
    CellPuzzle puzzle_;
    int bits_ = 0;
};

} // namespace

bool CellPuzzle::crates_are_simple() const {
    return !rules.nobody_pushes && std::all_of(crates.begin(), crates.end(), [](const Crate& crate) {
        return crate.size == 1 && crate.needs < 0;
    });
}

bool CellPuzzle::timed() const {
    const bool belts =
        std::any_of(floor.begin(), floor.end(), [](const Floor& one) { return one.belt >= 0; });
    return !foes.empty() || (belts && !crates.empty());
}

Result<CellPuzzle> puzzle_of(const build::PlacedElements& elements, const build::WalkedCells& cells,
                             const CellRules& rules) {
    return Maker(elements, cells).run(rules);
}

Result<CellPuzzle> puzzle_of(const Level& level) {
    const build::Solid solid = build::build_solid(level);
    if (level.frame != Frame::plan || level.walked != Walked::by_cells || !solid.cells)
        return rubble::fail("solve.frame", level.name,
                            "The level is not walked by cells. Only Plan levels that are walked by cells, "
                            "on a solid layer of tiles, are solved.");
    build::PlacedElements all;
    for (const Item* item : elements_of(level)) all.push_back({item->id, *item->element()});
    return puzzle_of(all, *solid.cells, level.rules);
}

} // namespace rubble::motion
