#include <QtTest/QtTest>

#include <csignal>

#include <sys/wait.h>
#include <unistd.h>

#include "core/level_maker.h"
#include "core/random.h"
#include "io/level_file.h"
#include "test_program.h"

using namespace rubble;
using test::LevelMaker;
using test::Random;

/// A program that is killed while it saves: what is in the file is whole, and no older than the last save
/// that had come to its end.
class KilledTest : public QObject {
    Q_OBJECT

    /// A level that tells which save it is, with so much in it that writing takes a while.
    static Level numbered(const Level& base, int number) {
        Level level = base;
        level.name = "save " + std::to_string(number);
        return level;
    }
    static int number_of(const Level& level) { return std::stoi(level.name.substr(5)); }

private slots:
    void the_file_is_whole_whenever_it_happens() {
        const uint64_t seed = qEnvironmentVariable("RUBBLE_SEED", "907").toULongLong();
        const int rounds = test::rounds(200);
        qInfo("seed %llu, %d rounds", static_cast<unsigned long long>(seed), rounds);
        Random random(seed);
        const QTemporaryDir folder;
        const std::filesystem::path file = folder.filePath("killed.level.json").toStdString();
        LevelMaker maker;
        for (int i = 0; i < 400; ++i) maker.box({double(i), 0, 0}, {1, 1, 1});
        const Level base = maker.level();
        QVERIFY(io::save_level(numbered(base, 0), file));
        int last = 0;
        for (int round = 0; round < rounds; ++round) {
            int told[2];
            QVERIFY(pipe(told) == 0);
            const pid_t child = fork();
            QVERIFY(child >= 0);
            if (child == 0) { // saves until it is killed, and tells what is saved
                for (int number = last + 1;; ++number) {
                    if (!io::save_level(numbered(base, number), file)) _exit(1);
                    if (write(told[1], &number, sizeof number) != sizeof number) _exit(1);
                }
            }
            close(told[1]);
            usleep(useconds_t(random.between(100, 20000)));
            kill(child, SIGKILL);
            int status = 0;
            waitpid(child, &status, 0);
            QVERIFY(WIFSIGNALED(status));
            int saved = last;
            for (int number = 0; read(told[0], &number, sizeof number) == sizeof number;) saved = number;
            close(told[0]);
            const auto now = io::load_level(file);
            QVERIFY2(now, now ? "" : now.error().text().c_str());
            const int number = number_of(*now);
            QVERIFY2(number == saved || number == saved + 1,
                     qPrintable(QString("%1 is in the file, %2 was saved").arg(number).arg(saved)));
            QVERIFY(*now == numbered(base, number));
            last = number;
        }
        // What the killed ones left is taken away by the next who saves.
        QVERIFY(io::save_level(base, file));
        QCOMPARE(QDir(folder.path()).entryList(QDir::Files).size(), 1);
    }
};

RUBBLE_TEST(KilledTest)
#include "killed_test.moc"
