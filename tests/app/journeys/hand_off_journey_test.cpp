#include <QtTest/QtTest>

#include <QInputDialog>
#include <QListWidget>

#include "app/window_driver.h"
#include "commands/project_levels.h"
#include "edit/finals.h"
#include "edit/names.h"
#include "edit/project.h"
#include "io/level_file.h"
#include "io/level_merge.h"
#include "io/project_file.h"
#include "studies/versions_page.h"
#include "test_program.h"
#include "window/history_list.h"
#include "window/welcome.h"

using namespace rubble;
using namespace rubble::app;

/// Versions, what two sides changed, the history, finals and beginnings, done in the window.
class HandOffJourneyTest : public WindowDriver {
    Q_OBJECT

    int brushes() {
        int count = 0;
        for_each_item(session().stored_level(),
                      [&](const Item& item, const Layer&) { count += item.brush() ? 1 : 0; });
        return count;
    }
    void save_in(const char* name) {
        const QString file = folder_.filePath(QString("%1.level.json").arg(name));
        QVERIFY(session().files().save(file));
    }
    template <class Widget> Widget* shown(const QString& name) {
        QCoreApplication::processEvents();
        return named<Widget>(name);
    }
    static void push(QWidget& in, const QString& text) {
        for (QPushButton* button : in.findChildren<QPushButton*>())
            if (button->text() == text && button->isEnabled())
                return QTest::mouseClick(button, Qt::LeftButton);
        QFAIL(qPrintable("no button " + text));
    }

private slots:
    void any_step_of_the_history_is_gone_to() {
        const int before = brushes();
        window_->commands().find("history")->action->trigger();
        auto* history = window_->findChild<HistoryList*>();
        QVERIFY(history);
        history->hide();
        for (int i = 0; i < 3; ++i) draw_box(Qt::Key_B, {i * 3.0, 0, 0}, {i * 3.0 + 2, 2, 0}, "1");
        QCOMPARE(brushes(), before + 3);
        window_->commands().find("history")->action->trigger();
        QVERIFY(history->isVisible());
        auto* steps = history->findChild<QListWidget*>();
        QCOMPARE(steps->count(), 4);
        steps->setCurrentRow(1);
        QTest::keyClick(steps, Qt::Key_Return);
        QCOMPARE(brushes(), before + 1);
        QVERIFY(history->isVisible()); // Enter goes to a step, and the list stays
        QCOMPARE(steps->count(), 4);   // what was undone is still there
        steps->setCurrentRow(3);
        QTest::keyClick(steps, Qt::Key_Return);
        QCOMPARE(brushes(), before + 3);
        // Pictures of steps come when nothing was done for a moment.
        QTRY_VERIFY_WITH_TIMEOUT(!steps->item(3)->icon().isNull(), 10000);
        history->close();
    }

    void a_version_is_kept_under_a_name_compared_with_and_taken_from() {
        draw_box(Qt::Key_B, {0, 0, 0}, {2, 2, 0}, "1");
        const ItemId box = session().selection().at(0);
        save_in("versions");
        QTimer::singleShot(50, window_.get(), [] {
            auto* ask = qobject_cast<QInputDialog*>(QApplication::activeModalWidget());
            if (!ask) return;
            ask->setTextValue("with a box");
            ask->accept();
        });
        window_->commands().find("save-version")->action->trigger();
        QVERIFY(QFileInfo::exists(version_path(session().files().file(), "with a box")));
        session().apply(edit::without(session().stored_level(), std::vector<ItemId>{box}), "Remove");
        save_in("versions");
        settle();
        session().go_to(Stage::check);
        window_->commands().find("show-versions")->action->trigger();
        auto* choice = shown<QComboBox>("Compare with");
        QVERIFY2(choice, "the choice of versions");
        const int at = choice->findText("with a box", Qt::MatchContains);
        QVERIFY(at >= 0);
        choice->setCurrentIndex(at);
        emit choice->activated(at);
        auto* changes = shown<QListWidget>("Changes");
        QVERIFY2(changes, "the list of changes");
        QTRY_VERIFY_WITH_TIMEOUT(changes->count() > 0, 60000);
        const int before = brushes();
        int row = -1;
        for (int i = 0; i < changes->count(); ++i)
            if (changes->item(i)->text().startsWith("Gone")) row = i;
        QVERIFY(row >= 0);
        changes->setCurrentRow(row);
        emit changes->itemClicked(changes->item(row));
        QCoreApplication::processEvents();
        press("Take over from there");
        QCOMPARE(brushes(), before + 1);
        QVERIFY(find_item(session().stored_level(), box));
    }

