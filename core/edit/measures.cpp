#include "edit/measures.h"

#include <algorithm>
#include <cmath>
#include <unordered_map>

#include "base/tolerance.h"
#include "edit/items.h"
#include "edit/openings.h"
#include "geometry/box_grid.h"
#include "level/brush_shape.h"
#include "level/order.h"

namespace rubble::edit {

namespace {

/// A box thinner than this, so many times as long and so high is a wall (metres).
constexpr double k_thickest_wall_m = 0.6, k_long_times = 4, k_least_height_m = 2, k_least_length_m = 2.5;
/// A shell that is lower inside is no room.
constexpr double k_least_room_m = 1;
/// A gap narrower than this is no corridor, an overlap deeper than this no slip of the hand (metres).
constexpr double k_narrowest_m = 0.3, k_deepest_m = 0.15;

bool differs(double a, double b) { return std::abs(a - b) > tolerance::limit_m; }

bool upright(const Brush& brush) { return !brush.place.rotation; }

/// The thin side of a box that is a wall: 0 along x, 1 along y; nothing for other brushes.
std::optional<int> thin_side(const Brush& brush) {
    if (brush.shape != Shape::box || brush.shell_m > 0 || !upright(brush)) return {};
    const int thin = brush.size.x <= brush.size.y ? 0 : 1;
    const double thickness = brush.size[thin], length = brush.size[1 - thin];
    if (thickness > k_thickest_wall_m || length < std::max(k_long_times * thickness, k_least_length_m) ||
        brush.size.z < k_least_height_m)
        return {};
    return thin;
}

/// The thickness of a wall, to be read and to be set; null for what is none.
double* wall_of(Brush& brush) {
    if (brush.effect != Effect::fill) return nullptr;
    if (brush.shape == Shape::wall_run) return &brush.thickness_m;
    if (brush.shell_m > 0) return &brush.shell_m;
    if (const auto thin = thin_side(brush)) return &brush.size[*thin];
    return nullptr;
}

/// What floor and ceiling of a room that is a shell take of its height.
double closed_above_and_below(const Brush& brush) {
    return brush.shell_m * ((brush.open_sides.contains(BoxSide::top) ? 0 : 1) +
                            (brush.open_sides.contains(BoxSide::bottom) ? 0 : 1));
}

std::optional<double> ceiling_of(const Brush& brush) {
    if (brush.effect != Effect::fill || !upright(brush)) return {};
    if (brush.shape == Shape::wall_run) return brush.size.z;
    const double inside = brush.size.z - closed_above_and_below(brush);
    if (brush.shape == Shape::box && brush.shell_m > 0 && inside >= k_least_room_m) return inside;
    return {};
}

bool is_door(const Item& item, const Level& level) {
    const Brush* brush = item.brush();
    if (!brush || brush->effect != Effect::cut || brush->host.empty() || brush->shape != Shape::box)
        return false;
    const Item* host = find_item(level, brush->host);
    if (!host || !host->brush()) return false;
    const double base = box_of(*host).low.z + host->brush()->shell_m;
    return std::abs(brush->place.at.z - base) <= 0.05 ||
           std::abs(brush->place.at.z - box_of(*host).low.z) <= 0.05;
}

/// Boxes along the axes, found by where they are.
class Boxes {
public:
    explicit Boxes(const Level& level) {
        std::vector<Box2> flat_boxes;
        for (const OrderedBrush& ordered : ordered_brushes(level)) {
            const Brush& brush = *ordered.brush;
            const double quarter = std::remainder(brush.place.turn_deg, 90.0);
            if (brush.shape != Shape::box || brush.effect != Effect::fill || brush.shell_m > 0 ||
                !upright(brush) || std::abs(quarter) > 1e-6)
                continue;
            items_.push_back(ordered.item);
            boxes_.push_back(box_of(*ordered.item));
            flat_boxes.push_back(flat(boxes_.back()));
        }
        grid_ = geometry::BoxGrid(flat_boxes);
    }

