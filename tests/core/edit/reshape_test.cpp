#include <QtTest/QtTest>

#include <numbers>
#include <numeric>

#include "base/angle.h"
#include "core/random.h"
#include "edit/body.h"
#include "edit/reshape.h"
#include "edit/shapes.h"
#include "level/brush_item.h"
#include "level/brush_shape.h"
#include "level/mesh_cleaning.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::edit;
using test::Random;

namespace {

bool near(double a, double b, double within = 1e-6) {
    return std::abs(a - b) <= within * std::max(1.0, std::abs(b));
}

Brush of(Shape shape, const Vec3& size) {
    Brush brush;
    brush.shape = shape;
    brush.size = size;
    return brush;
}

/// A block of 4 × 2 × 3 whose low corner is at (-2, -1, 0).
FaceMesh block() { return mesh_of(*as_body(of(Shape::box, {4, 2, 3}))); }

int face_towards(const FaceMesh& mesh, const Vec3& way) {
    int best = 0;
    for (int f = 0; f < int(mesh.faces.size()); ++f)
        if (glm::dot(normal_of(mesh.points, mesh.faces[size_t(f)]), way) >
            glm::dot(normal_of(mesh.points, mesh.faces[size_t(best)]), way) + 1e-9)
            best = f;
    return best;
}

int point_at(const FaceMesh& mesh, const Vec3& at) {
    for (int p = 0; p < int(mesh.points.size()); ++p)
        if (glm::length(mesh.points[size_t(p)] - at) < 1e-6) return p;
    return -1;
}

MeshEdge edge_at(const FaceMesh& mesh, const Vec3& a, const Vec3& b) {
    return {point_at(mesh, a), point_at(mesh, b)};
}

std::set<int> points_where(const FaceMesh& mesh, const std::function<bool(const Vec3&)>& is) {
    std::set<int> out;
    for (int p = 0; p < int(mesh.points.size()); ++p)
        if (is(mesh.points[size_t(p)])) out.insert(p);
    return out;
}

std::set<int> all_faces(const FaceMesh& mesh) {
    std::set<int> out;
    for (int f = 0; f < int(mesh.faces.size()); ++f) out.insert(f);
    return out;
}

} // namespace

class ReshapeTest : public QObject {
    Q_OBJECT

private slots:
    void a_ring_of_edges_and_a_row_of_faces_go_round() {
        const auto box = as_body(of(Shape::box, {2, 2, 2}));
        FaceMesh mesh = mesh_of(*box);
        for (int f = 0; f < 6; ++f) {
            const auto& loop = mesh.faces[size_t(f)];
            for (size_t i = 0; i < 4; ++i) {
                const MeshEdge edge{loop[i], loop[(i + 1) % 4]};
                QCOMPARE(ring_of(mesh, edge).size(), size_t(4));
                const auto row = face_row(mesh, f, edge);
                QCOMPARE(row.size(), size_t(4));
                QVERIFY(row.contains(f));
            }
        }
        // Split twice, a ring across has as many edges as before, one along has more.
        const MeshEdge first{mesh.faces[0][0], mesh.faces[0][1]};
        const Reshaped split = ring_split(mesh, first, {0.3, 0.6});
        QVERIFY(split.done);
        QCOMPARE(face_row(split.mesh, int(split.mesh.faces.size()) - 1,
                          MeshEdge{split.mesh.faces.back()[0], split.mesh.faces.back()[1]})
                         .size() >= 4,
                 true);
        // A cylinder's lids end no row, and have none.
        const auto tube = as_body(of(Shape::cylinder, {4, 4, 3}));
        const FaceMesh round = mesh_of(*tube);
        for (int f = 0; f < int(round.faces.size()); ++f) {
            const auto& loop = round.faces[size_t(f)];
            size_t longest = 0;
            for (size_t i = 0; i < loop.size(); ++i)
                longest =
                    std::max(longest, face_row(round, f, {loop[i], loop[(i + 1) % loop.size()]}).size());
            QCOMPARE(longest, loop.size() == 4 ? round.faces.size() - 2 : size_t(1));
        }
    }