    void what_both_sides_changed_is_decided_one_by_one() {
        draw_box(Qt::Key_B, {0, 0, 0}, {2, 2, 0}, "1");
        const Item base = *session().selected();
        const Level level = session().stored_level();
        const auto with_height = [&](double height) {
            Item item = base;
            Brush brush = *base.brush();
            brush.size.z = height;
            item.body = brush;
            return io::Json::parse(io::text_of(edit::with_changed(level, item)));
        };
        io::MergedLevel merged =
            io::merged_levels(io::Json::parse(io::text_of(level)), with_height(2), with_height(3));
        QCOMPARE(merged.conflicts.size(), size_t(1));
        merged.level["conflicts"] = io::to_json(merged.conflicts);
        const QString file = folder_.filePath("both.level.json");
        QFile out(file);
        QVERIFY(out.open(QIODevice::WriteOnly));
        out.write(QByteArray::fromStdString(merged.level.dump()));
        out.close();
        QVERIFY(window_->open_path(file));
        settle();
        const auto& findings = session().built().check->findings;
        QVERIFY(std::any_of(findings.begin(), findings.end(), [](const check::Finding& one) {
            return one.rule == check::RuleId::merge_conflict;
        }));
        session().go_to(Stage::hand_off);
        auto* list = shown<QListWidget>("Changed by both sides");
        QVERIFY(list && list->count() == 1);
        list->setCurrentRow(0);
        press("Take theirs");
        QCOMPARE(find_item(session().stored_level(), base.id)->brush()->size.z, 3.0);
        QVERIFY(io::conflicts_of(session().stored_level()).empty());
        QCoreApplication::processEvents();
        QVERIFY(!named<QListWidget>("Changed by both sides"));
        session().documents().undo();
        QCOMPARE(find_item(session().stored_level(), base.id)->brush()->size.z, 2.0);
    }

    void finals_stand_for_the_grey_ones_and_either_is_shown() {
        QVERIFY(
            window_->open_path(RUBBLE_SOURCE_DIR "/demo-data/packing-hall/levels/packing-hall.level.json"));
        settle();
        const auto kit = find_kit(session().project(), "kits/fittings/kit.json");
        QVERIFY(kit && !kit->pieces.empty());
        session().looking().set_piece("kits/fittings/kit.json", kit->pieces[0]->id);
        Brush grey;
        grey.place.at = {0, 0, 20};
        grey.size = kit->pieces[0]->size_m;
        const Item item{{"grey1"}, kit->pieces[0]->id, false, grey, {}};
        session().apply(edit::with_item(session().stored_level(), 0, item), "Grey");
        window_->commands().find("lay-finals")->action->trigger();
        QVERIFY(edit::shows_finals(session().stored_level()));
        QCOMPARE(edit::grey_left(session().stored_level()).finals, 1);
        QVERIFY(find_item(session().stored_level(), {"grey1"})->hidden);
        window_->commands().find("show-finals")->action->trigger();
        QVERIFY(!edit::shows_finals(session().stored_level()));
        QVERIFY(!find_item(session().stored_level(), {"grey1"})->hidden);
    }

    void one_begins_with_what_the_first_page_offers() {
        in_dialog<Welcome>("begin", [this](Welcome& first) {
            keep_picture("welcome");
            push(first, "Side");
        });
        QTRY_COMPARE_WITH_TIMEOUT(session().level().frame, Frame::side, 10000);
    }
};

RUBBLE_TEST(HandOffJourneyTest)
#include "hand_off_journey_test.moc"
