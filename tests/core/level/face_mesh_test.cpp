#include <QtTest/QtTest>

#include "core/random.h"
#include "level/face_mesh.h"
#include "level/shell.h"
#include "test_program.h"

using namespace rubble;
using test::Random;

namespace {

/// A block from the origin to a corner.
FaceMesh block(const Vec3& size) {
    FaceMesh mesh;
    for (const double z : {0.0, size.z})
        for (const Vec2 p : {Vec2(0, 0), Vec2(size.x, 0), Vec2(size.x, size.y), Vec2(0, size.y)})
            mesh.points.push_back({p.x, p.y, z});
    mesh.faces = {{3, 2, 1, 0}, {4, 5, 6, 7}, {0, 1, 5, 4}, {1, 2, 6, 5}, {2, 3, 7, 6}, {3, 0, 4, 7}};
    return mesh;
}

/// Two meshes as one, without a point in common.
FaceMesh both(FaceMesh a, const FaceMesh& b, const Vec3& by) {
    const int first = int(a.points.size());
    for (const Vec3& p : b.points) a.points.push_back(p + by);
    for (FaceMesh::Loop loop : b.faces) {
        for (int& p : loop) p += first;
        a.faces.push_back(loop);
    }
    return a;
}

} // namespace

class FaceMeshTest : public QObject {
    Q_OBJECT

private slots:
    void a_block_is_whole() {
        const FaceMesh mesh = block({2, 3, 4});
        QCOMPARE(flaw_of(mesh), MeshFlaw::none);
        QCOMPARE(volume_of(mesh), 24.0);
        QVERIFY(is_convex(mesh));
        QCOMPARE(normal_of(mesh.points, mesh.faces[1]), Vec3(0, 0, 1));
        QCOMPARE(glm::length(area_vector(mesh.points, mesh.faces[3])), 12.0);
        QCOMPARE(middle_of(mesh.points, mesh.faces[0]), Vec3(1, 1.5, 0));
        QCOMPARE(edge_faces(mesh).size(), size_t(24));
    }

    void every_flaw_is_told_apart() {
        FaceMesh open = block({2, 3, 4});
        open.faces.pop_back();
        QCOMPARE(flaw_of(open), MeshFlaw::open);
        FaceMesh doubled = block({2, 3, 4});
        doubled.faces.push_back(doubled.faces[0]);
        QCOMPARE(flaw_of(doubled), MeshFlaw::open);
        FaceMesh strange = block({2, 3, 4});
        strange.faces[0][0] = 99; // a point that is not there
        QCOMPARE(flaw_of(strange), MeshFlaw::open);
        FaceMesh flat = block({2, 3, 4});
        flat.points[6] = flat.points[5], flat.points[7] = flat.points[4];
        QCOMPARE(flaw_of(flat), MeshFlaw::no_area);
        FaceMesh bent = block({2, 3, 4});
        bent.points[6].z += 0.5;
        QCOMPARE(flaw_of(bent), MeshFlaw::bent);
        QCOMPARE(flaw_of(bent, false), MeshFlaw::none); // triangles close it all the same
        FaceMesh turned = block({2, 3, 4});
        for (auto& loop : turned.faces) std::reverse(loop.begin(), loop.end());
        QCOMPARE(flaw_of(turned), MeshFlaw::inside_out);
    }

    void bodies_that_meet_are_no_one_body() {
        const FaceMesh one = block({2, 2, 2});
        QCOMPARE(flaw_of(both(one, one, {3, 0, 0})), MeshFlaw::none); // beside it
        for (const Vec3& by : {Vec3(1, 1, 1), Vec3(1, 0, 0), Vec3(2, 0, 0), Vec3(2, 2, 0), Vec3(2, 2, 2)})
            QCOMPARE(flaw_of(both(one, one, by)), MeshFlaw::crossing); // through, along, face, edge, corner
        // A hair's breadth beside it: exact, to the micrometre.
        QCOMPARE(flaw_of(both(one, one, {2.000001, 0, 0})), MeshFlaw::none);
        QCOMPARE(flaw_of(both(one, one, {1.999999, 0.5, 0.5})), MeshFlaw::crossing);
    }

    void triangles_and_pieces_cover_a_face_once() {
        Random random(2801);
        for (int round = 0; round < test::rounds(100); ++round) {
            std::vector<Vec3> points;
            FaceMesh::Loop loop;
            const int n = random.whole(4, 20);
            const Vec3 along = glm::normalize(Vec3(1, random.between(-1, 1), random.between(-1, 1)));
            const Vec3 across = glm::normalize(glm::cross(along, Vec3(random.between(-1, 1), 1, 0.3)));
            for (int i = 0; i < n; ++i) {
                const double angle = 2 * 3.14159265 * i / n, r = random.between(0.5, 3);
                points.push_back(along * (r * std::cos(angle)) + across * (r * std::sin(angle)));
                loop.push_back(i);
            }
            const double area = glm::length(area_vector(points, loop));
            for (const auto& parts : {triangles_of(points, loop), convex_pieces(points, loop)}) {
                double sum = 0;
                for (const auto& part : parts) {
                    QVERIFY(glm::dot(area_vector(points, part), area_vector(points, loop)) > 0);
                    sum += glm::length(area_vector(points, part));
                }
                QVERIFY(std::abs(sum - area) < 1e-6);
            }
            QCOMPARE(triangles_of(points, loop).size(), size_t(n - 2));
        }
    }

    void a_way_out_is_found_through_the_first_face() {
        const FaceMesh mesh = block({2, 3, 4});
        const auto exit = exit_along(mesh, {1, 1, 1}, {0, 0, 1});
        QVERIFY(exit);
        QCOMPARE(exit->face, 1);
        QCOMPARE(exit->along, 3.0);
        QVERIFY(!exit_along(mesh, {5, 1, 1}, {0, 0, 1}));
        QVERIFY(!exit_along(mesh, {1, 1, 1}, {0, 0, 1}, 1));
    }

    void a_shell_is_as_thick_as_asked_or_none() {
        const FaceMesh mesh = block({2, 3, 4});
        const auto closed = shelled(mesh, 0.25, {});
        QVERIFY(closed);
        QVERIFY(std::abs(volume_of(closed->mesh) - (24 - 1.5 * 2.5 * 3.5)) < 1e-6);
        const auto open = shelled(mesh, 0.25, {1});
        QVERIFY(open);
        QVERIFY(std::abs(volume_of(open->mesh) - (24 - 1.5 * 2.5 * 3.75)) < 1e-6);
        QVERIFY(!shelled(mesh, 1, {})); // its walls meet in the middle
        QVERIFY(!shelled(mesh, 0, {}) && !shelled(mesh, -1, {}));
        FaceMesh torn = mesh;
        torn.faces.pop_back();
        QVERIFY(!shelled(torn, 0.25, {}));
    }
};

RUBBLE_TEST(FaceMeshTest)
#include "face_mesh_test.moc"