    void every_shape_becomes_a_body_of_the_same_volume() {
        for (const Shape shape : {Shape::box, Shape::ramp, Shape::stairs, Shape::curved_stairs,
                                  Shape::cylinder, Shape::cone, Shape::ball, Shape::arch}) {
            const auto body = as_body(of(shape, {4, 4, 3}));
            QVERIFY2(body, std::to_string(int(shape)).c_str());
            QCOMPARE(problem_of(*body), std::string());
        }
        Brush holed = of(Shape::outline, {6, 6, 2});
        holed.points = {{-3, -3}, {3, -3}, {3, 3}, {-3, 3}};
        holed.holes = {{{-1, -1}, {-1, 1}, {1, 1}, {1, -1}}};
        QVERIFY(near(volume_of(mesh_of(*as_body(holed))), 2 * (36 - 4)));
        Brush yard = of(Shape::wall_run, {1, 1, 2});
        yard.points = {{0, 0}, {6, 0}, {6, 4}, {0, 4}};
        yard.closed = true;
        QVERIFY(near(volume_of(mesh_of(*as_body(yard))), (6.5 * 4.5 - 5.5 * 3.5) * 2));
        QVERIFY(near(volume_of(mesh_of(*as_body(of(Shape::stairs, {4, 2, 3})))), 24.0 * 9 / 16));
    }

    void a_moved_point_takes_its_faces_along() {
        const Reshaped lifted = points_moved(block(), {point_at(block(), {2, 1, 3})}, {0, 0, 1});
        QVERIFY(lifted.done && lifted.part == 1);
        // A pyramid over half of the top: 4 × 2 / 2 of ground, 1 high.
        QVERIFY(near(volume_of(lifted.mesh), 24 + 4.0 / 3));
        QCOMPARE(lifted.mesh.faces.size(), size_t(7)); // the top in two; the walls stayed plane
        QCOMPARE(flaw_of(lifted.mesh), MeshFlaw::none);
    }

    void an_edge_and_a_face_move_as_their_points() {
        const FaceMesh mesh = block();
        const auto ridge = points_where(mesh, [](const Vec3& p) { return p.x > 0 && p.z > 0; });
        const Reshaped sloped = points_moved(mesh, ridge, {0, 0, 2});
        QVERIFY(sloped.done);
        QVERIFY(near(volume_of(sloped.mesh), 4 * 2 * 4));
        QCOMPARE(sloped.mesh.faces.size(), size_t(6));
        const Reshaped wider = face_pushed(mesh, face_towards(mesh, {1, 0, 0}), -1.5);
        QVERIFY(wider.done && wider.part == 1);
        QVERIFY(near(volume_of(wider.mesh), 2.5 * 2 * 3));
        QCOMPARE(wider.mesh.faces.size(), size_t(6));
    }

    void what_would_turn_inside_out_stops_at_the_limit() {
        const FaceMesh mesh = block();
        const auto right = points_where(mesh, [](const Vec3& p) { return p.x > 0; });
        const Reshaped through = points_moved(mesh, right, {-6, 0, 0});
        QVERIFY(through.done);
        QVERIFY(through.part > 0.6 && through.part < 4.0 / 6); // short of the other side, 4 m away
        QCOMPARE(flaw_of(through.mesh), MeshFlaw::none);
    }

    void a_point_dragged_onto_its_neighbour_becomes_one_with_it() {
        const FaceMesh mesh = block();
        const Reshaped wedge = points_moved(mesh, {point_at(mesh, {2, 1, 3})}, {0, 0, -3});
        QVERIFY(wedge.done && wedge.part == 1);
        QCOMPARE(wedge.mesh.points.size(), size_t(7));
        QVERIFY(near(volume_of(wedge.mesh), 24 - 4.0)); // less the corner over half of the top
    }

