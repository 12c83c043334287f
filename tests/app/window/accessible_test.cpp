#include <QtTest/QtTest>

#include <QAccessible>

#include "app/window_driver.h"
#include "settings/settings_dialog.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::app;

/// Whoever sees nothing, or has no mouse, can do the same: each control has a name and a role, and is come to
/// by keys.
class AccessibleTest : public WindowDriver {
    Q_OBJECT

    static bool is_control(const QWidget& widget) {
        return qobject_cast<const QAbstractButton*>(&widget) || qobject_cast<const QLineEdit*>(&widget) ||
               qobject_cast<const QComboBox*>(&widget) || qobject_cast<const QAbstractItemView*>(&widget) ||
               qobject_cast<const QAbstractSlider*>(&widget) || qobject_cast<const QTabBar*>(&widget) ||
               qobject_cast<const QAbstractSpinBox*>(&widget);
    }
    /// Parts of other controls are come to with those; bars that scroll, by what they scroll.
    static bool is_part(const QWidget& widget) {
        if (qobject_cast<const QScrollBar*>(&widget) || qobject_cast<const QHeaderView*>(&widget))
            return true;
        for (const QWidget* in = widget.parentWidget(); in; in = in->parentWidget())
            if (qobject_cast<const QComboBox*>(in) || qobject_cast<const QLineEdit*>(in) ||
                qobject_cast<const QAbstractSpinBox*>(in) || qobject_cast<const QTabBar*>(in) ||
                qobject_cast<const QAbstractItemView*>(in))
                return true;
        return false;
    }
    static QString told(const QWidget& widget) {
        QStringList path;
        for (const QWidget* in = &widget; in && path.size() < 5; in = in->parentWidget())
            path << QString("%1(%2)").arg(in->metaObject()->className(), in->objectName());
        return path.join(" in ");
    }
    /// What is wrong with the controls of a window, one each.
    static QStringList problems(QWidget& window) {
        QStringList out;
        for (QWidget* widget : window.findChildren<QWidget*>()) {
            if (!widget->isVisible() || !is_control(*widget) || is_part(*widget)) continue;
            QAccessibleInterface* seen = QAccessible::queryAccessibleInterface(widget);
            if (!seen) {
                out << "not seen at all: " + told(*widget);
                continue;
            }
            if (seen->text(QAccessible::Name).trimmed().isEmpty()) out << "no name: " + told(*widget);
            if (seen->role() == QAccessible::NoRole || seen->role() == QAccessible::Client)
                out << "no role: " + told(*widget);
            if (widget->isEnabled() && !(widget->focusPolicy() & Qt::TabFocus))
                out << "no key leads to: " + told(*widget);
        }
        return out;
    }

    static void key_in_focus(Qt::Key key, Qt::KeyboardModifiers modifiers) {
        QTest::keyClick(QApplication::focusWidget(), key, modifiers);
        QCoreApplication::processEvents();
    }

private slots:
    void every_control_of_every_stage_has_a_name_a_role_and_is_come_to_by_keys() {
        QVERIFY(
            window_->open_path(RUBBLE_SOURCE_DIR "/demo-data/packing-hall/levels/packing-hall.level.json"));
        settle();
        QStringList wrong;
        for (int stage = 0; stage < 6; ++stage) {
            session().go_to(Stage(stage));
            QCoreApplication::processEvents();
            for (const bool selects : {false, true}) {
                session().select(selects ? std::vector<ItemId>{{"b24"}} : std::vector<ItemId>{});
                QCoreApplication::processEvents();
                for (const QString& one : problems(*window_))
                    wrong << QString("stage %1: %2").arg(stage).arg(one);
            }
        }
        for (int page = 1; page <= 6; ++page) {
            const char* ids[] = {"show-pace",    "show-spans",    "show-players",
                                 "show-what-if", "show-versions", "show-sides"};
            session().go_to(Stage::check);
            window_->commands().find(ids[page - 1])->action->trigger();
            QCoreApplication::processEvents();
            for (const QString& one : problems(*window_)) wrong << QString("page %1: %2").arg(page).arg(one);
        }
        wrong.removeDuplicates();
        QVERIFY2(wrong.isEmpty(), qPrintable("\n" + wrong.join('\n')));
    }

    void every_dialog_is_usable_without_a_mouse() {
        for (const char* id : {"settings", "project", "parcel", "new", "begin", "history", "element-kinds"}) {
            bool seen = false;
            QStringList wrong;
            QTimer until_open;
            connect(&until_open, &QTimer::timeout, window_.get(), [&] {
                QWidget* dialog = QApplication::activeModalWidget();
                if (!dialog)
                    for (QDialog* one : window_->findChildren<QDialog*>())
                        if (one->isVisible()) dialog = one;
                if (!dialog || !dialog->isVisible()) return;
                until_open.stop();
                seen = true;
                wrong = problems(*dialog);
                dialog->close();
            });
            until_open.start(20);
            window_->commands().find(id)->action->trigger();
            QTRY_VERIFY2_WITH_TIMEOUT(seen, id, 10000);
            QVERIFY2(wrong.isEmpty(), qPrintable(QString("%1\n%2").arg(id, wrong.join('\n'))));
            take_focus();
        }
    }

    void the_keys_go_round_the_parts_of_the_window_and_from_field_to_field() {
        view().setFocus();
        std::set<QWidget*> seen;
        for (int i = 0; i < 12; ++i) {
            key_in_focus(Qt::Key_Tab, Qt::ControlModifier);
            QVERIFY(QApplication::focusWidget());
            seen.insert(QApplication::focusWidget());
        }
        QVERIFY2(seen.size() >= 4, qPrintable(QString::number(seen.size())));
        QVERIFY(seen.contains(&view()));
        draw_box(Qt::Key_B, {0, 0, 0}, {2, 2, 0}, "1");
        auto* length = named<NumberField>("Length");
        QVERIFY(length);
        length->setFocus();
        QTest::keyClick(length, Qt::Key_Tab);
        QVERIFY(length->isVisible()); // no panel was hidden
        QVERIFY(QApplication::focusWidget() != length);
        view().setFocus();
        key(Qt::Key_Tab);
        QVERIFY(!length->isVisible());
    }

    void views_say_what_they_are() {
        for (LevelView* in : {&view(), &plan()}) {
            QAccessibleInterface* seen = QAccessible::queryAccessibleInterface(in);
            QVERIFY(seen && !seen->text(QAccessible::Name).isEmpty());
        }
    }
};

RUBBLE_TEST(AccessibleTest)
#include "accessible_test.moc"
