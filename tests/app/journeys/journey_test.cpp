#include <QListWidget>
#include <QToolButton>

#include "app/window_driver.h"
#include "check/witness.h"
#include "test_program.h"
#include "theme.h"
#include "view/surface_format.h"
#include "window/number_field.h"

using namespace rubble;
using namespace rubble::app;

/// The job from its beginning to its end, by mouse and keys alone, as somebody would do it who has never seen
/// the program.
class JourneyTest : public WindowDriver {
    Q_OBJECT

    const Brush& brush(const char* id) { return *find_item(session().level(), {id})->brush(); }
    size_t brushes() { return ordered_brushes(session().level()).size(); }
    void undo() { key(Qt::Key_Z, Qt::ControlModifier); }
    void redo() { key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier); }
    void take_tool(const QString& name) {
        auto* button = named<QToolButton>(name);
        QVERIFY2(button, qPrintable(name));
        QTest::mouseClick(button, Qt::LeftButton);
    }
    void type_height(const QString& text) {
        auto* field = named<NumberField>("Height");
        QVERIFY(field);
        field->setFocus();
        field->selectAll();
        QTest::keyClicks(field, text);
        QTest::keyClick(field, Qt::Key_Return);
        view().setFocus();
    }
    void open_hall() {
        answer_file_dialog(
            QStringLiteral(RUBBLE_SOURCE_DIR "/demo-data/packing-hall/levels/packing-hall.level.json"));
        key(Qt::Key_O, Qt::ControlModifier);
        QTRY_COMPARE(session().level().name, std::string("Packing Hall"));
        settle();
    }
    /// Where a straight line along x is walked to, with a jump asked for in front of `edge_x`. A slow machine
    /// may miss the moment: then one goes back and tries again, as by hand.
    bool jumps_over(double edge_x, double beyond_x) {
        for (int attempt = 0; attempt < 8; ++attempt) {
            key(Qt::Key_R);
            QTest::keyPress(&view(), Qt::Key_W);
            bool pressed = false;
            QElapsedTimer limit;
            for (limit.start(); limit.elapsed() < 4000; QTest::qWait(1)) {
                const motion::State& s = view().walker()->state();
                if (!pressed && s.at.x > edge_x - 1.8)
                    QTest::keyPress(&view(), Qt::Key_Space), pressed = true;
                if (s.at.z < -1 || (s.at.x > beyond_x && s.standing)) break;
            }
            QTest::keyRelease(&view(), Qt::Key_Space);
            QTest::keyRelease(&view(), Qt::Key_W);
            const motion::State& s = view().walker()->state();
            if (s.at.x > beyond_x && s.at.z > -0.1) return true;
        }
        return false;
    }

