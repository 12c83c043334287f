#include "app/window_driver.h"

#include "edit/body.h"
#include "level/brush_shape.h"
#include "test_program.h"
#include "window/number_field.h"

using namespace rubble;
using namespace rubble::app;

/// Brushes reshaped in the real window, as one would: no mode is switched.
class ReshapingTest : public WindowDriver {
    Q_OBJECT

    /// A wall of 8 × 0.5 × 3 across the floor, selected.
    void build_wall() {
        draw_box(Qt::Key_B, {-4, 1, 0}, {4, 1.5, 0}, "3");
        QCOMPARE(selected().size, Vec3(8, 0.5, 3));
    }
    const Picks& picks() { return session().picks(); }
    double volume() { return volume_of(edit::mesh_of(*session().body())); }
    /// The point of a face of the selected brush to which a direction looks that can be clicked.
    Vec3 middle_of_face(const Vec3& way) {
        const Brush& body = *session().body();
        for (const auto& loop : body.faces)
            if (glm::dot(normal_of(body.corners, loop), way) > 0.99)
                return body.place.to_level(middle_of(body.corners, loop));
        return {};
    }

private slots:
    void a_wall_is_bent_by_points_framed_in_plan() {
        build_wall();
        plan().frame_all();
        click({-1, 1, 3}); // the long edge in front, above
        QCOMPARE(picks().edges.size(), size_t(1));
        key(Qt::Key_S, Qt::ShiftModifier);
        QCOMPARE(picks().edges.size(), size_t(4));
        QCOMPARE(selected().shape, Shape::body);
        QCOMPARE(selected().corners.size(), size_t(12));
        key(Qt::Key_Escape);
        QVERIFY(picks().empty());
        QCOMPARE(session().selection().size(), size_t(1));
        // A frame around the right end, from nowhere and with Shift, so that the floor is not taken.
        drag(plan(), at(plan(), {3, 3, 0}), at(plan(), {5, 0, 0}), Qt::ShiftModifier);
        QCOMPARE(picks().points.size(), size_t(4));
        enter("y", "+ 1.5");
        QVERIFY(std::abs(volume() - 12) < 1e-6);
        QCOMPARE(own_box(selected()).high.y - own_box(selected()).low.y, 2.0);
        keep_picture("bent-wall");
        session().documents().undo();
        QCOMPARE(own_box(selected()).high.y - own_box(selected()).low.y, 0.5);
    }

    void a_point_is_dragged_along_the_grid_and_typed() {
        draw_box(Qt::Key_B, {-2, -2, 0}, {2, 2, 0}, "1");
        const Vec3 corner(-2, -2, 1); // nearest to the eye or not, it is seen from above
        drag(corner, corner + Vec3(-1, -0.5, 0));
        QCOMPARE(picks().points.size(), size_t(1));
        const Brush& body = selected();
        const Vec3 now = body.place.to_level(body.corners[size_t(*picks().points.begin())]);
        QCOMPARE(now, Vec3(-3, -2.5, 1));
        enter("z", "1.75");
        QCOMPARE(selected().place.to_level(selected().corners[size_t(*picks().points.begin())]).z, 1.75);
        QCOMPARE(problem_of(selected()), std::string());
        settle();
    }

    void a_point_is_dragged_onto_an_edge_and_a_face_flush_with_another() {
        draw_box(Qt::Key_B, {2, -3, 0}, {5, -1, 0}, "2");
        enter("Turned", "25");
        const Brush other = selected();
        draw_box(Qt::Key_B, {-3, -3, 0}, {-1, -1, 0}, "1");
        // Onto the slanted edge that is seen best: the one above the side that faces the eye.
        const Vec3 a = other.place.to_level({-1.5, -1, 2}), b = other.place.to_level({1.5, -1, 2});
        const Vec3 on = a + (b - a) * 0.37;
        drag(Vec3(-1, -3, 1), on);
        QCOMPARE(picks().points.size(), size_t(1));
        const Vec3 now = selected().place.to_level(selected().corners[size_t(*picks().points.begin())]) - a;
        const Vec3 way = glm::normalize(b - a);
        QVERIFY(glm::length(now - way * glm::dot(now, way)) < 2e-4); // on its line
        QVERIFY(glm::dot(now, way) > 0.3 && glm::dot(now, way) < 2.7);
        session().documents().undo();
        settle();

        // A face comes to lie flush with the side of another that is not on the grid.
        session().select({ordered_brushes(session().level())[1].item->id});
        enter("Turned", "0");
        enter("Height", "0.25");
        enter("Middle of base, x", "-3.37"); // its right side is at -1.87
        session().select({ordered_brushes(session().level())[2].item->id});
        enter("Middle of base, x", "2");
        settle();
        const Vec3 side(1, -2, 0.5);
        click(side);
        QCOMPARE(picks().faces.size(), size_t(1));
        drag(side, side + Vec3(-2.85, 0, 0));
        keep_picture("flush");
        QVERIFY(std::abs(box_of(*session().selected()).low.x + 1.87) < 1e-6);
    }

