#include <QtTest/QtTest>

#include <csignal>

#include <QProcess>

#include "app/window_driver.h"
#include "core/random.h"
#include "io/level_file.h"
#include "recovery.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::app;

/// A window that is killed while somebody works in it: the file is whole, and at most five seconds of work
/// are lost.
class KilledWindowTest : public WindowDriver {
    Q_OBJECT

    static constexpr const char* k_place = "RUBBLE_KILLED_IN";
    static qint64 now_ms() { return QDateTime::currentMSecsSinceEpoch(); }

    /// What the window that was killed had done when: lines of a time and a number of brushes.
    static std::vector<std::pair<qint64, int>> steps_in(const QString& log) {
        QFile file(log);
        std::vector<std::pair<qint64, int>> out;
        if (!file.open(QIODevice::ReadOnly)) return out;
        for (const QByteArray& line : file.readAll().split('\n'))
            if (const auto parts = line.split(' '); parts.size() == 2)
                out.emplace_back(parts[0].toLongLong(), parts[1].toInt());
        return out;
    }
    static int brushes_in(const Level& level) {
        int count = 0;
        for_each_item(level, [&](const Item& item, const Layer&) { count += item.brush() ? 1 : 0; });
        return count;
    }

private slots:
    /// Of the process that is killed: draws and saves now and then, until that happens.
    void draws_until_it_is_killed() {
        const QString place = qEnvironmentVariable(k_place);
        if (place.isEmpty()) return; // nothing to be shown by itself
        QFile log(place + "/log");
        QVERIFY(log.open(QIODevice::WriteOnly | QIODevice::Append));
        QVERIFY(window_->open_path(place + "/killed.level.json"));
        settle();
        window_->keep_recovery_copies(place + "/copies");
        for (int i = 0;; ++i) {
            const double at = i % 40;
            key(Qt::Key_B);
            drag({at * 0.5 - 8, -6, 0}, {at * 0.5 - 7.5, -5, 0});
            QTest::keyClicks(&view(), "1");
            QTest::keyClick(&view(), Qt::Key_Return);
            QCoreApplication::processEvents();
            log.write(QByteArray::number(now_ms()) + ' ' +
                      QByteArray::number(brushes_in(session().stored_level())) + '\n');
            log.flush();
            if (i % 7 == 6) QVERIFY(session().files().save());
        }
    }

    void the_file_is_whole_and_little_is_lost() {
        const uint64_t seed = qEnvironmentVariable("RUBBLE_SEED", "911").toULongLong();
        const int rounds = test::rounds(4);
        qInfo("seed %llu, %d rounds", static_cast<unsigned long long>(seed), rounds);
        test::Random random(seed);
        for (int round = 0; round < rounds; ++round) {
            const QString place = folder_.filePath(QString::number(round));
            QDir().mkpath(place);
            const std::string file = (place + "/killed.level.json").toStdString();
            QVERIFY(io::save_level(new_level("Killed", {"courier"}), file));
            QProcess other;
            QProcessEnvironment environment = QProcessEnvironment::systemEnvironment();
            environment.insert(k_place, place);
            other.setProcessEnvironment(environment);
            other.start(QCoreApplication::applicationFilePath(),
                        {"KilledWindowTest", "draws_until_it_is_killed"});
            QTRY_VERIFY_WITH_TIMEOUT(!steps_in(place + "/log").empty(), 60000);
            QTest::qWait(int(random.between(200, 9000)));
            const qint64 killed = now_ms();
            ::kill(pid_t(other.processId()), SIGKILL);
            QVERIFY(other.waitForFinished(20000));
            const auto in_file = io::load_level(file);
            QVERIFY2(in_file, in_file ? "" : in_file.error().text().c_str());
            // What was done five seconds before is in the file or in the copy beside it.
            constexpr qint64 k_most_lost_ms = 5000;
            int done = 0;
            for (const auto& [when, brushes] : steps_in(place + "/log"))
                if (when <= killed - k_most_lost_ms) done = brushes;
            Session session;
            Recovery recovery(session.documents(), place + "/copies");
            int kept = brushes_in(*in_file);
            for (const Recovery::Copy& copy : recovery.left_behind()) {
                const auto restored = recovery.restore(copy);
                QVERIFY2(restored, restored ? "" : restored.error().text().c_str());
                kept = std::max(kept, brushes_in(session.stored_level()));
            }
            QVERIFY2(kept >= done,
                     qPrintable(QString("%1 brushes kept of %2, round %3").arg(kept).arg(done).arg(round)));
        }
    }
};

RUBBLE_TEST(KilledWindowTest)
#include "killed_window_test.moc"
