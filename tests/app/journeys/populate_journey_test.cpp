#include <QCheckBox>
#include <QComboBox>

#include "app/tiles_driver.h"
#include "level/element_kinds.h"
#include "level/element_values.h"
#include "motion/cells/letter.h"
#include "motion/elements.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::app;

/// Elements that act: placed, set, solved and played by mouse and keys.
class PopulateJourneyTest : public TilesDriver {
    Q_OBJECT

    const Item* newest(const char* kind) {
        const Item* found = nullptr;
        for (const Item* item : elements_of(session().stored_level()))
            if (item->element()->kind == kind) found = item;
        return found;
    }
    ItemId place(const char* kind, const Vec3& where) {
        window_->use_tool(QString("place %1").arg(kind));
        click(where);
        settle();
        const Item* item = newest(kind);
        return item ? item->id : ItemId{};
    }
    void type_into(const QString& field, const QString& text) {
        for (QLineEdit* line : window_->findChildren<QLineEdit*>())
            if (line->accessibleName() == field && line->isVisible()) {
                line->setFocus();
                line->selectAll();
                QTest::keyClicks(line, text);
                QTest::keyClick(line, Qt::Key_Return);
                settle();
                return;
            }
        QFAIL(qPrintable("no field " + field));
    }
    void choose(const QString& field, const QString& text) {
        for (QComboBox* box : window_->findChildren<QComboBox*>())
            if (box->accessibleName() == field && box->isVisible()) {
                const int index = box->findText(text);
                QVERIFY(index >= 0);
                box->setCurrentIndex(index);
                emit box->activated(index);
                settle();
                return;
            }
        QFAIL(qPrintable("no choice " + field));
    }
    check::Reached goal_is() {
        settle();
        for (const auto& place : session().built().check->places)
            if (role_of(*find_item(session().level(), place.item)->element()) == Role::goal)
                return place.reached;
        return check::Reached::undecided;
    }
    void solved_now() {
        QTRY_VERIFY_WITH_TIMEOUT(session().puzzle_answer().newest && session().puzzle_answer().puzzle, 20000);
    }
    /// Holds a key until something holds.
    void hold_until(Qt::Key key, const std::function<bool()>& done) {
        QTest::keyPress(&view(), key);
        QTRY_VERIFY_WITH_TIMEOUT(done(), 15000);
        QTest::keyRelease(&view(), key);
    }

private slots:
    void a_puzzle_is_placed_solved_ruined_and_walked() {
        start(Frame::plan);
        key(Qt::Key_U);
        drag(Vec3(0.5, 6.5, 0), Vec3(0.5, -6.5, 0)); // a wall through the room
        key(Qt::Key_Z);
        drag(Vec3(0.5, 0.5, 0), Vec3(0.5, 0.5, 0)); // a doorway
        for (QCheckBox* box : window_->findChildren<QCheckBox*>())
            if (box->text() == "Walked from cell to cell") box->click();
        settle();
        QCOMPARE(session().level().walked, Walked::by_cells);
        session().go_to(Stage::populate);
        // Everything that is offered is put down, and what it is stands in the facts.
        const Vec3 begin = met_at(session().level(), *newest("start")->element());
        const ItemId goal = place("goal", {5.5, 0.5, 0});
        const ItemId door = place("door", {0.5, 0.5, 0});
        QCOMPARE(find_item(session().level(), door)->element()->at, Vec3(0.5, 0.5, 0));
        type_into("Key it needs", "brass");
        QCOMPARE(goal_is(), check::Reached::no);
        const ItemId key_id = place("key", begin + Vec3(0.3, 2.3, 0));
        QCOMPARE(goal_is(), check::Reached::yes);
        const ItemId crate = place("crate", {2.5, 0.5, 0});
        QCOMPARE(goal_is(), check::Reached::yes);
        solved_now();
        QVERIFY(session().puzzle_answer().answer.solvable == true);
        const size_t ruins_before = session().puzzle_answer().answer.ruins.size();
        session().select({door});
        for (int i = 0; i < 3; ++i) QCoreApplication::processEvents();
        keep_picture("populate-puzzle");
        // Behind its own door the key helps nobody; that is said, and undone.
        Item behind = *find_item(session().stored_level(), key_id);
        std::get<Element>(behind.body).at = {3.5, 3.5, 0};
        session().apply(edit::with_changed(session().stored_level(), behind), "Move");
        QCOMPARE(goal_is(), check::Reached::no);
        solved_now();
        QVERIFY(session().puzzle_answer().answer.solvable == false);
        undo();
        QCOMPARE(goal_is(), check::Reached::yes);
        solved_now();
        QCOMPARE(session().puzzle_answer().answer.ruins.size(), ruins_before);
        // Walked: the key is taken, the door opens, the crate is pushed, and a second is taken back.
        session().select({});
        view().setFocus();
        move_to(begin);
        key(Qt::Key_G);
        QTRY_VERIFY(view().walker());
        const auto cell = [&] {
            const auto& cells = *view().walker()->world().moving().cells;
            return cells.middle_of(cells.cell_at(flat(view().walker()->state().at)));
        };
        hold_until(Qt::Key_W, [&] { return cell().y >= begin.y + 1.9; });
        const motion::CellPuzzle& puzzle = *view().walker()->world().moving().puzzle;
        const auto now = [&]() -> const motion::CellState& { return view().walker()->play().puzzle.cells; };
        QTRY_VERIFY(motion::held(puzzle, now(), motion::ThingKind::key, 0) == 1);
        paint(view());
        keep_picture("populate-walk");
        hold_until(Qt::Key_S, [&] { return cell().y <= 0.6; });
        const auto crate_at = [&] { return puzzle.at(now().crates[0]).column; };
        const int crate_column = crate_at();
        hold_until(Qt::Key_D, [&] { return crate_at() > crate_column; });
        QVERIFY(motion::is_open(puzzle, now(), 0));
        QCOMPARE(motion::held(puzzle, now(), motion::ThingKind::key, 0), 0);
        QTest::keyClick(&view(), Qt::Key_Backspace);
        QCOMPARE(crate_at(), crate_column);
        QTest::keyClick(&view(), Qt::Key_Escape);
        QVERIFY(!view().walker());
        QVERIFY(find_item(session().level(), goal) && find_item(session().level(), crate));
    }