    void a_roof_is_tilted_on_its_eave_and_a_wall_tipped_over_its_foot() {
        draw_box(Qt::Key_B, {-2, -2, 0}, {2, 2, 0}, "1");
        click({0, -0.5, 1}); // the top, and with Shift the edge in front above
        QCOMPARE(picks().faces.size(), size_t(1));
        click({0, -2, 1}, Qt::ShiftModifier);
        QCOMPARE(picks().edges.size(), size_t(1));
        QCoreApplication::processEvents();
        press("Turn on the edge by");
        // 15° about the eave, counter-clockwise seen against x: what lies away from it rises.
        double highest = 0, at_eave = 0;
        for (const Vec3& own : selected().corners) {
            const Vec3 p = selected().place.to_level(own);
            highest = std::max(highest, p.z);
            if (p.y < -1.9 && p.z > 0.5) at_eave = p.z;
        }
        QCOMPARE(at_eave, 1.0);
        QVERIFY(std::abs(highest - (1 + 4 * std::sin(15 * M_PI / 180))) < 1e-3);
        keep_picture("tilted-roof");
        key(Qt::Key_Escape);
        key(Qt::Key_Escape);

        draw_box(Qt::Key_B, {-4, -7, 0}, {-2, -6.5, 0}, "3");
        const Brush wall = selected();
        view().fly_to({-3, -6.75, 1});
        click({-4, -7, 0.7}); // an upright edge: the wall swings about it like a door
        QCOMPARE(picks().edges.size(), size_t(1));
        QCoreApplication::processEvents();
        press("Tip brush over it by");
        QCOMPARE(selected().place.turn_deg, 15.0);
        const Vec3 corner = selected().place.to_level({-wall.size.x / 2, -wall.size.y / 2, 0});
        QVERIFY(glm::length(corner - Vec3(-4, -7, 0)) < 1e-6);
        QCOMPARE(selected().size, wall.size);
        settle();
    }

    void rings_are_split_in_parts_and_at_a_place() {
        draw_box(Qt::Key_B, {-2, -2, 0}, {2, 2, 0}, "2");
        const auto split = [&](const QString& what, const QString& number) {
            click({-2, -2, 1}); // an upright edge: its ring lies level round the block
            QCOMPARE(picks().edges.size(), size_t(1));
            enter(what, number);
            press(what);
        };
        split("Split ring in", "4");
        QCOMPARE(selected().corners.size(), size_t(8 + 3 * 4));
        session().documents().undo();
        session().select({});
        session().select({ordered_brushes(session().level()).back().item->id});
        split("Split ring at", "25");
        QCOMPARE(selected().corners.size(), size_t(8 + 4));
        int quarter = 0;
        for (const Vec3& own : selected().corners) {
            const double z = selected().place.to_level(own).z;
            quarter += std::abs(z - 0.5) < 1e-6 || std::abs(z - 1.5) < 1e-6;
        }
        QCOMPARE(quarter, 4);
    }

