#include <QtTest/QtTest>

#include <QMessageBox>

#include "app/window_driver.h"
#include "commands/disk_watch.h"
#include "edit/items.h"
#include "io/level_file.h"
#include "io/project_file.h"
#include "level/limits.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::app;

/// The files that belong to what is open: what others write is noticed, nothing of theirs is lost.
class DiskTest : public WindowDriver {
    Q_OBJECT

    QString project() {
        disk_ = std::make_unique<QTemporaryDir>();
        const QString path = disk_->filePath("cannery");
        QDir().mkpath(path + "/levels");
        if (!io::save_project(io::new_project("Cannery"), path.toStdString())) return {};
        for (const char* name : {"dock", "roof"})
            if (!io::save_level(new_level(name, {"courier"}), level_file(name).toStdString())) return {};
        return path;
    }
    QString level_file(const char* name) const {
        return disk_->filePath(QStringLiteral("cannery/levels/%1.level.json").arg(name));
    }
    /// As another program, or another window, would write it.
    void others_write(const QString& file, const char* name) {
        QVERIFY(io::save_level(new_level(name, {"courier"}), file.toStdString()));
    }
    void add_box(const char* id) {
        session().apply(edit::with_item(session().level(), 0, {{id}, {}, false, Brush{}, {}}), "Box");
    }
    /// Clicks a button of the next question, and keeps what was asked.
    void answer(const QString& button) {
        asked_.clear();
        auto* timer = new QTimer(this);
        connect(timer, &QTimer::timeout, this, [this, timer, button] {
            auto* box = qobject_cast<QMessageBox*>(QApplication::activeModalWidget());
            if (!box) return;
            asked_ = box->text();
            for (QAbstractButton* one : box->buttons())
                if (one->text().remove('&') == button) {
                    timer->deleteLater();
                    return one->click();
                }
        });
        timer->start(20);
    }

    std::unique_ptr<QTemporaryDir> disk_;
    QString asked_;

private slots:
    void changes_by_others_are_noticed_after_ones_own_saves_in_every_file() {
        QVERIFY(window_->open_path(project()));
        for (int round = 0; round < 2; ++round) {
            add_box(round == 0 ? "x1" : "x2");
            key(Qt::Key_S, Qt::ControlModifier);
            QVERIFY(session().documents().saved());
            QTest::qWait(400); // one's own saving is nobody else's
            QVERIFY(!QApplication::activeModalWidget());
            answer("Keep mine");
            others_write(level_file(round == 0 ? "dock" : "roof"), "theirs");
            QTRY_VERIFY_WITH_TIMEOUT(!asked_.isEmpty(), 60000);
        }
        answer("Reload");
        Project theirs = session().project();
        theirs.module_m = 9;
        QVERIFY(io::save_project(theirs, disk_->filePath("cannery").toStdString()));
        QTRY_COMPARE_WITH_TIMEOUT(session().project().module_m, 9.0, 60000);
    }

    /// Of several files any may fail: what was saved before it is whole, nothing is forgotten, and saving
    /// again once there is room writes all.
    void whichever_file_cannot_be_written_nothing_is_lost() {
        const QString folder = project();
        const QStringList files{level_file("dock"), level_file("roof"), folder + "/project.json"};
        for (const QString& failing : files) {
            QVERIFY(window_->open_path(folder));
            for (size_t i = 0; i < 2; ++i) {
                session().documents().show_level(i);
                add_box(qPrintable(QStringLiteral("n%1").arg(files.indexOf(failing))));
            }
            Project changed = session().project();
            changed.module_m += 1;
            session().apply(changed, "Module");
            // A folder stands where the file should go: it can be neither read nor replaced.
            QVERIFY(QFile::rename(failing, failing + ".aside"));
            QVERIFY(QDir().mkdir(failing));
            // That the file is not what it was is asked about; it is to be written all the same.
            QTimer answers;
            bool told = false;
            connect(&answers, &QTimer::timeout, this, [&] {
                auto* box = qobject_cast<QMessageBox*>(QApplication::activeModalWidget());
                if (!box) return;
                told = told || box->windowTitle() == "Could not save";
                for (QAbstractButton* one : box->buttons())
                    if (QStringList{"Keep mine", "Save", "OK"}.contains(one->text().remove('&')))
                        return one->click();
            });
            answers.start(20);
            QTest::qWait(300);
            take_focus(); // the dialogs had it
            key(Qt::Key_S, Qt::ControlModifier);
            QVERIFY2(told, qPrintable(failing));
            QVERIFY(!session().documents().saved());
            const Document before = session().document();
            for (const QString& file : files)
                if (file != failing && file.endsWith(".level.json"))
                    QVERIFY2(io::load_level(file.toStdString()), qPrintable(file));
            QVERIFY(QDir().rmdir(failing));
            QVERIFY(QFile::rename(failing + ".aside", failing));
            const auto saved = session().files().save();
            QVERIFY2(saved, saved ? "" : saved.error().text().c_str());
            QVERIFY(session().documents().saved());
            QVERIFY(*io::load_level(level_file("dock").toStdString()) == *before.levels[0].level);
            QVERIFY(*io::load_level(level_file("roof").toStdString()) == *before.levels[1].level);
            QVERIFY(*io::load_project(folder.toStdString()) == *before.project);
            QTest::qWait(300); // what the watch says of the file's coming back
        }
    }

