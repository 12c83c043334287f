#include "app/window_driver.h"

#include <QTreeWidget>

#include "edit/body.h"
#include "edit/repeats.h"
#include "level/brush_shape.h"
#include "level/item_search.h"
#include "test_program.h"
#include "window/number_field.h"

using namespace rubble;
using namespace rubble::app;

/// A small place blocked out in the real window with mouse and keys alone, from an outline to a walk in it.
class BlockOutJourneyTest : public WindowDriver {
    Q_OBJECT

    size_t brushes() { return ordered_brushes(session().level()).size(); }

private slots:
    void an_outline_becomes_a_room_with_a_door_and_a_window() {
        plan().frame_all();
        const ItemId room = draw_room(0);
        QCOMPARE(selected().shape, Shape::outline);
        QCOMPARE(selected().shell_m, 0.25);
        window_->use_tool("place goal");
        click_in(plan(), {4.5, 4.5, 0});
        settle();
        QVERIFY(goal_reached() == check::Reached::no);

        key(Qt::Key_E); // a door into the wall that faces the eye
        click({1.5, 0, 1.5});
        settle();
        QCOMPARE(selected().host, room);
        QCOMPARE(selected().effect, Effect::cut);
        QVERIFY(goal_reached() == check::Reached::yes);
        const ItemId door = session().selection()[0];
        key(Qt::Key_F);
        click({4, 0, 1.5});
        QCOMPARE(session().selected()->name, std::string("Window"));
        keep_picture("room");

        // The room moves, and takes them along; the door slides along its wall.
        key(Qt::Key_Q);
        session().select({room});
        view().setFocus();
        QTest::keyClick(&view(), Qt::Key_Left);
        QVERIFY(std::abs(find_item(session().level(), door)->brush()->place.at.x - 1) < 1e-9);
        session().documents().undo();
        session().select({door});
        enter("Middle of base, x", "2");
        settle();
        QVERIFY(goal_reached() == check::Reached::yes);
        // Without the room there is no door.
        session().select({room});
        key(Qt::Key_Delete);
        QVERIFY(!find_item(session().level(), door));
        session().documents().undo();
        QVERIFY(find_item(session().level(), door));
    }

    void the_yard_is_mirrored_and_stays_linked() {
        plan().frame_all();
        draw_box(Qt::Key_B, {2, -4, 0}, {4, -3, 0}, "1");
        const ItemId crate = session().selection()[0];
        key(Qt::Key_M, Qt::ShiftModifier);
        move_to(plan(), at(plan(), {0, -3.5, 0}));
        QCOMPARE(brushes(), size_t(3)); // seen before the click
        keep_picture("mirror");
        click_in(plan(), {0, -3.5, 0}, Qt::ControlModifier);
        QCOMPARE(brushes(), size_t(3));
        const ItemId image = session().selection()[0];
        QVERIFY(image != crate);
        QCOMPARE(selected().place.at.x, -3.0);
        key(Qt::Key_Q);
        session().select({crate});
        enter("Height", "2");
        QCOMPARE(find_item(session().level(), image)->brush()->size.z, 2.0);
        press("Make independent");
        enter("Height", "3");
        QCOMPARE(find_item(session().level(), image)->brush()->size.z, 2.0);
        // And linked again: the one that was selected last takes the shape of the first.
        session().select({image, crate});
        press("Make linked copies of");
        QCOMPARE(find_item(session().level(), crate)->brush()->size.z, 2.0);
        session().select({crate});
        enter("Height", "3");
        QCOMPARE(find_item(session().level(), image)->brush()->size.z, 3.0);
        // Escape leaves nothing behind.
        key(Qt::Key_M, Qt::ShiftModifier);
        move_to(plan(), at(plan(), {5, -3.5, 0}));
        QCOMPARE(brushes(), size_t(4));
        QTest::keyClick(&plan(), Qt::Key_Escape);
        QCOMPARE(brushes(), size_t(3));
        key(Qt::Key_Q);
    }

    void a_row_is_repeated_and_its_numbers_changed_together() {
        draw_box(Qt::Key_B, {-6, -6, 0}, {-5, -5, 0}, "1");
        key(Qt::Key_R, Qt::ControlModifier);
        QCOMPARE(brushes(), size_t(5)); // three times, seen while it is asked
        enter("Times", "4");            // Enter keeps it
        QCOMPARE(session().selection().size(), size_t(5));
        enter("Middle of base, x", "+ 1");
        enter("Height", "0.5");
        for (const ItemId& id : session().selection())
            QCOMPARE(find_item(session().level(), id)->brush()->size.z, 0.5);
        QCOMPARE(find_item(session().level(), session().selection()[0])->brush()->place.at.x, -4.5);
        auto* x = named<NumberField>("Middle of base, x");
        QCOMPARE(x->text(), QString("mixed"));
        settle();
    }

    void fills_and_cuts_change_their_order_by_keys() {
        draw_box(Qt::Key_B, {0, 0, 0}, {3, 3, 0}, "2");
        draw_box(Qt::Key_X, {1, 1, 2}, {2, 2, 2}, "-1");
        const double with_pit = facts_of(*session().built().surface).volume_m3;
        const auto says = [&](const QString& part) {
            for (const QLabel* label : window_->findChildren<QLabel*>())
                if (label->text().contains(part)) return true;
            return false;
        };
        QVERIFY(says("3 of 3 in order"));
        view().setFocus();
        key(Qt::Key_Down, Qt::ControlModifier); // the cut before the block: it cuts nothing of that
        settle();
        QVERIFY(says("2 of 3 in order"));
        QVERIFY(std::abs(facts_of(*session().built().surface).volume_m3 - with_pit - 1) < 0.02);
        key(Qt::Key_Up, Qt::ControlModifier);
        settle();
        QVERIFY(std::abs(facts_of(*session().built().surface).volume_m3 - with_pit) < 1e-9);
        key(Qt::Key_Up, Qt::ControlModifier);
        QVERIFY(says("It is already the last in its layer"));
    }

