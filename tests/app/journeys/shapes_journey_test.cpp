#include "app/window_driver.h"

#include "level/brush_shape.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::app;

/// Shapes drawn in the real window, and what the character makes of them.
class ShapesJourneyTest : public WindowDriver {
    Q_OBJECT

    void place_goal(const Vec3& where) {
        window_->use_tool("place goal");
        click(where);
        window_->use_tool("select");
        settle();
    }
    void draw_terrace() {
        key(Qt::Key_L);
        for (const Vec3& corner :
             {Vec3(0, 1, 0), Vec3(6, 1, 0), Vec3(6, 6, 0), Vec3(3, 6, 0), Vec3(3, 4, 0), Vec3(0, 4, 0)})
            click(corner);
        click({0, 1, 0}); // the first one again
        type("2");
    }

private slots:
    void stairs_to_a_raised_outline_are_walked() {
        draw_terrace();
        QCOMPARE(selected().shape, Shape::outline);
        QCOMPARE(selected().points.size(), size_t(6));
        place_goal({4.5, 4, 2});
        QCOMPARE(elements_of(session().level(), Role::goal)[0]->element()->at.z, 2.0);
        QVERIFY(goal_reached() == check::Reached::no);

        key(Qt::Key_I, Qt::NoModifier);
        drag({-4, 1, 0}, {0, 3, 0});
        type("2");
        QCOMPARE(selected().shape, Shape::stairs);
        QCOMPARE(selected().steps, 5);
        QVERIFY(goal_reached() == check::Reached::yes);
        keep_picture("terrace");

        // Fewer steps are too high, and taking that back makes them good again.
        auto* steps = named<QLineEdit>("Steps");
        QVERIFY(steps);
        steps->setFocus();
        steps->selectAll();
        QTest::keyClicks(steps, "1");
        QTest::keyClick(steps, Qt::Key_Return);
        settle();
        QVERIFY(goal_reached() == check::Reached::no);
        session().documents().undo();
        settle();
        QVERIFY(goal_reached() == check::Reached::yes);
    }

    void a_wall_with_an_arch_in_it_is_passed_through() {
        // A yard with walls all round, then a cut where the arch will stand.
        place_goal({4.5, 0, 0});
        key(Qt::Key_L, Qt::ShiftModifier);
        for (const Vec3& corner : {Vec3(2, -3, 0), Vec3(7, -3, 0), Vec3(7, 3, 0), Vec3(2, 3, 0)})
            click(corner);
        click({2, -3, 0});
        type("3");
        QCOMPARE(selected().shape, Shape::wall_run);
        QVERIFY(selected().closed);
        QVERIFY(goal_reached() == check::Reached::no);
        Brush opening;
        opening.effect = Effect::cut;
        opening.size = {1, 3, 3};
        opening.place.at.x = 2;
        session().apply(edit::with_item(session().level(), 0, {{"opening"}, {}, false, opening, {}}), "Cut");
        Brush arch;
        arch.shape = Shape::arch;
        arch.size = {3, 0.5, 3};
        arch.place.at.x = 2;
        arch.place.turn_deg = 90;
        arch.thickness_m = 0.5;
        session().apply(edit::with_item(session().level(), 0, {{"arch"}, {}, false, arch, {}}), "Arch");
        settle();
        QVERIFY(goal_reached() == check::Reached::yes);
        keep_picture("arch");
    }

    void what_was_drawn_is_saved_and_opened_as_it_was() {
        draw_terrace();
        key(Qt::Key_O, Qt::ShiftModifier);
        drag({-5, -5, 0}, {-3, -3, 0});
        type("2");
        QCOMPARE(selected().shape, Shape::ball);
        const Level before = session().level();
        const QString file = folder_.filePath("shapes.level.json");
        QVERIFY(session().files().save(file));
        Session other;
        QVERIFY(other.files().open(file));
        QCOMPARE(ordered_brushes(other.level()).size(), ordered_brushes(before).size());
        for (size_t i = 0; i < ordered_brushes(before).size(); ++i)
            QVERIFY(*ordered_brushes(other.level())[i].brush == *ordered_brushes(before)[i].brush);
    }

    void a_drawn_outline_is_stretched_by_its_dot() {
        draw_terrace();
        key(Qt::Key_Q);
        const BoxSide side = facing_side(selected());
        const int axis = int(side) / 2;
        const double before = selected().size[axis];
        const Vec3 dot = edit::middle_of(selected(), side);
        drag(dot, dot + edit::outward(selected(), side));
        settle();
        QCOMPARE(selected().size[axis], before + 1);
        QCOMPARE(problem_of(selected()), std::string());
        session().documents().undo();
        QCOMPARE(selected().size[axis], before);
    }
};

RUBBLE_TEST(ShapesJourneyTest)
#include "shapes_journey_test.moc"
