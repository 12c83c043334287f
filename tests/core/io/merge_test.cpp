#include <QtTest/QtTest>

#include "core/random.h"
#include "edit/items.h"
#include "io/level_file.h"
#include "io/level_merge.h"
#include "level/element_values.h"
#include "test_program.h"

using namespace rubble;
using test::Random;

namespace {

io::Json json_of(const Level& level) { return *io::parse_json(io::text_of(level), "level"); }

Level level_of(const io::Json& json) {
    auto level = io::level_from_text(io::to_text(json), "merged");
    if (!level) qFatal("%s", level.error().text().c_str());
    return *level;
}

Item box(const std::string& id, Random& random) {
    Brush brush;
    brush.place.at = {random.stepped(-20, 20, 0.5), random.stepped(-20, 20, 0.5), 0};
    brush.size = {1, 2, random.stepped(0.5, 3, 0.5)};
    return Item{{id}, {}, false, brush, {}};
}

/// Layers of brushes, groups and elements, with claims.
Level some_level(Random& random) {
    Level level;
    level.name = "Some", level.character = {"courier"};
    for (int l = 0; l < 3; ++l) {
        Layer layer;
        layer.id = {"l" + std::to_string(l)}, layer.name = "Layer";
        for (int i = 0; i < 8; ++i)
            layer.items.push_back(ItemPtr(box("b" + std::to_string(10 * l + i), random)));
        Group group;
        for (int i = 0; i < 3; ++i)
            group.items.push_back(ItemPtr(box("m" + std::to_string(10 * l + i), random)));
        layer.items.push_back(ItemPtr(Item{{"g" + std::to_string(l)}, "Group", false, group, {}}));
        const Element place{"place", {random.stepped(-9, 9, 1), 0, 0}, 0, {}};
        layer.items.push_back(ItemPtr(Item{{"e" + std::to_string(l)}, "Place", false, place, {}}));
        level.layers.push_back(std::move(layer));
    }
    for (int i = 0; i < 4; ++i)
        level.claims.push_back(
            {{"c" + std::to_string(i)}, {}, Claim::Kind::reaches, {"e0"}, {"e1"}, {}, {}, 0, {}});
    return level;
}

std::vector<ItemId> all_ids(const Level& level) {
    std::vector<ItemId> out;
    for_each_item(level, [&](const Item& item, const Layer&) { out.push_back(item.id); });
    return out;
}

/// An edit of one thing of a level; which things it may touch is told by the remainder of a number.
class Edit {
public:
    Edit(Random& random, int side) : random_(random), side_(side) {}

    Level operator()(Level level) {
        std::vector<ItemId> mine;
        for (const ItemId& id : all_ids(level))
            if (int(std::hash<std::string>()(id.value) % 2) == side_) mine.push_back(id);
        const ItemId id = mine[size_t(random_.whole(0, int(mine.size()) - 1))];
        Item item = *find_item(level, id);
        switch (random_.whole(0, 5)) {
        case 0:
            return item.group() ? level
                                : edit::moved(level, std::vector{id}, {random_.stepped(1, 3, 1), 0, 0});
        case 1:
            item.name = "named " + std::to_string(random_.whole(0, 99));
            return edit::with_changed(level, item);
        case 2:
            if (item.brush()) std::get<Brush>(item.body).material = {"m" + std::to_string(side_)};
            return edit::with_changed(level, item);
        case 3:
            return item.group() ? level : edit::without(level, std::vector{id});
        case 4: {
            const std::string fresh = (side_ == 0 ? "x" : "y") + std::to_string(random_.whole(1000, 1000000));
            return edit::with_item(level, random_.whole(0, 2), box(fresh, random_));
        }
        default:
            item.hidden = !item.hidden;
            return edit::with_changed(level, item);
        }
    }

private:
    Random& random_;
    int side_;
};

/// What a level holds, whatever the order.
std::map<std::string, std::string> holdings(const Level& level) {
    std::map<std::string, std::string> out;
    for (const auto& layer : level.layers) {
        const std::function<void(const ItemList&, const std::string&)> take = [&](const ItemList& items,
                                                                                  const std::string& holder) {
            for (const auto& item : items) {
                Level alone;
                alone.layers = {Layer{}};
                Item one = *item;
                if (one.group()) one.body = Group{};
                Layer holds;
                holds.items.push_back(ItemPtr(one));
                alone.layers = {holds};
                out[item->id.value] = holder + io::text_of(alone);
                if (const ItemList* members = members_of(*item)) take(*members, item->id.value);
            }
        };
        take(layer->items, layer->id.value);
    }
    return out;
}

} // namespace

