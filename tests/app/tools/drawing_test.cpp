#include "app/window_driver.h"

#include <QAction>
#include <QCheckBox>
#include <QImage>
#include <QToolButton>

#include "build/surface.h"
#include "io/export_formats.h"
#include "io/level_file.h"
#include "io/text_file.h"
#include "level/brush_shape.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::app;

/// Where shapes are drawn and what they are put onto: on faces, in views from the front, with snapping on and
/// off; and what is told while something is dragged.
class DrawingTest : public WindowDriver {
    Q_OBJECT

    static bool near(const Vec3& a, const Vec3& b) { return glm::length(a - b) < 1e-4; }
    void type(LevelView& in, const QString& text) {
        QTest::keyClicks(&in, text);
        QTest::keyClick(&in, Qt::Key_Return);
        settle();
    }
    void trigger(const char* name) {
        auto* button = named<QToolButton>("Snapping");
        QVERIFY(button);
        for (QAction* action : button->actions())
            if (action->text() == QLatin1String(name)) return action->trigger();
        QFAIL(name);
    }

private slots:
    void a_shelf_is_drawn_on_a_wall() {
        draw_box(Qt::Key_B, {-3, 1, 0}, {3, 2, 0}, "3");
        const bool near_side = view().camera().eye().y < 1;
        const double y = near_side ? 1 : 2, out = near_side ? -1 : 1;
        move_to(Vec3(0, y, 1.5));
        key(Qt::Key_Y); // the face pointed at is drawn on from now
        QVERIFY(session().plane());
        QVERIFY(std::abs(session().plane()->n.y - out) < 1e-9);
        keep_picture("working_plane");
        key(Qt::Key_B);
        drag(Vec3(-1, y, 1), Vec3(1, y, 2));
        type(view(), "0.5");
        Box3 box = box_of(*session().selected());
        QVERIFY2(near(box.high - box.low, {2, 0.5, 1}),
                 "two metres wide, one high, half a metre out of the wall");
        QVERIFY(std::abs((out < 0 ? box.high.y : box.low.y) - y) < 1e-6);
        // Beside the wall too: the plane goes on.
        key(Qt::Key_B);
        drag(Vec3(3.5, y, 0.5), Vec3(4.5, y, 1));
        type(view(), "0.25");
        box = box_of(*session().selected());
        QVERIFY(near(box.high - box.low, {1, 0.25, 0.5}));
        // An outline lies in it as well.
        key(Qt::Key_L);
        for (const Vec3& p : {Vec3(-2.5, y, 2), Vec3(-1.5, y, 2), Vec3(-2, y, 2.5)}) click(p);
        key(Qt::Key_Return);
        type(view(), "0.5");
        QCOMPARE(selected().shape, Shape::outline);
        box = box_of(*session().selected());
        QVERIFY(near(box.high - box.low, {1, 0.5, 0.5}));
        keep_picture("on_a_wall");
        key(Qt::Key_Q);
        move_to(Vec3(0, -7, 0)); // pointing at another face takes that one, at the same one none
        key(Qt::Key_Y);
        QVERIFY(session().plane() && session().plane()->is_level());
        key(Qt::Key_Y);
        QVERIFY(!session().plane());
    }

    void shapes_are_drawn_in_the_front_view() {
        draw_box(Qt::Key_B, {-3, 1, 0}, {3, 2, 0}, "1");
        key(Qt::Key_F, Qt::ShiftModifier); // front, beside
        plan().frame_all();
        plan().setFocus();
        // As deep as what is selected.
        QTest::keyClick(&plan(), Qt::Key_B);
        drag(plan(), at(plan(), {-2, 1, 1}), at(plan(), {-1, 1, 3}));
        QTest::keyClick(&plan(), Qt::Key_Return);
        settle();
        Box3 box = box_of(*session().selected());
        QVERIFY(near(box.low, {-2, 1, 1}) && near(box.high, {-1, 2, 3}));
        // Or as deep as is typed.
        drag(plan(), at(plan(), {1, 1, 1}), at(plan(), {2, 1, 2}));
        type(plan(), "0.25");
        box = box_of(*session().selected());
        QVERIFY(near(box.low, {1, 1, 1}) && near(box.high, {2, 1.25, 2}));
        keep_picture("front_view");
    }

