#include <QtTest/QtTest>

#include "core/io/json_schema.h"
#include "core/random.h"
#include "edit/assemblies.h"
#include "edit/items.h"
#include "io/assembly_file.h"
#include "level/assemblies/resolved.h"
#include "test_program.h"

using namespace rubble;
using test::Random;

namespace {

Item box(const char* id, const Vec3& at, const Vec3& size) {
    Brush brush;
    brush.place.at = at, brush.size = size;
    return {{id}, id, false, std::move(brush), {}};
}

Assembly original(const char* file, const char* name, std::vector<ItemPtr> items) {
    Assembly out;
    out.file = file, out.name = name, out.items = ItemList(items);
    return out;
}

ItemPtr place(const char* id, const char* source, const Vec3& at) {
    PlacedAssembly placed;
    placed.source = source, placed.place.at = at;
    return ItemPtr(Item{{id}, {}, false, std::move(placed), {}});
}

/// A winch in a hoist in a bay.
Project nested() {
    Project project;
    project = edit::with_assembly(project,
                                  original("winch", "Winch", {ItemPtr(box("drum", {0, 0, 0}, {1, 1, 1}))}));
    project = edit::with_assembly(
        project, original("hoist", "Hoist",
                          {place("w", "winch", {0, 0, 3}), ItemPtr(box("mast", {0, 0, 0}, {0.5, 0.5, 3}))}));
    project = edit::with_assembly(
        project,
        original("bay", "Bay", {place("left", "hoist", {-3, 0, 0}), place("right", "hoist", {3, 0, 0})}));
    return project;
}

Level level_with(const Project& project, const char* source, const Vec3& at, double turn_deg, ItemId& id) {
    Level level;
    Layer layer;
    layer.id = {"l"};
    level.layers.push_back(std::move(layer));
    return edit::with_placed(project, level, 0, source, at, turn_deg, id);
}

const Brush& brush_at(const Level& level, const std::string& id) { return *find_item(level, {id})->brush(); }

} // namespace

class AssembliesTest : public QObject {
    Q_OBJECT
private slots:
    /// A derived one that is opened by itself: what is changed is its own, what is put in is added, what is
    /// taken out is left out; each can be given back, or passed up.
    void a_derived_one_is_edited_by_itself() {
        Project project = nested();
        Assembly heavy = edit::derived(*find_assembly(project, "hoist"), "Heavy", "heavy");
        project = edit::with_assembly(project, heavy);
        Document document;
        document.project = Shared<Project>(project);
        OpenLevel open;
        open.level = Shared<Level>(edit::level_of(*find_assembly(project, "heavy"), Level{}));
        open.assembly = "heavy";
        document.levels.push_back(open);
        Level level = *open.level;
        Item mast = *find_item(level, {"mast"});
        std::get<Brush>(mast.body).size.z = 5;
        level = edit::with_changed(level, mast);
        level = edit::with_item(level, 0, box("weight", {2, 0, 0}, {1, 1, 1}));
        level = edit::without(level, std::vector<ItemId>{{"w"}});
        Document next = document;
        next.levels[0].level = Shared<Level>(level);
        next = edit::with_assemblies_followed(document, next);
        const auto now = find_assembly(*next.project, "heavy");
        QCOMPARE(now->own.size(), size_t(2));
        QCOMPARE(now->own.at("mast").size, std::optional(Vec3(0.5, 0.5, 5)));
        QVERIFY(now->own.at("w").left_out);
        QCOMPARE(now->added.size(), size_t(1));
        QCOMPARE(now->resolved.size(), size_t(2));
        QCOMPARE(find_assembly(*next.project, "hoist")->resolved.size(), size_t(2)); // it stays as it was
        const Project back = edit::with_own_given_back(*next.project, "heavy", "w");
        QCOMPARE(find_assembly(back, "heavy")->resolved.size(), size_t(3));
        const Project up = edit::with_own_given_back(back, "heavy", "mast", true);
        QVERIFY(find_assembly(up, "heavy")->own.empty());
        for (const char* file : {"hoist", "heavy"})
            for (const ItemPtr& item : find_assembly(up, file)->resolved)
                if (item->id.value == "mast") QCOMPARE(item->brush()->size.z, 5.0);
    }