/// Two versions of a level put together.
class MergeTest : public QObject {
    Q_OBJECT

private slots:
    void edits_that_do_not_touch_come_out_as_one_after_the_other() {
        Random random(5);
        for (int round = 0; round < test::rounds(1000); ++round) {
            const Level base = some_level(random);
            Level mine = base, theirs = base, both = base;
            // The same edits in a row: those of one side do not look at the other's things.
            for (int i = random.whole(1, 6); i > 0; --i) mine = Edit(random, 0)(mine);
            for (int i = random.whole(1, 6); i > 0; --i) theirs = Edit(random, 1)(theirs);
            const io::MergedLevel merged = io::merged_levels(json_of(base), json_of(mine), json_of(theirs));
            QVERIFY2(merged.conflicts.empty(), qPrintable(QString::number(round)));
            const Level out = level_of(merged.level);
            // As mine with all that theirs made of the base, or the other way round.
            const auto was = holdings(base), ours = holdings(mine), others = holdings(theirs);
            auto expected = ours;
            for (const auto& [id, text] : others)
                if (const auto at = was.find(id); at == was.end() || at->second != text) expected[id] = text;
            for (const auto& [id, text] : was)
                if (!others.contains(id)) expected.erase(id);
            for (const auto& [id, text] : holdings(out))
                if (expected[id] != text) QFAIL((id + ": " + text + "\ninstead of " + expected[id]).c_str());
            QCOMPARE(holdings(out).size(), expected.size());
            QCOMPARE(out.claims, base.claims);
            // Order: what both have stands as it stood.
            std::vector<ItemId> left, kept;
            for (const ItemId& id : all_ids(base))
                if (find_item(out, id)) left.push_back(id);
            for (const ItemId& id : all_ids(out))
                if (find_item(base, id)) kept.push_back(id);
            QCOMPARE(kept, left);
        }
    }

    void merging_with_an_unchanged_side_gives_the_other() {
        Random random(6);
        for (int round = 0; round < test::rounds(100); ++round) {
            const Level base = some_level(random);
            Level other = base;
            for (int i = 0; i < 10; ++i) other = Edit(random, round % 2)(other);
            for (const bool first : {true, false}) {
                const io::MergedLevel merged = io::merged_levels(json_of(base), json_of(first ? other : base),
                                                                 json_of(first ? base : other));
                QVERIFY(merged.conflicts.empty());
                QCOMPARE(io::text_of(level_of(merged.level)), io::text_of(other));
            }
            const io::MergedLevel same = io::merged_levels(json_of(base), json_of(other), json_of(other));
            QVERIFY(same.conflicts.empty() && io::text_of(level_of(same.level)) == io::text_of(other));
        }
    }

