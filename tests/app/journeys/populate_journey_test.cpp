#include <QCheckBox>
#include <QComboBox>
#include <QPushButton>

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
        QTRY_VERIFY_WITH_TIMEOUT(session().puzzle_answer().newest && session().puzzle_answer().puzzle, 60000);
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
        const auto& misses = session().built().check->near_misses;
        QVERIFY(std::any_of(misses.begin(), misses.end(), [&](const check::NearMiss& miss) {
            const std::string says = check::in_english(miss.says, session().level());
            return miss.to == goal && says.find("brass key") != std::string::npos &&
                   says.find("lies behind it too") != std::string::npos;
        }));
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

    void a_lift_is_dragged_and_leads_up() {
        start(Frame::space);
        session().go_to(Stage::populate);
        Brush block;
        block.place.at = {3.5, 0, 0}, block.size = {2, 6, 3};
        session().apply(edit::with_item(session().stored_level(), 0, Item{{"block"}, {}, false, block, {}}),
                        "Block");
        settle();
        const ItemId goal = place("goal", {3.5, 1.5, 3});
        QVERIFY(!goal.empty());
        QCOMPARE(find_item(session().level(), goal)->element()->at.z, 3.0);
        QCOMPARE(goal_is(), check::Reached::no);
        window_->use_tool("place lift");
        click(Vec3(1.4, -1, 0));
        const Item* lift = newest("lift");
        QVERIFY(lift);
        move_to(Vec3(3.5, -1, 3));
        QTest::mouseClick(&view(), Qt::LeftButton, Qt::ControlModifier, at(Vec3(3.5, -1, 3)));
        lift = newest("lift");
        const std::vector<Vec3> stops = points_value(*lift->element(), "stops");
        QCOMPARE(stops.size(), size_t(2));
        // Level with the ground there, straight over where it was.
        QCOMPARE(flat(stops[0]), flat(stops[1]));
        QVERIFY(std::abs(stops[1].z - 2.8) < 1e-9);
        QCOMPARE(goal_is(), check::Reached::yes);
        keep_picture("populate-lift");
        // In walk it moves.
        session().select({});
        view().setFocus();
        move_to(met_at(session().level(), *newest("start")->element()));
        key(Qt::Key_G);
        QTRY_VERIFY(view().walker());
        const auto shift = [&] {
            return motion::shifts_of(*view().walker()->world().elements(), view().walker()->play())
                .movers[0]
                .z;
        };
        QTRY_VERIFY_WITH_TIMEOUT(shift() > 1, 60000);
        QTest::keyClick(&view(), Qt::Key_Escape);
        QTRY_VERIFY(!view().walker());
    }

    void a_switch_is_chosen_by_pointing() {
        start(Frame::space);
        session().go_to(Stage::populate);
        const ItemId press = place("switch", {1.5, 1.5, 0});
        const ItemId door = place("door", {-1.5, 1.5, 0});
        for (const size_t listens : {1, 0}) {
            move_to(Vec3(1.5, 1.5, 0));
            QTest::mouseClick(&view(), Qt::LeftButton, Qt::ControlModifier, at(Vec3(1.5, 1.5, 0)));
            settle();
            QCOMPARE(session().selection(), std::vector{door});
            const auto ids = texts_value(*find_item(session().level(), door)->element(), "open_by");
            QCOMPARE(ids.size(), listens);
            if (listens) QCOMPARE(ids[0], press.value);
        }
    }

    void suggestions_are_kept_and_thrown_away() {
        start(Frame::space);
        session().go_to(Stage::populate);
        Level level = session().stored_level();
        const auto box = [&](const char* id, const Vec3& where, const Vec3& size) {
            Brush brush;
            brush.place.at = where, brush.size = size;
            level = edit::with_item(level, 0, Item{{id}, {}, false, brush, {}});
        };
        box("floor", {20, 0, -1}, {60, 30, 1});
        for (int i = 0; i < 4; ++i) {
            const std::string id = "wall" + std::to_string(i);
            box(id.c_str(), {12.0 + i * 10, i % 2 ? 6.0 : -6.0, 0}, {0.5, 18, 4});
        }
        box("shelf", {18, 12, 0}, {4, 3, 3});
        session().apply(level, "Hall");
        settle();
        session().apply(edit::with_item(session().stored_level(), 0,
                                        Item{{"goal"}, {}, false, Element{"goal", {48, 0, 0}, 0, {}}, {}}),
                        "Goal");
        QCOMPARE(goal_is(), check::Reached::yes);
        view().frame_all();
        view().setFocus();
        QTest::keyClick(&view(), Qt::Key_Space, Qt::ControlModifier);
        QTRY_VERIFY_WITH_TIMEOUT(!session().suggestions().looking && !session().suggestions().open.empty(),
                                 60000);
        for (int i = 0; i < 3; ++i) QCoreApplication::processEvents();
        paint(view());
        keep_picture("suggestions");
        const auto press = [&](const QString& name) {
            for (QPushButton* button : window_->findChildren<QPushButton*>())
                if (button->accessibleName() == name && button->isVisible()) {
                    button->click();
                    QCoreApplication::processEvents();
                    settle();
                    return;
                }
            QFAIL(qPrintable("no button " + name));
        };
        const suggest::Suggestion first = session().suggestions().open[0];
        const size_t all = session().suggestions().open.size(),
                     items = session().stored_level().layers[0]->items.size();
        QStringList names;
        for (QPushButton* button : window_->findChildren<QPushButton*>())
            if (button->text() == "Keep" && button->isVisible()) names << button->accessibleName();
        QCOMPARE(size_t(names.size()), all);
        press(names[0]);
        QCOMPARE(session().suggestions().open.size(), all - 1);
        QCOMPARE(session().stored_level().layers[0]->items.size(), items + first.items.size());
        QCOMPARE(session().project().habits.at(first.kind).kept, 1);
        press("Throw all suggestions away");
        QVERIFY(session().suggestions().open.empty());
        QCOMPARE(session().stored_level().layers[0]->items.size(), items + first.items.size());
        int thrown = 0;
        for (const auto& [kind, habit] : session().project().habits) thrown += habit.thrown;
        QCOMPARE(size_t(thrown), all - 1);
        QCOMPARE(goal_is(), check::Reached::yes);
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
