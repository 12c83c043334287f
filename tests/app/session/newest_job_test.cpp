#include <algorithm>
#include <atomic>
#include <mutex>
#include <thread>
#include <vector>

#include <QtTest/QtTest>

#include "newest_job.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::app;

/// Work in the background of which only the newest counts.
class NewestJobTest : public QObject {
    Q_OBJECT

private slots:
    void jobs_are_done_with_their_numbers() {
        std::atomic<int> sum = 0;
        std::atomic<uint64_t> last = 0;
        NewestJob<int> jobs(
            [&](const int& job, uint64_t number, const Cancel&) { sum += job, last = number; });
        const uint64_t number = jobs.ask(5);
        QTRY_COMPARE(last.load(), number);
        QCOMPARE(sum.load(), 5);
        QVERIFY(jobs.ask(7) > number);
        QTRY_COMPARE(sum.load(), 12);
    }

    /// One that works until it is told to stop is stopped by the next, and those in between are never begun.
    void a_newer_job_stops_an_older_one() {
        std::mutex mutex;
        std::vector<int> begun, ended;
        NewestJob<int> jobs([&](const int& job, uint64_t, const Cancel& cancel) {
            {
                const std::lock_guard lock(mutex);
                begun.push_back(job);
            }
            while (job == 1 && !cancel.requested()) std::this_thread::yield();
            const std::lock_guard lock(mutex);
            ended.push_back(job);
        });
        const auto has = [&](const std::vector<int>& list, int job) {
            const std::lock_guard lock(mutex);
            return std::find(list.begin(), list.end(), job) != list.end();
        };
        jobs.ask(1);
        QTRY_VERIFY(has(begun, 1));
        for (int job = 2; job <= 50; ++job) jobs.ask(job);
        QTRY_VERIFY(has(ended, 50));
        const std::lock_guard lock(mutex);
        QCOMPARE(ended.front(), 1);
        QCOMPARE(ended.back(), 50);
        QCOMPARE(begun, ended);
    }

    /// What was dropped is stopped, and whoever goes away does not wait for it.
    void what_is_dropped_ends() {
        std::atomic<int> begun = 0, ended = 0;
        for (int round = 0; round < 20; ++round) {
            NewestJob<int> jobs([&](const int&, uint64_t, const Cancel& cancel) {
                ++begun;
                while (!cancel.requested()) std::this_thread::yield();
                ++ended;
            });
            jobs.ask(round);
            if (round % 2 == 0) {
                QTRY_VERIFY(begun > ended);
                jobs.drop();
                QTRY_COMPARE(begun.load(), ended.load());
            }
        }
        QCOMPARE(begun.load(), ended.load());
    }
};

RUBBLE_TEST(NewestJobTest)
#include "newest_job_test.moc"
