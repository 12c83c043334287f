#include "motion/sweep.h"

#include <cmath>

#include "base/tolerance.h"

namespace rubble::motion {

namespace {

constexpr double k_touch = tolerance::skin_m;
/// A body deeper in matter than this began there (metres).
constexpr double k_inside = 1e-4;
/// Contacts are found to this (metres).
constexpr double k_closest = 1e-11;

/// When the heights of the body and of the column overlap, as parts of the way.
struct Interval {
    double enter, leave;
};
std::optional<Interval> height_passage(double z, double rise, double low, double high) {
    if (rise == 0) {
        if (z <= low || z >= high) return {};
        return Interval{-std::numeric_limits<double>::infinity(), std::numeric_limits<double>::infinity()};
    }
    const double a = (low - z) / rise, b = (high - z) / rise;
    return Interval{std::min(a, b), std::max(a, b)};
}

/// Outward direction in which a column's sloping top holds up a disc that feels it most at `q`. What a column
/// keeps the middle of the disc out of is convex (the column grown by the disc), and this is its normal, so
/// that sliding along it never leads in: level where the disc rests on its inside, else where the top's own
/// normal, turned by the face of the edge that `q` lies on, looks to the middle of the disc.
Vec3 normal_at(const Column& column, const HeightPlane& top, Vec2 centre, double r, Vec2 q) {
    const Vec2 out = q - centre;
    const double away = glm::length(out);
    bool on_edge = false;
    for (size_t i = 0; i < column.area.size(); ++i) {
        const Vec2 a = column.area[i], along = column.area[(i + 1) % column.area.size()] - a;
        const double length = glm::length(along);
        if (length == 0 || std::abs(cross(along, q - a)) > tolerance::on_rim_m * length) continue;
        on_edge = true;
        if (away < r - tolerance::on_rim_m) break;
        const Vec2 m = -left_of(along / length), d = out / away;
        const double turn = cross(m, d);
        if (std::abs(turn) < tolerance::same_number) return raised(m, 0);
        const double part = cross(top.slope, d) / turn;
        const Vec2 n = m * part - top.slope;
        if (part >= -tolerance::same_number && glm::dot(n, d) <= tolerance::same_number)
            return glm::normalize(raised(n, 1));
    }
    if (on_edge && away < r - tolerance::on_rim_m) return {0, 0, 1};
    return glm::normalize(raised(-top.slope, 1));
}

/// The same where it holds down by its bottom.
Vec3 normal_below(const Column& column, Vec2 centre, double r, Vec2 q) {
    const Vec3 n = normal_at(column, {-column.bottom.slope, 0}, centre, r, q);
    return {n.x, n.y, -n.z};
}

/// A body that is a little in matter, as rounding and many slides may bring it, goes no deeper: the shortest
/// way out. Nothing where it is free, or so deep that it began there and may leave.
std::optional<Contact> way_out(const Column& column, const Body& body) {
    constexpr double k_deepest_m = 0.05;
    const double r = body.radius - k_touch;
    const auto range = column.over_disc(flat(body.at), r);
    if (!range) return {};
    const double up = range->high - body.at.z, down = body.at.z + body.height - range->low;
    const auto beside = column.between(body.at.z, body.at.z + body.height);
    const Vec2 near = beside.empty() ? flat(body.at) : geometry::nearest(beside, flat(body.at));
    const Vec2 out = flat(body.at) - near;
    const double apart = glm::length(out), aside = beside.empty() || apart == 0 ? 1e9 : r - apart;
    const double least = std::min({up, down, aside});
    if (least <= k_touch || least > k_deepest_m) return {};
    Contact contact;
    contact.part = 0;
    contact.height = range->high;
    if (least == aside) {
        contact.normal = raised(out / apart, 0);
    } else {
        contact.kind = least == up ? Contact::Kind::top : Contact::Kind::bottom;
        contact.normal = least == up ? normal_at(column, column.top, flat(body.at), r, range->high_at)
                                     : normal_below(column, flat(body.at), r, range->low_at);
    }
    return contact;
}

std::optional<Contact> level_contact(const Column& column, const Body& body, const Vec3& way,
                                     const geometry::DiscPassage& beside) {
    const auto heights =
        height_passage(body.at.z, way.z, column.bottom.c - body.height + k_touch, column.top.c - k_touch);
    if (!heights) return {};
    const double enter = std::max(beside.enter, heights->enter),
                 leave = std::min(beside.leave, heights->leave);
    if (enter >= leave || leave <= 0 || enter >= 1) return {};
    Contact contact;
    contact.part = std::max(enter, 0.0);
    contact.height = column.top.c;
    if (heights->enter > beside.enter) {
        contact.kind = way.z < 0 ? Contact::Kind::top : Contact::Kind::bottom;
        contact.normal = {0, 0, way.z < 0 ? 1 : -1};
    } else {
        contact.normal = raised(beside.normal, 0);
    }
    if (enter < 0 && -enter * glm::length(way) > k_inside) return way_out(column, body);
    return contact;
}

std::optional<Contact> sloped_contact(const Column& column, const Body& body, const Vec3& way,
                                      const geometry::DiscPassage& beside) {
    const double r = body.radius - k_touch;
    const double begin = std::max(beside.enter, 0.0), end = std::min(beside.leave, 1.0);
    if (begin >= end) return {};
    // A straight look first: the plane of the top, as high as the disc can feel it, stays below the whole
    // way.
    const Vec3 first_at = body.at + way * begin, last_at = body.at + way * end;
    auto under_feet = [&](const Vec3& p) {
        return p.z >= std::min(column.high, column.top.at(flat(p)) + body.radius * column.steep);
    };
    if (under_feet(first_at) && under_feet(last_at)) return {};
    // Above 0: free, by height over the top or under the bottom; convex along the way.
    bool by_top = false;
    double top_height = 0;
    auto clearance = [&](double t) {
        const Vec3 p = body.at + way * t;
        const auto range = column.over_disc(flat(p), r);
        if (!range) return std::numeric_limits<double>::infinity();
        const double over = p.z - range->high, under = range->low - (p.z + body.height);
        by_top = over >= under;
        top_height = range->high;
        return std::max(over, under) + k_touch;
    };
    const double inner_begin = begin + (end - begin) * 1e-9, inner_end = end - (end - begin) * 1e-9;
    double free_at = inner_begin, inside_at = inner_begin;
    const double first = clearance(inner_begin);
    // Entered from the side now, or, up to rounding, just before.
    bool sideways = first < -k_touch && -beside.enter * glm::length(flat(way)) <= k_inside;
    if (first >= 0) {
        double a = inner_begin, b = inner_end;
        double value = clearance(b);
        inside_at = b;
        if (value >= 0) {
            // Convex: one that does not fall at its begin, or does not rise at its end, is least there.
            const double near = (b - a) * 1e-6;
            if (clearance(a + near) >= first || clearance(b - near) >= value) return {};
        }
        for (int i = 0; i < 24 && value >= 0; ++i) {
            const double m1 = a + (b - a) / 3, m2 = b - (b - a) / 3;
            const double v1 = clearance(m1), v2 = clearance(m2);
            if (v1 < v2)
                b = m2;
            else
                a = m1;
            value = std::min(v1, v2), inside_at = v1 < v2 ? m1 : m2;
        }
        if (value >= 0) return {};
        const double length = glm::length(way);
        double free_value = clearance(free_at), inside_value = clearance(inside_at);
        // False position, the end that stays counting half (Illinois); halving where that cannot tell.
        for (int i = 0, last = 0; i < 34 && (inside_at - free_at) * length > k_closest; ++i) {
            double t = (free_at + inside_at) / 2;
            if (free_value < 1)
                t = free_at + (inside_at - free_at) * free_value / (free_value - inside_value);
            const double v = clearance(t);
            if (v >= 0) {
                if (last > 0) inside_value /= 2;
                free_at = t, free_value = v, last = 1;
                if (v < k_closest) {
                    inside_at = free_at;
                    break;
                }
            } else {
                if (last < 0) free_value /= 2;
                inside_at = t, inside_value = v, last = -1;
            }
        }
        // Inside at once where the area begins, though rounding left it just out of reach: from the side.
        sideways = clearance(inside_at) < -k_inside;
    } else if (!sideways) {
        // Overlapping from the start: rounding at a contact, or a body that began inside.
        if (first < -k_inside) return way_out(column, body);
    }
    Contact contact;
    clearance(inside_at);
    contact.part = free_at <= inner_begin ? begin : free_at;
    contact.height = top_height;
    if (sideways) {
        contact.normal = raised(beside.normal, 0);
        return contact;
    }
    contact.kind = by_top ? Contact::Kind::top : Contact::Kind::bottom;
    const Vec2 centre = flat(body.at + way * inside_at);
    if (const auto felt = column.over_disc(centre, r))
        contact.normal = by_top ? normal_at(column, column.top, centre, r, felt->high_at)
                                : normal_below(column, centre, r, felt->low_at);
    if (by_top) {
        const auto range = column.over_disc(flat(body.at + way * contact.part), r);
        if (range) contact.height = range->high;
    }
    return contact;
}

/// Whether what lets pass from below holds up a body that meets it: one whose feet were not below its top.
bool held_from_above(const Column& column, const Body& body, const Contact& contact) {
    if (contact.kind != Contact::Kind::top) return false;
    const auto felt = column.over_disc(flat(body.at), body.radius - k_touch);
    return !felt || felt->high <= body.at.z + k_inside;
}

} // namespace

std::optional<Contact> first_contact(const World& world, const Body& body, const Vec3& way) {
    const double length = glm::length(way);
    if (length < 1e-14) return {};
    std::optional<Contact> first;
    Box2 swept;
    swept.add(flat(body.at)), swept.add(flat(body.at + way));
    swept = swept.grown(body.radius);
    const double low = std::min(body.at.z, body.at.z + way.z),
                 high = std::max(body.at.z, body.at.z + way.z) + body.height;
    world.for_near(swept, [&](int i) {
        const Column& column = world.columns()[size_t(i)];
        if (column.high <= low || column.low >= high) return;
        const auto beside =
            geometry::disc_passage(column.area, flat(body.at), flat(way), body.radius - k_touch);
        if (!beside || beside->leave <= 0 || beside->enter >= 1) return;
        auto contact = column.simple() ? level_contact(column, body, way, *beside)
                                       : sloped_contact(column, body, way, *beside);
        if (!contact || glm::dot(way, contact->normal) > -1e-9 * length) return;
        if (column.one_way() && !held_from_above(column, body, *contact)) return;
        contact->column = i;
        if (!first || contact->part < first->part) first = contact;
    });
    return first;
}

} // namespace rubble::motion
