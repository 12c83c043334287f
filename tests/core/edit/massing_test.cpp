#include <QtTest/QtTest>

#include <numbers>

#include "build/solid_builder.h"
#include "build/surface_builder.h"
#include "core/level_maker.h"
#include "core/random.h"
#include "edit/items.h"
#include "edit/massing.h"
#include "level/brush_shape.h"
#include "test_program.h"

using namespace rubble;
using edit::AreaEdge;
using edit::MassArea;
using test::LevelMaker;
using test::Random;

namespace {

MassGrid block(int width, int depth, int height, double cell_m = 1) {
    MassEditor cells(MassGrid{cell_m, {}});
    for (int y = 0; y < depth; ++y)
        for (int x = 0; x < width; ++x) cells.set(x, y, 0, height, Cell::full());
    return cells.finished();
}

Brush brush_of(const MassGrid& grid) {
    Brush brush;
    brush.shape = Shape::mass;
    brush.cells = grid;
    return measured(brush);
}

build::Surface surface_of(const Brush& brush) {
    LevelMaker maker;
    maker.brush(brush);
    return build::surface_of(build::build_solid(maker.level()));
}

build::SurfaceFacts facts(const MassGrid& grid) { return facts_of(surface_of(brush_of(grid))); }

MassArea top(const MassGrid& grid, int x0, int y0, int x1, int y1, int line = 1000) {
    return edit::area_between(grid, 2, 1, {x0, y0}, {x1, y1}, line, false);
}

bool near(double a, double b, double part = 1e-6) {
    return std::abs(a - b) <= part * std::max(1.0, std::abs(b));
}

/// Whether the cells say that there is matter, at a place that no plane of theirs goes through.
bool has_matter(const MassGrid& grid, const Vec3& at) {
    const Vec3 p = at / grid.cell_m;
    const Cell cell = grid.at(int(std::floor(p.x)), int(std::floor(p.y)), int(std::floor(p.z)));
    if (!cell.form) return cell.matter;
    for (const CellPlane& plane : cell.form->planes) {
        const bool behind = plane.a * p.x + plane.b * p.y + plane.c * p.z < double(plane.d);
        if (behind == cell.form->either) return behind;
    }
    return !cell.form->either;
}

/// How often a closed surface goes round a place: van Oosterom and Strackee, "The solid angle of a plane
/// triangle" (1983).
double winding(const build::Surface& surface, const Vec3& at) {
    double sum = 0;
    for (const auto& brush : surface.brushes)
        for (const auto& part : *brush)
            for (const auto& face : part->faces)
                for (const auto& triangle : triangles_of(*part, face)) {
                    Vec3 corner[3];
                    for (size_t i = 0; i < 3; ++i) corner[i] = part->point_m(triangle[i]) - at;
                    const double a = glm::length(corner[0]), b = glm::length(corner[1]),
                                 c = glm::length(corner[2]);
                    const double top = glm::dot(corner[0], glm::cross(corner[1], corner[2]));
                    const double bottom = a * b * c + glm::dot(corner[0], corner[1]) * c +
                                          glm::dot(corner[1], corner[2]) * a +
                                          glm::dot(corner[2], corner[0]) * b;
                    sum += 2 * std::atan2(top, bottom);
                }
    return sum / (4 * std::numbers::pi);
}

/// Random changes of a mass, some of which are refused.
MassGrid changed(MassGrid grid, Random& random, int times) {
    for (int i = 0; i < times; ++i) {
        const CellBox extent = grid.extent();
        if (extent.empty()) break;
        const int axis = random.whole(0, 5) < 4 ? 2 : random.whole(0, 1), way = random.chance(0.8) ? 1 : -1;
        const auto u = size_t((axis + 1) % 3), v = size_t((axis + 2) % 3);
        const std::array<int, 2> a{random.whole(extent.low[u], extent.high[u] - 1),
                                   random.whole(extent.low[v], extent.high[v] - 1)};
        const std::array<int, 2> b{a[0] + random.whole(0, 4), a[1] + random.whole(0, 4)};
        const int line = random.whole(extent.low[size_t(axis)], extent.high[size_t(axis)]);
        const MassArea area = edit::area_between(grid, axis, way, a, b, line, false);
        const int by = random.chance(0.6) ? random.whole(1, 3) : -random.whole(1, 2);
        const int kind = random.whole(0, 9);
        const edit::Massed result =
            kind < 4   ? edit::raised(grid, area, by)
            : kind < 8 ? edit::tilted(grid, area, {random.whole(-1, 1), random.whole(-1, 1)}, by)
            : kind < 9 ? edit::smoothed(grid, area)
                       : edit::dug_through(grid, area);
        if (!result.done) continue;
        grid = result.grid;
    }
    return grid;
}

} // namespace

