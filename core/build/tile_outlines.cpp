#include "build/tile_outlines.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace rubble::build {

namespace {

/// Corners are told apart by whole micrometres.
struct Key {
    int64_t x, y;
    auto operator<=>(const Key&) const = default;
};
int64_t ticks(double v) { return std::llround(v * 1e6); }
Key key_of(Vec2 p) { return {ticks(p.x), ticks(p.y)}; }

struct Edge {
    Vec2 from, to;
    bool used = false;
};

/// Upright sides, upwards at the right of matter and downwards at its left, less what two of them share.
void add_sides(const std::vector<TilePrism>& prisms, std::vector<Edge>& edges) {
    struct Change {
        int64_t y;
        double at;
        int right, left; ///< how many begin there, below 0: end
    };
    std::map<int64_t, std::pair<double, std::vector<Change>>> lines;
    for (const TilePrism& p : prisms) {
        const auto add = [&](double x, double low, double high, bool right) {
            if (ticks(low) >= ticks(high)) return;
            auto& line = lines[ticks(x)];
            line.first = x;
            line.second.push_back({ticks(low), low, right ? 1 : 0, right ? 0 : 1});
            line.second.push_back({ticks(high), high, right ? -1 : 0, right ? 0 : -1});
        };
        add(p.left, p.low_left, p.high_left, false);
        add(p.right, p.low_right, p.high_right, true);
    }
    for (auto& [at, line] : lines) {
        auto& [x, changes] = line;
        std::sort(changes.begin(), changes.end(), [](const Change& a, const Change& b) { return a.y < b.y; });
        int right = 0, left = 0;
        for (size_t i = 0; i < changes.size(); ++i) {
            if (i > 0 && changes[i].y > changes[i - 1].y && right != left) {
                const Vec2 low(x, changes[i - 1].at), high(x, changes[i].at);
                edges.push_back(right > left ? Edge{low, high} : Edge{high, low});
            }
            right += changes[i].right, left += changes[i].left;
        }
    }
}

std::vector<Vec2> without_straight_corners(const std::vector<Vec2>& loop) {
    std::vector<Vec2> out;
    const size_t n = loop.size();
    for (size_t i = 0; i < n; ++i) {
        const Vec2 before = out.empty() ? loop[(i + n - 1) % n] : out.back();
        const Vec2 a = loop[i] - before, b = loop[(i + 1) % n] - loop[i];
        if (std::abs(cross(a, b)) > 1e-9 * (glm::length(a) * glm::length(b) + 1e-12)) out.push_back(loop[i]);
    }
    return out;
}

} // namespace

std::vector<std::vector<Vec2>> outlines_of(const std::vector<TilePrism>& prisms) {
    std::vector<Edge> edges;
    for (const TilePrism& p : prisms) {
        edges.push_back({{p.left, p.low_left}, {p.right, p.low_right}});
        edges.push_back({{p.right, p.high_right}, {p.left, p.high_left}});
    }
    add_sides(prisms, edges);
    std::map<Key, std::vector<size_t>> from;
    for (size_t i = 0; i < edges.size(); ++i) from[key_of(edges[i].from)].push_back(i);
    std::vector<std::vector<Vec2>> out;
    for (size_t first = 0; first < edges.size(); ++first) {
        if (edges[first].used) continue;
        std::vector<Vec2> loop;
        size_t at = first;
        while (!edges[at].used) {
            edges[at].used = true;
            loop.push_back(edges[at].from);
            // Where lines touch in a corner the sharpest turn to the right keeps them apart.
            const Vec2 way = edges[at].to - edges[at].from;
            double best = std::numeric_limits<double>::infinity();
            size_t next = edges.size();
            for (const size_t k : from[key_of(edges[at].to)]) {
                if (edges[k].used && k != first) continue;
                const Vec2 onward = edges[k].to - edges[k].from;
                const double turn = std::atan2(cross(way, onward), glm::dot(way, onward));
                if (-turn < best) best = -turn, next = k;
            }
            if (next == edges.size()) break;
            at = next;
        }
        loop = without_straight_corners(loop);
        if (loop.size() >= 3) out.push_back(std::move(loop));
    }
    return out;
}

} // namespace rubble::build