    void different_keys_of_one_item_go_together_and_one_key_does_not() {
        Random random(7);
        const Level base = some_level(random);
        Item item = *find_item(base, {"b3"});
        Item moved = item, painted = item, pushed = item;
        std::get<Brush>(moved.body).place.at.x += 5;
        std::get<Brush>(painted.body).material = {"brick"};
        std::get<Brush>(pushed.body).place.at.x -= 1;
        const Level mine = edit::with_changed(base, moved);
        const auto clean =
            io::merged_levels(json_of(base), json_of(mine), json_of(edit::with_changed(base, painted)));
        QVERIFY(clean.conflicts.empty());
        const Level out = level_of(clean.level);
        QCOMPARE(find_item(out, {"b3"})->brush()->place.at.x, moved.brush()->place.at.x);
        QCOMPARE(find_item(out, {"b3"})->brush()->material, MaterialId{"brick"});
        auto clash =
            io::merged_levels(json_of(base), json_of(mine), json_of(edit::with_changed(base, pushed)));
        QCOMPARE(clash.conflicts.size(), size_t(1));
        QCOMPARE(clash.conflicts[0].id, std::string("b3"));
        QCOMPARE(clash.conflicts[0].keys, std::vector<std::string>{"place"});
        // Mine stands, and the conflict stays with the level until somebody decides.
        clash.level["conflicts"] = io::to_json(clash.conflicts);
        const Level kept = level_of(clash.level);
        QCOMPARE(find_item(kept, {"b3"})->brush()->place.at.x, moved.brush()->place.at.x);
        QVERIFY(kept.extra.contains("conflicts"));
        // One by one they are decided.
        QCOMPARE(io::conflicts_of(kept).size(), size_t(1));
        const auto ours = io::with_conflict_decided(kept, 0, false),
                   others = io::with_conflict_decided(kept, 0, true);
        QVERIFY(ours && others && io::conflicts_of(*ours).empty() && io::conflicts_of(*others).empty());
        QVERIFY(*ours == mine);
        QVERIFY(*others == edit::with_changed(base, pushed));
        // Gone on one side, changed on the other.
        const auto gone = io::merged_levels(
            json_of(base), json_of(edit::without(base, std::vector<ItemId>{{"b3"}})), json_of(mine));
        QCOMPARE(gone.conflicts.size(), size_t(1));
        QVERIFY(gone.conflicts[0].keys.empty() && gone.conflicts[0].mine.is_null());
        QVERIFY(!find_item(level_of(gone.level), {"b3"}));
        io::Json with = gone.level;
        with["conflicts"] = io::to_json(gone.conflicts);
        const auto back = io::with_conflict_decided(level_of(with), 0, true);
        QVERIFY(back && find_item(*back, {"b3"}) && *find_item(*back, {"b3"}) == moved);
        // Both put the same thing in.
        Item twin = item;
        twin.id = {"new"};
        const Level added = edit::with_item(base, 0, twin);
        const auto same = io::merged_levels(json_of(base), json_of(added), json_of(added));
        QVERIFY(same.conflicts.empty() && level_of(same.level) == added);
    }

    void what_was_put_into_a_removed_group_brings_it_back() {
        Random random(8);
        const Level base = some_level(random);
        const std::vector<ItemId> group{{"g1"}};
        const Level mine = edit::without(base, group);
        Level theirs = base;
        Item host = *find_item(base, {"g1"});
        std::get<Group>(host.body).items.push_back(ItemPtr(box("new", random)));
        theirs = edit::with_changed(theirs, host);
        const auto merged = io::merged_levels(json_of(base), json_of(mine), json_of(theirs));
        QVERIFY(!merged.conflicts.empty());
        const Level out = level_of(merged.level);
        QVERIFY(find_item(out, {"new"}) && find_item(out, {"g1"}));
    }

    void cells_of_tiles_are_merged_one_by_one() {
        const auto level = [](const char* rows) {
            return *io::parse_json(std::string(R"({"format":1,"name":"T","frame":"side","layers":[{"id":"t",
                "type":"tiles","name":"T","cell_m":1.0,"rows":)") +
                                       rows + "}]}",
                                   "t");
        };
        const auto merged = io::merged_levels(level(R"(["1,1,1","0,0,0"])"), level(R"(["2,1,1","0,0,0"])"),
                                              level(R"(["1,1,3","0,4,0"])"));
        QVERIFY(merged.conflicts.empty());
        QCOMPARE(merged.level["layers"][0]["rows"].dump(), std::string(R"(["2,1,3","0,4,0"])"));
        const auto clash = io::merged_levels(level(R"(["1,1"])"), level(R"(["2,1"])"), level(R"(["3,1"])"));
        QCOMPARE(clash.conflicts.size(), size_t(1));
        QCOMPARE(clash.conflicts[0].id, std::string("t"));
    }

    void random_edits_of_the_same_things_lose_nothing() {
        Random random(9);
        for (int round = 0; round < test::rounds(300); ++round) {
            const Level base = some_level(random);
            Level mine = base, theirs = base;
            for (int i = 0; i < 12; ++i) {
                mine = Edit(random, i % 2)(mine);
                theirs = Edit(random, (i + 1) % 2)(theirs);
            }
            const auto merged = io::merged_levels(json_of(base), json_of(mine), json_of(theirs));
            const Level out = level_of(merged.level);
            std::set<std::string> said;
            for (const auto& conflict : merged.conflicts) said.insert(conflict.id);
            // What a side changed or put in is there, or is told of.
            const auto was = holdings(base), now = holdings(out);
            for (const Level* side : {&mine, &theirs})
                for (const auto& [id, text] : holdings(*side)) {
                    const auto before = was.find(id);
                    if (before != was.end() && before->second == text) continue;
                    QVERIFY2(now.contains(id) || said.contains(id), id.c_str());
                }
        }
    }
};

RUBBLE_TEST(MergeTest)
#include "merge_test.moc"