    void what_is_picked_is_moved_along_an_arrow() {
        draw_box(Qt::Key_B, {-2, -2, 0}, {2, 2, 0}, "1");
        click({-1, -1, 1}); // the top, aside of the arrows that it gets
        QCOMPARE(picks().faces.size(), size_t(1));
        const Vec3 middle(0, 0, 1);
        const double length = 46 * view().camera().metres_per_pixel(middle);
        const Vec3 tip = middle + Vec3(0, 0, length);
        // On the way the pointer crosses the rim of the floor, which is not what is meant.
        drag(tip, tip + Vec3(0, 0, 1));
        QCOMPARE(own_box(selected()).high.z - own_box(selected()).low.z, 2.0);
        const Box3 box = box_of(*session().selected());
        QVERIFY(box.low.x == -2 && box.high.x == 2 && box.low.z == 0);
        settle();
    }

    void points_are_framed_in_the_front_and_the_space_view() {
        draw_box(Qt::Key_B, {-2, -2, 0}, {2, 2, 0}, "2");
        const ItemId block = session().selection()[0];
        key(Qt::Key_F, Qt::ShiftModifier);
        plan().frame_all();
        drag(plan(), at(plan(), {-2.6, -2, 2.6}), at(plan(), {-1.4, -2, 1.4}), Qt::ShiftModifier);
        QCOMPARE(picks().points.size(), size_t(2)); // the one in front and the one behind it
        session().pick({});
        const QPoint corner = at({-2, -2, 2});
        drag(view(), corner - QPoint(14, 14), corner + QPoint(14, 14), Qt::ShiftModifier);
        QCOMPARE(picks().points.size(), size_t(1));
        QCOMPARE(session().selection(), std::vector<ItemId>{block});
        settle();
    }

    void a_hole_pushed_through_a_wall_is_walked_through() {
        draw_box(Qt::Key_B, {1, -7, 0}, {1.5, 7, 0}, "3");
        enter("Width", "20"); // past both rims: nobody jumps round its ends
        enter("Middle of base, y", "0");
        window_->use_tool("place goal");
        plan().frame_all(); // in the space view the wall stands before it
        QTest::mouseClick(&plan(), Qt::LeftButton, {}, at(plan(), {5, 0, 0}));
        window_->use_tool("select");
        settle();
        QVERIFY(goal_reached() == check::Reached::no);
        session().select({ordered_brushes(session().level()).back().item->id});
        click(middle_of_face({-1, 0, 0}));
        QCOMPARE(picks().faces.size(), size_t(1));
        QCoreApplication::processEvents();
        press("Inset by"); // a frame of a quarter: the hole is no higher than a step above the floor
        for (int step = 0; step < 2; ++step) key(Qt::Key_Minus);
        QVERIFY(std::abs(volume() - (20 * 0.5 * 3 - 19.5 * 0.5 * 2.5)) < 1e-6);
        settle();
        QVERIFY(goal_reached() == check::Reached::yes);
        keep_picture("hole");
    }

    void an_edge_is_rounded_and_chamfered() {
        draw_box(Qt::Key_B, {-2, -2, 0}, {2, 2, 0}, "2");
        click({-2, -2, 1});
        QCOMPARE(picks().edges.size(), size_t(1));
        QCoreApplication::processEvents();
        press("Chamfer by");
        QCOMPARE(selected().faces.size(), size_t(7));
        QVERIFY(std::abs(volume() - (32 - 0.25 * 0.25 / 2 * 2)) < 1e-6);
        session().documents().undo();
        QCOMPARE(selected().shape, Shape::box);
        session().documents().redo();
        settle();
    }

    void an_edge_that_ends_in_an_apex_is_not_rounded_and_one_is_told_why() {
        draw_box(Qt::Key_K, {-2, -2, 0}, {2, 2, 0}, "2");
        const Brush& body = *session().body();
        int apex = 0;
        for (int i = 0; i < int(body.corners.size()); ++i)
            if (body.corners[size_t(i)].z > body.corners[size_t(apex)].z) apex = i;
        session().pick({{}, {edit::MeshEdge(apex, apex == 0 ? 1 : 0)}, {}});
        QCoreApplication::processEvents();
        QString said;
        connect(&session(), &Session::message, this, [&](const QString& text) { said = text; });
        press("Round by");
        QVERIFY2(said.contains("three faces"), qPrintable(said));
        QCOMPARE(selected().shape, Shape::cone);
        disconnect(&session(), &Session::message, this, nullptr);
    }