    void a_door_in_space_is_opened_by_a_switch() {
        start(Frame::space);
        // A room with a passage in its wall, beside which the start lies.
        Level level = session().stored_level();
        const auto box = [&](const char* id, const Vec3& at, const Vec3& size) {
            Brush brush;
            brush.place.at = at, brush.size = size;
            level = edit::with_item(level, 0, Item{{id}, id, false, brush, {}});
        };
        box("left", {2, -10.5, 0}, {0.25, 20, 3}), box("right", {2, 10.5, 0}, {0.25, 20, 3});
        session().apply(level, "Walls");
        view().frame_all();
        settle();
        session().go_to(Stage::populate);
        plan().setFocus();
        const auto put = [&](const char* kind, const Vec3& where) {
            window_->use_tool(QString("place %1").arg(kind));
            const QPoint there = at(plan(), where);
            move_to(plan(), there);
            paint(plan());
            QTest::mouseClick(&plan(), Qt::LeftButton, {}, there);
            settle();
            return newest(kind)->id;
        };
        const ItemId goal = put("goal", {4.5, 0, 0});
        const ItemId door = put("door", {2, 0, 0});
        Item turned = *find_item(session().stored_level(), door);
        std::get<Element>(turned.body).facing_deg = 90;
        session().apply(edit::with_changed(session().stored_level(), turned), "Turn");
        QCOMPARE(goal_is(), check::Reached::no);
        put("switch", {-3, 2, 0});
        session().select({door});
        for (int i = 0; i < 3; ++i) QCoreApplication::processEvents();
        choose("Swapped by", "Switch");
        QCOMPARE(texts_value(*find_item(session().level(), door)->element(), "open_by").size(), size_t(1));
        QCOMPARE(goal_is(), check::Reached::yes);
        keep_picture("populate-space");
        QVERIFY(find_item(session().level(), goal));
    }

    void a_foe_is_dragged_along_its_way() {
        start(Frame::plan);
        session().go_to(Stage::populate);
        Level level = session().stored_level();
        level.walked = Walked::by_cells;
        session().apply(level, "By cells");
        settle();
        window_->use_tool("place foe");
        drag(Vec3(-2.5, 2.5, 0), Vec3(2.5, 2.5, 0));
        const Item* foe = newest("foe");
        QVERIFY(foe);
        QCOMPARE(points_value(*foe->element(), "path").size(), size_t(2));
        move_to(Vec3(2.5, -2.5, 0));
        QTest::mouseClick(&view(), Qt::LeftButton, Qt::ControlModifier, at(Vec3(2.5, -2.5, 0)));
        QCOMPARE(points_value(*newest("foe")->element(), "path").size(), size_t(3));
        settle();
        keep_picture("populate-foe");
    }
};

RUBBLE_TEST(PopulateJourneyTest)
#include "populate_journey_test.moc"
