#include <QtTest/QtTest>

#include "build/surface_builder.h"
#include "core/level_maker.h"
#include "edit/brushes.h"
#include "edit/items.h"
#include "edit/openings.h"
#include "level/order.h"
#include "session/session.h"
#include "test_program.h"
#include "tools/draw_tool.h"
#include "tools/place_tool.h"
#include "tools/select_tool.h"

using namespace rubble;
using namespace rubble::app;

namespace {

/// A session with its level built, and a pointer that goes to places of the level.
struct ToolDesk {
    Session session;
    Camera camera;

    ToolDesk() {
        session.files().start_new();
        camera.size = {1000, 700};
        camera.target = {0, 0, 0};
        build();
    }
    void build() {
        Built built;
        built.solid = std::make_shared<build::Solid>(build::build_solid(session.level()));
        built.surface = std::make_shared<build::Surface>(build::surface_of(*built.solid));
        built.hidden = hidden_brushes(session.level());
        session.set_built(built);
    }
    Pointer at(const Vec3& place, Qt::KeyboardModifiers keys = {}) {
        Pointer p{*camera.to_screen(place), camera, {}, {}, Vec3(0), keys};
        p.ray = camera.ray(p.screen);
        p.hit = pick(*session.built().surface, session.built().hidden, p.ray, 1e6);
        p.ground = p.hit ? p.hit->at : meet_plane(p.ray, Vec3(0), {0, 0, 1}).value_or(Vec3(0));
        return p;
    }
    void drag(Tool& tool, const Vec3& from, const Vec3& to, Qt::KeyboardModifiers keys = {}) {
        tool.move(at(from, keys));
        tool.press(at(from, keys));
        tool.move(at((from + to) * 0.5, keys));
        tool.move(at(to, keys));
        tool.release(at(to, keys));
        build();
    }
    /// A box that is drawn and selected.
    ItemId box(const Vec3& from, const Vec3& to, const QString& height) {
        DrawTool tool(session, Shape::box, Effect::fill);
        drag(tool, from, to);
        tool.typed(height);
        tool.confirm();
        build();
        return session.selection().at(0);
    }
    const Brush& brush(const ItemId& id) { return *find_item(session.level(), id)->brush(); }
    size_t brushes() { return ordered_brushes(session.level()).size(); }
};

} // namespace

/// Tools turn pointer events into edits; no window is needed for that.
class ToolsTest : public QObject {
    Q_OBJECT

private slots:
    void a_base_is_drawn_on_the_grid_and_its_height_typed() {
        ToolDesk desk;
        const ItemId id = desk.box({0.1, 0.1, 0}, {2.1, 1.4, 0}, "3");
        QCOMPARE(desk.brush(id).size, Vec3(2, 1.5, 3));
        QCOMPARE(desk.brush(id).place.at, Vec3(1, 0.75, 0));
    }

    void alt_draws_off_the_grid() {
        ToolDesk desk;
        DrawTool tool(desk.session, Shape::box, Effect::fill);
        desk.drag(tool, {0.13, 0.13, 0}, {1.37, 1.71, 0}, Qt::AltModifier);
        tool.typed("1");
        tool.confirm();
        const Vec3 size = desk.brush(desk.session.selection().at(0)).size;
        QVERIFY(std::abs(size.x - 1.24) < 1e-5 && std::abs(size.y - 1.58) < 1e-5);
    }

    void a_base_without_width_draws_nothing() {
        ToolDesk desk;
        DrawTool tool(desk.session, Shape::box, Effect::fill);
        desk.drag(tool, {1, 1, 0}, {1, 1, 0});
        QVERIFY(!tool.busy());
        QCOMPARE(desk.brushes(), size_t(1));
    }

    void escape_leaves_a_drawing_without_a_trace() {
        ToolDesk desk;
        DrawTool tool(desk.session, Shape::ramp, Effect::fill);
        desk.drag(tool, {0, 0, 0}, {2, 2, 0});
        QVERIFY(tool.busy() && tool.escape() && !tool.busy());
        QVERIFY(!tool.escape());
        QCOMPARE(desk.brushes(), size_t(1));
        QVERIFY(desk.session.documents().undo_text().isEmpty());
    }

    void a_box_is_drawn_on_top_of_another() {
        ToolDesk desk;
        desk.box({-2, -2, 0}, {2, 2, 0}, "1.3");
        const ItemId upper = desk.box({-1, -1, 1.3}, {1, 1, 1.3}, "0.5");
        QVERIFY(std::abs(desk.brush(upper).place.at.z - 1.3) < 1e-9);
    }