    void a_face_is_pushed_by_keys_and_stops_at_the_limit() {
        draw_box(Qt::Key_B, {-2, -2, 0}, {2, 2, 0}, "1");
        click({0.2, 0.3, 1});
        QCOMPARE(picks().faces.size(), size_t(1));
        key(Qt::Key_Plus);
        QVERIFY(std::abs(volume() - 16 * 1.5) < 1e-6);
        key(Qt::Key_Minus);
        QVERIFY(std::abs(volume() - 16) < 1e-6);
        QSignalSpy said(&session(), &Session::message);
        enter("z", "-3");
        QVERIFY(said.count() > 0); // down through the base
        QVERIFY(volume() > 0);
        QCOMPARE(flaw_of(edit::mesh_of(*session().body())), MeshFlaw::none);
    }

    void the_knife_cuts_and_with_ctrl_cuts_apart() {
        build_wall();
        plan().frame_all();
        key(Qt::Key_X, Qt::ShiftModifier);
        drag(plan(), at(plan(), {0, 3, 0}), at(plan(), {0, -1, 0}));
        QCOMPARE(selected().corners.size(), size_t(12));
        drag(plan(), at(plan(), {2, 3, 0}), at(plan(), {2, -1, 0}), Qt::ControlModifier);
        QCOMPARE(session().selection().size(), size_t(2));
        QCOMPARE(ordered_brushes(session().level()).size(), size_t(3));
        settle();
        keep_picture("cut-apart");
    }

    void a_frame_from_empty_space_selects_what_it_holds() {
        draw_box(Qt::Key_B, {-4, -4, 0}, {-3, -3, 0}, "1");
        draw_box(Qt::Key_B, {-1, -4, 0}, {0, -3, 0}, "1");
        key(Qt::Key_Escape);
        plan().frame_all();
        drag(plan(), at(plan(), {-5, -5, 0}), at(plan(), {1, -2, 0}), Qt::ShiftModifier);
        QCOMPARE(session().selection().size(), size_t(2));
    }

    void the_view_beside_shows_the_front_or_the_side() {
        draw_box(Qt::Key_B, {-4, -4, 0}, {-3, -3, 0}, "2");
        key(Qt::Key_F, Qt::ShiftModifier);
        QCOMPARE(plan().camera().kind, Camera::Kind::front);
        plan().frame_all();
        // There a brush is dragged up and to the side.
        const Vec3 inside(-3.3, -4, 0.7);
        session().select({});
        drag(plan(), at(plan(), inside), at(plan(), inside + Vec3(2, 0, 1)));
        QCOMPARE(selected().place.at, Vec3(-1.5, -3.5, 1));
        key(Qt::Key_E, Qt::ShiftModifier);
        QCOMPARE(plan().camera().kind, Camera::Kind::right);
        key(Qt::Key_P, Qt::ShiftModifier);
        QCOMPARE(plan().camera().kind, Camera::Kind::above);
        key(Qt::Key_P, Qt::ShiftModifier);
        QVERIFY(!plan().isVisible());
    }

    void a_number_dragged_by_its_name_or_its_unit_is_one_step_back() {
        draw_box(Qt::Key_B, {-4, -4, 0}, {-3, -3, 0}, "2");
        NumberHandle* name = nullptr;
        for (auto* one : window_->findChildren<NumberHandle*>())
            if (one->text() == "Height") name = one;
        QVERIFY(name);
        auto* field = named<NumberField>("Height");
        for (auto& [widget, from] :
             {std::pair<QWidget*, int>(name, 4), std::pair<QWidget*, int>(field, field->width() - 8)}) {
            QTest::mousePress(widget, Qt::LeftButton, {}, {from, 6});
            for (const int x : {from + 10, from + 20, from + 30}) {
                QMouseEvent event(QEvent::MouseMove, QPointF(x, 6), widget->mapToGlobal(QPointF(x, 6)),
                                  Qt::NoButton, Qt::LeftButton, {});
                QCoreApplication::sendEvent(widget, &event);
            }
            QTest::mouseRelease(widget, Qt::LeftButton, {}, {from + 30, 6});
            QCOMPARE(selected().size.z, 3.5);
            session().documents().undo();
            QCOMPARE(selected().size.z, 2.0);
        }
    }
};

RUBBLE_TEST(ReshapingTest)
#include "reshaping_test.moc"