    void add_pairs(const Measures& agreed, std::vector<Departure>& out) const {
        for (int i = 0; i < int(boxes_.size()); ++i)
            grid_.for_near(flat(boxes_[size_t(i)]).grown(std::max(agreed.corridor_m, 0.0)), [&](int k) {
                if (k > i) add_pair(i, k, agreed, out);
            });
    }

private:
    void add_pair(int i, int k, const Measures& agreed, std::vector<Departure>& out) const {
        const Box3 &a = boxes_[size_t(i)], &b = boxes_[size_t(k)];
        const Vec3 common = glm::min(a.high, b.high) - glm::max(a.low, b.low); // negative: apart
        const auto add = [&](Measure measure, double is, double wanted) {
            out.push_back({items_[size_t(i)]->id, items_[size_t(k)]->id, measure, is, wanted});
        };
        const double depth = std::min({common.x, common.y, common.z});
        if (depth > tolerance::limit_m) {
            // A shelf let into its post is meant: of a slip most of both stays outside.
            const int axis = depth == common.x ? 0 : depth == common.y ? 1 : 2;
            const double thinner = std::min(a.high[axis] - a.low[axis], b.high[axis] - b.low[axis]);
            if (2 * depth < thinner && depth <= k_deepest_m && differs(depth, agreed.overlap_m))
                add(Measure::overlap, depth, agreed.overlap_m);
            return;
        }
        if (common.z < k_least_height_m) return;
        for (const int axis : {0, 1}) {
            const double gap = -common[axis], beside = common[1 - axis];
            if (gap < k_narrowest_m || gap > agreed.corridor_m - tolerance::limit_m || beside < gap) continue;
            Box3 between{glm::max(a.low, b.low), glm::min(a.high, b.high)};
            std::swap(between.low[axis], between.high[axis]);
            if (!filled(between.middle())) add(Measure::corridor, gap, agreed.corridor_m);
        }
    }
    bool filled(const Vec3& p) const {
        bool found = false;
        grid_.for_near({flat(p), flat(p)}, [&](int i) { found |= boxes_[size_t(i)].touches({p, p}); });
        return found;
    }

    std::vector<const Item*> items_;
    std::vector<Box3> boxes_;
    geometry::BoxGrid grid_;
};

} // namespace

double door_height(const Measures& measures, const Character& character) {
    return std::max(measures.door_m, opening_size(OpeningKind::door, character).height_m);
}

std::vector<Departure> departures(const Project& project, const Level& level) {
    const Measures& agreed = project.measures;
    const double door = door_height(agreed, character_of(project, level));
    std::vector<Departure> out;
    for_each_item(level, [&](const Item& item, const Layer&) {
        if (!item.brush()) return;
        Brush brush = *item.brush();
        const auto look = [&](Measure measure, double is, double wanted) {
            if (differs(is, wanted)) out.push_back({item.id, {}, measure, is, wanted});
        };
        if (const double* wall = wall_of(brush)) look(Measure::wall, *wall, agreed.wall_m);
        if (const auto ceiling = ceiling_of(brush)) look(Measure::ceiling, *ceiling, agreed.ceiling_m);
        if (is_door(item, level)) look(Measure::door, brush.size.z, door);
    });
    Boxes(level).add_pairs(agreed, out);
    return out;
}

Level as_agreed(const Level& level, std::span<const Departure> wanted) {
    std::unordered_map<ItemId, Item> changed;
    for (const Departure& departure : wanted) {
        const Item* item = departure.can_follow() ? find_item(level, departure.item) : nullptr;
        if (!item || !item->brush()) continue;
        Brush& brush = std::get<Brush>(changed.try_emplace(departure.item, *item).first->second.body);
        if (departure.measure == Measure::wall) {
            const double taken = closed_above_and_below(brush);
            const bool room = ceiling_of(brush) && brush.shell_m > 0;
            if (double* wall = wall_of(brush)) *wall = departure.agreed_m;
            if (room) brush.size.z += closed_above_and_below(brush) - taken; // the room keeps its height
        } else if (departure.measure == Measure::ceiling) {
            brush.size.z = departure.agreed_m + closed_above_and_below(brush);
        } else if (departure.measure == Measure::door) {
            brush.size.z = departure.agreed_m;
        }
        brush = measured(std::move(brush)); // as a reader would find it
    }
    std::vector<Item> items;
    for (auto& [id, item] : changed) items.push_back(std::move(item));
    return with_all_changed(level, items);
}

} // namespace rubble::edit
