#include <QtTest/QtTest>

#include "edit/items.h"
#include "io/level_file.h"
#include "level/order.h"
#include "recovery.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::app;

/// Unsaved work is kept aside and given back, and never more than that.
class RecoveryTest : public QObject {
    Q_OBJECT

    std::unique_ptr<QTemporaryDir> folder_;

    QString copies() const { return folder_->filePath("copies"); }
    QStringList files() const { return QDir(copies()).entryList(QDir::Files, QDir::Name); }
    static void add_box(Session& session, const char* id) {
        session.apply(edit::with_item(session.level(), 0, {{id}, {}, false, Brush{}, {}}), "Box");
    }
    static bool write(Recovery& recovery) {
        QSignalSpy written(&recovery, &Recovery::written);
        recovery.write();
        return written.wait(5000);
    }
    /// Makes a copy look as if a process that is gone had written it.
    void leave_behind() const {
        for (const QString& file : files())
            QFile::rename(copies() + "/" + file, copies() + "/999999999" + file.mid(file.indexOf('.')));
    }

private slots:
    void init() { folder_ = std::make_unique<QTemporaryDir>(); }

    void unsaved_work_is_copied_and_the_copy_goes_when_it_is_saved() {
        Session session;
        Recovery recovery(session, copies());
        recovery.write();
        QVERIFY(files().isEmpty()); // nothing to lose yet
        add_box(session, "x1");
        QVERIFY(write(recovery));
        QCOMPARE(files().size(), 2);
        const QString own = copies() + "/" + files().last();
        QVERIFY(*io::load_level(own.toStdString()) == session.level());
        QVERIFY(session.save(folder_->filePath("mine.level.json")));
        QVERIFY(files().isEmpty());
    }

    void the_copy_of_a_program_that_runs_is_not_offered() {
        Session session;
        Recovery recovery(session, copies());
        add_box(session, "x1");
        QVERIFY(write(recovery));
        QVERIFY(recovery.left_behind().empty());
    }

    void what_was_left_behind_becomes_the_newest_step_over_the_saved_level() {
        const QString file = folder_->filePath("dock.level.json");
        {
            Session session;
            QVERIFY(session.save(file));
            Recovery recovery(session, copies());
            add_box(session, "x1");
            QVERIFY(write(recovery));
            leave_behind(); // the program is gone before it takes the copy away
        }
        Session session;
        Recovery recovery(session, copies());
        const auto found = recovery.left_behind();
        QCOMPARE(found.size(), size_t(1));
        QCOMPARE(found[0].file, file);
        QVERIFY(recovery.restore(found[0]));
        QVERIFY(find_item(session.level(), {"x1"}));
        QCOMPARE(session.file(), file);
        QVERIFY(!session.saved());
        session.undo();
        QVERIFY(!find_item(session.level(), {"x1"}));
        QVERIFY(session.saved());
        QVERIFY(recovery.left_behind().empty());
    }

    void a_level_that_was_never_saved_comes_back_as_a_new_one() {
        {
            Session session;
            Recovery recovery(session, copies());
            add_box(session, "x1");
            QVERIFY(write(recovery));
            leave_behind();
        }
        Session session;
        Recovery recovery(session, copies());
        QCOMPARE(recovery.left_behind().size(), size_t(1));
        QVERIFY(recovery.restore(recovery.left_behind()[0]));
        QVERIFY(find_item(session.level(), {"x1"}));
        QVERIFY(session.file().isEmpty());
    }

    void damaged_copies_and_files_that_are_gone_are_no_harm() {
        QDir().mkpath(copies());
        QFile broken(copies() + "/999999998.level.json");
        QVERIFY(broken.open(QIODevice::WriteOnly));
        broken.write("{ \"format\": 1, \"layers\": [");
        broken.close();
        Session session;
        Recovery recovery(session, copies());
        QVERIFY(recovery.left_behind().empty());
        // The level's own file went away: the copy stays where it is.
        QVERIFY(io::save_level(session.level(), (copies() + "/999999997.level.json").toStdString()));
        QFile about(copies() + "/999999997.about.json");
        QVERIFY(about.open(QIODevice::WriteOnly));
        about.write("{\"file\": \"/nowhere/gone.level.json\"}");
        about.close();
        const auto found = recovery.left_behind();
        QCOMPARE(found.size(), size_t(1));
        QVERIFY(!recovery.restore(found[0]));
        QCOMPARE(recovery.left_behind().size(), size_t(1));
    }

    void a_change_is_copied_by_itself() {
        Session session;
        Recovery recovery(session, copies());
        QSignalSpy written(&recovery, &Recovery::written);
        add_box(session, "x1");
        QVERIFY(written.wait(20000));
        QCOMPARE(files().size(), 2);
    }
};

RUBBLE_TEST(RecoveryTest)
#include "recovery_test.moc"
