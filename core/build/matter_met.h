#pragma once

#include <set>

#include "build/solid.h"
#include "geometry/box_grid.h"
#include "level/placement.h"

namespace rubble::build {

/// The matter of a solid, asked where straight lines meet it: where something dropped comes to lie, and what
/// is under the pointer while it is carried over the level.
class MatterMet {
public:
    /// Without some of its items.
    explicit MatterMet(const Solid& solid, const std::set<ItemId>& without = {});

    /// The first place on a body's outside that a line comes to from `from`, `way` far at most. Bodies that
    /// it begins in are passed.
    std::optional<SurfacePlace> first_met(const Vec3& from, const Vec3& way) const;
    /// The highest place at or below one; from within a body the top of that.
    std::optional<SurfacePlace> below(const Vec3& from) const;
    /// Whether any matter is in a box; bodies count by their own boxes.
    bool near(const Box3& box) const;

private:
    std::vector<std::shared_ptr<const geometry::ConvexCell>> cells_;
    std::vector<Box3> boxes_;
    geometry::BoxGrid grid_;
    double lowest_ = 0;
};

} // namespace rubble::build
