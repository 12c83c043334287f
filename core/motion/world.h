#pragma once

#include <memory>
#include <vector>

#include "build/solid.h"
#include "geometry/box_grid.h"
#include "motion/column.h"
#include "motion/matter.h"

namespace rubble::motion {

/// All matter that the character can meet, in columns, found through a uniform grid in plan.
class World {
public:
    /// The columns that one source brings, one after the other.
    struct Source {
        SourceId id;
        int first = 0, count = 0;
        MatterTags tags = {};
    };

    World() = default;
    World(std::vector<Column> columns, std::vector<Source> sources);

    const std::vector<Column>& columns() const { return columns_; }
    const std::vector<Source>& sources() const { return sources_; }
    /// Where a column comes from.
    const Source& source_of(const Column& column) const { return sources_[size_t(column.source)]; }
    double lowest() const { return lowest_; }
    /// The same world with none of the matter of some sources (each once, ascending); itself where there are
    /// none. Made once and kept as long as the world is: play asks for it at every step. Safe from any
    /// thread.
    const World& without(const std::vector<SourceId>& gone) const;

    /// Calls `visit(index)` once for every column whose box in plan touches `area`.
    template <class F> void for_near(const Box2& area, F visit) const { grid_.for_near(area, visit); }

private:
    double slope_led_to(const Column& riser) const;

    std::vector<Column> columns_;
    std::vector<Source> sources_;
    geometry::BoxGrid grid_;
    double lowest_ = 0;
    struct Others;
    std::shared_ptr<Others> others_; ///< those without some sources that were asked for
};

/// Puts a world together from the convex cells of whatever brings matter.
class WorldMaker {
public:
    /// What is added from now on comes from this source.
    void begin(SourceId id, MatterTags tags = {});
    /// A convex body of the source begun last.
    void add(const geometry::ConvexCell& cell);
    /// The world of all that was added, which is taken out.
    World finished();

private:
    std::vector<Column> columns_;
    std::vector<World::Source> sources_;
};

/// The matter of brushes alone; their sources stand in the order of the solid's.
World world_of(const build::Solid& solid);

/// The body of a character as it stands or crouches: the middle of its bottom, its radius and height.
struct Body {
    Vec3 at{0};
    double radius = 0;
    double height = 0;
};

/// How deep the body is in matter, by the shortest way out of the column it is deepest in; 0 when free.
double overlap_m(const World& world, const Body& body);

/// The highest top of matter under the body's disc at or below `at.z + up`, no lower than `at.z - down`.
struct Support {
    double height = 0;
    int column = -1;
};
/// What a body would rest on; see above.
std::optional<Support> support_below(const World& world, const Body& body, double up, double down);

} // namespace rubble::motion
