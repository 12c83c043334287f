#include "app/window_driver.h"

#include <QToolButton>
#include <QTreeWidget>

#include "build/surface_builder.h"
#include "edit/body.h"
#include "edit/massing.h"
#include "level/brush_shape.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::app;

/// One place, from an empty level to a walk into it, in the real window with mouse, wheel and keys: a room on
/// a plinth, a bent wall, a yard mirrored, a hillside up to the door, the roof taken off, measured, entered.
class PlaceJourneyTest : public WindowDriver {
    Q_OBJECT

    /// An L on a plinth two metres high, open above and below, its walls a quarter metre thick.
    ItemId raise_room() {
        draw_box(Qt::Key_B, {-0.5, -0.5, 0}, {6.5, 6.5, 0}, "2");
        plan().frame_all();
        return draw_room(2);
    }

    void put_door_and_window(const ItemId& room) {
        view().frame_all();
        key(Qt::Key_E);
        keep_picture("place_room");
        click({1.5, 0, 3.25});
        settle();
        QCOMPARE(selected().host, room);
        QCOMPARE(selected().effect, Effect::cut);
        key(Qt::Key_F);
        click({4, 0, 3.5});
        settle();
        QCOMPARE(selected().host, room);
        key(Qt::Key_Q);
        session().select({});
    }

    /// A wall whose end is framed in plan and pushed back, so that it follows a bent floor; its end rounded.
    void bend_wall() {
        draw_box(Qt::Key_B, {-7, 4, 0}, {-2, 4.5, 0}, "2");
        click({-5.75, 4, 2});
        key(Qt::Key_S, Qt::ShiftModifier); // a ring of edges in its middle
        QCOMPARE(selected().corners.size(), size_t(12));
        key(Qt::Key_Escape);
        plan().frame_all();
        drag(plan(), at(plan(), {-3, 6, 0}), at(plan(), {-1, 3, 0}), Qt::ShiftModifier);
        QCOMPARE(session().picks().points.size(), size_t(4));
        enter("y", "+ 1");
        QCOMPARE(own_box(selected()).high.y - own_box(selected()).low.y, 1.5);
        QCOMPARE(flaw_of(edit::mesh_of(*session().body())), MeshFlaw::none);
        // The corner at its near end.
        key(Qt::Key_Escape);
        const size_t faces = selected().faces.size();
        settle();
        view().fly_to({-7, 4, 1});
        click({-7, 4, 1.25});
        keep_picture("place_wall");
        QCOMPARE(session().picks().edges.size(), size_t(1));
        key(Qt::Key_R, Qt::ShiftModifier);
        QVERIFY(selected().faces.size() > faces + 1);
        QCOMPARE(flaw_of(edit::mesh_of(*session().body())), MeshFlaw::none);
        key(Qt::Key_Escape);
        key(Qt::Key_Escape);
        view().frame_all();
    }

    void mirror_yard() {
        draw_box(Qt::Key_B, {3, -5, 0}, {4.5, -4, 0}, "1");
        const ItemId crate = session().selection().at(0);
        key(Qt::Key_M, Qt::ShiftModifier);
        click_in(plan(), {5, -4.5, 0}, Qt::ControlModifier);
        const ItemId image = session().selection().at(0);
        QVERIFY(image != crate);
        key(Qt::Key_Q);
        session().select({image});
        enter("Height", "1.5");
        QCOMPARE(find_item(session().level(), crate)->brush()->size.z, 1.5);
        session().select({});
    }

    /// A hillside in front of the door, level with the ground at its foot and with the plinth at the door.
    void mass_ramp() {
        view().setFocus();
        key(Qt::Key_B, Qt::ShiftModifier);
        drag(Vec3(0.75, -4.75, 0), Vec3(2.25, -0.75, 0));
        QTest::keyClick(&view(), Qt::Key_PageUp);
        settle();
        QCOMPARE(selected().shape, Shape::mass);
        wheel({1.5, -5, 0.5}, -1);
        wheel({1.5, -0.5, 0.5}, 3);
        QVERIFY(std::abs(selected().size.z - 2) < 1e-9);
        key(Qt::Key_Escape);
        key(Qt::Key_Escape);
        key(Qt::Key_Q);
        session().select({});
    }

    void add_roof_and_hide_it() {
        QTest::mouseClick(named<QToolButton>("Add a layer"), Qt::LeftButton);
        QCOMPARE(session().layer(), 1);
        draw_box(Qt::Key_B, {0, 0, 5}, {6, 3, 5}, "0.25");
        QCOMPARE(selected().place.at.z, 5.0);
        const ItemId roof = session().selection().at(0);
        session().select({});
        settle();
        keep_picture("place_roofed");
        named<QTreeWidget>("Layers")->topLevelItem(1)->setCheckState(0, Qt::Unchecked);
        QTRY_VERIFY(session().level().layers[1]->hidden);
        settle();
        size_t hidden = 0;
        for (size_t i = 0; i < session().built().solid->brushes.size(); ++i)
            if (session().built().hidden[i]) {
                ++hidden;
                QCOMPARE(session().built().solid->brushes[i]->item, roof);
            }
        QCOMPARE(hidden, size_t(1));
    }

private slots:
    void a_place_is_blocked_out_from_nothing_and_walked_into() {
        const ItemId room = raise_room();
        window_->use_tool("place goal");
        click_in(plan(), {4.5, 4.5, 2});
        window_->use_tool("select");
        settle();
        QVERIFY(goal_reached() == check::Reached::no);
        put_door_and_window(room);
        bend_wall();
        mirror_yard();
        settle();
        QVERIFY(goal_reached() == check::Reached::no); // the door is too high up
        mass_ramp();
        QVERIFY(goal_reached() == check::Reached::yes);
        keep_picture("place_ramp");
        add_roof_and_hide_it();
        QVERIFY(goal_reached() == check::Reached::yes);

        // How far it is from one crate of the yard to the other, and what that means; it stays.
        key(Qt::Key_M);
        click_in(plan(), {4.5, -4, 1.5});
        click_in(plan(), {5.5, -4, 1.5});
        QTest::keyClick(&plan(), Qt::Key_Return);
        QCOMPARE(session().level().dimensions.size(), size_t(1));
        Vec3 from, to;
        const Dimension& kept = session().level().dimensions[0];
        QVERIFY(place_of(session().level(), kept.from, from) && place_of(session().level(), kept.to, to));
        QVERIFY(std::abs(glm::length(to - from) - 1) < 1e-6);
        keep_picture("place_measured");
        key(Qt::Key_Q);

        // In through the door, from the foot of the hillside.
        session().select({elements_of(session().level(), Role::start)[0]->id});
        enter("x", "1.5");
        enter("y", "-6");
        enter("Facing", "90");
        settle();
        session().select({});
        // With the pointer beside the views the walk begins at the start.
        for (LevelView* one : {&view(), &plan()}) one->setAttribute(Qt::WA_UnderMouse, false);
        key(Qt::Key_G);
        QVERIFY(view().walking());
        hold_until(Qt::Key_W, [&] { return view().walker()->state().at.y > 1.5; });
        QVERIFY(std::abs(view().walker()->state().at.z - 2) < 0.05);
        keep_picture("place_walked_in");
        key(Qt::Key_Escape);
        QVERIFY(!view().walking());
    }
};

RUBBLE_TEST(PlaceJourneyTest)
#include "place_journey_test.moc"
