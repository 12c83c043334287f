#include <QtTest/QtTest>

#include "build/joints.h"
#include "build/mesh_matter.h"
#include "build/piece_body.h"
#include "core/random.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::build;
using test::Random;

namespace {

double volume_of_cells(const MeshMatter& matter) {
    double sum = 0;
    for (const auto& cell : matter.cells) sum += cell.volume();
    return sum;
}

TriangleMesh box(const Vec3& low, const Vec3& high) {
    TriangleMesh mesh;
    for (int i = 0; i < 8; ++i)
        mesh.points.push_back({(i & 1 ? high : low).x, (i & 2 ? high : low).y, (i & 4 ? high : low).z});
    const std::array<std::array<int, 4>, 6> quads{
        {{0, 2, 3, 1}, {4, 5, 7, 6}, {0, 1, 5, 4}, {2, 6, 7, 3}, {0, 4, 6, 2}, {1, 3, 7, 5}}};
    for (const auto& [a, b, c, d] : quads)
        mesh.triangles.push_back({a, b, c}), mesh.triangles.push_back({a, c, d});
    return mesh;
}

void add(TriangleMesh& to, const TriangleMesh& from, bool inside_out = false) {
    const int first = int(to.points.size());
    to.points.insert(to.points.end(), from.points.begin(), from.points.end());
    for (auto t : from.triangles) {
        if (inside_out) std::swap(t[1], t[2]);
        to.triangles.push_back({t[0] + first, t[1] + first, t[2] + first});
    }
}

/// A lump: a ball of rings and columns whose radius changes at random, so that it is seen whole from its
/// middle and its faces cannot meet.
TriangleMesh lump(Random& random, int rings, int columns) {
    TriangleMesh mesh;
    const double roughness = random.between(0.05, 0.6);
    const auto radius = [&] { return 2 * (1 - random.between(0, roughness)); };
    mesh.points.push_back({0, 0, -radius()});
    for (int ring = 1; ring < rings; ++ring)
        for (int column = 0; column < columns; ++column) {
            const double up = M_PI * ring / rings, round = 2 * M_PI * column / columns;
            mesh.points.push_back(
                Vec3(std::sin(up) * std::cos(round), std::sin(up) * std::sin(round), -std::cos(up)) *
                radius());
        }
    mesh.points.push_back({0, 0, radius()});
    const int top = int(mesh.points.size()) - 1;
    const auto at = [&](int ring, int column) { return 1 + (ring - 1) * columns + column % columns; };
    for (int column = 0; column < columns; ++column) {
        mesh.triangles.push_back({0, at(1, column + 1), at(1, column)});
        mesh.triangles.push_back({top, at(rings - 1, column), at(rings - 1, column + 1)});
        for (int ring = 1; ring + 1 < rings; ++ring) {
            mesh.triangles.push_back({at(ring, column), at(ring, column + 1), at(ring + 1, column + 1)});
            mesh.triangles.push_back({at(ring, column), at(ring + 1, column + 1), at(ring + 1, column)});
        }
    }
    return mesh;
}

/// Ground of towers on squares: every side upright, every top level, at random heights.
TriangleMesh towers(Random& random, int side) {
    std::vector<double> heights;
    for (int i = 0; i < side * side; ++i) heights.push_back(random.whole(1, 8) * 0.5);
    TriangleMesh mesh;
    const auto quad = [&](const Vec3& a, const Vec3& b, const Vec3& c, const Vec3& d) {
        const int first = int(mesh.points.size());
        for (const Vec3& p : {a, b, c, d}) mesh.points.push_back(p);
        mesh.triangles.push_back({first, first + 1, first + 2});
        mesh.triangles.push_back({first, first + 2, first + 3});
    };
    const auto height = [&](int x, int y) {
        return x < 0 || y < 0 || x >= side || y >= side ? 0.0 : heights[size_t(y * side + x)];
    };
    for (int x = 0; x < side; ++x)
        for (int y = 0; y < side; ++y) {
            const double h = height(x, y);
            quad({x, y, h}, {x + 1, y, h}, {x + 1, y + 1, h}, {x, y + 1, h});
            quad({x, y, 0}, {x, y + 1, 0}, {x + 1, y + 1, 0}, {x + 1, y, 0});
            // Sides in steps of half a metre, so that every edge has its opposite.
            const auto wall = [&](double other, const Vec3& a, const Vec3& b) {
                for (double z = other; z < h - 1e-9; z += 0.5)
                    quad(a + Vec3(0, 0, z), b + Vec3(0, 0, z), b + Vec3(0, 0, z + 0.5),
                         a + Vec3(0, 0, z + 0.5));
            };
            wall(height(x, y - 1), {x, y, 0}, {x + 1, y, 0});
            wall(height(x + 1, y), {x + 1, y, 0}, {x + 1, y + 1, 0});
            wall(height(x, y + 1), {x + 1, y + 1, 0}, {x, y + 1, 0});
            wall(height(x - 1, y), {x, y + 1, 0}, {x, y, 0});
        }
    return mesh;
}

bool holds(const std::vector<geometry::ConvexCell>& cells, const Vec3& p) {
    return std::any_of(cells.begin(), cells.end(), [&](const auto& cell) {
        return std::all_of(cell.faces.begin(), cell.faces.end(),
                           [&](const auto& face) { return face.plane.distance(p) <= 0; });
    });
}

} // namespace

