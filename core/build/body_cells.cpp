#include "build/body_cells.h"

#include <algorithm>
#include <cmath>

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

/// A piece of room: a convex polyhedron by its faces.
using Room = std::vector<Polygon>;

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
        cut(room_within(around), std::move(bounds_));
        return std::move(out_);
    }

private:
    using Bounds = std::vector<Bound>;
    enum class Place { front, back, on, across };

    /// The room between six planes: left, right, near, away, below, above.
    Room room_within(std::span<const PlaneRef> around) const {
        static constexpr int order[6][4] = {{4, 2, 5, 3}, {4, 3, 5, 2}, {4, 1, 5, 0},
                                            {4, 0, 5, 1}, {3, 1, 2, 0}, {2, 1, 3, 0}};
        Room room;
        for (size_t f = 0; f < 6; ++f) {
            Polygon polygon{around[f], {}};
            for (size_t i = 0; i < 4; ++i) {
                const int32_t in = around[size_t(order[f][(i + 3) % 4])].id,
                              outgoing = around[size_t(order[f][i])].id;
                polygon.edges.push_back({outgoing, planes_.meet(around[f].id, in, outgoing)});
            }
            room.push_back(std::move(polygon));
        }
        return room;
    }

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
        auto [before, behind] = halves_of(room, by.plane);
        if (!before.empty() && !front.empty()) cut(std::move(before), std::move(front));
        if (behind.empty()) return;
        if (back.empty())
            out_.push_back(finished(behind));
        else
            cut(std::move(behind), std::move(back));
    }

    /// A room parted by a plane; one part is empty where the plane does not cross it.
    std::pair<Room, Room> halves_of(const Room& room, PlaneRef by) const {
        Room front, back;
        bool any_front = false, any_back = false;
        for (const Polygon& polygon : room) {
            const CornerSides sides = sides_of(polygon, by, planes_);
            any_front |= sides.front, any_back |= sides.back;
            if (sides.front && sides.back) {
                Halves halves = split(polygon, sides, by, planes_);
                front.push_back(std::move(halves.front)), back.push_back(std::move(halves.back));
            } else if (sides.front) {
                front.push_back(polygon);
            } else if (sides.back) {
                back.push_back(polygon);
            }
        }
        if (!any_front || !any_back) return any_front ? std::pair(room, Room{}) : std::pair(Room{}, room);
        const Polygon lid = lid_of(back, by);
        back.push_back(lid);
        front.push_back(lid_of(front, {by.id, !by.flipped}));
        return {std::move(front), std::move(back)};
    }

    /// The face that closes a part of a room along the cut: the edges of its other faces there, reversed.
    Polygon lid_of(const Room& part, PlaneRef by) const {
        struct Edge {
            int32_t plane;
            geometry::Corner from, to;
        };
        std::vector<Edge> edges;
        for (const Polygon& polygon : part) {
            const size_t n = polygon.edges.size();
            for (size_t i = 0; i < n; ++i) {
                const auto &a = polygon.edges[i].start, &b = polygon.edges[(i + 1) % n].start;
                if (planes_.side(a, by) == Side::on && planes_.side(b, by) == Side::on)
                    edges.push_back({polygon.support.id, b, a});
            }
        }
        for (size_t i = 0; i + 1 < edges.size(); ++i)
            for (size_t k = i + 1; k < edges.size(); ++k)
                if (planes_.same(edges[i].to, edges[k].from)) {
                    std::swap(edges[i + 1], edges[k]);
                    break;
                }
        Polygon lid{by, {}};
        for (size_t i = 0; i < edges.size(); ++i) {
            const int32_t before = edges[(i + edges.size() - 1) % edges.size()].plane;
            lid.edges.push_back({edges[i].plane, planes_.meet(by.id, before, edges[i].plane)});
        }
        return lid;
    }

    BoxSide side_of(PlaneRef plane) const {
        for (const auto& [ref, side] : sides_)
            if (ref == plane) return side;
        return BoxSide::top; // only between two cells, where nothing is seen
    }

    PreparedCell finished(const Room& room) const {
        PreparedCell cell;
        for (const Polygon& polygon : room) {
            PreparedCell::Face face{polygon, side_of(polygon.support), box_of(polygon)};
            geometry::ConvexCell::Face seen;
            for (const auto& edge : polygon.edges) {
                seen.loop.push_back(geometry::to_metres(planes_.rounded(edge.start)));
                cell.box.add(seen.loop.back());
            }
            const Vec3 normal = planes_.normal(polygon.support);
            seen.plane = {normal, -glm::dot(normal, seen.loop[0])};
            cell.faces.push_back(std::move(face));
            cell.cell.faces.push_back(std::move(seen));
        }
        return cell;
    }

    const PlaneTable& planes_;
    Bounds bounds_;
    std::vector<std::pair<PlaneRef, BoxSide>> sides_;
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
