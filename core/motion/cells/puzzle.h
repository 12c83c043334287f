#pragma once

#include <memory>
#include <string>
#include <vector>

#include "base/result.h"
#include "build/solid.h"
#include "motion/cells/cell_state.h"
#include "motion/play_kinds.h"

namespace rubble::motion {

// Play from cell to cell, one letter after the other: what stands in the cells of a level, and what of it
// changes. Cells are numbered row by row from the upper left.

/// Rules that a project sets for play by cells.
using CellRules = PuzzleRules;

/// A level as it is played from cell to cell: all that does not change.
struct CellPuzzle {
    /// What is on the floor of a cell.
    struct Floor {
        bool wall = false;
        bool deadly = false, hazard = false;             ///< what a crate can fill, and what it cannot
        int8_t deadly_without = -1, hazard_without = -1; ///< the kind of item that makes immune
        bool slippery = false;
        int8_t belt = -1;      ///< the direction that it carries in, as of `steps`
        int16_t crumbles = -1; ///< the bit that is set when it is gone
        int8_t dispenser = -1;
        int8_t one_way = -1; ///< the only direction in which a barrier lets pass
        bool keeps_crates_out = false;
        bool goal = false;
        int16_t door = -1, thing = -1, press = -1; ///< what stands there, as an index; things go on by `next`
    };
    /// What is taken by whoever comes into its cell.
    struct Thing {
        ItemId id;
        ThingKind kind = ThingKind::pick_up;
        int name = -1; ///< which kind of key, pick-up or item
        int cell = 0;
        int bit = 0;
        int next = -1;
    };
    /// A door, or a gate that opens at a count of pick-ups.
    struct Door {
        ItemId id;
        int key = -1; ///< the kind of key that opens it
        bool open = false;
        std::vector<int> switches; ///< any of them swaps it
        int pick_up = -1, count = 0;
        int opened = -1, paid = -1; ///< bits: opened by a key, and that it was spent
        std::vector<int> cells;
    };
    /// A switch.
    struct Press {
        ItemId id;
        PressMode mode = PressMode::once;
        bool by_foot = true, by_crate = true;
        bool by_use = false; ///< by whoever stands on it and wants to
        int bit = 0;
        std::vector<int> cells;
    };
    struct Crate {
        ItemId id;
        int size = 1;   ///< cells along its side
        int needs = -1; ///< the kind of item without which nobody pushes it
    };
    /// Gives one crate after the other, as long as it has some.
    struct Dispenser {
        ItemId id;
        int cell = 0;
        int first = 0, count = 0;  ///< of the crates
        std::vector<int> switches; ///< any of them calls for one; none: whenever there is room
    };
    struct Foe {
        ItemId id = {};
        std::vector<uint16_t> way = {}; ///< the cells that it goes through, again and again
        int repeats_from = 0;           ///< the place on its way at which it goes on after the last one
        int sight = 0;  ///< of one that comes nearer, all cells being its way: how far it sees; else 0
        int begins = 0; ///< the place on its way
        uint16_t next(int place) const {
            return uint16_t(size_t(place) + 1 < way.size() ? place + 1 : repeats_from);
        }
    };

    int columns = 0, rows = 0;
    CellRules rules;
    std::vector<Floor> floor; ///< row by row
    std::vector<Thing> things;
    std::vector<Door> doors;
    std::vector<Press> switches;
    std::vector<Crate> crates;
    std::vector<Dispenser> dispensers;
    std::vector<Foe> foes;
    std::vector<std::string> keys, pick_ups, items; ///< the names of kinds
    CellState start;
    int most_steps = 0; ///< within which the goal has to be reached; 0: as many as one likes
    bool has_start = false, has_goal = false;

    int cells() const { return columns * rows; }
    int cell_of(CellAt at) const { return at.row * columns + at.column; }
    CellAt at(int cell) const { return {cell % columns, cell / columns}; }
    bool inside(CellAt at) const {
        return at.column >= 0 && at.row >= 0 && at.column < columns && at.row < rows;
    }
    const Floor& floor_of(int cell) const { return floor[size_t(cell)]; }
    /// Whether every crate is of one cell, and whoever stands behind it may push it.
    bool crates_are_simple() const;
    /// Whether time counts: something goes on by itself.
    bool timed() const;
    /// The cell that lies in a direction; -1 where the level ends.
    int beside(int cell, int direction) const {
        const int column = cell % columns;
        switch (direction) {
        case 0:
            return column + 1 < columns ? cell + 1 : -1;
        case 1:
            return cell >= columns ? cell - columns : -1;
        case 2:
            return column > 0 ? cell - 1 : -1;
        default:
            return cell + columns < columns * rows ? cell + columns : -1;
        }
    }
};

/// Compiles a level. What lies outside the cells takes no part. An error says in one sentence why the level
/// cannot be played by cells.
Result<CellPuzzle> puzzle_of(const build::PlacedElements& elements, const build::WalkedCells& cells,
                             const CellRules& rules);
/// The same of a level that is walked by cells.
Result<CellPuzzle> puzzle_of(const Level& level);

} // namespace rubble::motion