    void outlines_and_walls_are_drawn_in_the_front_view_too() {
        draw_box(Qt::Key_B, {-3, 1, 0}, {3, 2, 0}, "1");
        key(Qt::Key_F, Qt::ShiftModifier);
        plan().frame_all();
        plan().setFocus();
        // A gable on the box, as deep as it.
        QTest::keyClick(&plan(), Qt::Key_L);
        for (const Vec3& p : {Vec3(-3, 1, 1), Vec3(3, 1, 1), Vec3(0, 1, 3), Vec3(-3, 1, 1)}) {
            move_to(plan(), at(plan(), p));
            QTest::mouseClick(&plan(), Qt::LeftButton, {}, at(plan(), p));
        }
        QTest::keyClick(&plan(), Qt::Key_Return);
        settle();
        QCOMPARE(selected().shape, Shape::outline);
        Box3 box = box_of(*session().selected());
        QVERIFY(near(box.low, {-3, 1, 1}) && near(box.high, {3, 2, 3}));
        keep_picture("gable");
        // A wall along a path up the front, as deep as is typed.
        QTest::keyClick(&plan(), Qt::Key_L, Qt::ShiftModifier);
        for (const Vec3& p : {Vec3(4, 1, 0), Vec3(4, 1, 2), Vec3(6, 1, 2)}) {
            move_to(plan(), at(plan(), p));
            QTest::mouseClick(&plan(), Qt::LeftButton, {}, at(plan(), p));
        }
        QTest::keyClick(&plan(), Qt::Key_Return);
        type(plan(), "0.5");
        QCOMPARE(selected().shape, Shape::wall_run);
        box = box_of(*session().selected());
        QVERIFY(std::abs(box.high.y - box.low.y - 0.5) < 1e-6 && std::abs(box.high.y - 2) < 1e-6);
        QVERIFY(std::abs(box.high.z - 2.125) < 1e-6 && std::abs(box.low.z) < 1e-6);
    }

    void planes_and_holes_are_drawn() {
        view().setFocus();
        key(Qt::Key_T, Qt::ShiftModifier);
        drag(Vec3(-4, -4, 0), Vec3(-2, -2, 0));
        settle();
        QCOMPARE(selected().shape, Shape::box);
        QVERIFY(std::abs(selected().size.z - 0.05) < 1e-9);
        key(Qt::Key_L);
        for (const Vec3& p : {Vec3(0, 0, 0), Vec3(4, 0, 0), Vec3(4, 4, 0), Vec3(0, 4, 0)}) click(p);
        key(Qt::Key_Return);
        type(view(), "0.5");
        const ItemId ring = session().selection()[0];
        key(Qt::Key_J, Qt::ShiftModifier);
        for (const Vec3& p : {Vec3(1, 1, 0.5), Vec3(3, 1, 0.5), Vec3(3, 3, 0.5), Vec3(1, 3, 0.5)}) click(p);
        key(Qt::Key_Return);
        settle();
        keep_picture("hole");
        QCOMPARE(session().selection()[0], ring);
        QCOMPARE(selected().holes.size(), size_t(1));
        QCOMPARE(problem_of(selected()), std::string());
        // One that crosses the outline is refused.
        for (const Vec3& p : {Vec3(-1, 1, 0.5), Vec3(0.5, 1, 0.5), Vec3(0.5, 3, 0.5)}) click(p);
        key(Qt::Key_Return);
        QCOMPARE(selected().holes.size(), size_t(1));
        key(Qt::Key_Q);
    }

    void snapping_is_seen_and_switched() {
        auto* button = named<QToolButton>("Snapping");
        QCOMPARE(button->text(), QString("snap: all"));
        plan().frame_all();
        const auto draw = [&](Vec3 from, Vec3 to) {
            plan().setFocus();
            QTest::keyClick(&plan(), Qt::Key_B);
            drag(plan(), at(plan(), from), at(plan(), to));
            type(plan(), "1");
            return box_of(*session().selected());
        };
        const Box3 on_grid = draw({-5.87, -5.87, 0}, {-4.12, -4.12, 0});
        QVERIFY(near(on_grid.low, {-6, -6, 0}) && near(on_grid.high, {-4, -4, 1}));
        trigger("Snap to the grid");
        QCOMPARE(button->text(), QString("snap: edges, corners, turn"));
        const Box3 on_edges = draw({-3.97, -5.8, 0}, {-1.87, -3.98, 0}); // beside the first box
        QVERIFY(std::abs(on_edges.low.x + 4) < 2e-6); // its middle and its size are whole micrometres
        QVERIFY(std::abs(on_edges.high.x + 1.87) < 0.04 && std::abs(on_edges.high.x + 2) > 0.01);
        key(Qt::Key_G, Qt::ShiftModifier);
        QCOMPARE(button->text(), QString("free"));
        const Box3 free = draw({-3.97, 2.03, 0}, {-1.87, 3.91, 0});
        QVERIFY(std::abs(free.low.x + 3.97) < 0.04 && std::abs(free.low.x + 4) > 1e-3);
        open_anew(); // remembered
        QCOMPARE(named<QToolButton>("Snapping")->text(), QString("free"));
        button = named<QToolButton>("Snapping");
        key(Qt::Key_G, Qt::ShiftModifier);
        QCOMPARE(button->text(), QString("snap: all"));
    }

