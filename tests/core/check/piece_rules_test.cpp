#include <QtTest/QtTest>

#include "build/joints.h"
#include "build/piece_body.h"
#include "check/check.h"
#include "edit/items.h"
#include "edit/kits.h"
#include "edit/pieces.h"
#include "io/project_file.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::check;

namespace {

ItemPtr body_box(int id, const Vec3& low, const Vec3& high, Effect effect = Effect::fill,
                 const char* material = "") {
    Brush brush;
    brush.effect = effect, brush.material = {material};
    brush.place.at = {(low.x + high.x) / 2, (low.y + high.y) / 2, low.z};
    brush.size = high - low;
    return ItemPtr(Item{{"b" + std::to_string(id)}, {}, false, std::move(brush), {}});
}

/// A passage of one module about its middle, open to the sides named (l, r, n, a), its floor at a height.
std::shared_ptr<const rubble::Piece> passage(const char* id, const std::string& open, double floor = 0,
                                             double wide = 4.5) {
    rubble::Piece piece;
    piece.id = id, piece.name = id;
    const double w = wide / 2;
    std::vector<ItemPtr> items{body_box(0, {-2.5, -2.5, -0.2}, {2.5, 2.5, 3.8}),
                               body_box(1, {-w, -w, floor}, {w, w, 3.5}, Effect::cut)};
    for (const char side : open) {
        Vec3 low(-w, -w, floor), high(w, w, 3.5);
        (side == 'l'   ? low.x
         : side == 'n' ? low.y
         : side == 'r' ? high.x
                       : high.y) = side == 'l' || side == 'n' ? -2.5 : 2.5;
        items.push_back(body_box(int(items.size()), low, high, Effect::cut));
    }
    piece.items = ItemList(items);
    return std::make_shared<const rubble::Piece>(std::move(piece));
}

std::shared_ptr<const rubble::Piece> plain(const char* id, const Vec3& low, const Vec3& high, PieceSeat seat,
                                           const char* material = "") {
    rubble::Piece piece;
    piece.id = id, piece.name = id, piece.seat = seat;
    piece.items = ItemList{body_box(0, low, high, Effect::fill, material)};
    return std::make_shared<const rubble::Piece>(std::move(piece));
}

Kit kit_of(std::vector<std::shared_ptr<const rubble::Piece>> pieces) {
    Kit kit;
    kit.file = "kit", kit.pieces = std::move(pieces);
    return build::with_joints_found(build::with_brush_bodies(std::move(kit)));
}

struct Stands {
    const char* piece;
    Vec3 at;
    double turn_deg = 0;
    std::optional<PieceCollisionKind> collision = {};
};

/// The rules of kits that a level of these pieces breaks, each once, in order.
QStringList broken(const Kit& kit, const std::vector<Stands>& pieces) {
    Project project = edit::with_kit(io::new_project("Rules"), kit);
    Layer layer;
    layer.id = {"l"};
    Level level;
    level.layers.push_back(std::move(layer));
    level.character = project.characters[0].id;
    int n = 0;
    for (const Stands& one : pieces) {
        PlacedPiece placed;
        placed.kit_file = "kit", placed.piece_id = one.piece;
        placed.place = {one.at, one.turn_deg, {}}, placed.collision = one.collision;
        level = edit::with_item(level, 0, {{"p" + std::to_string(++n)}, {}, false, std::move(placed), {}});
    }
    level = with_files_of(project, std::move(level));
    CheckOptions options;
    options.explain = options.mends = false;
    std::set<std::string> keys;
    for (const Finding& finding : check_level(project, level, options).findings) {
        const std::string key = rule_of(finding.rule).key;
        if (key.starts_with("piece.") || key.starts_with("joint.")) keys.insert(key);
    }
    QStringList out;
    for (const std::string& key : keys) out << QString::fromStdString(key);
    return out;
}

} // namespace

