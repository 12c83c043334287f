#include <QtTest/QtTest>

#include <QClipboard>
#include <QMessageBox>
#include <QRandomGenerator>

#include "app/window_driver.h"
#include "io/item_file.h"
#include "io/level_file.h"
#include "level/level.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::app;

namespace {

/// How long the hand goes on: RUBBLE_HAND_SECONDS, or what is enough for every change.
double seconds() {
    bool given = false;
    const double wanted = qEnvironmentVariable("RUBBLE_HAND_SECONDS").toDouble(&given);
    return given ? wanted : 180;
}

quint32 first_seed() {
    bool given = false;
    const quint32 wanted = qEnvironmentVariable("RUBBLE_HAND_SEED").toUInt(&given);
    return given ? wanted : 1; // always the same hand, so that a change is blamed for what it broke
}

} // namespace

/// A hand that knows nothing: keys of all commands, clicks, drags, the wheel, typed fields. Whatever it does,
/// the window lives on, everything is undone to the very beginning, and what was made is saved and opened as
/// it is. `RUBBLE_HAND_SEED=7 RUBBLE_HAND_SECONDS=7200 test_app RandomHandTest` goes on for two hours.
class RandomHandTest : public WindowDriver {
    Q_OBJECT

    QRandomGenerator random_;
    QStringList done_; ///< the last few, to be told when something fails

    int below(int n) { return int(random_.bounded(quint32(n))); }
    template <class List> const auto& one_of(const List& list) {
        return list[size_t(below(int(std::size(list))))];
    }
    LevelView& some_view() { return plan().isVisible() && below(4) == 0 ? plan() : view(); }
    static QPoint spot(LevelView& in, QRandomGenerator& random) {
        return {int(random.bounded(quint32(std::max(in.width(), 1)))),
                int(random.bounded(quint32(std::max(in.height(), 1))))};
    }
    void note(const QString& what) {
        done_ << what;
        if (done_.size() > 12) done_.removeFirst();
    }

