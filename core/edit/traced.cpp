#include "edit/traced.h"

#include <algorithm>
#include <cmath>

#include "edit/fresh_ids.h"
#include "edit/shapes.h"
#include "level/brush_item.h"

namespace rubble::edit {

namespace {

double area_of(const std::vector<Vec2>& ring) {
    double twice = 0;
    for (size_t i = 0; i < ring.size(); ++i) twice += cross(ring[i], ring[(i + 1) % ring.size()]);
    return twice / 2;
}

bool holds(const std::vector<Vec2>& ring, Vec2 p) {
    bool in = false;
    for (size_t i = 0, j = ring.size() - 1; i < ring.size(); j = i++) {
        const Vec2 a = ring[i], b = ring[j];
        if ((a.y > p.y) != (b.y > p.y) && p.x < (b.x - a.x) * (p.y - a.y) / (b.y - a.y) + a.x) in = !in;
    }
    return in;
}

/// Without the points that lie within `apart` of the line between those that stay (Douglas and Peucker,
/// 1973).
std::vector<Vec2> thinned(const std::vector<Vec2>& line, double apart) {
    if (line.size() < 3) return line;
    std::vector<bool> stays(line.size(), false);
    stays.front() = stays.back() = true;
    std::vector<std::pair<size_t, size_t>> open{{0, line.size() - 1}};
    while (!open.empty()) {
        const auto [first, last] = open.back();
        open.pop_back();
        const Vec2 along = line[last] - line[first];
        const double length = glm::length(along);
        size_t farthest = first;
        double most = apart;
        for (size_t i = first + 1; i < last; ++i) {
            const Vec2 off = line[i] - line[first];
            const double away = length < 1e-12 ? glm::length(off) : std::abs(cross(along, off)) / length;
            if (away > most) most = away, farthest = i;
        }
        if (farthest == first) continue;
        stays[farthest] = true;
        open.emplace_back(first, farthest), open.emplace_back(farthest, last);
    }
    std::vector<Vec2> out;
    for (size_t i = 0; i < line.size(); ++i)
        if (stays[i]) out.push_back(line[i]);
    return out;
}

/// So few points that a brush holds them.
std::vector<Vec2> fitting(std::vector<Vec2> points, bool closed) {
    constexpr double k_same_m = 1e-3;
    if (closed && !points.empty()) {
        // From its two farthest corners, so that where it begins is no corner by itself.
        const auto far = std::max_element(points.begin(), points.end(), [&](Vec2 a, Vec2 b) {
            return glm::length(a - points[0]) < glm::length(b - points[0]);
        });
        std::rotate(points.begin(), far, points.end());
        points.push_back(points.front());
    }
    std::vector<Vec2> out;
    for (double apart = k_same_m; out.empty() || out.size() > most_points; apart *= 2)
        out = thinned(points, apart);
    if (closed) out.pop_back();
    return out;
}

std::vector<Vec3> raised_by(const std::vector<Vec2>& points, const Vec3& at) {
    std::vector<Vec3> out;
    for (const Vec2& p : points) out.push_back(at + Vec3(p, 0));
    return out;
}

class Tracer {
public:
    Tracer(const Level& level, std::span<const PlanLine> lines, const TracedAs& as)
        : ids_(level),
          lines_(lines),
          as_(as) {}

    Traced run() {
        for (size_t i = 0; i < lines_.size(); ++i) {
            const PlanLine& line = lines_[i];
            if (!line.closed || line.points.size() < 3 || as_.walls)
                add(line, line.points.size() < 2
                              ? Brush{}
                              : wall_through(raised_by(fitting(line.points, line.closed), as_.at),
                                             line.closed, as_.thickness_m, as_.height_m));
            else if (depth_of(i) % 2 == 0)
                add(line, outline_of(i));
        }
        return std::move(traced_);
    }

private:
    bool within(size_t inner, size_t outer) const {
        return inner != outer && lines_[inner].shape == lines_[outer].shape && lines_[outer].closed &&
               std::abs(area_of(lines_[outer].points)) > std::abs(area_of(lines_[inner].points)) &&
               holds(lines_[outer].points, lines_[inner].points[0]);
    }
    /// In how many lines of its shape it lies: in one it is a hole, in two an island in it.
    int depth_of(size_t line) const {
        int depth = 0;
        for (size_t other = 0; other < lines_.size(); ++other) depth += within(line, other) ? 1 : 0;
        return depth;
    }
    Brush outline_of(size_t i) const {
        const std::vector<Vec2> ring = fitting(lines_[i].points, true);
        Brush brush = outline_through(raised_by(ring, as_.at), as_.height_m);
        const Vec2 middle = flat(brush.place.at) - flat(as_.at);
        for (size_t hole = 0; hole < lines_.size(); ++hole) {
            if (!lines_[hole].closed || !within(hole, i) || depth_of(hole) != depth_of(i) + 1) continue;
            std::vector<Vec2> points = fitting(lines_[hole].points, true);
            if (area_of(points) > 0) std::reverse(points.begin(), points.end());
            for (Vec2& p : points) p -= middle;
            brush.holes.push_back(std::move(points));
        }
        return brush;
    }
    void add(const PlanLine& line, Brush brush) {
        if (brush.points.size() < 2 || !problem_of(brush, nullptr).empty()) {
            ++traced_.left_out;
            return;
        }
        traced_.items.push_back({ids_.next("b"), line.name, false, std::move(brush), {}});
    }

    FreshIds ids_;
    std::span<const PlanLine> lines_;
    const TracedAs& as_;
    Traced traced_;
};

} // namespace

Traced traced(const Level& level, std::span<const PlanLine> lines, const TracedAs& as) {
    return Tracer(level, lines, as).run();
}

} // namespace rubble::edit