/// Each rule of kits just within and just outside what it allows, and levels that are as they should be.
class PieceRulesTest : public QObject {
    Q_OBJECT

    const Kit kit_ = kit_of({passage("way", "lr"), passage("end", "l"), passage("high", "lr", 0.5),
                             passage("low_step", "lr", 0.35), passage("slim", "lr", 0, 3),
                             plain("wall", {-2.5, -0.1, 0}, {2.5, 0.1, 4}, PieceSeat::edge),
                             plain("post", {-0.2, -0.2, 0}, {0.2, 0.2, 4}, PieceSeat::corner),
                             plain("crate", {-0.5, -0.5, 0}, {0.5, 0.5, 1}, PieceSeat::free)});
    /// A way of three cells, closed at both ends.
    const std::vector<Stands> closed_{
        {"end", {2.5, 2.5, 0}, 180}, {"way", {7.5, 2.5, 0}}, {"end", {12.5, 2.5, 0}}};

    std::vector<Stands> with(size_t i, const Stands& other) const {
        auto out = closed_;
        out[i] = other;
        return out;
    }

private slots:
    void what_is_as_it_should_be_is_said_nothing_of() {
        QCOMPARE(broken(kit_, closed_), QStringList());
        QCOMPARE(broken(kit_, {{"wall", {2.5, 0, 0}}, {"wall", {7.5, 0, 0}}}), QStringList());
        QCOMPARE(broken(kit_, {{"crate", {2.3, 1.1, 0}}}), QStringList());
        auto furnished = closed_;
        furnished.push_back({"crate", {7.5, 2.5, 0}}); // stands in a room, not in its place
        QCOMPARE(broken(kit_, furnished), QStringList());
    }

    void a_piece_off_its_module() {
        QCOMPARE(broken(kit_, with(1, {"way", {7.5, 2.5 + 5e-6, 0}})), QStringList());
        QCOMPARE(broken(kit_, {{"wall", {2.5, 0.01, 0}}}), QStringList{"piece.off_module"});
    }

    void a_piece_that_cannot_be_read() {
        QCOMPARE(broken(kit_, {{"tower", {2.5, 2.5, 0}}}), QStringList{"piece.missing"});
    }

    void two_pieces_in_one_place() {
        QCOMPARE(broken(kit_, {{"wall", {2.5, 0, 0}}, {"wall", {2.5, 0, 0}}}),
                 QStringList{"piece.same_place"});
        // Less than half of them is shared.
        QVERIFY(!broken(kit_, {{"crate", {0, 0, 0}}, {"crate", {0.51, 0, 0}}}).contains("piece.same_place"));
        QVERIFY(broken(kit_, {{"crate", {0, 0, 0}}, {"crate", {0.49, 0, 0}}}).contains("piece.same_place"));
    }

    void open_joints_and_such_that_do_not_fit() {
        QCOMPARE(broken(kit_, with(2, {"crate", {12.5, 2.5, 0}})), QStringList{"joint.open"});
        QVERIFY(broken(kit_, with(1, {"slim", {7.5, 2.5, 0}})).contains("joint.mismatch"));
        // Turned by a quarter its openings look at closed sides, and theirs at its closed sides.
        QVERIFY(broken(kit_, with(1, {"way", {7.5, 2.5, 0}, 90})).contains("joint.open"));
    }

    void gaps_and_overlaps_across_joints() {
        QVERIFY(!broken(kit_, with(2, {"end", {12.503, 2.5, 0}})).contains("joint.gap"));
        QVERIFY(broken(kit_, with(2, {"end", {12.52, 2.5, 0}})).contains("joint.gap"));
        QVERIFY(broken(kit_, with(2, {"end", {12.45, 2.5, 0}})).contains("joint.gap"));
        QVERIFY(broken(kit_, with(2, {"end", {12.5, 2.6, 0}})).contains("joint.gap"));
        // As far as both say that they reach into each other.
        Kit overlapping = kit_;
        for (const char* id : {"way", "end"}) {
            rubble::Piece piece = *overlapping.piece(id);
            piece.overlap_m = 0.03;
            overlapping = edit::with_piece(overlapping, piece);
        }
        QVERIFY(!broken(overlapping, with(2, {"end", {12.45, 2.5, 0}})).contains("joint.gap"));
        QVERIFY(broken(overlapping, with(2, {"end", {12.43, 2.5, 0}})).contains("joint.gap"));
    }

