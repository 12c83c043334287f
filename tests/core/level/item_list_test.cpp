#include <QtTest/QtTest>

#include "core/random.h"
#include "level/level.h"
#include "test_program.h"

using namespace rubble;
using test::Random;

namespace {

Item element(const std::string& id) { return Item{{id}, {}, false, Element{"place", {}, 0, {}}, {}}; }

Item group(const std::string& id, const std::vector<ItemPtr>& members) {
    return Item{{id}, {}, false, Group{members}, {}};
}

bool holds(const Item& item, const ItemId& id) {
    if (item.id == id) return true;
    if (item.group())
        for (const ItemPtr& member : item.group()->items)
            if (holds(*member, id)) return true;
    return false;
}

/// The place by looking at every item.
size_t place_by_search(const ItemList& list, const ItemId& id) {
    size_t place = 0;
    while (place < list.size() && !holds(*list[place], id)) ++place;
    return place;
}

} // namespace

class ItemListTest : public QObject {
    Q_OBJECT

private slots:
    void a_list_finds_its_items_whatever_was_done_to_it() {
        Random random(3201);
        for (int round = 0; round < test::rounds(20); ++round) {
            int next = 0;
            const auto fresh = [&] { return "i" + std::to_string(next++); };
            std::vector<ItemPtr> plain;
            for (int i = random.whole(0, 400); i > 0; --i) plain.push_back(element(fresh()));
            ItemList list(plain);
            std::vector<std::pair<ItemList, std::vector<ItemPtr>>> kept;
            for (int edit = 0; edit < 150; ++edit) {
                const size_t size = plain.size();
                const size_t at = size == 0 ? 0 : size_t(random.whole(0, int(size) - 1));
                switch (random.whole(0, 6)) {
                case 0: // one comes at the end
                    plain.push_back(element(fresh()));
                    list.push_back(plain.back());
                    break;
                case 1: // some come in the middle, or where one was
                    for (int i = random.whole(1, 3); i > 0; --i)
                        plain.insert(plain.begin() + long(at), element(fresh()));
                    list = list.remade(plain);
                    break;
                case 2: // a row goes
                    plain.erase(plain.begin() + long(at),
                                plain.begin() + long(std::min(size, at + size_t(random.whole(1, 5)))));
                    list = list.remade(plain);
                    break;
                case 3: // one is changed
                    if (size == 0) break;
                    {
                        Item item = *plain[at];
                        item.name = "named";
                        plain[at] = item;
                        list.set(at, plain[at]);
                    }
                    break;
                case 4: // two become a group, which may hold a group
                    if (at + 1 >= size) break;
                    plain[at] = group(fresh(), {plain[at], plain[at + 1]});
                    plain.erase(plain.begin() + long(at) + 1);
                    list = list.remade(plain);
                    break;
                case 5: // two change places, or the order is another altogether
                    if (size == 0) break;
                    if (random.chance(0.1)) {
                        std::reverse(plain.begin(), plain.end());
                        list = list.remade(plain);
                        break;
                    }
                    {
                        const size_t other = size_t(random.whole(0, int(size) - 1));
                        std::swap(plain[at], plain[other]);
                        list.set(at, plain[at]), list.set(other, plain[other]);
                    }
                    break;
                default: // one is replaced by another
                    if (size == 0) break;
                    plain[at] = random.chance(0.5) ? element(fresh()) : group(fresh(), {element(fresh())});
                    list.set(at, plain[at]);
                }
                if (random.chance(0.05)) kept.emplace_back(list, plain);
                QVERIFY(list == ItemList(plain));
                for (int i = 0; i < 12; ++i) {
                    const ItemId id{"i" + std::to_string(random.whole(0, next + 2))};
                    QCOMPARE(list.place_of(id), place_by_search(list, id));
                }
            }
            for (const auto& [before, values] : kept) {
                QVERIFY(before == ItemList(values));
                for (int i = 0; i < next; ++i) {
                    const ItemId id{"i" + std::to_string(i)};
                    QCOMPARE(before.place_of(id), place_by_search(before, id));
                }
            }
        }
    }

    void a_remade_list_shares_what_stands_where_it_stood() {
        std::vector<ItemPtr> plain;
        for (int i = 0; i < 5000; ++i) plain.push_back(element("i" + std::to_string(i)));
        const ItemList list(plain);
        plain.erase(plain.begin() + 3000);
        const ItemList shorter = list.remade(plain);
        QCOMPARE(shorter.size(), size_t(4999));
        plain.insert(plain.begin() + 3000, list[3000]);
        const ItemList again = shorter.remade(plain);
        QVERIFY(again == list);
        // Up to the piece in which the item stood nothing was made anew.
        QVERIFY(again.next_not_shared(list, 0) > 2900);
        QVERIFY(list.remade(plain).is(list));
    }

    void items_in_groups_are_found_in_levels() {
        Level level;
        Layer first, second;
        first.id = {"first"}, second.id = {"second"};
        for (int i = 0; i < 200; ++i) first.items.push_back(element("a" + std::to_string(i)));
        second.items.push_back(group("outer", {element("x"), group("inner", {element("deep")})}));
        level.layers = {first, second};
        QCOMPARE(find_item(level, {"deep"})->id.value, std::string("deep"));
        QCOMPARE(layer_of(level, {"deep"}), 1);
        QCOMPARE(layer_of(level, {"a150"}), 0);
        QVERIFY(find_item(level, {"none"}) == nullptr && find_item(level, {}) == nullptr);
        QCOMPARE(layer_of(level, {"none"}), -1);
    }
};

RUBBLE_TEST(ItemListTest)
#include "item_list_test.moc"
