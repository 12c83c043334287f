#include <QtTest/QtTest>

#include <map>

#include "base/angle.h"
#include "core/star.h"
#include "geometry/convex_hull.h"
#include "geometry/partition.h"
#include "test_program.h"

using namespace rubble;
using geometry::TickPoint;
using geometry::TickPoint2;
using test::Random;
using test::star;

class PartitionTest : public QObject {
    Q_OBJECT

private slots:
    void convex_parts_cover_a_figure_once() {
        Random random(2406);
        for (int round = 0; round < test::rounds(200); ++round) {
            std::vector<TickPoint2> ring;
            for (const Vec2 p : star(random, random.whole(3, 60)))
                ring.push_back({std::llround(p.x * 1e6), std::llround(p.y * 1e6)});
            if (!geometry::is_simple({ring})) continue;
            __int128 sum = 0;
            const auto parts = geometry::convex_parts({ring});
            for (const auto& part : parts) {
                std::vector<TickPoint2> corners;
                for (const int i : part) corners.push_back(ring[size_t(i)]);
                const size_t n = corners.size();
                for (size_t i = 0; i < n; ++i)
                    QVERIFY(geometry::turn(corners[i], corners[(i + 1) % n], corners[(i + 2) % n]) > 0);
                sum += geometry::doubled_area(corners);
            }
            QVERIFY(sum == geometry::doubled_area(ring));
            QVERIFY(parts.size() <= ring.size() - 2);
        }
    }

    void a_convex_figure_is_one_part() {
        std::vector<TickPoint2> ring;
        for (int i = 0; i < 20; ++i) {
            const auto [c, s] = cos_sin(18.0 * i);
            ring.push_back({std::llround(c * 1e6), std::llround(s * 1e6)});
        }
        QCOMPARE(geometry::convex_parts({ring}).size(), size_t(1));
    }

    void a_hull_holds_all_points_and_is_closed() {
        Random random(2407);
        for (int round = 0; round < test::rounds(100); ++round) {
            std::vector<TickPoint> points;
            const int range = random.chance(0.5) ? 3 : 1'000'000; // many in one plane, or hardly any
            for (int i = random.whole(6, 40); i > 0; --i)
                points.push_back({random.whole(0, range), random.whole(0, range), random.whole(0, range)});
            const auto faces = geometry::convex_hull(points);
            std::map<std::pair<int, int>, int> edges;
            for (const auto& face : faces) {
                Vec3 normal(0);
                auto at = [&](int i) {
                    return Vec3(double(points[size_t(i)].x), double(points[size_t(i)].y),
                                double(points[size_t(i)].z));
                };
                for (size_t i = 1; i + 1 < face.size(); ++i)
                    normal += glm::cross(at(face[i]) - at(face[0]), at(face[i + 1]) - at(face[0]));
                QVERIFY(glm::length(normal) > 0);
                normal = glm::normalize(normal);
                for (int i = 0; i < int(points.size()); ++i)
                    QVERIFY(glm::dot(at(i) - at(face[0]), normal) < 1e-3);
                for (size_t i = 0; i < face.size(); ++i) ++edges[{face[i], face[(i + 1) % face.size()]}];
            }
            for (const auto& [edge, count] : edges) {
                QCOMPARE(count, 1);
                QVERIFY(edges.contains({edge.second, edge.first}));
            }
        }
    }

    void flat_points_have_no_hull() {
        QVERIFY(geometry::convex_hull({{0, 0, 0}, {1, 0, 0}, {0, 1, 0}, {5, 5, 0}}).empty());
        QVERIFY(geometry::convex_hull({{0, 0, 0}, {1, 0, 0}}).empty());
        QVERIFY(geometry::convex_hull({}).empty());
    }
};

RUBBLE_TEST(PartitionTest)
#include "partition_test.moc"
