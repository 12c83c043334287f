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

} // namespace rubble::study
