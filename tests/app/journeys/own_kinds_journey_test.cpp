#include <QComboBox>
#include <QSpinBox>
#include <QToolButton>

#include "app/tiles_driver.h"
#include "base/angle.h"
#include "edit/items.h"
#include "kinds/element_kinds_dialog.h"
#include "level/element_kinds.h"
#include "level/element_values.h"
#include "motion/elements.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::app;

/// What a team says of elements and play, and what comes of it in a walk, by mouse and keys.
class OwnKindsJourneyTest : public TilesDriver {
    Q_OBJECT

    const Item* newest(const std::string& kind) {
        const Item* found = nullptr;
        for (const Item* item : elements_of(session().stored_level()))
            if (item->element()->kind == kind) found = item;
        return found;
    }
    void place(const char* kind, const Vec3& where) {
        window_->use_tool(QString("place %1").arg(kind).replace('_', ' '));
        click(where);
        settle();
    }
    int findings(check::RuleId rule) {
        settle();
        const auto& all = session().built().check->findings;
        return int(std::count_if(all.begin(), all.end(), [&](const auto& one) { return one.rule == rule; }));
    }
    template <class Widget> Widget* named(const QString& name) {
        for (Widget* widget : window_->findChildren<Widget*>())
            if (widget->accessibleName() == name && widget->isVisible()) return widget;
        return nullptr;
    }

private slots:
    void a_kind_is_made_placed_and_limited() {
        start(Frame::space);
        session().go_to(Stage::populate);
        when_asked<ElementKindsDialog>([this](ElementKindsDialog& dialog) {
            for (QPushButton* button : dialog.findChildren<QPushButton*>())
                if (button->text() == "New kind") QTest::mouseClick(button, Qt::LeftButton);
            auto* name = dialog.findChild<QLineEdit*>();
            QVERIFY(name && name->isEnabled());
            name->selectAll();
            QTest::keyClicks(name, "Steam vent");
            for (QComboBox* box : dialog.findChildren<QComboBox*>())
                if (const int index = box->findData(QString("hazard")); index >= 0) {
                    box->setCurrentIndex(index);
                    emit box->activated(index);
                }
            for (QPushButton* button : dialog.findChildren<QPushButton*>())
                if (button->text() == "Add a value") QTest::mouseClick(button, Qt::LeftButton);
            dialog.findChildren<QSpinBox*>()[1]->setValue(1);
            keep_picture_of(dialog, "element-kinds");
            agree(dialog);
        });
        window_->commands().find("element-kinds")->action->trigger();
        settle();
        QCOMPARE(session().project().element_kinds.size(), size_t(1));
        const ElementKind& kind = *session().project().element_kinds[0];
        QCOMPARE(kind.name, std::string("Steam vent"));
        QCOMPARE(kind.acts_as, std::string("hazard"));
        QVERIFY(kind.at_most == 1 && kind.field("value1"));
        for (QToolButton* button : window_->findChildren<QToolButton*>())
            if (button->accessibleName() == "Steam vent") QTest::mouseClick(button, Qt::LeftButton);
        click({3, 3, 0}), settle();
        const Item* vent = newest(kind.key);
        QVERIFY(vent);
        QCOMPARE(acts_as(*vent->element()), std::string("hazard"));
        QVERIFY(session().built().check->world->elements());
        QCOMPARE(session().built().check->world->elements()->hazards.size(), size_t(1));
        QCOMPARE(findings(check::RuleId::too_many), 0);
        click({-3, 3, 0}), settle();
        QCOMPARE(findings(check::RuleId::too_many), 1);
        undo();
        QCOMPARE(findings(check::RuleId::too_many), 0);
        keep_picture("own-kinds");
    }

    void what_a_level_is_about_says_what_is_unusual() {
        start(Frame::space);
        session().go_to(Stage::populate);
        place("crate", {3, 3, 0});
        session().select({});
        settle();
        auto* about = named<QComboBox>("What the level is about");
        QVERIFY(about);
        const int gather = about->findData(QString("gather"));
        QVERIFY(gather > 0);
        about->setCurrentIndex(gather);
        emit about->activated(gather);
        settle();
        QCOMPARE(session().level().about, std::string("gather"));
        QCOMPARE(findings(check::RuleId::unusual_kind), 1);
        keep_picture("about");
        undo();
        QCOMPARE(findings(check::RuleId::unusual_kind), 0);
    }

