#include <QtTest/QtTest>

#include "core/level_maker.h"
#include "core/random.h"
#include "edit/brushes.h"
#include "edit/clipboard.h"
#include "edit/project.h"
#include "edit/underlays.h"
#include "edit/working_plane.h"
#include "level/brush_item.h"
#include "level/brush_shape.h"
#include "level/diff.h"
#include "level/history.h"
#include "test_program.h"

using namespace rubble;
using test::LevelMaker;
using test::Random;

namespace {

/// A wall with a door in it, as one group; the ids are the group's and the members'.
struct WallWithDoor {
    Level level;
    ItemId group, wall, door;
};
WallWithDoor wall_with_door() {
    LevelMaker maker;
    const ItemId wall = maker.box({0, 0, 0}, {6, 0.5, 3});
    Brush cut;
    cut.effect = Effect::cut, cut.host = wall, cut.place.at = {0, 0, 1}, cut.size = {1, 1, 2};
    const ItemId door = maker.brush(cut);
    const std::vector<ItemId> both{wall, door};
    const auto made = edit::grouped(maker.level(), both);
    return {made.level, made.ids[0], wall, door};
}
/// What the door of a copied group belongs to.
ItemId host_in(const Level& level, const ItemId& group) {
    return find_item(level, group)->group()->items[1]->brush()->host;
}

} // namespace

class EditsTest : public QObject {
    Q_OBJECT

private slots:
    void a_picture_is_scaled_by_two_places() {
        Underlay sketch;
        sketch.file = "a.png", sketch.at = {4, 2, 0}, sketch.width_m = 8;
        Level level = edit::with_underlay(edit::with_underlay({}, sketch), sketch);
        QCOMPARE(level.underlays.size(), size_t(2));
        QVERIFY(level.underlays[0].id != level.underlays[1].id);
        const Underlay wider = edit::scaled_between(level.underlays[0], {2, 2, 0}, {6, 2, 0}, 10);
        QCOMPARE(wider.width_m, 20.0);
        QCOMPARE(wider.at, Vec3(7, 2, 0)); // the first place stays where it is
        QVERIFY(edit::scaled_between(sketch, {1, 1, 0}, {1, 1, 0}, 3) == sketch);
        QVERIFY(edit::scaled_between(sketch, {1, 1, 0}, {2, 1, 0}, -3) == sketch);
        QVERIFY(edit::scaled_between(sketch, {1, 1, 0}, {1.001, 1, 0}, 5000) == sketch);
        level = edit::with_underlay(level, wider);
        QCOMPARE(level.underlays.size(), size_t(2));
        QCOMPARE(edit::without_underlay(level, wider.id).underlays.size(), size_t(1));
    }

    void stretching_keeps_the_opposite_side() {
        Brush brush;
        brush.place.at = {1, 2, 3};
        brush.place.turn_deg = 30;
        brush.size = {2, 3, 4};
        for (int i = 0; i < box_sides; ++i) {
            const BoxSide side = BoxSide(i), opposite = BoxSide(i ^ 1);
            const Brush longer = edit::stretched(brush, side, 0.75, 0.01);
            QVERIFY(glm::length(edit::middle_of(longer, opposite) - edit::middle_of(brush, opposite)) <
                    1e-12);
            QVERIFY(std::abs(glm::length(edit::middle_of(longer, side) - edit::middle_of(brush, side)) -
                             0.75) < 1e-12);
        }
        QCOMPARE(edit::stretched(brush, BoxSide::left, -100, 0.01).size.x, 0.01);
    }

    void an_edit_shares_what_it_does_not_touch() {
        LevelMaker maker;
        const ItemId a = maker.box({0, 0, 0}, {1, 1, 1}), b = maker.box({4, 0, 0}, {1, 1, 1});
        const Level before = maker.level();
        const std::vector<ItemId> ids{a};
        const Level after = edit::moved(before, ids, {1, 0, 0});
        QVERIFY(after.layers[0]->items[1].is(before.layers[0]->items[1]));
        const Diff diff = difference(before, after);
        QVERIFY(diff.changed.size() == 1 && diff.changed.contains(a) && diff.added.empty() &&
                !diff.changed.contains(b));
        QVERIFY(difference(before, before).empty());
        QVERIFY(difference(before, edit::without(before, ids)).removed.contains(a));
    }

