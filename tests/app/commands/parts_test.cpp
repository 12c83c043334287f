#include <QtTest/QtTest>

#include "build/surface_builder.h"
#include "core/level_maker.h"
#include "core/random.h"
#include "difference_text.h"
#include "edit/brushes.h"
#include "edit/items.h"
#include "io/level_file.h"
#include "level/order.h"
#include "play/walker.h"
#include "session/session.h"
#include "test_program.h"
#include "tools/snap.h"
#include "view/camera.h"
#include "view/picking.h"

using namespace rubble;
using namespace rubble::app;
using test::LevelMaker;
using test::Random;

namespace {

Camera random_camera(Random& random, Camera::Kind kind) {
    Camera camera;
    camera.kind = kind;
    camera.size = {double(random.whole(200, 1600)), double(random.whole(200, 1000))};
    camera.target = {random.between(-20, 20), random.between(-20, 20), random.between(-3, 6)};
    camera.heading_deg = random.between(-180, 180);
    camera.tilt_deg = random.between(-60, 85);
    camera.distance_m = random.between(1, 60);
    camera.field_deg = random.between(30, 90);
    return camera;
}

QPointF random_pixel(Random& random, const Camera& camera) {
    return {random.between(0, camera.size.width()), random.between(0, camera.size.height())};
}

std::shared_ptr<const motion::World> world_of(const Level& level) {
    return std::make_shared<motion::World>(motion::world_of(build::build_solid(level)));
}

size_t faces_in(const SceneMesh& mesh) {
    size_t count = 0;
    for (const auto& chunk : mesh.chunks) count += chunk->faces.size();
    return count;
}

} // namespace

/// The parts of the window that need no window.
class PartsTest : public QObject {
    Q_OBJECT

private slots:
    void chunks_of_the_picture_that_nothing_changed_stay() {
        LevelMaker maker;
        for (int i = 0; i < 200; ++i) maker.box({3.0 * i, 0, 0}, {1, 1, 1});
        Level level = maker.level();
        build::SolidBuilder solids;
        build::SurfaceBuilder surfaces;
        SceneMesher mesher;
        const std::vector<bool> seen(200, false);
        const SceneMesh before = mesher.build({}, surfaces.build(solids.build(level)), seen);
        const std::vector<ItemId> moved{level.layers[0]->items[70]->id};
        level = edit::moved(level, moved, {0, 0.25, 0});
        const SceneMesh after = mesher.build({}, surfaces.build(solids.build(level)), seen);
        QCOMPARE(after.chunks.size(), before.chunks.size());
        for (size_t c = 0; c < after.chunks.size(); ++c)
            QCOMPARE(after.chunks[c] != before.chunks[c], c == 1);
        QCOMPARE(faces_in(after), faces_in(before));
    }

    void a_place_on_the_ray_of_a_pixel_is_seen_at_that_pixel() {
        Random random(501);
        for (int n = 0; n < 200; ++n) {
            const Camera camera = random_camera(random, Camera::Kind(n % 4));
            const QPointF pixel = random_pixel(random, camera);
            const Ray ray = camera.ray(pixel);
            QVERIFY(std::abs(glm::length(ray.direction) - 1) < 1e-12);
            const auto seen = camera.to_screen(ray.at(random.between(0.5, 80)));
            QVERIFY(seen);
            QVERIFY2((*seen - pixel).manhattanLength() < 1e-6,
                     qPrintable(QString::number((*seen - pixel).x())));
        }
    }

    void places_behind_the_eye_are_not_seen() {
        Camera camera;
        QVERIFY(!camera.to_screen(camera.eye() - camera.forward()));
        QVERIFY(camera.to_screen(camera.target));
    }

    void zooming_keeps_the_place_under_the_pointer() {
        Random random(502);
        for (int n = 0; n < 100; ++n) {
            const Camera camera = random_camera(random, Camera::Kind(n % 4));
            const QPointF pixel = random_pixel(random, camera);
            const Ray ray = camera.ray(pixel);
            // The place at the depth of what is looked at.
            const double depth = glm::dot(camera.target - ray.from, camera.forward()) /
                                 glm::dot(ray.direction, camera.forward());
            const auto after = camera.zoomed(random.between(0.6, 1.5), pixel).to_screen(ray.at(depth));
            QVERIFY(after && (*after - pixel).manhattanLength() < 1e-5);
        }
    }

    void panning_takes_the_place_along_with_the_pointer() {
        Random random(503);
        for (int n = 0; n < 100; ++n) {
            const Camera camera = random_camera(random, Camera::Kind(n % 4));
            const QPointF by(random.between(-80, 80), random.between(-80, 80));
            const auto before = camera.to_screen(camera.target),
                       after = camera.panned(by).to_screen(camera.target);
            QVERIFY(before && after && (*after - *before - by).manhattanLength() < 1e-6);
        }
    }