    /// A place with an assembly of its own follows the other one no longer.
    void a_place_is_made_independent() {
        Project project = nested();
        ItemId id;
        Level level = level_with(project, "hoist", {5, 0, 0}, 90, id);
        OwnById own;
        own["mast"].size = Vec3(0.5, 0.5, 7);
        level = edit::with_own(level, id, own);
        const auto made = edit::made_independent(project, level, id, "Alone", "alone");
        const PlacedAssembly& placed = *find_item(made.level, id)->assembly();
        QCOMPARE(placed.source, std::string("alone"));
        QVERIFY(placed.own.empty());
        QCOMPARE(brush_at(made.level, id.value + "/mast").size.z, 7.0);
        Assembly changed = *find_assembly(made.project, "hoist");
        changed.items = ItemList{ItemPtr(box("mast", {0, 0, 0}, {1, 1, 1}))};
        const Level after = with_files_of(edit::with_assembly(made.project, changed), made.level);
        QCOMPARE(brush_at(after, id.value + "/mast").size.z, 7.0);
    }

    void what_is_nested_stands_where_all_places_bring_it() {
        const Project project = nested();
        ItemId id;
        const Level level = level_with(project, "bay", {10, 0, 0}, 90, id);
        const std::string drum = id.value + "/right/w/drum";
        QVERIFY(find_item(level, {drum}));
        QVERIFY(glm::length(brush_at(level, drum).place.at - Vec3(10, 3, 3)) < 1e-9);
        size_t brushes = 0;
        for_each_item(level, [&](const Item& item, const Layer&) { brushes += item.brush() != nullptr; });
        QCOMPARE(brushes, size_t(4));
    }

    void changed_once_it_is_changed_everywhere() {
        Project project = nested();
        ItemId id;
        Level level = level_with(project, "bay", {0, 0, 0}, 0, id);
        Assembly winch = *find_assembly(project, "winch");
        winch.items = ItemList({ItemPtr(box("drum", {0, 0, 0}, {2, 1, 1}))});
        project = edit::with_assembly(project, winch);
        level = with_files_of(project, level);
        for (const char* side : {"left", "right"})
            QCOMPARE(brush_at(level, id.value + "/" + side + "/w/drum").size.x, 2.0);
    }

    void own_values_of_a_place_stay_when_the_original_changes() {
        Project project = nested();
        ItemId id;
        Level level = level_with(project, "bay", {1, 2, 0}, 180, id);
        // An edit of what is in the place becomes its own value, in the original's axes.
        const std::string drum = id.value + "/left/w/drum", mast = id.value + "/right/mast";
        Item changed = *find_item(level, {drum});
        std::get<Brush>(changed.body).size = {3, 3, 3};
        std::get<Brush>(changed.body).place.at += Vec3(0.5, 0, 0);
        Level edited = edit::with_changed(level, changed);
        edited = edit::with_own_values_followed(level, edited);
        const std::array ids{ItemId{mast}};
        edited = edit::with_own_values_followed(edited, edit::without(edited, ids));
        const PlacedAssembly& bay = *find_item(edited, id)->assembly();
        QCOMPARE(bay.own.size(), size_t(2));
        QVERIFY(bay.own.at("left/w/drum").size == Vec3(3, 3, 3));
        QVERIFY(bay.own.at("right/mast").left_out);
        QVERIFY(!find_item(edited, {mast}));
        Assembly hoist = *find_assembly(project, "hoist");
        hoist.items =
            ItemList({place("w", "winch", {0, 0, 5}), ItemPtr(box("mast", {0, 0, 0}, {0.5, 0.5, 5}))});
        project = edit::with_assembly(project, hoist);
        edited = with_files_of(project, edited);
        QCOMPARE(brush_at(edited, drum).size.x, 3.0);                    // its own
        QCOMPARE(brush_at(edited, id.value + "/left/mast").size.z, 5.0); // the original's
        QVERIFY(!find_item(edited, {mast}));
        // Given back, it follows again.
        edited = edit::with_own(edited, id, {});
        QCOMPARE(brush_at(edited, drum).size.x, 1.0);
        QVERIFY(find_item(edited, {mast}));
    }

    void derived_ones_follow_but_for_their_own_values() {
        Project project = nested();
        OwnById own;
        own["drum"].size = Vec3(2, 2, 2);
        project = edit::with_assembly(
            project, edit::derived(*find_assembly(project, "winch"), "Heavy winch", "heavy", own));
        ItemId id;
        Level level = level_with(project, "heavy", {0, 0, 0}, 0, id);
        QCOMPARE(brush_at(level, id.value + "/drum").size.x, 2.0);
        Assembly winch = *find_assembly(project, "winch");
        winch.items = ItemList(
            {ItemPtr(box("drum", {0, 0, 1}, {1, 1, 1})), ItemPtr(box("rope", {0, 0, 0}, {0.1, 0.1, 1}))});
        project = edit::with_assembly(project, winch);
        level = with_files_of(project, level);
        QCOMPARE(brush_at(level, id.value + "/drum").size.x, 2.0);
        QCOMPARE(brush_at(level, id.value + "/drum").place.at.z, 1.0);
        QVERIFY(find_item(level, {id.value + "/rope"}));
    }

