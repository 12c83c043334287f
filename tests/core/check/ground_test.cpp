#include <QtTest/QtTest>

#include <numbers>

#include "build/solid_builder.h"
#include "check/ground.h"
#include "check/walk.h"
#include "core/check/random_level.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::check;
using test::LevelMaker;
using test::Random;

namespace {

struct Scene {
    motion::World world;
    Ground ground;
};
Scene scene_of(const Level& level, const Character& c = {}) {
    Scene scene;
    scene.world = motion::world_of(build::build_solid(level));
    scene.ground = ground_of(scene.world, c);
    return scene;
}

double standing_area(const Ground& ground) {
    double sum = 0;
    for (const Ledge& ledge : ground.ledges) sum += ledge.area_m2;
    return sum;
}

} // namespace

class GroundTest : public QObject {
    Q_OBJECT

private slots:
    void a_floor_is_one_ledge_as_large_as_itself_and_its_rim() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {20, 12, 1});
        const Scene scene = scene_of(maker.level());
        QCOMPARE(scene.ground.ledges.size(), size_t(1));
        const double r = Character{}.radius_m, exact = 240 + 64 * r + std::numbers::pi * r * r;
        QVERIFY(std::abs(standing_area(scene.ground) - exact) < 0.02);
    }

    void a_block_takes_away_what_its_grown_base_covers() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {20, 12, 1});
        const double before = standing_area(scene_of(maker.level()).ground);
        maker.box({1, 1, 0}, {2, 3, 4}, 25);
        const Scene scene = scene_of(maker.level());
        const double r = Character{}.radius_m, taken = 6 + 10 * r + std::numbers::pi * r * r;
        double floor = 0;
        for (const Fragment& f : scene.ground.fragments)
            if (f.lowest_m < 0.1) floor += geometry::area_of(f.area);
        QVERIFY2(std::abs(before - floor - taken) < 0.03,
                 qPrintable(QString::number(before - floor - taken)));
        QCOMPARE(scene.ground.ledges.size(), size_t(2));
    }

    void fragments_do_not_overlap_and_their_places_are_free() {
        Random random(7301);
        const Character c;
        for (int n = 0; n < test::rounds(12); ++n) {
            const Scene scene = scene_of(test::random_level(random));
            for (size_t i = 0; i < scene.ground.fragments.size(); i += 7) {
                const Fragment& f = scene.ground.fragments[i];
                const Vec2 p = geometry::middle_of(f.area);
                const bool flat_top = scene.ground.tops[size_t(f.top)].slope_area.empty();
                if (!flat_top) continue; // over slopes heights are told with the rim's rounding
                const Vec3 feet = raised(p, scene.ground.feet_at(int(i), p));
                const double height = (f.low ? c.crouched_height_m : c.height_m) - 2e-3;
                QVERIFY(motion::overlap_m(scene.world, {feet + Vec3(0, 0, 1e-3), c.radius_m - 1e-3, height}) <
                        2e-3);
                scene.ground.for_near({p, p}, [&](int other) {
                    const Fragment& g = scene.ground.fragments[size_t(other)];
                    if (size_t(other) == i || !geometry::contains(g.area, p, -1e-6)) return;
                    QVERIFY(std::abs(scene.ground.feet_at(other, p) - feet.z) > 1e-6);
                });
            }
        }
    }

    void paths_are_walked_to_their_end() {
        Random random(7302);
        const Character c;
        int walked = 0, asked = 0;
        for (int n = 0; n < test::rounds(20); ++n) {
            const Scene scene = scene_of(test::random_level(random));
            for (const Ledge& ledge : scene.ground.ledges) {
                if (ledge.fragments.size() < 8 || ledge.area_m2 < 2) continue;
                const int from = ledge.fragments[size_t(random.whole(0, int(ledge.fragments.size()) - 1))];
                const int to = ledge.fragments[size_t(random.whole(0, int(ledge.fragments.size()) - 1))];
                const Vec2 a = geometry::middle_of(scene.ground.fragments[size_t(from)].area),
                           b = geometry::middle_of(scene.ground.fragments[size_t(to)].area);
                if (scene.ground.fragments[size_t(from)].low) continue;
                const auto path = find_path(scene.ground, from, a, to, b);
                QVERIFY(path && path->length_m >= glm::length(b - a) - 1e-9);
                motion::Recorder recorder(
                    scene.world, c,
                    motion::state_at(scene.world, c, raised(a, scene.ground.feet_at(from, a))));
                ++asked;
                if (!walk_path(recorder, c, *path)) continue;
                ++walked;
                QVERIFY(glm::length(flat(recorder.state().at) - b) < 1e-6);
            }
        }
        qInfo("%d of %d walked", walked, asked);
        QVERIFY(asked > 0 && walked * 100 >= 95 * asked);
    }
};

RUBBLE_TEST(GroundTest)
#include "ground_test.moc"
