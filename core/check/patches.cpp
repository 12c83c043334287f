#include "check/patches.h"

#include <cmath>
#include <optional>
#include <span>
#include <unordered_map>

#include "base/ensure.h"
#include "base/parallel.h"
#include "base/tolerance.h"
#include "check/flight.h"
#include "check/round_top.h"
#include "motion/step.h"

namespace rubble::check {

using geometry::ConvexArea;
using geometry::HalfPlane;
using motion::Column;
using motion::HeightPlane;
using motion::World;

namespace {

constexpr double k_tile_m = 8;
/// Edges keep this far to the safe side, so that standing on one does not hang on rounding (metres).
constexpr double k_safe_m = 1e-4;

/// The places where the column keeps a body of `height` from having its feet at `feet`. For feet that slope
/// themselves a column is taken over its round rim as high as its plane goes on, never higher than its
/// highest point.
ConvexArea obstacle(const Column& column, const ConvexArea& grown, const HeightPlane& feet, double height,
                    double radius) {
    const double near = tolerance::same_height_m;
    // Level feet are kept out where the disc overlaps what is higher: the higher part, grown.
    if (feet.level() && !column.simple())
        return geometry::grown_outside(column.between(feet.c + near, feet.c + height - near),
                                       radius + k_safe_m / 10);
    HeightPlane top = column.top, bottom = column.bottom;
    top.c += radius * column.steep;
    bottom.c -= radius * glm::length(bottom.slope);
    ConvexArea area = where_above(grown, top, feet, near);
    if (column.steep > 0) area = where_above(area, {Vec2(0), column.high}, feet, near);
    HeightPlane head = feet;
    head.c += height;
    area = where_above(area, head, bottom, near);
    if (!bottom.level()) area = where_above(area, head, {Vec2(0), column.low}, near);
    return area;
}

/// Long edges first: they part off large pieces, and the short ones of round corners touch only scraps.
std::vector<size_t> by_length(const ConvexArea& area) {
    std::vector<size_t> order(area.size());
    for (size_t i = 0; i < order.size(); ++i) order[i] = i;
    auto length = [&](size_t i) { return glm::length(area[(i + 1) % area.size()] - area[i]); };
    std::stable_sort(order.begin(), order.end(),
                     [&](size_t a, size_t b) { return length(a) > length(b) + 1e-9; });
    return order;
}

bool overlaps(const ConvexArea& a, const Box2& a_box, const ConvexArea& b, const Box2& b_box) {
    if (!a_box.touches(b_box)) return false;
    auto separated_by = [](const ConvexArea& p, const ConvexArea& q) {
        for (size_t i = 0; i < p.size(); ++i) {
            const Vec2 along = p[(i + 1) % p.size()] - p[i];
            const double reach = tolerance::same_place_m * glm::length(along);
            bool outside = true;
            for (Vec2 point : q) outside = outside && cross(along, point - p[i]) <= reach;
            if (outside) return true;
        }
        return false;
    };
    return !separated_by(a, b) && !separated_by(b, a);
}

struct Piece {
    ConvexArea area;
    bool low = false;
};

/// Cuts `hole` out of the pieces; with `lower` it is not cut out but marked as low.
void cut_out(std::vector<Piece>& pieces, const ConvexArea& hole, bool lower) {
    if (hole.size() < 3) return;
    const Box2 hole_box = geometry::box_of(hole);
    const std::vector<size_t> order = by_length(hole);
    std::vector<Piece> out;
    for (Piece& piece : pieces) {
        if ((lower && piece.low) || !overlaps(piece.area, geometry::box_of(piece.area), hole, hole_box)) {
            out.push_back(std::move(piece));
            continue;
        }
        ConvexArea rest = std::move(piece.area);
        for (size_t i : order) {
            const Vec2 a = hole[i], along = hole[(i + 1) % hole.size()] - a;
            const double length = glm::length(along);
            if (length < tolerance::same_place_m) continue;
            const Vec2 inward = left_of(along) / length;
            ConvexArea outside = geometry::clipped(rest, {a, -inward});
            if (outside.empty()) continue;
            out.push_back({std::move(outside), piece.low});
            rest = geometry::clipped(rest, {a, inward});
            if (rest.empty()) break;
        }
        if (lower && !rest.empty()) out.push_back({std::move(rest), true});
    }
    pieces = std::move(out);
}

/// One top or, for a slope, one of its two parts: the slope itself, and the rim beyond its upper end over
/// which the feet stay at the highest point.
struct Plot {
    Top top;
    ConvexArea area;
};

/// The one plot of a round top; none where nobody can stand on it.
std::vector<Plot> plots_of(std::shared_ptr<const RoundTop> round, const Character& c) {
    ConvexArea area = geometry::grown_inside(round->footprint, round->overhang - k_safe_m);
    if (area.empty()) return {};
    Top top{round->columns[0], {}, round->highest, round->footprint, {}, c.radius_m, std::move(round)};
    return {{std::move(top), std::move(area)}};
}

std::vector<Plot> plots_of(const Column& column, int index, const Character& c) {
    const ConvexArea area = geometry::grown_inside(column.area, overhang_m(c) - k_safe_m);
    if (column.top.level()) return {{{index, column.top, column.high, {}, {}, c.radius_m, {}}, area}};
    HeightPlane feet = column.top;
    feet.c += c.radius_m * column.steep;
    const HeightPlane highest{Vec2(0), column.high};
    std::vector<Plot> plots;
    if (auto slope = where_above(area, highest, feet, 0); !slope.empty())
        plots.push_back(
            {{index, feet, column.high, column.area, column.top, c.radius_m, {}}, std::move(slope)});
    if (auto rim = where_above(area, feet, highest, 0); !rim.empty())
        plots.push_back(
            {{index, highest, column.high, column.area, column.top, c.radius_m, {}}, std::move(rim)});
    return plots;
}

/// What of an area lies in a box; empty where nothing does.
ConvexArea within(ConvexArea area, const Box2& box) {
    for (const HalfPlane& side : {HalfPlane{{box.low.x, 0}, {1, 0}}, HalfPlane{{0, box.low.y}, {0, 1}},
                                  HalfPlane{{box.high.x, 0}, {-1, 0}}, HalfPlane{{0, box.high.y}, {0, -1}}})
        if (!area.empty() && std::isfinite(side.at.x) && std::isfinite(side.at.y))
            area = geometry::clipped(area, side);
    return area;
}

/// Areas of at most a tile each, split along the lines of one common grid. A strip along the plane that a
/// level is played in is split across only: its middle is where everything is.
std::vector<ConvexArea> tiled(const ConvexArea& area, bool strip) {
    const Box2 box = geometry::box_of(area);
    std::vector<ConvexArea> out;
    auto index = [](double v) { return int64_t(std::floor(v / k_tile_m)); };
    for (int64_t x = index(box.low.x); x <= index(box.high.x); ++x)
        for (int64_t y = index(box.low.y); y <= index(box.high.y); ++y) {
            Box2 square{Vec2(double(x), double(y)) * k_tile_m, Vec2(double(x + 1), double(y + 1)) * k_tile_m};
            if (strip && y != index(box.low.y)) continue;
            if (strip) square.low.y = box.low.y - 1, square.high.y = box.high.y + 1;
            if (ConvexArea tile = within(area, square); !tile.empty()) out.push_back(std::move(tile));
        }
    return out;
}

/// Whether another plot of equal heights comes first; its area is taken out so that no place counts twice.
bool shadows(const Plot& first, const Plot& second) {
    const double apart = tolerance::same_height_m;
    if (first.top.round || second.top.round) return false;
    return glm::length(first.top.feet.slope - second.top.feet.slope) < 1e-9 &&
           std::abs(first.top.feet.c - second.top.feet.c) < apart &&
           std::abs(first.top.cap - second.top.cap) < apart;
}

/// One tile of a plot to be cut, or the patch that it was before.
struct Task {
    int plot;
    int tile;
    ConvexArea area; ///< not needed where the patch is kept
    Box2 box;
    const Patch* kept = nullptr;
};

/// Finds the tops and patches of the ground before that an edit left as they were.
class Keeper {
public:
    Keeper(const GroundBefore* before, double radius) : before_(before), radius_(radius) {
        if (!before) return;
        const auto& tops = before->ground.tops;
        const auto& patches = before->ground.patches;
        first_top_.assign(tops.empty() ? 1 : size_t(tops.back().column) + 2, int(tops.size()));
        for (int t = int(tops.size()); t-- > 0;) first_top_[size_t(tops[size_t(t)].column)] = t;
        first_patch_.assign(tops.size() + 1, int(patches.size()));
        for (int p = int(patches.size()); p-- > 0;) first_patch_[size_t(patches[size_t(p)].top)] = p;
        for (auto* first : {&first_top_, &first_patch_})
            for (size_t i = first->size() - 1; i-- > 0;) (*first)[i] = std::min((*first)[i], (*first)[i + 1]);
        kept_.assign(patches.size(), false);
    }

