#include <QtTest/QtTest>

#include <numbers>

#include "core/build/shape_maker.h"
#include "edit/body.h"
#include "edit/reshape.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::test;

class ShapesTest : public QObject {
    Q_OBJECT

private slots:
    void stairs_have_the_volume_of_their_steps() {
        Brush brush = of(Shape::stairs, {4, 2, 3});
        for (const int steps : {1, 2, 7, 40}) {
            brush.steps = steps;
            const auto f = facts(brush);
            QVERIFY(near(f.volume_m3, 24.0 * (steps + 1) / (2 * steps)));
            QCOMPARE(f.faces, size_t(2 * steps + 4)); // treads, risers, two sides, back and base
            QCOMPARE(f.open_edges, size_t(0));
        }
    }

    void curved_stairs_have_the_volume_of_their_sectors() {
        Brush brush = of(Shape::curved_stairs, {6, 6, 3});
        brush.steps = 9;
        brush.angle_deg = 180;
        brush.inner_part = 0.5;
        const double sector = std::sin(radians(20)) / 2 * (9 - 2.25);
        double sum = 0;
        for (int k = 1; k <= 9; ++k) sum += sector * 3 * k / 9;
        const auto f = facts(brush);
        QVERIFY(near(f.volume_m3, sum));
        QCOMPARE(f.open_edges, size_t(0));
        brush.inner_part = 0; // to the middle
        QVERIFY(near(facts(brush).volume_m3, sum * 9 / 6.75));
        QCOMPARE(facts(brush).open_edges, size_t(0));
    }

    void stairs_round_and_round_leave_room_under_their_treads() {
        Brush brush = of(Shape::curved_stairs, {4, 4, 6});
        brush.steps = 24;
        brush.angle_deg = 720;
        brush.thickness_m = 0.5;
        const double sector = std::sin(radians(30)) / 2 * (4 - 0.64);
        double sum = 0;
        for (int k = 1; k <= 24; ++k) sum += sector * std::min(0.5, 0.25 * k);
        const auto f = facts(brush);
        QVERIFY(near(f.volume_m3, sum));
        QCOMPARE(f.open_edges, size_t(0));
    }

    void arches_leave_the_opening_of_their_kind() {
        Brush brush = of(Shape::arch, {4, 1, 4});
        brush.thickness_m = 0.5;
        brush.arch = ArchKind::flat;
        QVERIFY(near(facts(brush).volume_m3, 16 - 3 * 3.5));
        QCOMPARE(facts(brush).faces, size_t(10)); // two fronts, four outside, two feet less one, three inside
        brush.arch = ArchKind::round;
        brush.sides = 12; // half a polygon of 24 sides above a rectangle of 2 m
        const double half = 12 * std::sin(radians(15)) / 2 * 1.5 * 1.5;
        QVERIFY(near(facts(brush).volume_m3, 16 - 3 * 2 - half));
        brush.arch = ArchKind::pointed;
        brush.sides = 40; // two sixths of a circle of 3 m, which share a triangle
        const double lancet = 2 * (std::numbers::pi / 6 * 9) - std::sqrt(3.0) / 4 * 9;
        const double spring = 3.5 - 1.5 * std::sqrt(3.0);
        QVERIFY(near(facts(brush).volume_m3, 16 - 3 * spring - lancet, 2e-3));
        QCOMPARE(facts(brush).open_edges, size_t(0));
    }

    void a_low_arch_is_flattened_to_fit() {
        Brush brush = of(Shape::arch, {8, 1, 2});
        brush.thickness_m = 0.5;
        for (const ArchKind kind : {ArchKind::round, ArchKind::pointed}) {
            brush.arch = kind;
            const auto f = facts(brush);
            QCOMPARE(f.open_edges, size_t(0));
            QVERIFY(f.volume_m3 > 16 - 7 * 1.5 && f.volume_m3 < 16);
        }
    }

    void a_ball_has_the_volume_of_its_rings() {
        Brush brush = of(Shape::ball, {2, 2, 2});
        brush.sides = 32;
        const auto f = facts(brush);
        QCOMPARE(f.open_edges, size_t(0));
        QVERIFY(near(f.volume_m3, 4.0 / 3 * std::numbers::pi, 0.03));
        brush.size = {4, 2, 6};
        QVERIFY(near(facts(brush).volume_m3, f.volume_m3 * 6, 1e-4));
    }