    void a_face_pushed_out_makes_new_matter_and_in_makes_a_pocket() {
        const FaceMesh mesh = block();
        const int top = face_towards(mesh, {0, 0, 1});
        const Reshaped inner = face_inset(mesh, top, 0.5);
        QVERIFY(inner.done);
        QCOMPARE(inner.mesh.faces.size(), size_t(10));
        QVERIFY(near(glm::length(area_vector(inner.mesh.points, inner.mesh.faces[size_t(top)])), 3 * 1));
        const Reshaped tower = face_pushed(inner.mesh, top, 2);
        QVERIFY(near(volume_of(tower.mesh), 24 + 6));
        const Reshaped pool = face_pushed(inner.mesh, top, -1);
        QVERIFY(pool.done && pool.part == 1);
        QVERIFY(near(volume_of(pool.mesh), 24 - 3));
        QVERIFY(!is_convex(pool.mesh));
    }

    void a_pocket_pushed_on_goes_through() {
        const FaceMesh mesh = block();
        const int top = face_towards(mesh, {0, 0, 1});
        const Reshaped inner = face_inset(mesh, top, 0.5);
        const Reshaped hole = face_pushed(inner.mesh, top, -5);
        QVERIFY(hole.done && hole.part == 1);
        QVERIFY(near(volume_of(hole.mesh), 24 - 3 * 3));
        // A ring has as many edges as points and faces together.
        const int edges = int(edge_faces(hole.mesh).size()) / 2;
        QCOMPARE(int(hole.mesh.points.size()) - edges + int(hole.mesh.faces.size()), 0);
        const Reshaped again = face_pushed(mesh, top, -5); // the whole of a block cannot be pushed through
        QVERIFY(again.part < 1);
    }

    void an_inset_is_at_most_as_wide_as_the_face_allows() {
        const Reshaped inner = face_inset(block(), face_towards(block(), {0, 0, 1}), 1.7);
        QVERIFY(inner.done && inner.part < 1 / 1.7 && inner.part > 0.9 / 1.7);
    }

    void a_ring_is_split_all_the_way_round() {
        const FaceMesh mesh = block();
        const MeshEdge edge = edge_at(mesh, {-2, -1, 0}, {2, -1, 0});
        QCOMPARE(edge_ring(mesh, edge).size(), size_t(4));
        const Reshaped cut = ring_split(mesh, edge, {0.25, 0.5, 0.75});
        QVERIFY(cut.done);
        QCOMPARE(cut.mesh.faces.size(), size_t(4 * 4 + 2));
        QCOMPARE(cut.mesh.points.size(), size_t(8 + 3 * 4));
        QCOMPARE(cut.edges.size(), size_t(3 * 4));
        QVERIFY(near(volume_of(cut.mesh), 24));
        for (const MeshEdge& e : cut.edges)
            QCOMPARE(cut.mesh.points[size_t(e.a)].x, cut.mesh.points[size_t(e.b)].x);
        // The row of new points bends the wall.
        const auto middle = points_where(cut.mesh, [](const Vec3& p) { return std::abs(p.x) < 0.1; });
        QCOMPARE(middle.size(), size_t(4));
        const Reshaped bent = points_moved(cut.mesh, middle, {0, 0.6, 0});
        QVERIFY(bent.done && bent.part == 1);
        QVERIFY(near(volume_of(bent.mesh), 24));
        // Joined and straightened it is the block again.
        QCOMPARE(faces_joined(cut.mesh, all_faces(cut.mesh)).mesh.faces.size(), size_t(6));
        QCOMPARE(faces_joined(cut.mesh, all_faces(cut.mesh)).mesh.points.size(), size_t(8));
    }

    void a_knife_cuts_all_faces_on_its_way() {
        const geometry::HalfSpace plane{glm::normalize(Vec3(1, 0, 1)), -1.5 / std::sqrt(2.0)}; // x + z = 1.5
        const Reshaped cut = cut_across(block(), plane);
        QVERIFY(cut.done);
        QCOMPARE(cut.edges.size(), size_t(4));
        QCOMPARE(cut.mesh.faces.size(), size_t(10));
        QVERIFY(near(volume_of(cut.mesh), 24));
        const auto parts = parted(block(), plane);
        QCOMPARE(parts.size(), size_t(2));
        QVERIFY(near(volume_of(parts[0]) + volume_of(parts[1]), 24));
        QVERIFY(near(volume_of(parts[0]), (3.5 * 3.5 - 0.5 * 0.5) / 2 * 2));
        QVERIFY(parted(block(), {{0, 0, 1}, -5}).empty()); // above it
        // Across a pocket the lid has a hole.
        const FaceMesh pool = face_pushed(face_inset(block(), face_towards(block(), {0, 0, 1}), 0.5).mesh,
                                          face_towards(block(), {0, 0, 1}), -1)
                                  .mesh;
        const auto rim = parted(pool, {{0, 0, 1}, -2.5});
        QCOMPARE(rim.size(), size_t(2));
        QVERIFY(near(volume_of(rim[1]), (8 - 3) * 0.5));
        QVERIFY(near(volume_of(rim[0]), 4 * 2 * 2.5 - 3 * 0.5));
    }