    /// The tops of a column that the edit left as it was; nothing where it is new or changed, or where
    /// several columns are one body that counts otherwise by now.
    std::optional<std::span<const Top>> tops_of(const Column& column, int index) const {
        const int then = before_ ? before_->change.before[size_t(index)] : -1;
        if (then < 0 || (column.cell.count > 1 && then != index)) return {};
        if (size_t(then) + 1 >= first_top_.size()) return std::span<const Top>();
        const Top* tops = before_->ground.tops.data();
        return std::span(tops + first_top_[size_t(then)], tops + first_top_[size_t(then) + 1]);
    }

    /// The patches, one for each tile, of the `part`-th top of a column that the edit left as it was; empty
    /// where the column is new or changed.
    std::span<const Patch> patches_of_top(int column, int part) const {
        const int then = before_ ? before_->change.before[size_t(column)] : -1;
        if (then < 0 || size_t(then) + 1 >= first_top_.size()) return {};
        const size_t top = size_t(first_top_[size_t(then)] + part);
        if (int(top) >= first_top_[size_t(then) + 1]) return {};
        return {before_->ground.patches.data() + first_patch_[top],
                before_->ground.patches.data() + first_patch_[top + 1]};
    }

    /// Whether such a patch can be kept: no change comes near it.
    bool keep(const Patch& patch) {
        if (before_->change.touches(patch.box.grown(radius_ + 0.01))) return false;
        kept_[size_t(&patch - before_->ground.patches.data())] = true;
        return true;
    }