    void with_alt_it_hangs_on_the_wall_that_is_pointed_at() {
        start(Frame::space);
        Brush wall;
        wall.place.at = {2, 2, 0}, wall.size = {3, 3, 4};
        session().apply(edit::with_item(session().stored_level(), 0, Item{{"wall"}, {}, false, wall, {}}),
                        "Wall");
        settle();
        session().go_to(Stage::populate);
        const BoxSide side = facing_side(wall);
        QVERIFY(side != BoxSide::top);
        const Vec3 middle = edit::middle_of(wall, side), out = edit::outward(wall, side);
        window_->use_tool("place switch");
        click(middle, Qt::AltModifier);
        settle();
        const Item* hung = newest("switch");
        QVERIFY(hung);
        const Vec3 off = hung->element()->at - middle;
        QVERIFY2(glm::length(off) < 0.2 && std::abs(glm::dot(off, out)) < 1e-6,
                 qPrintable(QString::number(glm::length(off))));
        const auto [x, y] = cos_sin(hung->element()->facing_deg);
        QVERIFY(glm::length(Vec3(x, y, 0) - out) < 1e-6);
        click(middle); // without it stands on the ground before the wall
        settle();
        QVERIFY(std::abs(newest("switch")->element()->at.z) < 1e-6);
    }

    void a_crate_is_pushed_and_time_runs_out_in_a_walk() {
        start(Frame::space);
        session().go_to(Stage::populate);
        const Vec3 begin = met_at(session().level(), *newest("start")->element());
        // Wherever one looks when the walk begins, one of them stands ahead.
        for (const Vec3 aside : {Vec3(2, 0, 0), Vec3(-1.5, 0, 0), Vec3(0, 2, 0), Vec3(0, -2, 0)})
            place("crate", begin + aside);
        place("time_limit", begin + Vec3(0, 3, 0));
        Item clock = *newest("time_limit");
        clock.body = with_value(*clock.element(), "seconds", 3.0);
        session().apply(edit::with_changed(session().stored_level(), clock), "Time");
        settle();
        session().select({});
        view().setFocus();
        move_to(begin);
        key(Qt::Key_G);
        QTRY_VERIFY(view().walker());
        const auto farthest = [&] {
            double out = 0;
            for (const auto& moved : view().walker()->play().puzzle.moved)
                out = std::max(out, glm::length(motion::metres_of(moved)));
            return out;
        };
        hold_until(Qt::Key_W, [&] { return farthest() > 0.5; });
        paint(view());
        keep_picture("crate-walk");
        QVERIFY(view().walker()->seconds_left().has_value());
        // Going back in time gives back that second, and no more.
        const double left = *view().walker()->seconds_left();
        QTest::keyClick(&view(), Qt::Key_Backspace);
        const double again = *view().walker()->seconds_left();
        QVERIFY(again >= left && again <= std::min(left + 1.1, 3.0));
        QTRY_VERIFY_WITH_TIMEOUT(farthest() == 0, 60000); // the time was up, and all is as it was
        QTest::keyClick(&view(), Qt::Key_Escape);
    }

    void a_goal_leads_on_to_the_next_level() {
        QVERIFY(session().files().open(RUBBLE_SOURCE_DIR
                                       "/demo-data/packing-hall/levels/pallet-shift-1.level.json"));
        settle();
        session().go_to(Stage::populate);
        const std::string first = session().level().name;
        view().setFocus();
        move_to(met_at(session().level(), *newest("start")->element()));
        key(Qt::Key_G);
        QTRY_VERIFY(view().walker());
        QTRY_VERIFY_WITH_TIMEOUT(
            session().puzzle_answer().newest && session().puzzle_answer().answer.solvable == true, 20000);
        // The solution, a letter at a time by the keys.
        const auto key_of = [](char letter) {
            return letter == 'e'   ? Qt::Key_D
                   : letter == 'w' ? Qt::Key_A
                   : letter == 'n' ? Qt::Key_W
                                   : Qt::Key_S;
        };
        const std::string letters = session().puzzle_answer().answer.letters;
        for (const char letter : letters) {
            const motion::CellState before = view().walker()->play().puzzle.cells;
            hold_until(key_of(letter), [&] { return view().walker()->play().puzzle.cells != before; });
            const auto at_rest = [&] {
                const auto& world = view().walker()->world();
                const auto& cells = *world.moving().cells;
                return flat(view().walker()->state().at) == cells.middle_of(world.moving().puzzle->at(
                                                                view().walker()->play().puzzle.cells.figure));
            };
            QTRY_VERIFY_WITH_TIMEOUT(at_rest(), 60000);
        }
        QTRY_VERIFY(view().walker()->at_goal());
        QTest::keyClick(&view(), Qt::Key_Return);
        QTRY_VERIFY(view().walker());
        QVERIFY(session().level().name != first);
        QVERIFY(!view().walker()->at_goal());
        QTest::keyClick(&view(), Qt::Key_Escape);
    }
};

RUBBLE_TEST(OwnKindsJourneyTest)
#include "own_kinds_journey_test.moc"