    void groups_move_and_turn_as_one() {
        LevelMaker maker;
        const ItemId a = maker.box({1, 0, 0}, {1, 1, 1}), b = maker.start({3, 0, 0});
        const std::vector<ItemId> ids{a, b};
        const auto grouped = edit::grouped(maker.level(), ids);
        QCOMPARE(grouped.level.layers[0]->items.size(), size_t(1));
        const Level turned = edit::turned(grouped.level, grouped.ids, {0, 0, 0}, 90);
        QVERIFY(glm::length(find_item(turned, a)->brush()->place.at - Vec3(0, 1, 0)) < 1e-12);
        QVERIFY(glm::length(find_item(turned, b)->element()->at - Vec3(0, 3, 0)) < 1e-12);
        const auto back = edit::ungrouped(turned, grouped.ids);
        QCOMPARE(back.ids, ids);
        QCOMPARE(back.level.layers[0]->items.size(), size_t(2));
    }

    void sizing_in_proportion_keeps_every_ratio() {
        const WallWithDoor scene = wall_with_door();
        const std::vector<ItemId> ids{scene.group};
        const Vec3 about(3, 0, 0);
        const Level larger = edit::scaled(scene.level, ids, about, 1.5);
        const Brush &wall = *find_item(larger, scene.wall)->brush(),
                    &door = *find_item(larger, scene.door)->brush();
        QCOMPARE(wall.size, Vec3(9, 0.75, 4.5));
        QCOMPARE(wall.place.at, Vec3(-1.5, 0, 0)); // its right end stays
        QCOMPARE(door.size, Vec3(1.5, 1.5, 3));
        QCOMPARE(door.place.at, Vec3(-1.5, 0, 1.5));
        const Level back = edit::scaled(larger, ids, about, 1 / 1.5);
        QVERIFY(glm::length(find_item(back, scene.wall)->brush()->size - Vec3(6, 0.5, 3)) < 1e-12);
        // A wall alone takes its door along.
        const std::vector<ItemId> one{scene.wall};
        QCOMPARE(find_item(edit::scaled(scene.level, one, about, 2), scene.door)->brush()->size,
                 Vec3(2, 2, 4));
    }

    void what_is_sized_has_the_size_that_its_points_say() {
        Random random(3104);
        for (int i = 0; i < 50; ++i) {
            Brush brush;
            brush.shape = Shape::outline;
            for (const Vec2 corner : {Vec2(0, 0), Vec2(3, 0), Vec2(2, 4)})
                brush.points.push_back(corner + Vec2(random.between(-0.4, 0.4), random.between(-0.4, 0.4)));
            brush = measured(std::move(brush));
            const Brush larger = transformed(brush, Transform::scaling({1, 2, 0}, random.between(0.3, 3)));
            QCOMPARE(larger.size, measured(larger).size); // to the last bit: a file is read so
            const Brush placed = edit::placed_on(brush, {});
            QCOMPARE(placed.size, measured(placed).size);
        }
    }

    void tilting_turns_places_about_an_axis() {
        LevelMaker maker;
        const ItemId box = maker.box({2, 0, 0}, {1, 1, 1}), mark = maker.element("place", {0, 0, 3}, 90);
        const std::vector<ItemId> ids{box, mark};
        const Level tilted = edit::turned(maker.level(), ids, Vec3(0), 90, {0, 1, 0});
        QVERIFY(glm::length(find_item(tilted, box)->brush()->place.at - Vec3(0, 0, -2)) < 1e-9);
        QVERIFY(glm::length(find_item(tilted, box)->brush()->place.direction({0, 0, 1}) - Vec3(1, 0, 0)) <
                1e-9);
        const Element& element = *find_item(tilted, mark)->element();
        QVERIFY(glm::length(element.at - Vec3(3, 0, 0)) < 1e-9);
        QVERIFY(std::abs(std::remainder(element.facing_deg - 90, 360.0)) < 1e-6); // along the axis: as it was
    }

    void a_chosen_group_and_its_member_move_once() {
        LevelMaker maker;
        const ItemId a = maker.box({1, 0, 0}, {1, 1, 1});
        const std::vector<ItemId> one{a};
        const auto grouped = edit::grouped(maker.level(), one);
        const std::vector<ItemId> both{grouped.ids[0], a};
        QCOMPARE(find_item(edit::moved(grouped.level, both, {1, 0, 0}), a)->brush()->place.at.x, 2.0);
    }

