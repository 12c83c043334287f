#pragma once

#include <QtTest/QtTest>

#include <QFileDialog>
#include <QLineEdit>
#include <QPushButton>
#include <QSettings>
#include <QTimer>
#include <QWindow>

#include "edit/brushes.h"
#include "edit/items.h"
#include "level/order.h"
#include "theme.h"
#include "window/main_window.h"
#include "window/number_field.h"

namespace rubble::app {

/// The real window, driven with mouse and keys; a new one for every test.
class WindowDriver : public QObject {
    Q_OBJECT

protected:
    std::unique_ptr<MainWindow> window_;
    QTemporaryDir folder_;

    LevelView& view() { return window_->space_view(); }
    LevelView& plan() { return window_->plan_view(); }
    Session& session() { return window_->session(); }
    static QPoint at(const LevelView& in, const Vec3& place) {
        return in.camera().to_screen(place)->toPoint();
    }
    QPoint at(const Vec3& place) { return at(view(), place); }

    /// Without a window manager nobody makes the window the active one, and shortcuts need that.
    void take_focus() {
        QApplication::setActiveWindow(window_.get());
        view().setFocus();
    }
    void settle() {
        QTRY_VERIFY_WITH_TIMEOUT(session().up_to_date(), 60000);
        // What the answer moves in the window has moved before anybody points at something.
        for (int i = 0; i < 3; ++i) QCoreApplication::processEvents();
    }
    static void move_to(LevelView& in, const QPoint& at, Qt::MouseButtons held = Qt::NoButton,
                        Qt::KeyboardModifiers keys = {}) {
        QMouseEvent event(QEvent::MouseMove, at, in.mapToGlobal(at), Qt::NoButton, held, keys);
        QCoreApplication::sendEvent(&in, &event);
    }
    void move_to(const Vec3& place, Qt::MouseButtons held = Qt::NoButton) {
        move_to(view(), at(place), held);
    }
    /// What a hand's events lead to between each other: whatever waits is done, and the view is painted.
    static void paint(LevelView& in) {
        in.update();
        QCoreApplication::processEvents();
    }
    /// A real hand: the press has not moved yet when it is painted first, then it goes in small steps.
    static void drag(LevelView& in, const QPoint& from, const QPoint& to, Qt::KeyboardModifiers keys = {},
                     const std::function<void(int)>& at_step = {}) {
        constexpr int k_steps = 8;
        move_to(in, from, Qt::NoButton, keys);
        paint(in);
        QTest::mousePress(&in, Qt::LeftButton, keys, from);
        paint(in);
        for (int i = 1; i <= k_steps; ++i) {
            move_to(in, from + (to - from) * i / k_steps, Qt::LeftButton, keys);
            paint(in);
            if (at_step) at_step(i);
        }
        QTest::mouseRelease(&in, Qt::LeftButton, keys, to);
        paint(in);
    }
    /// A drag over a widget in small steps, each painted.
    static void drag_over(QWidget& widget, QPointF from, QPointF to) {
        const auto send = [&](QEvent::Type type, QPointF at, Qt::MouseButton button, Qt::MouseButtons held) {
            QMouseEvent event(type, at, widget.mapToGlobal(at), button, held, {});
            QCoreApplication::sendEvent(&widget, &event);
            widget.repaint();
            QCoreApplication::processEvents();
        };
        send(QEvent::MouseButtonPress, from, Qt::LeftButton, Qt::LeftButton);
        for (int i = 1; i <= 8; ++i)
            send(QEvent::MouseMove, from + (to - from) * i / 8, Qt::NoButton, Qt::LeftButton);
        send(QEvent::MouseButtonRelease, to, Qt::LeftButton, Qt::NoButton);
    }
    void drag(const Vec3& from, const Vec3& to, Qt::KeyboardModifiers keys = {}) {
        for (int i = 0; i < 3; ++i) QCoreApplication::processEvents();
        drag(view(), at(from), at(to), keys);
    }
    void key(Qt::Key key, Qt::KeyboardModifiers modifiers = {}) {
        // The display tells late that an earlier test's window is gone; whose turn it is has to be said
        // again.
        if (QApplication::activeWindow() != window_.get() && !QApplication::activeModalWidget())
            QApplication::setActiveWindow(window_.get());
        QTest::keyClick(&view(), key, modifiers);
    }
    /// Holds a key until something is so. The display may tell late that an earlier test's window is gone,
    /// and whoever loses the focus lets go of all keys: then it is pressed again.
    void hold_until(Qt::Key held, const std::function<bool()>& done) {
        const auto press = [&] {
            if (QApplication::activeWindow() != window_.get()) take_focus();
            QTest::keyPress(&view(), held);
            return true;
        };
        QTRY_VERIFY_WITH_TIMEOUT(done() || (press() && done()), 60000);
        QTest::keyRelease(&view(), held);
    }
    /// Keeps a picture of the moment where RUBBLE_PICTURES names a folder, to be looked at.
    void keep_picture(const char* name) {
        if (const QString folder = qEnvironmentVariable("RUBBLE_PICTURES"); !folder.isEmpty())
            window_->picture().save(folder + "/" + name + ".png");
    }
    /// Runs a command that opens a dialog, and hands it over while it waits; then it is closed.
    template <class Dialog> void in_dialog(const QString& command, const std::function<void(Dialog&)>& act) {
        bool seen = false;
        QTimer until_open;
        connect(&until_open, &QTimer::timeout, window_.get(), [&] {
            auto* dialog = qobject_cast<Dialog*>(QApplication::activeModalWidget());
            if (!dialog || !dialog->windowHandle() || !dialog->windowHandle()->isExposed()) return;
            until_open.stop();
            seen = true;
            QApplication::setActiveWindow(dialog); // nobody manages windows here
            QCoreApplication::processEvents();
            act(*dialog);
            if (dialog->isVisible()) dialog->close();
        });
        until_open.start(20);
        window_->commands().find(command)->action->trigger();
        QTRY_VERIFY2_WITH_TIMEOUT(seen, qPrintable(command), 10000);
        take_focus();
    }
    /// One that is seen before one that is not, such as that of a page that is gone in a moment.
    template <class Widget> Widget* named(const QString& name) {
        Widget* found = nullptr;
        for (Widget* widget : window_->findChildren<Widget*>())
            if (widget->accessibleName() == name && (!found || (widget->isVisible() && !found->isVisible())))
                found = widget;
        return found;
    }
    /// Types into a number of the facts, which follow what is picked a moment later.
    void enter(const QString& field, const QString& text) {
        QCoreApplication::processEvents();
        auto* number = named<NumberField>(field);
        QVERIFY2(number, qPrintable(field));
        number->setFocus();
        number->selectAll();
        QTest::keyClicks(number, text);
        QTest::keyClick(number, Qt::Key_Return);
        QCoreApplication::processEvents();
        view().setFocus();
    }
    void press(const QString& begins) {
        for (QPushButton* button : window_->findChildren<QPushButton*>())
            if (button->text().startsWith(begins)) {
                QVERIFY2(button->isEnabled(), qPrintable(begins));
                return QTest::mouseClick(button, Qt::LeftButton);
            }
        QFAIL(qPrintable("no button " + begins));
    }
    /// An upright side of a brush that the space view sees.
    BoxSide facing_side(const Brush& brush) {
        for (BoxSide side : {BoxSide::left, BoxSide::right, BoxSide::near, BoxSide::away})
            if (glm::dot(edit::outward(brush, side), view().camera().eye() - edit::middle_of(brush, side)) >
                1)
                return side;
        return BoxSide::top;
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
    /// A click in the space view, at what is seen of a place.
    void click(const Vec3& place, Qt::KeyboardModifiers keys = {}) {
        move_to(place);
        QTest::mouseClick(&view(), Qt::LeftButton, keys, at(place));
    }
    void click_in(LevelView& in, const Vec3& place, Qt::KeyboardModifiers keys = {}) {
        move_to(in, at(in, place));
        QTest::mouseClick(&in, Qt::LeftButton, keys, at(in, place));
    }
    /// Turns the wheel over a place of the space view.
    void wheel(const Vec3& place, int steps) {
        move_to(place);
        const QPoint p = at(place);
        QWheelEvent event(p, view().mapToGlobal(p), {}, {0, 120 * steps}, Qt::NoButton, {}, Qt::NoScrollPhase,
                          false);
        QCoreApplication::sendEvent(&view(), &event);
        settle();
    }
    /// Types a number for the tool at work and ends it.
    void type(const QString& text) {
        QTest::keyClicks(&view(), text);
        QTest::keyClick(&view(), Qt::Key_Return);
        settle();
    }
    /// An L of 6 × 6 m drawn in plan on ground of a height, 3 m high, open above and below, with walls of a
    /// quarter metre.
    ItemId draw_room(double ground_m) {
        view().setFocus();
        key(Qt::Key_L);
        for (const Vec2 corner :
             {Vec2(0, 0), Vec2(6, 0), Vec2(6, 6), Vec2(3, 6), Vec2(3, 3), Vec2(0, 3), Vec2(0, 0)})
            click_in(plan(), raised(corner, ground_m));
        type("3");
        key(Qt::Key_Q);
        enter("Shell (0: solid)", "0.25");
        press("Top");
        press("Bottom");
        settle();
        return session().selection().at(0);
    }
    check::Reached goal_reached() {
        const ItemId goal = elements_of(session().level(), Role::goal)[0]->id;
        for (const auto& place : session().built().check->places)
            if (place.item == goal) return place.reached;
        return check::Reached::undecided;
    }
    /// Closes the window and opens another, as in the next session.
    void open_anew() {
        window_.reset();
        open_window();
    }
    /// Answers the next file dialog with a path, as if it were typed.
    void answer_file_dialog(const QString& path) {
        auto* answer = new QTimer(this);
        connect(answer, &QTimer::timeout, this, [answer, path] {
            auto* dialog = qobject_cast<QFileDialog*>(QApplication::activeModalWidget());
            auto* name = dialog ? dialog->findChild<QLineEdit*>() : nullptr;
            if (!name) return;
            answer->deleteLater();
            name->setText(path);
            QTest::keyClick(name, Qt::Key_Return);
        });
        answer->start(30);
    }

private slots:
    void initTestCase() {
        QApplication::setAttribute(Qt::AA_DontUseNativeDialogs);
        // What the tests remember is not the user's.
        QApplication::setOrganizationName("Rubble tests");
        QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, folder_.path());
    }
    void init() {
        QSettings().remove("snap"); // one test's switches are not the next one's
        open_window();
    }
    void cleanup() { window_.reset(); }

private:
    void open_window() {
        window_ = std::make_unique<MainWindow>();
        window_->show();
        QVERIFY(QTest::qWaitForWindowExposed(window_.get()));
        view().frame_all();
        take_focus();
        settle();
    }
};

} // namespace rubble::app
