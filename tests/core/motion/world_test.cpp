#include <QtTest/QtTest>

#include "core/motion/maker_world.h"
#include "motion/play_state.h"
#include "motion/world_change.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::motion;
using test::LevelMaker;
using test::world_of;

namespace {

/// Two boxes as parts of one item.
World of_parts(const LevelMaker& maker, int64_t first, int64_t second, MatterTags tags = {}) {
    const build::Solid solid = build::build_solid(maker.level());
    WorldMaker made;
    for (size_t i = 0; i < 2; ++i) {
        made.begin({{"layer"}, i == 0 ? first : second}, i == 0 ? MatterTags{} : tags);
        for_each_matter(*solid.brushes[i], [&](const geometry::ConvexCell& cell) { made.add(cell); });
    }
    return made.finished();
}

} // namespace

/// The world takes convex cells from whatever brings them, and knows whose they are.
class WorldTest : public QObject {
    Q_OBJECT

    LevelMaker maker_;

private slots:
    void init() {
        maker_ = {};
        maker_.box({0, 0, 0}, {2, 2, 1}), maker_.box({5, 0, 0}, {2, 2, 2});
    }

    void columns_know_where_they_come_from() {
        const World world = of_parts(maker_, 7, 8, MatterTag::deadly);
        QCOMPARE(world.sources().size(), size_t(2));
        for (const Column& column : world.columns()) {
            const World::Source& source = world.source_of(column);
            QCOMPARE(source.id, (SourceId{{"layer"}, column.high > 1.5 ? 8 : 7}));
            QCOMPARE(source.tags.has(MatterTag::deadly), column.high > 1.5);
        }
        // What was taken out is gone from the maker; a world of brushes has one source for each.
        QCOMPARE(world_of(maker_).sources()[1].id.sub, int64_t(0));
    }

    void bodies_meet_matter_from_any_source_alike() {
        const World parts = of_parts(maker_, 1, 2), brushes = world_of(maker_);
        for (const Vec3& at : {Vec3(0, 0, 0.5), Vec3(5, 0.9, 1.9), Vec3(2.5, 0, 0), Vec3(5, 0, 3)}) {
            QCOMPARE(overlap_m(parts, {at, 0.3, 1.8}), overlap_m(brushes, {at, 0.3, 1.8}));
            const auto a = support_below(parts, {at, 0.3, 1.8}, 1, 4),
                       b = support_below(brushes, {at, 0.3, 1.8}, 1, 4);
            QCOMPARE(a.has_value(), b.has_value());
            if (a) QCOMPARE(a->height, b->height);
        }
    }

    void a_part_that_stays_is_known_again_by_its_number_and_tags() {
        const World before = of_parts(maker_, 1, 2);
        const auto kept = [&](const World& now) {
            int count = 0;
            for (int i : change_between(before, now).before) count += i >= 0;
            return count;
        };
        QCOMPARE(kept(of_parts(maker_, 1, 2)), int(before.columns().size()));
        QCOMPARE(kept(of_parts(maker_, 1, 3)), before.sources()[0].count);
        QCOMPARE(kept(of_parts(maker_, 1, 2, MatterTag::slippery)), before.sources()[0].count);
    }

    void what_is_gone_is_met_no_more() {
        const World world = of_parts(maker_, 1, 2);
        const SourceId wall{{"layer"}, 2};
        // Without a part the world is as if it had never been there.
        maker_ = {};
        maker_.box({0, 0, 0}, {2, 2, 1});
        const World &less = world.without({wall}), fewer = world_of(maker_);
        QCOMPARE(less.columns().size(), fewer.columns().size());
        QCOMPARE(less.lowest(), fewer.lowest());
        QVERIFY(&less == &world.without({wall}) && &world == &world.without({}));
        for (const Column& column : less.columns()) QCOMPARE(less.source_of(column).id.sub, int64_t(1));

        // The body runs against the wall, or on where it is gone; the run says which.
        const auto run_right = [&](PuzzleState puzzle) {
            PlayState state{state_at(world, {}, {2.5, 0, -3}), std::move(puzzle)};
            state.body.at = {3, 0, 0}, state.body.velocity = {6, 0, 0}, state.body.standing = false;
            for (int i = 0; i < 30; ++i) state = step(world, {}, state, {{1, 0}});
            return state;
        };
        const PlayState stopped = run_right({}), free = run_right(without({}, wall));
        QVERIFY(stopped.body.at.x < 4 - 0.29 && free.body.at.x > 4);
        QCOMPARE(free.puzzle, without({}, wall));
        QCOMPARE(with_again(free.puzzle, wall), PuzzleState{});
        QVERIFY(without(without({}, wall), wall) == without({}, wall));
        QVERIFY(run_right(with_again(free.puzzle, wall)) == stopped);
    }

    void tags_are_a_set() {
        const MatterTags both = MatterTags(MatterTag::one_way) | MatterTag::ladder;
        QVERIFY(both.has(MatterTag::one_way) && both.has(MatterTag::ladder) && !both.has(MatterTag::deadly));
        QVERIFY(MatterTags{} != both && (MatterTags{} | both) == both);
    }
};

RUBBLE_TEST(WorldTest)
#include "world_test.moc"
