#include <QtTest/QtTest>

#include <QComboBox>
#include <QTabWidget>

#include "app/window_driver.h"
#include "settings/keys_file.h"
#include "settings/settings_dialog.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::app;

/// What the user settles: in force at once, kept, and as it was when it is taken back.
class SettingsTest : public WindowDriver {
    Q_OBJECT

    void in_settings(const std::function<void(SettingsDialog&)>& act) {
        in_dialog<SettingsDialog>("settings", act);
    }
    static void choose(QDialog& in, const QString& name, int index) {
        QComboBox* found = nullptr;
        for (QComboBox* box : in.findChildren<QComboBox*>())
            if (box->accessibleName() == name) found = box;
        QVERIFY2(found, qPrintable(name));
        for (auto* page = found->parentWidget(); page; page = page->parentWidget())
            if (auto* pages = qobject_cast<QTabWidget*>(page->parentWidget()->parentWidget())) {
                pages->setCurrentWidget(page);
                break;
            }
        found->setFocus();
        QCoreApplication::processEvents();
        while (found->currentIndex() < index) {
            const int before = found->currentIndex();
            QTest::keyClick(found, Qt::Key_Down);
            QVERIFY(found->currentIndex() > before);
        }
    }
    QColor ground_of_view() {
        paint(plan());
        return plan().grabFramebuffer().pixelColor(4, plan().height() - 4);
    }

private slots:
    void cleanup() {
        QSettings().clear();
        window_->use(Preferences{});
        apply_theme(*qApp);
        tell_lengths_in(LengthUnit::metres, 1);
        window_.reset();
    }

    void colours_are_dark_at_once_and_after_the_next_start() {
        const QColor light = color::ink;
        const int before = ground_of_view().lightness();
        in_settings([](SettingsDialog& dialog) { choose(dialog, SettingsDialog::tr("Colours"), 2); });
        QVERIFY(color::ink.lightness() > 180 && light.lightness() < 80);
        QVERIFY(before > 200);
        QVERIFY2(ground_of_view().lightness() < 60, qPrintable(ground_of_view().name()));
        QCOMPARE(window_->palette().color(QPalette::WindowText), color::ink);
        QCOMPARE(kept_preferences().colors, ColorChoice::dark);
    }

