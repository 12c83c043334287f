#include <QtTest/QtTest>

#include <fstream>
#include <map>
#include <set>
#include <sstream>

#include "base/parallel.h"
#include "core/check/goal_of.h"
#include "core/check/oracle.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::check;

namespace {

constexpr const char* k_kept = RUBBLE_SOURCE_DIR "/tests/fixtures/oracle.txt";

Character without_graces(Character c) {
    c.late_jump_grace_s = c.early_press_s = 0;
    return c;
}

std::vector<Vec3> oracle_places(uint64_t seed) {
    const Level level = test::oracle_level(seed);
    const CheckResult result = test::checked(level);
    const Character c = without_graces(result.character);
    return test::telling_places(test::Oracle(*result.world, c).explore(result.starts.at(0)));
}

/// What the oracle found, by the seeds of its levels: a line each, the seed and places in hundredths of a
/// metre.
std::map<uint64_t, std::vector<Vec3>> kept_places() {
    std::map<uint64_t, std::vector<Vec3>> out;
    std::ifstream in(k_kept);
    for (std::string line; std::getline(in, line);) {
        std::istringstream words(line);
        uint64_t seed = 0;
        words >> seed;
        long x = 0, y = 0, z = 0;
        while (words >> x >> y >> z) out[seed].push_back(Vec3(double(x), double(y), double(z)) / 100.0);
    }
    return out;
}

/// How the oracle and the check differ.
struct Differences {
    int asked = 0, off_ground = 0; ///< places, and those of them where the check knows no ground
    std::vector<Vec3> denied;      ///< stood on by the oracle, and not reached by the check
    std::vector<int> missed;       ///< ledges that the check reaches, and the oracle never stood on
    std::set<int> stood_on;        ///< ledges, by the oracle
};

Differences differences(uint64_t seed, const std::vector<Vec3>& places) {
    constexpr double k_rounded_m = 0.06, k_scrap_m2 = 0.02;
    Differences out;
    const CheckResult result = test::checked(test::oracle_level(seed));
    const Ground& ground = *result.ground;
    for (const Vec3& at : places) {
        // Places were rounded, and may lie a hair beside their ledge.
        int ledge = -1;
        for (const Vec2 by : {Vec2(0, 0), Vec2(0.006, 0), Vec2(-0.006, 0), Vec2(0, 0.006), Vec2(0, -0.006)})
            if (ledge < 0) ledge = ground.ledge_at(at + raised(by, 0), k_rounded_m);
        ++out.asked;
        if (ledge >= 0 && !result.reach->tinted(ledge)) out.denied.push_back(at);
        out.off_ground += ledge < 0;
        if (ledge >= 0) out.stood_on.insert(ledge);
    }
    for (int ledge = 0; ledge < int(ground.ledges.size()); ++ledge)
        if (result.reach->tinted(ledge) && !out.stood_on.contains(ledge) &&
            ground.ledges[size_t(ledge)].area_m2 > k_scrap_m2)
            out.missed.push_back(ledge);
    return out;
}

} // namespace

/// The check against a search that tries everything and knows nothing but `step`.
class OracleTest : public QObject {
    Q_OBJECT

private slots:
    void the_check_denies_nothing_that_the_oracle_stood_on() {
        int asked = 0, levels = 0, denied = 0, missed = 0, off_ground = 0, ledges = 0;
        for (const auto& [seed, places] : kept_places()) {
            const Differences found = differences(seed, places);
            ++levels, asked += found.asked, denied += int(found.denied.size()),
                missed += int(found.missed.size()), off_ground += found.off_ground,
                ledges += int(found.stood_on.size());
            for (const Vec3& at : found.denied)
                qInfo("level %d: the oracle stood at %.2f %.2f %.2f", int(seed), at.x, at.y, at.z);
            for (const int ledge : found.missed)
                qInfo("level %d: only the check gets to ledge %d", int(seed), ledge);
        }
        qInfo("%d levels, %d places on %d ledges: %d denied, %d off the ground; %d ledges reached by the "
              "check alone",
              levels, asked, ledges, denied, off_ground, missed);
        QVERIFY(levels > 0 && asked > levels);
        QVERIFY2(denied == 0, "the check denies what the oracle stood on");
        QVERIFY2(off_ground * 100 <= asked, "more than one place in a hundred off the ground");
        QVERIFY2(missed * 5 <= ledges, "the oracle misses more than one ledge for five that it stood on");
    }

    /// The quickest of those that are kept; `RUBBLE_ORACLE=FROM-TO` prints lines for what is kept instead.
    void some_levels_are_searched_anew() {
        if (const QByteArray range = qgetenv("RUBBLE_ORACLE"); !range.isEmpty()) {
            const auto ends = range.split('-');
            for (uint64_t seed = ends.at(0).toULongLong(); seed <= ends.at(1).toULongLong(); ++seed) {
                std::printf("%d", int(seed));
                for (const Vec3& p : oracle_places(seed))
                    std::printf(" %ld %ld %ld", std::lround(p.x * 100), std::lround(p.y * 100),
                                std::lround(p.z * 100));
                std::printf("\n");
                std::fflush(stdout);
            }
            return;
        }
        if (qEnvironmentVariableIsSet("RUBBLE_QUICK")) QSKIP("takes minutes; the quick build does it");
        const auto kept = kept_places();
        const std::vector<uint64_t> seeds{1, 16, 17, 19, 20};
        std::vector<std::vector<Vec3>> found(seeds.size());
        parallel_for(seeds.size(), [&](size_t i) { found[i] = oracle_places(seeds[i]); });
        // Another machine's last bits may decide which of two states in a cell was first.
        for (size_t i = 0; i < seeds.size(); ++i) {
            const Differences anew = differences(seeds[i], found[i]),
                              before = differences(seeds[i], kept.at(seeds[i]));
            QVERIFY(anew.denied.empty());
            QVERIFY(anew.stood_on.size() + 1 >= before.stood_on.size());
        }
    }
};

RUBBLE_TEST(OracleTest)
#include "oracle_test.moc"