    void a_cut_goes_down_into_what_it_is_drawn_on() {
        ToolDesk desk;
        DrawTool tool(desk.session, Shape::box, Effect::cut);
        desk.drag(tool, {0, 0, 0}, {2, 2, 0});
        tool.typed("-0.25");
        tool.confirm();
        const Brush& cut = desk.brush(desk.session.selection().at(0));
        QCOMPARE(cut.effect, Effect::cut);
        const Box3 box = box_of(*find_item(desk.session.level(), desk.session.selection()[0]));
        QVERIFY(box.low.z < -0.24 && box.high.z > 0); // no skin stays on top
    }

    void a_click_selects_and_shift_adds_and_takes_away() {
        ToolDesk desk;
        const ItemId a = desk.box({-3, 0, 0}, {-2, 1, 0}, "1"), b = desk.box({2, 0, 0}, {3, 1, 0}, "1");
        SelectTool tool(desk.session);
        desk.session.select({});
        tool.press(desk.at({-2.5, 0.5, 1}));
        tool.release(desk.at({-2.5, 0.5, 1}));
        QCOMPARE(desk.session.selection(), std::vector<ItemId>{a});
        tool.press(desk.at({2.5, 0.5, 1}, Qt::ShiftModifier));
        tool.release(desk.at({2.5, 0.5, 1}, Qt::ShiftModifier));
        QCOMPARE(desk.session.selection(), (std::vector<ItemId>{a, b}));
        tool.press(desk.at({-2.5, 0.5, 1}, Qt::ShiftModifier));
        tool.release(desk.at({-2.5, 0.5, 1}, Qt::ShiftModifier));
        QCOMPARE(desk.session.selection(), std::vector<ItemId>{b});
        QVERIFY(tool.escape());
        QVERIFY(desk.session.selection().empty());
    }

    void a_drag_moves_by_grid_steps_and_is_one_edit() {
        ToolDesk desk;
        const ItemId id = desk.box({0, 0, 0}, {1, 1, 0}, "1");
        SelectTool tool(desk.session);
        desk.drag(tool, {0.4, 0.4, 1}, {2.5, 1.45, 1});
        QCOMPARE(desk.brush(id).place.at, Vec3(2.5, 1.5, 0));
        QCOMPARE(desk.session.documents().undo_text(), QString("Move"));
        desk.session.documents().undo();
        QCOMPARE(desk.brush(id).place.at, Vec3(0.5, 0.5, 0));
    }

    void a_typed_number_is_the_length_of_the_move() {
        ToolDesk desk;
        const ItemId id = desk.box({0, 0, 0}, {1, 1, 0}, "1");
        SelectTool tool(desk.session);
        tool.press(desk.at({0.4, 0.4, 1}));
        tool.move(desk.at({2.4, 0.4, 1}));
        tool.typed("3.3");
        tool.confirm();
        QVERIFY(glm::length(desk.brush(id).place.at - Vec3(3.8, 0.5, 0)) < 1e-9);
    }

    void control_drags_a_copy_and_selects_it() {
        ToolDesk desk;
        const ItemId id = desk.box({0, 0, 0}, {1, 1, 0}, "1");
        SelectTool tool(desk.session);
        desk.drag(tool, {0.4, 0.4, 1}, {3.4, 0.4, 1}, Qt::ControlModifier);
        QCOMPARE(desk.brushes(), size_t(3));
        QCOMPARE(desk.brush(id).place.at, Vec3(0.5, 0.5, 0));
        const ItemId copy = desk.session.selection().at(0);
        QVERIFY(copy != id);
        QCOMPARE(desk.brush(copy).place.at, Vec3(3.5, 0.5, 0));
    }

    void any_handle_drags_a_copy_with_control() {
        ToolDesk desk;
        const ItemId id = desk.box({-1, -1, 0}, {1, 1, 0}, "1");
        const Brush first = desk.brush(id);
        SelectTool tool(desk.session);
        const auto copy = [&] { return desk.brush(desk.session.selection().at(0)); };
        // A dot: along its own axis, and it catches where the copy stands against its original.
        const Vec3 right = edit::middle_of(first, BoxSide::right);
        desk.drag(tool, right, right + Vec3(2.1, 0, 0), Qt::ControlModifier);
        QCOMPARE(desk.brushes(), size_t(3));
        QCOMPARE(copy().place.at, Vec3(2, 0, 0));
        QCOMPARE(copy().size, first.size);
        QCOMPARE(desk.brush(id).size, first.size);
        desk.session.documents().undo();
        desk.session.select({id});
        desk.build();
        // The arrow: upward.
        const double pixel = desk.camera.metres_per_pixel(first.place.at);
        const Vec3 arrow = edit::middle_of(first, BoxSide::top) + Vec3(0, 0, 44 * pixel);
        desk.drag(tool, arrow, arrow + Vec3(0, 0, 3), Qt::ControlModifier);
        QCOMPARE(desk.brushes(), size_t(3));
        QCOMPARE(copy().place.at, Vec3(0, 0, 3));
        desk.session.documents().undo();
        desk.session.select({id});
        desk.build();
        // The ring: turned where it stands.
        const Vec3 ring = right + Vec3(34 * pixel, 0, 0);
        desk.drag(tool, ring, Vec3(ring.x * std::cos(0.78), ring.x * std::sin(0.78), ring.z),
                  Qt::ControlModifier);
        QCOMPARE(desk.brushes(), size_t(3));
        QCOMPARE(copy().place.turn_deg, 45.0);
        QCOMPARE(copy().place.at, first.place.at);
        QCOMPARE(desk.brush(id).place.turn_deg, 0.0);
    }

