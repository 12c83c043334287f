#include <QtTest/QtTest>

#include "core/level_maker.h"
#include "io/level_file.h"
#include "study/beginnings.h"
#include "test_program.h"

using namespace rubble;
using test::LevelMaker;

/// Levels begun from others, and how much of those is left in them.
class BeginningsTest : public QObject {
    Q_OBJECT

private slots:
    void only_walls_are_kept_and_where_they_came_from() {
        LevelMaker maker;
        const ItemId wall = maker.box({0, 0, 0}, {4, 4, 1});
        maker.cut({0, 0, 0.5}, {1, 1, 1});
        maker.start({0, 0, 1});
        const ItemId goal = maker.goal({1, 0, 1});
        maker.claim(Claim::Kind::reaches, goal, goal);
        Level other = maker.level();
        Item painted = *find_item(other, wall);
        std::get<Brush>(painted.body).material = {"brick"};
        other.layers[0] = [&] {
            Layer layer = *other.layers[0];
            layer.items = ItemList(std::vector<ItemPtr>{ItemPtr(painted), layer.items[1], layer.items[2]});
            return layer;
        }();
        const Level begun = study::begun_from(other, "levels/other.level.json", {{{"l1"}}});
        QCOMPARE(begun.layers.size(), size_t(1));
        QCOMPARE(begun.layers[0]->items.size(), size_t(2));
        QVERIFY(begun.claims.empty() && find_item(begun, wall)->brush()->material.empty());
        const auto read = io::level_from_text(io::text_of(begun), "begun");
        QVERIFY(read && study::beginning_of(*read));
        QCOMPARE(study::beginning_of(*read)->file, std::string("levels/other.level.json"));
        QVERIFY(!study::beginning_of(other));
        study::Keeping other_material{{{"l1"}}};
        other_material.material = {"timber"};
        QCOMPARE(study::begun_from(other, "o", other_material).layers[0]->items.size(), size_t(1)); // the cut
        QVERIFY(study::begun_from(other, "o", {}).layers.empty());
    }

    void likeness_is_the_part_of_the_walls_that_is_left() {
        LevelMaker all, half, more;
        for (LevelMaker* maker : {&all, &half, &more}) {
            maker->box({0, 0, -1}, {20, 4, 1});
            maker->start({-8, 0, 0}), maker->goal({8, 0, 0});
        }
        for (LevelMaker* maker : {&all, &more}) maker->box({0, 20, 0}, {20, 4, 1});
        more.box({0, -20, 0}, {20, 8, 1});
        const auto checked = [](const LevelMaker& maker) { return check::check_level({}, maker.level()); };
        const auto a = checked(all), h = checked(half), m = checked(more);
        const study::Likeness same = study::likeness_of(a, a);
        QCOMPARE(same.walls_kept, 1.0);
        QVERIFY(same.walls_new < 1e-9 && same.routes_alike && *same.routes_alike == 1.0);
        const study::Likeness less = study::likeness_of(a, h);
        QVERIFY(std::abs(less.walls_kept - 0.5) < 0.03 && less.walls_new < 1e-9);
        const study::Likeness added = study::likeness_of(a, m);
        QVERIFY(std::abs(added.walls_kept - 1) < 1e-9 && std::abs(added.walls_new - 0.5) < 0.03);
    }

    void ways_are_alike_as_far_as_they_go_together() {
        LevelMaker straight, around;
        straight.box({0, 0, -1}, {40, 40, 1}), around.box({0, 0, -1}, {40, 40, 1});
        for (LevelMaker* maker : {&straight, &around}) maker->start({-15, 0, 0}), maker->goal({15, 0, 0});
        around.box({0, 0, 0}, {2, 30, 4}); // round a long wall
        const auto s = check::check_level({}, straight.level()), r = check::check_level({}, around.level());
        const study::Likeness likeness = study::likeness_of(s, r);
        QVERIFY(likeness.routes_alike && *likeness.routes_alike < 0.5 && *likeness.routes_alike > 0);
    }
};

RUBBLE_TEST(BeginningsTest)
#include "beginnings_test.moc"