class MassingTest : public QObject {
    Q_OBJECT

private slots:

    void a_block_is_one_body_whatever_its_chunks() {
        const auto f = facts(block(40, 20, 3, 0.5));
        QVERIFY(near(f.volume_m3, 20 * 10 * 1.5));
        QCOMPARE(f.faces, size_t(6));
        QCOMPARE(f.open_edges, size_t(0));
    }

    void raising_and_sinking_move_a_face_by_whole_cells() {
        const MassGrid grid = block(6, 6, 2);
        const auto up = edit::raised(grid, top(grid, 1, 1, 3, 2), 3);
        QVERIFY(up.done);
        QVERIFY(near(facts(up.grid).volume_m3, 72 + 6 * 3));
        QCOMPARE(up.area.levels.at({1, 1}), 5);
        const auto down = edit::raised(up.grid, up.area, -3);
        QVERIFY(down.done);
        QVERIFY(down.grid == grid);
        const auto gone = edit::raised(grid, top(grid, 0, 0, 5, 5), -2);
        QVERIFY(gone.done && gone.grid.empty());
        QVERIFY(edit::raised(gone.grid, gone.area, 2).grid == grid);
    }

    void sides_and_undersides_are_raised_too() {
        const MassGrid grid = block(4, 4, 4);
        for (const int axis : {0, 1, 2})
            for (const int way : {-1, 1}) {
                const int line = way > 0 ? 4 : 0;
                const MassArea area = edit::area_between(grid, axis, way, {1, 1}, {2, 2}, line, false);
                QCOMPARE(area.levels.size(), size_t(4));
                const auto out = edit::raised(grid, area, 2);
                QVERIFY(out.done);
                QVERIFY(near(facts(out.grid).volume_m3, 64 + 8));
                QVERIFY(edit::raised(out.grid, out.area, -2).grid == grid);
                const auto in = edit::raised(grid, area, -3);
                QVERIFY(near(facts(in.grid).volume_m3, 64 - 12));
                const auto through = edit::dug_through(grid, area);
                QVERIFY(near(facts(through.grid).volume_m3, 64 - 16));
                QCOMPARE(facts(through.grid).open_edges, size_t(0));
            }
    }

    void a_side_that_is_lifted_makes_a_slope() {
        const MassGrid grid = block(8, 4, 2);
        for (const AreaEdge edge : {AreaEdge{1, 0}, AreaEdge{-1, 0}, AreaEdge{0, 1}, AreaEdge{0, -1}})
            for (const int by : {3, -1}) {
                const MassArea area = top(grid, 2, 1, 5, 2);
                const auto slope = edit::tilted(grid, area, edge, by);
                QVERIFY(slope.done);
                const auto f = facts(slope.grid);
                QVERIFY(near(f.volume_m3, 64 + 8 * by / 2.0));
                QCOMPARE(f.open_edges, size_t(0));
                const auto flat = edit::tilted(slope.grid, slope.area, edge, -by);
                QVERIFY(flat.done);
                QVERIFY(flat.grid == grid);
                // Opposite sides lifted alike raise the whole.
                const auto both = edit::tilted(slope.grid, slope.area, {-edge.u, -edge.v}, by);
                QVERIFY(both.grid == edit::raised(grid, area, by).grid);
                // And a slope is raised as it is.
                const auto higher = edit::raised(slope.grid, slope.area, 2);
                QVERIFY(near(facts(higher.grid).volume_m3, 64 + 8 * by / 2.0 + 16));
                QVERIFY(edit::raised(higher.grid, higher.area, -2).grid == slope.grid);
            }
    }

