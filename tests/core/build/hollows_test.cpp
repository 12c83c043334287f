#include <QtTest/QtTest>

#include "core/build/shape_maker.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::test;

/// What takes matter away from one brush alone: shells, and cuts limited to their group.
class HollowsTest : public QObject {
    Q_OBJECT

private slots:
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

    void an_opening_stays_open_however_the_shell_is_turned() {
        Random random(1330);
        for (int round = 0; round < test::rounds(400); ++round) {
            Brush room = of(Shape::box, {random.stepped(1, 6, 0.01), random.stepped(1, 6, 0.01),
                                         random.stepped(1, 4, 0.01)});
            if (round == 0) room.size = {3.97, 2.83, 2.72};
            room.shell_m = 0.1;
            room.open_sides = {BoxSide(round % 6)};
            if (round == 0) room.open_sides = {BoxSide::right};
            room.place.turn_deg = round == 0 ? 284.00533659122357 : random.stepped(0, 360, 1e-9);
            const auto turned = facts(room);
            QCOMPARE(turned.faces, size_t(5 + 5 + 1)); // a film across it would be one more
            QCOMPARE(turned.open_edges, size_t(0));
        }
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

    void shapes_of_many_cells_become_shells_too() {
        Brush yard = outline({{0, 0}, {10, 0}, {10, 10}, {0, 10}}, 4);
        yard.holes = {{{3, 3}, {3, 7}, {7, 7}, {7, 3}}};
        yard.shell_m = 0.5;
        QCOMPARE(problem_of(yard), std::string());
        // Matter of 100 - 16 in plan; the hollow is half a metre smaller all round, round the yard too.
        const double hollow = (9 * 9 - 5 * 5) * 3;
        QVERIFY(near(facts(yard).volume_m3, (100 - 16) * 4 - hollow));
        yard.open_sides = {BoxSide::top};
        QVERIFY(near(facts(yard).volume_m3, (100 - 16) * 4 - (9 * 9 - 5 * 5) * 3.5));
        QCOMPARE(facts(yard).open_edges, size_t(0));

        Brush gate = of(Shape::arch, {6, 3, 5});
        gate.arch = ArchKind::flat, gate.thickness_m = 1;
        gate.shell_m = 0.2;
        QCOMPARE(problem_of(gate), std::string());
        const double solid = (6 * 5 - 4 * 4) * 3, inner = (5.6 * 4.6 - 4.4 * 4) * 2.6;
        QVERIFY(near(facts(gate).volume_m3, solid - inner, 1e-5));

        Brush walls = wall({{0, 0}, {8, 0}, {8, 6}, {0, 6}}, 1, 3, true);
        walls.shell_m = 0.25;
        QCOMPARE(problem_of(walls), std::string());
        const double ring = 9 * 7 - 7 * 5, gap = 8.5 * 6.5 - 7.5 * 5.5;
        QVERIFY(near(facts(walls).volume_m3, ring * 3 - gap * 2.5, 1e-5));
        QCOMPARE(facts(walls).open_edges, size_t(0));
    }

    void winding_stairs_become_shells_however_they_stand() {
        Random random(2412);
        Brush flight = of(Shape::curved_stairs, {8, 8, 4});
        flight.angle_deg = 180, flight.steps = 10, flight.inner_part = 0.4;
        const double solid = facts(flight).volume_m3;
        flight.shell_m = 0.1;
        QCOMPARE(problem_of(flight), std::string());
        const double straight = facts(flight).volume_m3;
        QVERIFY(straight < 0.7 * solid && straight > 0.1 * solid);
        for (int round = 0; round < test::rounds(5); ++round) {
            flight.place.rotation = random.rotation();
            const auto tipped = facts(flight);
            QVERIFY(near(tipped.volume_m3, straight, 1e-4));
            QCOMPARE(tipped.open_edges, size_t(0));
        }
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
            layer.items = {item("far", far), item("out", own), Item{{"g"}, {}, false, group, {}}};
            level.layers = {layer};
            // Both blocks are alike, so that the one outside fills what the cuts take from the other.
            const auto same = facts_of(build::surface_of(build::build_solid(level)));
            QVERIFY(near(same.volume_m3, 64 + 108));
            QCOMPARE(same.open_edges, size_t(0));
            // Without the block outside, the cuts do what cuts do.
            Layer alone = layer;
            alone.items = {layer.items[0], layer.items[2]};
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
            other.items.set(1, item("c1", moved));
            alone.items.set(1, Item{{"g"}, {}, false, other, {}});
            level.layers = {alone};
            const auto again = facts_of(build::surface_of(builder.build(level)));
            const auto fresh = facts_of(build::surface_of(build::build_solid(level)));
            QVERIFY(near(again.volume_m3, fresh.volume_m3, 1e-9));
            QCOMPARE(again.faces, fresh.faces);
            QCOMPARE(again.open_edges, size_t(0));
            other.items.set(2, item("c2", plain));
            alone.items.set(1, Item{{"g"}, {}, false, other, {}});
            level.layers = {alone};
            const auto last = facts_of(build::surface_of(builder.build(level)));
            QVERIFY(
                near(last.volume_m3, facts_of(build::surface_of(build::build_solid(level))).volume_m3, 1e-9));
            QCOMPARE(last.open_edges, size_t(0));
        }
    }
};

RUBBLE_TEST(HollowsTest)
#include "hollows_test.moc"