    void rings_are_told_with_their_chain() {
        Project project = nested();
        const auto chain = ring_through(project, "winch", "bay");
        QCOMPARE(chain, (std::vector<std::string>{"Winch", "Bay", "Hoist", "Winch"}));
        QVERIFY(ring_through(project, "bay", "winch").empty());
        Assembly winch = *find_assembly(project, "winch");
        winch.items.push_back(place("b", "bay", {0, 0, 0}));
        project = edit::with_assembly(project, winch);
        QVERIFY(!find_assembly(project, "winch")->flaw.empty());
        QVERIFY(find_assembly(project, "winch")->resolved.empty());
    }

    void a_selection_becomes_one_and_plain_items_again() {
        Project project;
        project.grid_m = 0.5;
        Level level;
        Layer layer;
        layer.id = {"l"};
        layer.items =
            ItemList({ItemPtr(box("a", {4, 4, 1}, {1, 1, 1})), ItemPtr(box("b", {6, 4, 1}, {1, 1, 2}))});
        level.layers.push_back(std::move(layer));
        const auto made =
            edit::made_assembly(project, level, {{"a"}, {"b"}}, "Pair", "assemblies/pair.assembly.json");
        QVERIFY(!made.id.empty());
        QVERIFY(glm::length(brush_at(made.level, made.id.value + "/b").place.at - Vec3(6, 4, 1)) < 1e-9);
        const std::array ids{made.id};
        const Level plain = edit::as_plain_items(made.level, {made.id});
        QVERIFY(find_item(plain, made.id)->group());
        QCOMPARE(find_item(plain, made.id)->group()->items.size(), size_t(2));
        const auto copies = edit::duplicated(made.level, ids, {10, 0, 0});
        QCOMPARE(copies.ids.size(), size_t(1));
        QVERIFY(glm::length(brush_at(copies.level, copies.ids[0].value + "/b").place.at - Vec3(16, 4, 1)) <
                1e-9);
    }

    void files_say_what_they_hold() {
        Project project = nested();
        Assembly heavy = edit::derived(*find_assembly(project, "winch"), "Heavy", "heavy");
        heavy.own["drum"].size = Vec3(2, 2, 2);
        heavy.own["drum"].values["load"] = "5";
        heavy.added = ItemList({ItemPtr(box("weight", {0, 0, 0}, {1, 1, 1}))});
        for (const Assembly& one : {*find_assembly(project, "bay"), heavy}) {
            const std::string text = io::text_of(one);
            const auto again = io::assembly_from_text(text, "assembly");
            QVERIFY2(again, again ? "" : again.error().text().c_str());
            QCOMPARE(io::text_of(*again), text);
            QCOMPARE(again->own, one.own);
            QCOMPARE(test::schema_problems("assembly.schema.json", {io::Json::parse(text)}), QStringList(""));
        }
        QVERIFY(!io::assembly_from_text(R"({"format":1,"items":[{"id":"a/b","type":"brush"}]})", "x"));
    }

    void random_transforms_and_own_values_come_back() {
        Random random(5);
        const Project project = nested();
        for (int round = 0; round < test::rounds(100); ++round) {
            ItemId id;
            Level level = level_with(project, "bay", {random.between(-5, 5), random.between(-5, 5), 0},
                                     random.whole(0, 3) * 90, id);
            const std::array ids{id};
            for (int i = 0; i < 3; ++i) {
                const Vec3 about(random.between(-3, 3), random.between(-3, 3), 0);
                const int kind = random.whole(0, 2);
                level = edit::transformed(
                    level, ids,
                    kind == 0   ? Transform::moving(about)
                    : kind == 1 ? Transform::turning(about, random.whole(1, 7) * 15)
                                : Transform::mirroring({random.whole(0, 1), random.between(-2, 2)}));
            }
            // Moved along, its members are where its place brings them.
            const PlacedAssembly placed = *find_item(level, id)->assembly();
            const ItemList anew = members_at(id, placed);
            QCOMPARE(anew.size(), placed.members.size());
            for (size_t i = 0; i < anew.size(); ++i)
                QVERIFY(glm::length(box_of(*anew[i]).middle() - box_of(*placed.members[i]).middle()) < 1e-6);
        }
    }
};

RUBBLE_TEST(AssembliesTest)
#include "assemblies_test.moc"
