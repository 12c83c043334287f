#include <QtTest/QtTest>

#include "build/joints.h"
#include "build/piece_body.h"
#include "core/random.h"
#include "edit/chance.h"
#include "edit/items.h"
#include "edit/kits.h"
#include "edit/pieces.h"
#include "edit/project.h"
#include "io/assembly_file.h"
#include "io/item_file.h"
#include "io/kit_file.h"
#include "io/values_text.h"
#include "test_program.h"

using namespace rubble;
using test::Random;

namespace {

ItemPtr brush_box(const char* id, const Vec3& low, const Vec3& size, Effect effect = Effect::fill) {
    Brush brush;
    brush.place.at = low + Vec3(size.x / 2, size.y / 2, 0), brush.size = size, brush.effect = effect;
    return ItemPtr(Item{{id}, {}, false, std::move(brush), {}});
}

Level level_with(const std::vector<ItemPtr>& items) {
    Layer layer;
    layer.id = {"l"}, layer.items = ItemList(items);
    Level level;
    level.layers.push_back(std::move(layer));
    return level;
}

Kit made(Kit kit) { return build::with_joints_found(build::with_brush_bodies(std::move(kit))); }

/// A passage of one module with its low corner at a place, open to the left and the right.
std::vector<ItemPtr> passage(const Vec3& low) {
    return {brush_box("shell", low - Vec3(0, 0, 0.2), {5, 5, 4}),
            brush_box("room", low + Vec3(0, 0.25, 0), {5, 4.5, 3.5}, Effect::cut)};
}

} // namespace

/// Kits as they are edited: pieces made of brushes, their places on the module, and places of chance.
class KitsTest : public QObject {
    Q_OBJECT

private slots:
    void brushes_become_a_piece_where_they_stand() {
        Kit kit;
        kit.file = "kit";
        for (const Vec3& low : {Vec3(0), Vec3(10, -5, 4), Vec3(-15, 20, 8)}) {
            const Level level = level_with(passage(low));
            auto piece = edit::piece_of_brushes(kit, level, {{"shell"}, {"room"}}, "Straight way");
            QVERIFY(piece);
            QCOMPARE(piece->piece.id, std::string("straight_way"));
            QCOMPARE(piece->place.at, low + Vec3(2.5, 2.5, 0));
            QCOMPARE(piece->piece.seat, PieceSeat::cell);
            const Kit with = made(edit::with_piece(kit, piece->piece));
            const auto now = with.piece("straight_way");
            QVERIFY(now->body);
            QCOMPARE(now->joints.size(), size_t(2));
            PlacedPiece placed;
            placed.kit_file = "kit", placed.piece_id = now->id, placed.piece = now;
            placed.place = piece->place;
            QCOMPARE(edit::off_module(with, placed), Vec3(0));
            const Box3 box = box_of(placed);
            QVERIFY(glm::length(box.low - (low - Vec3(0, 0, 0.2))) < 1e-6);
            QVERIFY(glm::length(box.high - (low + Vec3(5, 5, 3.8))) < 1e-6);
        }
    }

    void thin_brushes_sit_on_edges_and_corners() {
        Kit kit;
        const auto seat_of = [&](const Vec3& size) {
            const Level level = level_with({brush_box("b", {0, 0, 0}, size)});
            return edit::piece_of_brushes(kit, level, {{"b"}}, "P")->piece.seat;
        };
        QCOMPARE(seat_of({5, 0.3, 4}), PieceSeat::edge);
        QCOMPARE(seat_of({0.3, 5, 4}), PieceSeat::edge);
        QCOMPARE(seat_of({0.4, 0.4, 4}), PieceSeat::corner);
        QCOMPARE(seat_of({5, 5, 0.2}), PieceSeat::cell);
        QVERIFY(!edit::piece_of_brushes(kit, level_with({}), {{"b"}}, "P"));
        const Level cut = level_with({brush_box("b", {0, 0, 0}, {1, 1, 1}, Effect::cut)});
        QVERIFY(!edit::piece_of_brushes(kit, cut, {{"b"}}, "P"));
    }