    void outlines_have_the_area_of_their_rings() {
        Random random(2401);
        for (int round = 0; round < test::rounds(150); ++round) {
            const auto ring = star(random, random.whole(4, 40));
            Brush brush = outline(ring, 2);
            QCOMPARE(problem_of(brush), std::string());
            brush.place.turn_deg = random.between(0, 360);
            const auto f = facts(brush);
            QVERIFY(near(f.volume_m3, 2 * area_of(ring), 1e-5));
            QCOMPARE(f.open_edges, size_t(0));
            QCOMPARE(f.faces, ring.size() + 2); // whatever convex parts it has inside
        }
    }

    void outlines_have_holes() {
        Brush brush = outline({{-4, -4}, {4, -4}, {4, 4}, {-4, 4}}, 1);
        brush.holes = {{{-3, -3}, {-3, -1}, {-1, -1}, {-1, -3}},
                       {{1, 1}, {1, 3}, {3, 3}, {3, 1}},
                       {{0, -2}, {1, -1}, {2, -2}}};
        QCOMPARE(problem_of(brush), std::string());
        const auto f = facts(brush);
        QVERIFY(near(f.volume_m3, 64 - 4 - 4 - 1));
        QCOMPARE(f.faces, size_t(4 + 2 + 4 + 4 + 3));
        QCOMPARE(f.open_edges, size_t(0));
    }

    void what_crosses_itself_is_no_outline() {
        QCOMPARE(problem_of(outline({{0, 0}, {2, 2}, {2, 0}, {0, 2}}, 1)), std::string("points"));
        QCOMPARE(problem_of(outline({{0, 0}, {0, 2}, {2, 2}, {2, 0}}, 1)),
                 std::string("points")); // clockwise
        QCOMPARE(problem_of(outline({{0, 0}, {2, 0}}, 1)), std::string("points"));
        QCOMPARE(problem_of(outline({{0, 0}, {2, 0}, {1, 0}, {1, 1}}, 1)), std::string("points"));
        Brush holed = outline({{0, 0}, {4, 0}, {4, 4}, {0, 4}}, 1);
        holed.holes = {{{1, 1}, {1, 5}, {2, 5}, {2, 1}}}; // out through the rim
        QCOMPARE(problem_of(holed), std::string("points"));
    }

    void walls_have_clean_corners() {
        // Straight, round a corner, and back to where it began.
        QVERIFY(near(facts(wall({{0, 0}, {4, 0}}, 0.5, 3)).volume_m3, 4 * 0.5 * 3));
        const auto corner = facts(wall({{0, 0}, {4, 0}, {4, 3}}, 0.5, 3));
        QVERIFY(near(corner.volume_m3, (4.25 + 2.75) * 0.5 * 3));
        QCOMPARE(corner.faces, size_t(8));
        const auto yard = facts(wall({{0, 0}, {6, 0}, {6, 4}, {0, 4}}, 0.5, 2, true));
        QVERIFY(near(yard.volume_m3, (6.5 * 4.5 - 5.5 * 3.5) * 2));
        QCOMPARE(yard.faces, size_t(4 + 4 + 2));
        QCOMPARE(yard.open_edges, size_t(0));
    }

    void sharp_and_short_walls_stay_closed() {
        Random random(2402);
        for (int round = 0; round < test::rounds(100); ++round) {
            std::vector<Vec2> path{{0, 0}};
            for (int i = random.whole(2, 6); i > 0; --i)
                path.push_back(path.back() + Vec2(random.between(-3, 3), random.between(-3, 3)));
            const Brush brush = wall(path, random.between(0.1, 1.5), 2, random.chance(0.3));
            if (!problem_of(brush).empty()) continue;
            QCOMPARE(facts(brush).open_edges, size_t(0));
        }
    }

