#include <QtTest/QtTest>

#include <map>

#include "build/joints.h"
#include "build/piece_body.h"
#include "core/random.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::build;
using test::Random;

namespace {

Item box(int id, const Vec3& low, const Vec3& high, Effect effect) {
    Brush brush;
    brush.effect = effect;
    brush.place.at = {(low.x + high.x) / 2, (low.y + high.y) / 2, low.z};
    brush.size = high - low;
    return {{"b" + std::to_string(id)}, {}, false, std::move(brush), {}};
}

/// An opening in the side of a cell: how wide and high, and how far its middle is to the right of the side's.
struct Opening {
    double wide, high, aside;
};

/// A room of one cell with openings in some of its sides (left, right, near, away), seen from outside; -1:
/// closed.
std::shared_ptr<const Piece> room(int id, const Vec3& module, const std::vector<Opening>& openings,
                                  const std::array<int, 4>& sides, double wall) {
    Piece piece;
    piece.id = "p" + std::to_string(id);
    std::vector<ItemPtr> items;
    int n = 0;
    const auto add = [&](const Vec3& low, const Vec3& high, Effect effect) {
        items.push_back(ItemPtr(box(n++, low, high, effect)));
    };
    add({0, 0, -0.2}, {module.x, module.y, module.z - 0.2}, Effect::fill);
    add({wall, wall, 0}, {module.x - wall, module.y - wall, module.z - 0.2 - wall}, Effect::cut);
    for (int side = 0; side < 4; ++side) {
        if (sides[size_t(side)] < 0) continue;
        const Opening& o = openings[size_t(sides[size_t(side)])];
        // Seen from outside, to the right is -y on the left, +y on the right, +x before and -x behind.
        const double sign = side == 1 || side == 2 ? 1 : -1;
        const double middle = (side < 2 ? module.y : module.x) / 2 + sign * o.aside;
        const double from = side == 0 || side == 2 ? 0 : (side == 1 ? module.x : module.y) - wall - 0.01,
                     to = from + wall + 0.01;
        if (side < 2)
            add({from, middle - o.wide / 2, 0}, {to, middle + o.wide / 2, o.high}, Effect::cut);
        else
            add({middle - o.wide / 2, from, 0}, {middle + o.wide / 2, to, o.high}, Effect::cut);
    }
    piece.items = ItemList(items);
    piece.body = std::make_shared<const PieceBody>(piece_body(piece, {}));
    piece.size_m = piece.body->box.high - piece.body->box.low;
    return std::make_shared<const Piece>(std::move(piece));
}

} // namespace

class JointsTest : public QObject {
    Q_OBJECT
private slots:
    void kinds_of_generated_kits_are_found_right() {
        Random random(23);
        for (int round = 0; round < test::rounds(20); ++round) {
            Kit kit;
            const double side = random.whole(6, 12) * 0.5;
            kit.module_m = {side, side, random.whole(6, 10) * 0.5};
            std::vector<Opening> openings;
            const int kinds = random.whole(1, 4);
            for (int k = 0; k < kinds;
                 ++k) // each wider than the one before by more than anybody would overlook
                openings.push_back({0.8 + 0.35 * k, random.between(1.6, kit.module_m.z - 1),
                                    random.chance(0.3) ? random.between(0.25, 0.5) : 0});
            std::vector<std::array<int, 4>> known;
            const int pieces = random.whole(4, 10);
            for (int i = 0; i < pieces; ++i) {
                std::array<int, 4> sides{};
                for (int& one : sides) one = random.whole(-1, kinds - 1);
                known.push_back(sides);
                kit.pieces.push_back(room(i, kit.module_m, openings, sides, random.between(0.15, 0.4)));
            }
            kit = with_joints_found(std::move(kit));
            std::map<int, std::string> names;
            for (size_t i = 0; i < known.size(); ++i) {
                std::array<std::string, 4> found;
                for (const Joint& joint : kit.pieces[i]->joints) {
                    QVERIFY2(int(joint.side) < 4, "openings up or down");
                    QVERIFY(joint.passage);
                    found[size_t(joint.side)] = joint.kind;
                }
                for (size_t s = 0; s < 4; ++s) {
                    QCOMPARE(found[s].empty(), known[i][s] < 0);
                    if (known[i][s] < 0) continue;
                    const auto [name, fresh] = names.try_emplace(known[i][s], found[s]);
                    QCOMPARE(found[s], name->second);
                }
            }
            std::set<std::string> different;
            for (const auto& [kind, name] : names) QVERIFY(different.insert(name).second);
            for (const auto& [kind, name] : names) {
                // Side by side each is the other's mirror image.
                const bool even = openings[size_t(kind)].aside == 0;
                QCOMPARE(joints_fit(name, name), even);
            }
        }
    }

    void what_was_put_right_by_hand_stays_and_gives_its_name() {
        Kit kit;
        kit.module_m = {5, 5, 4};
        const std::vector<Opening> openings{{2, 2.5, 0}};
        kit.pieces = {room(0, kit.module_m, openings, {0, 0, -1, -1}, 0.2),
                      room(1, kit.module_m, openings, {0, -1, 0, -1}, 0.3)};
        Piece by_hand = *kit.pieces[0];
        by_hand.joints = {{{0, 0, 0}, ModuleSide::left, "hall", true}};
        by_hand.joints_by_hand = true;
        kit.pieces[0] = std::make_shared<const Piece>(by_hand);
        kit = with_joints_found(std::move(kit));
        QCOMPARE(kit.pieces[0]->joints.size(), size_t(1));
        QCOMPARE(kit.pieces[1]->joints.size(), size_t(2));
        for (const Joint& joint : kit.pieces[1]->joints) QCOMPARE(joint.kind, std::string("hall"));
    }
};

RUBBLE_TEST(JointsTest)
#include "joints_test.moc"
