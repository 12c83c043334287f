#include <QtTest/QtTest>

#include "build/solid_builder.h"
#include "check/lost_items.h"
#include "core/level_maker.h"
#include "test_program.h"

using namespace rubble;
using check::Lost;
using test::LevelMaker;

namespace {

std::map<std::string, Lost> lost(const LevelMaker& maker) {
    std::map<std::string, Lost> out;
    const Level level = maker.level();
    for (const auto& one : check::lost_items(level, build::build_solid(level))) out[one.id.value] = one.how;
    return out;
}

/// A floor with some things on it, all of them seen.
LevelMaker room() {
    LevelMaker maker;
    maker.box({0, 0, -1}, {20, 20, 1});
    for (int i = 0; i < 6; ++i) maker.box({-5.0 + 2 * i, 3, 0}, {1, 1, 1});
    maker.start({0, -4, 0});
    return maker;
}

} // namespace

class LostItemsTest : public QObject {
    Q_OBJECT

private slots:
    void what_is_seen_is_not_lost() { QVERIFY(lost(room()).empty()); }

    void a_fill_inside_matter_is_lost_and_one_that_looks_out_is_not() {
        LevelMaker maker = room();
        const ItemId buried = maker.box({5, -5, -0.8}, {1, 1, 0.5});
        maker.box({7, -5, -0.8}, {1, 1, 1.5});
        const auto found = lost(maker);
        QCOMPARE(found.size(), size_t(1));
        QVERIFY(found.at(buried.value) == Lost::inside_matter);
    }

    void a_cut_in_the_air_is_lost_and_one_in_the_floor_is_not() {
        LevelMaker maker = room();
        const ItemId idle = maker.cut({5, -5, 2}, {1, 1, 1});
        maker.cut({7, -5, -0.5}, {1, 1, 1});
        const auto found = lost(maker);
        QCOMPARE(found.size(), size_t(1));
        QVERIFY(found.at(idle.value) == Lost::cuts_nothing);
    }

    void an_element_in_a_wall_is_lost() {
        LevelMaker maker = room();
        const ItemId goal = maker.goal({-5, 3, 0.4}); // inside the first of the row
        maker.goal({-5, 3, 1});                       // on it
        const auto found = lost(maker);
        QCOMPARE(found.size(), size_t(1));
        QVERIFY(found.at(goal.value) == Lost::inside_matter);
    }

    void what_lies_far_from_all_else_is_lost() {
        LevelMaker maker = room();
        const ItemId gone = maker.box({400, 0, 0}, {1, 1, 1});
        maker.box({30, 0, 0}, {1, 1, 1}); // a way off, but one looks there
        const auto found = lost(maker);
        QCOMPARE(found.size(), size_t(1));
        QVERIFY(found.at(gone.value) == Lost::far_away);
    }
};

RUBBLE_TEST(LostItemsTest)
#include "lost_items_test.moc"