    /// What is changed of a piece that is open by itself changes where it stands, and is undone with it.
    void a_piece_opened_by_itself_is_followed() {
        Kit kit;
        kit.file = "kit";
        const Level level = level_with(passage(Vec3(0)));
        const auto piece = edit::piece_of_brushes(kit, level, {{"shell"}, {"room"}}, "Way");
        kit = made(edit::with_piece(kit, piece->piece));
        PlacedPiece placed;
        placed.kit_file = "kit", placed.piece_id = "way", placed.place.at = {2.5, 2.5, 0};
        Document document;
        document.project = Shared<Project>(edit::with_kit(Project{}, kit));
        Level stands = level_with({ItemPtr(Item{{"p1"}, {}, false, placed, {}})});
        document.levels.push_back({"a", Shared<Level>(with_files_of(*document.project, std::move(stands)))});
        OpenLevel open;
        open.level = Shared<Level>(edit::level_of(kit, *kit.piece("way"), Level{}));
        open.kit = "kit", open.piece = "way";
        document.levels.push_back(open);
        // A wall is put in at the right: one joint is left.
        Document next = document;
        Level edited = edit::with_item(*open.level, 0, *brush_box("wall", {2.25, -2.5, -0.2}, {0.25, 5, 4}));
        next = edit::with_level(next, 1, edited);
        next = edit::with_pieces_followed(document, next, made);
        const auto now = find_kit(*next.project, "kit")->piece("way");
        QCOMPARE(now->items.size(), size_t(3));
        QCOMPARE(now->joints.size(), size_t(1));
        QCOMPARE(find_item(*next.levels[0].level, {"p1"})->piece()->piece, now);
        // The other way round: a piece changed elsewhere is shown so where it is open.
        Document again = next;
        again.project = document.project;
        again = edit::with_pieces_followed(next, again, made);
        QCOMPARE(again.levels[1].level->layers[0]->items.size(), size_t(2));
        // Nothing is no piece: it stays as it was.
        Document emptied = edit::with_level(
            next, 1, edit::without(edited, std::vector<ItemId>{{"wall"}, {"shell"}, {"room"}}));
        emptied = edit::with_pieces_followed(next, emptied, made);
        QCOMPARE(find_kit(*emptied.project, "kit")->piece("way")->items.size(), size_t(3));
    }

    void pieces_are_put_onto_the_module_from_anywhere() {
        Random random(1603);
        Kit kit;
        kit.file = "kit";
        const Level level = level_with(passage(Vec3(0)));
        kit = made(
            edit::with_piece(kit, edit::piece_of_brushes(kit, level, {{"shell"}, {"room"}}, "Way")->piece));
        const Level wall = level_with({brush_box("b", {0, -0.1, 0}, {5, 0.2, 4})});
        kit = made(edit::with_piece(kit, edit::piece_of_brushes(kit, wall, {{"b"}}, "Wall")->piece));
        for (int round = 0; round < test::rounds(2000); ++round) {
            PlacedPiece placed;
            placed.piece_id = random.chance(0.5) ? "way" : "wall", placed.piece = kit.piece(placed.piece_id);
            placed.place.at = {random.between(-80, 80), random.between(-80, 80), random.between(-20, 20)};
            placed.place.turn_deg = 90.0 * random.whole(-1, 2);
            placed.mirrored = random.chance(0.5);
            const PlacedPiece on = edit::on_module(kit, placed);
            const Vec3 moved = glm::abs(on.place.at - placed.place.at);
            QVERIFY(moved.x <= 2.5 + 1e-5 && moved.y <= 2.5 + 1e-5 && moved.z <= 2 + 1e-5);
            QVERIFY(glm::length(edit::off_module(kit, on)) < 1e-5);
            QVERIFY(glm::length(edit::on_module(kit, on).place.at - on.place.at) < 1e-5);
            const PlacedPiece half = edit::on_module(kit, placed, 0.5);
            const Vec3 by = glm::abs(half.place.at - placed.place.at);
            QVERIFY(by.x <= 1.25 + 1e-5 && by.y <= 1.25 + 1e-5 && by.z <= 1 + 1e-5);
        }
    }

    /// With an overlap its walls reach so far through the sides that lead on, and its opening with them.
    void brushes_reach_into_their_neighbours_by_a_number() {
        Kit kit;
        const Level level = level_with(passage(Vec3(0)));
        kit = made(
            edit::with_piece(kit, edit::piece_of_brushes(kit, level, {{"shell"}, {"room"}}, "Way")->piece));
        Piece piece = *kit.piece("way");
        const double matter = piece.body->matter_m3;
        const auto joints = piece.joints;
        piece.overlap_m = 0.25, piece.body = nullptr;
        const Kit wider = made(edit::with_piece(kit, piece));
        const Piece& now = *wider.piece("way");
        QVERIFY(glm::length(now.body->box.low - Vec3(-2.75, -2.5, -0.2)) < 1e-6);
        QVERIFY(glm::length(now.body->box.high - Vec3(2.75, 2.5, 3.8)) < 1e-6);
        QVERIFY(std::abs(now.body->matter_m3 - matter * 5.5 / 5) < 1e-6); // the same section, longer
        QVERIFY(now.joints == joints);
        QCOMPARE(now.items, piece.items); // what is edited stays as it was drawn
    }

    void values_are_typed_in_lines() {
        const Extra values =
            io::values_from_text("dark\n speed = 2.5 \nname = Winch, old\n=3\nlit = false\ncode=\"7\"\n");
        QCOMPARE(values, (Extra{{"dark", "true"},
                                {"speed", "2.5"},
                                {"name", "\"Winch, old\""},
                                {"lit", "false"},
                                {"code", "\"7\""}}));
        QVERIFY(io::values_from_text(io::text_of_values({{"a", "1"}, {"b", "\"x = y\""}})) ==
                (Extra{{"a", "1"}, {"b", "\"x = y\""}}));
    }
};

RUBBLE_TEST(KitsTest)
#include "kits_test.moc"
