#include <QtTest/QtTest>

#include <set>

#include "build/decal_pieces.h"
#include "build/dressed_face.h"
#include "build/solid_builder.h"
#include "build/surface_builder.h"
#include "check/check.h"
#include "core/level_maker.h"
#include "core/random.h"
#include "edit/dressing.h"
#include "edit/items.h"
#include "edit/lays.h"
#include "edit/prints.h"
#include "io/export_parts.h"
#include "io/gltf_export.h"
#include "io/level_file.h"
#include "io/material_file.h"
#include "io/picture_file.h"
#include "io/project_file.h"
#include "level/dressing/light.h"
#include "level/element_values.h"
#include "level/order.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::edit;
using test::LevelMaker;
using test::Random;

namespace {

bool one_place(Vec2 a, Vec2 b, double within = 1e-9) { return glm::length(a - b) < within; }

/// A PNG of one colour as far as anybody asks: what it says of itself.
PictureBytes png(const std::string& name, int width, int height) {
    Picture picture;
    picture.width = width, picture.height = height;
    picture.rgba.assign(size_t(width) * size_t(height) * 4, 200);
    return {name, "image/png", *io::png_of(picture)};
}

Material pattern(const Vec2& metres = Vec2(2)) {
    Material out;
    out.id = {"brick"}, out.metres = metres;
    out.pictures[PictureRole::color] = "materials/brick.png";
    out.read[PictureRole::color] = png("brick.png", 64, 64);
    return out;
}

Brush brush_of(const Level& level, const ItemId& id) { return *find_item(level, id)->brush(); }

struct Face {
    Vec3 normal;
    std::vector<Vec3> corners;
};

Face lying(const Brush& brush, const FaceName& name) {
    for (const NamedFace& face : named_faces(brush))
        if (face.side.name == name) {
            Face out;
            for (const Vec3& p : face.corners) out.corners.push_back(brush.place.to_level(p));
            out.normal =
                glm::normalize(glm::cross(out.corners[1] - out.corners[0], out.corners[2] - out.corners[0]));
            return out;
        }
    return {};
}

} // namespace

/// How pictures lie on faces, and which faces go together.
class DressingTest : public QObject {
    Q_OBJECT

private slots:
    void over_the_level_a_picture_runs_on_over_all_faces_in_one_plane() {
        for (int seed = 1; seed <= 40; ++seed) {
            Random random(static_cast<uint64_t>(seed));
            LevelMaker maker;
            // Boxes turned as they come, many with tops at one height.
            for (int i = 0; i < 12; ++i)
                maker.box({random.between(-8, 8), random.between(-8, 8), 0},
                          {random.between(1, 5), random.between(1, 5), double(random.whole(1, 2))},
                          random.between(0, 360));
            const build::Solid solid = build::build_solid(maker.level());
            const build::Surface surface = build::surface_of(solid);
            const Material material = pattern({random.between(0.3, 3), random.between(0.3, 3)});
            std::map<std::pair<int32_t, bool>, PicturePlace> of_plane;
            for_each_face(surface, [&](int b, const build::SurfacePart&, const build::SurfaceFace& face) {
                const Brush brush = brush_of(maker.level(), solid.brushes[size_t(b)]->item);
                const PicturePlace place = build::picture_place_of(material, brush, face);
                const bool up = glm::dot(face.normal, solid.planes->normal({face.plane, false})) > 0;
                const auto [known, is_new] = of_plane.try_emplace({face.plane, up}, place);
                const Vec3 p(random.between(-9, 9), random.between(-9, 9), random.between(0, 2));
                QVERIFY2(one_place(known->second.of(p), place.of(p)), qPrintable(QString::number(seed)));
            });
        }
    }

