#include <QtTest/QtTest>

#include "build/solid_builder.h"
#include "check/check.h"
#include "check/round_top.h"
#include "core/level_maker.h"
#include "core/random.h"
#include "motion/step.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::check;
using test::LevelMaker;
using test::Random;

namespace {

std::array<double, 4> slight_rotation(Random& random) {
    std::array<double, 4> q = random.rotation();
    q[3] = 1.5;
    double square = 0;
    for (const double v : q) square += v * v;
    for (double& v : q) v /= std::sqrt(square);
    return q;
}

/// A body with several tops that are walked: a ball, a cone, a box tipped over.
Brush round_brush(Random& random) {
    Brush brush;
    brush.shape = random.chance(0.4) ? Shape::ball : random.chance(0.6) ? Shape::cone : Shape::box;
    brush.sides = random.whole(5, 20);
    brush.size = {random.between(2, 6), random.between(2, 6), random.between(0.5, 3)};
    brush.place.at = {random.between(-1, 1), random.between(-1, 1), random.between(-0.5, 0.5)};
    brush.place.turn_deg = random.between(0, 360);
    if (brush.shape == Shape::box || random.chance(0.3)) brush.place.rotation = slight_rotation(random);
    return brush;
}

Brush round(Shape shape, int sides, const Vec3& size) {
    Brush brush;
    brush.shape = shape, brush.sides = sides, brush.size = size;
    return brush;
}

motion::World world_of(const LevelMaker& maker) {
    return motion::world_of(build::build_solid(maker.level()));
}

/// How high the feet are that rest on what is highest under them; nothing where there is nothing.
std::optional<double> resting_height(const motion::World& world, const Character& c, Vec2 p) {
    const auto support = support_below(world, {raised(p, 50), c.radius_m - 2e-6, c.height_m}, 0, 100);
    if (!support) return {};
    return support->height;
}

/// Whether the motion itself stands there, free of everything.
bool stands(const motion::World& world, const Character& c, const Vec3& feet) {
    const motion::State state = motion::state_at(world, c, feet);
    return state.standing && std::abs(state.at.z - feet.z) < 1e-3 &&
           motion::overlap_m(world, {state.at, c.radius_m - 1e-3, c.height_m}) < 1e-3;
}

} // namespace

class RoundTopTest : public QObject {
    Q_OBJECT

private slots:
    void feet_are_as_high_as_the_motion_has_them() {
        Random random(5501);
        const Character c;
        int compared = 0;
        for (int n = 0; n < test::rounds(60); ++n) {
            LevelMaker maker;
            maker.brush(round_brush(random));
            const motion::World world = world_of(maker);
            const auto top = round_top_of(world, 0, c);
            if (!top) continue;
            for (int k = 0; k < 100; ++k) {
                const Vec2 p(random.between(-4, 4), random.between(-4, 4));
                const auto height = resting_height(world, c, p);
                if (!height || geometry::distance(top->footprint, p) > c.radius_m - 0.01) continue;
                ++compared;
                QVERIFY2(std::abs(*height - top->feet_at(p)) < 1e-4,
                         qPrintable(QString("round %1: %2 is %3").arg(n).arg(*height).arg(top->feet_at(p))));
                for (const auto& plane : top->over_feet) QVERIFY(plane.at(p) > *height - 1e-4);
            }
        }
        QVERIFY2(compared > test::rounds(60) * 10, qPrintable(QString::number(compared)));
    }

    /// Places where the motion stands are ground and places of the ground are stood on, but for a narrow seam
    /// along edges.
    void ground_is_where_the_motion_stands() {
        Random random(5502);
        const Character c;
        constexpr double k_seam_m = 0.04;
        int asked = 0, missing = 0, wrong = 0;
        for (int n = 0; n < test::rounds(60); ++n) {
            LevelMaker maker;
            maker.box({0, 0, -1}, {12, 12, 1});
            maker.brush(round_brush(random));
            for (int k = random.whole(0, 3); k > 0; --k)
                maker.box({random.between(-3, 3), random.between(-3, 3), random.between(0, 2)},
                          {random.between(0.3, 2), random.between(0.3, 2), random.between(0.3, 2)},
                          random.between(0, 90));
            const motion::World world = world_of(maker);
            const Ground ground = ground_of(world, c);
            for (int k = 0; k < 200; ++k) {
                const Vec2 p(random.between(-4, 4), random.between(-4, 4));
                const auto height = resting_height(world, c, p);
                if (!height) continue;
                const auto agrees_near = [&](bool wanted) {
                    for (int side = 0; side < 8; ++side) {
                        const double angle = side * std::numbers::pi / 4;
                        const Vec2 q = p + Vec2(std::cos(angle), std::sin(angle)) * k_seam_m;
                        const auto there = resting_height(world, c, q);
                        if (wanted ? there && stands(world, c, raised(q, *there))
                                   : there && ground.locate(raised(q, *there), 0.02) >= 0)
                            return true;
                    }
                    return false;
                };
                const Vec3 feet = raised(p, *height);
                const bool stood = stands(world, c, feet), known = ground.locate(feet, 0.02) >= 0;
                ++asked;
                if (stood && !known && !agrees_near(false)) ++missing;
                if (!stood && known && !agrees_near(true)) ++wrong;
            }
        }
        const QString said =
            QString("%1 asked, %2 missing, %3 that are none").arg(asked).arg(missing).arg(wrong);
        QVERIFY2(missing * 2000 <= asked && wrong * 2000 <= asked, qPrintable(said));
    }

    void many_facets_are_few_places() {
        for (const int sides : {16, 32, 64}) {
            LevelMaker maker;
            maker.box({0, 0, -1}, {10, 10, 1});
            maker.brush(round(Shape::ball, sides, {4, 4, 2}));
            const Ground ground = ground_of(world_of(maker), {});
            QCOMPARE(ground.ledges.size(), size_t(2));  // the floor and the ball
            const size_t most = size_t(4 * sides + 60); // the floor around it has the most
            QVERIFY2(ground.fragments.size() < most, qPrintable(QString::number(ground.fragments.size())));
        }
    }

    void a_cone_is_walked_from_all_sides_and_down_again() {
        for (const int sides : {3, 4, 7, 24, 64}) {
            LevelMaker maker;
            maker.box({0, 0, -1}, {12, 12, 1});
            maker.brush(round(Shape::cone, sides, {7, 7, 1.6}));
            const ItemId start = maker.start({-5, 0, 0}), goal = maker.goal({0, 0, 1.6});
            const ItemId beyond = maker.element("place", {5, 1, 0});
            maker.claim(Claim::Kind::reaches, start, goal);
            maker.claim(Claim::Kind::returns, start, goal);
            maker.claim(Claim::Kind::reaches, goal, beyond);
            for (const auto& claim : check_level({}, maker.level()).claims)
                QVERIFY2(claim.state == ClaimState::holds, in_english(claim.reason, Level{}).c_str());
        }
    }
};

RUBBLE_TEST(RoundTopTest)
#include "round_top_test.moc"
