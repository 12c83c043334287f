#include "check/dead_end_openings.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace rubble::check {

namespace {

constexpr int k_directions = 8;
/// How far one looks, in steps of what length, how thick a wall may be, and how far from the dead end what
/// lies behind has to be (metres).
constexpr double k_farthest_m = 4, k_step_m = 0.1, k_thickest_m = 2.5, k_elsewhere_m = 1;

bool is_elsewhere(const Maze::DeadEnd& end, const Vec2& at) {
    for (const Maze::Way& branch : end.branches)
        for (const Vec2& place : branch.places)
            if (glm::length(place - at) < k_elsewhere_m) return false;
    return true;
}

class OpeningSearch {
public:
    OpeningSearch(const motion::World& world, const Ground& ground, const Reach& reach,
                  const Character& character)
        : world_(world),
          ground_(ground),
          reach_(reach),
          c_(character) {}

    std::optional<Maze::Opening> run(const Maze::DeadEnd& end) const {
        std::optional<Maze::Opening> best;
        for (const Maze::Way& branch : end.branches) {
            if (branch.places.empty()) continue;
            for (const Vec2& tip : {branch.places.front(), branch.places.back()})
                for (int k = 0; k < k_directions; ++k) {
                    const double angle = 2 * std::numbers::pi * k / k_directions;
                    const auto found = through(end, tip, {std::cos(angle), std::sin(angle)});
                    if (found && (!best || found->wall_m < best->wall_m)) best = found;
                }
        }
        return best;
    }

private:
    bool is_free(const Vec2& at) const {
        return overlap_m(world_, {raised(at, 0.05), c_.radius_m, c_.height_m - 0.1}) <= 0.01;
    }

    /// Straight through one wall.
    std::optional<Maze::Opening> through(const Maze::DeadEnd& end, const Vec2& from,
                                         const Vec2& towards) const {
        double blocked = -1;
        for (double way = 0; way <= k_farthest_m; way += k_step_m) {
            const Vec2 at = from + towards * way;
            if (!is_free(at)) {
                if (blocked < 0) blocked = way;
                if (way - blocked > k_thickest_m) return {};
                continue;
            }
            if (blocked < 0) continue;
            const int ledge = ground_.ledge_at(raised(at, 0), 0.1);
            if (ledge < 0 || !reach_.tinted(ledge) || !is_elsewhere(end, at)) return {};
            // A body's width less is wall.
            return Maze::Opening{from, at, std::max(way - blocked - 2 * c_.radius_m, k_step_m),
                                 2 * end.length_m};
        }
        return {};
    }

    const motion::World& world_;
    const Ground& ground_;
    const Reach& reach_;
    const Character& c_;
};

} // namespace

std::vector<Maze::Opening> openings_of(const Maze& maze, const motion::World& world, const Ground& ground,
                                       const Reach& reach, const Character& character) {
    const OpeningSearch search(world, ground, reach, character);
    std::vector<Maze::Opening> out;
    for (const Maze::DeadEnd& end : maze.dead_ends)
        if (const auto found = search.run(end)) out.push_back(*found);
    return out;
}

} // namespace rubble::check