    void over_the_level_it_stays_and_with_the_brush_it_goes_along() {
        for (int seed = 1; seed <= 100; ++seed) {
            Random random(static_cast<uint64_t>(seed));
            Brush brush;
            brush.place.turn_deg = random.between(0, 360);
            const Material material = pattern();
            Lay lay;
            lay.turn_deg = random.between(0, 360), lay.mirrored = random.whole(0, 1);
            lay.shift = {random.between(-1, 1), random.between(-1, 1)};
            const FaceName face = BoxSide(random.whole(0, 5));
            const Vec3 by(random.between(-5, 5), random.between(-5, 5), random.between(-5, 5));
            Brush moved = brush;
            moved.place.at += by;
            const Vec3 normal = lying(brush, face).normal, p(0.3, -0.2, 0.7);
            for (const LayKind kind : {LayKind::level, LayKind::brush, LayKind::fitted}) {
                lay.kind = kind;
                const Vec2 before = picture_place(material, lay, normal, &brush, &face).of(p);
                const PicturePlace after = picture_place(material, lay, normal, &moved, &face);
                QVERIFY(one_place(before, after.of(kind == LayKind::level ? p : p + by)));
            }
        }
    }

    void walls_stand_upright_and_read_from_left_to_right() {
        const Material material = pattern({2, 4});
        // Before a wall that looks to -y one sees +x to the right and +z up.
        const PicturePlace wall = picture_place(material, {}, {0, -1, 0});
        QVERIFY(one_place(wall.of({2, 0, 0}) - wall.of({0, 0, 0}), {1, 0}));
        QVERIFY(one_place(wall.of({0, 0, 4}) - wall.of({0, 0, 0}), {0, -1})); // pictures count downward
        const PicturePlace floor = picture_place(material, {}, {0, 0, 1});
        QVERIFY(one_place(floor.of({2, 4, 0}) - floor.of({0, 0, 0}), {1, -1}));
        Lay mirrored;
        mirrored.mirrored = true;
        QVERIFY(one_place(picture_place(material, mirrored, {0, -1, 0}).of({2, 0, 0}), {-1, 0}));
        Lay turned;
        turned.turn_deg = 90; // what went right goes up
        QVERIFY(one_place(picture_place(material, turned, {0, -1, 0}).of({0, 0, 2}), {1, 0}));
    }

    void fitted_a_picture_fills_the_face() {
        for (int seed = 1; seed <= 60; ++seed) {
            Random random(static_cast<uint64_t>(seed));
            Brush brush;
            brush.place.turn_deg = random.between(0, 360);
            brush.place.at = {random.between(-9, 9), random.between(-9, 9), random.between(-9, 9)};
            brush.size = {random.between(0.5, 6), random.between(0.5, 6), random.between(0.5, 6)};
            const FaceName name = BoxSide(random.whole(0, 5));
            const Face face = lying(brush, name);
            Lay lay;
            lay.kind = LayKind::fitted, lay.turn_deg = 90 * random.whole(0, 3);
            const PicturePlace place = picture_place(pattern(), lay, face.normal, &brush, &name);
            Vec2 low(1e9), high(-1e9);
            for (const Vec3& p : face.corners)
                low = glm::min(low, place.of(p)), high = glm::max(high, place.of(p));
            QVERIFY(one_place(low, Vec2(0)) && one_place(high, Vec2(1)));
        }
    }

    void a_floor_of_six_faces_is_fitted_as_one() {
        LevelMaker maker;
        std::vector<FaceRef> faces;
        for (int x = 0; x < 3; ++x)
            for (int y = 0; y < 2; ++y)
                faces.push_back(
                    {maker.box({x * 2.0, y * 3.0, -1}, {2, 3, 1}, 90 * ((x + y) % 4) * 2), BoxSide::top});
        const Level level = with_look_fitted(maker.level(), faces, {{"brick"}, {}});
        for (const FaceRef& ref : faces) {
            const Brush brush = brush_of(level, ref.item);
            const Look look = look_of(brush, ref.face);
            QVERIFY(look.lay.kind == LayKind::fitted);
            const PicturePlace place = picture_place(pattern(), look.lay, {0, 0, 1}, &brush, &ref.face);
            // Whatever way a brush is turned, its own axes turn its part of the picture: all half-turned
            // here.
            const Vec2 at = place.of({-1, -1.5, 0}), end = place.of({5, 4.5, 0});
            QVERIFY(one_place(glm::min(at, end), Vec2(0)) && one_place(glm::max(at, end), Vec2(1)));
        }
        // Faces of two planes are not.
        QVERIFY(with_look_fitted(level, {faces[0], {faces[0].item, BoxSide::left}}, {{"brick"}, {}}) ==
                level);
    }

