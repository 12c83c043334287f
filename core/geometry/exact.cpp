#include "geometry/exact.h"

#include <cassert>
#include <cmath>
#include <limits>
#include <numeric>

#include <boost/multiprecision/cpp_int.hpp>

#include "base/ensure.h"

namespace rubble::geometry {

namespace {

namespace mp = boost::multiprecision;
/// Widest product: three slope normals of 61 bits each times an offset of 98 bits, times 24 terms: 286 bits.
using Big = mp::number<mp::cpp_int_backend<512, 512, mp::signed_magnitude, mp::unchecked, void>>;

/// Homogeneous coordinates of the meeting of three planes; w is not zero.
struct BigPoint {
    Big x, y, z, w;
};

Big determinant(const std::array<std::array<Big, 3>, 3>& m) {
    return m[0][0] * (m[1][1] * m[2][2] - m[1][2] * m[2][1]) -
           m[0][1] * (m[1][0] * m[2][2] - m[1][2] * m[2][0]) +
           m[0][2] * (m[1][0] * m[2][1] - m[1][1] * m[2][0]);
}

/// Cramer's rule for n_i · p = -d_i.
BigPoint meet_exactly(const Plane& a, const Plane& b, const Plane& c) {
    const std::array<const Plane*, 3> planes{&a, &b, &c};
    std::array<std::array<Big, 4>, 3> rows;
    for (int i = 0; i < 3; ++i)
        rows[i] = {Big(planes[i]->nx), Big(planes[i]->ny), Big(planes[i]->nz), Big(-planes[i]->d)};
    auto columns = [&](int p, int q, int r) {
        std::array<std::array<Big, 3>, 3> m;
        for (int i = 0; i < 3; ++i) m[i] = {rows[i][p], rows[i][q], rows[i][r]};
        return determinant(m);
    };
    return {columns(3, 1, 2), columns(0, 3, 2), columns(0, 1, 3), columns(0, 1, 2)};
}

int64_t round_fraction(const Big& numerator, const Big& denominator) {
    // floor(n/d + 1/2), halves upwards; the denominator is made positive first.
    Big n = 2 * numerator + denominator, d = 2 * denominator;
    if (d < 0) n = -n, d = -d;
    Big q = n / d;
    if (q * d > n) q -= 1;
    return static_cast<int64_t>(q);
}

/// A determinant in extended precision and a bound on what rounding did to it.
struct Bounded {
    long double value;
    long double error;
};

/// Unit roundoff of the extended format; the sum of the six products passes through at most eight roundings.
constexpr long double k_extended_error = 8 * 0x1p-64L;

Bounded determinant(const long double (&m)[3][3]) {
    const long double t[6] = {m[0][0] * m[1][1] * m[2][2],    -(m[0][0] * m[1][2] * m[2][1]),
                              -(m[0][1] * m[1][0] * m[2][2]), m[0][1] * m[1][2] * m[2][0],
                              m[0][2] * m[1][0] * m[2][1],    -(m[0][2] * m[1][1] * m[2][0])};
    long double sum = 0, size = 0;
    for (long double term : t) sum += term, size += fabsl(term);
    return {sum, size * k_extended_error};
}

/// The least float that is not below a bound.
float rounded_up(double bound) {
    const auto near = static_cast<float>(bound);
    return double(near) < bound ? std::nextafter(near, std::numeric_limits<float>::infinity()) : near;
}

/// Numbers modulo the Mersenne prime 2^61 - 1.
constexpr uint64_t k_prime = (uint64_t(1) << 61) - 1;

uint64_t residue(__int128 v) {
    if (v >= 0 && v < __int128(k_prime)) return uint64_t(v);
    const auto r = int64_t(v % __int128(k_prime));
    return r < 0 ? uint64_t(r + int64_t(k_prime)) : uint64_t(r);
}

uint64_t sum(uint64_t a, uint64_t b) { return a + b >= k_prime ? a + b - k_prime : a + b; }

uint64_t product(uint64_t a, uint64_t b) {
    // 2^61 is 1 modulo the prime: the high part counts like the low one.
    const auto wide = (unsigned __int128)(a)*b;
    return sum(uint64_t(wide) & k_prime, uint64_t(wide >> 61));
}

/// By Fermat: a^(p-2).
uint64_t inverse(uint64_t a) {
    uint64_t out = 1;
    for (uint64_t e = k_prime - 2; e > 0; e >>= 1, a = product(a, a))
        if (e & 1) out = product(out, a);
    return out;
}

uint64_t hash_of(const Plane& p) {
    uint64_t h = 0x9e3779b97f4a7c15u;
    auto mix = [&](uint64_t v) { h = (h ^ v) * 0xff51afd7ed558ccdu, h ^= h >> 32; };
    mix(uint64_t(p.nx)), mix(uint64_t(p.ny)), mix(uint64_t(p.nz));
    mix(uint64_t(p.d)), mix(uint64_t(p.d >> 64));
    return h;
}

} // namespace

TickPoint to_ticks(const Vec3& p) {
    return {std::llround(p.x * ticks_per_metre), std::llround(p.y * ticks_per_metre),
            std::llround(p.z * ticks_per_metre)};
}

Vec3 to_metres(const TickPoint& p) { return Vec3(double(p.x), double(p.y), double(p.z)) / ticks_per_metre; }

int32_t PlaneTable::intern(const Plane& plane) {
    const auto fresh = int32_t(planes_.size());
    const int32_t id =
        ids_.find_or_add(hash_of(plane), fresh, [&](int i) { return planes_[size_t(i)].plane == plane; });
    if (id != fresh) return id;
    Entry entry{plane, Vec3(double(plane.nx), double(plane.ny), double(plane.nz)), double(plane.d)};
    entry.size = std::abs(entry.normal.x) + std::abs(entry.normal.y) + std::abs(entry.normal.z);
    if (plane.nx == 1 && plane.ny == 0 && plane.nz == 0) entry.axis = 0;
    if (plane.nx == 0 && plane.ny == 1 && plane.nz == 0) entry.axis = 1;
    if (plane.nx == 0 && plane.ny == 0 && plane.nz == 1) entry.axis = 2;
    planes_.push_back(entry);
    return id;
}

Plane plane_through(const TickPoint& a, const TickPoint& b, const TickPoint& c) {
    const int64_t ux = b.x - a.x, uy = b.y - a.y, uz = b.z - a.z;
    const int64_t vx = c.x - a.x, vy = c.y - a.y, vz = c.z - a.z;
    Plane p{uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx, 0};
    const int64_t divisor = std::gcd(std::gcd(p.nx, p.ny), p.nz);
    RUBBLE_ENSURE(divisor != 0, return (Plane{0, 0, 1, -__int128(a.z)}));
    p.nx /= divisor, p.ny /= divisor, p.nz /= divisor;
    p.d = -(__int128(p.nx) * a.x + __int128(p.ny) * a.y + __int128(p.nz) * a.z);
    return p;
}

PlaneRef PlaneTable::through(const TickPoint& a, const TickPoint& b, const TickPoint& c) {
    return facing(plane_through(a, b, c));
}

CanonicalPlane canonical(const Plane& plane) {
    Plane p = plane;
    int64_t divisor = std::gcd(std::gcd(p.nx, p.ny), p.nz);
    RUBBLE_ENSURE(divisor != 0, return (CanonicalPlane{{0, 0, 1, 0}, false}));
    divisor = std::gcd(divisor, int64_t(p.d % divisor));
    p.nx /= divisor, p.ny /= divisor, p.nz /= divisor, p.d /= divisor;
    const bool flipped = p.nx != 0 ? p.nx < 0 : p.ny != 0 ? p.ny < 0 : p.nz < 0;
    if (flipped) p.nx = -p.nx, p.ny = -p.ny, p.nz = -p.nz, p.d = -p.d;
    return {p, flipped};
}

int32_t PlaneTable::across(int axis, int64_t at) {
    return intern({axis == 0 ? 1 : 0, axis == 1 ? 1 : 0, axis == 2 ? 1 : 0, -__int128(at)});
}

Vec3 PlaneTable::normal(PlaneRef ref) const {
    const Vec3 n = glm::normalize(planes_[ref.id].normal);
    return ref.flipped ? -n : n;
}

Corner PlaneTable::meet(int32_t a, int32_t b, int32_t c) const {
    Corner corner;
    corner.planes = {a, b, c};
    const std::array<const Entry*, 3> entries{&planes_[a], &planes_[b], &planes_[c]};
    for (const Entry* entry : entries)
        if (entry->axis >= 0) {
            corner.exact |= uint8_t(1 << entry->axis);
            corner.at[entry->axis] = -entry->d;
        }
    if (corner.exact == 7) return corner;

    long double n[3][3], d[3];
    for (int i = 0; i < 3; ++i) {
        const Plane& plane = entries[i]->plane;
        n[i][0] = plane.nx, n[i][1] = plane.ny, n[i][2] = plane.nz;
        d[i] = -static_cast<long double>(plane.d);
    }
    const Bounded w = determinant(n);
    double most = 0;
    const bool flat_angle = fabsl(w.value) < 1e6L * w.error;
    BigPoint big;
    if (flat_angle) big = meet_exactly(planes_[a].plane, planes_[b].plane, planes_[c].plane);
    for (int axis = 0; axis < 3; ++axis) {
        if (corner.exact & (1 << axis)) continue;
        if (flat_angle) {
            const Big& top = axis == 0 ? big.x : axis == 1 ? big.y : big.z;
            // Whole part and a fraction of 40 bits: more than a double keeps at this size.
            const Big scaled = (top << 40) / big.w;
            corner.at[axis] = std::ldexp(static_cast<double>(scaled), -40);
            most = std::max(most, std::abs(corner.at[axis]) * 0x1p-51 + 0x1p-39);
            continue;
        }
        long double m[3][3];
        for (int i = 0; i < 3; ++i)
            for (int k = 0; k < 3; ++k) m[i][k] = k == axis ? d[i] : n[i][k];
        const Bounded top = determinant(m);
        const long double value = top.value / w.value;
        const long double error = (top.error + fabsl(value) * w.error) / (fabsl(w.value) - w.error);
        corner.at[axis] = static_cast<double>(value);
        most = std::max(most, static_cast<double>(error) * 1.001 + std::abs(corner.at[axis]) * 0x1p-52);
    }
    corner.error = rounded_up(most);
    return corner;
}

LineName PlaneTable::line(int32_t a, int32_t b) const {
    if (planes_[a].axis > planes_[b].axis && planes_[b].axis >= 0) std::swap(a, b);
    if (const int i = planes_[a].axis, k = planes_[b].axis; i >= 0 && k > i) {
        // Along an axis: of the minors 01, 02, 03, 12, 13, 23 these are 1 and the planes' own offsets.
        LineName name;
        name.residues[size_t(i + k - 1) + (i == 1)] = 1;
        const std::array<size_t, 3> with_offset{2, 4, 5};
        name.residues[with_offset[size_t(i)]] = residue(planes_[b].plane.d);
        name.residues[with_offset[size_t(k)]] = residue(-planes_[a].plane.d);
        return name;
    }
    const Plane &pa = planes_[a].plane, &pb = planes_[b].plane;
    const std::array<uint64_t, 4> p{residue(pa.nx), residue(pa.ny), residue(pa.nz), residue(pa.d)},
        q{residue(pb.nx), residue(pb.ny), residue(pb.nz), residue(pb.d)};
    LineName name;
    size_t k = 0;
    uint64_t first = 0;
    for (size_t i = 0; i < 4; ++i)
        for (size_t j = i + 1; j < 4; ++j) {
            const uint64_t minor = sum(product(p[i], q[j]), k_prime - product(p[j], q[i]));
            if (first == 0) first = minor;
            name.residues[k++] = minor;
        }
    if (first > 1) {
        const uint64_t scale = first == k_prime - 1 ? first : inverse(first); // -1 is its own inverse
        for (uint64_t& r : name.residues) r = product(r, scale);
    }
    return name;
}

std::array<int8_t, 3> PlaneTable::way(int32_t a, int32_t b) const {
    const Plane &p = planes_[a].plane, &q = planes_[b].plane;
    auto minor = [](int64_t a1, int64_t b1, int64_t a2, int64_t b2) {
        const __int128 left = __int128(a1) * b2, right = __int128(a2) * b1;
        return int8_t(left > right ? 1 : left < right ? -1 : 0);
    };
    std::array<int8_t, 3> signs{minor(p.ny, q.ny, p.nz, q.nz), minor(p.nz, q.nz, p.nx, q.nx),
                                minor(p.nx, q.nx, p.ny, q.ny)};
    const int8_t first = signs[0] != 0 ? signs[0] : signs[1] != 0 ? signs[1] : signs[2];
    for (int8_t& sign : signs) sign = int8_t(sign * first);
    return signs;
}

Side PlaneTable::side_anyhow(const Corner& corner, const Entry& e) const {
    const double px = e.normal.x * corner.at.x, py = e.normal.y * corner.at.y, pz = e.normal.z * corner.at.z;
    const double s = px + py + pz + e.d;
    const double size = std::abs(px) + std::abs(py) + std::abs(pz) + std::abs(e.d);
    // Each term carries a rounding of its coefficient and of its product, and three sums follow: 6 u < 8 u.
    const double bound = e.size * double(corner.error) * 1.001 + size * (8 * 0x1p-53);
    if (s > bound) return Side::front;
    if (s < -bound) return Side::back;

    const auto& [a, b, c] = corner.planes;
    const BigPoint p = meet_exactly(planes_[a].plane, planes_[b].plane, planes_[c].plane);
    const Big value =
        Big(e.plane.nx) * p.x + Big(e.plane.ny) * p.y + Big(e.plane.nz) * p.z + Big(e.plane.d) * p.w;
    const int sign = value.sign() * p.w.sign();
    return static_cast<Side>(sign);
}

bool PlaneTable::same(const Corner& a, const Corner& b) const {
    const double apart = double(a.error) + double(b.error);
    for (int axis = 0; axis < 3; ++axis)
        if (std::abs(a.at[axis] - b.at[axis]) > apart) return false;
    if (a.exact == 7 && b.exact == 7) return true;
    return side(a, b.planes[0]) == Side::on && side(a, b.planes[1]) == Side::on &&
           side(a, b.planes[2]) == Side::on;
}

TickPoint PlaneTable::rounded_anyhow(const Corner& corner) const {
    std::array<int64_t, 3> out{};
    for (int axis = 0; axis < 3; ++axis) {
        const double value = corner.at[axis];
        const double floor_half = std::floor(value + 0.5);
        const double to_boundary = 0.5 - std::abs(value - floor_half);
        if ((corner.exact & (1 << axis)) || to_boundary > corner.error) {
            out[axis] = int64_t(floor_half);
            continue;
        }
        const auto& [a, b, c] = corner.planes;
        const BigPoint p = meet_exactly(planes_[a].plane, planes_[b].plane, planes_[c].plane);
        out[axis] = round_fraction(axis == 0 ? p.x : axis == 1 ? p.y : p.z, p.w);
    }
    return {out[0], out[1], out[2]};
}

} // namespace rubble::geometry