    void a_chamfer_takes_a_prism_away_and_a_round_edge_less() {
        const FaceMesh mesh = block();
        const MeshEdge edge = edge_at(mesh, {2, -1, 0}, {2, -1, 3});
        const Reshaped flat = edges_rounded(mesh, {edge}, 0.4, 1);
        QVERIFY(flat.done && flat.part == 1);
        QVERIFY(near(volume_of(flat.mesh), 24 - 0.4 * 0.4 / 2 * 3));
        QCOMPARE(flat.mesh.faces.size(), size_t(7));
        const Reshaped round = edges_rounded(mesh, {edge}, 0.4, 16);
        QVERIFY(near(volume_of(round.mesh), 24 - 0.16 * (1 - std::numbers::pi / 4) * 3, 1e-4));
        QCOMPARE(round.mesh.faces.size(), size_t(6 + 16));
    }

    void all_edges_of_a_block_are_rounded() {
        const FaceMesh mesh = block();
        std::set<MeshEdge> all;
        for (const auto& [edge, face] : edge_faces(mesh)) all.insert({edge.first, edge.second});
        const double r = 0.5;
        const Reshaped round = edges_rounded(mesh, all, r, 8);
        QVERIFY(round.done && round.part == 1);
        // A box of (a - 2r)... with quarter cylinders along its edges and an eighth of a ball at its corners.
        const double a = 4 - 2 * r, b = 2 - 2 * r, c = 3 - 2 * r, pi = std::numbers::pi;
        const double volume =
            a * b * c + 2 * r * (a * b + b * c + c * a) + pi * r * r * (a + b + c) + 4 * pi / 3 * r * r * r;
        QVERIFY(near(volume_of(round.mesh), volume, 0.01));
        QVERIFY(is_convex(round.mesh));
        const Reshaped flat = edges_rounded(mesh, all, r, 1);
        QCOMPARE(flat.mesh.faces.size(), size_t(6 + 12 + 8));
        // Two edges that meet, and the rim of the top.
        QVERIFY(edges_rounded(mesh,
                              {edge_at(mesh, {2, -1, 3}, {2, 1, 3}), edge_at(mesh, {2, 1, 3}, {-2, 1, 3})},
                              0.3, 4)
                    .done);
        std::set<MeshEdge> rim;
        for (const MeshEdge& e : all)
            if (mesh.points[size_t(e.a)].z > 1 && mesh.points[size_t(e.b)].z > 1) rim.insert(e);
        QCOMPARE(rim.size(), size_t(4));
        QVERIFY(edges_rounded(mesh, rim, 0.3, 4).done);
    }

    void rounding_is_no_wider_than_there_is_room() {
        const FaceMesh mesh = block();
        const Reshaped round = edges_rounded(mesh, {edge_at(mesh, {2, -1, 0}, {2, -1, 3})}, 9, 4);
        QVERIFY(round.done && round.part * 9 < 2);
    }

    void a_bent_face_is_straightened() {
        const FaceMesh mesh = block();
        const FaceMesh bent = points_moved(mesh, {point_at(mesh, {2, 1, 3})}, {0, 0, 0.4}).mesh;
        std::set<int> top;
        for (int f = 0; f < int(bent.faces.size()); ++f)
            if (normal_of(bent.points, bent.faces[size_t(f)]).z > 0.5) top.insert(f);
        QCOMPARE(top.size(), size_t(2));
        const Reshaped straight = faces_straightened(bent, top);
        QVERIFY(straight.done);
        QCOMPARE(straight.mesh.faces.size(), size_t(6));
        QCOMPARE(flaw_of(straight.mesh), MeshFlaw::none);
    }

