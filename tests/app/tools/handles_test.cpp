#include <QtTest/QtTest>

#include "app/window_driver.h"
#include "base/angle.h"
#include "core/level_maker.h"
#include "edit/body.h"
#include "edit/reshape.h"
#include "test_program.h"
#include "tools/item_handles.h"

using namespace rubble;
using namespace rubble::app;
using test::LevelMaker;

/// Whole items sized in proportion and tilted by their handles, rows and rings picked by one action, and work
/// behind walls.
class HandlesTest : public WindowDriver {
    Q_OBJECT

    void show(const LevelMaker& maker) {
        session().apply(maker.level(), "Test");
        view().frame_all();
        settle();
    }
    std::optional<ItemHandle> handle(LevelView& in, Grip grip, BoxSide side, const Vec3& axis = {0, 0, 1}) {
        for (const ItemHandle& one : handles_of(session(), in.camera()))
            if (one.grip == grip && one.side == side && one.axis == axis) return one;
        return {};
    }
    const Brush& brush(const ItemId& id) { return *find_item(session().level(), id)->brush(); }

private slots:
    void init() {
        window_ = std::make_unique<MainWindow>();
        window_->resize(1280, 800);
        window_->show();
        take_focus();
        session().go_to(Stage::block_out);
        settle();
    }
    void cleanup() { window_.reset(); }

