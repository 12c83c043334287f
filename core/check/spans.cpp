#include "check/spans.h"

#include <cmath>

#include "base/tolerance.h"
#include "check/flight.h"

namespace rubble::check {

using motion::World;

double ground_ends_at(const World& world, const Character& c, const Vec3& feet, Vec2 direction) {
    constexpr double k_look_m = 4;
    struct Part {
        double begin, end;
    };
    std::vector<Part> parts;
    const Vec2 from = flat(feet) - direction * k_look_m, by = direction * (2 * k_look_m);
    Box2 box;
    box.add(from), box.add(from + by);
    world.for_near(box, [&](int i) {
        const motion::Column& column = world.columns()[size_t(i)];
        if (column.high < feet.z - c.step_height_m || !motion::is_ground(c, column)) return;
        const auto passage = geometry::disc_passage(column.area, from, by, 1e-6);
        if (!passage) return;
        const double begin = (passage->enter - 0.5) * 2 * k_look_m,
                     end = (passage->leave - 0.5) * 2 * k_look_m;
        const double height = column.top.at(flat(feet) + direction * std::clamp(0.0, begin, end));
        if (std::abs(height - feet.z) > c.step_height_m + tolerance::limit_m) return;
        parts.push_back({begin, end});
    });
    double end = -std::numeric_limits<double>::infinity();
    for (const Part& part : parts)
        if (part.begin <= c.radius_m) end = std::max(end, std::min(part.end, k_look_m));
    for (bool changed = true; changed;) {
        changed = false;
        for (const Part& part : parts)
            if (part.begin <= end + tolerance::touching_m && part.end > end + 1e-9)
                end = part.end, changed = true;
    }
    return std::isfinite(end) ? std::min(end, k_look_m) : -overhang_m(c);
}

double highest_feet(const World& world, const Character& c, const Vec3& feet) {
    double limit = std::numeric_limits<double>::infinity();
    world.for_near(Box2{flat(feet), flat(feet)}.grown(c.radius_m), [&](int i) {
        if (world.columns()[size_t(i)].one_way()) return;
        const auto range =
            world.columns()[size_t(i)].over_disc(flat(feet), c.radius_m - tolerance::same_height_m);
        if (range && range->low >= feet.z + c.height_m - tolerance::limit_m)
            limit = std::min(limit, range->low - c.height_m);
    });
    return limit;
}

ItemId item_under(const Ground& ground, const World& world, const Vec3& feet) {
    const int f = ground.locate(feet, tolerance::feet_m);
    if (f < 0) return {};
    const int column = ground.tops[size_t(ground.fragments[size_t(f)].top)].column;
    return column < 0 ? ItemId{} : world.source_of(world.columns()[size_t(column)]).id.item;
}

double Span::least_pct(double step_height) const {
    return rise_m > step_height ? std::min(margin_pct, rise_margin_pct) : margin_pct;
}

Span span_of(const Ground& ground, const World& world, const Character& c, const Project& project,
             const Link& link) {
    Span span;
    span.kind = link.kind;
    span.from_ledge = link.from, span.to_ledge = link.to;
    const Vec2 way = flat(link.landing) - flat(link.take_off);
    const double length = glm::length(way);
    const Vec2 direction = length > 1e-9 ? way / length : Vec2(1, 0);
    const double leave = ground_ends_at(world, c, link.take_off, direction);
    const double enter = length - ground_ends_at(world, c, link.landing, -direction);
    span.gap_m = std::max(0.0, enter - leave);
    span.rise_m = link.landing.z - link.take_off.z;
    span.from = link.take_off + raised(direction * leave, 0);
    span.to = raised(flat(link.take_off) + direction * std::max(enter, leave), link.landing.z);

    const int fragment = ground.locate(link.take_off, 0.05);
    const double full_run = c.run_speed_mps * c.run_speed_mps / (2 * c.ground_acceleration_mps2);
    span.run_up_m =
        fragment < 0 ? 0 : check::run_up_m(ground, fragment, flat(link.take_off), direction, full_run + 0.01);
    const double ceiling = highest_feet(world, c, link.take_off) - link.take_off.z;
    if (link.kind == LinkKind::jump || link.kind == LinkKind::further_jump) {
        Character used = c;
        if (link.kind == LinkKind::jump) used.further_jumps = 0;
        span.highest_m = std::min(highest_rise(used), ceiling);
        const double rise = std::min(span.rise_m, highest_rise(used));
        const auto below = [&](double height) {
            const double room = room_over_way(world, used, link.take_off, link.landing, height, 1e9);
            return longest_gap_below(used, rise, span.run_up_m, room).value_or(0);
        };
        span.longest_m = link.kind == LinkKind::jump ? below(c.height_m)
                                                     : longest_gap(used, rise, span.run_up_m).value_or(0);
        if (span.longest_m < span.gap_m && c.crouched_height_m > 0)
            span.longest_m = std::max(span.longest_m, below(c.crouched_height_m));
        span.rise_margin_m = span.highest_m - span.rise_m;
        span.rise_margin_pct =
            span.highest_m > 0 ? std::clamp(100 * span.rise_margin_m / span.highest_m, 0.0, 100.0) : 0;
    } else if (link.kind == LinkKind::pull_up) {
        span.highest_m = highest_ledge(c);
        const double rise = std::min(span.rise_m, span.highest_m);
        span.longest_m = longest_gap_pulling(c, rise, span.run_up_m).value_or(0);
        span.rise_margin_m = std::max(span.highest_m - span.rise_m, 0.0);
        span.rise_margin_pct = span.highest_m > 0 ? 100 * span.rise_margin_m / span.highest_m : 0;
    } else {
        span.highest_m = 0;
        span.longest_m = longest_step_off(c, -span.rise_m, span.run_up_m);
        span.rise_margin_m = -span.rise_m;
        span.rise_margin_pct = 100;
    }
    // What was done can be done, whatever a closed form that knows no slopes says.
    span.longest_m = std::max(span.longest_m, span.gap_m);
    span.margin_m = span.longest_m - span.gap_m;
    span.margin_pct = span.longest_m > 0 ? 100 * span.margin_m / span.longest_m : 0;
    const double least = span.least_pct(c.step_height_m);
    span.grade = least >= project.easy_pct   ? Grade::easy
                 : least >= project.fair_pct ? Grade::fair
                                             : Grade::tight;

    const auto states = motion::replay(world, c, link.recording);
    bool flying = false;
    for (const motion::State& state : states) {
        if (!flying && glm::length(state.at - link.take_off) < 1e-9) flying = true;
        if (flying) span.arc.push_back(state.at);
        if (flying && glm::length(state.at - link.landing) < 1e-9) break;
    }
    return span;
}

const char* grade_key(Grade grade) {
    return grade == Grade::easy ? "easy" : grade == Grade::fair ? "fair" : "tight";
}

const char* kind_key(LinkKind kind) {
    switch (kind) {
    case LinkKind::drop:
        return "drop";
    case LinkKind::step_off:
        return "step_off";
    case LinkKind::jump:
        return "jump";
    case LinkKind::further_jump:
        return "further_jump";
    case LinkKind::pull_up:
        return "pull_up";
    }
    return "";
}

} // namespace rubble::check