    /// The places of patches that nobody asked for.
    void add_gone(std::vector<Box2>& out) const {
        for (size_t p = 0; p < kept_.size(); ++p)
            if (!kept_[p]) out.push_back(before_->ground.patches[p].box);
    }

private:
    const GroundBefore* before_;
    double radius_;
    std::vector<int> first_top_;   ///< for each column, and one past the last; tops stand in their order
    std::vector<int> first_patch_; ///< for each top, and one past the last
    std::vector<bool> kept_;
};

/// Cuts the tiles of tops free of what stands in the way.
class Cutter {
public:
    Cutter(const World& world, const Character& c, const Keeper& keeper) : world_(world), c_(c) {
        const auto& columns = world.columns();
        std::vector<std::optional<std::span<const Top>>> known(columns.size());
        for (size_t i = 0; i < columns.size(); ++i) known[i] = keeper.tops_of(columns[i], int(i));
        std::vector<std::shared_ptr<const RoundTop>> rounds(columns.size()); // at the first of their columns
        for (size_t i = 0; i < columns.size(); i += size_t(std::max(columns[i].cell.count, 1)))
            if (columns[i].cell.count > 1 && !known[i]) rounds[i] = round_top_of(world, int(i), c);
        std::vector<std::vector<Plot>> found(columns.size());
        parallel_for(
            columns.size(),
            [&](size_t i) {
                if (known[i] || !motion::is_ground(c, columns[i])) return;
                if (const auto& round = rounds[size_t(columns[i].cell.first)])
                    found[i] = round->columns[0] == int(i) ? plots_of(round, c) : std::vector<Plot>{};
                else
                    found[i] = plots_of(columns[i], int(i), c);
                confine(found[i]);
            },
            32);
        first_plot_.reserve(columns.size() + 1);
        for (size_t i = 0; i < columns.size(); ++i) {
            first_plot_.push_back(int(plots_.size()));
            for (Plot& plot : found[i]) plots_.push_back(std::move(plot));
            if (!known[i]) continue;
            for (const Top& top : *known[i]) {
                plots_.push_back({top, {}});
                plots_.back().top.column = int(i);
            }
        }
        first_plot_.push_back(int(plots_.size()));
    }