    void points_are_welded_aligned_and_turned() {
        FaceMesh mesh = ring_split(block(), edge_at(block(), {-2, -1, 0}, {2, -1, 0}), {0.5, 0.505}).mesh;
        QCOMPARE(mesh.points.size(), size_t(16));
        const Reshaped one = points_welded(mesh, 0.05);
        QVERIFY(one.done);
        QCOMPARE(one.mesh.points.size(), size_t(12));
        QVERIFY(!points_welded(block(), 0.05).done);
        const auto right = points_where(block(), [](const Vec3& p) { return p.x > 0; });
        std::map<int, Vec3> places;
        for (const int p : right)
            places[p] = Vec3(1, block().points[size_t(p)].y, block().points[size_t(p)].z);
        QVERIFY(near(volume_of(points_put(block(), places).mesh), 3 * 2 * 3));
        const auto top = points_where(block(), [](const Vec3& p) { return p.z > 1; });
        const Reshaped twisted = points_turned(block(), top, {0, 0, 0}, {0, 0, 1}, 20);
        QVERIFY(twisted.done && twisted.part == 1);
        QCOMPARE(twisted.mesh.faces.size(), size_t(10)); // each wall in two triangles
    }

    void every_random_change_leaves_a_closed_body() {
        Random random(2501);
        int done = 0, tried = 0, concave = 0, kept = 0;
        std::map<int, int> of_kind;
        while (tried < test::rounds(1000)) {
            const Shape shapes[] = {Shape::box, Shape::ramp, Shape::cylinder, Shape::stairs, Shape::arch};
            Brush brush =
                of(shapes[random.whole(0, 4)],
                   {random.stepped(1, 6, 0.5), random.stepped(1, 6, 0.5), random.stepped(1, 4, 0.5)});
            brush.sides = random.whole(3, 8), brush.steps = random.whole(2, 5), brush.thickness_m = 0.2;
            Brush body = *as_body(brush);
            std::set<int> ever = numbers_of(body);
            FaceMesh mesh = mesh_of(body);
            for (int step = 0; step < 10; ++step, ++tried) {
                const int kind = random.whole(0, 9);
                const Reshaped next = any_change(random, mesh, kind);
                QCOMPARE(flaw_of(next.mesh), MeshFlaw::none);
                QVERIFY(volume_of(next.mesh) > 0);
                for (const int p : next.points) QVERIFY(p < int(next.mesh.points.size()));
                for (const int f : next.faces) QVERIFY(f < int(next.mesh.faces.size()));
                for (const MeshEdge& e : next.edges) QVERIFY(e.b < int(next.mesh.points.size()));
                if (!next.done) continue;
                const Brush before = body;
                body = with_mesh(body, next.mesh);
                QCOMPARE(problem_of(body), std::string());
                kept += check_names(before, body, ever);
                ++done, ++of_kind[kind], concave += !is_convex(next.mesh);
                if (next.mesh.faces.size() >= 120) body = before;
                mesh = mesh_of(body);
            }
        }
        qInfo("%d of %d changes done, %d leave a concave body", done, tried, concave);
        for (const auto& [kind, count] : of_kind) qInfo("kind %d: %d", kind, count);
        qInfo("%d faces kept their names", kept);
        QVERIFY(kept > done);
        QVERIFY(done > tried / 2);
        QVERIFY(of_kind.size() >= 9);
    }