    void a_corner_that_is_lifted_folds_the_area() {
        const MassGrid grid = block(8, 6, 3);
        for (const AreaEdge edge : {AreaEdge{1, 1}, AreaEdge{-1, 1}, AreaEdge{1, -1}, AreaEdge{-1, -1}})
            for (const int by : {2, -2}) {
                const MassArea area = top(grid, 1, 1, 6, 4);
                const auto fold = edit::tilted(grid, area, edge, by);
                QVERIFY(fold.done);
                const auto f = facts(fold.grid);
                QVERIFY(near(f.volume_m3, 144 + 6 * 4 * by / 6.0));
                QCOMPARE(f.open_edges, size_t(0));
                const auto more = edit::tilted(fold.grid, fold.area, edge, by / 2);
                QVERIFY(more.done);
                QVERIFY(near(facts(more.grid).volume_m3, 144 + 6 * 4 * by / 4.0));
            }
    }

    void a_stair_of_cells_becomes_a_ramp() {
        MassGrid grid = block(8, 3, 1);
        for (int step = 0; step < 3; ++step) {
            const auto up = edit::raised(grid, top(grid, 2 + 2 * step, 0, 7, 2), 1);
            grid = up.grid;
        }
        const auto ramp = edit::smoothed(grid, top(grid, 0, 0, 7, 2));
        QVERIFY(ramp.done);
        const auto f = facts(ramp.grid);
        QVERIFY(near(f.volume_m3, 8 * 3 * (1 + 4) / 2.0));
        QCOMPARE(f.faces, size_t(6));
        QVERIFY(!edit::smoothed(block(4, 4, 1), top(block(4, 4, 1), 0, 0, 3, 3)).done); // level already
        const MassGrid hill = edit::raised(grid, top(grid, 0, 0, 0, 2), 3).grid;
        QVERIFY(!edit::smoothed(hill, top(hill, 0, 0, 7, 2)).done); // rises at both ends
    }

    void squares_alike_are_of_one_level_or_one_slope() {
        MassGrid grid = block(10, 10, 1);
        grid = edit::raised(grid, top(grid, 2, 2, 5, 5), 2).grid;
        QCOMPARE(edit::area_alike(grid, 2, 1, {3, 3}, 3).levels.size(), size_t(16));
        QCOMPARE(edit::area_alike(grid, 2, 1, {0, 0}, 1).levels.size(), size_t(84));
        grid = edit::tilted(grid, top(grid, 2, 2, 5, 5), {1, 0}, 2).grid;
        QCOMPARE(edit::area_alike(grid, 2, 1, {4, 4}, 5).levels.size(), size_t(16));
        QVERIFY(edit::area_alike(grid, 2, 1, {40, 40}, 5).levels.empty());
    }

    void areas_grow_by_what_looks_the_same_way() {
        const MassGrid grid = block(4, 4, 2);
        const MassArea both = edit::joined(top(grid, 0, 0, 1, 1), top(grid, 1, 1, 2, 2));
        QCOMPARE(both.levels.size(), size_t(7));
        const MassArea side = edit::area_between(grid, 0, 1, {0, 0}, {1, 1}, 4, false);
        QVERIFY(edit::joined(both, side) == both);
        QCOMPARE(edit::area_between(grid, 2, 1, {3, 3}, {5, 3}, 2, false).levels.size(), size_t(1));
        QCOMPARE(edit::area_between(grid, 2, 1, {3, 3}, {5, 3}, 2, true).levels.size(), size_t(3));
    }

