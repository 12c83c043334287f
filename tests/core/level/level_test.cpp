#include <QtTest/QtTest>

#include "base/angle.h"
#include "core/level_maker.h"
#include "core/random.h"
#include "edit/items.h"
#include "level/brush_shape.h"
#include "level/diff.h"
#include "level/order.h"
#include "test_program.h"

using namespace rubble;
using test::LevelMaker;
using test::Random;

class LevelTest : public QObject {
    Q_OBJECT

private slots:
    void a_new_level_can_be_walked_in_at_once() {
        const Level level = new_level("Dock", {"courier"});
        const auto brushes = ordered_brushes(level);
        QCOMPARE(brushes.size(), size_t(1));
        QCOMPARE(brushes[0].brush->size.x, 16.0);
        QCOMPARE(box_of(*brushes[0].item).high.z, 0.0);
        QCOMPARE(elements_of(level, Role::start).size(), size_t(1));
    }

    void elements_of_hidden_layers_and_groups_are_not_seen() {
        LevelMaker maker;
        maker.start({0, 0, 0});
        const ItemId second = maker.goal({3, 0, 0});
        Level level = maker.level();
        QCOMPARE(seen_elements_of(level).size(), size_t(2));
        const std::vector<ItemId> ids{second};
        const edit::Copies grouped = edit::grouped(level, ids);
        Item group = *find_item(grouped.level, grouped.ids[0]);
        group.hidden = true;
        QCOMPARE(seen_elements_of(edit::with_changed(grouped.level, group)).size(), size_t(1));
        Layer layer = *level.layers[0];
        layer.hidden = true;
        level.layers[0] = layer;
        QVERIFY(seen_elements_of(level).empty());
    }

    void brushes_come_by_layer_then_item_and_a_group_at_its_own_place() {
        LevelMaker maker;
        const ItemId a = maker.box({0, 0, 0}, {1, 1, 1}), b = maker.box({3, 0, 0}, {1, 1, 1}),
                     c = maker.box({6, 0, 0}, {1, 1, 1});
        const std::vector<ItemId> two{a, b};
        const auto grouped = edit::grouped(maker.level(), two);
        std::vector<std::string> order;
        for (const auto& brush : ordered_brushes(grouped.level)) order.push_back(brush.item->id.value);
        QCOMPARE(order, (std::vector<std::string>{a.value, b.value, c.value}));
        QCOMPARE(layer_of(grouped.level, b), 0);
        QCOMPARE(layer_of(grouped.level, ItemId{"nobody"}), -1);
    }

    void a_difference_names_what_came_went_and_changed() {
        LevelMaker maker;
        const ItemId a = maker.box({0, 0, 0}, {1, 1, 1}), b = maker.box({3, 0, 0}, {1, 1, 1});
        const Level before = maker.level();
        QVERIFY(difference(before, before).empty());
        const std::vector<ItemId> first{a}, second{b};
        Level after = edit::without(edit::moved(before, first, {1, 0, 0}), second);
        const Item added{{"new"}, {}, false, Brush{}, {}};
        after = edit::with_item(after, 0, added);
        const Diff diff = difference(before, after);
        QVERIFY(diff.changed == std::unordered_set<ItemId>{a});
        QVERIFY(diff.removed == std::unordered_set<ItemId>{b});
        QVERIFY(diff.added == std::unordered_set<ItemId>{ItemId{"new"}});
        QVERIFY(!diff.claims);
        after.name = "Another";
        QVERIFY(difference(before, after).values);
    }

    void a_difference_is_seen_within_groups_and_in_all_parts_of_a_level() {
        LevelMaker maker;
        const ItemId a = maker.box({0, 0, 0}, {1, 1, 1}), b = maker.box({3, 0, 0}, {1, 1, 1}),
                     c = maker.box({6, 0, 0}, {1, 1, 1});
        const auto grouped = edit::grouped(maker.level(), std::vector<ItemId>{a, b});
        const Level& before = grouped.level;
        // A member moved: it, not its group.
        Diff wanted;
        wanted.changed = {b};
        QVERIFY(difference(before, edit::moved(before, std::vector<ItemId>{b}, {0, 1, 0})) == wanted);
        // The group hidden: it, not its members.
        Item hidden = *find_item(before, grouped.ids[0]);
        hidden.hidden = true;
        wanted.changed = {grouped.ids[0]};
        QVERIFY(difference(before, edit::with_changed(before, hidden)) == wanted);
        // Taken out of the group: held by another.
        const Level apart = edit::ungrouped(before, grouped.ids).level;
        QVERIFY(difference(before, apart).order && difference(before, apart).removed.size() == 1);
        // Gone: the others stand as they did.
        wanted = {};
        wanted.removed = {a};
        QVERIFY(difference(before, edit::without(before, std::vector<ItemId>{a})) == wanted);
        Level other = before;
        other.links.push_back({a, b, -1, 0});
        QVERIFY(difference(before, other).links && !difference(before, other).order);
        other = before;
        other.dimensions.push_back({});
        QVERIFY(difference(before, other).dimensions);
        other = before;
        other.underlays.push_back({});
        QVERIFY(difference(before, other).underlays);
        other = before;
        other.claims.push_back({});
        QVERIFY(difference(before, other).claims);
        Layer renamed = *before.layers[0];
        renamed.name = "Quay";
        other = edit::with_layer(before, renamed);
        wanted = {};
        wanted.layers = true;
        QVERIFY(difference(before, other) == wanted);
    }

