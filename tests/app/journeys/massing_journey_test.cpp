#include "app/window_driver.h"

#include "build/surface_builder.h"
#include "edit/massing.h"
#include "level/brush_shape.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::app;

/// A hill massed from nothing in the real window with mouse, wheel and keys alone.
class MassingJourneyTest : public WindowDriver {
    Q_OBJECT

    double volume() { return build::facts_of(*session().built().surface).volume_m3; }
    const MassGrid& cells() { return selected().cells; }
    Vec3 hill_top(const Vec3& at) { return {at.x, at.y, box_of(*session().selected()).high.z}; }

    /// 4 × 4 m at the middle of the floor, a metre high.
    ItemId begin_hill() {
        view().setFocus();
        key(Qt::Key_B, Qt::ShiftModifier);
        drag(Vec3(-1.75, -1.75, 0), Vec3(1.75, 1.75, 0));
        wheel({0.25, 0.25, 0}, 2);
        return session().selection().at(0);
    }

private slots:
    void a_hill_is_raised_from_the_ground_and_sloped() {
        const double floor = volume();
        const ItemId hill = begin_hill();
        QCOMPARE(find_item(session().level(), hill)->brush()->shape, Shape::mass);
        QVERIFY(std::abs(volume() - floor - 4 * 4 * 1) < 1e-6);
        // Again and again: by a key, by the wheel, back by undo.
        key(Qt::Key_Plus);
        key(Qt::Key_PageUp);
        settle();
        QVERIFY(std::abs(volume() - floor - 4 * 4 * 2) < 1e-6);
        key(Qt::Key_Z, Qt::ControlModifier);
        key(Qt::Key_Minus);
        settle();
        QVERIFY(std::abs(volume() - floor - 4 * 4 * 1) < 1e-6);
        // The mark on the side that faces the eye is dragged down: a ramp that the facts speak of.
        QVERIFY(session().area());
        QCOMPARE(session().area()->levels.size(), size_t(64));
        wheel({0.25, 0.25, 1}, -1);
        wheel({2, 0, 0.5}, -1);
        settle();
        QVERIFY(std::abs(volume() - floor - 4 * 4 * 0.25) < 1e-6);
        keep_picture("mass_ramp");
        bool said = false;
        for (const QLabel* label : window_->findChildren<QLabel*>())
            said |= label->text().contains("Rises 7.1°");
        QVERIFY(said);
        // Undone to the very same cells.
        const MassGrid ramp = cells();
        key(Qt::Key_Z, Qt::ControlModifier);
        key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
        QVERIFY(cells() == ramp);
    }

    void an_area_is_marked_added_to_and_dragged_up() {
        begin_hill();
        // A part of its top, then more with Shift.
        key(Qt::Key_Escape);
        drag(Vec3(-1.75, -1.75, 1), Vec3(-0.75, -0.75, 1));
        QCOMPARE(session().area()->levels.size(), size_t(9));
        drag(Vec3(0.75, 0.75, 1), Vec3(1.25, 1.25, 1), Qt::ShiftModifier);
        QCOMPARE(session().area()->levels.size(), size_t(13));
        // On what is marked, a drag makes it bigger.
        drag(Vec3(-0.75, -0.75, 1), Vec3(-0.25, -0.75, 1));
        QCOMPARE(session().area()->levels.size(), size_t(14));
        // All of one level.
        click({0.25, -0.25, 1}, Qt::ControlModifier);
        QCOMPARE(session().area()->levels.size(), size_t(64));
        key(Qt::Key_Escape);
        click({0.25, 0.25, 1});
        QCOMPARE(session().area()->levels.size(), size_t(1));
        const double before = volume();
        // The arrow over it, by the mouse and by a typed height.
        const Vec3 middle(0.25, 0.25, 1);
        const Vec3 arrow = middle + Vec3(0, 0, 36 * view().camera().metres_per_pixel(middle));
        move_to(arrow);
        QTest::mousePress(&view(), Qt::LeftButton, {}, at(arrow));
        move_to(arrow + Vec3(0, 0, 1), Qt::LeftButton);
        settle();
        QVERIFY(std::abs(volume() - before - 0.25) < 1e-6); // seen while it is dragged
        keep_picture("mass_arrow");
        QTest::keyClicks(&view(), "1.5");
        QTest::mouseRelease(&view(), Qt::LeftButton, {}, at(arrow));
        settle();
        QVERIFY(std::abs(volume() - before - 0.25 * 1.5) < 1e-6);
        QCOMPARE(session().documents().undo_text(), QString("Raise"));
    }