    void too_steep_a_slope_is_refused() {
        const MassGrid grid = block(131, 127, 1);
        edit::Massed fold = edit::tilted(grid, top(grid, 0, 0, 130, 126), {1, 1}, 7);
        QVERIFY(!fold.done);
        QVERIFY(fold.grid == grid);
    }

    void finer_cells_keep_the_shape_and_coarser_ones_say_what_goes() {
        Random random(3101);
        for (int round = 0; round < test::rounds(40); ++round) {
            const MassGrid grid = changed(block(6, 6, 3), random, 8);
            if (grid.empty()) continue;
            const auto fine = edit::refined(grid);
            QVERIFY(fine);
            QCOMPARE(fine->cell_m, 0.5);
            QVERIFY(near(facts(*fine).volume_m3, facts(grid).volume_m3));
            const auto back = edit::coarsened(*fine);
            QVERIFY(back);
            QCOMPARE(back->changed, 0);
            QVERIFY(near(facts(back->grid).volume_m3, facts(grid).volume_m3));
        }
        // A layer half as high as a coarser cell is cut out of it.
        const auto slabs = edit::coarsened(block(4, 4, 3));
        QVERIFY(slabs && slabs->changed == 0);
        QVERIFY(near(facts(slabs->grid).volume_m3, 48));
        MassEditor cells(block(4, 4, 2));
        cells.set(4, 0, 0, 1, Cell::full()); // one cell that a coarser one cannot be
        const auto coarse = edit::coarsened(cells.finished());
        QVERIFY(coarse);
        QCOMPARE(coarse->changed, 1);
        QCOMPARE(coarse->cells, 5);
        QVERIFY(!edit::refined(block(1, 1, 1, least_cell_m)));
        QVERIFY(!edit::coarsened(block(1, 1, 1, most_cell_m)));
    }

    void a_mirror_image_of_a_mirror_image_is_the_mass() {
        Random random(3102);
        for (int round = 0; round < test::rounds(20); ++round) {
            const MassGrid grid = changed(block(20, 5, 3), random, 6);
            for (const int axis : {0, 1}) {
                const MassGrid image = rubble::mirrored(grid, axis);
                QVERIFY(rubble::mirrored(image, axis) == grid);
                for (int i = 0; i < 100; ++i) {
                    Vec3 at(random.between(-2, 22), random.between(-2, 8), random.between(-2, 8));
                    const bool matter = has_matter(grid, at);
                    at[axis] = -at[axis];
                    QCOMPARE(has_matter(image, at), matter);
                }
            }
        }
    }

    void brushes_of_a_mass_have_its_matter() {
        Random random(3103);
        for (int round = 0; round < test::rounds(30); ++round) {
            Brush mass = brush_of(changed(block(7, 6, 3), random, 7));
            if (mass.cells.empty()) continue;
            mass.place.at = {random.stepped(-3, 3, 0.5), 1, 2};
            mass.place.turn_deg = round % 2 ? 30 : 0;
            LevelMaker maker;
            for (const Brush& brush : edit::brushes_of(mass)) {
                QCOMPARE(problem_of(brush), std::string());
                maker.brush(brush);
            }
            const auto f = facts_of(build::surface_of(build::build_solid(maker.level())));
            QVERIFY(near(f.volume_m3, facts_of(surface_of(mass)).volume_m3, 1e-5));
        }
    }

    /// The surface goes round exactly what the cells say, however they were changed.
    void the_surface_of_any_mass_is_closed_and_holds_its_cells() {
        Random random(3104);
        int places = 0;
        for (int round = 0; round < test::rounds(60); ++round) {
            Brush mass = brush_of(changed(block(9, 8, 3, 0.5), random, 12));
            if (mass.cells.empty()) continue;
            const auto surface = surface_of(mass);
            QCOMPARE(facts_of(surface).open_edges, size_t(0));
            for (int i = 0; i < 40; ++i) {
                const Vec3 at(random.between(-1, 6), random.between(-1, 6), random.between(-1, 4));
                QCOMPARE(winding(surface, at) > 0.5, has_matter(mass.cells, at));
                ++places;
            }
            mass.place.rotation = random.rotation();
            QCOMPARE(facts_of(surface_of(mass)).open_edges, size_t(0));
        }
        QVERIFY(places > 100);
    }