    void a_group_is_picked_as_one_and_gone_into_by_a_click() {
        ToolDesk desk;
        const ItemId a = desk.box({-3, 0, 0}, {-2, 1, 0}, "1"), b = desk.box({2, 0, 0}, {3, 1, 0}, "1");
        const auto inner = edit::grouped(desk.session.level(), std::vector<ItemId>{b});
        const auto outer = edit::grouped(inner.level, std::vector<ItemId>{a, inner.ids[0]});
        desk.session.apply(outer.level, "Group");
        desk.session.select({});
        desk.build();
        SelectTool tool(desk.session);
        const Vec3 on_a(-2.5, 0.5, 1), on_b(2.5, 0.5, 1);
        const auto click = [&](const Vec3& place) {
            tool.press(desk.at(place));
            tool.release(desk.at(place));
            return desk.session.selection();
        };
        using Ids = std::vector<ItemId>;
        QCOMPARE(click(on_b), Ids{outer.ids[0]});
        QCOMPARE(click(on_b), Ids{inner.ids[0]}); // into it, one group at a time
        QCOMPARE(click(on_b), Ids{b});
        QVERIFY(tool.escape());
        QCOMPARE(desk.session.selection(), Ids{inner.ids[0]});
        QCOMPARE(click(on_a), Ids{a}); // stands beside it in the same group
        QVERIFY(tool.escape());
        QCOMPARE(desk.session.selection(), Ids{outer.ids[0]});
        // Dragged by any of its parts it moves as a whole.
        desk.drag(tool, on_a, on_a + Vec3(1, 0, 0));
        QCOMPARE(desk.brush(a).place.at.x, -1.5);
        QCOMPARE(desk.brush(b).place.at.x, 3.5);
        QVERIFY(tool.escape());
        QVERIFY(desk.session.selection().empty());
    }

    void several_are_raised_and_turned_together() {
        ToolDesk desk;
        const ItemId a = desk.box({-2, -1, 0}, {-1, 1, 0}, "1"), b = desk.box({1, -1, 0}, {2, 1, 0}, "1");
        desk.session.select({a, b});
        SelectTool tool(desk.session);
        const double pixel = desk.camera.metres_per_pixel({0, 0, 0.5});
        const Vec3 arrow(0, 0, 1 + 44 * pixel);
        desk.drag(tool, arrow, arrow + Vec3(0, 0, 2));
        QCOMPARE(desk.brush(a).place.at.z, 2.0);
        QCOMPARE(desk.brush(b).place.at.z, 2.0);
        desk.session.documents().undo();
        desk.session.select({a, b});
        desk.build();
        const Vec3 ring(2 + 34 * pixel, 0, 0.5);
        desk.drag(tool, ring, Vec3(0, ring.x, ring.z)); // a quarter round
        QVERIFY(glm::length(desk.brush(a).place.at - Vec3(0, -1.5, 0)) < 1e-9);
        QVERIFY(glm::length(desk.brush(b).place.at - Vec3(0, 1.5, 0)) < 1e-9);
        QCOMPARE(desk.brush(a).place.turn_deg, 90.0);
    }