    void a_cut_is_limited_to_its_group() {
        draw_box(Qt::Key_B, {-2, -2, 0}, {0, 0, 0}, "2");
        const ItemId first = session().selection()[0];
        draw_box(Qt::Key_B, {2, -2, 0}, {4, 0, 0}, "2");
        Brush slot;
        slot.effect = Effect::cut;
        slot.size = {10, 0.5, 1};
        slot.place.at = {1, -1, 1.5};
        session().apply(edit::with_item(session().level(), 0, {{"slot"}, {}, false, slot, {}}), "Slot");
        settle();
        const double cut_both = build::facts_of(*session().built().surface).volume_m3;
        session().select({first, {"slot"}});
        key(Qt::Key_G, Qt::ControlModifier);
        session().select({{"slot"}});
        QCoreApplication::processEvents();
        auto* within = named<QCheckBox>("Cuts only its own group");
        QVERIFY(within);
        QTest::mouseClick(within, Qt::LeftButton, {}, QPoint(8, within->height() / 2));
        settle();
        QVERIFY(selected().within_group);
        QVERIFY(std::abs(build::facts_of(*session().built().surface).volume_m3 - cut_both - 0.5) < 1e-6);
    }

    void a_picture_is_laid_under_moved_and_scaled() {
        QImage sketch(400, 200, QImage::Format_RGB32);
        sketch.fill(Qt::white);
        for (int x = 100; x < 300; ++x) sketch.setPixelColor(x, 100, Qt::red);
        const QString file = folder_.filePath("sketch.png");
        QVERIFY(sketch.save(file));
        plan().frame_all();
        answer_file_dialog(file);
        window_->commands().find("underlay")->action->trigger();
        QCOMPARE(session().level().underlays.size(), size_t(1));
        const auto underlay = [&] { return session().level().underlays[0]; };
        QCOMPARE(underlay().axis, 2);
        const Vec3 before = underlay().at;
        plan().setFocus();
        const auto p = [&](const Vec3& place) { return at(plan(), place); };
        drag(plan(), p(before), p(before + Vec3(1, 0.5, 0)));
        QVERIFY(glm::length(underlay().at - before - Vec3(1, 0.5, 0)) < 0.1);
        // Two places of it, a quarter of its width each from the middle, are 4 m apart.
        const double quarter = underlay().width_m / 4;
        for (const double side : {-1.0, 1.0}) {
            move_to(plan(), p(underlay().at + Vec3(side * quarter, 0, 0)));
            QTest::mouseClick(&plan(), Qt::LeftButton, {}, p(underlay().at + Vec3(side * quarter, 0, 0)));
        }
        type(plan(), "4");
        QVERIFY(std::abs(underlay().width_m - 8) < 0.1);
        QTRY_VERIFY(plan().shows_pictures());
        keep_picture("underlay");
        // Locked it stays; no model has it; the file has.
        session().select({});
        QCoreApplication::processEvents();
        QTest::mouseClick(named<QCheckBox>("Locked"), Qt::LeftButton, {}, QPoint(8, 8));
        QVERIFY(underlay().locked);
        const Vec3 there = underlay().at;
        plan().setFocus();
        drag(plan(), p(there), p(there + Vec3(2, 0, 0)));
        QCOMPARE(underlay().at, there);
        const auto text = io::text_of(session().level());
        QVERIFY(text.find("sketch.png") != std::string::npos);
        const auto model = std::filesystem::path(folder_.filePath("out.gltf").toStdString());
        QVERIFY(io::export_level(session().project(), session().level(), model));
        QVERIFY(io::read_file(model)->find("sketch") == std::string::npos);
        press("Remove this picture");
        QVERIFY(session().level().underlays.empty());
    }

    void what_is_no_picture_is_said() {
        const QString file = folder_.filePath("broken.png");
        QFile broken(file);
        QVERIFY(broken.open(QIODevice::WriteOnly));
        broken.write("\x89PNG\r\n\x1a\n and then nothing that is one");
        broken.close();
        QString said;
        connect(&session(), &Session::message, this, [&](const QString& text) { said = text; });
        answer_file_dialog(file);
        window_->commands().find("underlay")->action->trigger();
        QTRY_VERIFY(said.contains("broken.png"));
        QVERIFY(!plan().shows_pictures());
        session().documents().undo();
        QVERIFY(session().level().underlays.empty());
    }

    void what_is_dragged_tells_its_distances_and_its_spans() {
        draw_box(Qt::Key_B, {-6, -6, 0}, {-4, -2, 0}, "1");
        draw_box(Qt::Key_B, {-1, -6, 0}, {1, -2, 0}, "1");
        // Something is painted over the view while it is dragged that is not there else.
        const QPoint from = at({0, -4, 1}), to = at({0.5, -4, 1});
        session().select({session().selection()[0]});
        move_to(view(), from);
        QTest::mousePress(&view(), Qt::LeftButton, {}, from);
        move_to(view(), to, Qt::LeftButton);
        settle();
        keep_picture("dragging");
        QVERIFY(!session().built().check->spans.empty());
        QTest::mouseRelease(&view(), Qt::LeftButton, {}, to);
        settle();
    }
};

RUBBLE_TEST(DrawingTest)
#include "drawing_test.moc"
