#include <QtTest/QtTest>

#include <QLineEdit>
#include <QPushButton>
#include <QToolButton>

#include "edit/brushes.h"
#include "io/level_file.h"
#include "level/order.h"
#include "theme.h"
#include "window/main_window.h"
#include "window/number_field.h"

using namespace rubble;
using namespace rubble::app;

/// Drives the real window with mouse and keys, as somebody would who builds a small level from nothing.
class WindowTest : public QObject {
    Q_OBJECT

private:
    std::unique_ptr<MainWindow> window_;
    QTemporaryDir folder_;

    LevelView& view() { return window_->space_view(); }
    Session& session() { return window_->session(); }
    QPoint at(const Vec3& place) { return view().camera().to_screen(place)->toPoint(); }

    void settle() { QTRY_VERIFY_WITH_TIMEOUT(session().up_to_date(), 20000); }
    void move_to(const Vec3& place, Qt::MouseButtons held = Qt::NoButton) {
        QMouseEvent event(QEvent::MouseMove, at(place), view().mapToGlobal(at(place)), Qt::NoButton, held,
                          Qt::NoModifier);
        QCoreApplication::sendEvent(&view(), &event);
    }
    void drag(const Vec3& from, const Vec3& to) {
        move_to(from);
        QTest::mousePress(&view(), Qt::LeftButton, {}, at(from));
        move_to((from + to) * 0.5, Qt::LeftButton);
        move_to(to, Qt::LeftButton);
        QTest::mouseRelease(&view(), Qt::LeftButton, {}, at(to));
    }
    void key(Qt::Key key, Qt::KeyboardModifiers modifiers = {}) { QTest::keyClick(&view(), key, modifiers); }
    /// Keeps a picture of the moment where RUBBLE_PICTURES names a folder, to be looked at.
    void keep_picture(const char* name) {
        if (const QString folder = qEnvironmentVariable("RUBBLE_PICTURES"); !folder.isEmpty())
            window_->picture().save(folder + "/" + name + ".png");
    }
    const Brush& selected() { return *session().selected()->brush(); }

    /// A box drawn from one corner of its base to the other, its height typed.
    void draw_box(Qt::Key tool, const Vec3& from, const Vec3& to, const QString& height) {
        view().setFocus();
        key(tool);
        drag(from, to);
        QTest::keyClicks(&view(), height);
        QTest::keyClick(&view(), Qt::Key_Return);
        key(Qt::Key_Q);
        settle();
    }

private slots:
    void init() {
        window_ = std::make_unique<MainWindow>();
        window_->show();
        QVERIFY(QTest::qWaitForWindowExposed(window_.get()));
        // Without a window manager nobody makes the window the active one, and shortcuts need that.
        QApplication::setActiveWindow(window_.get());
        view().frame_all();
        view().setFocus();
        settle();
    }
    void cleanup() { window_.reset(); }

    void a_new_level_has_a_floor_and_a_start() {
        QCOMPARE(ordered_brushes(session().level()).size(), size_t(1));
        QCOMPARE(elements_of(session().level(), "start").size(), size_t(1));
        QVERIFY(session().built().check->places[0].reached == check::Reached::yes);
    }

