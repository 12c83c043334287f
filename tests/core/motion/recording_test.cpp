#include <QtTest/QtTest>

#include "base/parallel.h"
#include "build/solid_builder.h"
#include "core/level_maker.h"
#include "core/random.h"
#include "motion/recording.h"
#include "motion/world_change.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::motion;
using test::LevelMaker;
using test::Random;

namespace {

/// A yard with boxes to run against and climb.
LevelMaker yard() {
    LevelMaker maker;
    maker.box({0, 0, -1}, {30, 30, 1});
    for (int i = 0; i < 6; ++i) maker.box({3.0 * i - 7, i % 2 ? 2 : -2, 0}, {1, 3, 0.3 * (i + 1)}, 15 * i);
    return maker;
}

World world_of(const Level& level) { return motion::world_of(build::build_solid(level)); }

Input random_input(Random& random) {
    return {{random.between(-1, 1), random.between(-1, 1)}, random.chance(0.2), random.chance(0.1), false};
}

} // namespace

class RecordingTest : public QObject {
    Q_OBJECT

private slots:
    void equal_inputs_in_a_row_are_one_run() {
        Recording recording;
        const Input walk{{1, 0}, false, false, false}, jump{{1, 0}, true, false, false};
        for (int i = 0; i < 5; ++i) recording.add(walk);
        recording.add(jump);
        recording.add(walk);
        QCOMPARE(recording.runs.size(), size_t(3));
        QCOMPARE(recording.steps(), 7);
        Recording whole = recording;
        whole.append(recording);
        QCOMPARE(whole.steps(), 14);
        QCOMPARE(whole.runs.size(), size_t(5)); // the walks where they meet became one
    }

    void what_was_recorded_replays_bit_for_bit_on_any_thread() {
        Random random(404);
        const World world = world_of(yard().level());
        const Character c;
        for (int n = 0; n < test::rounds(10); ++n) {
            Recorder recorder(world, c,
                              state_at(world, c, {random.between(-10, 10), random.between(-10, 10), 3}));
            for (int i = 0; i < 60; ++i) {
                const Input input = random_input(random);
                for (int k = random.whole(1, 12); k-- > 0;) recorder.advance(input);
            }
            if (recorder.state().dead) continue;
            std::vector<State> ends(8);
            parallel_for(ends.size(), [&](size_t i) { ends[i] = replayed(world, c, recorder.recording()); });
            // The start of a replay is a fresh state; from there on every bit is the same.
            for (const State& end : ends) QVERIFY(end == ends[0]);
            QVERIFY(ends[0].at == recorder.state().at && ends[0].velocity == recorder.state().velocity);
            QCOMPARE(replay(world, c, recorder.recording()).back().at, recorder.state().at);
        }
    }

    void a_track_covers_every_place_of_a_run() {
        Random random(405);
        Track track;
        Vec2 at(0);
        std::vector<Vec2> places;
        for (int i = 0; i < 400; ++i) {
            at += Vec2(random.between(-0.3, 0.4), random.between(-0.3, 0.4));
            places.push_back(at);
            track.add(at);
        }
        QVERIFY(track.boxes.size() > 3);
        for (Vec2 p : places)
            QVERIFY(std::any_of(track.boxes.begin(), track.boxes.end(),
                                [&](const Box2& b) { return b.contains(p); }));
    }

    void a_change_of_the_world_is_where_brushes_came_and_went() {
        LevelMaker maker = yard();
        const World before = world_of(maker.level());
        maker.box({12, 12, 0}, {1, 1, 1});
        const World after = world_of(maker.level());
        const WorldChange change = change_between(before, after);
        QVERIFY(change.touches({{11.6, 11.6}, {12.4, 12.4}}));
        QVERIFY(!change.touches({{-5, -5}, {5, 5}}));
        int kept = 0;
        for (int i : change.before) kept += i >= 0;
        QCOMPARE(kept, int(before.columns().size()));
        QVERIFY(change_between(after, after).places.empty());
    }

    void lower_matter_changes_everything() {
        LevelMaker maker = yard();
        const World before = world_of(maker.level());
        maker.box({12, 12, -20}, {1, 1, 1});
        // How deep one may fall depends on the lowest matter.
        QVERIFY(change_between(before, world_of(maker.level())).touches({{0, 0}, {1, 1}}));
    }
};

RUBBLE_TEST(RecordingTest)
#include "recording_test.moc"
