#pragma once

#include <set>
#include <unordered_set>

#include "level/level.h"

namespace rubble {

/// What differs between two levels, found by comparing who shares what before contents. Items count at any
/// depth; a group differs only by what is its own, not by what its members are.
struct Diff {
    std::unordered_set<ItemId> added;
    std::unordered_set<ItemId> removed;
    std::unordered_set<ItemId> changed;
    std::set<LayerId> painted; ///< layers of tiles with other cells in them
    bool order = false;        ///< items stand in another order, or went to another layer or group
    bool layers = false;       ///< layers came, went, changed places or became others but for their cells
    bool claims = false;       ///< what is expected
    bool excuses = false;      ///< which findings stay
    bool links = false;        ///< which items are kept alike
    bool dimensions = false;   ///< kept distances
    bool underlays = false;    ///< pictures that lie under the level
    bool values = false;       ///< name, frame, character or another value of the level itself

    bool empty() const { return *this == Diff{}; }
    bool operator==(const Diff&) const = default;
};

/// What an edit changed.
Diff difference(const Level& before, const Level& after);

/// What differs between two versions of what a project's levels have agreed on.
struct ProjectDiff {
    std::set<CharacterId> characters; ///< that came, went or changed
    std::set<MaterialId> materials;
    bool grid = false;     ///< grid, module or turn step
    bool measures = false; ///< thickness of walls and the like
    bool grades = false;   ///< from which margins a span is easy or fair
    bool tiles = false;    ///< pixels per metre, sheets, the scheme of layers
    bool kits = false;     ///< kits and assemblies
    bool values = false;   ///< name and others

    bool empty() const { return *this == ProjectDiff{}; }
    bool operator==(const ProjectDiff&) const = default;
};

/// What an edit changed.
ProjectDiff difference(const Project& before, const Project& after);

} // namespace rubble
