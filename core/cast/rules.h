#pragma once

#include <array>
#include <limits>
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "level/frame.h"
#include "level/kits/kit.h"

namespace rubble::cast {

/// A cell of the module that a cast is laid on.
using ModuleCell = std::array<int, 3>;

/// How ways run: branching and coming together, or one after the other.
enum class Form { network, chain };
/// Where in a cast something may be used.
enum class Use { any, start, goal };

/// A piece of a kit, or an assembly as a room, that a cast may use.
struct Candidate {
    static constexpr int unlimited = std::numeric_limits<int>::max();

    std::string kit_file, piece_id; ///< of a piece
    std::string source;             ///< of an assembly
    double weight = 1;              ///< how often, beside the others
    int at_least = 0, at_most = unlimited;
    Use use = Use::any;
    bool turns = true;    ///< by quarters
    bool mirrors = false; ///< left to right as well
    /// Entries and exits of an assembly; empty: the joints that its pieces leave open.
    std::vector<Joint> joints;
    Extra extra;

    /// By what rules speak of it.
    const std::string& name() const { return source.empty() ? piece_id : source; }
    bool operator==(const Candidate&) const = default;
};

/// The cells that a cast may take up: the same on each storey.
struct Area {
    ModuleCell low{0, 0, 0}; ///< of the nearest row's first cell, on the lowest storey
    int storeys = 1;
    std::vector<std::string> rows; ///< the farthest first; # is a cell of it
    bool operator==(const Area&) const = default;
};

/// What is put together by chance, and how.
struct Rules {
    std::string name;
    Frame frame = Frame::space;
    std::string character;        ///< empty: the project's first
    std::optional<Vec3> module_m; ///< else that of the first kit
    Form form = Form::network;
    Area area;
    int count = 20; ///< how many pieces and rooms
    std::vector<Candidate> candidates;
    std::vector<std::pair<std::string, std::string>> apart; ///< what must not stand beside what, by names
    double loops = 0.1;     ///< aimed at: of the pieces, how many close a way to one that is there already
    double dead_ends = 0.2; ///< aimed at: of the pieces, how many have one way only
    std::optional<ModuleCell> start; ///< the cell of it; else by chance
    int goal_away = 1;               ///< at least so many pieces from the start
    bool open_joints = false;        ///< passages may stay open
    Extra extra;
    bool operator==(const Rules&) const = default;
};

/// The most that a cast may have of each.
inline constexpr int most_pieces = 2000, most_cells = 250'000;

} // namespace rubble::cast
