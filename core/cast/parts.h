#pragma once

#include "base/result.h"
#include "cast/rules.h"
#include "level/level.h"

namespace rubble::cast {

/// A side of one cell of a part that others may meet.
struct PartJoint {
    ModuleCell cell{0, 0, 0};
    ModuleSide side = ModuleSide::left;
    int kind = 0; ///< of Parts::kinds
    bool passage = true;
    bool operator==(const PartJoint&) const = default;
};

/// A candidate as it may be laid: turned, and seen from its low corner.
struct Part {
    size_t candidate = 0; ///< of the rules
    int quarters = 0;
    bool mirrored = false;
    std::vector<ModuleCell> cells;
    std::vector<PartJoint> joints;
    Vec3 low{0}; ///< its low corner, where its origin stands at 0 (metres)
    int passages = 0;
};

/// All that a cast may lay.
struct Parts {
    Vec3 module_m{1};
    std::vector<Part> parts;
    std::vector<std::string> kinds;
    std::vector<std::vector<bool>> fit; ///< of two kinds

    /// Which kinds fit which, once all are known.
    void compare_kinds();
};

/// The parts that rules speak of, in all turns that they may take and that differ. Fails where a kit or an
/// assembly is missing, or where something does not stand on the module.
Result<Parts> parts_of(const Project& project, const Rules& rules);

/// The cell beside another.
ModuleCell beside(const ModuleCell& cell, ModuleSide side);
/// The side that looks at one from beside it.
ModuleSide opposite(ModuleSide side);

} // namespace rubble::cast