    void press_a_key() {
        const auto& commands = window_->commands().all();
        const auto& command = one_of(commands);
        // These ask for files, or end; the clipboard belongs to others too.
        static const std::set<QString> k_left{"open",       "save",     "save-as", "export", "underlay",
                                              "quit",       "guide",    "keys",    "new",    "bring-sheet",
                                              "grey-sheet", "new-side", "new-plan"};
        if (k_left.contains(command.id)) return;
        note(command.id);
        command.action->trigger();
    }
    void press_a_raw_key() {
        static const Qt::Key k_keys[] = {Qt::Key_Escape, Qt::Key_Return, Qt::Key_Space, Qt::Key_Backspace,
                                         Qt::Key_1,      Qt::Key_Period, Qt::Key_Minus, Qt::Key_W,
                                         Qt::Key_Up,     Qt::Key_PageUp, Qt::Key_Tab};
        const Qt::Key key = one_of(k_keys);
        note(QKeySequence(key).toString());
        QWidget* focus = QApplication::focusWidget();
        QTest::keyClick(focus ? focus : &view(), key);
    }
    void drag_somewhere() {
        static const Qt::KeyboardModifiers k_modifiers[] = {
            {}, {}, {}, Qt::ControlModifier, Qt::ShiftModifier, Qt::AltModifier};
        LevelView& in = some_view();
        const QPoint from = spot(in, random_), to = spot(in, random_);
        const Qt::KeyboardModifiers keys = one_of(k_modifiers);
        note(QStringLiteral("drag %1,%2 %3,%4 %5")
                 .arg(from.x())
                 .arg(from.y())
                 .arg(to.x())
                 .arg(to.y())
                 .arg(int(keys)));
        const int stop = below(12);
        drag(in, from, to, keys, [&](int step) {
            if (step != stop) return;
            below(2) ? press_a_raw_key() : press_a_key();
        });
    }
    void click_somewhere() {
        LevelView& in = some_view();
        const QPoint at = spot(in, random_);
        note(QStringLiteral("click %1,%2").arg(at.x()).arg(at.y()));
        move_to(in, at);
        paint(in);
        QTest::mouseClick(&in, Qt::LeftButton, below(4) ? Qt::NoModifier : Qt::ShiftModifier, at);
    }
    void look_around() {
        LevelView& in = some_view();
        const QPoint from = spot(in, random_), to = spot(in, random_);
        note("look");
        QTest::mousePress(&in, Qt::RightButton, {}, from);
        for (int i = 1; i <= 8; ++i) move_to(in, from + (to - from) * i / 8, Qt::RightButton), paint(in);
        QTest::mouseRelease(&in, Qt::RightButton, {}, to);
    }
    void turn_the_wheel() {
        LevelView& in = some_view();
        const QPoint at = spot(in, random_);
        const int by = below(2) ? 120 : -120;
        note(QStringLiteral("wheel %1").arg(by));
        for (int i = 0; i < 3; ++i) {
            QWheelEvent event(at, in.mapToGlobal(at), {}, {0, by}, Qt::NoButton, {}, Qt::NoScrollPhase,
                              false);
            QCoreApplication::sendEvent(&in, &event);
        }
    }
    void type_into_a_field() {
        static const char* const k_texts[] = {"0",   "-1", "1e9", "0.001", "+0.5", "3 m / 2", "12",
                                              "-40", "x",  "45",  "200",   "0.25", ""};
        QList<QLineEdit*> fields;
        for (QLineEdit* field : window_->findChildren<QLineEdit*>())
            if (field->isVisible() && field->isEnabled()) fields << field;
        if (fields.isEmpty()) return;
        QLineEdit* field = fields[below(int(fields.size()))];
        const char* text = one_of(k_texts);
        note(QStringLiteral("%1: %2").arg(field->accessibleName(), text));
        field->setFocus();
        field->selectAll();
        QTest::keyClicks(field, text);
        if (QPointer<QLineEdit> still = field) QTest::keyClick(field, Qt::Key_Return);
    }
    void press_a_button() {
        QList<QAbstractButton*> buttons;
        for (QAbstractButton* button : window_->findChildren<QAbstractButton*>())
            if (button->isVisible() && button->isEnabled() && button->objectName() != "snap" &&
                !button->text().startsWith("Export") && !button->text().startsWith("Bring in a sheet") &&
                !button->text().startsWith("Begin with a grey") && !button->text().contains("Keep this run"))
                buttons << button;
        if (buttons.isEmpty()) return;
        QAbstractButton* button = buttons[below(int(buttons.size()))];
        if (qobject_cast<QToolButton*>(button) &&
            static_cast<QToolButton*>(button)->popupMode() == QToolButton::InstantPopup)
            return; // a menu waits
        note("button " + button->text());
        QTest::mouseClick(button, Qt::LeftButton);
    }
    void move_the_hand() {
        const int choice = below(100);
        if (choice < 26)
            press_a_key();
        else if (choice < 34)
            press_a_raw_key();
        else if (choice < 66)
            drag_somewhere();
        else if (choice < 80)
            click_somewhere();
        else if (choice < 85)
            look_around();
        else if (choice < 89)
            turn_the_wheel();
        else if (choice < 96)
            type_into_a_field();
        else
            press_a_button();
        QCoreApplication::processEvents();
        if (view().isVisible()) paint(view());
        if (!QApplication::activeWindow()) QApplication::setActiveWindow(window_.get());
    }
    /// What of a brush files do not show.
    static QByteArray values_of(const Item& item) {
        const Brush* b = item.brush();
        if (!b) return {};
        return QStringLiteral(
                   "\nsize %1 %2 %3, sides %4, steps %5, angle %6, inner %7, thickness %8, shell %9")
            .arg(b->size.x, 0, 'g', 17)
            .arg(b->size.y, 0, 'g', 17)
            .arg(b->size.z, 0, 'g', 17)
            .arg(b->sides)
            .arg(b->steps)
            .arg(b->angle_deg)
            .arg(b->inner_part)
            .arg(b->thickness_m)
            .arg(b->shell_m)
            .toUtf8();
    }
    /// The first item that differs, as it was made and as it was read.
    static QByteArray difference(const Level& made, const Level& read) {
        QByteArray out;
        for_each_item(made, [&](const Item& item, const Layer&) {
            const Item* other = find_item(read, item.id);
            if (out.isEmpty() && !members_of(item) && (!other || !(*other == item)))
                out = QByteArray::fromStdString("\n" + io::to_json(item).dump() + "\n" +
                                                (other ? io::to_json(*other).dump() : "nothing")) +
                      values_of(item) + (other ? values_of(*other) : QByteArray());
        });
        if (!out.isEmpty()) return out;
        // No item: something else of the level.
        const QList<QByteArray> a = QByteArray::fromStdString(io::text_of(made)).split('\n'),
                                b = QByteArray::fromStdString(io::text_of(read)).split('\n');
        for (qsizetype i = 0; i < std::max(a.size(), b.size()); ++i)
            if (a.value(i) != b.value(i)) return "\nmade: " + a.value(i) + "\nread: " + b.value(i);
        out = "\nthe files are the same; other are:";
        if (made.layers != read.layers) out += " layers";
        if (made.claims != read.claims) out += " claims";
        if (made.extra != read.extra) out += " extra";
        if (made.name != read.name) out += " name";
        for (size_t i = 0; i < std::min(made.layers.size(), read.layers.size()); ++i) {
            Layer x = *made.layers[i], y = *read.layers[i];
            if (x == y) continue;
            out += " layer " + QByteArray::number(int(i));
            if (x.items == y.items) out += " but its items";
            if (x.tiles == y.tiles) out += " but its tiles";
        }
        return out;
    }
    void verify_kept(const QByteArray& about) {
        if (view().walking()) QTest::keyClick(&view(), Qt::Key_Escape);
        window_->use_tool("select");
        const Level made = session().stored_level();
        auto read = io::level_from_text(io::text_of(made), "level");
        QVERIFY2(read, about + (read ? "" : read.error().text().c_str()));
        *read = with_files_of(session().project(), std::move(*read)); // as opening does
        QVERIFY2(*read == made, about + ": it is not opened as it was saved" + difference(made, *read));
        const QString project = QString::fromStdString(io::text_of(session().project()));
        QVERIFY2(io::project_from_text(project.toStdString(), "project"), about);
        while (!session().documents().undo_text().isEmpty()) session().documents().undo();
        QVERIFY2(session().documents().saved(), about + ": the beginning is not what it was");
    }