    void a_body_is_what_its_faces_bound() {
        Brush brush;
        brush.shape = Shape::body; // a box whose top leans
        brush.corners = {{0, 0, 0}, {2, 0, 0}, {2, 2, 0}, {0, 2, 0},
                         {0, 0, 1}, {2, 0, 3}, {2, 2, 3}, {0, 2, 1}};
        brush.faces = {{0, 3, 2, 1}, {4, 5, 6, 7}, {0, 1, 5, 4}, {1, 2, 6, 5}, {2, 3, 7, 6}, {3, 0, 4, 7}};
        brush = measured(brush);
        QCOMPARE(problem_of(brush), std::string());
        QCOMPARE(brush.size, Vec3(2, 2, 3));
        QVERIFY(near(facts(brush).volume_m3, 8));
        QCOMPARE(facts(brush).faces, size_t(6));
        Brush open = brush;
        open.faces.pop_back();
        QCOMPARE(problem_of(open), std::string("faces"));
        Brush dented = brush;
        dented.corners[6] = {1, 1, -0.5}; // through the base
        QCOMPARE(problem_of(dented), std::string("faces"));
        Brush inside_out = brush;
        for (auto& face : inside_out.faces) std::reverse(face.begin(), face.end());
        QCOMPARE(problem_of(inside_out), std::string("faces"));
    }

    void a_concave_body_is_what_its_faces_bound() {
        // A block of 4 × 4 × 2 with a slot of 2 × 1 × 1 along its top.
        Brush brush = body_over({{0, 0}, {4, 0}, {4, 2}, {3, 2}, {3, 1}, {1, 1}, {1, 2}, {0, 2}}, 4);
        QCOMPARE(problem_of(brush), std::string());
        const auto f = facts(brush);
        QVERIFY(near(f.volume_m3, 4 * (4 * 2 - 2)));
        QCOMPARE(f.faces, size_t(10));
        QCOMPARE(f.open_edges, size_t(0));
        // A star has no convex side.
        Random random(2408);
        for (int round = 0; round < test::rounds(100); ++round) {
            const auto ring = star(random, random.whole(5, 14));
            Brush star_body = body_over(ring, 3);
            if (!problem_of(star_body).empty()) continue;
            const auto straight = facts(star_body);
            QVERIFY(near(straight.volume_m3, 3 * area_of(ring), 1e-5));
            QCOMPARE(straight.faces, ring.size() + 2);
            QCOMPARE(straight.open_edges, size_t(0));
            star_body.place.rotation = random.rotation();
            const auto tipped = facts(star_body);
            QVERIFY(near(tipped.volume_m3, straight.volume_m3, 1e-5));
            QCOMPARE(tipped.open_edges, size_t(0));
        }
    }

    void reshaped_bodies_are_built_as_they_are() {
        Random random(2409);
        for (int round = 0; round < test::rounds(60); ++round) {
            Brush brush = *edit::as_body(of(random.chance(0.5) ? Shape::box : Shape::arch, {4, 3, 3}));
            FaceMesh mesh = edit::mesh_of(brush);
            for (int step = 0; step < 6 && mesh.faces.size() < 60; ++step) {
                const int face = random.whole(0, int(mesh.faces.size()) - 1);
                const auto loop = mesh.faces[size_t(face)];
                const edit::MeshEdge edge(loop[0], loop[1]);
                const Vec3 by(random.between(-1, 1), random.between(-1, 1), random.between(-1, 1));
                mesh = step % 3 == 0 ? edit::ring_split(mesh, edge, {0.3, 0.6}).mesh
                       : step % 3 == 1
                           ? edit::points_moved(mesh, {edge.a, edge.b}, by).mesh
                           : edit::face_pushed(edit::face_inset(mesh, face, 0.3).mesh, face, by.x).mesh;
            }
            brush = edit::with_mesh(brush, mesh);
            for (const bool tipped : {false, true}) {
                if (tipped) brush.place.rotation = random.rotation();
                const auto f = facts(brush);
                QVERIFY(near(f.volume_m3, volume_of(mesh), 1e-4));
                QCOMPARE(f.open_edges, size_t(0));
            }
        }
    }

    /// A face pressed into a body, so that it meets itself, touches itself, or passes through.
    void a_body_that_meets_itself_is_refused() {
        const std::vector<Vec2> slot{{0, 0}, {4, 0}, {4, 2}, {3, 2}, {3, 1}, {1, 1}, {1, 2}, {0, 2}};
        for (const double to : {0.0, -0.5}) { // the bottom of the slot on the base, or below it
            Brush brush = body_over(slot, 4);
            for (Vec3& p : brush.corners)
                if (p.y == 1) p.y = to;
            QCOMPARE(problem_of(brush), std::string("faces"));
        }
        Brush narrow = body_over(slot, 4);
        for (Vec3& p : narrow.corners)
            if (p.y == 1) p.y = 0.01;
        QCOMPARE(problem_of(narrow), std::string());
        Brush twisted = body_over({{0, 0}, {1, 0}, {1, 1}, {0, 1}}, 1);
        std::swap(twisted.corners[0], twisted.corners[1]);
        QCOMPARE(problem_of(twisted), std::string("faces"));
    }

