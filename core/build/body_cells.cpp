#include "build/body_cells.h"

#include <algorithm>
#include <cmath>

#include "build/room.h"

namespace rubble::build {

using geometry::PlaneRef;
using geometry::PlaneTable;
using geometry::Side;
using geometry::TickPoint;

namespace {

/// What lies nearer to a plane lies in it, in ticks: corners of turned brushes are rounded to whole ones.
constexpr double k_rounding = 4;
/// Of so many faces each is weighed as the next cut; of more only some.
constexpr size_t k_weighed = 24;

Vec3 in_ticks(const TickPoint& p) { return {double(p.x), double(p.y), double(p.z)}; }

/// A face of the body that is left within a piece of room, or what is left of it.
struct Bound {
    PlaneRef plane;
    Vec3 normal;
    double d = 0; ///< n·p + d = 0, ticks
    std::vector<Vec3> loop;
};

class BodyCutter {
public:
    BodyCutter(const BrushBody& body, std::span<const PlaneRef> refs, const PlaneTable& planes)
        : planes_(planes) {
        for (size_t i = 0; i < body.bounds.size(); ++i) {
            Bound bound{refs[i], planes.normal(refs[i]), 0, {}};
            for (const int p : body.bounds[i].loop) bound.loop.push_back(in_ticks(body.points[size_t(p)]));
            bound.d = -glm::dot(bound.normal, bound.loop[0]);
            bounds_.push_back(std::move(bound));
            sides_.emplace_back(refs[i], body.bounds[i].side);
        }
    }

    std::vector<PreparedCell> cells(std::span<const PlaneRef> around) {
        cut(room_within(around, planes_), std::move(bounds_));
        return std::move(out_);
    }

private:
    using Bounds = std::vector<Bound>;
    enum class Place { front, back, on, across };

    static Place place_of(const Bound& bound, const Bound& by) {
        double low = 0, high = 0;
        for (const Vec3& p : bound.loop) {
            const double d = glm::dot(by.normal, p) + by.d;
            low = std::min(low, d), high = std::max(high, d);
        }
        if (high <= k_rounding) return low >= -k_rounding ? Place::on : Place::back;
        return low >= -k_rounding ? Place::front : Place::across;
    }

    /// The face along which to cut: one that cuts few others and leaves as many on either side.
    static size_t best_cut(const Bounds& bounds) {
        const size_t stride = std::max<size_t>(1, bounds.size() / k_weighed);
        size_t best = 0;
        double least = 1e30;
        for (size_t i = 0; i < bounds.size(); i += stride) {
            int across = 0, front = 0, back = 0;
            for (const Bound& other : bounds) {
                const Place place = place_of(other, bounds[i]);
                across += place == Place::across, front += place == Place::front,
                    back += place == Place::back;
            }
            const double cost = 8.0 * across + std::abs(front - back);
            if (cost < least) least = cost, best = i;
        }
        return best;
    }

    /// The part of a face on one side of a cut.
    static Bound part(const Bound& bound, const Bound& by, double sign) {
        Bound out{bound.plane, bound.normal, bound.d, {}};
        const size_t n = bound.loop.size();
        for (size_t i = 0; i < n; ++i) {
            const Vec3 &p = bound.loop[i], &q = bound.loop[(i + 1) % n];
            const double here = sign * (glm::dot(by.normal, p) + by.d),
                         next = sign * (glm::dot(by.normal, q) + by.d);
            if (here >= 0) out.loop.push_back(p);
            if ((here < 0) != (next < 0)) out.loop.push_back(p + (q - p) * (here / (here - next)));
        }
        return out;
    }

    /// Cuts a room until no face is left in it; what is behind the last one is matter.
    void cut(Room room, Bounds bounds) {
        const Bound by = bounds[best_cut(bounds)];
        Bounds front, back;
        for (Bound& bound : bounds) {
            const Place place = place_of(bound, by);
            if (place == Place::across)
                front.push_back(part(bound, by, 1)), back.push_back(part(bound, by, -1));
            else if (place == Place::front)
                front.push_back(std::move(bound));
            else if (place == Place::back)
                back.push_back(std::move(bound));
        }
        auto [before, behind] = halves_of(room, by.plane, planes_);
        if (!before.empty() && !front.empty()) cut(std::move(before), std::move(front));
        if (behind.empty()) return;
        if (back.empty())
            out_.push_back(finished(behind));
        else
            cut(std::move(behind), std::move(back));
    }

    NamedSide side_of(PlaneRef plane) const {
        for (const auto& [ref, side] : sides_)
            if (ref == plane) return side;
        return BoxSide::top; // only between two cells, where nothing is seen
    }

    PreparedCell finished(const Room& room) const {
        std::vector<PreparedCell::Face> faces;
        for (const Polygon& polygon : room)
            faces.push_back({polygon, side_of(polygon.support), box_of(polygon), {}});
        return cell_of(std::move(faces), planes_);
    }

    const PlaneTable& planes_;
    Bounds bounds_;
    std::vector<std::pair<PlaneRef, NamedSide>> sides_;
    std::vector<PreparedCell> out_;
};

} // namespace

void add_planes_around(const BrushBody& body, PlaneTable& planes, BodyPlanes& refs) {
    constexpr int64_t k_room = 1'000'000;
    TickPoint low = body.points[0], high = low;
    for (const TickPoint& p : body.points) {
        low = {std::min(low.x, p.x), std::min(low.y, p.y), std::min(low.z, p.z)};
        high = {std::max(high.x, p.x), std::max(high.y, p.y), std::max(high.z, p.z)};
    }
    // Seen from the room their fronts are outside; the canonical front of such a plane looks up its axis.
    const std::array<std::pair<int64_t, int64_t>, 3> ends{
        {{low.x, high.x}, {low.y, high.y}, {low.z, high.z}}};
    for (int axis = 0; axis < 3; ++axis) {
        refs.push_back({planes.across(axis, ends[size_t(axis)].first - k_room), true});
        refs.push_back({planes.across(axis, ends[size_t(axis)].second + k_room), false});
    }
}

std::vector<PreparedCell> cells_of(const BrushBody& body, std::span<const PlaneRef> refs,
                                   const PlaneTable& planes) {
    if (body.bounds.empty()) return {};
    const size_t n = body.bounds.size();
    return BodyCutter(body, refs.first(n), planes).cells(refs.subspan(n, 6));
}

} // namespace rubble::build
