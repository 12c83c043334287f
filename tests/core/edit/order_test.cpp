#include <QtTest/QtTest>

#include "edit/dimensions.h"
#include "edit/items.h"
#include "edit/layers.h"
#include "level/item_search.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::edit;

namespace {

Item box(const char* id, const Vec3& at, const Vec3& size, const char* name = "") {
    Brush brush;
    brush.place.at = at, brush.size = size;
    return {{id}, name, false, brush, {}};
}

/// Ground with a yard and a hall in it, which holds an upper storey; six items.
Level level_of_layers() {
    Level level;
    auto add = [&](const char* id, const char* name, const char* parent, std::vector<ItemPtr> items) {
        Layer layer;
        layer.id = {id}, layer.name = name, layer.parent = {parent}, layer.items = std::move(items);
        level.layers.push_back(std::move(layer));
    };
    add("ground", "Ground", "", {box("floor", {0, 0, -1}, {40, 40, 1}, "Floor")});
    add("hall", "Hall", "",
        {box("h1", {5, 0, 0}, {8, 0.5, 3}, "Long wall"), box("h2", {5, 4, 0}, {2, 2, 1}, "Crate")});
    add("upper", "Upper", "hall", {box("u1", {5, 0, 3}, {8, 8, 0.5}, "Deck")});
    add("yard", "Yard", "", {box("y1", {-8, 0, 0}, {1, 1, 1}, "Crate")});
    return level;
}

std::vector<std::string> found(const Level& level, const char* text) {
    std::vector<std::string> out;
    for (const FoundItem& one : found_items(level, text)) out.push_back(one.item->id.value);
    return out;
}
using Names = std::vector<std::string>;

} // namespace

class OrderTest : public QObject {
    Q_OBJECT

private slots:
    void items_are_sent_to_a_layer_in_order() {
        const std::vector<ItemId> ids{{"y1"}, {"h1"}};
        const Level sent = sent_to_layer(level_of_layers(), ids, {"upper"});
        QCOMPARE(sent.layers[1]->items.size(), size_t(1));
        QCOMPARE(sent.layers[3]->items.size(), size_t(0));
        QCOMPARE(sent.layers[2]->items.size(), size_t(3));
        QCOMPARE(sent.layers[2]->items[1]->id.value, std::string("h1")); // as they stood before
        QVERIFY(sent_to_layer(level_of_layers(), ids, {"none"}) == level_of_layers());
    }

    void items_go_earlier_and_later_in_their_layer() {
        Level level = level_of_layers();
        const auto order = [](const Level& of) {
            std::string out;
            for (const ItemPtr& item : of.layers[0]->items) out += item->id.value + " ";
            return out;
        };
        for (const char* id : {"a", "b", "c"}) level = with_item(level, 0, box(id, {}, {1, 1, 1}));
        const std::vector<ItemId> two{{"floor"}, {"a"}}, b{{"b"}};
        QCOMPARE(order(moved_in_order(level, two, true)), std::string("b floor a c "));
        QCOMPARE(order(moved_in_order(level, b, false)), std::string("floor b a c "));
        QCOMPARE(order(moved_in_order(moved_in_order(level, b, true), b, true)), std::string("floor a c b "));
        QVERIFY(moved_in_order(level, two, false) == level); // the first stay
        const Copies group = grouped(level, std::vector<ItemId>{{"a"}, {"b"}, {"c"}});
        const Level within = moved_in_order(group.level, b, true);
        QCOMPARE(find_item(within, group.ids[0])->group()->items[2]->id.value, std::string("b"));
    }

    void a_layer_alone_shows_what_holds_it_and_what_it_holds() {
        const Level alone = with_layer_alone(level_of_layers(), {"upper"});
        QVERIFY(alone.layers[0]->hidden && alone.layers[3]->hidden);
        QVERIFY(!alone.layers[1]->hidden && !alone.layers[2]->hidden);
        QVERIFY(with_all_shown(alone) == level_of_layers());
        Level round = level_of_layers(); // parents that go round end somewhere
        Layer hall = *round.layers[1];
        hall.parent = {"upper"};
        round.layers[1] = hall;
        QVERIFY(!with_layer_alone(round, {"upper"}).layers[2]->hidden);
        QVERIFY(!is_locked(round, *round.layers[1]));
    }