    /// A dialog waits for an answer, which this hand cannot give: now it agrees, now it does not.
    void answer_dialogs() {
        QWidget* dialog = QApplication::activeModalWidget();
        if (dialog) QTest::keyClick(dialog, below(2) == 0 ? Qt::Key_Return : Qt::Key_Escape);
    }

    void go_on_with(const QString& level, double for_s, Frame frame = Frame::space) {
        QElapsedTimer clock;
        clock.start();
        QTimer answers;
        answers.callOnTimeout(this, &RandomHandTest::answer_dialogs);
        answers.start(50);
        quint32 seed = first_seed();
        int actions = 0;
        for (int round = 0; clock.elapsed() < for_s * 1000; ++round, ++seed) {
            random_.seed(seed);
            done_.clear();
            qInfo("seed %u", seed);
            open_anew();
            if (!level.isEmpty()) QVERIFY(window_->open_path(level));
            if (frame != Frame::space) session().files().start_new(frame);
            settle();
            constexpr int k_actions = 250;
            for (int i = 0; i < k_actions && clock.elapsed() < for_s * 1000 * 1.2; ++i, ++actions)
                move_the_hand();
            verify_kept("seed " + QByteArray::number(seed) + ", last " + done_.join(", ").toUtf8());
            if (QTest::currentTestFailed()) return;
        }
        qInfo("%d actions", actions);
    }

private slots:
    void a_new_level() { go_on_with({}, seconds() / 4); }
    void a_new_side_level() { go_on_with({}, seconds() / 4, Frame::side); }
    void a_new_plan_level() { go_on_with({}, seconds() / 4, Frame::plan); }
    void the_demo() {
        go_on_with(QStringLiteral(RUBBLE_SOURCE_DIR "/demo-data/packing-hall/levels/packing-hall.level.json"),
                   seconds() / 4);
    }
};

RUBBLE_TEST(RandomHandTest)
#include "random_hand_test.moc"