    void a_measure_says_what_it_means_and_stays() {
        draw_box(Qt::Key_B, {-4, -4, 0}, {-2, -2, 0}, "1");
        draw_box(Qt::Key_B, {1, -4, 0}, {3, -2, 0}, "1");
        plan().frame_all();
        key(Qt::Key_M);
        click_in(plan(), {-2, -2, 1});
        click_in(plan(), {1, -2, 1});
        QTest::keyClick(&plan(), Qt::Key_Return);
        QCOMPARE(session().level().dimensions.size(), size_t(1));
        Vec3 from, to;
        const Dimension& kept = session().level().dimensions[0];
        QVERIFY(place_of(session().level(), kept.from, from) && place_of(session().level(), kept.to, to));
        QVERIFY(std::abs(glm::length(to - from) - 3) < 1e-6);
        keep_picture("measure");
        session().select({kept.to.item});
        enter("Middle of base, x", "+ 2");
        QVERIFY(place_of(session().level(), session().level().dimensions[0].to, to));
        QVERIFY(std::abs(to.x - 3) < 1e-6);
        session().select({});
        QCoreApplication::processEvents();
        press("Remove this dimension");
        QVERIFY(session().level().dimensions.empty());
    }

    void items_are_found_shown_and_isolated() {
        draw_box(Qt::Key_B, {-4, -4, 0}, {-2, -2, 0}, "1");
        draw_box(Qt::Key_B, {1, -4, 0}, {3, -2, 0}, "2.5");
        session().select({});
        key(Qt::Key_F, Qt::ControlModifier);
        auto* text = named<QLineEdit>("Find an item");
        auto* rows = named<QListWidget>("Items");
        QTest::keyClicks(text, "height>2");
        QCOMPARE(rows->count(), 1);
        QTest::keyClick(text, Qt::Key_Return);
        QCOMPARE(selected().size.z, 2.5);
        QVERIFY(glm::length(view().camera().target - Vec3(2, -3, 1.25)) < 0.1);
        // One that nobody sees.
        text->clear();
        QTest::keyClicks(text, "lost");
        QCOMPARE(rows->count(), 0);
        Brush buried;
        buried.size = {0.2, 0.2, 0.2};
        buried.place.at = {2, -3, 0.5};
        session().apply(edit::with_item(session().level(), 0, {{"buried"}, "Buried", false, buried, {}}),
                        "Buried");
        settle();
        text->clear();
        QTest::keyClicks(text, "lost");
        QCOMPARE(rows->count(), 1);
        QVERIFY(rows->item(0)->text().contains("inside matter"));
        keep_picture("lost");
        QTest::keyClick(text, Qt::Key_Escape);
        session().select({ordered_brushes(session().level())[1].item->id});
        view().setFocus();
        key(Qt::Key_I, Qt::ControlModifier);
        settle();
        QCOMPARE(session().built().hidden, (std::vector<bool>{true, false, true, true}));
        QVERIFY(session().documents().saved() == false);
        key(Qt::Key_I, Qt::ControlModifier);
        settle();
        QCOMPARE(session().built().hidden, std::vector<bool>(4, false));
    }

    void a_locked_layer_is_not_caught() {
        draw_box(Qt::Key_B, {-4, -4, 0}, {-2, -2, 0}, "1");
        session().select({});
        Layer layer = *session().level().layers[0];
        layer.locked = true;
        session().apply(edit::with_layer(session().level(), layer), "Lock");
        settle();
        click({-3, -3, 1});
        QVERIFY(session().selection().empty());
        session().documents().undo();
        settle();
        click({-3, -3, 1});
        QCOMPARE(session().selection().size(), size_t(1));
    }

    void views_show_wire_slopes_collision_and_a_slice() {
        draw_box(Qt::Key_T, {-4, -4, 0}, {0, -2, 0}, "2");
        const Level before = session().level();
        for (const auto& [pressed, mode] : {std::pair{Qt::Key_2, ViewMode::wire},
                                            {Qt::Key_3, ViewMode::slope},
                                            {Qt::Key_4, ViewMode::collision}}) {
            key(pressed);
            QVERIFY(view().mode() == mode);
            keep_picture(mode == ViewMode::wire ? "wire" : mode == ViewMode::slope ? "slope" : "collision");
        }
        key(Qt::Key_1);
        QVERIFY(view().mode() == ViewMode::plain);
        key(Qt::Key_F, Qt::ShiftModifier);
        key(Qt::Key_5);
        QVERIFY(plan().camera().slice);
        QVERIFY(std::abs(plan().camera().slice->to - plan().camera().slice->from - 2.02) < 1e-6);
        key(Qt::Key_5);
        QVERIFY(!plan().camera().slice);
        // From here to there, in the other way; too thin a strip is none.
        session().select({});
        key(Qt::Key_Y, Qt::ShiftModifier);
        drag(Vec3(1, 2, 0), Vec3(1, 2, 0));
        QVERIFY(!plan().camera().slice);
        drag(Vec3(-5, 2, 0), Vec3(-1, 2.5, 0));
        QVERIFY(plan().camera().slice && plan().camera().kind == Camera::Kind::right);
        QVERIFY(std::abs(plan().camera().slice->to - plan().camera().slice->from - 4.02) < 1e-6);
        QCoreApplication::processEvents();
        keep_picture("slice");
        QVERIFY(session().level() == before);
    }
};

RUBBLE_TEST(BlockOutJourneyTest)
#include "block_out_journey_test.moc"
