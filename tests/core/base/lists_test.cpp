#include <QtTest/QtTest>

#include <atomic>
#include <map>
#include <set>
#include <thread>

#include "base/flat_index.h"
#include "base/growing_list.h"
#include "base/parallel.h"
#include "base/shared_list.h"
#include "core/random.h"
#include "test_program.h"

using namespace rubble;
using test::Random;

class ListsTest : public QObject {
    Q_OBJECT

private slots:
    void a_growing_list_never_moves_what_it_holds() {
        GrowingList<int> list;
        std::vector<const int*> places;
        for (int i = 0; i < 10'000; ++i) {
            list.push_back(i);
            places.push_back(&list[size_t(i)]);
        }
        QCOMPARE(list.size(), size_t(10'000));
        for (int i = 0; i < 10'000; ++i) {
            QCOMPARE(list[size_t(i)], i);
            QCOMPARE(&list[size_t(i)], places[size_t(i)]);
        }
    }

    void readers_see_what_was_there_while_a_writer_adds() {
        GrowingList<int> list;
        for (int i = 0; i < 300; ++i) list.push_back(i);
        std::atomic<bool> wrong = false, done = false;
        std::jthread reader([&] {
            while (!done)
                for (int i = 0; i < 300; ++i) wrong = wrong || list[size_t(i)] != i;
        });
        for (int i = 300; i < 50'000; ++i) list.push_back(i);
        done = true;
        reader.join();
        QVERIFY(!wrong);
    }

    void a_copy_of_a_shared_list_keeps_its_values() {
        Random random(1201);
        std::vector<int> plain;
        for (int i = 0; i < 1000; ++i) plain.push_back(i);
        SharedList<int> list(plain);
        for (int round = 0; round < test::rounds(200); ++round) {
            const SharedList<int> before = list;
            const std::vector<int> plain_before = plain;
            for (int change = random.whole(1, 20); change > 0; --change) {
                const size_t at = size_t(random.whole(0, 999));
                plain[at] = random.whole(0, 1 << 20);
                list.set(at, plain[at]);
            }
            size_t i = 0;
            for (const int value : list) QCOMPARE(value, plain[i++]);
            QCOMPARE(i, plain.size());
            for (size_t k = 0; k < plain.size(); ++k) QCOMPARE(before[k], plain_before[k]);
        }
    }

    void copies_share_the_pieces_that_did_not_change() {
        using List = SharedList<int>;
        constexpr size_t count = 5000, piece = List::piece_size;
        List list(std::vector<int>(count, 7));
        QCOMPARE(list.next_not_shared(list, 0), count);
        const List before = list;
        for (const size_t changed : {size_t(500), size_t(4999)}) list.set(changed, 8);
        std::set<size_t> found;
        for (size_t i = list.next_not_shared(before, 0); i < count; i = list.next_not_shared(before, i + 1))
            found.insert(i / piece);
        QCOMPARE(found, (std::set<size_t>{500 / piece, 4999 / piece}));
        QVERIFY(List().empty());
        QCOMPARE(List(std::vector<int>{1}).size(), size_t(1));
    }

    void a_shared_list_grows_as_a_vector_does() {
        Random random(1203);
        SharedList<int> list;
        std::vector<int> plain;
        std::vector<std::pair<SharedList<int>, size_t>> kept; // copies on the way, with their sizes then
        for (int i = 0; i < 1500; ++i) {
            if (random.chance(0.05)) kept.emplace_back(list, plain.size());
            list.push_back(i), plain.push_back(i);
        }
        QVERIFY(list.values() == plain);
        QCOMPARE(list.back(), 1499);
        for (const auto& [copy, size] : kept)
            QVERIFY(copy.values() == std::vector<int>(plain.begin(), plain.begin() + long(size)));
        const SharedList<int> made(plain);
        QVERIFY(made == list && !made.is(list) && list.is(SharedList<int>(list)));
        SharedList<int> other = list;
        other.set(777, -1);
        QVERIFY(!(other == list) && !other.is(list));
        other.set(777, 777);
        QVERIFY(other == list && !other.is(list));
        QVERIFY(!(list == kept.front().first));
    }

    void a_flat_index_finds_what_a_map_does() {
        Random random(1202);
        for (int round = 0; round < test::rounds(20); ++round) {
            FlatIndex index(size_t(random.whole(0, 50)));
            std::vector<int> values;
            std::map<int, int> known;
            for (int i = 0; i < 500; ++i) {
                const int value = random.whole(0, 200);
                const uint64_t hash = uint64_t(value % 16); // many share one
                const int at = index.find_or_add(hash, int(values.size()),
                                                 [&](int k) { return values[size_t(k)] == value; });
                if (!known.contains(value)) {
                    QCOMPARE(at, int(values.size()));
                    known[value] = at;
                    values.push_back(value);
                }
                QCOMPARE(at, known[value]);
            }
            for (int value = 0; value <= 220; ++value) {
                const int at =
                    index.find(uint64_t(value % 16), [&](int k) { return values[size_t(k)] == value; });
                QCOMPARE(at, known.contains(value) ? known[value] : -1);
            }
        }
    }

    void side_by_side_everything_is_done_once() {
        for (const size_t count : {0, 1, 7, 1000})
            for (const size_t chunk : {1, 3, 64, 5000}) {
                std::vector<std::atomic<int>> done(count);
                parallel_for(
                    count, [&](size_t i) { ++done[i]; }, chunk);
                for (const auto& times : done) QCOMPARE(times.load(), 1);
            }
    }

    void few_things_are_done_on_the_callers_own_thread() {
        std::set<std::thread::id> threads;
        parallel_for(
            8, [&](size_t) { threads.insert(std::this_thread::get_id()); }, 8);
        QCOMPARE(threads, std::set<std::thread::id>{std::this_thread::get_id()});
    }
};

RUBBLE_TEST(ListsTest)
#include "lists_test.moc"