    void ground_is_dug_into_and_walls_are_marked() {
        const double floor = volume();
        view().setFocus();
        key(Qt::Key_B, Qt::ShiftModifier);
        drag(Vec3(-0.75, -0.75, 0), Vec3(0.75, 0.75, 0));
        key(Qt::Key_Minus); // the floor is half a metre thick: this digs right through it
        settle();
        QCOMPARE(selected().effect, Effect::cut);
        QVERIFY(std::abs(floor - volume() - 2 * 2 * 0.5) < 1e-6);
        keep_picture("mass_pit");
        // Raised again, nothing is left of the pit.
        key(Qt::Key_Plus);
        settle();
        QVERIFY(session().selection().empty());
        QVERIFY(std::abs(volume() - floor) < 1e-6);
        // A wall of a hill is marked and pulled out.
        begin_hill();
        key(Qt::Key_Escape);
        const double before = volume();
        const bool from_near = view().camera().eye().y < -2;
        const Vec3 wall(0.25, from_near ? -2 : 2, 0.75);
        click(wall);
        QCOMPARE(session().area()->axis, 1);
        key(Qt::Key_Plus);
        settle();
        QVERIFY(std::abs(volume() - before - 0.125) < 1e-6);
    }

    void cells_are_halved_doubled_and_become_brushes() {
        begin_hill();
        key(Qt::Key_Escape);
        const double whole = volume();
        press("Finer cells");
        settle();
        QCOMPARE(cells().cell_m, 0.25);
        QVERIFY(std::abs(volume() - whole) < 1e-6);
        click({0.3, 0.3, 1});
        key(Qt::Key_Plus);
        settle();
        const double bump = volume();
        press("Coarser cells"); // says what is lost, and waits
        QCOMPARE(cells().cell_m, 0.25);
        press("Coarser cells");
        settle();
        QCOMPARE(cells().cell_m, 0.5);
        QVERIFY(volume() < bump);
        press("Turn into brushes");
        settle();
        QCOMPARE(session().selection().size(), size_t(1));
        QVERIFY(session().selected()->group());
        QVERIFY(std::abs(volume() - whole) < 1e-6);
    }

    /// From nothing to the proof that one gets up: what a hillside is massed for.
    void a_ramp_of_a_hillside_leads_up_to_a_door() {
        draw_box(Qt::Key_B, {2, -2, 0}, {6, 2, 0}, "2");
        window_->use_tool("place goal");
        click({4, 0, 2});
        settle();
        QVERIFY(goal_reached() == check::Reached::no);
        key(Qt::Key_B, Qt::ShiftModifier);
        drag(Vec3(-2.75, -0.75, 0), Vec3(1.75, 0.75, 0));
        QTest::keyClick(&view(), Qt::Key_PageUp);
        settle();
        QCOMPARE(selected().shape, Shape::mass);
        const auto bounds = edit::bounds_of(*session().area());
        QCOMPARE(bounds.width(0), 10);
        // The side at the house is lifted to its roof.
        const Vec3 side(2, 0, 0.5);
        wheel(side, 3);
        QVERIFY(std::abs(selected().size.z - 2) < 1e-9);
        QVERIFY(goal_reached() == check::Reached::yes);
        keep_picture("hillside");
        // Smooth ground beside it: a stair of cells becomes a ramp by one button.
        key(Qt::Key_Escape);
        key(Qt::Key_6);
        QVERIFY(view().mode() == ViewMode::size);
        keep_picture("heights");
        key(Qt::Key_1);
    }

    void a_linked_mass_follows_and_a_locked_one_stays() {
        const ItemId hill = begin_hill();
        key(Qt::Key_D, Qt::ControlModifier | Qt::ShiftModifier);
        settle();
        const ItemId copy = session().selection().at(0);
        QVERIFY(copy != hill);
        session().select({hill});
        session().selected_items().mark(edit::area_between(cells(), 2, 1, {0, 0}, {0, 0}, 2, false));
        key(Qt::Key_Plus);
        QVERIFY(find_item(session().level(), copy)->brush()->cells == cells());
        Layer layer = *session().level().layers[0];
        layer.locked = true;
        session().apply(edit::with_layer(session().level(), layer), "Lock");
        session().select({});
        settle();
        click({-1.25, -1.25, 1});
        QVERIFY(session().selection().empty());
    }
};

RUBBLE_TEST(MassingJourneyTest)
#include "massing_journey_test.moc"