    /// WCAG 2.1: the ratio of two luminances.
    static double contrast(const QColor& a, const QColor& b) {
        const auto luminance = [](const QColor& c) {
            const auto part = [](double v) {
                return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4);
            };
            return 0.2126 * part(c.redF()) + 0.7152 * part(c.greenF()) + 0.0722 * part(c.blueF());
        };
        const double x = luminance(a), y = luminance(b);
        return (std::max(x, y) + 0.05) / (std::min(x, y) + 0.05);
    }
    void text_is_readable_in_all_colours() {
        for (const Scheme scheme : {Scheme::light, Scheme::dark, Scheme::contrast}) {
            apply_theme(*qApp, 1, scheme);
            const double least = scheme == Scheme::contrast ? 7 : 4.5;
            for (const QColor* ground : {&color::paper, &color::panel}) {
                QVERIFY(contrast(color::ink, *ground) >= 7);
                QVERIFY2(contrast(color::faint_ink, *ground) >= least,
                         qPrintable(QString::number(contrast(color::faint_ink, *ground))));
            }
            QVERIFY(contrast(color::ink, colors().picked) >= least);
        }
    }

    void lengths_are_told_and_typed_in_what_is_chosen() {
        draw_box(Qt::Key_B, {0, 0, 0}, {4, 4, 0}, "1");
        in_settings([](SettingsDialog& dialog) { choose(dialog, SettingsDialog::tr("Lengths in"), 1); });
        QCoreApplication::processEvents();
        auto* height = named<NumberField>("Height");
        QVERIFY(height);
        QCOMPARE(height->text(), QString("100"));
        enter("Height", "250");
        QCOMPARE(selected().size.z, 2.5);
        enter("Height", "1.5 m");
        QCOMPARE(selected().size.z, 1.5);
        enter("Turned", "30"); // degrees stay what they are
        QCOMPARE(selected().place.turn_deg, 30.0);
        QCOMPARE(metres_text(1.234), QString("123 cm"));
        in_settings([](SettingsDialog& dialog) { choose(dialog, SettingsDialog::tr("Lengths in"), 2); });
        QCoreApplication::processEvents();
        QCOMPARE(named<NumberField>("Height")->text(), plain_number(1.5 / session().grid_m()));
        QCOMPARE(*parse_metres("3"), 3 * session().grid_m());
        QCOMPARE(*parse_metres("3 m"), 3.0);
    }

    void a_left_hand_draws_with_the_right_button() {
        in_settings(
            [](SettingsDialog& dialog) { choose(dialog, SettingsDialog::tr("Draw and select with"), 1); });
        key(Qt::Key_B);
        const QPoint from = at({0, 0, 0}), to = at({3, 3, 0});
        const Camera before = view().camera();
        const auto stroke = [&](Qt::MouseButton button) {
            move_to(view(), from);
            paint(view());
            QTest::mousePress(&view(), button, {}, from);
            for (int i = 1; i <= 8; ++i) move_to(view(), from + (to - from) * i / 8, button), paint(view());
            QTest::mouseRelease(&view(), button, {}, to);
            paint(view());
        };
        stroke(Qt::RightButton);
        QVERIFY(view().camera().heading_deg == before.heading_deg);
        type("2");
        QVERIFY(session().selected() && session().selected()->brush());
        stroke(Qt::LeftButton);
        QVERIFY(view().camera().heading_deg != before.heading_deg);
    }

    void the_wheel_moves_the_view_and_with_control_zooms() {
        in_settings([](SettingsDialog& dialog) {
            choose(dialog, SettingsDialog::tr("The wheel, or two fingers"), 1);
        });
        const auto turn = [&](Qt::KeyboardModifiers keys) {
            const QPoint p = view().rect().center();
            QWheelEvent event(p, view().mapToGlobal(p), {}, {0, 120}, Qt::NoButton, keys, Qt::NoScrollPhase,
                              false);
            QCoreApplication::sendEvent(&view(), &event);
        };
        const Camera before = view().camera();
        turn({});
        QCOMPARE(view().camera().distance_m, before.distance_m);
        QVERIFY(view().camera().target != before.target);
        turn(Qt::ControlModifier);
        QVERIFY(view().camera().distance_m < before.distance_m);
    }

    void keys_go_into_a_file_and_come_back() {
        Commands& commands = *window_->findChild<Commands*>();
        QVERIFY(!commands.change_key("tool-box", QKeySequence("Ctrl+Alt+9")));
        const QByteArray text = text_of_keys(commands);
        const auto usual = take_keys(commands, R"({"format":1,"keys":{}})", "keys");
        QVERIFY2(usual, usual ? "" : usual.error().text().c_str());
        QCOMPARE(commands.find("tool-box")->action->shortcut(), QKeySequence(Qt::Key_B));
        QVERIFY(take_keys(commands, text, "keys"));
        QCOMPARE(commands.find("tool-box")->action->shortcut(), QKeySequence("Ctrl+Alt+9"));
        // Two that changed places.
        QVERIFY(take_keys(commands, R"({"format":1,"keys":{"tool-box":"O","tool-cylinder":"B"}})", "keys"));
        QCOMPARE(commands.find("tool-cylinder")->action->shortcut(), QKeySequence(Qt::Key_B));
        for (const char* bad : {"", "[]", "{}", R"({"keys":{"no-such":"B"}})", R"({"keys":{"tool-box":3}})",
                                R"({"keys":{"tool-box":"O"}})", R"({"keys":{"tool-box":"Nonsense+"}})"}) {
            const auto taken = take_keys(commands, bad, "keys");
            QVERIFY2(!taken && !taken.error().message.empty(), bad);
            QCOMPARE(commands.find("tool-cylinder")->action->shortcut(), QKeySequence(Qt::Key_B));
        }
    }

    void the_list_of_keys_says_who_has_a_key() {
        in_settings([this](SettingsDialog& dialog) {
            auto* pages = dialog.findChild<QTabWidget*>();
            pages->setCurrentIndex(2);
            auto* list = dialog.findChild<QTreeWidget*>();
            QCOMPARE(size_t(list->topLevelItemCount()), window_->commands().all().size());
            for (QLineEdit* search : dialog.findChildren<QLineEdit*>())
                if (search->accessibleName() == SettingsDialog::tr("Look for"))
                    QTest::keyClicks(search, "cylinder");
            QVERIFY(list->topLevelItemCount() > 0 && list->topLevelItemCount() < 10);
        });
    }

    void what_makes_no_sense_in_the_settings_is_as_at_first() {
        QSettings settings;
        settings.setValue("look/colors", 99);
        settings.setValue("look/text", -4);
        settings.setValue("look/lengths", "much");
        settings.setValue("files/copy_after_s", 100000);
        Preferences usual;
        usual.copy_after_s = 5;
        QVERIFY(kept_preferences() == usual);
    }
};

RUBBLE_TEST(SettingsTest)
#include "settings_test.moc"
