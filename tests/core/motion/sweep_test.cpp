#include <QtTest/QtTest>

#include "base/angle.h"
#include "core/motion/maker_world.h"
#include "core/random.h"
#include "motion/sweep.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::motion;
using test::LevelMaker;
using test::Random;
using test::world_of;

namespace {

constexpr double k_radius = 0.3, k_height = 1.8;
Body body_at(const Vec3& at) { return {at, k_radius, k_height}; }

/// A few boxes and ramps in the air.
LevelMaker clutter(Random& random) {
    LevelMaker maker;
    for (int i = 0; i < 6; ++i) {
        const Vec3 at(random.between(-3, 3), random.between(-3, 3), random.between(-2, 2));
        const Vec3 size(random.between(0.4, 2), random.between(0.4, 2), random.between(0.3, 1.5));
        if (random.chance(0.4))
            maker.ramp(at, size, random.between(0, 360));
        else
            maker.box(at, size, random.between(0, 360));
    }
    return maker;
}

} // namespace

class SweepTest : public QObject {
    Q_OBJECT

private slots:
    void a_fall_ends_on_the_top() {
        LevelMaker maker;
        maker.box({0, 0, 0}, {2, 2, 1});
        const auto met = first_contact(world_of(maker), body_at({0.5, 0.5, 3}), {0, 0, -4});
        QVERIFY(met && met->kind == Contact::Kind::top);
        QVERIFY(std::abs(met->part - 0.5) < 1e-5);
        QCOMPARE(met->normal, Vec3(0, 0, 1));
        QCOMPARE(met->height, 1.0);
    }

    void a_rise_ends_with_the_head_at_the_ceiling() {
        LevelMaker maker;
        maker.box({0, 0, 4}, {2, 2, 1});
        const auto met = first_contact(world_of(maker), body_at({0, 0, 1}), {0, 0, 2});
        QVERIFY(met && met->kind == Contact::Kind::bottom);
        QVERIFY(std::abs(met->part - 0.6) < 1e-5); // 4 - 1.8 - 1 of 2 metres
        QCOMPARE(met->normal, Vec3(0, 0, -1));
    }

    void a_wall_is_met_a_radius_before_it_at_any_heading() {
        Random random(7701);
        for (int n = 0; n < test::rounds(100); ++n) {
            const double deg = random.between(0, 360);
            const auto [c, s] = cos_sin(deg);
            const Vec2 ahead(c, s);
            LevelMaker maker;
            maker.box(raised(ahead * 5.0, -5), {1, 8, 10}, deg); // its near face 4.5 m ahead
            const double aside = random.between(-1, 1);
            const Vec2 from = left_of(ahead) * aside;
            const auto met = first_contact(world_of(maker), body_at(raised(from, 0)), raised(ahead * 6.0, 0));
            QVERIFY(met && met->kind == Contact::Kind::wall);
            QVERIFY2(std::abs(met->part * 6 - (4.5 - k_radius)) < 1e-4,
                     qPrintable(QString::number(met->part * 6)));
            QVERIFY(glm::length(met->normal + raised(ahead, 0)) < 1e-5);
        }
    }

    void a_corner_is_met_at_the_distance_of_its_point() {
        LevelMaker maker;
        maker.box({5, 0, -5}, {2, 2, 10}); // its near corners at (4, ±1)
        const double aside = 0.1;          // past the corner by this much
        const auto met = first_contact(world_of(maker), body_at({0, 1 + aside, 0}), {8, 0, 0});
        QVERIFY(met && met->kind == Contact::Kind::wall);
        const double expected = 4 - std::sqrt(k_radius * k_radius - aside * aside);
        QVERIFY(std::abs(met->part * 8 - expected) < 1e-4);
        QVERIFY(!first_contact(world_of(maker), body_at({0, 1 + k_radius + 1e-3, 0}), {8, 0, 0}));
    }