    void what_others_wrote_is_not_overwritten_without_a_question() {
        QVERIFY(window_->open_path(project()));
        add_box("x1");
        answer("Cancel");
        others_write(level_file("dock"), "theirs");
        key(Qt::Key_S, Qt::ControlModifier); // before the watcher has said a word
        QVERIFY(asked_.contains("Overwrite"));
        QCOMPARE(QString::fromStdString(io::load_level(level_file("dock").toStdString())->name),
                 QString("theirs"));
        QVERIFY(!session().documents().saved());
        answer("Keep mine");
        QTRY_VERIFY_WITH_TIMEOUT(asked_.contains("Reload"), 60000);
        take_focus();
        key(Qt::Key_S, Qt::ControlModifier); // now it was decided
        QVERIFY(session().documents().saved());
        QVERIFY(find_item(*io::load_level(level_file("dock").toStdString()), {"x1"}));
    }

    void only_what_was_changed_is_written() {
        QVERIFY(window_->open_path(project()));
        QVERIFY(QFile::remove(level_file("roof")));
        add_box("x1");
        key(Qt::Key_S, Qt::ControlModifier);
        QVERIFY(session().documents().saved());
        QVERIFY(!QFileInfo::exists(level_file("roof")));
    }

    void reloading_one_level_leaves_the_work_in_others_alone() {
        QVERIFY(window_->open_path(project()));
        add_box("x1");
        answer("Reload");
        others_write(level_file("roof"), "theirs");
        QTRY_COMPARE_WITH_TIMEOUT(QString::fromStdString(session().document().levels[1].level->name),
                                  QString("theirs"), 5000);
        QVERIFY(find_item(session().level(), {"x1"}));
        QCOMPARE(session().files().unsaved().size(), size_t(1));
        take_focus();
        key(Qt::Key_Z, Qt::ControlModifier); // and even that is undone
        QCOMPARE(QString::fromStdString(session().document().levels[1].level->name), QString("roof"));
    }

    void saving_elsewhere_is_no_step_that_is_undone() {
        QVERIFY(window_->open_path(project()));
        const QString original = session().files().file(), copy = disk_->filePath("copy.level.json");
        add_box("x1");
        QVERIFY(session().files().save(copy));
        QCOMPARE(session().files().file(), copy);
        session().documents().undo();
        QCOMPARE(session().files().file(), copy);
        QVERIFY(session().files().save());
        QVERIFY(!find_item(*io::load_level(copy.toStdString()), {"x1"}));
        QCOMPARE(QString::fromStdString(io::load_level(original.toStdString())->name), QString("dock"));
    }

    void a_level_beside_the_projects_own_is_the_one_that_is_shown() {
        QVERIFY(!project().isEmpty());
        const QString aside = disk_->filePath("cannery/sketch.level.json");
        others_write(aside, "sketch");
        QVERIFY(window_->open_path(aside));
        QCOMPARE(QString::fromStdString(session().level().name), QString("sketch"));
        QCOMPARE(session().document().levels.size(), size_t(3));
    }

    void groups_within_groups_end_before_they_cannot_be_saved() {
        QVERIFY(window_->open_path(project()));
        add_box("x1");
        session().select({{"x1"}});
        QSignalSpy said(&session(), &Session::message);
        for (int i = 0; i < deepest_group + 10; ++i) key(Qt::Key_G, Qt::ControlModifier);
        QVERIFY(!said.isEmpty());
        QVERIFY(session().files().save());
        const auto read = io::load_level(level_file("dock").toStdString());
        QVERIFY2(read, read ? "" : read.error().text().c_str());
        QVERIFY(*read == session().level());
    }

    void what_lies_too_far_out_is_refused_where_it_is_made() {
        QVERIFY(window_->open_path(project()));
        add_box("x1");
        session().select({{"x1"}});
        QSignalSpy said(&session(), &Session::message);
        for (const char* place : {"10001", "-1000000000", "1000 * 1000 * 1000"}) {
            said.clear();
            enter("Middle of base, x", place);
            QVERIFY2(!said.isEmpty(), place);
            QVERIFY(std::abs(find_item(session().level(), {"x1"})->brush()->place.at.x) <= 10000);
        }
        enter("Middle of base, x", "9999.75");
        for (int i = 0; i < 4; ++i) key(Qt::Key_Right);
        QVERIFY(find_item(session().level(), {"x1"})->brush()->place.at.x <= 10000);
        QVERIFY(session().files().save());
        QVERIFY(io::load_level(level_file("dock").toStdString()));
    }
};

RUBBLE_TEST(DiskTest)
#include "disk_test.moc"