    void round_a_corner_a_picture_runs_on() {
        Project project;
        project.materials = {pattern({0.7, 0.9})};
        for (int seed = 1; seed <= 40; ++seed) {
            Random random(static_cast<uint64_t>(seed));
            Brush brush;
            brush.shape = random.whole(0, 1) ? Shape::cylinder : Shape::box;
            brush.sides = random.whole(3, 24);
            brush.size = {random.between(1, 4), random.between(1, 4), random.between(1, 4)};
            brush.place.at = {random.between(-9, 9), random.between(-9, 9), 0};
            brush.place.turn_deg = random.between(0, 360);
            LevelMaker maker;
            const ItemId id = maker.brush(brush);
            std::optional<FaceRef> wall;
            for (const NamedFace& face : named_faces(brush))
                if (std::abs(lying(brush, face.side.name).normal.z) < 0.1 && !wall)
                    wall = {id, face.side.name};
            const std::vector<FaceRef> ring = faces_like(maker.level(), *wall, FacesLike::ring);
            QCOMPARE(ring.size(), size_t(brush.shape == Shape::box ? 4 : brush.sides));
            Look look{{"brick"}, {}};
            look.lay.turn_deg = random.whole(0, 1) ? 0 : random.between(0, 360);
            look.lay.mirrored = random.whole(0, 1);
            Level level = with_looks(maker.level(), {ring[0]}, [&](const Look&) { return look; });
            level = with_look_run_on(project, level, ring);
            const Brush now = brush_of(level, id);
            for (size_t i = 1; i < ring.size(); ++i) {
                const Face a = lying(now, ring[i - 1].face), b = lying(now, ring[i].face);
                const PicturePlace before =
                                       picture_place(project.materials[0], look_of(now, ring[i - 1].face).lay,
                                                     a.normal, &now, &ring[i - 1].face),
                                   after = picture_place(project.materials[0], look_of(now, ring[i].face).lay,
                                                         b.normal, &now, &ring[i].face);
                int common = 0;
                for (const Vec3& p : a.corners)
                    for (const Vec3& q : b.corners)
                        if (glm::length(p - q) < 1e-6) {
                            ++common;
                            QVERIFY2(one_place(before.of(p), after.of(p), 1e-6),
                                     qPrintable(QString::number(seed)));
                        }
                QCOMPARE(common, 2);
            }
        }
    }

    void a_print_is_its_part_of_the_picture() {
        Material signs = pattern();
        signs.kind = MaterialKind::prints;
        signs.read[PictureRole::color] = png("signs.png", 200, 100);
        signs.prints["fish"] = {50, 20, 100, 40};
        Brush door;
        door.size = {1, 0.2, 2};
        Lay lay;
        lay.kind = LayKind::fitted, lay.print = "fish";
        const FaceName face = BoxSide::near;
        const PicturePlace place = picture_place(signs, lay, {0, -1, 0}, &door, &face);
        QVERIFY(one_place(place.of({-0.5, -0.1, 2}), {0.25, 0.2})); // its upper left corner
        QVERIFY(one_place(place.of({0.5, -0.1, 0}), {0.75, 0.6}));
    }

    void faces_that_go_together() {
        LevelMaker maker;
        const ItemId a = maker.box({0, 0, 0}, {2, 2, 3}), b = maker.box({2, 0, 0}, {2, 2, 3}),
                     c = maker.box({9, 0, 0}, {2, 2, 1}), cut = maker.cut({0, 0, 2}, {1, 1, 1});
        const Level level =
            with_looks(maker.level(), {{a, BoxSide::top}, {c, BoxSide::left}}, [](const Look&) {
                return Look{{"brick"}, {}};
            });
        const auto count = [&](BoxSide side, FacesLike like) {
            const auto faces = faces_like(level, {a, side}, like);
            for (const FaceRef& face : faces) {
                if (face.item == cut) return -1;
            }
            return int(faces.size());
        };
        QCOMPARE(count(BoxSide::near, FacesLike::in_plane), 3);
        QCOMPARE(count(BoxSide::top, FacesLike::in_plane), 2);
        QCOMPARE(count(BoxSide::top, FacesLike::of_direction), 3);
        QCOMPARE(count(BoxSide::top, FacesLike::of_brush), 6);
        QCOMPARE(count(BoxSide::top, FacesLike::of_material), 2);
        QCOMPARE(count(BoxSide::near, FacesLike::ring), 4);
        QCOMPARE(count(BoxSide::top, FacesLike::ring), 1);
        QVERIFY(faces_like(level, {{"nobody"}, BoxSide::top}, FacesLike::in_plane).empty());
    }