private slots:
    void in_the_hall_a_box_is_drawn_on_the_dock_stretched_typed_and_taken_back() {
        open_hall();
        view().fly_to({-6, 0, 1});
        const size_t before = brushes();
        // An outline is begun, and given up again point by point.
        view().setFocus();
        key(Qt::Key_L);
        for (const Vec3& p : {Vec3(-8, -3, 1), Vec3(-5, -3, 1), Vec3(-5, -1, 1)}) click(p);
        move_to(Vec3(-6.5, 0.5, 1));
        QCoreApplication::processEvents();
        keep_picture("drawing");
        for (int i = 0; i < 4; ++i) key(Qt::Key_Escape);
        QCOMPARE(brushes(), before);
        draw_box(Qt::Key_B, {-7, -1, 1}, {-6, 1, 1}, "0.5");
        QCOMPARE(brushes(), before + 1);
        QVERIFY(glm::length(selected().place.at - Vec3(-6.5, 0, 1)) < 1e-9);
        view().fly_to({-6.5, 0, 1});
        const BoxSide side = facing_side(selected());
        const Vec3 dot = edit::middle_of(selected(), side);
        drag(dot, dot + edit::outward(selected(), side));
        QVERIFY(selected().size == Vec3(2, 2, 0.5) || selected().size == Vec3(1, 3, 0.5));
        type_height("0.5 + 25 cm");
        QCOMPARE(selected().size.z, 0.75);
        for (int i = 0; i < 3; ++i) undo();
        QCOMPARE(brushes(), before);
        for (int i = 0; i < 3; ++i) redo();
        QCOMPARE(brushes(), before + 1);
        settle();
        QVERIFY(session().built().check->reach->reached(
            session().built().check->ground->ledge_at({-6.5, 0, 1.75}, 0.1)));
    }

    void in_the_hall_a_stack_is_pasted_on_another_surface() {
        open_hall();
        session().select({{"b13"}, {"b9"}});
        const Brush stack = brush("b13"), barrel = brush("b9");
        key(Qt::Key_C, Qt::ControlModifier);
        // Onto the dock ramp's neighbour: the dock's own top, one metre above the yard.
        view().fly_to({-6, -4, 1});
        move_to({-6, -4, 1});
        key(Qt::Key_V, Qt::ControlModifier);
        QCOMPARE(session().selection().size(), size_t(2));
        std::vector<Brush> copies;
        for (const ItemId& id : session().selection()) {
            QVERIFY(id.value != "b13" && id.value != "b9");
            copies.push_back(*find_item(session().level(), id)->brush());
        }
        const bool stack_first = copies[0].size == stack.size;
        const Brush &new_stack = copies[stack_first ? 0 : 1], &new_barrel = copies[stack_first ? 1 : 0];
        QCOMPARE(new_stack.size, stack.size);
        // They keep their places to each other, and the lower one stands on the surface.
        QVERIFY(glm::length((new_stack.place.at - new_barrel.place.at) - (stack.place.at - barrel.place.at)) <
                1e-9);
        QVERIFY(std::abs(std::min(new_stack.place.at.z, new_barrel.place.at.z) - 1) < 1e-3);
    }

    void a_level_is_built_proven_walked_and_handed_off() {
        // A trench across the floor, and a wall with a doorway behind it.
        draw_box(Qt::Key_X, {0, -8, 0}, {1.5, 8, 0}, "-1");
        QCOMPARE(selected().effect, Effect::cut);
        draw_box(Qt::Key_B, {4, -8, 0}, {4.5, 8, 0}, "3");
        draw_box(Qt::Key_X, {3.5, -1, 0}, {5, 1, 0}, "2.5");
        const ItemId door = session().selection()[0];
        view().setFocus();
        for (int i = 0; i < 4; ++i) QTest::keyClick(&view(), Qt::Key_Up);
        QCOMPARE(find_item(session().level(), door)->brush()->place.at.y, 2.0);
        for (int i = 0; i < 4; ++i) undo();
        QCOMPARE(find_item(session().level(), door)->brush()->place.at.y, 0.0);

        // A goal behind the wall, where it is seen past the wall's end, claimed with two clicks.
        constexpr Vec3 k_goal{7.5, -7, 0};
        key(Qt::Key_F3);
        take_tool("Goal");
        click(k_goal);
        take_tool("Select");
        QCOMPARE(elements_of(session().level(), Role::goal).size(), size_t(1));
        const Vec3 start = elements_of(session().level(), Role::start)[0]->element()->at;
        session().select({});
        click(start);
        click(k_goal, Qt::ShiftModifier);
        QCOMPARE(session().selection().size(), size_t(2));
        press("Start reaches");
        settle();
        QCOMPARE(session().built().check->claims.size(), size_t(1));
        QVERIFY(session().built().check->claims[0].state == check::ClaimState::holds);

        // Wider than anybody jumps: the claim says by how much it fails, and holds again after undo.
        session().select({session().stored_level().layers[0]->items[2]->id});
        auto* length = named<NumberField>("Length");
        QVERIFY(length);
        length->setFocus();
        length->selectAll();
        QTest::keyClicks(length, "6");
        QTest::keyClick(length, Qt::Key_Return);
        settle();
        const auto& failed = session().built().check->claims[0];
        QVERIFY(failed.state == check::ClaimState::fails);
        const std::string reason = in_english(failed.reason, session().level());
        QVERIFY2(reason.find("too wide") != std::string::npos, reason.c_str());
        view().setFocus();
        undo();
        settle();
        QVERIFY(session().built().check->claims[0].state == check::ClaimState::holds);

        // The same gap by hand, and back to the same view.
        const Vec3 target = view().camera().target;
        session().select({});
        key(Qt::Key_G);
        QVERIFY(view().walking());
        QVERIFY(jumps_over(0, 1.6));
        keep_picture("journey_walk");
        key(Qt::Key_Escape);
        QCOMPARE(view().camera().target, target);

        // The run that proves the claim is watched.
        key(Qt::Key_F5);
        auto* claims = named<QListWidget>("Claims");
        QVERIFY(claims && claims->count() == 1);
        QTest::mouseClick(claims->viewport(), Qt::LeftButton, {},
                          claims->visualItemRect(claims->item(0)).center());
        press("Watch the run");
        QVERIFY(window_->findChild<PaceStrip*>()->states().size() > 60);
        keep_picture("journey_check");

        // Saved, opened again, exported.
        const QString file = folder_.filePath("journey.level.json"), model = folder_.filePath("journey.glb");
        answer_file_dialog(file);
        view().setFocus();
        key(Qt::Key_S, Qt::ControlModifier);
        QTRY_VERIFY(session().documents().saved());
        const Level saved = session().level();
        answer_file_dialog(file);
        key(Qt::Key_O, Qt::ControlModifier);
        QVERIFY(session().level() == saved);
        settle();
        QApplication::setActiveWindow(window_.get()); // which the dialog was
        view().setFocus();
        key(Qt::Key_F6);
        QTRY_COMPARE(session().stage(), Stage::hand_off);
        answer_file_dialog(model);
        press("Export");
        QTRY_VERIFY_WITH_TIMEOUT(QFileInfo(model).size() > 1000, 60000);
    }
};

RUBBLE_TEST(JourneyTest)

#include "journey_test.moc"