    void a_framed_box_lies_in_the_view() {
        Random random(504);
        for (int n = 0; n < 100; ++n) {
            const Vec3 low(random.between(-30, 0), random.between(-30, 0), random.between(-3, 0));
            const Box3 box{low,
                           low + Vec3(random.between(1, 60), random.between(1, 60), random.between(1, 12))};
            const Camera camera = random_camera(random, Camera::Kind(n % 4)).framing(box);
            for (int i = 0; i < 8; ++i) {
                const auto at =
                    camera.to_screen({i & 1 ? box.high.x : box.low.x, i & 2 ? box.high.y : box.low.y,
                                      i & 4 ? box.high.z : box.low.z});
                QVERIFY(at && QRectF(QPointF(-1, -1), camera.size + QSizeF(2, 2)).contains(*at));
            }
        }
    }

    void a_level_fills_the_view_and_stays_within() {
        Random random(505);
        double parts = 0;
        for (int n = 0; n < 100; ++n) {
            const Vec3 low(random.between(-30, 0), random.between(-30, 0), random.between(-3, 0));
            const Box3 box{low,
                           low + Vec3(random.between(8, 60), random.between(8, 60), random.between(1, 12))};
            Camera camera = random_camera(random, Camera::Kind::free);
            camera.tilt_deg = random.between(20, 60); // as one looks at a whole level
            const Camera filled = camera.filling({box});
            QRectF seen;
            for (int i = 0; i < 8; ++i) {
                const auto at =
                    filled.to_screen({i & 1 ? box.high.x : box.low.x, i & 2 ? box.high.y : box.low.y,
                                      i & 4 ? box.high.z : box.low.z});
                QVERIFY(at);
                seen = seen.isNull() ? QRectF(*at, QSizeF(1e-9, 1e-9))
                                     : seen.united(QRectF(*at, QSizeF(1e-9, 1e-9)));
            }
            QVERIFY(QRectF(QPointF(0, 0), filled.size).contains(seen));
            // In one of both directions hardly any of the view is left, but where much of the box is very
            // near.
            parts += std::max(seen.width() / filled.size.width(), seen.height() / filled.size.height());
        }
        QVERIFY2(parts > 0.85 * 100, qPrintable(QString::number(parts)));
    }

    void picking_takes_the_nearest_of_very_many() {
        LevelMaker maker;
        for (int i = 0; i < 20; ++i)
            for (int k = 0; k < 20; ++k) maker.box({2.0 * i, 2.0 * k, 0}, {1, 1, 0.5 + (i * 7 + k * 3) % 5});
        const auto surface = build::surface_of(build::build_solid(maker.level()));
        const PickBoxes boxes = boxes_of(surface);
        Random random(506);
        for (int n = 0; n < 200; ++n) {
            const Vec3 from(random.between(-10, 50), random.between(-10, 50), random.between(6, 20)),
                to(random.between(0, 40), random.between(0, 40), 0);
            const Ray ray{from, glm::normalize(to - from)};
            const auto hit = pick(boxes, {}, ray, 1e6);
            // The nearest of all faces, each asked by itself.
            double nearest = 1e9;
            for (size_t brush = 0; brush < surface.brushes.size(); ++brush) {
                std::vector<bool> others(surface.brushes.size(), true);
                others[brush] = false;
                if (const auto one = pick(surface, others, ray, 1e6)) nearest = std::min(nearest, one->along);
            }
            QCOMPARE(hit.has_value(), nearest < 1e9);
            if (hit) QVERIFY(std::abs(hit->along - nearest) < 1e-9);
        }
    }

    void boxes_to_pick_by_follow_edits() {
        Random random(507);
        LevelMaker maker;
        for (int i = 0; i < 60; ++i)
            maker.box({random.between(0, 20), random.between(0, 20), 0}, {2, 2, random.between(1, 4)});
        Level level = maker.level();
        build::SolidBuilder solids;
        build::SurfaceBuilder surfaces;
        PickBoxes boxes;
        for (int edit = 0; edit < 40; ++edit) {
            const ItemList& items = level.layers[0]->items;
            const std::vector<ItemId> one{items[size_t(random.whole(0, int(items.size()) - 1))]->id};
            level = random.chance(0.8) ? edit::moved(level, one, {random.between(-2, 2), 0, 0})
                                       : edit::without(level, one);
            const build::Surface surface = surfaces.build(solids.build(level));
            boxes = boxes_of(surface, &boxes);
            const PickBoxes fresh = boxes_of(surface);
            QCOMPARE(boxes.first, fresh.first);
            for (size_t i = 0; i < fresh.parts.size(); ++i) {
                QCOMPARE(boxes.parts[i].part, fresh.parts[i].part);
                QCOMPARE(boxes.parts[i].brush, fresh.parts[i].brush);
                QVERIFY(boxes.parts[i].box.low == fresh.parts[i].box.low &&
                        boxes.parts[i].box.high == fresh.parts[i].box.high);
            }
        }
    }