    const std::vector<Plot>& plots() const { return plots_; }

    std::vector<Task> tasks(Keeper& keeper) {
        std::vector<Task> out;
        for (int p = 0; p < int(plots_.size()); ++p) {
            const int column = plots_[size_t(p)].top.column;
            const auto before = keeper.patches_of_top(column, p - first_plot_[size_t(column)]);
            const size_t first = out.size();
            bool all_kept = !before.empty();
            for (const Patch& patch : before) {
                out.push_back({p, patch.tile, {}, patch.box, keeper.keep(patch) ? &patch : nullptr});
                all_kept &= out.back().kept != nullptr;
            }
            if (all_kept) continue;
            work_out_areas(size_t(column));
            std::vector<ConvexArea> tiles = tiled(plots_[size_t(p)].area, world_.flat_on());
            for (size_t t = 0; t < tiles.size(); ++t) {
                if (before.empty()) out.push_back({p, int(t), {}, geometry::box_of(tiles[t]), nullptr});
                out[first + t].area = std::move(tiles[t]);
            }
        }
        return out;
    }

    /// Grows the columns that stand in the way of tiles to be cut; before the first `cut`.
    void grow_columns(const std::vector<Task>& tasks) {
        const auto& columns = world_.columns();
        std::vector<bool> in_the_way(columns.size(), false);
        for (const Task& task : tasks)
            if (!task.kept)
                for_near_all(task.box.grown(c_.radius_m), [&](int i) { in_the_way[size_t(i)] = true; });
        grown_.resize(columns.size());
        parallel_for(
            columns.size(),
            [&](size_t i) {
                if (!in_the_way[i]) return;
                work_out_areas(i);
                grown_[i] = geometry::grown_outside(columns[i].area, c_.radius_m + k_safe_m / 10);
            },
            32);
        std::vector<int> first; // of bodies of several columns
        for (size_t i = 0; i < columns.size(); ++i)
            if (in_the_way[i] && columns[i].cell.count > 1 &&
                (first.empty() || first.back() != columns[i].cell.first))
                first.push_back(columns[i].cell.first);
        std::vector<RoundBody> made(first.size());
        parallel_for(first.size(), [&](size_t k) {
            made[k] = round_body_of(world_, first[k], c_.radius_m, c_.radius_m + k_safe_m / 10);
        });
        for (size_t k = 0; k < first.size(); ++k) bodies_.emplace(first[k], std::move(made[k]));
    }

