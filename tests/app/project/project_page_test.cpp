#include <QtTest/QtTest>

#include <QTreeWidget>

#include "app/window_driver.h"
#include "commands/project_levels.h"
#include "io/level_file.h"
#include "io/project_file.h"
#include "parcels/parcel_dialog.h"
#include "parcels/parcel_keeper.h"
#include "project/project_page.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::app;

/// The project as a whole, and what others get of it, done in the window.
class ProjectPageTest : public WindowDriver {
    Q_OBJECT

    /// A project of one level in a folder of its own.
    QString begin_project(const char* name) {
        const QString folder = folder_.filePath(name);
        QDir().mkpath(folder);
        [&] { QVERIFY(make_project(session(), folder)); }();
        return folder;
    }
    QStringList names() {
        QStringList out;
        for (const OpenLevel& open : session().document().levels)
            out << QString::fromStdString(open.level->name);
        return out;
    }
    static QPushButton* button(QWidget& in, const QString& text) {
        for (QPushButton* one : in.findChildren<QPushButton*>())
            if (one->text() == text) return one;
        return nullptr;
    }
    static void click(QWidget& in, const QString& text) {
        QPushButton* one = button(in, text);
        QVERIFY2(one && one->isEnabled(), qPrintable(text));
        QTest::mouseClick(one, Qt::LeftButton);
        QCoreApplication::processEvents();
    }
    void keep(QWidget& widget, const char* name) {
        if (const QString folder = qEnvironmentVariable("RUBBLE_PICTURES"); !folder.isEmpty())
            widget.grab().save(folder + "/" + name + ".png");
    }

private slots:
    void a_level_that_stands_alone_becomes_a_project() {
        draw_box(Qt::Key_B, {0, 0, 0}, {2, 2, 0}, "1");
        const Level before = session().stored_level();
        const QString folder = begin_project("cannery");
        QVERIFY(session().documents().saved());
        QVERIFY(QFileInfo::exists(folder + "/project.json"));
        const auto read = io::load_level_with_project(session().files().file().toStdString());
        QVERIFY(read && read->level == before && read->folder == folder.toStdString());
        QVERIFY(!make_project(session(), folder)); // there is one already
    }

    void levels_are_ordered_renamed_and_duplicated_and_stay_so() {
        const QString folder = begin_project("order");
        in_dialog<ProjectPage>("project", [this](ProjectPage& page) {
            click(page, "Duplicate");
            click(page, "Duplicate");
            auto* list = page.findChild<QTreeWidget*>();
            QCOMPARE(list->topLevelItemCount(), 3);
            rename_level(session(), 0, "Dock");
            rename_level(session(), 1, "Hall");
            rename_level(session(), 2, "Roof");
            list->setCurrentItem(list->topLevelItem(2));
            click(page, "Earlier");
            list->setCurrentItem(list->topLevelItem(1));
            click(page, "Earlier");
            click(page, "Check all");
            QTRY_VERIFY_WITH_TIMEOUT(list->topLevelItem(2)->text(1).contains("blocker"), 60000);
            for (int i = 0; i < 3; ++i) QVERIFY2(list->topLevelItem(i)->text(1).contains("blocker"), "state");
            keep(page, "project_page");
        });
        QCOMPARE(names(), QStringList({"Roof", "Dock", "Hall"}));
        QVERIFY(session().files().save());
        const QString shown = QString::fromStdString(session().level().name);
        QVERIFY(window_->open_path(folder));
        QCOMPARE(names(), QStringList({"Roof", "Dock", "Hall"}));
        // All of it can be taken back.
        move_level(session(), 0, 2 - 1);
        session().documents().undo();
        QCOMPARE(names(), QStringList({"Roof", "Dock", "Hall"}));
    }

