#include <QtTest/QtTest>

#include <set>

#include "core/level_maker.h"
#include "core/random.h"
#include "edit/items.h"
#include "edit/names.h"
#include "test_program.h"

using namespace rubble;
using edit::Misnamed;
using test::LevelMaker;
using test::Random;

/// Items called as their project wants.
class NamesTest : public QObject {
    Q_OBJECT

    static NameScheme scheme() { return {"{layer}_{kind}_{number}", 24, "a-z0-9_"}; }
    static Level named(const std::vector<std::string>& names) {
        LevelMaker maker;
        for (size_t i = 0; i < names.size(); ++i) maker.box({double(i) * 3, 0, 0}, {1, 1, 1});
        Level level = maker.level();
        Layer layer = *level.layers[0];
        layer.name = "Hall 1";
        level.layers[0] = layer;
        size_t i = 0;
        std::vector<Item> changed;
        for_each_item(level, [&](const Item& item, const Layer&) {
            if (i >= names.size() || !item.brush()) return;
            changed.push_back(item);
            changed.back().name = names[i++];
        });
        return edit::with_all_changed(level, changed);
    }

private slots:
    void each_reason_is_told_and_put_right() {
        const Level level =
            named({"hall_1_box_01", "Crate!", "", "hall_1_box_01", "hall_1_box_2x", "anything"});
        const auto all = edit::misnamed(scheme(), level);
        std::vector<Misnamed::Why> why;
        for (const Misnamed& one : all) why.push_back(one.why);
        using Why = Misnamed::Why;
        QVERIFY(
            (why == std::vector<Why>{Why::characters, Why::none, Why::twice, Why::pattern, Why::pattern}));
        QCOMPARE(all[0].wanted, std::string("hall_1_box_02"));
        QCOMPARE(all[4].wanted, std::string("hall_1_box_06"));
        const Level right = edit::with_names_by(scheme(), level);
        QVERIFY(edit::misnamed(scheme(), right).empty());
        QVERIFY(edit::with_names_by(scheme(), right) == right);
    }

    void no_scheme_wants_nothing() {
        const Level level = named({"Crate!", ""});
        QVERIFY(edit::misnamed({}, level).empty());
        QVERIFY(edit::with_names_by({}, level) == level);
    }

    void schemes_that_cannot_be_are_told() {
        QVERIFY(edit::problem_of(scheme()).empty());
        QVERIFY(!edit::problem_of({"{layer}", 24, "a-z0-9_"}).empty());
        QVERIFY(!edit::problem_of({"{layer} {number}", 24, "a-z0-9_"}).empty());
        QVERIFY(!edit::problem_of({"{number}", 24, "a-z"}).empty());
        QVERIFY(edit::misnamed({"{layer}", 24, ""}, named({"x"})).empty());
    }

    void random_names_become_short_allowed_and_one_of_a_kind() {
        const uint64_t seed = 2011;
        qInfo("seed %llu", static_cast<unsigned long long>(seed));
        Random random(seed);
        for (int round = 0; round < 100; ++round) {
            std::vector<std::string> names;
            for (int i = 0; i < 30; ++i) {
                std::string name;
                for (int k = int(random.between(0, 30)); k > 0; --k)
                    name += "aZ9_ -\xc3\xa4."[int(random.between(0, 8.99))];
                names.push_back(std::move(name));
            }
            NameScheme by = scheme();
            by.longest = int(random.between(6, 30));
            const Level right = edit::with_names_by(by, named(names));
            std::set<std::string> seen;
            for_each_item(right, [&](const Item& item, const Layer&) {
                if (!item.brush()) return;
                QVERIFY2(seen.insert(item.name).second, item.name.c_str());
                QVERIFY2(int(item.name.size()) <= by.longest, item.name.c_str());
                for (const char c : item.name)
                    QVERIFY2((c >= 'a' && c <= 'z') || (c >= '0' && c <= '9') || c == '_', item.name.c_str());
            });
            QVERIFY(edit::misnamed(by, right).empty());
        }
    }
};

RUBBLE_TEST(NamesTest)
#include "names_test.moc"