    void a_box_is_drawn_stretched_and_undone() {
        draw_box(Qt::Key_B, {0, 0, 0}, {2, 3, 0}, "1.5");
        QCOMPARE(ordered_brushes(session().level()).size(), size_t(2));
        QCOMPARE(selected().size, Vec3(2, 3, 1.5));
        QCOMPARE(selected().place.at, Vec3(1, 1.5, 0));
        // The dot on the right face, dragged out by one metre.
        const Vec3 dot = edit::middle_of(selected(), BoxSide::right);
        drag(dot, dot + Vec3(1, 0, 0));
        QCOMPARE(selected().size.x, 3.0);
        key(Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(selected().size.x, 2.0);
        key(Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(ordered_brushes(session().level()).size(), size_t(1));
        key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
        key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
        QCOMPARE(ordered_brushes(session().level()).size(), size_t(2));
    }

    void a_drag_shows_the_level_as_it_would_be_and_escape_takes_it_back() {
        draw_box(Qt::Key_B, {0, 0, 0}, {2, 2, 0}, "1");
        view().fly_to({2, 1, 0}); // near enough that the handles leave room between them
        const Vec3 top = edit::middle_of(selected(), BoxSide::top) + Vec3(-0.6, -0.6, 0);
        QTest::mousePress(&view(), Qt::LeftButton, {}, at(top));
        move_to(top + Vec3(2, 0, 0), Qt::LeftButton);
        move_to(top + Vec3(3, 0, 0), Qt::LeftButton);
        QCOMPARE(selected().place.at.x, 4.0);
        settle();
        keep_picture("drag");
        QTest::keyClick(&view(), Qt::Key_Escape);
        QCOMPARE(selected().place.at.x, 1.0);
        QTest::mouseRelease(&view(), Qt::LeftButton, {}, at(top));
        QCOMPARE(selected().place.at.x, 1.0);
    }

    void a_doorway_is_cut_and_moved() {
        draw_box(Qt::Key_B, {-2, 0, 0}, {2, 0.5, 0}, "3");
        settle();
        const double before = facts_of(*session().built().surface).volume_m3;
        draw_box(Qt::Key_X, {-0.5, -1, 0}, {0.5, 1.5, 0}, "2");
        QCOMPARE(selected().effect, Effect::cut);
        const double after = facts_of(*session().built().surface).volume_m3;
        QVERIFY2(std::abs(before - after - (0.5 * 2 * 1 + 0.01 * 2.5 * 1)) < 0.02,
                 qPrintable(QString::number(before - after)));
        const ItemId door = session().selection()[0];
        view().setFocus();
        QTest::keyClick(&view(), Qt::Key_Right);
        QCOMPARE(find_item(session().level(), door)->brush()->place.at.x, 0.5);
    }

    void sizes_are_typed_with_sums_and_units() {
        draw_box(Qt::Key_B, {0, 0, 0}, {2, 2, 0}, "1");
        NumberField* height = nullptr;
        for (NumberField* field : window_->findChildren<NumberField*>())
            if (field->accessibleName() == "Height") height = field;
        QVERIFY(height);
        height->setFocus();
        height->selectAll();
        QTest::keyClicks(height, "4 + 50 cm");
        QTest::keyClick(height, Qt::Key_Return);
        QCOMPARE(selected().size.z, 4.5);
    }

    void copies_go_through_the_clipboard_with_fresh_ids() {
        draw_box(Qt::Key_B, {0, 0, 0}, {1, 1, 0}, "1");
        const ItemId first = session().selection()[0];
        key(Qt::Key_C, Qt::ControlModifier);
        move_to({-3, -3, 0});
        key(Qt::Key_V, Qt::ControlModifier);
        QCOMPARE(ordered_brushes(session().level()).size(), size_t(3));
        QVERIFY(session().selection()[0] != first);
        QVERIFY(glm::length(selected().place.at - Vec3(-3, -3, 0)) < 0.3);
        key(Qt::Key_D, Qt::ControlModifier);
        QCOMPARE(ordered_brushes(session().level()).size(), size_t(4));
        key(Qt::Key_Delete);
        QCOMPARE(ordered_brushes(session().level()).size(), size_t(3));
    }

    void a_goal_is_placed_claimed_and_reached() {
        key(Qt::Key_F3);
        window_->use_tool("place goal");
        move_to({4, 0, 0});
        QTest::mouseClick(&view(), Qt::LeftButton, {}, at({4, 0, 0}));
        window_->use_tool("select");
        QCOMPARE(elements_of(session().level(), "goal").size(), size_t(1));
        const ItemId goal = session().selection()[0];
        session().select({elements_of(session().level(), "start")[0]->id, goal});
        QPushButton* claim = nullptr;
        for (QPushButton* button : window_->findChildren<QPushButton*>())
            if (button->text().startsWith("Claim:") && !claim) claim = button;
        QVERIFY(claim);
        QTest::mouseClick(claim, Qt::LeftButton);
        settle();
        QCOMPARE(session().built().check->claims.size(), size_t(1));
        QVERIFY(session().built().check->claims[0].state == check::ClaimState::holds);
        key(Qt::Key_F5);
        QCOMPARE(session().stage(), Stage::check);
    }

    void walking_moves_the_figure_and_comes_back_to_the_same_view() {
        const Vec3 target = view().camera().target;
        session().select({});
        key(Qt::Key_G);
        QVERIFY(view().walking());
        const Vec3 begin = view().walker()->state().at;
        QTest::keyPress(&view(), Qt::Key_W);
        QTRY_VERIFY_WITH_TIMEOUT(glm::length(view().walker()->state().at - begin) > 0.5, 5000);
        QTest::keyRelease(&view(), Qt::Key_W);
        keep_picture("walk");
        QTest::keyClick(&view(), Qt::Key_R);
        QVERIFY(glm::length(view().walker()->state().at - begin) < 0.05);
        QTest::keyClick(&view(), Qt::Key_N);
        QTest::keyClick(&view(), Qt::Key_Escape);
        QVERIFY(!view().walking());
        QCOMPARE(view().camera().target, target);
        QCOMPARE(elements_of(session().level(), "note").size(), size_t(1));
    }

    void what_is_saved_is_what_is_opened() {
        draw_box(Qt::Key_B, {0, 0, 0}, {2, 2, 0}, "1");
        QVERIFY(!session().saved());
        const QString file = folder_.filePath("small.level.json");
        QVERIFY(session().save(file));
        QVERIFY(session().saved());
        const Level before = session().level();
        QVERIFY(window_->open_path(file));
        QVERIFY(session().level() == before);
        QVERIFY(*io::load_level(file.toStdString()) == before);
    }

    void a_damaged_file_leaves_the_open_level_as_it_was() {
        const QString file = folder_.filePath("broken.level.json");
        QFile broken(file);
        QVERIFY(broken.open(QIODevice::WriteOnly));
        broken.write("{ \"format\": 1, \"layers\": [ {");
        broken.close();
        const Level before = session().level();
        QVERIFY(!session().open(file));
        QVERIFY(session().level() == before);
    }

    void every_stage_opens() {
        QVERIFY(window_->open_path(
            QStringLiteral(RUBBLE_SOURCE_DIR "/demo-data/packing-hall/levels/packing-hall.level.json")));
        for (int stage = 0; stage < 6; ++stage) {
            key(Qt::Key(Qt::Key_F1 + stage));
            QCOMPARE(int(session().stage()), stage);
            settle();
            QVERIFY(!window_->picture().isNull());
        }
        QVERIFY(ordered_brushes(session().level()).size() >= 60);
    }
};

int main(int argc, char** argv) {
    QSurfaceFormat format;
    format.setVersion(3, 3);
    format.setProfile(QSurfaceFormat::CoreProfile);
    format.setDepthBufferSize(24);
    QSurfaceFormat::setDefaultFormat(format);
    QApplication application(argc, argv);
    apply_theme(application);
    WindowTest test;
    return QTest::qExec(&test, argc, argv);
}

#include "window_test.moc"
