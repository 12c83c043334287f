#pragma once

#include <optional>

#include "check/check.h"

namespace rubble::study {

/// Whether one gets from one place to another, anywhere in a level, and what is missing where not.
struct Asked {
    Vec3 from{0}, to{0}; ///< where one stands there
    check::Reached reached = check::Reached::undecided;
    std::optional<check::Witness> witness;
    std::optional<check::NearMiss> miss; ///< where nothing acts in the level
};

/// Asks a check's level. Places are taken to the nearest one where one can stand; nothing where none is near.
std::optional<Asked> asked(const check::CheckResult& checked, const Vec3& from, const Vec3& to,
                           const Cancel& cancel = {});

/// Mends for what is missing, each tried in the level as it would be, with their edits; none where nothing
/// is. `level` is the one that was checked; `trials` builds what is tried.
std::vector<check::Mend> mends_of(const Project& project, const Level& level,
                                  const check::CheckResult& checked, const Asked& asked,
                                  build::SolidBuilder& trials, const Cancel& cancel = {});

} // namespace rubble::study
