#include <algorithm>
#include <cmath>
#include <map>

#include "base/random.h"
#include "base/tolerance.h"
#include "motion/elements.h"
#include "motion/sweep.h"

namespace rubble::motion {

namespace {

/// How closely walls and edges are felt for, how far a foe goes at most, and how much of a step it takes
/// (metres).
constexpr double k_feel_m = 0.05, k_farthest_m = 200, k_step_m = 0.2;
/// Who wanders makes so many legs, each of up to so many metres, before it goes back the same way.
constexpr int k_wander_legs = 8, k_wander_m = 5;
/// Where a foe has its eyes: this part of its height. A look is as thick as this (metres).
constexpr double k_eyes = 0.9, k_look_m = 0.02;

/// Whether a foe has room at a place, and ground within a step; where its feet are then.
std::optional<Vec3> stands_at(const World& world, const PlayElements::Foe& foe, const Vec3& at) {
    const double radius = std::min(foe.room.size.x, foe.room.size.y) / 2;
    const Body body{at + Vec3(0, 0, tolerance::limit_m), radius - k_feel_m / 2, foe.room.size.z - k_feel_m};
    if (overlap_m(world, body) > tolerance::limit_m) return {};
    if (world.moving().frame == Frame::plan) return at;
    const auto ground = support_below(world, {at, radius / 4, 0}, tolerance::limit_m, k_step_m);
    if (!ground) return {};
    return at;
}

/// How far it can go in a direction from a place, the ground level within a step.
double free_way_m(const World& world, const PlayElements::Foe& foe, const Vec3& from, const Vec2& direction,
                  double farthest_m = k_farthest_m) {
    double free = 0;
    for (double way = k_feel_m; way <= farthest_m; way += k_feel_m) {
        if (!stands_at(world, foe, from + raised(direction * way, 0))) break;
        free = way;
    }
    return free;
}

/// The four directions that a foe goes in by rule, ahead first, each a quarter turn to the left of the one
/// before.
std::array<Vec2, 4> directions_of(const World& world, const PlayElements::Foe& foe) {
    const Vec2 ahead = flat(foe.room.place.direction({1, 0, 0})), left(-ahead.y, ahead.x);
    if (world.flat_on()) return {ahead, ahead, -ahead, -ahead};
    return {ahead, left, -ahead, -left};
}

Course turning(const World& world, const PlayElements::Foe& foe) {
    const Vec2 ahead = flat(foe.room.place.direction({1, 0, 0}));
    const Vec3& from = foe.room.place.at;
    const Vec3 far = from + raised(ahead * free_way_m(world, foe, from, ahead), 0),
               back = from - raised(ahead * free_way_m(world, foe, from, -ahead), 0);
    return Course({from, far, back}, foe.speed_mps, 0, false);
}

/// In steps as long as walls are felt for: to the wall's side where that is free, else ahead, else to the
/// other side, else back. It repeats when it is where it was, going the same way.
Course following(const World& world, const PlayElements::Foe& foe) {
    const auto directions = directions_of(world, foe);
    const int side = foe.way == FoeWay::follows_left ? 1 : 3;
    const int most = int(k_farthest_m / k_feel_m);
    std::map<std::array<int, 3>, size_t>
        corner_at; // where it turned, in steps from where it began, and towards where
    std::vector<Vec3> corners{foe.room.place.at};
    std::array<int, 2> at{0, 0};
    int direction = 0;
    const auto place = [&](const std::array<int, 2>& steps) {
        return foe.room.place.at +
               raised(directions[0] * (steps[0] * k_feel_m) + directions[1] * (steps[1] * k_feel_m), 0);
    };
    const auto next = [&](int towards) {
        std::array<int, 2> to = at;
        to[size_t(towards % 2)] += towards < 2 ? 1 : -1;
        return to;
    };
    bool had_wall = false; // before it has met one it goes ahead
    for (int step = 0; step < most; ++step) {
        int turn = -1;
        for (const int one : {side, 0, (side + 2) % 4, 2}) {
            if (world.flat_on() && one % 2 == 1) continue;
            if (!stands_at(world, foe, place(next((direction + one) % 4)))) {
                had_wall = true;
                continue;
            }
            if (one == side && !had_wall) continue;
            turn = one;
            break;
        }
        if (turn < 0) break;
        direction = (direction + turn) % 4;
        if (turn != 0) {
            const auto [known, is_new] = corner_at.try_emplace({at[0], at[1], direction}, corners.size());
            if (!is_new) return Course(std::move(corners), foe.speed_mps, known->second);
            corners.push_back(place(at));
        }
        at = next(direction);
    }
    return Course(std::move(corners), foe.speed_mps, 0, true); // no way round: there and back
}

Course wandering(const World& world, const PlayElements::Foe& foe) {
    const auto directions = directions_of(world, foe);
    RandomSource random(foe.seed);
    std::vector<Vec3> places{foe.room.place.at};
    for (int leg = 0; leg < k_wander_legs; ++leg) {
        const Vec2 towards = directions[random.below(4)];
        const double wished = double(1 + random.below(k_wander_m));
        const double free = free_way_m(world, foe, places.back(), towards, wished);
        if (free > 0) places.push_back(places.back() + raised(towards * free, 0));
    }
    return Course(std::move(places), foe.speed_mps, 0, true);
}

} // namespace

Course course_by_rule(const World& world, const PlayElements::Foe& foe) {
    switch (foe.way) {
    case FoeWay::turns:
        return turning(world, foe);
    case FoeWay::follows_left:
    case FoeWay::follows_right:
        return following(world, foe);
    case FoeWay::wanders:
        return wandering(world, foe);
    case FoeWay::drawn:
    case FoeWay::comes_nearer:
        break;
    }
    return foe.course;
}

std::array<int, 3> came_nearer(const World& world, const PlayElements::Foe& foe,
                               const std::array<int, 3>& moved, const Body& body) {
    const Vec3 at = foe.room.place.at + metres_of(moved);
    const Vec3 eyes = at + Vec3(0, 0, foe.room.size.z * k_eyes),
               middle = body.at + Vec3(0, 0, body.height / 2);
    if (glm::length(middle - eyes) > foe.sight_m) return moved;
    if (first_contact(world, {eyes, k_look_m, k_look_m}, middle - eyes)) return moved;
    const Vec2 way = flat(body.at - at);
    const double far = glm::length(way), step = std::min(far, foe.speed_mps * step_s);
    if (far < tolerance::limit_m) return moved;
    const Vec2 whole = way / far * step;
    // Straight, or along a wall.
    for (const Vec2 by : {whole, Vec2(whole.x, 0), Vec2(0, whole.y)}) {
        if (by == Vec2(0) || !stands_at(world, foe, at + raised(by, 0))) continue;
        return {moved[0] + int(std::lround(by.x / moved_unit_m)),
                moved[1] + int(std::lround(by.y / moved_unit_m)), moved[2]};
    }
    return moved;
}

} // namespace rubble::motion