    void taking_back_a_new_level_shows_the_one_before() {
        begin_project("taken_back");
        const std::string first = session().level().name;
        add_level(session(), "Other", Frame::side);
        QCOMPARE(session().level().frame, Frame::side);
        session().documents().undo();
        settle();
        QCOMPARE(session().level().name, first);
        QCOMPARE(names().size(), 1);
        session().documents().redo();
        settle();
        QCOMPARE(names().size(), 2);
    }

    void what_is_selected_moves_to_another_level() {
        begin_project("move");
        draw_box(Qt::Key_B, {0, 0, 0}, {2, 2, 0}, "1");
        const Item box = *session().selected();
        add_level(session(), "Other", Frame::space);
        session().documents().show_level(0);
        session().select({box.id});
        const size_t before = session().stored_level().layers[0]->items.size();
        move_selection_to_level(session(), 1);
        settle();
        QCOMPARE(session().level().name, std::string("Other"));
        QVERIFY(session().selected() && session().selected()->brush());
        QVERIFY(session().selected()->brush()->place == box.brush()->place);
        session().documents().show_level(0);
        QCOMPARE(session().stored_level().layers[0]->items.size(), before - 1);
        session().documents().undo();
        QVERIFY(find_item(session().stored_level(), box.id));
    }

    void a_parcel_is_shown_made_and_made_again_after_a_save() {
        const QString folder = begin_project("parcels"), target = folder_.filePath("for_testers");
        settle();
        in_dialog<ParcelDialog>("parcel", [&](ParcelDialog& dialog) {
            QComboBox* who = nullptr;
            for (QComboBox* box : dialog.findChildren<QComboBox*>())
                if (box->accessibleName() == "For") who = box;
            QVERIFY(who && who->count() == 3);
            who->setCurrentIndex(2);
            for (QLineEdit* line : dialog.findChildren<QLineEdit*>())
                if (line->accessibleName() == "Into") line->setText(target);
            for (QCheckBox* box : dialog.findChildren<QCheckBox*>())
                if (box->text().contains("each time")) box->setChecked(true);
            auto* files = dialog.findChild<QTreeWidget*>();
            QTRY_VERIFY_WITH_TIMEOUT(files->topLevelItemCount() > 4, 60000);
            keep(dialog, "parcel_dialog");
            click(dialog, "Make the parcel");
        });
        QVERIFY(QFileInfo::exists(target + "/index.html") && QFileInfo::exists(target + "/report.pdf"));
        QFile page(target + "/index.html");
        QVERIFY(page.open(QIODevice::ReadOnly));
        QVERIFY(page.readAll().contains("data:image/png;base64"));
        QVERIFY(QFile::remove(target + "/parcel.json"));
        draw_box(Qt::Key_B, {0, 0, 0}, {2, 2, 0}, "1");
        QVERIFY(session().files().save());
        QTRY_VERIFY_WITH_TIMEOUT(QFileInfo::exists(target + "/parcel.json"), 60000);
        ParcelKeeper::keep(session().files().file(), {});
        QVERIFY(!ParcelKeeper::keeps(session().files().file()));
    }

    void names_are_put_right_at_once() {
        begin_project("names");
        draw_box(Qt::Key_B, {0, 0, 0}, {2, 2, 0}, "1");
        session().go_to(Stage::hand_off);
        QCoreApplication::processEvents();
        auto* pattern = named<QLineEdit>("Pattern");
        QVERIFY(pattern);
        pattern->setFocus();
        QTest::keyClicks(pattern, "{layer}_{kind}_{number}");
        QTest::keyClick(pattern, Qt::Key_Return);
        QCoreApplication::processEvents();
        QCOMPARE(session().project().names.pattern, std::string("{layer}_{kind}_{number}"));
        press("Put all names right");
        const Item* box = session().selected();
        QVERIFY(box);
        const std::string name = box->name;
        QVERIFY2(name.find("_box_") != std::string::npos, name.c_str());
        session().documents().undo();
        QVERIFY(session().selected() && session().selected()->name != name);
    }
};

RUBBLE_TEST(ProjectPageTest)
#include "project_page_test.moc"
