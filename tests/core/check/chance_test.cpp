#include <QtTest/QtTest>

#include <map>

#include "check/check.h"
#include "edit/assemblies.h"
#include "edit/chance.h"
#include "edit/items.h"
#include "io/level_file.h"
#include "io/project_file.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::check;

namespace {

ItemPtr deck(const char* id, const Vec3& low, const Vec3& size) {
    Brush brush;
    brush.place.at = low + Vec3(size.x / 2, size.y / 2, 0), brush.size = size;
    return ItemPtr(Item{{id}, {}, false, std::move(brush), {}});
}

/// Two banks 8 m apart, and places between them that hold a deck, a narrower deck, or next to nothing.
struct Banks {
    Project project = io::new_project("Banks");
    Level level;
    std::vector<ItemId> places;

    explicit Banks(int count) {
        const auto add = [&](const char* file, ItemPtr item) {
            Assembly assembly;
            assembly.file = file, assembly.name = file, assembly.items = ItemList{std::move(item)};
            project = edit::with_assembly(project, std::move(assembly));
        };
        add("deck", deck("d", {-4, -2, 0}, {8, 4, 1}));
        add("plank", deck("d", {-4, -0.5, 0}, {8, 1, 1}));
        add("stump", deck("d", {-0.2, -0.2, -3}, {0.4, 0.4, 0.5}));
        Layer layer;
        layer.id = {"l"};
        level.layers.push_back(std::move(layer));
        level.character = project.characters[0].id;
        for (int i = 0; i <= count; ++i)
            level = edit::with_item(
                level, 0, *deck(("b" + std::to_string(i)).c_str(), {i * 12.0 - 4, -2, 0}, {4, 4, 1}));
        for (int i = 0; i < count; ++i) {
            ItemId id;
            level = edit::with_placed(project, level, 0, "deck", {i * 12.0 + 4, 0, 0}, 0, id);
            places.push_back(id);
        }
        level = edit::with_item(level, 0, {{"s"}, {}, false, Element{"start", {-2, 0, 1}, 0, {}}, {}});
        level = edit::with_item(level, 0,
                                {{"g"}, {}, false, Element{"goal", {count * 12.0 - 2, 0, 1}, 0, {}}, {}});
        Claim claim;
        claim.id = {"c"}, claim.kind = Claim::Kind::reaches, claim.from = {"s"}, claim.to = {"g"};
        level = edit::with_claim(level, claim);
    }
    void may_hold(size_t place, const char* what, double weight = 1) {
        level = edit::with_alternative(project, level, places[place], what, weight);
    }
    ClaimResult claim() const {
        CheckOptions options;
        options.mends = false;
        return check_level(project, level, options).claims.at(0);
    }
};

} // namespace

/// Places that hold one of several assemblies by chance.
class ChanceTest : public QObject {
    Q_OBJECT

private slots:
    void claims_hold_only_if_they_do_however_it_turns_out() {
        Banks banks(1);
        QCOMPARE(banks.claim().state, ClaimState::holds);
        banks.may_hold(0, "plank");
        QCOMPARE(banks.claim().state, ClaimState::holds);
        banks.may_hold(0, "stump");
        const ClaimResult fails = banks.claim();
        QCOMPARE(fails.state, ClaimState::fails);
        const std::string says = in_english(fails.reason, banks.level);
        QVERIFY2(says.find("stump") != std::string::npos, says.c_str());
        banks.may_hold(0, "stump", 0);
        QCOMPARE(banks.claim().state, ClaimState::holds);
    }

    /// What is proven is undecided where there is more than can be tried; what fails fails all the same.
    void too_many_ways_are_undecided() {
        Banks banks(6);
        for (size_t i = 0; i < 6; ++i) banks.may_hold(i, "plank");
        const ClaimResult result = banks.claim();
        QCOMPARE(result.state, ClaimState::undecided);
        QVERIFY(!result.reason.empty());
        banks.may_hold(0, "stump"); // among the first that are tried
        QCOMPARE(banks.claim().state, ClaimState::fails);
        Banks few(2);
        for (size_t i = 0; i < 2; ++i) few.may_hold(i, "plank");
        QCOMPARE(few.claim().state, ClaimState::holds);
    }

    void all_outcomes_are_there_once() {
        Banks banks(3);
        banks.may_hold(0, "plank"), banks.may_hold(0, "stump"), banks.may_hold(2, "plank");
        const edit::Outcomes all = edit::outcomes_of(banks.level, 100);
        QVERIFY(all.all);
        QCOMPARE(all.places.size(), size_t(2));
        QCOMPARE(all.sources.size(), size_t(3 * 2 - 1)); // all but the one shown
        QCOMPARE(std::set(all.sources.begin(), all.sources.end()).size(), all.sources.size());
        const edit::Outcomes some = edit::outcomes_of(banks.level, 3);
        QVERIFY(!some.all);
        QCOMPARE(some.sources.size(), size_t(3));
        QVERIFY(edit::outcomes_of(Banks(2).level, 3).sources.empty());
    }

    /// As often as the weights say, and the same for the same seed.
    void they_are_drawn_by_their_weights() {
        Banks banks(1);
        banks.may_hold(0, "plank", 3);
        std::map<std::string, int> counts;
        constexpr int k_times = 4000;
        for (uint64_t seed = 0; seed < k_times; ++seed) {
            const Level one = edit::drawn(banks.project, banks.level, seed);
            ++counts[find_item(one, banks.places[0])->assembly()->source];
            if (seed < 20) QVERIFY(one == edit::drawn(banks.project, banks.level, seed));
        }
        const double share = double(counts["plank"]) / k_times; // 3 of 4; 4 standard deviations are 0.027
        QVERIFY2(std::abs(share - 0.75) < 0.03, qPrintable(QString::number(share)));
        QCOMPARE(counts.size(), size_t(2));
    }

    void they_are_kept_in_files() {
        Banks banks(1);
        banks.may_hold(0, "plank", 3);
        const std::string text = io::text_of(banks.level);
        auto read = io::level_from_text(text, "l");
        QVERIFY(read);
        QCOMPARE(io::text_of(*read), text);
        const auto& one_of = find_item(*read, banks.places[0])->assembly()->one_of;
        QCOMPARE(one_of, (std::vector<Alternative>{{"deck", 1}, {"plank", 3}}));
        QVERIFY(!io::level_from_text(
            R"({"format":1,"name":"x","layers":[{"id":"l","name":"l","items":[{"id":"a","type":"assembly",
                "source":"d","at":[0,0,0],"one_of":[{"source":"p","weight":0}]}]}]})",
            "l"));
    }
};

RUBBLE_TEST(ChanceTest)
#include "chance_test.moc"
