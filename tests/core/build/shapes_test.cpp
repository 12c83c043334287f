#include <QtTest/QtTest>

#include <numbers>
#include <numeric>

#include "base/angle.h"
#include "build/solid_builder.h"
#include "build/surface_builder.h"
#include "core/level_maker.h"
#include "core/random.h"
#include "edit/body.h"
#include "edit/reshape.h"
#include "geometry/convex_hull.h"
#include "geometry/partition.h"
#include "level/brush_shape.h"

using namespace rubble;
using geometry::TickPoint;
using geometry::TickPoint2;
using test::LevelMaker;
using test::Random;

namespace {

build::SurfaceFacts facts(const Brush& brush) {
    LevelMaker maker;
    maker.brush(brush);
    return facts_of(build::surface_of(build::build_solid(maker.level())));
}

Brush of(Shape shape, const Vec3& size) {
    Brush brush;
    brush.shape = shape;
    brush.size = size;
    return brush;
}

Brush outline(std::vector<Vec2> points, double height) {
    Brush brush;
    brush.shape = Shape::outline;
    brush.points = std::move(points);
    brush.size.z = height;
    return measured(brush);
}

Brush wall(std::vector<Vec2> path, double thickness, double height, bool closed = false) {
    Brush brush;
    brush.shape = Shape::wall_run;
    brush.points = std::move(path);
    brush.thickness_m = thickness;
    brush.size.z = height;
    brush.closed = closed;
    return measured(brush);
}

/// A ring in the plane y, z drawn out along x, as a body.
Brush body_over(const std::vector<Vec2>& ring, double length) {
    Brush brush;
    brush.shape = Shape::body;
    const int n = int(ring.size());
    std::vector<int> front, back;
    for (const double x : {0.0, length})
        for (const Vec2 p : ring) brush.corners.push_back({x, p.x, p.y});
    for (int i = 0; i < n; ++i) {
        back.push_back(n + i), front.push_back(n - 1 - i);
        brush.faces.push_back({i, (i + 1) % n, n + (i + 1) % n, n + i});
    }
    brush.faces.push_back(front), brush.faces.push_back(back);
    return measured(brush);
}

double area_of(const std::vector<Vec2>& ring) {
    double sum = 0;
    for (size_t i = 0; i < ring.size(); ++i) {
        const Vec2 a = ring[i], b = ring[(i + 1) % ring.size()];
        sum += a.x * b.y - a.y * b.x;
    }
    return sum / 2;
}

/// Points around the middle at random distances: a simple ring, concave in many places.
std::vector<Vec2> star(Random& random, int count) {
    std::vector<Vec2> out;
    for (int i = 0; i < count; ++i) {
        const auto [c, s] = cos_sin(360.0 * (i + random.between(0, 0.6)) / count);
        const double r = random.between(0.8, 5);
        out.push_back({c * r, s * r});
    }
    return out;
}

bool near(double a, double b, double part = 1e-6) {
    return std::abs(a - b) <= part * std::max(1.0, std::abs(b));
}

/// All kinds of shapes in a row.
Brush any_shape(Random& random, int kind) {
    const Vec3 size(random.stepped(2, 5, 0.25), random.stepped(2, 5, 0.25), random.stepped(2, 4, 0.25));
    Brush brush;
    switch (kind) {
    case 0:
        brush = of(Shape::stairs, size);
        break;
    case 1:
        brush = of(Shape::curved_stairs, size);
        brush.angle_deg = random.stepped(30, 340, 5);
        brush.inner_part = random.chance(0.3) ? 0 : random.between(0.1, 0.8);
        brush.steps = random.whole(4, 12);
        break;
    case 2:
        brush = of(Shape::ball, size);
        brush.sides = random.whole(4, 14);
        break;
    case 3:
        brush = of(Shape::arch, size);
        brush.thickness_m = random.between(0.2, 0.8);
        brush.arch = ArchKind(random.whole(0, 2));
        brush.sides = random.whole(3, 12);
        break;
    case 4:
        brush = outline(star(random, random.whole(5, 14)), size.z);
        break;
    case 5:
        brush = wall({{-2, -1}, {0, 1}, {2, -1}, {3, 2}}, random.between(0.2, 0.6), size.z);
        break;
    case 6:
        brush = of(Shape::curved_stairs, size);
        brush.angle_deg = random.stepped(400, 720, 20);
        brush.steps = random.whole(14, 20);
        brush.thickness_m = 0.3;
        break;
    case 7:
        brush = body_over(
            {{-1, 0}, {2, 0}, {2, size.z}, {1, size.z}, {random.between(0, 0.9), 1}, {-1, size.z}}, size.x);
        break;
    default:
        brush = of(random.chance(0.5) ? Shape::box : Shape::ramp, size);
    }
    return brush;
}

} // namespace

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

    void a_shell_has_walls_of_its_thickness() {
        Brush room = of(Shape::box, {6, 4, 3});
        room.shell_m = 0.25;
        QCOMPARE(problem_of(room), std::string());
        QVERIFY(near(facts(room).volume_m3, 6 * 4 * 3 - 5.5 * 3.5 * 2.5));
        QCOMPARE(facts(room).faces, size_t(12));
        QCOMPARE(facts(room).open_edges, size_t(0));
        room.open_sides = {BoxSide::top};
        QVERIFY(near(facts(room).volume_m3, 6 * 4 * 3 - 5.5 * 3.5 * 2.75));
        QCOMPARE(facts(room).faces, size_t(5 + 5 + 1)); // the rims are one
        room.open_sides = {BoxSide::top, BoxSide::left};
        QVERIFY(near(facts(room).volume_m3, 6 * 4 * 3 - 5.75 * 3.5 * 2.75));
        room.open_sides = {BoxSide::left, BoxSide::right};
        QVERIFY(near(facts(room).volume_m3, 6 * 4 * 3 - 6 * 3.5 * 2.5));
        QCOMPARE(facts(room).open_edges, size_t(0));
        room.shell_m = 1.5; // floor and ceiling meet
        QCOMPARE(problem_of(room), std::string("shell_m"));
    }

    void outlines_and_round_shapes_become_shells_too() {
        Brush hall = outline({{0, 0}, {6, 0}, {6, 3}, {3, 3}, {3, 6}, {0, 6}}, 3);
        hall.shell_m = 0.5;
        hall.open_sides = {BoxSide::top};
        QVERIFY(near(facts(hall).volume_m3, 27 * 3 - (5 * 2 + 2 * 3) * 2.5));
        QCOMPARE(facts(hall).open_edges, size_t(0));
        Random random(2410);
        for (const Shape shape : {Shape::box, Shape::ramp, Shape::cylinder, Shape::cone}) {
            Brush brush = of(shape, {5, 4, 3});
            brush.sides = 9;
            brush.shell_m = 0.2;
            QCOMPARE(problem_of(brush), std::string());
            const double straight = facts(brush).volume_m3;
            Brush solid = brush;
            solid.shell_m = 0;
            QVERIFY(straight < facts(solid).volume_m3 * 0.7);
            for (int round = 0; round < test::rounds(10); ++round) {
                brush.place.rotation = random.rotation();
                const auto tipped = facts(brush);
                QVERIFY(near(tipped.volume_m3, straight, 1e-4));
                QCOMPARE(tipped.open_edges, size_t(0));
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

    void a_cut_within_its_group_takes_from_its_group_alone() {
        Random random(2411);
        for (int round = 0; round < test::rounds(40); ++round) {
            // The group: a block and two cuts through it. Outside, a block in the same place.
            Level level = new_level("Test", {"courier"});
            level.layers.clear();
            Layer layer;
            layer.id = {"l"};
            const auto item = [](const char* id, Brush brush) { return Item{{id}, {}, false, brush, {}}; };
            const auto cut = [&](bool within) {
                Brush brush = any_shape(random, random.whole(0, 8));
                brush.effect = Effect::cut;
                brush.within_group = within;
                brush.place.at = {random.stepped(-1, 1, 0.25), random.stepped(-1, 1, 0.25),
                                  random.stepped(-1, 1, 0.5)};
                return brush;
            };
            const Brush first = cut(true), second = cut(true), plain = cut(false);
            Brush far = of(Shape::box, {4, 4, 4});
            far.place.at = {20, 0, 0};
            Brush own = of(Shape::box, {6, 6, 3});
            Group group;
            group.items = {item("own", own), item("c1", first), item("c2", second)};
            layer.items = {item("out", own), Item{{"g"}, {}, false, group, {}}};
            layer.items.insert(layer.items.begin(), item("far", far));
            level.layers = {layer};
            // Both blocks are alike, so that the one outside fills what the cuts take from the other.
            const auto same = facts_of(build::surface_of(build::build_solid(level)));
            QVERIFY(near(same.volume_m3, 64 + 108));
            QCOMPARE(same.open_edges, size_t(0));
            // Without the block outside, the cuts do what cuts do.
            Layer alone = layer;
            alone.items.erase(alone.items.begin() + 1);
            level.layers = {alone};
            build::SolidBuilder builder;
            const auto taken = facts_of(build::surface_of(builder.build(level)));
            LevelMaker maker;
            for (Brush brush : {far, own, first, second}) brush.within_group = false, maker.brush(brush);
            const auto usual = facts_of(build::surface_of(build::build_solid(maker.level())));
            QVERIFY(near(taken.volume_m3, usual.volume_m3, 1e-6));
            QVERIFY(near(taken.area_m2, usual.area_m2, 1e-6));
            QCOMPARE(taken.open_edges, size_t(0));
            // A cut that is moved takes from elsewhere, one that becomes a usual one from all.
            Group other = group;
            Brush moved = first;
            moved.place.at.x += 0.5;
            other.items[1] = item("c1", moved);
            alone.items.back() = Item{{"g"}, {}, false, other, {}};
            level.layers = {alone};
            const auto again = facts_of(build::surface_of(builder.build(level)));
            const auto fresh = facts_of(build::surface_of(build::build_solid(level)));
            QVERIFY(near(again.volume_m3, fresh.volume_m3, 1e-9));
            QCOMPARE(again.faces, fresh.faces);
            QCOMPARE(again.open_edges, size_t(0));
            other.items[2] = item("c2", plain);
            alone.items.back() = Item{{"g"}, {}, false, other, {}};
            level.layers = {alone};
            const auto last = facts_of(build::surface_of(builder.build(level)));
            QVERIFY(
                near(last.volume_m3, facts_of(build::surface_of(build::build_solid(level))).volume_m3, 1e-9));
            QCOMPARE(last.open_edges, size_t(0));
        }
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

    // What they are made with -------------------------------------------------------------------------

    void convex_parts_cover_a_figure_once() {
        Random random(2406);
        for (int round = 0; round < test::rounds(200); ++round) {
            std::vector<TickPoint2> ring;
            for (const Vec2 p : star(random, random.whole(3, 60)))
                ring.push_back({std::llround(p.x * 1e6), std::llround(p.y * 1e6)});
            if (!geometry::is_simple({ring})) continue;
            __int128 sum = 0;
            const auto parts = geometry::convex_parts({ring});
            for (const auto& part : parts) {
                std::vector<TickPoint2> corners;
                for (const int i : part) corners.push_back(ring[size_t(i)]);
                const size_t n = corners.size();
                for (size_t i = 0; i < n; ++i)
                    QVERIFY(geometry::turn(corners[i], corners[(i + 1) % n], corners[(i + 2) % n]) > 0);
                sum += geometry::doubled_area(corners);
            }
            QVERIFY(sum == geometry::doubled_area(ring));
            QVERIFY(parts.size() <= ring.size() - 2);
        }
    }

    void a_convex_figure_is_one_part() {
        std::vector<TickPoint2> ring;
        for (int i = 0; i < 20; ++i) {
            const auto [c, s] = cos_sin(18.0 * i);
            ring.push_back({std::llround(c * 1e6), std::llround(s * 1e6)});
        }
        QCOMPARE(geometry::convex_parts({ring}).size(), size_t(1));
    }

    void a_hull_holds_all_points_and_is_closed() {
        Random random(2407);
        for (int round = 0; round < test::rounds(100); ++round) {
            std::vector<TickPoint> points;
            const int range = random.chance(0.5) ? 3 : 1'000'000; // many in one plane, or hardly any
            for (int i = random.whole(6, 40); i > 0; --i)
                points.push_back({random.whole(0, range), random.whole(0, range), random.whole(0, range)});
            const auto faces = geometry::convex_hull(points);
            std::map<std::pair<int, int>, int> edges;
            for (const auto& face : faces) {
                Vec3 normal(0);
                auto at = [&](int i) {
                    return Vec3(double(points[size_t(i)].x), double(points[size_t(i)].y),
                                double(points[size_t(i)].z));
                };
                for (size_t i = 1; i + 1 < face.size(); ++i)
                    normal += glm::cross(at(face[i]) - at(face[0]), at(face[i + 1]) - at(face[0]));
                QVERIFY(glm::length(normal) > 0);
                normal = glm::normalize(normal);
                for (int i = 0; i < int(points.size()); ++i)
                    QVERIFY(glm::dot(at(i) - at(face[0]), normal) < 1e-3);
                for (size_t i = 0; i < face.size(); ++i) ++edges[{face[i], face[(i + 1) % face.size()]}];
            }
            for (const auto& [edge, count] : edges) {
                QCOMPARE(count, 1);
                QVERIFY(edges.contains({edge.second, edge.first}));
            }
        }
    }

    void flat_points_have_no_hull() {
        QVERIFY(geometry::convex_hull({{0, 0, 0}, {1, 0, 0}, {0, 1, 0}, {5, 5, 0}}).empty());
        QVERIFY(geometry::convex_hull({{0, 0, 0}, {1, 0, 0}}).empty());
        QVERIFY(geometry::convex_hull({}).empty());
    }
};

QTEST_GUILESS_MAIN(ShapesTest)
#include "shapes_test.moc"
