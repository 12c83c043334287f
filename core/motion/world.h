#pragma once

#include <algorithm>
#include <limits>
#include <memory>
#include <span>
#include <vector>

#include "build/solid.h"
#include "geometry/box_grid.h"
#include "motion/column.h"
#include "motion/matter.h"

namespace rubble::motion {

struct CellPuzzle;
struct Fixtures;
struct PlayElements;

/// What a level's frame makes of moving in it.
struct WayOfMoving {
    Frame frame = Frame::space;
    /// Where ground is looked for: in a Side level along the plane that it is played in, in a Plan level
    /// around what stands in it.
    Box2 ground{Vec2(-std::numeric_limits<double>::infinity()),
                Vec2(std::numeric_limits<double>::infinity())};
    std::shared_ptr<const build::WalkedCells> cells; ///< of a Plan level that is walked by them
    std::shared_ptr<const CellPuzzle> puzzle;        ///< of one in which elements act
    /// The very same cells count.
    bool operator==(const WayOfMoving&) const = default;
};

/// All matter that the character can meet, in columns, found through a uniform grid in plan.
class World {
    struct Others;

public:
    /// The columns that one source brings, one after the other.
    struct Source {
        SourceId id;
        int first = 0, count = 0;
        MatterTags tags = {};
    };

    World() = default;
    /// The sources from `first_mover` on are those of what moves by itself; they stand last.
    World(std::vector<Column> columns, std::vector<Source> sources, WayOfMoving moving = {},
          size_t first_mover = k_no_mover);

    /// What acts in it freely; null where nothing does.
    const std::shared_ptr<const PlayElements>& elements() const { return elements_; }
    /// The same world with elements.
    void set_elements(std::shared_ptr<const PlayElements> elements) { elements_ = std::move(elements); }

    /// What acts on bodies and never changes, here and in every world made from this one; null where nothing
    /// does.
    const std::shared_ptr<const Fixtures>& fixtures() const { return fixtures_; }
    /// The same world with fixtures.
    void set_fixtures(std::shared_ptr<const Fixtures> fixtures) { fixtures_ = std::move(fixtures); }

    const WayOfMoving& moving() const { return moving_; }
    /// Whether it is played in the plane y = 0.
    bool flat_on() const { return moving_.frame == Frame::side; }

    const std::vector<Column>& columns() const { return columns_; }
    const std::vector<Source>& sources() const { return sources_; }
    /// Where a column comes from.
    const Source& source_of(const Column& column) const { return sources_[size_t(column.source)]; }
    double lowest() const { return lowest_; }
    /// The same world with none of the matter of some sources (each once, ascending); itself where there are
    /// none. Made once and kept as long as the world is: play asks for it at every step. Safe from any
    /// thread.
    const World& without(const std::vector<SourceId>& gone) const;

    /// What moves by itself, as it was built. @{
    std::span<const Source> movers() const {
        return std::span(sources_).subspan(std::min(first_mover_, sources_.size()));
    }
    /// @}
    /// The same world with what moves at other places: how far each mover is from where it was built. It is
    /// only lent, so that play need not make one at every step. Safe from any thread.
    class Lent {
    public:
        Lent(std::unique_ptr<World> world, std::shared_ptr<Others> to)
            : world_(std::move(world)),
              to_(std::move(to)) {}
        Lent(Lent&&) = default;
        ~Lent();
        const World& operator*() const { return *world_; }

    private:
        std::unique_ptr<World> world_;
        std::shared_ptr<Others> to_;
    };
    Lent with_movers_at(std::span<const Vec3> shifts) const;

    /// Calls `visit(index)` once for every column that is in the way and whose box in plan touches `area`.
    template <class F> void for_near(const Box2& area, F visit) const {
        grid_.for_near(area, visit);
        for (size_t i = first_moving_; i < columns_.size(); ++i)
            if (columns_[i].box.touches(area)) visit(int(i));
    }
    /// The same for columns that kill whoever comes into them, which are in nobody's way.
    template <class F> void for_near_deadly(const Box2& area, F visit) const {
        deadly_.for_near(area, visit);
    }

private:
    static constexpr size_t k_no_mover = std::numeric_limits<size_t>::max();
    double slope_led_to(const Column& riser) const;

    std::vector<Column> columns_;
    std::vector<Source> sources_;
    WayOfMoving moving_;
    geometry::BoxGrid grid_, deadly_;
    double lowest_ = 0;
    size_t first_mover_ = k_no_mover, first_moving_ = 0; ///< of the sources, of the columns
    std::vector<Vec3> shifts_;                           ///< of the movers
    std::shared_ptr<const PlayElements> elements_;
    std::shared_ptr<const Fixtures> fixtures_;
    std::shared_ptr<Others> others_; ///< those that were asked for
};

/// Puts a world together from the convex cells of whatever brings matter.
class WorldMaker {
public:
    /// What is added from now on comes from this source.
    void begin(SourceId id, MatterTags tags = {});
    /// A convex body of the source begun last.
    void add(const geometry::ConvexCell& cell);
    /// A body of the source begun last that is one column already.
    void add(Column column);
    /// What a source brings to another world, once more from the source begun last.
    void add(const World& from, const World::Source& source);
    /// What is begun from now on moves by itself.
    void begin_movers() { first_mover_ = sources_.size(); }
    /// The world of all that was added, which is taken out.
    World finished(WayOfMoving moving = {});

private:
    std::vector<Column> columns_;
    std::vector<World::Source> sources_;
    size_t first_mover_ = std::numeric_limits<size_t>::max();
};

/// The matter of a level as its frame takes it: of a Side level the section at y = 0. The sources of brushes
/// stand in the order of the solid's, those of tiles after them.
World world_of(const build::Solid& solid);
/// The same, with the columns of brushes and pieces that are the very same in an earlier solid taken from its
/// world.
World world_of(const build::Solid& solid, const build::Solid& before, const World& world_before);

/// The body of a character as it stands or crouches: the middle of its bottom, its radius and height.
struct Body {
    Vec3 at{0};
    double radius = 0;
    double height = 0;
};

/// Whether the body is in what kills.
bool in_deadly(const World& world, const Body& body);

/// How deep the body is in matter that is in its way, by the shortest way out of the column it is deepest in;
/// 0 when free.
double overlap_m(const World& world, const Body& body);

/// The highest top of matter under the body's disc at or below `at.z + up`, no lower than `at.z - down`. What
/// lets pass from below counts no higher than the feet.
struct Support {
    double height = 0;
    int column = -1;
};
/// What a body would rest on; see above.
std::optional<Support> support_below(const World& world, const Body& body, double up, double down);

} // namespace rubble::motion
