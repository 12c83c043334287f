#include <QtTest/QtTest>

#include "build/piece_body.h"
#include "build/solid_builder.h"
#include "core/random.h"
#include "level/kits/placed_piece.h"
#include "motion/step.h"
#include "motion/sweep.h"
#include "motion/world.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::motion;
using test::Random;

namespace {

/// Ground without a lower side: a net of triangles over n × n squares with random heights.
Model net(Random& random, int n, double across, double rough) {
    Model model;
    model.nodes = {"net"};
    model.parts.emplace_back();
    ModelPart& part = model.parts[0];
    for (int i = 0; i <= n; ++i)
        for (int k = 0; k <= n; ++k)
            part.points.push_back({across * i / n, across * k / n, random.between(0, rough)});
    for (uint32_t i = 0; i < uint32_t(n); ++i)
        for (uint32_t k = 0; k < uint32_t(n); ++k) {
            const uint32_t a = i * uint32_t(n + 1) + k, b = a + uint32_t(n + 1);
            part.triangles.push_back({a, b, a + 1});
            part.triangles.push_back({b, b + 1, a + 1});
        }
    return model;
}

/// The height of such a net at a place.
double height_at(const Model& model, Vec2 at) {
    const ModelPart& part = model.parts[0];
    for (const auto& t : part.triangles) {
        const Vec3 &a = part.points[t[0]], &b = part.points[t[1]], &c = part.points[t[2]];
        const auto cross = [](Vec2 u, Vec2 v) { return u.x * v.y - u.y * v.x; };
        const double area = cross(flat(b - a), flat(c - a));
        const double v = cross(at - flat(a), flat(c - a)) / area, w = cross(flat(b - a), at - flat(a)) / area;
        if (v >= -1e-9 && w >= -1e-9 && v + w <= 1 + 1e-9) return a.z + v * (b.z - a.z) + w * (c.z - a.z);
    }
    return -1e9;
}

} // namespace

/// Pieces of kits as the figure meets them.
class PieceMotionTest : public QObject {
    Q_OBJECT

private slots:
    /// Faces that close nothing hold what is dropped on them, wherever that is, at their own height.
    void open_faces_hold_what_falls_on_them() {
        Random random(1604);
        for (int round = 0; round < test::rounds(40); ++round) {
            Piece piece;
            piece.id = "net", piece.file = "net.obj", piece.y_up = false;
            piece.collision.thickness_m = random.between(0.02, 0.3);
            // Steeper ridges have slabs that reach through the faces beyond, which hold too, but higher.
            const int squares = random.whole(1, 8);
            const double across = random.between(2, 12), rough = random.between(0, 0.4) * across / squares;
            const Model model = net(random, squares, across, rough);
            piece.body = std::make_shared<const PieceBody>(build::piece_body(piece, model));
            PlacedPiece placed;
            placed.piece = std::make_shared<const Piece>(piece), placed.piece_id = "net";
            placed.place = {{random.between(-20, 20), random.between(-20, 20), random.between(-5, 5)},
                            90.0 * random.whole(-1, 2),
                            {}};
            placed.mirrored = random.chance(0.5);
            Layer layer;
            layer.id = {"l"}, layer.items = ItemList{ItemPtr(Item{{"p"}, {}, false, placed, {}})};
            Level level;
            level.layers.push_back(std::move(layer));
            const World world = world_of(build::build_solid(level));
            for (int drop = 0; drop < 60; ++drop) {
                const Vec2 own(random.between(0.001, across - 0.001), random.between(0.001, across - 0.001));
                const double height = height_at(model, own);
                const Vec3 at = to_level(placed, {own.x, own.y, height});
                constexpr double k_radius_m = 0.001, k_above_m = 3;
                const Body ball{at + Vec3(0, 0, k_above_m), k_radius_m, 0.01};
                const auto support = support_below(world, ball, 0, 2 * k_above_m);
                QVERIFY2(support, qPrintable(QString("round %1, drop %2").arg(round).arg(drop)));
                // The ball touches no lower than the face, and no higher than the face around it.
                QVERIFY(support->height > at.z - 1e-4);
                QVERIFY(support->height < at.z + 0.02 + 8 * k_radius_m * (1 + rough));
            }
        }
    }
};

RUBBLE_TEST(PieceMotionTest)
#include "piece_motion_test.moc"
