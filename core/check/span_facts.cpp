#include "check/span_facts.h"

#include <cmath>
#include <numbers>

#include "base/parallel.h"
#include "base/tolerance.h"
#include "motion/sweep.h"

namespace rubble::check {

namespace {

/// A look is as thick as this, and goes to so far over the ground (metres).
constexpr double k_look_m = 0.02, k_over_ground_m = 0.1;
/// A fall that is followed lasts no longer than this (steps).
constexpr int k_fall_steps = 120 * 20;
/// How far before the landing's face one falls (metres).
constexpr double k_before_face_m = 0.01;

Vec2 direction_of(const Link& link) {
    const Vec2 way = flat(link.landing) - flat(link.take_off);
    const double length = glm::length(way);
    return length > 1e-9 ? way / length : Vec2(1, 0);
}

double landing_depth(const motion::World& world, const Character& c, const Link& link, Vec2 direction) {
    return std::max(ground_ends_at(world, c, link.landing, direction), 0.0) +
           std::max(ground_ends_at(world, c, link.landing, -direction), 0.0);
}

std::optional<double> clearance(const motion::World& world, const Character& c, const Span& span) {
    double least = std::numeric_limits<double>::infinity();
    for (const Vec3& feet : span.arc) least = std::min(least, highest_feet(world, c, feet) - feet.z);
    return std::isfinite(least) ? std::optional(std::max(least, 0.0)) : std::nullopt;
}

bool is_seen(const motion::World& world, const Character& c, const Link& link, const Span& span,
             Vec2 direction) {
    const Vec3 eye = link.take_off + Vec3(0, 0, c.eye_height_m);
    const Vec3 look = span.to + raised(direction * k_look_m, k_over_ground_m) - eye;
    const double ahead = glm::dot(flat(look), direction);
    const double down = std::atan2(-look.z, ahead) * 180 / std::numbers::pi;
    if (ahead <= 0 || std::abs(down) > c.view_angle_deg / 2) return false;
    return !motion::first_contact(world, {eye, k_look_m, k_look_m}, look);
}

bool is_worse(const MissedSpan& a, const MissedSpan& b) {
    const auto rank = [](SpanFacts::Miss miss) {
        return miss == SpanFacts::Miss::fatal ? 2 : miss == SpanFacts::Miss::trap ? 1 : 0;
    };
    return rank(a.miss) != rank(b.miss) ? rank(a.miss) > rank(b.miss) : a.seconds > b.seconds;
}

MissedSpan fallen(const Ground& ground, const motion::World& world, const Character& c,
                  const LinkGraph& graph, const Link& link, const Vec3& from) {
    motion::State state;
    state.at = from, state.fall_from = from.z;
    int steps = 0;
    for (; steps < k_fall_steps && !state.standing && !state.dead; ++steps)
        state = motion::step(world, c, state, {});
    if (state.dead || !state.standing) return {};
    const int ledge = ground.ledge_at(state.at, tolerance::feet_m);
    const auto towards = graph.towards(link.from, flat(link.take_off));
    const auto back = graph.next(towards, ledge, flat(state.at));
    if (!back) return {SpanFacts::Miss::trap, 0};
    return {SpanFacts::Miss::back, steps * motion::step_s + back->seconds};
}

} // namespace

MissedSpan miss_of(const Ground& ground, const motion::World& world, const Character& c,
                   const LinkGraph& graph, const Link& link, const Span& span) {
    const Vec2 direction = direction_of(link);
    const Vec3 middle = raised(flat(span.from + span.to) * 0.5, span.to.z);
    MissedSpan worst = fallen(ground, world, c, graph, link, middle);
    const Vec3 face = span.to - raised(direction * (c.radius_m + k_before_face_m), tolerance::limit_m);
    if (span.gap_m > 2 * c.radius_m)
        if (const MissedSpan fall = fallen(ground, world, c, graph, link, face); is_worse(fall, worst))
            worst = fall;
    return worst;
}

SpanFacts facts_of(const Ground& ground, const motion::World& world, const Character& c,
                   const LinkGraph& graph, const Link& link, const Span& span) {
    SpanFacts out;
    const Vec2 direction = direction_of(link);
    if (const auto approach = approach_of(ground, world, c, link)) {
        if (approach->press >= 0)
            out.forgiven_ms = (approach->latest - approach->earliest + 1) * motion::step_s * 1000;
        out.forgiven_deg = forgiven_turn_deg(ground, world, c, link, *approach);
    }
    out.landing_depth_m = landing_depth(world, c, link, direction);
    out.clearance_m = clearance(world, c, span);
    out.seen = is_seen(world, c, link, span, direction);
    const MissedSpan missed = miss_of(ground, world, c, graph, link, span);
    out.miss = missed.miss, out.miss_s = missed.seconds;
    return out;
}

std::vector<SpanFacts> facts_of(const CheckResult& result) {
    const LinkGraph graph(*result.ground, result.character, result.reach->links);
    std::vector<SpanFacts> out(result.spans.size());
    parallel_for(out.size(), [&](size_t i) {
        const Span& span = result.spans[i];
        if (span.link)
            out[i] = facts_of(*result.ground, *result.world, result.character, graph, *span.link, span);
    });
    return out;
}

const char* miss_key(SpanFacts::Miss miss) {
    return miss == SpanFacts::Miss::fatal ? "fatal" : miss == SpanFacts::Miss::trap ? "trap" : "back";
}

} // namespace rubble::check