class PieceMatterTest : public QObject {
    Q_OBJECT
private slots:
    void closed_bodies_are_met_as_they_are() {
        const MeshMatter cube = matter_of_faces(box({0, 0, 0}, {2, 3, 4}), 0.1);
        QVERIFY(cube.exact && !cube.inside_out);
        QCOMPARE(cube.cells.size(), size_t(1));
        QVERIFY(std::abs(volume_of_cells(cube) - 24) < 1e-9);
        TriangleMesh two = box({0, 0, 0}, {1, 1, 1});
        add(two, box({3, 0, 0}, {4, 1, 1}));
        QCOMPARE(matter_of_faces(two, 0.1).cells.size(), size_t(2));
    }

    void a_hollow_is_left_free() {
        TriangleMesh shell = box({0, 0, 0}, {4, 4, 4});
        add(shell, box({1, 1, 1}, {3, 3, 3}), true);
        const MeshMatter matter = matter_of_faces(shell, 0.1);
        QVERIFY(matter.exact);
        QVERIFY(std::abs(volume_of_cells(matter) - (64 - 8)) < 1e-9);
        QVERIFY(!holds(matter.cells, {2, 2, 2}));
        QVERIFY(holds(matter.cells, {0.5, 2, 2}));
    }

    void faces_that_look_inwards_count_turned_round() {
        TriangleMesh wrong;
        add(wrong, box({0, 0, 0}, {1, 1, 1}), true);
        const MeshMatter matter = matter_of_faces(wrong, 0.1);
        QVERIFY(matter.inside_out && matter.exact);
        QVERIFY(std::abs(volume_of_cells(matter) - 1) < 1e-9);
    }

    void open_faces_are_slabs_behind_them() {
        TriangleMesh floor;
        floor.points = {{0, 0, 0}, {5, 0, 0}, {5, 5, 0}, {0, 5, 0}};
        floor.triangles = {{0, 1, 2}, {0, 2, 3}};
        const MeshMatter matter = matter_of_faces(floor, 0.2);
        QCOMPARE(matter.open, size_t(1));
        QVERIFY(std::abs(volume_of_cells(matter) - 5) < 1e-9);
        QVERIFY(holds(matter.cells, {2, 1, -0.1}) && !holds(matter.cells, {2, 1, 0.1}));
    }

    void bodies_that_meet_themselves_are_met_as_hulls() {
        // A bow tie drawn out: two wedges that go through each other along a line in the middle.
        TriangleMesh tie;
        for (const double z : {0.0, 1.0})
            for (const Vec2 p : {Vec2(0, 0), Vec2(2, 2), Vec2(2, 0), Vec2(0, 2)})
                tie.points.push_back({p.x, p.y, z});
        for (int i = 0; i < 4; ++i) {
            const int j = (i + 1) % 4;
            tie.triangles.push_back({i, j, j + 4}), tie.triangles.push_back({i, j + 4, i + 4});
        }
        tie.triangles.insert(tie.triangles.end(), {{0, 2, 1}, {0, 3, 2}, {4, 5, 6}, {4, 6, 7}});
        const MeshMatter matter = matter_of_faces(tie, 0.1);
        QVERIFY(!matter.exact || matter.cells.empty());
    }

    void random_closed_meshes_keep_their_volume() {
        Random random(4711);
        const int rounds = test::rounds(30);
        size_t most_cells = 0, most_faces = 0;
        for (int round = 0; round < rounds; ++round) {
            TriangleMesh mesh;
            if (round % 2 == 0) {
                const int rings = random.whole(3, 32);
                mesh = lump(random, rings, std::min(random.whole(3, 60), 1000 / rings));
            } else {
                mesh = towers(random, random.whole(2, 8));
            }
            QVERIFY(is_closed(mesh));
            const MeshMatter matter = matter_of_faces(mesh, 0.1);
            const double wanted = volume_of(mesh), found = volume_of_cells(matter);
            QVERIFY2(matter.exact, qPrintable(QStringLiteral("round %1").arg(round)));
            QVERIFY2(std::abs(found - wanted) <= 1e-6 * wanted,
                     qPrintable(
                         QStringLiteral("round %1: %2 wanted, %3 found").arg(round).arg(wanted).arg(found)));
            most_cells = std::max(most_cells, matter.cells.size());
            most_faces = std::max(most_faces, mesh.triangles.size());
        }
        qInfo("%d meshes of up to %zu triangles, up to %zu cells", rounds, most_faces, most_cells);
    }
};

RUBBLE_TEST(PieceMatterTest)
#include "piece_matter_test.moc"
