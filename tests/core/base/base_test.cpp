#include <QtTest/QtTest>

#include <atomic>
#include <set>
#include <string>
#include <thread>

#include "base/angle.h"
#include "base/cancel.h"
#include "base/flat_index.h"
#include "base/parallel.h"
#include "base/shared.h"
#include "core/random.h"
#include "test_program.h"

using namespace rubble;
using test::Random;

class BaseTest : public QObject {
    Q_OBJECT

private slots:
    void an_index_finds_what_was_added_and_nothing_else() {
        Random random(101);
        std::vector<int> values;
        FlatIndex index;
        // Few different hashes: most things share one, so only `same` can tell them apart.
        auto hash = [](int value) { return uint64_t(value % 7); };
        std::set<int> added;
        for (int i = 0; i < 500; ++i) {
            const int value = random.whole(0, 200);
            const int fresh = int(values.size());
            const int at =
                index.find_or_add(hash(value), fresh, [&](int k) { return values[size_t(k)] == value; });
            QCOMPARE(at == fresh, !added.contains(value));
            if (at == fresh) values.push_back(value);
            added.insert(value);
            QCOMPARE(values[size_t(at)], value);
        }
        for (int value = 0; value <= 220; ++value) {
            const int at = index.find(hash(value), [&](int k) { return values[size_t(k)] == value; });
            QCOMPARE(at >= 0, added.contains(value));
        }
    }

    void an_empty_index_finds_nothing() {
        QCOMPARE(FlatIndex().find(42, [](int) { return true; }), -1);
    }

    void parallel_work_is_done_once_each() {
        for (const size_t count : {size_t(0), size_t(1), size_t(7), size_t(1000)})
            for (const size_t chunk : {size_t(1), size_t(3), size_t(64)}) {
                std::vector<std::atomic<int>> done(count);
                parallel_for(
                    count, [&](size_t i) { ++done[i]; }, chunk);
                for (const auto& times : done) QCOMPARE(times.load(), 1);
            }
    }

    void loops_within_loops_and_from_many_threads_are_done_once_each() {
        constexpr size_t outer = 40, inner = 50;
        std::vector<std::atomic<int>> done(4 * outer * inner);
        auto row = [&](size_t thread) {
            parallel_for(outer, [&](size_t i) {
                parallel_for(inner, [&](size_t k) { ++done[(thread * outer + i) * inner + k]; });
            });
        };
        std::vector<std::jthread> threads;
        for (size_t t = 0; t < 4; ++t) threads.emplace_back(row, t);
        threads.clear(); // waits for them
        for (const auto& times : done) QCOMPARE(times.load(), 1);
    }

    void a_loop_is_over_when_its_last_turn_is() {
        // Many short loops one after the other: a helper that comes late must not find one that is gone.
        size_t sum = 0;
        for (int round = 0; round < 5000; ++round) {
            std::array<size_t, 6> parts{};
            parallel_for(parts.size(), [&](size_t i) { parts[i] = i + 1; });
            for (const size_t part : parts) sum += part;
        }
        QCOMPARE(sum, size_t(5000 * 21));
    }

    void copies_of_a_cancel_share_one_wish() {
        const Cancel never, cancel = Cancel::create(), copy = cancel;
        never.request();
        QVERIFY(!never.requested() && !copy.requested());
        cancel.request();
        QVERIFY(copy.requested() && !Cancel::create().requested());
    }

    void shared_values_tell_same_from_equal() {
        const Shared<std::string> a(std::string("dock")), b = a, c(std::string("dock")),
                                                          d(std::string("hall"));
        QVERIFY(a.is(b) && a == b);
        QVERIFY(!a.is(c) && a == c);
        QVERIFY(!(a == d));
    }

    void quarter_turns_are_exact() {
        for (int quarter = -8; quarter <= 8; ++quarter) {
            const auto [c, s] = cos_sin(quarter * 90.0);
            const int k = ((quarter % 4) + 4) % 4;
            QCOMPARE(c, k == 0 ? 1.0 : k == 2 ? -1.0 : 0.0);
            QCOMPARE(s, k == 1 ? 1.0 : k == 3 ? -1.0 : 0.0);
        }
        QVERIFY(std::abs(degrees(radians(33.25)) - 33.25) < 1e-12);
    }
};

RUBBLE_TEST(BaseTest)
#include "base_test.moc"
