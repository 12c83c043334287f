#include <QtTest/QtTest>

#include "build/solid_builder.h"
#include "check/check.h"
#include "io/level_file.h"
#include "io/project_file.h"
#include "io/recording_file.h"
#include "test_program.h"

using namespace rubble;

namespace {

io::LoadedLevel level_of(const char* name) {
    auto loaded = io::load_level_with_project(
        QStringLiteral(RUBBLE_SOURCE_DIR "/tests/cases/%1.level.json").arg(name).toStdString());
    return loaded ? std::move(*loaded) : io::LoadedLevel{};
}

} // namespace

/// Levels that were once judged wrongly, each a little inside what the character can do.
class CasesTest : public QObject {
    Q_OBJECT

private slots:
    void what_can_be_done_is_reached_and_replayed_data() {
        QTest::addColumn<QString>("name");
        for (const char* name :
             {"ceiling_jump-2", "ceiling_jump_held-2", "ceiling_duck-0", "ceiling_duck-2",
              "fall_limits_jump-0", "fall_limits_jump-2", "further_height-2", "further_height-56",
              "short_run_up-2", "short_run_up-10", "tipped_slab-10", "tipped_slab-20"})
            QTest::newRow(name) << name;
    }
    void what_can_be_done_is_reached_and_replayed() {
        QFETCH(QString, name);
        const io::LoadedLevel loaded = level_of(qPrintable(name));
        const check::CheckResult result = check::check_level(loaded.project, loaded.level);
        const Claim& claim = loaded.level.claims.at(0);
        QCOMPARE(claim.kind, Claim::Kind::reaches);
        QVERIFY2(result.claims[0].state == check::ClaimState::holds,
                 in_english(result.claims[0].reason, loaded.level).c_str());
        const Character c = character_of(loaded.project, loaded.level);
        const auto end = motion::replayed(*result.world, c, result.claims[0].witness->recording);
        QVERIFY(check::has_thing(*result.world, end, c, find_item(loaded.level, claim.to)->element()->at));
        for (const check::Span& span : result.spans) QVERIFY(span.margin_m >= 0 && span.margin_pct >= 0);
    }

    /// A thing on a slope is had from lower down, where the feet are within a step of it.
    void a_thing_on_a_slope_is_had_beside_it() {
        const io::LoadedLevel loaded = level_of("false-no-wedge-33");
        const check::CheckResult result = check::check_level(loaded.project, loaded.level);
        const auto place = std::find_if(result.places.begin(), result.places.end(),
                                        [](const check::Place& p) { return p.item.value == "e57"; });
        QVERIFY(place != result.places.end());
        QVERIFY(place->reached == check::Reached::yes);
    }

    void nobody_ends_inside_matter_data() {
        QTest::addColumn<QString>("name");
        for (const char* name : {"penetration", "false-no-wedge-33"}) QTest::newRow(name) << name;
    }
    void nobody_ends_inside_matter() {
        QFETCH(QString, name);
        const io::LoadedLevel loaded = level_of(qPrintable(name));
        const auto run = io::load_recording(
            QStringLiteral(RUBBLE_SOURCE_DIR "/tests/cases/%1.witness.json").arg(name).toStdString());
        QVERIFY(run);
        const auto world = motion::world_of(build::build_solid(loaded.level));
        const Character c = character_of(loaded.project, loaded.level);
        for (const motion::State& state : motion::replay(world, c, *run))
            QVERIFY(motion::overlap_m(world, motion::body_of(c, state)) < 1e-3);
    }
};

RUBBLE_TEST(CasesTest)
#include "cases_test.moc"