    void a_slope_is_met_by_the_uphill_rim() {
        for (const double deg : {10.0, 30.0, 44.0, 60.0}) {
            LevelMaker maker;
            const double tangent = std::tan(radians(deg));
            maker.ramp({0, 0, 0}, {4, 6, 4 * tangent});
            // Falls over the middle of the ramp: its rim touches r·tan above the ground under the middle.
            const double ground = 2 * tangent, from = ground + 5;
            const auto met = first_contact(world_of(maker), body_at({0, 0, from}), {0, 0, -8});
            QVERIFY(met && met->kind == Contact::Kind::top);
            QVERIFY2(std::abs(from - met->part * 8 - (ground + k_radius * tangent)) < 1e-4,
                     qPrintable(QString::number(deg)));
            const Vec3 normal = glm::normalize(Vec3(-tangent, 0, 1));
            QVERIFY(glm::length(met->normal - normal) < 1e-4);
        }
    }

    void who_began_inside_may_leave() {
        LevelMaker maker;
        maker.box({0, 0, 0}, {2, 2, 2});
        QVERIFY(!first_contact(world_of(maker), body_at({0, 0, 0.5}), {0, 5, 0}));
    }

    /// Against many small steps: free up to the contact, and in matter a little beyond it.
    void the_first_contact_is_the_first() {
        Random random(7702);
        int met_any = 0;
        for (int n = 0; n < test::rounds(300); ++n) {
            const World world = world_of(clutter(random));
            const Vec3 from(random.between(-6, 6), random.between(-6, 6), random.between(-5, 5));
            const Body body = body_at(from);
            if (overlap_m(world, {from, k_radius + 0.01, k_height + 0.01}) > 0) continue;
            const Vec3 way(random.between(-8, 8), random.between(-8, 8), random.between(-6, 6));
            const auto met = first_contact(world, body, way);
            const double until = met ? met->part : 1;
            met_any += met.has_value();
            for (int i = 0; i <= 40; ++i) {
                const Vec3 at = from + way * (until * i / 40.0);
                QVERIFY(overlap_m(world, body_at(at)) < 1e-3);
            }
            if (!met) continue;
            QVERIFY(std::abs(glm::length(met->normal) - 1) < 1e-6 && glm::dot(met->normal, way) < 0);
            // Going on straight leads into matter, unless it only grazes.
            const double deeper = 0.02 / std::max(1e-3, -glm::dot(met->normal, glm::normalize(way)));
            if (deeper < 0.1) {
                const Vec3 beyond = from + way * met->part + glm::normalize(way) * deeper;
                QVERIFY2(overlap_m(world, body_at(beyond)) > 1e-4, qPrintable(QString::number(n)));
            }
        }
        QVERIFY(met_any > 0);
    }

    void support_is_the_highest_top_within_reach() {
        LevelMaker maker;
        maker.box({0, 0, 0}, {4, 4, 1});
        maker.box({1, 0, 1}, {1, 1, 0.3});
        const World world = world_of(maker);
        const Body body = body_at({0.4, 0, 1});
        QCOMPARE(support_below(world, body, 0.4, 0.4)->height, 1.3); // the disc feels the upper one
        QCOMPARE(support_below(world, body, 0.2, 0.4)->height, 1.0); // which is out of reach
        QVERIFY(!support_below(world, body_at({9, 0, 1}), 0.4, 0.4));
        QVERIFY(!support_below(world, body_at({-1, 0, 3}), 0.4, 0.4));
    }

    void overlap_is_the_shortest_way_out() {
        LevelMaker maker;
        maker.box({0, 0, 0}, {2, 2, 2});
        const World world = world_of(maker);
        QVERIFY(std::abs(overlap_m(world, body_at({0, 0, 1.9})) - 0.1) < 1e-9);               // up
        QVERIFY(std::abs(overlap_m(world, body_at({1.1, 0, 0.5})) - 0.2) < 1e-9);             // aside
        QVERIFY(std::abs(overlap_m(world, body_at({0, 0, -k_height + 0.05})) - 0.05) < 1e-9); // down
        QCOMPARE(overlap_m(world, body_at({1.31, 0, 0.5})), 0.0);
    }
};

RUBBLE_TEST(SweepTest)
#include "sweep_test.moc"
