#include <QtTest/QtTest>

#include <filesystem>

#include "core/level_maker.h"
#include "edit/items.h"
#include "edit/takeover.h"
#include "io/git_versions.h"
#include "io/level_file.h"
#include "io/project_file.h"
#include "test_program.h"

using namespace rubble;
using test::LevelMaker;

/// Levels as git keeps them, and single changes taken over from another version.
class GitVersionsTest : public QObject {
    Q_OBJECT

    QTemporaryDir folder_;
    std::filesystem::path file() const { return folder_.filePath("levels/hall.level.json").toStdString(); }

    void git(const QStringList& words) {
        QProcess process;
        process.setWorkingDirectory(folder_.path());
        process.start("git", QStringList{"-c", "user.name=Tester", "-c", "user.email=t@example.org"} + words);
        QVERIFY(process.waitForFinished(60000));
        QVERIFY2(process.exitCode() == 0, process.readAllStandardError().constData());
    }
    void commit(const Level& level, const QString& what) {
        QVERIFY(io::save_level(level, file()));
        git({"add", "-A"});
        git({"commit", "-q", "--allow-empty", "-m", what});
    }

private slots:
    void versions_of_a_level_are_listed_and_read() {
        std::filesystem::create_directories(file().parent_path());
        QVERIFY(io::git_versions_of(file()) && io::git_versions_of(file())->empty()); // no repository
        QVERIFY(!io::file_in_git(file(), "HEAD"));
        git({"init", "-q"});
        QVERIFY(io::git_versions_of(file()) && io::git_versions_of(file())->empty()); // no commit
        Project project = io::new_project("Test");
        project.characters[0].metrics.jump_height_m = 0.9;
        QVERIFY(io::save_project(project, folder_.path().toStdString()));
        LevelMaker first;
        first.box({0, 0, 0}, {4, 4, 1});
        commit(first.level(), "One box");
        LevelMaker second = first;
        second.box({8, 0, 0}, {4, 4, 1});
        project.characters[0].metrics.jump_height_m = 1.3;
        QVERIFY(io::save_project(project, folder_.path().toStdString()));
        commit(second.level(), "Two boxes: \"quoted\" ä");
        git({"commit", "-q", "--allow-empty", "-m", "Nothing of this file"});
        const auto versions = io::git_versions_of(file());
        QVERIFY(versions);
        QCOMPARE(versions->size(), size_t(2));
        QCOMPARE((*versions)[0].summary, std::string("Two boxes: \"quoted\" ä"));
        QCOMPARE((*versions)[1].author, std::string("Tester"));
        const auto then = io::level_in_git(file(), (*versions)[1].id, project);
        QVERIFY(then && then->level == first.level());
        QCOMPARE(then->project.characters[0].metrics.jump_height_m, 0.9);
        const auto now = io::level_in_git(file(), "HEAD", project);
        QVERIFY(now && now->level == second.level());
        QVERIFY(!io::level_in_git(file(), "no-such-branch", project));
        QVERIFY(!io::file_in_git(folder_.filePath("nothing.json").toStdString(), "HEAD"));
    }

    void single_changes_are_taken_over() {
        LevelMaker maker;
        const ItemId a = maker.box({0, 0, 0}, {4, 4, 1}), b = maker.box({8, 0, 0}, {4, 4, 1}),
                     c = maker.box({16, 0, 0}, {4, 4, 1});
        const Level was = maker.level();
        Level now = edit::moved(was, std::vector<ItemId>{a}, {0, 0, 3});
        now = edit::without(now, std::vector<ItemId>{b});
        Item fresh = *find_item(was, c);
        fresh.id = {"new"};
        now = edit::with_item(now, 0, fresh);
        QVERIFY(edit::with_item_as_in(now, was, c) == now);
        QVERIFY(edit::with_item_as_in(now, was, {"nobody"}) == now);
        // One after the other, in any order, it is as it was.
        std::vector<ItemId> ids{a, b, {"new"}};
        do {
            Level back = now;
            for (const ItemId& id : ids) back = edit::with_item_as_in(back, was, id);
            QVERIFY(back == was);
        } while (std::next_permutation(ids.begin(), ids.end()));
        // What stood in a group goes back into it.
        Group group;
        group.items =
            ItemList(std::vector<ItemPtr>{ItemPtr(*find_item(was, a)), ItemPtr(*find_item(was, b))});
        Level grouped = was;
        Layer layer = *grouped.layers[0];
        layer.items = ItemList(std::vector<ItemPtr>{ItemPtr(Item{{"g"}, {}, false, group, {}})});
        grouped.layers[0] = layer;
        const Level less = edit::without(grouped, std::vector<ItemId>{b});
        QVERIFY(edit::with_item_as_in(less, grouped, b) == grouped);
        QVERIFY(edit::with_item_as_in(edit::without(grouped, std::vector<ItemId>{{"g"}}), grouped, {"g"}) ==
                grouped);
    }
};

RUBBLE_TEST(GitVersionsTest)
#include "git_versions_test.moc"