    void what_holds_a_layer_locks_and_hides_it() {
        Level level = level_of_layers();
        Layer hall = *level.layers[1];
        hall.locked = hall.hidden = true;
        level.layers[1] = hall;
        QVERIFY(is_locked(level, *level.layers[2]) && is_hidden(level, *level.layers[2]));
        QVERIFY(is_locked(level, ItemId{"u1"}));
        QVERIFY(!is_locked(level, ItemId{"y1"}));
        QCOMPARE(found(level, "locked"), (Names{"h1", "h2", "u1"}));
    }

    void a_layer_is_duplicated_with_all_in_it() {
        const LayerCopy copy = layer_duplicated(level_of_layers(), {"hall"}, {20, 0, 0});
        QCOMPARE(copy.level.layers.size(), size_t(6));
        QCOMPARE(copy.level.layers[3]->id, copy.id); // behind the last of its family
        QCOMPARE(copy.level.layers[4]->parent, copy.id);
        QCOMPARE(copy.level.layers[3]->items.size(), size_t(2));
        QCOMPARE(copy.level.layers[3]->items[0]->brush()->place.at, Vec3(25, 0, 0));
        QCOMPARE(copy.level.layers[1]->items.size(), size_t(2));
        std::set<std::string> ids;
        for_each_item(copy.level, [&](const Item& item, const Layer&) { ids.insert(item.id.value); });
        QCOMPARE(ids.size(), size_t(8));
        QCOMPARE(without_layer(copy.level, copy.id), level_of_layers());
    }

    void only_what_is_isolated_is_shown() {
        const std::vector<ItemId> ids{{"h2"}};
        const Level only = with_only_shown(level_of_layers(), ids);
        for_each_item(only,
                      [](const Item& item, const Layer&) { QCOMPARE(item.hidden, item.id.value != "h2"); });
        const Copies group = grouped(level_of_layers(), std::vector<ItemId>{{"h1"}, {"h2"}});
        const Level inside = with_only_shown(group.level, ids);
        QVERIFY(!find_item(inside, group.ids[0])->hidden && find_item(inside, {"h1"})->hidden);
    }

    void items_are_found_by_words_sizes_and_places() {
        const Level level = level_of_layers();
        QCOMPARE(found(level, "").size(), size_t(5));
        QCOMPARE(found(level, "crate"), (Names{"h2", "y1"}));
        QCOMPARE(found(level, "CRATE yard"), (Names{"y1"}));
        QCOMPARE(found(level, "length>5 height<1"), (Names{"u1"}));
        QCOMPARE(found(level, "z=3"), (Names{"u1"}));
        QCOMPARE(found(level, "x<-5"), (Names{"y1"}));
        QCOMPARE(found(level, "cut"), Names{});
        QCOMPARE(found(level, "colour>3"), Names{}); // nothing has that
        QCOMPARE(found(level, "<>= ="), Names{});
    }

    void a_dimension_stays_with_what_it_measures() {
        Level level = level_of_layers();
        // From the end of the long wall to the crate's corner.
        level = with_dimension(level, end_at(level, {"h1"}, {9, 0.25, 3}), end_at(level, {"h2"}, {4, 3, 1}));
        Vec3 from, to;
        QVERIFY(place_of(level, level.dimensions[0].from, from) &&
                place_of(level, level.dimensions[0].to, to));
        QVERIFY(glm::length(from - Vec3(9, 0.25, 3)) < 1e-9 && glm::length(to - Vec3(4, 3, 1)) < 1e-9);
        Item wall = *find_item(level, {"h1"});
        std::get<Brush>(wall.body).size.x = 10; // longer by a metre at either end
        std::get<Brush>(wall.body).place.at.y = 2;
        level = with_changed(level, wall);
        QVERIFY(place_of(level, level.dimensions[0].from, from));
        QVERIFY(glm::length(from - Vec3(10, 2.25, 3)) < 1e-9);
        QVERIFY(without_dimension(level, level.dimensions[0].id).dimensions.empty());
        const std::vector<ItemId> crate{{"h2"}};
        QVERIFY(without(level, crate).dimensions.empty());
    }
};

RUBBLE_TEST(OrderTest)
#include "order_test.moc"