    void what_is_bare_is_counted_and_dressed_by_where_it_looks() {
        LevelMaker maker;
        const ItemId a = maker.box({0, 0, 0}, {2, 3, 4});
        Level level = maker.level();
        QCOMPARE(bare_faces(level).size(), size_t(6));
        level = with_looks(level, {{a, BoxSide::top}}, [](const Look&) { return Look{{"tile"}, {}}; });
        QCOMPARE(dressed_of(level)[0].dressed_m2, 6.0);
        QCOMPARE(dressed_of(level)[0].bare_m2, 2 * (2 * 4 + 3 * 4) + 6.0);
        QVERIFY(with_bare_dressed(level) == level); // no standard is set
        Layer layer = *level.layers[0];
        layer.standard = {{"plank"}, {"brick"}, {}};
        level.layers[0] = layer;
        level = with_bare_dressed(level);
        QCOMPARE(bare_faces(level).size(), size_t(1)); // below
        QVERIFY(look_of(brush_of(level, a), BoxSide::top).material == MaterialId{"tile"});
        QVERIFY(look_of(brush_of(level, a), BoxSide::left).material == MaterialId{"brick"});
    }

    void looks_and_materials_come_back_from_their_files() {
        for (int seed = 1; seed <= 30; ++seed) {
            Random random(static_cast<uint64_t>(seed));
            LevelMaker maker;
            const ItemId id = maker.box({0, 0, 0}, {1, 1, 1});
            Level level = with_looks(maker.level(), {{id, BoxSide(random.whole(0, 5))}}, [&](const Look&) {
                Look look{{"brick"}, {}};
                look.lay.kind = LayKind(random.whole(0, 3));
                if (random.whole(0, 1))
                    look.lay.metres = Vec2(random.between(0.1, 9), random.between(0.1, 9));
                look.lay.turn_deg = random.between(-180, 180), look.lay.mirrored = random.whole(0, 1);
                look.lay.shift = {random.between(-2, 2), random.between(-2, 2)};
                if (random.whole(0, 1)) look.lay.print = "fish";
                return look;
            });
            const auto again = io::level_from_text(io::text_of(level), "test");
            QVERIFY(again && brush_of(*again, id).looks == brush_of(level, id).looks);
        }
        Project project;
        project.materials = {pattern({1.5, 2.5})};
        project.materials[0].kind = MaterialKind::prints, project.materials[0].metal = 0.25;
        project.materials[0].prints["fish"] = {1, 2, 3, 4};
        project.materials[0].read.clear();
        const auto again = io::project_from_text(io::text_of(project), "test");
        QVERIFY(again && again->materials == project.materials);
        // Older levels name the material alone.
        const auto old = io::level_from_text(
            R"({"format":1,"name":"Old","layers":[{"id":"l","items":[{"id":"b","type":"brush","effect":"fill",
                "shape":"box","at":[0,0,0],"size":[1,1,1],"looks":{"top":"brick"}}]}]})",
            "test");
        QVERIFY(old && look_of(brush_of(*old, {"b"}), BoxSide::top).material == MaterialId{"brick"});
        for (const char* bad : {R"("../up.png")", R"("/etc/passwd")", "7"})
            QVERIFY(!io::project_from_text(
                std::string(R"({"format":1,"materials":[{"id":"a","pictures":{"color":)") + bad + "}}]}",
                "test"));
    }

    void dressing_never_changes_what_is_solid() {
        for (int seed = 1; seed <= 20; ++seed) {
            Random random(static_cast<uint64_t>(seed));
            LevelMaker maker;
            for (int i = 0; i < 8; ++i)
                maker.box({random.between(-4, 4), random.between(-4, 4), random.between(0, 2)},
                          {random.between(1, 3), random.between(1, 3), random.between(1, 3)},
                          random.between(0, 90), i % 4 == 3 ? Effect::cut : Effect::fill);
            const Level bare = maker.level();
            Level dressed = bare;
            for (const FaceRef& face : bare_faces(bare))
                if (random.whole(0, 1))
                    dressed = with_looks(dressed, {face}, [&](const Look&) {
                        return Look{{random.whole(0, 1) ? "brick" : "tile"}, {}};
                    });
            const build::Solid before = build::build_solid(bare), after = build::build_solid(dressed);
            const auto facts = build::facts_of(build::surface_of(before)),
                       now = build::facts_of(build::surface_of(after));
            QCOMPARE(now.volume_m3, facts.volume_m3);
            QVERIFY(std::abs(now.area_m2 - facts.area_m2) < 1e-6);
            QCOMPARE(now.open_edges, size_t(0));
        }
    }

    void what_is_exported_lies_as_it_is_drawn() {
        auto loaded = io::load_level_with_project(std::filesystem::path(RUBBLE_SOURCE_DIR) /
                                                  "demo-data/packing-hall/levels/packing-hall.level.json");
        QVERIFY(loaded);
        const build::Solid solid = build::build_solid(loaded->level);
        const build::Surface surface = build::surface_of(solid);
        std::map<std::array<double, 5>, int> drawn; // of corners: the place in the level, and on the picture
        size_t count = 0;
        for_each_face(surface, [&](int b, const build::SurfacePart& part, const build::SurfaceFace& face) {
            const Material* material = find_material(loaded->project, face.material);
            if (!material || !material->picture()) return;
            const Item* item = find_item(loaded->level, solid.brushes[size_t(b)]->item);
            const PicturePlace place = build::picture_place_of(*material, *item->brush(), face);
            std::set<int> seen;
            for (const auto& corner : part.loop(face)) {
                if (!seen.insert(corner.point).second) continue;
                const Vec3 p = part.point_m(corner.point);
                const Vec2 at = place.of(p);
                ++drawn[{p.x, p.y, p.z, at.x, at.y}], ++count;
            }
        });
        size_t found = 0;
        for (const io::ExportPart& part : io::export_parts(loaded->project, loaded->level))
            for (const io::ExportMesh& mesh : part.meshes)
                for (size_t i = 0; i < mesh.picture_places.size(); ++i) {
                    const Vec3& p = mesh.points[i];
                    const Vec2& at = mesh.picture_places[i];
                    int& left = drawn[{p.x, p.y, p.z, at.x, at.y}];
                    QVERIFY(--left >= 0);
                    ++found;
                }
        QVERIFY(count > 1000);
        QCOMPARE(found, count);
    }

    /// A sphere of any radius around a lamp gets in all what the lamp sends out.
    void lamps_give_what_they_send_out() {
        LevelMaker maker;
        Element lamp{"lamp", {1, 2, 3}, 0, {}};
        lamp = with_value(with_value(lamp, "lumens", 1000.0), "reach_m", 500.0);
        maker.element_with(lamp);
        const std::vector<Light> lights = lights_of(maker.level());
        QCOMPARE(lights.size(), size_t(1));
        for (const double radius : {0.5, 1.0, 2.0}) {
            double sum = 0;
            Random random(7);
            constexpr int k_tries = 2000;
            for (int i = 0; i < k_tries; ++i) {
                const double z = random.between(-1, 1), angle = random.between(0, 6.283185307);
                const Vec3 out(std::cos(angle) * std::sqrt(1 - z * z), std::sin(angle) * std::sqrt(1 - z * z),
                               z);
                sum += lux_at(lights[0], lights[0].at + out * radius, -out) / k_tries;
            }
            QVERIFY(std::abs(sum * 4 * 3.14159265 * radius * radius / 1000 - 1) < 0.01);
        }
        // Beyond its reach and behind a face nothing arrives; a cone shines along its way alone.
        Light cone = lights[0];
        cone.reach_m = 5, cone.opening_deg = 60;
        QVERIFY(lux_at(cone, cone.at - Vec3(0, 0, 5.01), {0, 0, 1}) == 0);
        QVERIFY(lux_at(cone, cone.at - Vec3(0, 0, 2), {0, 0, -1}) == 0);
        QVERIFY(lux_at(cone, cone.at - Vec3(0, 0, 2), {0, 0, 1}) >
                lux_at(lights[0], cone.at - Vec3(0, 0, 2), {0, 0, 1}));
        QVERIFY(lux_at(cone, cone.at + Vec3(2, 0, 0), {-1, 0, 0}) == 0);
        maker.element_with(with_value(lamp, "length_m", 3.0));
        QCOMPARE(lights_of(maker.level()).size(), size_t(4));
        const auto text = io::gltf_text(io::new_project("Test"), maker.level(), false);
        QVERIFY(text && text->find("KHR_lights_punctual") != std::string::npos);
    }

    void a_picture_moved_turned_and_sized_by_hand_goes_where_it_is_put() {
        Random random(21);
        for (int round = 0; round < test::rounds(200); ++round) {
            LevelMaker maker;
            const ItemId id = maker.box({random.between(-5, 5), random.between(-5, 5), random.between(-2, 2)},
                                        {random.between(1, 4), random.between(1, 4), random.between(1, 4)},
                                        random.between(0, 360));
            const Brush brush = brush_of(maker.level(), id);
            const auto faces = named_faces(brush);
            const FaceName name = faces[size_t(random.whole(0, int(faces.size()) - 1))].side.name;
            const Face face = lying(brush, name);
            const Material material = pattern({random.between(0.3, 3), random.between(0.3, 3)});
            const LaidFace laid{material, brush, name, face.normal};
            Lay lay;
            lay.kind =
                std::array{LayKind::level, LayKind::brush, LayKind::fitted}[size_t(random.whole(0, 2))];
            lay.turn_deg = random.between(-180, 180), lay.mirrored = random.chance(0.5);
            lay.shift = {random.between(-2, 2), random.between(-2, 2)};
            if (random.chance(0.5)) lay.metres = Vec2(random.between(0.2, 4), random.between(0.2, 4));
            const auto place = [&](const Lay& of) {
                return picture_place(material, of, face.normal, &brush, &name);
            };
            const Vec3 about = (face.corners[0] + face.corners[2]) * 0.5, p = face.corners[1];
            // What was seen at a place is seen where that was moved to.
            const Vec3 by = (face.corners[1] - face.corners[0]) * random.between(-1, 1);
            QVERIFY(one_place(place(edit::moved_by(laid, lay, by)).of(p + by), place(lay).of(p), 1e-6));
            // Turned and sized, the middle stays.
            const double deg = random.between(-170, 170), factor = random.between(0.3, 3);
            const Lay turned = edit::turned_about(laid, lay, about, deg),
                      sized = edit::sized_about(laid, lay, about, factor);
            QVERIFY(one_place(place(turned).of(about), place(lay).of(about), 1e-6));
            QVERIFY(one_place(place(sized).of(about), place(lay).of(about), 1e-6));
            const auto [c, s] = cos_sin(deg);
            const Vec3 out = p - about;
            const Vec3 there = about + out * c + glm::cross(face.normal, out) * s;
            QVERIFY(one_place(place(turned).of(there), place(lay).of(p), 1e-6));
            QVERIFY(one_place(place(sized).of(about + out * factor), place(lay).of(p), 1e-6));
        }
    }

    void prints_are_found_by_what_is_empty_between_them() {
        Random random(31);
        for (int round = 0; round < test::rounds(100); ++round) {
            Picture picture;
            picture.width = 200, picture.height = 120;
            const bool clear = random.chance(0.5);
            for (int i = 0; i < 200 * 120; ++i)
                for (const int v : {240, 235, 220, clear ? 0 : 255}) picture.rgba.push_back(uint8_t(v));
            // A print somewhere in each cell of a grid, or none.
            std::vector<PrintRegion> drawn;
            for (int row = 0; row < 3; ++row)
                for (int column = 0; column < 5; ++column) {
                    if (random.chance(0.3)) continue;
                    PrintRegion one{40 * column + random.whole(3, 10), 40 * row + random.whole(3, 10),
                                    random.whole(6, 24), random.whole(6, 24)};
                    drawn.push_back(one);
                    for (int y = one.y; y < one.y + one.height; ++y)
                        for (int x = one.x; x < one.x + one.width; ++x) {
                            uint8_t* p = picture.rgba.data() + 4 * (200 * y + x);
                            p[0] = 40, p[1] = uint8_t(60 + 10 * column), p[2] = 90, p[3] = 255;
                        }
                }
            const auto found = prints_by_borders(picture);
            QCOMPARE(found.size(), drawn.size());
            for (const PrintRegion& one : drawn)
                QVERIFY(
                    std::any_of(found.begin(), found.end(), [&](const auto& f) { return f.second == one; }));
            const auto cells = prints_by_grid(picture, 5, 3);
            QCOMPARE(cells.size(), drawn.size());
            for (const auto& [name, cell] : cells) QVERIFY(cell.width == 40 && cell.height == 40);
        }
        QVERIFY(prints_by_borders({}).empty() && prints_by_grid({}, 2, 2).empty());
        QVERIFY((within({-5, 90, 400, 40}, 100, 100) == PrintRegion{0, 90, 100, 10}));
    }

    void a_decal_runs_over_an_edge_and_covers_what_it_should() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {8, 8, 1});
        maker.box({2, 0, 0}, {2, 2, 1}); // a block from x = 1
        const build::Surface surface = build::surface_of(build::build_solid(maker.level()));
        Decal decal;
        decal.at = {1, 0, 0.2}, decal.width_m = 2, decal.height_m = 1, decal.depth_m = 1;
        double area = 0;
        for (const build::DecalPiece& piece : build::decal_pieces(surface, decal, pattern())) {
            Vec3 twice(0);
            for (size_t i = 1; i + 1 < piece.corners.size(); ++i)
                twice +=
                    glm::cross(piece.corners[i] - piece.corners[0], piece.corners[i + 1] - piece.corners[0]);
            QVERIFY(glm::dot(twice, piece.normal) > 0);
            area += glm::length(twice) / 2;
            for (size_t i = 0; i < piece.corners.size(); ++i) {
                const Vec2 at = piece.places[i];
                QVERIFY(at.x > -1e-9 && at.x < 1 + 1e-9 && at.y > -1e-9 && at.y < 1 + 1e-9);
                QVERIFY(one_place(at, {(piece.corners[i].x - 0) / 2, 0.5 - piece.corners[i].y}));
            }
        }
        QVERIFY(std::abs(area - 2) < 1e-9); // half on the floor, half on the block
        decal.at.z = 9;
        QVERIFY(build::decal_pieces(surface, decal, pattern()).empty());
    }

    void what_is_dressed_wrongly_is_found() {
        Project project;
        Material brick = pattern({2, 2}), sign = pattern({1, 1}); // 64 dots: 32 and 64 to the metre
        sign.id = {"sign"}, sign.kind = MaterialKind::prints;
        Material lost = pattern();
        lost.id = {"lost"}, lost.read.clear();
        project.materials = {brick, sign, lost};
        project.dots_per_m = 32;
        LevelMaker maker;
        maker.start({0, 0, 1});
        const ItemId a = maker.box({0, 0, 0}, {4, 4, 1}), b = maker.box({4, 0, 0}, {4, 4, 1});
        const auto found = [&](const Level& level, check::RuleId rule) {
            const auto result = check::check_level(project, level);
            return std::count_if(result.findings.begin(), result.findings.end(),
                                 [&](const check::Finding& f) { return f.rule == rule; });
        };
        const auto dressed = [&](const std::vector<FaceRef>& faces, const Look& look) {
            return with_looks(maker.level(), faces, [&](const Look&) { return look; });
        };
        using enum check::RuleId;
        const std::vector<FaceRef> tops{{a, BoxSide::top}, {b, BoxSide::top}};
        const Level good = dressed(tops, {{"brick"}, {}});
        for (const check::RuleId rule :
             {dress_picture_missing, dress_density, dress_print_repeats, dress_lay_jumps})
            QCOMPARE(found(good, rule), 0);
        const Level shifted = with_looks(good, {tops[0]}, [](Look look) {
            look.lay.shift.x = 0.5;
            return look;
        });
        QCOMPARE(found(shifted, dress_lay_jumps), 1);
        const Level by_repeat = with_looks(good, {tops[0]}, [](Look look) {
            look.lay.shift.x = 2;
            return look;
        });
        QCOMPARE(found(by_repeat, dress_lay_jumps), 0);
        QCOMPARE(found(dressed({tops[0]}, {{"sign"}, {}}), dress_print_repeats), 1);
        QCOMPARE(found(dressed({tops[0]}, {{"lost"}, {}}), dress_picture_missing), 1);
        Look coarse{{"brick"}, {}};
        coarse.lay.metres = Vec2(9);
        QCOMPARE(found(dressed({tops[0]}, coarse), dress_density), 1);
        QCOMPARE(found(good, dress_bare), 0); // most is bare still
        std::vector<FaceRef> most = faces_like(good, {a, BoxSide::top}, FacesLike::of_brush);
        most.push_back({b, BoxSide::top});
        most.push_back({b, BoxSide::bottom});
        QCOMPARE(found(dressed(most, {{"brick"}, {}}), dress_bare), 1);
        maker.element_with(Element{"lamp", {4, 0, 0.5}, 0, {}});
        maker.element_with(Element{"lamp", {4, 0, 3}, 0, {}});
        QCOMPARE(found(maker.level(), dress_light_in_matter), 1);
    }

    void a_pattern_is_told_from_prints_by_its_edges() {
        Picture waves;
        waves.width = waves.height = 64;
        const auto fill = [&](double periods) {
            waves.rgba.clear();
            for (int y = 0; y < 64; ++y)
                for (int x = 0; x < 64; ++x) {
                    const auto v = uint8_t(128 + 100 * std::sin(2 * 3.14159265 * periods * x / 64));
                    for (int c = 0; c < 4; ++c) waves.rgba.push_back(v);
                }
        };
        fill(3);
        QVERIFY(edges_meet(waves));
        fill(2.75);
        QVERIFY(!edges_meet(waves));
    }

    void pictures_become_materials_by_their_names() {
        Project project;
        std::vector<PictureBytes> files;
        for (const char* name : {"red_brick.png", "red_brick_normal.png", "red_brick-rough.png", "Net.png"})
            files.push_back(png(name, 8, 8));
        const std::vector<Material> made = materials_from(project, files);
        QCOMPARE(made.size(), size_t(2));
        const Material& brick = made[0].name == "Red brick" ? made[0] : made[1];
        QCOMPARE(brick.name, std::string("Red brick"));
        QCOMPARE(brick.pictures.size(), size_t(3));
        QCOMPARE(brick.pictures.at(PictureRole::normal), std::string("materials/red_brick_normal.png"));
        project.materials = made;
        // The same again are others, in files of their own.
        const std::vector<Material> again = materials_from(project, {png("Net.png", 8, 8)});
        QCOMPARE(again[0].pictures.at(PictureRole::color), std::string("materials/Net-2.png"));
        QVERIFY(!find_material(project, again[0].id));
    }

    void the_size_of_a_picture_is_read_from_whatever_bytes() {
        const std::string good = png("a.png", 31, 17).bytes;
        QCOMPARE(picture_size(good), (std::optional<std::pair<int, int>>{{31, 17}}));
        const std::string jpeg("\xFF\xD8\xFF\xE0\x00\x04\x00\x00\xFF\xC0\x00\x0B\x08\x00\x11\x00\x1F\x01",
                               18);
        QCOMPARE(picture_size(jpeg), (std::optional<std::pair<int, int>>{{31, 17}}));
        for (int seed = 1; seed <= 2000; ++seed) {
            Random random(static_cast<uint64_t>(seed));
            std::string bytes = random.whole(0, 1) ? good : jpeg;
            for (int i = random.whole(0, 6); i > 0; --i)
                bytes[size_t(random.whole(0, int(bytes.size()) - 1))] = char(random.whole(0, 255));
            bytes.resize(size_t(random.whole(0, int(bytes.size()))));
            if (const auto size = picture_size(bytes)) QVERIFY(size->first >= 0 && size->second >= 0);
        }
    }
};

RUBBLE_TEST(DressingTest)
#include "dressing_test.moc"