    std::vector<Piece> cut(const Task& task) const {
        const bool crouches = c_.crouched_height_m > 0;
        const double least_height = crouches ? c_.crouched_height_m : c_.height_m;
        const Plot& plot = plots_[size_t(task.plot)];
        const Hindrances in_the_way(*this, plot);
        std::vector<Piece> pieces{{task.area, false}};
        std::vector<ConvexArea> low;
        std::vector<int> cells; // that were looked at as a whole
        for (const ConvexArea& area : in_the_way.of_own_body(task.area)) cut_out(pieces, area, false);
        for_near_all(task.box.grown(c_.radius_m), [&](int i) {
            if (pieces.empty()) return;
            for (int other = first_plot_[size_t(i)]; other < first_plot_[size_t(i) + 1]; ++other)
                if (const ConvexArea area = in_the_way.of_plot(other, task.plot); !area.empty())
                    cut_out(pieces, area, false);
            if (!in_the_way.looks_at(i, cells)) return;
            for (const ConvexArea& area : in_the_way.of_column(i, least_height)) cut_out(pieces, area, false);
            if (crouches && least_height < c_.height_m)
                for (ConvexArea& area : in_the_way.of_column(i, c_.height_m)) low.push_back(std::move(area));
        });
        for (const ConvexArea& area : low) cut_out(pieces, area, true);
        return pieces;
    }

private:
    /// Takes away what lies where ground is not looked for.
    void confine(std::vector<Plot>& plots) const {
        for (Plot& plot : plots) plot.area = within(std::move(plot.area), world_.moving().ground);
        std::erase_if(plots, [](const Plot& plot) { return plot.area.empty(); });
    }

    /// Of a column whose tops are known from before; most are never asked for.
    void work_out_areas(size_t column) {
        const int first = first_plot_[column], end = first_plot_[column + 1];
        if (first == end || !plots_[size_t(first)].area.empty()) return;
        const auto& round = plots_[size_t(first)].top.round;
        std::vector<Plot> plots =
            round ? plots_of(round, c_) : plots_of(world_.columns()[column], int(column), c_);
        confine(plots);
        RUBBLE_ENSURE(int(plots.size()) == end - first, return );
        for (int p = first; p < end; ++p) plots_[size_t(p)].area = std::move(plots[size_t(p - first)].area);
    }

    /// What is in the way, and what kills: nobody stands in either.
    template <class F> void for_near_all(const Box2& area, F visit) const {
        world_.for_near(area, visit);
        world_.for_near_deadly(area, visit);
    }

    /// What keeps the character from standing on one plot.
    class Hindrances {
    public:
        Hindrances(const Cutter& all, const Plot& plot)
            : all_(all),
              plot_(plot),
              round_(plot.top.round.get()) {
            if (!round_) return;
            least_ = round_->highest;
            for (Vec2 p : plot.area) least_ = std::min(least_, round_->feet_at(p)); // it is concave
        }

        std::vector<ConvexArea> of_own_body(const ConvexArea& area) const {
            return round_ ? steep_places(*round_, area) : std::vector<ConvexArea>{};
        }

        /// The places that another plot of the same height has for itself.
        ConvexArea of_plot(int other, int own) const {
            const Plot& plot = all_.plots_[size_t(other)];
            if (other < own && shadows(plot, plot_)) return plot.area;
            if (!round_ || !plot.top.level() || !round_->has_level_part_at(plot.top.feet.c)) return {};
            return shared_with_level(*round_, plot.area, plot.top.feet.c);
        }

        /// Whether a column is to be asked: not of the plot's own body and, where a body is taken as a whole,
        /// only the first of it.
        bool looks_at(int i, std::vector<int>& cells) const {
            const Column &column = columns()[size_t(i)], &own = columns()[size_t(plot_.top.column)];
            if (round_ ? column.cell.first == own.cell.first : i == plot_.top.column) return false;
            if (column.one_way()) return false;
            if (!as_a_whole(column)) return true;
            if (std::find(cells.begin(), cells.end(), column.cell.first) != cells.end()) return false;
            cells.push_back(column.cell.first);
            return true;
        }