    void looks_go_along_with_faces() {
        Brush body = *as_body(of(Shape::box, {4, 4, 2}));
        const auto find = [&](const Vec3& normal) {
            for (int f = 0; f < int(body.faces.size()); ++f)
                if (glm::dot(normal_of(body.corners, body.faces[size_t(f)]), normal) > 0.999) return f;
            return -1;
        };
        body.looks[body_face_name(body, find({0, 0, 1}))] = {{"brick"}, {}};
        // Split, both parts have the look; joined again, the one.
        const Reshaped cut = cut_across(mesh_of(body), {{1, 0, 0}, -0.5});
        QVERIFY(cut.done);
        const Brush parts = with_mesh(body, cut.mesh);
        QCOMPARE(parts.looks.size(), size_t(2));
        const Brush joined = with_mesh(parts, faces_joined(cut.mesh, all_faces(cut.mesh)).mesh);
        QCOMPARE(joined.looks, body.looks);
        // Pushed, the face keeps it, and the walls around it have none.
        const Brush pushed = with_mesh(body, face_pushed(mesh_of(body), find({0, 0, 1}), 1).mesh);
        QCOMPARE(pushed.looks, body.looks);
        // A body that ran out of numbers is not kept as one that could not be opened.
        Brush last = body;
        last.next_face_number = most_face_number + 1;
        QCOMPARE(problem_of(last), std::string());
        QCOMPARE(problem_of(with_mesh(last, cut.mesh)), std::string("face_numbers"));
        // Of a joined face the larger's.
        Brush two = parts;
        for (auto& [face, look] : two.looks) look = {{"plank"}, {}};
        const auto area = [&](const FaceName& name) {
            for (int f = 0; f < int(two.faces.size()); ++f)
                if (body_face_name(two, f) == name)
                    return glm::length(area_vector(two.corners, two.faces[size_t(f)]));
            return 0.0;
        };
        auto larger = two.looks.begin();
        for (auto look = two.looks.begin(); look != two.looks.end(); ++look)
            if (area(look->first) > area(larger->first)) larger = look;
        larger->second = {"tile"};
        const Brush one = with_mesh(two, faces_joined(cut.mesh, all_faces(cut.mesh)).mesh);
        QCOMPARE(one.looks.size(), size_t(1));
        QCOMPARE(one.looks.begin()->second.material.value, std::string("tile"));
    }

    /// Whatever the shape, each of its faces in a plane of its own has a name of its own, its looks survive
    /// being mirrored twice, and go to the body made of it and to other shapes.
    void every_shape_names_its_faces() {
        for (int shape = 0; shape <= int(Shape::wall_run); ++shape) {
            Brush brush = of(Shape(shape), {4, 3, 2});
            brush.sides = 8, brush.steps = 4, brush.thickness_m = 0.25;
            if (brush.shape == Shape::pipe) brush.size.z = 0.8;
            if (brush.shape == Shape::outline || brush.shape == Shape::wall_run)
                brush.points = {{-2, -1.5}, {2, -1.5}, {2, 1.5}, {-1, 1}};
            brush = measured(brush);
            QCOMPARE(problem_of(brush), std::string());
            std::map<FaceName, Vec3> normals;
            int faces = 0;
            for (const NamedFace& face : named_faces(brush)) {
                FaceMesh::Loop loop(face.corners.size());
                std::iota(loop.begin(), loop.end(), 0);
                const Vec3 normal = normal_of(face.corners, loop);
                const auto [same, is_new] = normals.emplace(face.side.name, normal);
                QVERIFY2(glm::dot(same->second, normal) > 0.999,
                         qPrintable(QString("shape %1: %2").arg(shape).arg(key_of(face.side.name).c_str())));
                ++faces;
                QCOMPARE(face_name_from(key_of(face.side.name)), std::optional(face.side.name));
            }
            const FaceName first = normals.begin()->first;
            brush.looks[first] = {{"brick"}, {}};
            const Brush twice = mirrored_once(mirrored_once(brush));
            QVERIFY2(twice.looks == brush.looks, qPrintable(QString::number(shape)));
            const auto body = as_body(brush);
            QVERIFY(body);
            QVERIFY2(!body->looks.empty(), qPrintable(QString::number(shape)));
            QVERIFY(normals.size() >= 4 && faces >= int(normals.size()));
        }
        // A box that becomes a cylinder and a box again keeps its top.
        Brush box = of(Shape::box, {2, 2, 2});
        box.looks[BoxSide::top] = {{"brick"}, {}};
        const Brush round = with_shape(box, Shape::cylinder, {}, {});
        QCOMPARE(round.looks, box.looks);
        QCOMPARE(with_shape(round, Shape::box, {}, {}).looks, box.looks);
    }

private:
    static Brush mirrored_once(const Brush& brush) {
        return rubble::transformed(brush, Transform::mirroring({}));
    }
    static std::set<int> numbers_of(const Brush& body) {
        std::set<int> out;
        for (int f = 0; f < int(body.faces.size()); ++f) out.insert(body_face_name(body, f).number);
        return out;
    }
    /// Numbers are never used twice, and a face that lies where it lay, alone in its plane, has the number
    /// that it had. Gives how many did.
    static int check_names(const Brush& before, const Brush& after, std::set<int>& ever) {
        const std::set<int> was = numbers_of(before), now = numbers_of(after);
        if (now.size() != after.faces.size()) qFatal("two faces of one name");
        for (const int number : now)
            if (!was.contains(number) && ever.contains(number)) qFatal("the name of a face that is gone");
        ever.insert(now.begin(), now.end());
        const auto in_plane = [](const Brush& body, const Vec3& normal, const Vec3& on) {
            std::vector<int> out;
            for (int f = 0; f < int(body.faces.size()); ++f) {
                const auto& loop = body.faces[size_t(f)];
                if (glm::dot(normal_of(body.corners, loop), normal) > 1 - 1e-5 &&
                    std::abs(glm::dot(middle_of(body.corners, loop) - on, normal)) < 1e-3)
                    out.push_back(f);
            }
            return out;
        };
        int kept = 0;
        for (int f = 0; f < int(before.faces.size()); ++f) {
            const auto& loop = before.faces[size_t(f)];
            const Vec3 normal = normal_of(before.corners, loop), on = middle_of(before.corners, loop);
            const std::vector<int> then = in_plane(after, normal, on);
            if (in_plane(before, normal, on).size() != 1 || then.size() != 1) continue;
            std::set<std::array<double, 3>> corners, corners_then;
            for (const int p : loop)
                corners.insert(
                    {before.corners[size_t(p)].x, before.corners[size_t(p)].y, before.corners[size_t(p)].z});
            for (const int p : after.faces[size_t(then[0])])
                corners_then.insert(
                    {after.corners[size_t(p)].x, after.corners[size_t(p)].y, after.corners[size_t(p)].z});
            if (corners != corners_then) continue;
            if (body_face_name(after, then[0]) != body_face_name(before, f)) qFatal("a face lost its name");
            ++kept;
        }
        return kept;
    }

