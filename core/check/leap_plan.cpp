#include "check/leap.h"

#include <array>
#include <cmath>

#include "base/tolerance.h"
#include "check/flight.h"
#include "check/leap_limits.h"
#include "check/walk.h"

namespace rubble::check {

using motion::World;

namespace {

/// The part of the longest flight that is left, or nothing where the flight is too long for the character.
std::optional<double> ease_of(const Character& c, double apart, double rise) {
    const double v = c.run_speed_mps;
    const double late = v * c.late_jump_grace_s; // a grace lets the jump begin beyond the edge
    const double pull = std::max(c.pull_up_m, 0.0);
    double best = -1;
    if (pull > 0) { // the last resort: it takes its time
        double time = rise < pull ? fall_time(c, pull - rise) : 0;
        if (const auto jump = flight_time(c, rise - pull)) time = std::max(time, *jump);
        if (apart <= way_in_air(c, v, time) + late + leap_benefit_m) best = 0;
    }
    if (const auto time = flight_time(c, rise)) {
        const double longest = way_in_air(c, v, *time);
        if (apart <= longest + late + leap_benefit_m) {
            const double height = highest_rise(c);
            const double left =
                std::min(1 - apart / std::max(longest, 1e-6), rise > 0 ? 1 - rise / height : 1.0);
            best = std::max(left, 0.0);
        }
    }
    if (rise < 0) {
        const double longest = way_in_air(c, v, fall_time(c, -rise));
        if (apart <= longest + leap_benefit_m) best = std::max(best, 1 - apart / std::max(longest, 1e-6));
    }
    return best < 0 ? std::nullopt : std::optional(best);
}

class Planner {
public:
    Planner(const Ground& ground, const World& world, const Character& c, int from, int to,
            std::vector<LeapPlan>& out)
        : g_(ground),
          w_(world),
          c_(c),
          from_(from),
          to_(to),
          a_(ground.fragments[size_t(from)]),
          b_(ground.fragments[size_t(to)]),
          out_(out) {}

    void run(bool more) {
        const auto pair = centred(geometry::nearest(a_.area, b_.area));
        const double rise = g_.feet_at(to_, pair.on_b) - g_.feet_at(from_, pair.on_a);
        if (pair.distance > 1e-4) {
            offer(pair.on_a, pair.on_b);
            if (more) spread();
        } else if (rise < 0) {
            off_the_edges();
            through(a_, true);
        } else {
            up_beside();
            through(b_, false);
        }
    }

private:
    /// Where two edges face each other at one distance, the middle of what they share: away from corners.
    geometry::NearestPair centred(const geometry::NearestPair& pair) const {
        if (pair.distance < 1e-4) return pair;
        const Vec2 across = left_of((pair.on_b - pair.on_a) / pair.distance);
        double low = -std::numeric_limits<double>::infinity(), high = std::numeric_limits<double>::infinity();
        for (const auto* area : {&a_.area, &b_.area}) {
            double first = std::numeric_limits<double>::infinity(), last = -first;
            for (Vec2 p : *area)
                first = std::min(first, glm::dot(p, across)), last = std::max(last, glm::dot(p, across));
            low = std::max(low, first), high = std::min(high, last);
        }
        if (low >= high) return pair;
        const Vec2 shift = across * ((low + high) / 2 - glm::dot(pair.on_a, across));
        const Vec2 on_b = geometry::nearest(b_.area, pair.on_b + shift),
                   on_a = geometry::nearest(a_.area, on_b);
        const double distance = glm::length(on_b - on_a);
        return distance <= pair.distance + 1e-6 ? geometry::NearestPair{on_a, on_b, distance} : pair;
    }

    void offer(Vec2 p, Vec2 q) {
        const Vec2 way = q - p;
        const double apart = glm::length(way);
        if (apart > 1e-9) offer(p, q, way / apart);
    }
    void offer(Vec2 p, Vec2 q, Vec2 direction) {
        if (w_.flat_on()) { // all happens in the plane that the level is played in
            p.y = q.y = 0;
            direction = {direction.x < 0 ? -1 : 1, 0};
        }
        LeapPlan plan{from_,
                      to_,
                      raised(p, g_.feet_at(from_, p)),
                      raised(q, g_.feet_at(to_, q)),
                      direction,
                      glm::length(q - p),
                      0};
        const auto ease = ease_of(c_, plan.apart_m, plan.landing.z - plan.take_off.z);
        if (!ease) return;
        plan.ease = *ease;
        out_.push_back(plan);
    }