        std::vector<ConvexArea> of_column(int i, double height) const {
            const Column& column = columns()[size_t(i)];
            const double r = all_.c_.radius_m;
            if (round_ && as_a_whole(column))
                return obstacles(*round_, least_, plot_.area, all_.bodies_.at(column.cell.first), height);
            if (round_) return obstacles(*round_, least_, column, all_.grown_[size_t(i)], height);
            ConvexArea area = as_a_whole(column)
                                  ? of_cell(column.cell, height)
                                  : obstacle(column, all_.grown_[size_t(i)], plot_.top.feet, height, r);
            if (area.empty()) return {};
            return {std::move(area)};
        }

    private:
        const std::vector<Column>& columns() const { return all_.world_.columns(); }

        /// What a convex body has between two levels is convex again, and so is what it has above one slope.
        bool as_a_whole(const Column& column) const {
            const auto cell = column.cell, own = columns()[size_t(plot_.top.column)].cell;
            return (round_ || plot_.top.feet.level()) && cell.count > 1 && cell.first != own.first;
        }
        ConvexArea of_cell(const Column::Cell& cell, double height) const {
            const double near = tolerance::same_height_m, feet = plot_.top.feet.c;
            std::vector<Vec2> corners;
            for (int i = cell.first; i < cell.first + cell.count; ++i)
                for (Vec2 p : columns()[size_t(i)].between(feet + near, feet + height - near))
                    corners.push_back(p);
            return geometry::grown_outside(geometry::hull(std::move(corners)),
                                           all_.c_.radius_m + k_safe_m / 10);
        }

        const Cutter& all_;
        const Plot& plot_;
        const RoundTop* round_;
        double least_ = 0; ///< of the feet on a round top
    };

    const World& world_;
    const Character& c_;
    std::vector<Plot> plots_;     ///< in the order of their columns
    std::vector<int> first_plot_; ///< for each column, and one past the last
    std::vector<ConvexArea> grown_;
    std::unordered_map<int, RoundBody> bodies_; ///< of several columns, by the first of them
};

Fragment fragment_of(Piece piece) {
    Fragment fragment;
    fragment.box = geometry::box_of(piece.area);
    fragment.area_m2 = geometry::area_of(piece.area);
    fragment.area = std::move(piece.area);
    fragment.low = piece.low;
    return fragment;
}

} // namespace

Patches patches_of(const World& world, const Character& c, const Cancel& cancel, const GroundBefore* before) {
    Keeper keeper(before, c.radius_m);
    Cutter cutter(world, c, keeper);
    const std::vector<Task> tasks = cutter.tasks(keeper);
    cutter.grow_columns(tasks);
    std::vector<std::vector<Piece>> results(tasks.size());
    parallel_for(
        tasks.size(),
        [&](size_t t) {
            if (!tasks[t].kept && !cancel.requested()) results[t] = cutter.cut(tasks[t]);
        },
        8);

    Patches out;
    int count = 0;
    out.tops.reserve(cutter.plots().size()), out.patches.reserve(tasks.size());
    for (const Plot& plot : cutter.plots()) out.tops.push_back(plot.top);
    for (size_t t = 0; t < tasks.size(); ++t) {
        const Task& task = tasks[t];
        const int pieces = task.kept ? task.kept->count : int(results[t].size());
        if (!task.kept) out.renewed.push_back(task.box);
        out.patches.push_back({task.plot, task.tile, task.box, count, pieces});
        count += pieces;
    }
    out.fragments.resize(size_t(count));
    out.before.assign(size_t(count), -1);
    parallel_for(
        tasks.size(),
        [&](size_t t) {
            const Task& task = tasks[t];
            for (int k = 0; k < out.patches[t].count; ++k) {
                const size_t f = size_t(out.patches[t].first + k);
                if (task.kept) {
                    out.before[f] = task.kept->first + k;
                    out.fragments[f] = before->ground.fragments[size_t(out.before[f])];
                } else {
                    out.fragments[f] = fragment_of(std::move(results[t][size_t(k)]));
                }
                out.fragments[f].top = task.plot;
            }
        },
        64);
    keeper.add_gone(out.renewed);
    return out;
}

} // namespace rubble::check
