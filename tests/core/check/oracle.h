#pragma once

#include <array>
#include <cmath>
#include <map>
#include <set>
#include <unordered_set>
#include <vector>

#include "base/angle.h"
#include "core/level_maker.h"
#include "core/random.h"
#include "motion/step.h"

namespace rubble::test {

/// A level of 8 × 8 m with 5 to 12 brushes: boxes, ramps and cylinders, some turned, some in the air.
inline Level oracle_level(uint64_t seed) {
    Random random(seed);
    LevelMaker maker;
    constexpr double k_half = 4;
    maker.box({0, 0, -1}, {2 * k_half, 2 * k_half, 1});
    const int count = random.whole(4, 11);
    for (int i = 0; i < count; ++i) {
        const Vec3 size(random.stepped(0.5, 3, 0.25), random.stepped(0.5, 3, 0.25),
                        random.stepped(0.25, 2, 0.25));
        const Vec3 at(random.stepped(-k_half + 1.5, k_half, 0.25), random.stepped(-k_half, k_half, 0.25),
                      random.chance(0.6) ? 0 : random.stepped(0, 2.5, 0.25));
        const double turn = random.chance(0.6) ? 0 : random.stepped(0, 345, 15);
        if (random.chance(0.2)) {
            Brush brush;
            brush.shape = Shape::cylinder, brush.sides = 12;
            brush.place.at = at, brush.place.turn_deg = turn, brush.size = size;
            maker.brush(brush);
        } else if (random.chance(0.25))
            maker.ramp(at, size, turn);
        else
            maker.box(at, size, turn);
    }
    maker.cut({-k_half + 0.6, 0, 0}, {1.2, 2 * k_half, 10}); // where one begins it is free
    maker.start({-k_half + 0.6, 0, 0});
    return maker.level();
}

/// Where a character gets to by trying everything: from every state that was come to, all of sixteen headings
/// and none, with the jump key down and up, a twentieth of a second each. States are the same that lie in one
/// cell: of a decimetre at rest, of two while it runs, of a quarter of a metre in the air, and of two metres
/// a second, three up and down. It knows nothing of ledges, spans and flight, only `step`. Gives places where
/// the figure stood, one for each cell of a decimetre.
class Oracle {
public:
    Oracle(const motion::World& world, const Character& character) : world_(world), c_(character) {}

    std::vector<Vec3> explore(const Vec3& start) {
        take(motion::state_at(world_, c_, start));
        for (size_t i = 0; i < open_.size(); ++i) {
            const motion::State from = open_[i];
            for (int heading = -1; heading < k_headings; ++heading)
                for (const bool jump : {false, true}) {
                    // In the air the key matters only while it holds the jump up.
                    if (jump && !from.standing && !from.rising_by_jump) continue;
                    motion::Input input;
                    if (heading >= 0) {
                        const auto [x, y] = cos_sin(heading * 360.0 / k_headings);
                        input.stick = {x, y};
                    }
                    input.jump = jump;
                    motion::State state = from;
                    for (int k = 0; k < k_steps && !state.dead; ++k) {
                        state = motion::step(world_, c_, state, input);
                        ++steps_;
                        if (state.standing) stood(state.at);
                    }
                    if (!state.dead) take(state);
                }
        }
        return places_;
    }
    size_t states() const { return open_.size(); }
    size_t steps() const { return steps_; }

private:
    static constexpr int k_headings = 16, k_steps = 6;

    static uint64_t cell(double value, double side) {
        return uint64_t(int64_t(std::floor(value / side)) & 0x3ff);
    }

    void stood(const Vec3& at) {
        const uint64_t key = cell(at.x, 0.1) | cell(at.y, 0.1) << 10 | cell(at.z + 0.01, 0.1) << 20;
        if (stood_.insert(key).second) places_.push_back(at);
    }
    void take(const motion::State& s) {
        const bool rests = s.standing && glm::length(s.velocity) < 0.5;
        const double side = rests ? 0.1 : s.standing ? 0.2 : 0.25;
        uint64_t key = cell(s.at.x, side) | cell(s.at.y, side) << 10 | cell(s.at.z + 0.01, side) << 20;
        key |= (cell(s.velocity.x + 1, 2) & 0xf) << 30 | (cell(s.velocity.y + 1, 2) & 0xf) << 34 |
               (cell(s.velocity.z + 1.5, 3) & 0x1f) << 38;
        key |= uint64_t(s.standing) << 43 | uint64_t(s.jump_held) << 44 | uint64_t(s.low_jump) << 45;
        if (known_.insert(key).second) open_.push_back(s);
    }

    const motion::World& world_;
    const Character& c_;
    std::vector<motion::State> open_;
    std::vector<Vec3> places_;
    std::unordered_set<uint64_t> known_, stood_;
    size_t steps_ = 0;
};

/// Places that tell of every ledge: one for each connected piece of what was stood on (cells of a decimetre
/// beside each other that are about as high), and one for each half metre of it, a quarter in height.
inline std::vector<Vec3> telling_places(const std::vector<Vec3>& places) {
    constexpr double k_as_high_m = 0.05;
    const auto key = [](const Vec3& p) {
        return std::pair(int(std::floor(p.x / 0.1)), int(std::floor(p.y / 0.1)));
    };
    std::map<std::pair<int, int>, std::vector<size_t>> cells;
    for (size_t i = 0; i < places.size(); ++i) cells[key(places[i])].push_back(i);
    std::vector<bool> taken(places.size(), false);
    std::vector<Vec3> out;
    for (size_t first = 0; first < places.size(); ++first) {
        if (taken[first]) continue;
        std::vector<size_t> open{first};
        std::set<std::array<int, 3>> told;
        taken[first] = true;
        for (size_t i = 0; i < open.size(); ++i) {
            const Vec3& at = places[open[i]];
            const auto part = [](double m, double side) { return int(std::floor(m / side)); };
            if (told.insert({part(at.x, 0.5), part(at.y, 0.5), part(at.z, 0.25)}).second) out.push_back(at);
            const auto [x, y] = key(places[open[i]]);
            for (int dx = -1; dx <= 1; ++dx)
                for (int dy = -1; dy <= 1; ++dy)
                    if (const auto near = cells.find({x + dx, y + dy}); near != cells.end())
                        for (const size_t k : near->second)
                            if (!taken[k] && std::abs(places[k].z - places[open[i]].z) <= k_as_high_m)
                                taken[k] = true, open.push_back(k);
        }
    }
    return out;
}

} // namespace rubble::test
