#pragma once

#include <array>
#include <cmath>
#include <cstdint>
#include <vector>

#include "base/flat_index.h"
#include "base/growing_list.h"
#include "geometry/vec.h"

namespace rubble::geometry {

/// Exact geometry of planes. Corners of brushes are whole micrometres ("ticks"), planes through them have
/// integer coefficients, and every other corner is the meeting of three such planes. All yes/no questions
/// go through `PlaneTable::side`, the one place that decides on which side of a plane a point lies, so that
/// no two parts of the program can disagree about it.

inline constexpr double ticks_per_metre = 1e6;
/// Brushes further out or longer than this are refused when read: it keeps plane coefficients in 64 bits.
inline constexpr double farthest_m = 10'000;
inline constexpr double longest_edge_m = 1'000;

struct TickPoint {
    int64_t x = 0, y = 0, z = 0;
    auto operator<=>(const TickPoint&) const = default;
};

/// The nearest point of whole ticks.
TickPoint to_ticks(const Vec3& p_m);
/// A point of ticks in metres.
Vec3 to_metres(const TickPoint& p);

/// The plane n·p + d = 0 in ticks. In a table it is in lowest terms, with its first non-zero normal component
/// positive, so that equal planes have equal coefficients.
struct Plane {
    int64_t nx = 0, ny = 0, nz = 0;
    __int128 d = 0;
    bool operator==(const Plane&) const = default;
};

/// The plane through three points, its normal looking to where they are seen counter-clockwise; no edge of
/// theirs is longer than longest_edge_m, and they do not lie on one line.
Plane plane_through(const TickPoint& a, const TickPoint& b, const TickPoint& c);

/// A plane as a table keeps it, and whether it was seen from its back.
struct CanonicalPlane {
    Plane plane;
    bool flipped = false;
};

/// Any plane, whatever multiple of its lowest terms it comes in; seen from where its normal points.
CanonicalPlane canonical(const Plane& plane);

enum class Side : int8_t { back = -1, on = 0, front = 1 };
inline Side operator-(Side s) { return static_cast<Side>(-static_cast<int8_t>(s)); }

/// A plane of the table as one sees it from a brush: `flipped` when the brush's outside is where the
/// canonical plane has its back.
struct PlaneRef {
    int32_t id = -1;
    bool flipped = false;
    bool operator==(const PlaneRef&) const = default;
};

/// The meeting of three planes. `at` is within `error` of the true place in every coordinate (ticks); a
/// coordinate whose bit is set in `exact` (1 x, 2 y, 4 z) is true as it stands.
struct Corner {
    Vec3 at{0};
    std::array<int32_t, 3> planes{-1, -1, -1};
    float error = 0; // corners are most of what a solid's parts take of memory
    uint8_t exact = 0;
};

/// A name of the line in which two planes meet, the same for all planes that meet in it: its Plücker
/// coordinates modulo the prime 2^61 - 1, scaled so that the first one that is not zero is 1. That two lines
/// share a name has a chance of less than 2^-200.
struct LineName {
    std::array<uint64_t, 6> residues{};
    bool operator==(const LineName&) const = default;
};

/// Planes, each once. The table only grows: one writer may add to it while others look at planes they know.
class PlaneTable {
public:
    /// The plane through three corners, seen counter-clockwise from its front. They must not lie on a line.
    PlaneRef through(const TickPoint& a, const TickPoint& b, const TickPoint& c);

    /// Puts a plane in and says from which side it was meant.
    PlaneRef facing(const Plane& plane) { return add(canonical(plane)); }
    /// The same for one that is canonical already.
    PlaneRef add(const CanonicalPlane& plane) { return {intern(plane.plane), plane.flipped}; }

    /// The plane across an axis (0 x, 1 y, 2 z) at a place along it, in ticks.
    int32_t across(int axis, int64_t at);

    /// The plane of an id.
    const Plane& plane(int32_t id) const { return planes_[id].plane; }
    size_t size() const { return planes_.size(); }
    /// Outward unit normal.
    Vec3 normal(PlaneRef ref) const;