    void a_copied_group_keeps_its_doors_in_its_own_walls() {
        const auto [level, group, wall, door] = wall_with_door();
        const std::vector<ItemId> one{group};
        const auto copy = edit::duplicated(level, one, {0, 5, 0});
        QCOMPARE(host_in(copy.level, copy.ids[0]), find_item(copy.level, copy.ids[0])->group()->items[0]->id);
        const auto pasted = edit::pasted(level, 0, edit::copied(level, one), {0, 9, 0});
        QCOMPARE(host_in(pasted.level, pasted.ids[0]),
                 find_item(pasted.level, pasted.ids[0])->group()->items[0]->id);
        QCOMPARE(host_in(pasted.level, group), wall);
        // Without its wall it is a cut like any other, in a group too.
        const auto apart = edit::ungrouped(level, one);
        const std::vector<ItemId> alone{door};
        const auto grouped = edit::grouped(apart.level, alone);
        const auto lone = edit::pasted(grouped.level, 0, edit::copied(grouped.level, grouped.ids), {9, 0, 0});
        QVERIFY(find_item(lone.level, lone.ids[0])->group()->items[0]->brush()->host.empty());
    }

    void many_items_are_changed_as_one_after_the_other() {
        Random random(3103);
        for (int round = 0; round < test::rounds(30); ++round) {
            LevelMaker maker;
            std::vector<ItemId> all, chosen;
            for (int i = 0; i < 60; ++i) all.push_back(maker.box({double(i), 0, 0}, {1, 1, 1}));
            Level level = maker.level();
            for (size_t i = 0; i < all.size(); i += 7)
                level = edit::grouped(level, std::vector<ItemId>{all[i], all[i + 1]}).level;
            for (const ItemId& id : all)
                if (random.chance(0.3)) chosen.push_back(id);
            Level expected = level;
            std::vector<Item> items;
            for (const ItemId& id : chosen) {
                items.push_back(
                    transformed(*find_item(level, id), Transform::moving({0, random.whole(1, 5) * 1.0, 0})));
                expected = edit::with_changed(expected, items.back());
            }
            const Level changed = edit::with_all_changed(level, items);
            QVERIFY(changed == expected);
            // What was not meant is the very same as before.
            for (const ItemId& id : all)
                if (std::find(chosen.begin(), chosen.end(), id) == chosen.end())
                    QVERIFY(find_item(changed, id) == find_item(level, id));
            // Taken away one by one or at once.
            Level without = level;
            for (const ItemId& id : chosen) without = edit::without(without, std::vector<ItemId>{id});
            QVERIFY(edit::without(level, chosen) == without);
        }
    }

    void pasting_gives_fresh_ids_and_lands_on_its_place() {
        LevelMaker maker;
        const ItemId a = maker.box({0, 0, 0}, {2, 2, 1}), b = maker.box({0, 0, 1}, {1, 1, 1});
        const std::vector<ItemId> ids{a, b};
        const edit::Clip clip = edit::copied(maker.level(), ids);
        const auto pasted = edit::pasted(maker.level(), 0, clip, {10, 5, 2});
        QCOMPARE(pasted.ids.size(), size_t(2));
        QCOMPARE(find_item(pasted.level, pasted.ids[0])->brush()->place.at, Vec3(10, 5, 2));
        QCOMPARE(find_item(pasted.level, pasted.ids[1])->brush()->place.at, Vec3(10, 5, 3));
        QVERIFY(pasted.ids[0] != a && pasted.ids[1] != b && pasted.ids[0] != pasted.ids[1]);
        QVERIFY(edit::copied(maker.level(), {}).items.empty());
    }

    void history_goes_back_and_forth_and_knows_what_is_saved() {
        Document document;
        document.levels.push_back({"a", new_level("A", {"courier"})});
        History history(document);
        QVERIFY(history.saved() && !history.can_undo());
        Level level = *document.levels[0].level;
        level.name = "B";
        history.add(edit::with_level(history.now(), 0, level), "Rename");
        history.add(history.now(), "Nothing");
        QCOMPARE(history.undo_text(), std::string("Rename"));
        QVERIFY(!history.saved());
        history.mark_saved();
        history.undo();
        QVERIFY(!history.saved() && history.can_redo() && !history.can_undo());
        QCOMPARE(history.now().levels[0].level->name, std::string("A"));
        history.redo();
        QVERIFY(history.saved());
    }
};

RUBBLE_TEST(EditsTest)
#include "edits_test.moc"
