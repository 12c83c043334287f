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
    QStringList folders() const {
        return QDir(copies()).entryList(QDir::Dirs | QDir::NoDotAndDotDot, QDir::Name);
    }
    static void add_box(Session& session, const char* id) {
        session.apply(edit::with_item(session.level(), 0, {{id}, {}, false, Brush{}, {}}), "Box");
    }
    static bool write(Recovery& recovery) {
        QSignalSpy written(&recovery, &Recovery::written);
        recovery.write();
        return written.wait(5000);
    }
    /// Makes copies look as if a process that is gone had written them: the same number, begun at another
    /// time.
    void leave_behind() const {
        for (const QString& folder : folders()) {
            const QString process = folder.section('-', 0, 0);
            QVERIFY(QDir(copies()).rename(folder, process + "-1-" + folder.section('-', 2)));
        }
    }
    /// A project of two levels on disk.
    QString two_levels() const {
        const QString project = folder_->filePath("cannery");
        QDir().mkpath(project + "/levels");
        if (!io::save_project(io::new_project("Cannery"), project.toStdString())) return {};
        for (const char* name : {"dock", "roof"})
            if (!io::save_level(new_level(name, {"courier"}),
                                (project + "/levels/" + name + ".level.json").toStdString()))
                return {};
        return project;
    }

private slots:
    void init() { folder_ = std::make_unique<QTemporaryDir>(); }

    void unsaved_work_is_copied_and_the_copy_goes_when_it_is_saved() {
        Session session;
        Recovery recovery(session.documents(), copies());
        recovery.write();
        QVERIFY(folders().isEmpty()); // nothing to lose yet
        add_box(session, "x1");
        QVERIFY(write(recovery));
        QCOMPARE(folders().size(), 1);
        const QString own = copies() + "/" + folders()[0] + "/0.level.json";
        QVERIFY(*io::load_level(own.toStdString()) == session.level());
        QVERIFY(session.files().save(folder_->filePath("mine.level.json")));
        QVERIFY(folders().isEmpty());
    }

    void the_copy_of_a_program_that_runs_is_not_offered() {
        Session session;
        Recovery recovery(session.documents(), copies());
        add_box(session, "x1");
        QVERIFY(write(recovery));
        QVERIFY(recovery.left_behind().empty());
    }

    void a_copy_of_an_earlier_process_of_the_same_number_is_offered_and_kept() {
        {
            Session session;
            Recovery recovery(session.documents(), copies());
            add_box(session, "x1");
            QVERIFY(write(recovery));
            leave_behind();
        }
        Session session;
        Recovery recovery(session.documents(), copies());
        QCOMPARE(recovery.left_behind().size(), size_t(1));
        add_box(session, "y1");
        QVERIFY(write(recovery));
        QVERIFY(session.files().save(folder_->filePath("other.level.json"))); // takes its own copy away
        QCOMPARE(recovery.left_behind().size(), size_t(1));
    }

    void what_was_left_behind_becomes_the_newest_step_over_the_saved_level() {
        const QString file = folder_->filePath("dock.level.json");
        {
            Session session;
            QVERIFY(session.files().save(file));
            Recovery recovery(session.documents(), copies());
            add_box(session, "x1");
            QVERIFY(write(recovery));
            leave_behind(); // the program is gone before it takes the copy away
        }
        Session session;
        Recovery recovery(session.documents(), copies());
        const auto found = recovery.left_behind();
        QCOMPARE(found.size(), size_t(1));
        QVERIFY(recovery.restore(found[0]));
        QVERIFY(find_item(session.level(), {"x1"}));
        QCOMPARE(session.files().file(), file);
        QVERIFY(!session.documents().saved());
        session.documents().undo();
        QVERIFY(!find_item(session.level(), {"x1"}));
        QVERIFY(session.documents().saved());
        QVERIFY(recovery.left_behind().empty());
    }

    void all_levels_and_the_project_come_back_whichever_was_shown() {
        {
            Session session;
            QVERIFY(session.files().open(two_levels()));
            Recovery recovery(session.documents(), copies());
            add_box(session, "x1");
            Project project = session.project();
            project.module_m = 7;
            session.apply(project, "Module");
            QVERIFY(write(recovery));
            session.documents().show_level(1); // leaves the copy alone
            QCOMPARE(folders().size(), 1);
            add_box(session, "y1");
            QVERIFY(write(recovery));
            leave_behind();
        }
        Session session;
        Recovery recovery(session.documents(), copies());
        QVERIFY(recovery.restore(recovery.left_behind().at(0)));
        QCOMPARE(session.documents().level_index(), size_t(1));
        QVERIFY(find_item(*session.document().levels[0].level, {"x1"}));
        QVERIFY(find_item(*session.document().levels[1].level, {"y1"}));
        QCOMPARE(session.project().module_m, 7.0);
        QCOMPARE(session.files().unsaved().size(), size_t(3));
        session.documents().undo();
        QVERIFY(session.documents().saved() && session.project().module_m != 7.0);
    }

    void a_level_that_was_never_saved_comes_back_as_a_new_one() {
        {
            Session session;
            Recovery recovery(session.documents(), copies());
            add_box(session, "x1");
            QVERIFY(write(recovery));
            leave_behind();
        }
        Session session;
        Recovery recovery(session.documents(), copies());
        QCOMPARE(recovery.left_behind().size(), size_t(1));
        QVERIFY(recovery.restore(recovery.left_behind()[0]));
        QVERIFY(find_item(session.level(), {"x1"}));
        QVERIFY(session.files().file().isEmpty() && !session.documents().saved());
    }

    void a_copy_whose_file_is_gone_still_opens() {
        const QString file = folder_->filePath("dock.level.json");
        {
            Session session;
            QVERIFY(session.files().save(file));
            Recovery recovery(session.documents(), copies());
            add_box(session, "x1");
            QVERIFY(write(recovery));
            leave_behind();
        }
        QVERIFY(QFile::remove(file));
        Session session;
        Recovery recovery(session.documents(), copies());
        QVERIFY(recovery.restore(recovery.left_behind().at(0)));
        QVERIFY(find_item(session.level(), {"x1"}));
        QVERIFY(!session.documents().saved());
        QVERIFY(session.files().save()); // and is saved where it was
        QVERIFY(QFileInfo::exists(file));
    }

    void damaged_copies_are_no_harm_and_what_holds_nothing_is_swept_away() {
        QDir().mkpath(copies() + "/999999998-1-x");
        QFile broken(copies() + "/999999998-1-x/about.json");
        QVERIFY(broken.open(QIODevice::WriteOnly));
        broken.write("{ \"levels\": [");
        broken.close();
        QDir().mkpath(copies() + "/999999997-1-x");
        QFile part(copies() + "/999999997-1-x/0.level.json.part999999997");
        QVERIFY(part.open(QIODevice::WriteOnly));
        part.close();
        Session session;
        Recovery recovery(session.documents(), copies());
        QVERIFY(recovery.left_behind().empty());
        QCOMPARE(folders(), QStringList{"999999998-1-x"}); // which somebody may still read by hand
    }

    void a_change_is_copied_by_itself() {
        Session session;
        Recovery recovery(session.documents(), copies());
        QSignalSpy written(&recovery, &Recovery::written);
        add_box(session, "x1");
        QVERIFY(written.wait(20000));
        QCOMPARE(folders().size(), 1);
    }
};

RUBBLE_TEST(RecoveryTest)
#include "recovery_test.moc"