    /// Further places along both areas.
    void spread() {
        auto along = [](const geometry::ConvexArea& area, auto&& visit) {
            for (size_t i = 0; i < area.size(); ++i) {
                const Vec2 a = area[i], b = area[(i + 1) % area.size()];
                const int parts = std::clamp(int(glm::length(b - a) / 0.5), 1, 16);
                for (int k = 0; k < parts; ++k) visit(a + (b - a) * ((k + 0.5) / parts));
            }
        };
        along(a_.area, [&](Vec2 p) { offer(p, geometry::nearest(b_.area, p)); });
        along(b_.area, [&](Vec2 q) { offer(geometry::nearest(a_.area, q), q); });
    }

    /// Straight up or down through a one-way deck that one of the fragments lies on.
    void through(const Fragment& deck, bool down) {
        if (!w_.columns()[size_t(g_.tops[size_t(deck.top)].column)].one_way()) return;
        const geometry::ConvexArea shared = geometry::common(a_.area, b_.area);
        if (shared.empty()) return;
        const Box2 box = geometry::box_of(shared);
        for (const double part : {0.5, 0.1, 0.9}) {
            const Vec2 at = geometry::nearest(shared, box.low + (box.high - box.low) * part);
            const size_t before = out_.size();
            offer(at, at, {1, 0});
            if (out_.size() > before) out_.back().through = down;
        }
    }

    /// From above: over the edges under which the other fragment lies.
    void off_the_edges() {
        for (size_t i = 0; i < a_.area.size(); ++i) {
            const Vec2 a = a_.area[i], b = a_.area[(i + 1) % a_.area.size()];
            const double length = glm::length(b - a);
            if (length < 0.01) continue;
            const Vec2 outward = -left_of((b - a) / length);
            const int parts = std::clamp(int(length), 1, 12);
            for (int k = 0; k < parts; ++k) {
                const Vec2 p = a + (b - a) * ((k + 0.5) / parts), probe = p + outward * 0.1;
                if (!geometry::contains(b_.area, probe)) continue;
                const double feet = g_.feet_at(from_, probe);
                if (g_.locate(raised(probe, feet), c_.step_height_m) >= 0) continue; // the ledge goes on
                offer(p, p + outward * 0.3, outward);
            }
        }
    }

    /// From below: beside the matter that carries the other fragment, where the head is free.
    void up_beside() {
        const Top& top = g_.tops[size_t(b_.top)];
        const geometry::ConvexArea& carrying =
            top.level() ? w_.columns()[size_t(top.column)].area : top.slope_area;
        for (size_t i = 0; i < carrying.size(); ++i) {
            const Vec2 a = carrying[i], b = carrying[(i + 1) % carrying.size()];
            const double length = glm::length(b - a);
            if (length < 0.01) continue;
            const Vec2 outward = -left_of((b - a) / length);
            const int parts = std::clamp(int(length / 0.75), 1, 12);
            for (int k = 0; k < parts; ++k) {
                const Vec2 edge = a + (b - a) * ((k + 0.5) / parts);
                const Vec2 p = edge + outward * (c_.radius_m + 0.01),
                           q = edge + outward * (overhang_m(c_) - 0.05);
                if (geometry::contains(a_.area, p) && geometry::distance(b_.area, q) < 0.05)
                    offer(p, q, -outward);
            }
        }
    }

    const Ground& g_;
    const World& w_;
    const Character& c_;
    int from_, to_;
    const Fragment &a_, &b_;
    std::vector<LeapPlan>& out_;
};

} // namespace

void plan_leaps(const Ground& ground, const World& world, const Character& c, int from, int to, bool more,
                std::vector<LeapPlan>& out) {
    Planner(ground, world, c, from, to, out).run(more);
}

double room_over_way(const World& world, const Character& c, const Vec3& take_off, const Vec3& landing,
                     double height, double most) {
    const double top = std::max(take_off.z, landing.z) + height;
    double room = most;
    constexpr double k_every_m = 0.15;
    const Vec2 way = flat(landing - take_off);
    const int places = int(glm::length(way) / k_every_m) + 1;
    for (int i = 0; i <= places; ++i) {
        const Vec2 at = flat(take_off) + way * (double(i) / places);
        world.for_near(Box2{at, at}.grown(c.radius_m), [&](int k) {
            const motion::Column& column = world.columns()[size_t(k)];
            if (column.one_way()) return;
            if (column.low < top - tolerance::same_height_m || column.low - take_off.z - height >= room)
                return;
            if (const auto range = column.over_disc(at, c.radius_m))
                room = std::min(room, range->low - take_off.z - height);
        });
    }
    return std::max(room, 0.0);
}

double run_up_m(const Ground& ground, int fragment, Vec2 take_off, Vec2 direction, double most) {
    return most * straight_part(ground, fragment, take_off, -direction * most, true);
}

} // namespace rubble::check