    void picking_finds_the_face_in_front() {
        LevelMaker maker;
        maker.box({0, 0, 0}, {4, 4, 2});
        maker.box({0, 0, 4}, {4, 4, 1});
        const auto surface = build::surface_of(build::build_solid(maker.level()));
        const Ray down{{1, 1, 20}, {0, 0, -1}};
        const auto hit = pick(surface, {false, false}, down, 1e6);
        QVERIFY(hit && hit->brush == 1 && hit->side == BoxSide::top);
        QVERIFY(glm::length(hit->at - Vec3(1, 1, 5)) < 1e-9);
        // Hidden or cut away it lets through.
        QCOMPARE(pick(surface, {false, true}, down, 1e6)->brush, 0);
        QCOMPARE(pick(surface, {false, false}, down, 3)->brush, 0);
        QVERIFY(!pick(surface, {true, true}, down, 1e6));
        const auto side = pick(surface, {false, false}, {{-10, 0, 1}, {1, 0, 0}}, 1e6);
        QVERIFY(side && side->side == BoxSide::left && glm::length(side->at - Vec3(-2, 0, 1)) < 1e-9);
        QVERIFY(!pick(surface, {false, false}, {{-10, 0, 3}, {1, 0, 0}}, 1e6));
    }

    void a_moved_item_catches_the_edge_of_another_before_the_grid() {
        LevelMaker maker;
        const ItemId moving = maker.box({0, 0, 0}, {1, 1, 1});
        maker.box({3.3, 0, 0}, {1, 1, 1}); // from 2.8 to 3.8
        const Level level = maker.level();
        const Snapped caught = snap(level, {moving}, {2.78, 0.1, 0}, 0.5, 0.1);
        QVERIFY(std::abs(caught.at.x - 2.8) < 1e-9 && caught.edge[0]);
        const Snapped free = snap(level, {moving}, {1.3, 0.1, 0}, 0.5, 0.1);
        QCOMPARE(free.at.x, 1.5);
        QVERIFY(!free.edge[0]);
    }

    void a_raised_face_catches_the_top_of_a_neighbour() {
        LevelMaker maker;
        const ItemId moving = maker.box({0, 0, 0}, {1, 1, 1});
        maker.box({3, 0, 0}, {1, 1, 1.3});
        maker.box({40, 0, 0}, {1, 1, 1.12}); // too far away to matter
        const Level level = maker.level();
        QCOMPARE(snap_along(level, {moving}, {0, 0, 1}, 2, 1.27, 0.5, 0.1), 1.3);
        QCOMPARE(snap_along(level, {moving}, {0, 0, 1}, 2, 1.1, 0.5, 0.1), 1.0);
    }