    void an_opening_is_taken_by_its_hollow_and_slides_within_its_wall() {
        ToolDesk desk;
        const ItemId wall = desk.box({-3, 1, 0}, {3, 1.5, 0}, "3");
        desk.camera.heading_deg = 90, desk.camera.tilt_deg = 12; // straight at it
        const Item host = *find_item(desk.session.level(), wall);
        const auto made =
            edit::opening_in(host, {0, 1, 1}, {0, -1, 0}, edit::OpeningKind::window, Character{});
        QVERIFY(made);
        const Item window{{"window"}, {}, false, *made, {}};
        desk.session.apply(edit::with_item(desk.session.level(), 0, window), "Window");
        desk.session.select({});
        desk.build();
        const double sill = made->place.at.z, width = made->size.x, height = made->size.z;
        SelectTool tool(desk.session);
        const auto click = [&](const Vec3& place) {
            tool.press(desk.at(place));
            tool.release(desk.at(place));
        };
        // Beside its outline it is caught, in its middle one looks through at the floor.
        const Vec3 middle(0, 1, sill + height / 2);
        click(middle);
        QVERIFY(desk.session.selection() != std::vector<ItemId>{window.id});
        desk.session.select({});
        click({width / 2, 0.95, sill + height / 2});
        QCOMPARE(desk.session.selection(), std::vector<ItemId>{window.id});
        // Selected, it is dragged by its hollow: along the wall and up, and no farther than that reaches.
        desk.drag(tool, middle, middle + Vec3(1, 0, 0.25));
        QVERIFY(std::abs(desk.brush(window.id).place.at.x - 1) < 1e-6);
        QVERIFY(std::abs(desk.brush(window.id).place.at.z - (sill + 0.25)) < 1e-6);
        QCOMPARE(desk.brush(window.id).place.at.y, made->place.at.y);
        const Vec3 now = middle + Vec3(1, 0, 0.25);
        desk.drag(tool, now, now + Vec3(3, 0, 0));
        QVERIFY(std::abs(desk.brush(window.id).place.at.x - (3 - width / 2)) < 1e-6);
        QCOMPARE(desk.session.selection(), std::vector<ItemId>{window.id});
    }

    void a_dot_stretches_its_face_alone() {
        ToolDesk desk;
        const ItemId id = desk.box({0, 0, 0}, {4, 4, 0}, "3");
        SelectTool tool(desk.session);
        for (const auto& [side, axis] :
             {std::pair{BoxSide::right, 0}, {BoxSide::away, 1}, {BoxSide::top, 2}}) {
            const Vec3 dot = edit::middle_of(desk.brush(id), side), out = edit::outward(desk.brush(id), side);
            const Vec3 before = desk.brush(id).size;
            desk.drag(tool, dot, dot + out * 1.1);
            Vec3 expected = before;
            expected[axis] += 1;
            QCOMPARE(desk.brush(id).size, expected);
        }
        // The faces opposite stayed where they were.
        QVERIFY(glm::length(edit::middle_of(desk.brush(id), BoxSide::left) - Vec3(0, 2.5, 2)) < 1e-9);
    }

    void a_stretched_face_catches_the_top_of_its_neighbour() {
        ToolDesk desk;
        desk.box({5, 0, 0}, {6, 4, 0}, "2.3");
        const ItemId id = desk.box({0, 0, 0}, {4, 4, 0}, "1.5");
        SelectTool tool(desk.session);
        const Vec3 dot = edit::middle_of(desk.brush(id), BoxSide::top);
        desk.drag(tool, dot, dot + Vec3(0, 0, 0.78));
        QVERIFY(std::abs(desk.brush(id).size.z - 2.3) < 1e-9);
    }

    void nothing_gets_thinner_than_it_can_be() {
        ToolDesk desk;
        const ItemId id = desk.box({0, 0, 0}, {4, 4, 0}, "3");
        SelectTool tool(desk.session);
        const Vec3 dot = edit::middle_of(desk.brush(id), BoxSide::right);
        desk.drag(tool, dot, dot - Vec3(6, 0, 0));
        QVERIFY(desk.brush(id).size.x > 0);
        QVERIFY(problem_of(desk.brush(id)).empty());
    }

    void an_element_is_put_onto_the_surface_under_the_pointer() {
        ToolDesk desk;
        desk.box({-2, -2, 0}, {2, 2, 0}, "1");
        PlaceTool tool(desk.session, "goal");
        tool.move(desk.at({0.1, 0.1, 1}));
        tool.press(desk.at({0.1, 0.1, 1}));
        const auto goals = elements_of(desk.session.level(), Role::goal);
        QCOMPARE(goals.size(), size_t(1));
        QVERIFY(glm::length(goals[0]->element()->at - Vec3(0, 0, 1)) < 1e-9);
        QCOMPARE(desk.session.selection(), std::vector<ItemId>{goals[0]->id});
    }

    void dressing_selects_faces_and_moves_nothing() {
        ToolDesk desk;
        const ItemId id = desk.box({0, 0, 0}, {2, 2, 0}, "1");
        desk.session.go_to(Stage::dress);
        desk.session.select({});
        SelectTool tool(desk.session);
        desk.drag(tool, {1, 1, 1}, {3, 1, 1});
        QCOMPARE(desk.brush(id).place.at, Vec3(1, 1, 0));
        QVERIFY(desk.session.selected_items().faces().at(0).face == FaceName(BoxSide::top));
        QVERIFY(!tool.busy());
    }
};

RUBBLE_TEST(ToolsTest)
#include "tools_test.moc"
