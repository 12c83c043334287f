#include <algorithm>
#include <cmath>

#include "edit/body.h"
#include "edit/massing.h"
#include "level/brush_shape.h"
#include "level/mass_body.h"
#include "level/mass_columns.h"

namespace rubble::edit {

namespace {

int half_of(int place) { return place >= 0 ? place / 2 : -((1 - place) / 2); }

/// Whether a cell cut by `form` in cells twice as large has the same eighths as the mass.
bool agrees(const CellForm& coarse, const MassEditor& fine, const std::array<int, 3>& cell) {
    const auto halved =
        with_planes(coarse, [](const CellPlane& p) { return in_lowest_terms(p.a, p.b, p.c, 2 * p.d); });
    if (!halved) return false;
    for (int i = 0; i < 8; ++i) {
        const int x = 2 * cell[0] + (i & 1), y = 2 * cell[1] + (i >> 1 & 1), z = 2 * cell[2] + (i >> 2);
        if (!(cell_of(*halved, x, y, z) == fine.at(x, y, z))) return false;
    }
    return true;
}

/// The planes that cut cells from `low` up to below `high`, in cells twice as large.
std::vector<CellPlane> planes_in(const MassEditor& fine, const std::array<int, 3>& low,
                                 const std::array<int, 3>& high) {
    std::vector<CellPlane> planes;
    for (int z = low[2]; z < high[2]; ++z)
        for (int y = low[1]; y < high[1]; ++y)
            for (int x = low[0]; x < high[0]; ++x) {
                const Cell cell = fine.at(x, y, z);
                if (!cell.form) continue;
                for (const CellPlane& p : cell.form->planes)
                    if (const auto doubled = in_lowest_terms(2 * p.a, 2 * p.b, 2 * p.c, p.d);
                        doubled && std::find(planes.begin(), planes.end(), *doubled) == planes.end())
                        planes.push_back(*doubled);
            }
    std::sort(planes.begin(), planes.end());
    return planes;
}

/// The form of a cell twice as large that has the same eighths, if there is one.
std::optional<CellForm> common_form(const MassEditor& fine, const std::array<int, 3>& cell) {
    const std::array<int, 3> low{2 * cell[0], 2 * cell[1], 2 * cell[2]};
    const std::vector<CellPlane> own = planes_in(fine, low, {low[0] + 2, low[1] + 2, low[2] + 2});
    const auto fitting = [&](const std::vector<CellPlane>& planes) -> std::optional<CellForm> {
        // Eighths that have one plane each do not tell whether either counts.
        for (const bool either : {false, true})
            if (const CellForm form{planes, either}; agrees(form, fine, cell)) return form;
        return {};
    };
    if (auto form = fitting(own)) return form;
    // Planes between the eighths cut none of them; one that only cut eighths which another emptied is known
    // from beside.
    std::vector<CellPlane> others;
    for (const int way : {1, -1}) {
        others.push_back({2 * way, 0, 0, way * (low[0] + 1)});
        others.push_back({0, 2 * way, 0, way * (low[1] + 1)});
        others.push_back({0, 0, 2 * way, way * (low[2] + 1)});
    }
    for (const CellPlane& beside :
         planes_in(fine, {low[0] - 2, low[1] - 2, low[2] - 2}, {low[0] + 4, low[1] + 4, low[2] + 4}))
        others.push_back(beside);
    for (const CellPlane& other : others) {
        if (std::find(own.begin(), own.end(), other) != own.end()) continue;
        std::vector<CellPlane> more = own;
        more.push_back(other);
        if (auto form = fitting(more)) return form;
    }
    return {};
}

} // namespace

std::optional<MassGrid> refined(const MassGrid& grid) {
    const CellBox extent = grid.extent();
    for (size_t i = 0; i < 3; ++i)
        if (extent.low[i] < -farthest_cell / 2 || extent.high[i] > farthest_cell / 2) return {};
    if (grid.cell_m / 2 < least_cell_m) return {};
    MassEditor out(MassGrid{grid.cell_m / 2, {}});
    bool possible = true;
    for_each_column(grid, [&](int x, int y, const CellColumn& column) {
        for (const CellRun& run : column) {
            std::optional<CellForm> form;
            if (run.cell.form) {
                form = with_planes(*run.cell.form, [](const CellPlane& p) {
                    return in_lowest_terms(p.a, p.b, p.c, 2 * p.d);
                });
                possible &= form.has_value();
            }
            for (int i = 0; i < 4; ++i) {
                const int fx = 2 * x + (i & 1), fy = 2 * y + (i >> 1);
                if (!run.cell.form)
                    out.set(fx, fy, 2 * run.low, 2 * run.high, Cell::full());
                else if (form)
                    for (int z = 2 * run.low; z < 2 * run.high; ++z)
                        out.set(fx, fy, z, cell_of(*form, fx, fy, z));
            }
        }
    });
    if (!possible) return {};
    return out.finished();
}

std::optional<Coarsened> coarsened(const MassGrid& grid) {
    if (grid.cell_m * 2 > most_cell_m) return {};
    const MassEditor fine(grid);
    MassEditor out(MassGrid{grid.cell_m * 2, {}});
    Coarsened result;
    const auto visit = [&](int x, int y) {
        std::vector<int> heights; // of coarse cells that hold anything
        for (int i = 0; i < 4; ++i)
            for (const CellRun& run : fine.column(2 * x + (i & 1), 2 * y + (i >> 1)))
                for (int z = half_of(run.low); z <= half_of(run.high - 1); ++z) heights.push_back(z);
        std::sort(heights.begin(), heights.end());
        heights.erase(std::unique(heights.begin(), heights.end()), heights.end());
        for (const int z : heights) {
            int matter = 0, full = 0;
            for (int i = 0; i < 8; ++i) {
                const Cell eighth = fine.at(2 * x + (i & 1), 2 * y + (i >> 1 & 1), 2 * z + (i >> 2));
                matter += eighth.matter, full += eighth.is_full();
            }
            ++result.cells;
            if (full == 8) {
                out.set(x, y, z, Cell::full());
                continue;
            }
            if (const auto form = common_form(fine, {x, y, z})) {
                out.set(x, y, z, cell_of(*form, x, y, z));
                continue;
            }
            const bool fills = matter >= 4;
            if (fills) out.set(x, y, z, Cell::full());
            result.changed += fills ? 8 - full : matter;
        }
    };
    // Pairs of columns share a coarse one: each is visited by the first of its four that has matter.
    for_each_column(grid, [&](int x, int y, const CellColumn&) {
        const int cx = half_of(x), cy = half_of(y);
        for (int i = 0; i < 4; ++i) {
            const int fx = 2 * cx + (i & 1), fy = 2 * cy + (i >> 1);
            if (fine.column(fx, fy).empty()) continue;
            if (fx == x && fy == y) visit(cx, cy);
            break;
        }
    });
    result.grid = out.finished();
    return result;
}

std::vector<Brush> brushes_of(const Brush& mass) {
    std::vector<Brush> out;
    const double cell = mass.cells.cell_m;
    for (const MassPart& part : parts_of(mass.cells)) {
        Brush brush = mass;
        brush.cells = {};
        const auto at = [&](const std::array<int, 3>& c) { return Vec3(c[0], c[1], c[2]) * cell; };
        const Vec3 low = at(part.box.low), high = at(part.box.high);
        if (part.planes.empty()) {
            brush.shape = Shape::box;
            brush.size = high - low;
            brush.place.at = mass.place.to_level({(low.x + high.x) / 2, (low.y + high.y) / 2, low.z});
            out.push_back(std::move(brush));
            continue;
        }
        FaceMesh mesh = shapes::mass_part(part, cell);
        if (mesh.faces.empty()) continue;
        // About the middle of its base, as other brushes are.
        const Vec3 middle((low.x + high.x) / 2, (low.y + high.y) / 2, low.z);
        for (Vec3& p : mesh.points) p -= middle;
        brush.shape = Shape::body;
        brush.place.at = mass.place.to_level(middle);
        out.push_back(with_mesh(std::move(brush), std::move(mesh)));
    }
    return out;
}

Brush mass_at(const Vec3& at, double cell_m) {
    Brush brush;
    brush.shape = Shape::mass;
    brush.place.at = at;
    MassEditor cells(MassGrid{cell_m, {}});
    cells.set(0, 0, 0, Cell::full());
    brush.cells = cells.finished();
    return measured(brush);
}

} // namespace rubble::edit
