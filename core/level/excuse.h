#pragma once

#include <string>
#include <vector>

#include "geometry/vec.h"
#include "level/extra.h"
#include "level/item.h"

namespace rubble {

/// A finding that somebody has looked at and lets stand: of a rule, at a place, about the same items.
struct Excuse {
    std::string rule; ///< its key
    Vec3 at{0};
    std::vector<ItemId> items;
    std::string reason;
    Extra extra;
    bool operator==(const Excuse&) const = default;
};

} // namespace rubble