    void shift_on_a_dot_sizes_all_of_a_brush() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {20, 20, 1});
        const ItemId id = maker.box({0, 0, 0}, {2, 1, 3});
        show(maker);
        session().select({id});
        const auto dot = handle(view(), Grip::side, BoxSide::right);
        QVERIFY(dot);
        const Vec3 to = dot->place + Vec3(2, 0, 0);
        drag(view(), dot->at.toPoint(), at(to), Qt::ShiftModifier);
        QCOMPARE(brush(id).size, Vec3(4, 2, 6));
        QVERIFY(glm::length(brush(id).place.at - Vec3(1, 0, 0)) < 1e-9); // its left side and its ground stay
        QCOMPARE(session().documents().undo_text(), QString("Size in proportion"));
        session().documents().undo();
        QCOMPARE(brush(id).size, Vec3(2, 1, 3));
    }

    void a_square_sizes_a_group_with_all_it_holds() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {30, 30, 1});
        const ItemId a = maker.box({-2, 0, 0}, {2, 2, 2}), b = maker.box({2, 0, 0}, {2, 2, 1});
        const ItemId place = maker.element("place", {2, 0, 1});
        Level level = maker.level();
        const std::vector<ItemId> ids{a, b, place};
        const edit::Copies grouped = edit::grouped(level, ids);
        session().apply(grouped.level, "Test");
        view().frame_all();
        settle();
        session().select(grouped.ids);
        const auto square = handle(view(), Grip::size, BoxSide::right);
        QVERIFY(square);
        drag(view(), square->at.toPoint(), at(square->place + Vec3(3, 0, 0)));
        QCOMPARE(brush(a).size, Vec3(3, 3, 3)); // from six metres to nine
        QCOMPARE(brush(b).size, Vec3(3, 3, 1.5));
        QCOMPARE(brush(b).place.at.x - brush(a).place.at.x, 6.0);
        QVERIFY(std::abs(find_item(session().level(), place)->element()->at.z - 1.5) < 1e-9);
    }

    void rings_tilt_about_every_axis() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {20, 20, 1});
        const ItemId id = maker.box({0, 0, 0}, {3, 3, 3});
        show(maker);
        session().select({id});
        for (const Vec3& axis : {Vec3(1, 0, 0), Vec3(0, 1, 0)}) {
            const auto ring = handle(view(), Grip::turn, BoxSide::right, axis);
            QVERIFY(ring);
            // A quarter of a right angle round, in the plane of the ring.
            const double rad = 0.5236;
            const Vec3 out = ring->place - brush(id).place.at;
            const Vec3 across = out - axis * glm::dot(out, axis);
            const Vec3 to = brush(id).place.at + axis * glm::dot(out, axis) + across * std::cos(rad) +
                            glm::cross(axis, across) * std::sin(rad);
            drag(view(), ring->at.toPoint(), at(to));
            const Vec3 up = brush(id).place.direction({0, 0, 1});
            QVERIFY2(std::abs(up.z - std::cos(rad)) < 0.01, qPrintable(QString::number(up.z)));
            const Vec3 leans = glm::cross(axis, Vec3(0, 0, 1)) * std::sin(rad);
            QVERIFY(glm::length(Vec3(up.x, up.y, 0) - leans) < 0.02);
            session().documents().undo();
        }
    }

    void the_ring_of_a_flat_view_turns_about_that_view() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {6, 6, 1});
        const ItemId id = maker.box({0, 0, 0}, {3, 3, 3});
        show(maker);
        session().select({id});
        QTest::keyClick(&view(), Qt::Key_F, Qt::ShiftModifier);
        settle();
        plan().frame_all();
        QVERIFY(plan().isVisible() && plan().camera().kind == Camera::Kind::front);
        const auto ring = handle(plan(), Grip::turn, BoxSide::right, {0, 1, 0});
        QVERIFY(ring);
        const Vec3 pivot = brush(id).place.at, out = ring->place - pivot;
        const double rad = -1.0472;
        const Vec3 to = pivot + out * std::cos(rad) + glm::cross(Vec3(0, 1, 0), out) * std::sin(rad);
        drag(plan(), ring->at.toPoint(), at(plan(), to));
        QVERIFY(std::abs(brush(id).place.direction({0, 0, 1}).z - 0.5) < 0.02);
    }

    void a_double_click_picks_the_ring_of_an_edge_and_the_row_of_a_face() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {20, 20, 1});
        const ItemId id = maker.box({0, 0, 0}, {4, 4, 4});
        show(maker);
        session().select({id});
        // The upright edges of a box are one ring.
        const Brush& box = *session().body();
        const FaceMesh mesh = edit::mesh_of(box);
        const Vec3 eye = view().camera().eye();
        Vec3 nearest(0);
        double least = 1e9;
        for (int x : {-2, 2})
            for (int y : {-2, 2})
                if (const Vec3 p(x, y, 2.3); glm::length(p - eye) < least)
                    least = glm::length(p - eye), nearest = p;
        const QPoint on_edge = at(nearest);
        QTest::mouseClick(&view(), Qt::LeftButton, {}, on_edge);
        QCOMPARE(session().picks().edges.size(), size_t(1));
        QTest::mouseDClick(&view(), Qt::LeftButton, {}, on_edge);
        QCOMPARE(session().picks().edges.size(), size_t(4));
        for (const edit::MeshEdge& edge : session().picks().edges)
            QVERIFY(std::abs(mesh.points[size_t(edge.a)].z - mesh.points[size_t(edge.b)].z) > 1);
        session().pick({});
        // By key, of a face: the row across its first edges, then across the others.
        session().pick({{}, {}, {0}});
        key(Qt::Key_W, Qt::ShiftModifier);
        const std::set<int> first = session().picks().faces;
        QCOMPARE(first.size(), size_t(4));
        key(Qt::Key_W, Qt::ShiftModifier);
        QCOMPARE(session().picks().faces.size(), size_t(4));
        QVERIFY(session().picks().faces != first);
    }

    void what_hides_the_selection_is_seen_through_and_clicked_through() {
        // A wall between the eye and a crate.
        const double heading = view().camera().heading_deg;
        const auto [c, sin] = cos_sin(heading);
        const Vec3 ahead(c, sin, 0);
        LevelMaker maker;
        maker.box({0, 0, -1}, {20, 20, 1});
        const ItemId wall = maker.box(-ahead * 2.0, {12, 0.5, 5}, heading - 90),
                     behind = maker.box({0, 0, 0}, {1, 1, 1});
        show(maker);
        const QPoint there = at(Vec3(0, 0, 0.5));
        QTest::mouseClick(&view(), Qt::LeftButton, {}, there);
        QCOMPARE(session().selection(), std::vector<ItemId>{wall});
        session().select({behind});
        paint(view());
        const QImage seen = view().grabFramebuffer();
        session().select({});
        paint(view());
        const QImage hidden = view().grabFramebuffer();
        QVERIFY(seen != hidden);
        session().select({behind});
        paint(view());
        // A click in the hole keeps what is behind the wall; beside the hole the wall is met.
        QTest::mouseClick(&view(), Qt::LeftButton, {}, there);
        QCOMPARE(session().selection(), std::vector<ItemId>{behind});
        QTest::mouseClick(&view(), Qt::LeftButton, {},
                          at(-ahead * 2.25 + Vec3(sin, -c, 0) * 5.0 + Vec3(0, 0, 4)));
        QCOMPARE(session().selection(), std::vector<ItemId>{wall});
    }

    void measures_are_changed_over_in_one_step() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {20, 20, 1});
        const ItemId wall = maker.box({0, -2, 0}, {6, 0.25, 3});
        show(maker);
        session().go_to(Stage::metrics);
        QCoreApplication::processEvents();
        enter("Walls", "0.4");
        QCOMPARE(session().project().measures.wall_m, 0.4);
        QCOMPARE(brush(wall).size.y, 0.25); // nothing changes unasked
        press("Change all (1)");
        QCOMPARE(brush(wall).size.y, 0.4);
        session().documents().undo();
        QCOMPARE(brush(wall).size.y, 0.25);
    }

    void a_level_fills_the_view_with_a_little_to_spare() {
        LevelMaker maker;
        maker.box({0, 0, -1}, {40, 10, 1}), maker.box({-15, 0, 0}, {4, 4, 12});
        show(maker);
        double low_x = 1, high_x = 0, low_y = 1, high_y = 0;
        for_each_item(session().level(), [&](const Item& item, const Layer&) {
            const Box3 box = box_of(item);
            for (int i = 0; i < 8; ++i) {
                const auto p =
                    view().camera().to_screen({i & 1 ? box.high.x : box.low.x, i & 2 ? box.high.y : box.low.y,
                                               i & 4 ? box.high.z : box.low.z});
                QVERIFY(p);
                low_x = std::min(low_x, p->x() / view().width()),
                high_x = std::max(high_x, p->x() / view().width());
                low_y = std::min(low_y, p->y() / view().height()),
                high_y = std::max(high_y, p->y() / view().height());
            }
        });
        QVERIFY(low_x >= 0 && high_x <= 1 && low_y >= 0 && high_y <= 1);
        QVERIFY2(std::max(high_x - low_x, high_y - low_y) > 0.85,
                 qPrintable(QString("%1 by %2").arg(high_x - low_x).arg(high_y - low_y)));
    }
};

RUBBLE_TEST(HandlesTest)
#include "handles_test.moc"