    void a_difference_of_projects_names_their_parts() {
        Project before;
        before.characters.push_back({{"courier"}, "Courier", {}, {}});
        before.materials.push_back({});
        QVERIFY(difference(before, before).empty());
        Project after = before;
        after.characters[0].metrics.run_speed_mps = 9;
        after.measures.wall_m = 0.3, after.grid_m = 1, after.easy_pct = 40;
        const ProjectDiff diff = difference(before, after);
        QVERIFY(diff.characters == std::set<CharacterId>{{"courier"}} && diff.materials.empty());
        QVERIFY(diff.measures && diff.grid && diff.grades && !diff.values);
    }

    void an_item_moved_and_moved_back_is_no_difference() {
        LevelMaker maker;
        const std::vector<ItemId> one{maker.box({0, 0, 0}, {1, 1, 1})};
        const Level before = maker.level();
        const Level after = edit::moved(edit::moved(before, one, {1, 0, 0}), one, {-1, 0, 0});
        QVERIFY(difference(before, after).empty());
    }

    void a_levels_own_metrics_override_key_by_key() {
        LevelMaker maker;
        maker.change("jump_height_m", 2.5);
        Project project;
        NamedCharacter courier{{"courier"}, "Courier", {}, {}};
        courier.metrics.run_speed_mps = 8;
        project.characters.push_back(courier);
        const Character c = character_of(project, maker.level());
        QCOMPARE(c.jump_height_m, 2.5);
        QCOMPARE(c.run_speed_mps, 8.0);
        QCOMPARE(c.radius_m, Character{}.radius_m);
        Level stranger = maker.level();
        stranger.character = {"nobody"};
        QCOMPARE(character_of(project, stranger).run_speed_mps, Character{}.run_speed_mps);
    }

    void metrics_out_of_range_are_named() {
        for (const CharacterField& field : character_fields()) {
            Character c;
            QVERIFY(problem_of(c).empty());
            c.*field.member = std::numeric_limits<double>::quiet_NaN();
            QVERIFY2(!problem_of(c).empty(), field.key);
            c.*field.member = field.most * 2 + 1;
            QVERIFY2(!problem_of(c).empty(), field.key);
            QCOMPARE(find_character_field(field.key)->key, field.key);
        }
        QVERIFY(find_character_field("colour") == nullptr);
    }

    void a_turned_box_keeps_its_base_and_size() {
        Random random(303);
        for (int n = 0; n < test::rounds(100); ++n) {
            Brush brush;
            brush.place.at = {random.between(-50, 50), random.between(-50, 50), random.between(-5, 5)};
            brush.place.turn_deg = random.between(-360, 360);
            brush.size = {random.between(0.1, 9), random.between(0.1, 9), random.between(0.1, 9)};
            const auto corners = corners_of(brush);
            QCOMPARE(corners.size(), size_t(8));
            Vec3 middle(0);
            for (const Vec3& p : corners) middle += p / 8.0;
            QVERIFY(glm::length(middle - brush.place.at - Vec3(0, 0, brush.size.z / 2)) < 1e-5);
            const double diagonal = glm::length(brush.size) / 2;
            for (const Vec3& p : corners) QVERIFY(std::abs(glm::length(p - middle) - diagonal) < 1e-5);
        }
    }

    void a_ramp_rises_along_its_own_x() {
        Brush ramp;
        ramp.shape = Shape::ramp;
        ramp.size = {4, 2, 3};
        ramp.place.turn_deg = 90;
        // Turned by a quarter it rises along +y.
        double high_y = -10, low_y = 10;
        for (const Vec3& p : corners_of(ramp)) {
            if (p.z > 2.9) {
                high_y = std::max(high_y, p.y);
                QVERIFY(p.y > 1.9);
            }
            low_y = std::min(low_y, p.y);
        }
        QVERIFY(std::abs(high_y - 2) < 1e-6 && std::abs(low_y + 2) < 1e-6);
    }

    void brushes_that_cannot_be_built_are_named() {
        auto problem = [](Vec3 size, Vec3 at) {
            Brush brush;
            brush.size = size, brush.place.at = at;
            return problem_of(brush);
        };
        const double nan = std::numeric_limits<double>::quiet_NaN();
        QVERIFY(problem({1, 1, 1}, {0, 0, 0}).empty());
        QCOMPARE(problem({0, 1, 1}, {0, 0, 0}), std::string("size"));
        QCOMPARE(problem({1, -1, 1}, {0, 0, 0}), std::string("size"));
        QCOMPARE(problem({1, 1, 2000}, {0, 0, 0}), std::string("size"));
        QCOMPARE(problem({1, nan, 1}, {0, 0, 0}), std::string("size"));
        QCOMPARE(problem({1, 1, 1}, {1e9, 0, 0}), std::string("at"));
        QCOMPARE(problem({1, 1, 1}, {0, nan, 0}), std::string("at"));
    }
};

RUBBLE_TEST(LevelTest)
#include "level_test.moc"
