#include "app/window_driver.h"

#include "edit/repeats.h"
#include "level/item_search.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::app;

/// Parts put together, copied and kept alike, as one furnishes a hall with racks.
class GroupsJourneyTest : public WindowDriver {
    Q_OBJECT

    const Brush& member(const ItemId& group, size_t i) {
        return *find_item(session().level(), group)->group()->items[i]->brush();
    }
    /// Two posts with a shelf between them, as one group that is selected.
    ItemId build_rack() {
        draw_box(Qt::Key_B, {-6, -4, 0}, {-5.5, -3, 0}, "2");
        draw_box(Qt::Key_B, {-4, -4, 0}, {-3.5, -3, 0}, "2");
        draw_box(Qt::Key_B, {-5.5, -4, 0}, {-4, -3, 0}, "0.25");
        enter("Middle of base, z", "1");
        plan().frame_all();
        // A frame around all three in plan; the floor is not within it.
        drag(plan(), at(plan(), {-6.5, -4.5, 0}), at(plan(), {-3, -2.5, 0}), Qt::ShiftModifier);
        key(Qt::Key_G, Qt::ControlModifier);
        settle();
        return session().selection().at(0);
    }

private slots:
    void a_rack_is_put_together_copied_and_kept_alike() {
        const ItemId rack = build_rack();
        QVERIFY(session().selected()->group());
        QCOMPARE(session().selected()->group()->items.size(), size_t(3));
        keep_picture("rack");

        // A click on any part takes all of it.
        key(Qt::Key_Escape);
        QVERIFY(session().selection().empty());
        click({-5.75, -4, 1.5});
        QCOMPARE(session().selection(), std::vector<ItemId>{rack});

        // Dragged with Ctrl it leaves a copy, which is linked to it then.
        const Vec3 on(-5.75, -4, 0.6);
        drag(on, on + Vec3(0, 6, 0), Qt::ControlModifier);
        settle();
        const ItemId copy = session().selection().at(0);
        QVERIFY(copy != rack);
        QVERIFY(std::abs(member(copy, 0).place.at.y - member(rack, 0).place.at.y) > 3);
        session().select({rack, copy});
        QCoreApplication::processEvents();
        press("Make linked copies of");
        settle();

        // Into the group to a part of it: the other rack follows.
        session().select({rack});
        click(on);
        QCOMPARE(session().selection(),
                 std::vector<ItemId>{find_item(session().level(), rack)->group()->items[0]->id});
        enter("Height", "3");
        settle();
        QCOMPARE(member(copy, 0).size.z, 3.0);
        keep_picture("racks");

        // Out again, and it moves as one.
        view().setFocus();
        key(Qt::Key_Escape);
        QCOMPARE(session().selection(), std::vector<ItemId>{rack});
        const double before = member(rack, 2).place.at.x;
        key(Qt::Key_Right);
        QCOMPARE(member(rack, 2).place.at.x, before + session().grid_m());
        QCOMPARE(member(copy, 2).place.at.x, before);
        QTest::mouseMove(&view(), QPoint(5, 5));
        press("Ungroup");
        QCOMPARE(session().selection().size(), size_t(3));
    }

    void groups_say_what_they_are_and_are_named_moved_and_turned() {
        const ItemId rack = build_rack();
        QCoreApplication::processEvents();
        bool told = false;
        for (const QLabel* label : window_->findChildren<QLabel*>())
            told = told || label->text() == "A group of 3 items";
        QVERIFY(told);
        auto* name = named<QLineEdit>("Name");
        QVERIFY(name);
        name->setFocus();
        QTest::keyClicks(name, "Rack");
        QTest::keyClick(name, Qt::Key_Return);
        QCOMPARE(session().selected()->name, std::string("Rack"));
        const Box3 before = box_of(*session().selected());
        enter("Middle of base, x", "+ 2");
        QCOMPARE(box_of(*session().selected()).low.x, before.low.x + 2);
        enter("Middle of base, z", "1");
        QVERIFY(std::abs(box_of(*session().selected()).low.z - 1) < 1e-9);
        QCOMPARE(path_to(session().level(), session().selected()->group()->items[1]->id).size(), size_t(2));
        session().documents().undo();
        session().documents().undo();
        QCOMPARE(box_of(*session().selected()).low.x, before.low.x);
        QCOMPARE(session().selection(), std::vector<ItemId>{rack});
    }
};

RUBBLE_TEST(GroupsJourneyTest)
#include "groups_journey_test.moc"
