#include "parcel/plan.h"

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <limits>
#include <map>

#include "level/dimension.h"
#include "level/order.h"

namespace rubble::parcel {

namespace {

/// Storeys are cut so high over their floors, as plans of buildings are (ISO 128-50).
constexpr double k_cut_m = 1.2;
/// What lies deeper below a storey's floor belongs to another (metres).
constexpr double k_below_m = 1;

std::string metres(double value) {
    char text[32];
    std::snprintf(text, sizeof text, "%.2f", value);
    return text;
}

void add_elements(Plan& plan, const Level& level, double low, double high) {
    for (const Item* item : elements_of(level)) {
        const Vec3 at = met_at(level, *item->element());
        if (at.z < low || at.z >= high) continue;
        const Vec2 on = level.frame == Frame::side ? Vec2(at.x, at.z) : flat(at);
        plan.marks.push_back({on, item->element()->kind, item->name.empty() ? item->id.value : item->name});
        plan.box.add(on);
    }
}

void add_dimensions(Plan& plan, const Level& level, double low, double high) {
    for (const Dimension& one : level.dimensions) {
        Vec3 from, to;
        if (!place_of(level, one.from, from) || !place_of(level, one.to, to)) continue;
        const double middle = (from.z + to.z) / 2;
        if (middle < low || middle >= high) continue;
        const bool side = level.frame == Frame::side;
        const Vec2 a = side ? Vec2(from.x, from.z) : flat(from), b = side ? Vec2(to.x, to.z) : flat(to);
        if (glm::length(b - a) > 1e-6) plan.dimensions.push_back({a, b, metres(glm::length(to - from))});
    }
}

Plan from_above(const Level& level, const motion::World& world, const std::string& title, double floor,
                double next_floor) {
    Plan plan;
    plan.title = title;
    const double cut = std::min(floor + k_cut_m, next_floor);
    plan.low_m = std::numeric_limits<double>::infinity(), plan.high_m = -plan.low_m;
    for (const motion::Column& column : world.columns()) {
        if (column.area.size() < 3 || column.low >= cut) continue;
        for (const Vec2& p : column.area) plan.box.add(p);
        if (column.high > cut) {
            plan.cut.push_back({column.area, cut});
        } else {
            plan.floors.push_back({column.area, column.high});
            if (column.high < floor - k_below_m) continue;
            plan.low_m = std::min(plan.low_m, column.high), plan.high_m = std::max(plan.high_m, column.high);
        }
    }
    if (!(plan.low_m <= plan.high_m)) plan.low_m = plan.high_m = floor;
    std::stable_sort(plan.floors.begin(), plan.floors.end(),
                     [](const Plan::Area& a, const Plan::Area& b) { return a.height_m < b.height_m; });
    add_elements(plan, level, floor - k_below_m, next_floor);
    add_dimensions(plan, level, floor - k_below_m, next_floor);
    return plan;
}

/// Columns as they stand in the plane that is played in.
Plan from_the_front(const Level& level, const motion::World& world) {
    Plan plan;
    plan.name = plan.title = level.name;
    for (const motion::Column& column : world.columns()) {
        if (column.area.size() < 3 || column.box.low.y > 0 || column.box.high.y < 0) continue;
        const double l = column.box.low.x, r = column.box.high.x;
        std::vector<Vec2> corners{{l, column.bottom.at({l, 0})},
                                  {r, column.bottom.at({r, 0})},
                                  {r, column.top.at({r, 0})},
                                  {l, column.top.at({l, 0})}};
        for (const Vec2& p : corners) plan.box.add(p);
        plan.cut.push_back({std::move(corners), column.high});
    }
    constexpr double k_all = std::numeric_limits<double>::infinity();
    add_elements(plan, level, -k_all, k_all);
    add_dimensions(plan, level, -k_all, k_all);
    return plan;
}

} // namespace

std::vector<Plan> plans_of(const Level& level, const motion::World& world) {
    std::vector<Plan> out;
    if (level.frame == Frame::side) {
        out.push_back(from_the_front(level, world));
        return out;
    }
    std::map<double, std::string> floors;
    for (const auto& layer : level.layers)
        if (layer->storey) floors.emplace(layer->storey->floor_m, layer->name);
    if (floors.empty()) {
        // As high as one begins.
        const auto starts = elements_of(level, Role::start);
        floors.emplace(starts.empty() ? 0 : starts[0]->element()->at.z, level.name);
    }
    for (auto at = floors.begin(); at != floors.end(); ++at) {
        const auto next = std::next(at);
        Plan plan = from_above(level, world, at->second, at->first,
                               next == floors.end() ? std::numeric_limits<double>::infinity() : next->first);
        plan.name = at->second;
        plan.title += " (" + metres(at->first) + " m)";
        out.push_back(std::move(plan));
    }
    return out;
}

} // namespace rubble::parcel