    /// Turned, tipped, fills and cuts, one into the other: the surface stays closed.
    void all_shapes_among_each_other_leave_a_closed_surface() {
        Random random(2403);
        for (int round = 0; round < test::rounds(150); ++round) {
            LevelMaker maker;
            for (int i = 0; i < 12; ++i) {
                Brush brush = any_shape(random, random.whole(0, 8));
                brush.place.at = {random.stepped(0, 8, 0.25), random.stepped(0, 8, 0.25),
                                  random.stepped(0, 3, 0.25)};
                if (random.chance(0.5)) brush.place.turn_deg = random.stepped(0, 345, 7.5);
                if (random.chance(0.2)) brush.place.rotation = random.rotation();
                if (random.chance(0.25)) brush.effect = Effect::cut;
                QCOMPARE(problem_of(brush), std::string());
                maker.brush(brush);
            }
            const auto f = facts_of(build::surface_of(build::build_solid(maker.level())));
            QCOMPARE(f.open_edges, size_t(0));
        }
    }

    void a_turned_shape_has_the_volume_of_the_unturned() {
        Random random(2404);
        for (int round = 0; round < test::rounds(100); ++round) {
            Brush brush = any_shape(random, round % 9);
            const auto straight = facts(brush);
            brush.place.turn_deg = random.between(0, 360);
            QVERIFY(near(facts(brush).volume_m3, straight.volume_m3, 1e-5));
            brush.place.rotation = random.rotation();
            const auto tipped = facts(brush);
            QVERIFY(near(tipped.volume_m3, straight.volume_m3, 1e-4));
            QCOMPARE(tipped.open_edges, size_t(0));
        }
    }

    void a_pipe_bend_has_the_volume_of_its_rings() {
        const auto ring = [](int sides, double radius) { // area of a regular polygon
            return sides / 2.0 * std::sin(2 * std::numbers::pi / sides) * radius * radius;
        };
        for (const double angle : {90.0, 200.0, 360.0})
            for (const double wall : {0.0, 0.2}) {
                Brush pipe = of(Shape::pipe, {8, 8, 2});
                pipe.sides = 8, pipe.steps = 12, pipe.angle_deg = angle, pipe.thickness_m = wall;
                QCOMPARE(problem_of(pipe), std::string());
                const double turned = pipe.steps * std::sin(radians(angle / pipe.steps));
                const double area = ring(8, 1) - (wall > 0 ? ring(8, 1 - wall) : 0);
                const auto f = facts(pipe);
                QVERIFY(near(f.volume_m3, turned * 3 * area, 1e-5));
                QCOMPARE(f.open_edges, size_t(0));
                pipe.place.turn_deg = 33;
                QCOMPARE(facts(pipe).open_edges, size_t(0));
            }
        Brush pipe = of(Shape::pipe, {8, 8, 2});
        pipe.thickness_m = 1.1; // no bore
        QCOMPARE(problem_of(pipe), std::string("thickness_m"));
        pipe.thickness_m = 0.1, pipe.size = {4, 4, 2}; // no middle
        QCOMPARE(problem_of(pipe), std::string("thickness_m"));
        pipe.size = {8, 8, 2}, pipe.steps = 0;
        QCOMPARE(problem_of(pipe), std::string("steps"));
    }

    void the_matter_is_where_the_surface_is() {
        Random random(2405);
        for (int round = 0; round < test::rounds(60); ++round) {
            LevelMaker maker;
            maker.brush(any_shape(random, round % 9));
            const build::Solid solid = build::build_solid(maker.level());
            double matter = 0; // cells of one brush overlap only in walls with overlapping ends
            for_each_matter(*solid.brushes[0],
                            [&](const geometry::ConvexCell& cell) { matter += cell.volume(); });
            const double volume = facts_of(build::surface_of(solid)).volume_m3;
            QVERIFY(matter > volume - 1e-4 && matter < volume + (round % 9 == 5 ? 0.5 : 1e-4));
        }
    }
};

RUBBLE_TEST(ShapesTest)
#include "shapes_test.moc"
