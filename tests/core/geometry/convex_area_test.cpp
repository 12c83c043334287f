#include <QtTest/QtTest>

#include <numbers>

#include "core/random.h"
#include "geometry/convex_area.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::geometry;
using test::Random;

namespace {

ConvexArea random_area(Random& random) {
    std::vector<Vec2> points;
    for (int i = random.whole(4, 9); i > 0; --i)
        points.push_back({random.between(-3, 3), random.between(-3, 3)});
    return hull(points);
}

const ConvexArea k_square{{0, 0}, {2, 0}, {2, 2}, {0, 2}};

} // namespace

class ConvexAreaTest : public QObject {
    Q_OBJECT

private slots:
    void a_hull_turns_left_and_holds_its_points() {
        Random random(7101);
        for (int i = 0; i < 300; ++i) {
            std::vector<Vec2> points;
            for (int k = 0; k < 12; ++k) points.push_back({random.between(-3, 3), random.between(-3, 3)});
            const ConvexArea area = hull(points);
            QVERIFY(area.size() >= 3 && area_of(area) > 0);
            for (Vec2 p : points) QVERIFY(contains(area, p, 1e-6));
        }
        QVERIFY(hull({{0, 0}, {1, 1}, {2, 2}}).empty());
        QVERIFY(hull({}).empty());
    }

    void both_sides_of_a_cut_make_the_whole() {
        Random random(7102);
        for (int i = 0; i < 300; ++i) {
            const ConvexArea area = random_area(random);
            const double a = random.between(0, 6.283);
            const Vec2 inward(std::cos(a), std::sin(a)), at(random.between(-2, 2), random.between(-2, 2));
            const double parts = area_of(clipped(area, {at, inward})) + area_of(clipped(area, {at, -inward}));
            QVERIFY(std::abs(parts - area_of(area)) < 1e-5);
        }
    }

    /// A cut through a corner leaves that corner once: as a short edge it would point anywhere, and what asks
    /// for distances by edges would take inside for outside.
    void no_corner_is_doubled_by_a_cut_through_it() {
        Random random(7105);
        for (int i = 0; i < 3000; ++i) {
            const ConvexArea area = random_area(random);
            const Vec2 at = area[size_t(random.whole(0, int(area.size()) - 1))];
            const double a = random.between(0, 6.283), off = random.between(-1e-15, 1e-15);
            const Vec2 inward(std::cos(a), std::sin(a));
            const ConvexArea part = clipped(area, {at + inward * off, inward});
            for (size_t k = 0; k < part.size(); ++k)
                QVERIFY(glm::length(part[(k + 1) % part.size()] - part[k]) > 1e-10);
            if (!part.empty()) QCOMPARE(distance(part, middle_of(part)), 0.0);
        }
    }

    void growing_brackets_the_true_shape() {
        Random random(7103);
        for (int i = 0; i < 100; ++i) {
            const ConvexArea area = random_area(random);
            double around = 0;
            for (size_t k = 0; k < area.size(); ++k)
                around += glm::length(area[(k + 1) % area.size()] - area[k]);
            const double r = random.between(0.1, 1);
            const double exact = area_of(area) + around * r + std::numbers::pi * r * r; // Steiner's formula
            QVERIFY(area_of(grown_inside(area, r)) < exact + 1e-9);
            QVERIFY(area_of(grown_outside(area, r)) > exact - 1e-9);
            QVERIFY(area_of(grown_outside(area, r)) - area_of(grown_inside(area, r)) < 0.2 * r * r);
        }
        QCOMPARE(area_of(grown_outside(k_square, 0)), 4.0);
    }

    void distances_agree_from_both_areas() {
        Random random(7104);
        for (int i = 0; i < 300; ++i) {
            ConvexArea a = random_area(random), b = random_area(random);
            const Vec2 apart(random.between(-8, 8), random.between(-8, 8));
            for (Vec2& p : b) p += apart;
            const NearestPair pair = nearest(a, b);
            QVERIFY(std::abs(glm::length(pair.on_a - pair.on_b) - pair.distance) < 1e-9);
            QVERIFY(contains(a, pair.on_a, 1e-6) && contains(b, pair.on_b, 1e-6));
            QVERIFY(std::abs(pair.distance - nearest(b, a).distance) < 1e-9);
            for (Vec2 p : a) QVERIFY(distance(b, p) >= pair.distance - 1e-9);
        }
    }

    void heights_over_a_disc_are_those_of_samples() {
        Random random(7105);
        for (int i = 0; i < 200; ++i) {
            const ConvexArea area = random_area(random);
            const Vec2 centre(random.between(-3, 3), random.between(-3, 3)),
                slope(random.between(-2, 2), random.between(-2, 2));
            const double r = random.between(0.1, 1.5);
            const auto range = range_over_disc(area, centre, r, slope, 1);
            double low = 1e9, high = -1e9;
            for (int k = 0; k < 4000; ++k) {
                const double angle = random.between(0, 6.2832), out = r * std::sqrt(random.between(0, 1));
                const Vec2 p = centre + Vec2(std::cos(angle), std::sin(angle)) * out;
                if (!contains(area, p)) continue;
                low = std::min(low, glm::dot(slope, p) + 1), high = std::max(high, glm::dot(slope, p) + 1);
            }
            if (low > high) continue;
            QVERIFY(range && range->low <= low + 1e-9 && range->high >= high - 1e-9);
            QVERIFY(range->high - high < 0.35 && low - range->low < 0.35);
        }
        QVERIFY(!range_over_disc(k_square, {5, 5}, 1, {1, 0}, 0));
    }

    void a_passing_disc_touches_when_the_distance_says_so() {
        Random random(7106);
        for (int i = 0; i < 400; ++i) {
            const ConvexArea area = random_area(random);
            const Vec2 from(random.between(-6, 6), random.between(-6, 6)),
                by(random.between(-8, 8), random.between(-8, 8));
            const double r = random.between(0.05, 1);
            const auto passage = disc_passage(area, from, by, r);
            for (int k = 0; k <= 60; ++k) {
                const double t = k / 60.0, d = distance(area, from + by * t);
                if (d < r - 1e-6)
                    QVERIFY(passage && passage->enter <= t + 1e-6 && t <= passage->leave + 1e-6);
                if (d > r + 1e-6 && passage) QVERIFY(t < passage->enter + 1e-6 || t > passage->leave - 1e-6);
            }
            if (passage && passage->enter > 0 && passage->enter < 1) {
                QVERIFY(std::abs(distance(area, from + by * passage->enter) - r) < 1e-6);
                QVERIFY(glm::dot(passage->normal, by) < 1e-9);
            }
        }
    }
};

RUBBLE_TEST(ConvexAreaTest)
#include "convex_area_test.moc"