    /// Masses among brushes, changed in place, moved and taken away: as built from nothing.
    void an_edit_of_a_mass_gives_what_a_full_build_gives() {
        Random random(3105);
        for (int round = 0; round < test::rounds(10); ++round) {
            LevelMaker maker;
            maker.box({10, 5, -1}, {30, 20, 1});
            const ItemId mass = maker.brush(brush_of(block(20, 8, 2)));
            maker.box({8, 4, 1}, {3, 3, 4}, 30, Effect::cut);
            const ItemId other = maker.box({18, 4, 1}, {3, 3, 4}, 10);
            Level level = maker.level();
            build::SolidBuilder solids;
            build::SurfaceBuilder surfaces;
            for (int step = 0; step < 12; ++step) {
                Item item = *find_item(level, mass);
                Brush brush = *item.brush();
                if (step % 4 == 3)
                    level =
                        edit::moved(level, std::vector<ItemId>{step % 8 == 3 ? other : mass}, {0.5, 0, 0.25});
                else if (MassGrid next = changed(brush.cells, random, 2); !next.empty()) {
                    brush.cells = next;
                    item.body = measured(brush);
                    level = edit::with_changed(level, item);
                }
                const auto f = facts_of(surfaces.build(solids.build(level)));
                const auto full = facts_of(build::surface_of(build::build_solid(level)));
                QVERIFY(near(f.volume_m3, full.volume_m3, 1e-9));
                QVERIFY(near(f.area_m2, full.area_m2, 1e-9));
                QCOMPARE(f.faces, full.faces);
                QCOMPARE(f.open_edges, size_t(0));
            }
        }
    }

    /// What a mass is collided with and exported as: its convex parts hold its matter, each place once but in
    /// folds.
    void convex_parts_hold_the_matter_of_their_cells() {
        Random random(3106);
        for (int round = 0; round < test::rounds(60); ++round) {
            const MassGrid grid = changed(block(18, 7, 3), random, 10);
            const std::vector<MassPart> parts = parts_of(grid);
            for (int i = 0; i < 300; ++i) {
                const Vec3 p(random.between(-1, 20), random.between(-1, 9), random.between(-2, 9));
                int holding = 0;
                for (const MassPart& part : parts) {
                    bool in = true;
                    for (int axis = 0; axis < 3; ++axis)
                        in = in && p[axis] > part.box.low[size_t(axis)] &&
                             p[axis] < part.box.high[size_t(axis)];
                    for (const CellPlane& plane : part.planes)
                        in = in && plane.a * p.x + plane.b * p.y + plane.c * p.z < double(plane.d);
                    holding += in;
                }
                const Cell cell = grid.at(int(std::floor(p.x)), int(std::floor(p.y)), int(std::floor(p.z)));
                QCOMPARE(holding > 0, has_matter(grid, p));
                if (!cell.form || !cell.form->either) QVERIFY(holding <= 1);
            }
        }
    }

    void very_even_ground_is_few_parts() {
        QCOMPARE(parts_of(block(64, 64, 5)).size(), size_t(16)); // one a chunk
        const MassGrid grid = block(16, 16, 2);
        const MassGrid slope = edit::tilted(grid, top(grid, 0, 0, 15, 15), {1, 0}, 8).grid;
        QVERIFY(parts_of(slope).size() <= 2); // whatever number of cells the slope cuts
    }

    void a_mass_begins_with_a_cell() {
        const Brush brush = edit::mass_at({1, 2, 3}, 0.5);
        QCOMPARE(problem_of(brush), std::string());
        QVERIFY(near(facts_of(surface_of(brush)).volume_m3, 0.125));
        QCOMPARE(corners_of(brush)[0], Vec3(1, 2, 3));
    }
};

RUBBLE_TEST(MassingTest)
#include "massing_test.moc"