    void a_walk_is_recorded_and_replays_to_where_it_ended() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {40, 40, 1});
        maker.box({5, 0, 0}, {2, 8, 0.3});
        const auto world = world_of(maker.level());
        const Character c;
        Walker walker(world, c, {0, 0, 0}, 0);
        walker.press(Qt::Key_W);
        for (int i = 0; i < 60; ++i) walker.advance(1.0 / 60);
        QVERIFY(walker.state().at.x > 4 && std::abs(walker.state().at.z - 0.3) < 1e-6);
        walker.press(Qt::Key_Space);
        walker.advance(0.05);
        QVERIFY(walker.state().velocity.z > 0);
        walker.release(Qt::Key_Space);
        walker.release(Qt::Key_W);
        for (int i = 0; i < 90; ++i) walker.advance(1.0 / 60);
        QVERIFY(walker.state().standing);
        const auto end = motion::replayed(*world, c, walker.recording());
        QCOMPARE(end.at, walker.state().at);
        walker.restart();
        QCOMPARE(walker.state().at, Vec3(0, 0, 0));
        QCOMPARE(walker.recording().steps(), 0);
    }

    void walking_goes_where_one_looks() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {40, 40, 1});
        Walker walker(world_of(maker.level()), {}, {0, 0, 0}, 0);
        walker.look(90, 0);
        walker.press(Qt::Key_Up);
        walker.press(Qt::Key_D);
        for (int i = 0; i < 30; ++i) walker.advance(1.0 / 60);
        QVERIFY(walker.state().at.y > 1 && walker.state().at.x > 1);
        QVERIFY(glm::length(flat(walker.state().velocity)) < 6.001);
        // The eye is where the character's is, first person or behind.
        walker.toggle_first_person();
        QVERIFY(glm::length(walker.camera({100, 100}).eye() - walker.state().at - Vec3(0, 0, 1.65)) < 0.05);
    }

    void a_hitch_is_not_made_up_for_by_a_leap() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {40, 40, 1});
        Walker walker(world_of(maker.level()), {}, {0, 0, 0}, 0);
        walker.advance(5.0);
        QVERIFY(walker.recording().steps() <= 12);
    }

    void a_session_undoes_redoes_and_knows_what_is_saved() {
        Session session;
        session.files().start_new();
        QVERIFY(session.documents().saved());
        const Level before = session.level();
        QSignalSpy changed(&session, &Session::levelChanged);
        session.apply(edit::with_item(before, 0, {{"b9"}, {}, false, Brush{}, {}}), "Add");
        QCOMPARE(changed.count(), 1);
        QVERIFY(!session.documents().saved());
        session.select({{"b9"}});
        session.documents().undo();
        QVERIFY(session.level() == before && session.documents().saved());
        QVERIFY(session.selection().empty()); // what is gone is not selected
        session.documents().redo();
        QVERIFY(find_item(session.level(), {"b9"}));
        QCOMPARE(session.documents().undo_text(), QString("Add"));
    }

    void a_difference_is_told_in_words() {
        LevelMaker maker;
        const ItemId a = maker.box({0, 0, 0}, {1, 1, 1}), b = maker.box({3, 0, 0}, {1, 1, 1});
        const Level here = maker.level();
        QCOMPARE(difference_text(here, here), QString("Both hold the same."));
        const std::vector<ItemId> first{a}, second{b};
        Level theirs = edit::without(edit::moved(here, first, {1, 0, 0}), second);
        for (int i = 0; i < 15; ++i) {
            const std::string id = "n" + std::to_string(10 + i);
            theirs = edit::with_item(theirs, 0, {{id}, "Crate " + id, false, Brush{}, {}});
        }
        theirs.name = "Renamed";
        const QString text = difference_text(here, theirs);
        QVERIFY2(text.contains("Only in the file: Crate n10") && text.contains("and 3 more"),
                 qPrintable(text));
        QVERIFY(text.contains("Only here: brush b2") && text.contains("Different: brush b1"));
        QVERIFY(text.contains("own values"));
    }

    void a_preview_is_seen_but_not_kept() {
        Session session;
        session.files().start_new();
        const Level before = session.stored_level();
        session.preview(edit::with_item(before, 0, {{"b9"}, {}, false, Brush{}, {}}));
        QVERIFY(find_item(session.level(), {"b9"}));
        QVERIFY(session.stored_level() == before && session.documents().saved());
        session.drop_preview();
        QVERIFY(session.level() == before);
        QVERIFY(session.documents().undo_text().isEmpty());
    }

    void a_clicked_face_is_forgotten_with_its_brush() {
        Session session;
        session.files().start_new();
        const ItemId floor = ordered_brushes(session.level())[0].item->id;
        session.select({floor});
        session.selected_items().pick_faces({{floor, BoxSide::left}});
        QCOMPARE(session.selected_items().faces().size(), size_t(1));
        session.select({});
        QVERIFY(session.selected_items().faces().empty());
        session.select({floor});
        QVERIFY(session.selected_items().faces().empty());
    }

    void what_a_session_saves_it_opens_again() {
        QTemporaryDir folder;
        Session session;
        session.files().start_new();
        session.apply(edit::with_item(session.level(), 0, {{"b9"}, "Crate", false, Brush{}, {}}), "Add");
        const QString file = folder.filePath("yard.level.json");
        QVERIFY(session.files().save(file));
        QVERIFY(session.documents().saved());
        Session other;
        other.files().start_new();
        QVERIFY(other.files().open(file));
        QVERIFY(other.level() == session.level());
        QVERIFY(!other.files().open(folder.filePath("none.level.json")));
        QVERIFY(other.level() == session.level());
    }

    void a_tint_lies_on_what_is_reached_and_a_hidden_brush_is_not_drawn() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {20, 20, 1});
        const ItemId tall = maker.box({4, 0, 0}, {2, 2, 5});
        maker.start({-4, 0, 0});
        const Level level = maker.level();
        const auto result = check::check_level({}, level);
        const TintMesh tint = tint_mesh(result, {false, false});
        QVERIFY(!tint.triangles.empty());
        for (const auto& vertex : tint.triangles)
            QVERIFY(vertex.at[2] < 0.1); // nobody gets onto the tall one
        const auto surface = build::surface_of(*result.solid);
        const size_t all = faces_in(SceneMesher().build({}, surface, {false, false}));
        const size_t less = faces_in(SceneMesher().build({}, surface, {false, true}));
        QVERIFY(less < all);
        Item hidden = *find_item(level, tall);
        hidden.hidden = true;
        QCOMPARE(hidden_brushes(edit::with_changed(level, hidden)), (std::vector<bool>{false, true}));
    }
};

RUBBLE_TEST(PartsTest)
#include "parts_test.moc"
