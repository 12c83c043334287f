#include "edit/massing.h"

#include <algorithm>
#include <climits>
#include <cmath>
#include <deque>

namespace rubble::edit {

namespace {

using Square = std::array<int, 2>;

/// The grid seen along one axis: cells by a square and by how far out they lie.
struct Outlook {
    int axis, way;

    std::array<int, 3> cell(const Square& square, int out) const {
        std::array<int, 3> c{};
        c[size_t(axis)] = way > 0 ? out : -1 - out;
        c[size_t((axis + 1) % 3)] = square[0], c[size_t((axis + 2) % 3)] = square[1];
        return c;
    }
    /// How far out a grid line lies, and the line.
    int out_of(int line) const { return way * line; }
    int line_of(int out) const { return way * out; }

    template <class Grid> Cell at(const Grid& grid, const Square& square, int out) const {
        const auto c = cell(square, out);
        return grid.at(c[0], c[1], c[2]);
    }
    int along(const CellPlane& plane) const { return part(plane, axis); }
    static int part(const CellPlane& plane, int axis) {
        return axis == 0 ? plane.a : axis == 1 ? plane.b : plane.c;
    }
    /// Whether a plane ends matter outward.
    bool faces_out(const CellPlane& plane) const { return along(plane) * way > 0; }
    /// How far out such a plane lies over a corner of a square.
    double height(const CellPlane& plane, int u, int v) const {
        const double over = double(plane.d) - double(part(plane, (axis + 1) % 3)) * u -
                            double(part(plane, (axis + 2) % 3)) * v;
        return over / std::abs(along(plane));
    }
    CellPlane flat(int out) const {
        CellPlane plane;
        (axis == 0 ? plane.a : axis == 1 ? plane.b : plane.c) = way;
        plane.d = out;
        return plane;
    }
};

/// A whole number for each place over the squares: (u·along_u + v·along_v + fixed) / below.
struct Rise {
    int64_t along_u = 0, along_v = 0, fixed = 0, below = 1;
    double at(int u, int v) const { return double(along_u * u + along_v * v + fixed) / double(below); }
};

std::optional<CellPlane> plus(const CellPlane& plane, const Rise& rise, const Outlook& look) {
    const int64_t k = std::abs(look.along(plane));
    std::array<int64_t, 3> n{plane.a, plane.b, plane.c};
    for (int64_t& part : n) part *= rise.below;
    n[size_t((look.axis + 1) % 3)] -= k * rise.along_u;
    n[size_t((look.axis + 2) % 3)] -= k * rise.along_v;
    return in_lowest_terms(n[0], n[1], n[2], plane.d * rise.below + k * rise.fixed);
}

/// What ends the matter over one square.
struct Surface {
    std::vector<CellPlane> planes; ///< the lowest counts, or the highest
    bool highest = false;
    std::vector<CellPlane> others; ///< that cut the same cells, but do not face outward
    int low = 0, high = 0;         ///< cells that any of them cuts lie between, counted outward
};

/// The cells between which a surface was read end it too: planes that lie in their grid lines cut no cell and
/// are not stored. False where they do so above and below.
bool bound_by_lines(Surface& surface, const Outlook& look, const Square& square) {
    bool capped = false, floored = false;
    constexpr double k_same = 1e-9;
    for (int i = 0; i < 4; ++i) {
        double height = surface.highest ? -1e18 : 1e18;
        for (const CellPlane& plane : surface.planes) {
            const double h = look.height(plane, square[0] + (i & 1), square[1] + (i >> 1));
            height = surface.highest ? std::max(height, h) : std::min(height, h);
        }
        capped |= height > surface.high + k_same, floored |= height < surface.low - k_same;
    }
    if (!capped && !floored) return true;
    if ((capped && floored) || (surface.planes.size() > 1 && surface.highest != floored)) return false;
    surface.planes.push_back(look.flat(capped ? surface.high : surface.low));
    surface.highest = floored;
    return true;
}

/// Nothing where several folds meet in one cell.
template <class Grid>
std::optional<Surface> surface_of(const Grid& grid, const Outlook& look, const Square& square, int line) {
    Surface surface;
    surface.high = surface.low = look.out_of(line);
    for (;; --surface.low) {
        const Cell cell = look.at(grid, square, surface.low - 1);
        if (!cell.form) break;
        bool ends = false;
        for (const CellPlane& plane : cell.form->planes) {
            const bool out = look.faces_out(plane);
            ends |= out;
            auto& list = out ? surface.planes : surface.others;
            if (std::find(list.begin(), list.end(), plane) == list.end()) list.push_back(plane);
        }
        if (!ends) break; // a steep face of another side, far below this one
        surface.highest |= cell.form->either;
    }
    if (surface.planes.empty()) surface.planes = {look.flat(look.out_of(line))};
    if (!bound_by_lines(surface, look, square)) return {};
    if (surface.highest && !surface.others.empty()) return {};
    return surface;
}

/// Of planes the lowest (or highest) of which counts, those that count anywhere; of three on one fold the
/// middle one does not.
void drop_hidden(std::vector<CellPlane>& planes, bool highest, const Outlook& look, const Square& square) {
    const auto heights = [&](const CellPlane& plane) {
        std::array<double, 4> out{};
        for (int i = 0; i < 4; ++i)
            out[size_t(i)] = look.height(plane, square[0] + (i & 1), square[1] + (i >> 1));
        return out;
    };
    constexpr double k_same = 1e-9; // cells; heights are fractions with small denominators
    const auto is_hidden = [&](size_t p) {
        const auto own = heights(planes[p]);
        for (size_t i = 0; i < planes.size(); ++i) {
            if (i == p) continue;
            const auto one = heights(planes[i]);
            bool under = true; // never counts beside this one
            for (size_t c = 0; c < 4; ++c)
                under &= highest ? own[c] <= one[c] + k_same : own[c] >= one[c] - k_same;
            if (under && !(planes[i] == planes[p] && i > p)) return true;
            for (size_t k = i + 1; k < planes.size(); ++k) {
                if (k == p) continue;
                const auto other = heights(planes[k]);
                double part = -1;
                bool between = true;
                for (size_t c = 0; c < 4; ++c) {
                    const double way = other[c] - one[c], gone = own[c] - one[c];
                    if (std::abs(way) < k_same) {
                        between &= std::abs(gone) < k_same;
                    } else {
                        if (part < 0) part = gone / way;
                        between &= std::abs(gone - part * way) < k_same;
                    }
                }
                if (between && part >= 0 && part <= 1) return true;
            }
        }
        return false;
    };
    for (size_t p = planes.size(); p-- > 0;)
        if (planes.size() > 1 && is_hidden(p)) planes.erase(planes.begin() + long(p));
}

constexpr size_t k_most_planes = 4;

/// Ends a square's matter in another surface; gives the grid line over which it ends then, nothing where
/// that surface cannot be.
std::optional<int> end_in(MassEditor& grid, const Outlook& look, const Square& square, const Surface& before,
                          std::vector<CellPlane> planes, bool highest) {
    drop_hidden(planes, highest, look, square);
    if (planes.size() + before.others.size() > k_most_planes) return {};
    if (planes.size() == 1) highest = false;
    if (highest && !before.others.empty()) return {};
    double lowest = 1e18, topmost = -1e18;
    for (const CellPlane& plane : planes)
        for (int i = 0; i < 4; ++i) {
            const double h = look.height(plane, square[0] + (i & 1), square[1] + (i >> 1));
            lowest = std::min(lowest, h), topmost = std::max(topmost, h);
        }
    if (lowest < -farthest_cell || topmost > farthest_cell) return {};
    constexpr double k_whole = 1e-9;
    const int low = std::min(before.low, int(std::floor(lowest + k_whole))),
              high = std::max(before.high, int(std::ceil(topmost - k_whole)));
    CellForm form{planes, highest};
    form.planes.insert(form.planes.end(), before.others.begin(), before.others.end());
    int end = INT_MIN;
    for (int out = low; out < high; ++out) {
        const auto c = look.cell(square, out);
        const Cell was = grid.at(c[0], c[1], c[2]);
        const bool within = out < before.high;
        if (within && !was.matter) continue; // a hollow stays one
        if (!within && was.is_full()) continue;
        CellForm own = form;
        if (out < before.low && was.form) { // another slope further in
            if (own.either || was.form->either) return {};
            own.planes.insert(own.planes.end(), was.form->planes.begin(), was.form->planes.end());
        }
        const Cell now = cell_of(own, c[0], c[1], c[2]);
        if (now.form && now.form->planes.size() > k_most_planes) return {};
        if (!(now == was)) grid.set(c[0], c[1], c[2], now);
        if (now.matter) end = out + 1;
    }
    if (end == INT_MIN) // all of the written cells went, or nothing changed
        end = std::min(before.high, int(std::ceil(topmost - k_whole)));
    return look.line_of(end);
}

Massed refused(const MassGrid& grid, const MassArea& area) { return {false, grid, area}; }

/// Every square of an area with another surface: `change` takes the planes over a square and whether the
/// highest counts, and changes both, or says that it cannot.
template <class Change> Massed with_surfaces(const MassGrid& grid, const MassArea& area, Change change) {
    const Outlook look{area.axis, area.way};
    MassEditor editor(grid);
    MassArea after = area;
    for (auto& [square, line] : after.levels) {
        auto surface = surface_of(editor, look, square, line);
        if (!surface) return refused(grid, area);
        std::vector<CellPlane> planes = surface->planes;
        bool highest = surface->highest;
        if (!change(look, square, planes, highest)) return refused(grid, area);
        const auto end = end_in(editor, look, square, *surface, std::move(planes), highest);
        if (!end) return refused(grid, area);
        line = *end;
    }
    return {true, editor.finished(), std::move(after)};
}

bool add(std::vector<CellPlane>& planes, const Rise& rise, const Outlook& look) {
    for (CellPlane& plane : planes) {
        const auto moved = plus(plane, rise, look);
        if (!moved) return false;
        plane = *moved;
    }
    return true;
}

/// From 0 on the low side of the bounds to `by` on the high one along an axis, or the other way round.
Rise rise_along(const AreaBounds& bounds, size_t i, int to, int by) {
    Rise rise;
    rise.below = bounds.width(i);
    (i == 0 ? rise.along_u : rise.along_v) = to > 0 ? by : -by;
    rise.fixed = to > 0 ? -int64_t(by) * bounds.low[i] : int64_t(by) * bounds.high[i];
    return rise;
}

/// The line over which a square's matter ends nearest to a line; of two as near the one further out.
std::optional<int> end_near(const MassGrid& grid, const Outlook& look, const Square& square, int line,
                            const CellBox& extent) {
    const auto axis = size_t(look.axis);
    const int lowest = look.way > 0 ? extent.low[axis] : -extent.high[axis],
              highest = look.way > 0 ? extent.high[axis] : -extent.low[axis];
    const auto ends = [&](int out) {
        return look.at(grid, square, out - 1).matter && !look.at(grid, square, out).matter;
    };
    const int from = look.out_of(line);
    const int farthest = std::max(std::abs(highest - from), std::abs(lowest - from)) + 1;
    for (int step = 0; step <= farthest; ++step) {
        if (from + step <= highest && ends(from + step)) return look.line_of(from + step);
        if (from - step >= lowest && ends(from - step)) return look.line_of(from - step);
    }
    return {};
}

} // namespace

AreaBounds bounds_of(const MassArea& area) {
    if (area.levels.empty()) return {};
    AreaBounds out{{INT_MAX, INT_MAX}, {INT_MIN, INT_MIN}};
    for (const auto& [square, line] : area.levels)
        for (size_t i = 0; i < 2; ++i) {
            out.low[i] = std::min(out.low[i], square[i]);
            out.high[i] = std::max(out.high[i], square[i] + 1);
        }
    return out;
}

MassArea refreshed(const MassGrid& grid, const MassArea& area) {
    MassArea out = area;
    const Outlook look{area.axis, area.way};
    const CellBox extent = grid.extent();
    for (auto& [square, line] : out.levels) line = end_near(grid, look, square, line, extent).value_or(line);
    return out;
}

std::array<Vec3, 4> surface_corners(const MassGrid& grid, const MassArea& area, Square square) {
    const Outlook look{area.axis, area.way};
    const auto found = area.levels.find(square);
    const int line = found == area.levels.end() ? 0 : found->second;
    const auto surface = surface_of(grid, look, square, line);
    std::array<Vec3, 4> out;
    for (int i = 0; i < 4; ++i) {
        const int u = square[0] + (i & 1), v = square[1] + (i >> 1);
        double height = look.out_of(line);
        if (surface) {
            height = look.height(surface->planes[0], u, v);
            for (const CellPlane& plane : surface->planes)
                height = surface->highest ? std::max(height, look.height(plane, u, v))
                                          : std::min(height, look.height(plane, u, v));
        }
        Vec3& p = out[size_t(i)];
        p[look.axis] = look.way * height;
        p[(look.axis + 1) % 3] = u, p[(look.axis + 2) % 3] = v;
    }
    return out;
}

MassArea area_between(const MassGrid& grid, int axis, int way, Square a, Square b, int line, bool bare) {
    MassArea area{axis, way, {}};
    const Outlook look{axis, way};
    const CellBox extent = grid.extent();
    for (int u = std::min(a[0], b[0]); u <= std::max(a[0], b[0]); ++u)
        for (int v = std::min(a[1], b[1]); v <= std::max(a[1], b[1]); ++v) {
            const auto end = end_near(grid, look, {u, v}, line, extent);
            if (end || bare) area.levels[{u, v}] = end.value_or(line);
        }
    return area;
}

MassArea area_alike(const MassGrid& grid, int axis, int way, Square square, int line) {
    MassArea area{axis, way, {}};
    const Outlook look{axis, way};
    const CellBox extent = grid.extent();
    const auto surface_at = [&](const Square& at, int near) -> std::optional<std::pair<int, CellPlane>> {
        const auto end = end_near(grid, look, at, near, extent);
        if (!end) return {};
        const auto surface = surface_of(grid, look, at, *end);
        if (!surface || surface->planes.size() != 1) return {};
        return std::pair(*end, surface->planes[0]);
    };
    const auto first = surface_at(square, line);
    if (!first) return area;
    std::deque<Square> open{square};
    area.levels[square] = first->first;
    while (!open.empty()) {
        const Square at = open.front();
        open.pop_front();
        for (const Square& step : {Square{1, 0}, Square{-1, 0}, Square{0, 1}, Square{0, -1}}) {
            const Square next{at[0] + step[0], at[1] + step[1]};
            if (area.levels.count(next)) continue;
            const auto there = surface_at(next, area.levels.at(at));
            if (!there || !(there->second == first->second)) continue;
            area.levels[next] = there->first;
            open.push_back(next);
        }
    }
    return area;
}

MassArea joined(MassArea a, const MassArea& b) {
    if (a.levels.empty()) return b;
    if (a.axis == b.axis && a.way == b.way) a.levels.insert(b.levels.begin(), b.levels.end());
    return a;
}

Massed raised(const MassGrid& grid, const MassArea& area, int by) {
    if (by == 0 || area.levels.empty()) return refused(grid, area);
    return with_surfaces(grid, area, [&](const Outlook& look, const Square&, auto& planes, bool&) {
        return add(planes, Rise{0, 0, by, 1}, look);
    });
}

Massed tilted(const MassGrid& grid, const MassArea& area, const AreaEdge& edge, int by) {
    if (by == 0 || area.levels.empty() || edge == AreaEdge{}) return refused(grid, area);
    const AreaBounds bounds = bounds_of(area);
    if (edge.u == 0 || edge.v == 0) {
        const Rise rise = edge.u != 0 ? rise_along(bounds, 0, edge.u, by) : rise_along(bounds, 1, edge.v, by);
        return with_surfaces(grid, area, [&](const Outlook& look, const Square&, auto& planes, bool&) {
            return add(planes, rise, look);
        });
    }
    // Up to the diagonal that does not meet the corner nothing changes; from there it rises to the corner.
    const Rise u = rise_along(bounds, 0, edge.u, by), v = rise_along(bounds, 1, edge.v, by);
    const Rise rise{u.along_u * v.below, v.along_v * u.below,
                    u.fixed * v.below + v.fixed * u.below - by * u.below * v.below, u.below * v.below};
    return with_surfaces(grid, area, [&](const Outlook& look, const Square& at, auto& planes, bool& highest) {
        bool up = false, down = false; // on which sides of the diagonal the square lies
        for (int i = 0; i < 4; ++i) {
            const double r = rise.at(at[0] + (i & 1), at[1] + (i >> 1)) * (by > 0 ? 1 : -1);
            up |= r > 1e-9, down |= r < -1e-9;
        }
        if (!up) return true;
        if (!down) return add(planes, rise, look);
        if (planes.size() > 1 && highest != (by > 0)) return false;
        std::vector<CellPlane> lifted = planes;
        if (!add(lifted, rise, look)) return false;
        planes.insert(planes.end(), lifted.begin(), lifted.end());
        highest = by > 0;
        return true;
    });
}

Massed smoothed(const MassGrid& grid, const MassArea& area) {
    const AreaBounds bounds = bounds_of(area);
    if (area.levels.empty() || area.levels.size() != size_t(bounds.width(0)) * size_t(bounds.width(1)))
        return refused(grid, area);
    const Outlook look{area.axis, area.way};
    for (const size_t along : {size_t(0), size_t(1)}) {
        std::vector<int> rows;
        bool even = true;
        for (int i = bounds.low[along]; i < bounds.high[along]; ++i)
            for (int k = bounds.low[1 - along]; k < bounds.high[1 - along]; ++k) {
                Square square{};
                square[along] = i, square[1 - along] = k;
                const int out = look.out_of(area.levels.at(square));
                if (k == bounds.low[1 - along])
                    rows.push_back(out);
                else
                    even &= rows.back() == out;
            }
        const bool up = std::is_sorted(rows.begin(), rows.end()),
                   down = std::is_sorted(rows.rbegin(), rows.rend());
        if (!even || rows.front() == rows.back() || !(up || down)) continue;
        const int low = std::min(rows.front(), rows.back()), by = std::abs(rows.back() - rows.front());
        const auto slope = plus(look.flat(low), rise_along(bounds, along, up ? 1 : -1, by), look);
        if (!slope) return refused(grid, area);
        return with_surfaces(grid, area, [&](const Outlook&, const Square&, auto& planes, bool& highest) {
            planes = {*slope}, highest = false;
            return true;
        });
    }
    return refused(grid, area);
}

Massed dug_through(const MassGrid& grid, const MassArea& area) {
    const Outlook look{area.axis, area.way};
    MassEditor editor(grid);
    MassArea after = area;
    bool any = false;
    for (auto& [square, line] : after.levels) {
        int out = look.out_of(line);
        for (; look.at(editor, square, out - 1).matter; --out) {
            const auto c = look.cell(square, out - 1);
            editor.set(c[0], c[1], c[2], {});
            any = true;
        }
        line = look.line_of(out);
    }
    if (!any) return refused(grid, area);
    return {true, editor.finished(), std::move(after)};
}

} // namespace rubble::edit