    /// Of one kind, their floors at different heights: the kinds were put right by hand.
    void a_step_across_a_joint() {
        Kit kit = kit_;
        for (const char* id : {"way", "end", "high", "low_step"}) {
            rubble::Piece piece = *kit.piece(id);
            for (Joint& joint : piece.joints) joint.kind = "hall";
            piece.joints_by_hand = true;
            kit = edit::with_piece(kit, piece);
        }
        QCOMPARE(broken(kit, with(1, {"low_step", {7.5, 2.5, 0}})), QStringList());
        QCOMPARE(broken(kit, with(1, {"high", {7.5, 2.5, 0}})), QStringList{"joint.step"});
    }

    void an_opening_that_is_closed() {
        QCOMPARE(broken(kit_, with(1, {"way", {7.5, 2.5, 0}, 0, PieceCollisionKind::box})),
                 QStringList{"piece.opening_closed"});
        QCOMPARE(broken(kit_, with(1, {"way", {7.5, 2.5, 0}, 0, PieceCollisionKind::none})), QStringList());
    }

    void a_corner_that_is_left_rough() {
        const std::vector<Stands> corner{{"wall", {2.5, 0, 0}}, {"wall", {0, 2.5, 0}, 90}};
        QCOMPARE(broken(kit_, corner), QStringList{"piece.rough_corner"});
        auto covered = corner;
        covered.push_back({"post", {0, 0, 0}});
        QCOMPARE(broken(kit_, covered), QStringList());
        auto elsewhere = corner;
        elsewhere.push_back({"post", {5, 0, 0}});
        QCOMPARE(broken(kit_, elsewhere), QStringList{"piece.rough_corner"});
        // A kit without corner pieces leaves its corners as they are.
        const Kit without = kit_of({plain("wall", {-2.5, -0.1, 0}, {2.5, 0.1, 4}, PieceSeat::edge)});
        QCOMPARE(broken(without, corner), QStringList());
    }

    void faces_that_flicker() {
        const Kit kit = kit_of({plain("slab", {-1, -1, 0}, {1, 1, 1}, PieceSeat::free, "brick"),
                                plain("cap", {-0.5, -0.5, 0}, {0.5, 0.5, 1}, PieceSeat::free, "steel")});
        // Their tops lie in one plane.
        QCOMPARE(broken(kit, {{"slab", {0, 0, 0}}, {"cap", {1, 0, 0}}}), QStringList{"piece.flicker"});
        QCOMPARE(broken(kit, {{"slab", {0, 0, 0}}, {"cap", {1, 0, 0.002}}}), QStringList());
        QCOMPARE(broken(kit, {{"slab", {0, 0, 0}}, {"cap", {1, 0.5, 0.002}}}),
                 QStringList{"piece.flicker"}); // their sides do
        QCOMPARE(broken(kit, {{"slab", {0, 0, 0}}, {"cap", {0, 0, 0.5}}}), QStringList());
        QCOMPARE(broken(kit, {{"slab", {0, 0, 0}}, {"cap", {1.5, 0, 0}}}),
                 QStringList()); // beside each other
        QCOMPARE(broken(kit, {{"slab", {0, 0, 0}}, {"slab", {1.5, 0, 0}}}), QStringList()); // of one material
    }
};

RUBBLE_TEST(PieceRulesTest)
#include "piece_rules_test.moc"