    /// Where three planes meet. They must meet in one point.
    Corner meet(int32_t a, int32_t b, int32_t c) const;

    /// The line in which two different planes meet; they must not be parallel.
    LineName line(int32_t a, int32_t b) const;
    /// The signs of the direction of that line, the first that is not zero positive: -1, 0 or 1 for each
    /// axis.
    std::array<int8_t, 3> way(int32_t a, int32_t b) const;

    /// The side of the canonical plane `id` on which `corner` lies: a filter in floating point with a bound
    /// on its error, then integers of 512 bits, as in Shewchuk, "Adaptive Precision Floating-Point
    /// Arithmetic" (1997), with the integers in place of expansions.
    Side side(const Corner& corner, int32_t id) const { return side(corner, id, planes_[size_t(id)]); }
    /// The same, seen from a brush: front is outside.
    Side side(const Corner& corner, PlaneRef ref) const {
        const Side s = side(corner, ref.id);
        return ref.flipped ? -s : s;
    }

    /// `visit(i, side)` for each of some corners: the plane is looked up once.
    template <class CornerOf, class F>
    void for_sides(PlaneRef ref, size_t count, CornerOf corner_of, F visit) const {
        const Entry& entry = planes_[size_t(ref.id)];
        for (size_t i = 0; i < count; ++i) {
            const Side s = side(corner_of(i), ref.id, entry);
            visit(i, ref.flipped ? -s : s);
        }
    }

    /// The side on which a whole box (metres) lies, told in floating point with a wide margin; `on` where it
    /// comes near the plane.
    Side side(const Box3& box, PlaneRef ref) const {
        const Entry& e = planes_[size_t(ref.id)];
        const Vec3 middle = (box.low + box.high) * (0.5 * ticks_per_metre);
        const Vec3 half = (box.high - box.low) * (0.5 * ticks_per_metre);
        const double s = glm::dot(e.normal, middle) + e.d;
        // A tick aside, and what rounding takes of the terms themselves.
        const double reach = glm::dot(glm::abs(e.normal), half + 1.0) +
                             (glm::dot(glm::abs(e.normal), glm::abs(middle)) + std::abs(e.d)) * 0x1p-48;
        const Side side = s > reach ? Side::front : s < -reach ? Side::back : Side::on;
        return ref.flipped ? -side : side;
    }

    /// Whether two corners are one point.
    bool same(const Corner& a, const Corner& b) const;
    /// The nearest whole tick, the same for equal points however they came about.
    TickPoint rounded(const Corner& corner) const {
        if (corner.exact == 7) return {int64_t(corner.at.x), int64_t(corner.at.y), int64_t(corner.at.z)};
        return rounded_anyhow(corner);
    }

private:
    struct Entry {
        Plane plane;
        Vec3 normal;      ///< coefficients as floating point numbers, not of unit length
        double d = 0;     ///< likewise
        double size = 0;  ///< |nx| + |ny| + |nz|
        int8_t axis = -1; ///< 0, 1, 2 where the plane is x, y or z = -d
    };
    int32_t intern(const Plane& plane);
    TickPoint rounded_anyhow(const Corner& corner) const;
    Side side_anyhow(const Corner& corner, const Entry& plane) const;
    /// What is told by names and whole numbers alone, which is most of what is asked.
    Side side(const Corner& corner, int32_t id, const Entry& e) const {
        if (corner.planes[0] == id || corner.planes[1] == id || corner.planes[2] == id) return Side::on;
        if (e.axis >= 0 && (corner.exact & (1 << e.axis))) {
            const double s = corner.at[e.axis] + e.d;
            return s > 0 ? Side::front : s < 0 ? Side::back : Side::on;
        }
        return side_anyhow(corner, e);
    }

    GrowingList<Entry> planes_;
    FlatIndex ids_;
};

} // namespace rubble::geometry