    static Reshaped any_change(Random& random, const FaceMesh& mesh, int kind) {
        const int face = random.whole(0, int(mesh.faces.size()) - 1);
        const auto& loop = mesh.faces[size_t(face)];
        const size_t i = size_t(random.whole(0, int(loop.size()) - 1));
        const MeshEdge edge(loop[i], loop[(i + 1) % loop.size()]);
        auto some = [&] { return random.between(-1.5, 1.5); };
        switch (kind) {
        case 0:
            return points_moved(mesh, {loop[i]}, {some(), some(), some()});
        case 1:
            return points_moved(mesh, {edge.a, edge.b}, {some(), some(), some()});
        case 2:
            return face_pushed(mesh, face, some());
        case 3:
            return face_inset(mesh, face, random.between(0.05, 0.6));
        case 4:
            return ring_split(mesh, edge, {random.between(0.1, 0.4), random.between(0.5, 0.9)});
        case 5: {
            const Vec3 normal = glm::normalize(Vec3(some(), some(), some()) + Vec3(0.01));
            return cut_across(mesh, {normal, -glm::dot(normal, middle_of(mesh.points, loop))});
        }
        case 6:
            return edges_rounded(mesh, {edge}, random.between(0.05, 0.5), random.whole(1, 4));
        case 7:
            return faces_joined(mesh, all_faces(mesh));
        case 8:
            return points_turned(mesh, std::set<int>(loop.begin(), loop.end()), middle_of(mesh.points, loop),
                                 normal_of(mesh.points, loop), random.between(-40, 40));
        default:
            return points_put(mesh, {{edge.a, mesh.points[size_t(edge.a)] + Vec3(some(), 0, 0)},
                                     {edge.b, mesh.points[size_t(edge.b)] + Vec3(0, some(), 0)}});
        }
    }
};

RUBBLE_TEST(ReshapeTest)
#include "reshape_test.moc"
