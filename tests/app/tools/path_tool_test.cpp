#include <QtTest/QtTest>

#include "build/surface_builder.h"
#include "edit/brushes.h"
#include "edit/shapes.h"
#include "level/brush_shape.h"
#include "level/order.h"
#include "session/session.h"
#include "test_program.h"
#include "tools/draw_tool.h"
#include "tools/path_tool.h"

using namespace rubble;
using namespace rubble::app;

namespace {

/// A session with its new level, and a pointer that clicks on places of its floor.
struct PathDesk {
    Session session;
    Camera camera;

    explicit PathDesk(Camera::Kind kind = Camera::Kind::free) {
        session.files().start_new();
        camera.kind = kind;
        camera.size = {1000, 700};
        camera.target = {0, 0, 0};
        camera.distance_m = 18;
        const auto solid = build::build_solid(session.level());
        Built built;
        built.solid = std::make_shared<build::Solid>(solid);
        built.surface = std::make_shared<build::Surface>(build::surface_of(solid));
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
    void click(Tool& tool, const Vec3& place, Qt::KeyboardModifiers keys = {}) {
        tool.move(at(place, keys));
        tool.press(at(place, keys));
        tool.release(at(place, keys));
    }
    const Brush& drawn() { return *session.selected()->brush(); }
    size_t brushes() { return ordered_brushes(session.level()).size(); }
};

void type_height(Tool& tool, const QString& text) {
    tool.typed(text);
    tool.confirm();
}

} // namespace

/// Outlines and walls along clicked points.
class PathToolTest : public QObject {
    Q_OBJECT

private slots:
    void an_outline_is_clicked_closed_and_raised() {
        PathDesk desk;
        PathTool tool(desk.session, Shape::outline);
        for (const Vec3& p :
             {Vec3(-2, -2, 0), Vec3(2, -2, 0), Vec3(2, 0, 0), Vec3(0, 0, 0), Vec3(0, 2, 0), Vec3(-2, 2, 0)})
            desk.click(tool, p);
        QVERIFY(tool.busy());
        desk.click(tool, {-2.05, -1.95, 0}); // near the first point is on it
        type_height(tool, "1.5");
        QVERIFY(!tool.busy());
        QCOMPARE(desk.drawn().shape, Shape::outline);
        QCOMPARE(desk.drawn().points.size(), size_t(6));
        QCOMPARE(desk.drawn().size, Vec3(4, 4, 1.5));
        QCOMPARE(desk.drawn().place.at, Vec3(0));
    }

    void clicked_the_other_way_round_it_is_the_same() {
        PathDesk desk;
        PathTool tool(desk.session, Shape::outline);
        for (const Vec3& p : {Vec3(0, 0, 0), Vec3(0, 3, 0), Vec3(3, 3, 0)}) desk.click(tool, p);
        tool.confirm(); // Enter closes too
        type_height(tool, "2");
        QCOMPARE(problem_of(desk.drawn()), std::string());
        QCOMPARE(desk.drawn().points.size(), size_t(3));
    }

    void an_outline_that_crosses_itself_is_not_made() {
        PathDesk desk;
        PathTool tool(desk.session, Shape::outline);
        QString said;
        connect(&desk.session, &Session::message, this, [&](const QString& text) { said = text; });
        const size_t before = desk.brushes();
        for (const Vec3& p : {Vec3(0, 0, 0), Vec3(2, 2, 0), Vec3(2, 0, 0), Vec3(0, 2, 0)})
            desk.click(tool, p);
        tool.confirm();
        type_height(tool, "2");
        QCOMPARE(desk.brushes(), before);
        QVERIFY(said.contains("crosses"));
        QVERIFY(tool.busy()); // nothing is lost: Escape takes points back
        QVERIFY(tool.escape() && tool.escape());
        tool.confirm();
        type_height(tool, "2");
        QCOMPARE(desk.brushes(), before + 1);
    }

    void a_typed_number_is_the_length_of_the_next_piece() {
        PathDesk desk;
        PathTool tool(desk.session, Shape::wall_run);
        desk.click(tool, {0, 0, 0});
        tool.move(desk.at({3, 0, 0}));
        tool.typed("2.35");
        tool.confirm();
        tool.confirm(); // ends the wall
        type_height(tool, "2.5");
        QCOMPARE(desk.drawn().shape, Shape::wall_run);
        QVERIFY(std::abs(glm::length(desk.drawn().points[1] - desk.drawn().points[0]) - 2.35) < 1e-9);
        QCOMPARE(desk.drawn().size.z, 2.5);
        QVERIFY(!desk.drawn().closed);
    }

    void the_first_point_again_closes_a_wall_and_the_last_one_ends_it() {
        for (const bool closed : {true, false}) {
            PathDesk desk;
            PathTool tool(desk.session, Shape::wall_run);
            for (const Vec3& p : {Vec3(0, 0, 0), Vec3(4, 0, 0), Vec3(4, 3, 0)}) desk.click(tool, p);
            desk.click(tool, closed ? Vec3(0, 0, 0) : Vec3(4, 3, 0));
            type_height(tool, "2");
            QCOMPARE(desk.drawn().closed, closed);
            QCOMPARE(desk.drawn().points.size(), size_t(3));
            QCOMPARE(problem_of(desk.drawn()), std::string());
        }
    }

    void a_dragged_press_bends_an_arc() {
        PathDesk desk(Camera::Kind::above);
        PathTool tool(desk.session, Shape::outline);
        desk.click(tool, {2, 0, 0});
        tool.move(desk.at({-2, 0, 0}));
        tool.press(desk.at({-2, 0, 0}));
        tool.move(desk.at({0, 2, 0})); // half a circle over the top
        tool.release(desk.at({0, 2, 0}));
        tool.confirm();
        type_height(tool, "1");
        const Brush& brush = desk.drawn();
        QCOMPARE(brush.points.size(), size_t(13)); // both ends and eleven between them
        for (const Vec2 p : brush.points) QVERIFY(std::abs(glm::length(p + flat(brush.place.at)) - 2) < 1e-9);
    }

    void escape_takes_points_back_one_by_one() {
        PathDesk desk;
        PathTool tool(desk.session, Shape::wall_run);
        for (const Vec3& p : {Vec3(0, 0, 0), Vec3(2, 0, 0), Vec3(2, 2, 0)}) desk.click(tool, p);
        tool.confirm();
        QVERIFY(tool.escape()); // from the height back to the points
        QVERIFY(tool.escape());
        tool.confirm();
        type_height(tool, "1");
        QCOMPARE(desk.drawn().points.size(), size_t(2));
        QVERIFY(!tool.escape());
    }

    void points_lie_on_the_grid_and_with_alt_they_do_not() {
        PathDesk desk;
        PathTool tool(desk.session, Shape::wall_run);
        desk.click(tool, {0.1, 0.1, 0});
        desk.click(tool, {3.13, 0.1, 0}, Qt::AltModifier);
        tool.confirm();
        type_height(tool, "1");
        const Vec2 begin = desk.drawn().points[0] + flat(desk.drawn().place.at),
                   end = desk.drawn().points[1] + flat(desk.drawn().place.at);
        QVERIFY(glm::length(begin) < 1e-9);
        QVERIFY(std::abs(end.x - 3.13) < 0.02);
    }

    void a_wall_goes_down_where_its_height_is_negative() {
        PathDesk desk;
        PathTool tool(desk.session, Shape::wall_run);
        desk.click(tool, {0, 0, 0}), desk.click(tool, {2, 0, 0});
        tool.confirm();
        type_height(tool, "-1");
        QCOMPARE(desk.drawn().place.at.z, -1.0);
        QCOMPARE(desk.drawn().size.z, 1.0);
    }

    // Shapes that know the character -------------------------------------------------------------------

    void stairs_are_drawn_with_steps_that_can_be_walked() {
        for (const Shape shape : {Shape::stairs, Shape::curved_stairs}) {
            PathDesk desk;
            DrawTool tool(desk.session, shape, Effect::fill);
            tool.press(desk.at({0, 0, 0}));
            tool.move(desk.at({4, 3, 0}));
            tool.release(desk.at({4, 3, 0}));
            type_height(tool, "3");
            QCOMPARE(desk.drawn().shape, shape);
            QVERIFY(desk.drawn().size.z / desk.drawn().steps <=
                    desk.session.character().step_height_m + 1e-9);
            QVERIFY(desk.drawn().size.z / (desk.drawn().steps - 1) > desk.session.character().step_height_m);
        }
    }

    void an_arch_is_drawn_with_an_opening() {
        PathDesk desk;
        DrawTool tool(desk.session, Shape::arch, Effect::fill);
        tool.press(desk.at({0, 0, 0}));
        tool.move(desk.at({3, 1, 0}));
        tool.release(desk.at({3, 1, 0}));
        type_height(tool, "3");
        QCOMPARE(problem_of(desk.drawn()), std::string());
        QVERIFY(desk.drawn().thickness_m < 1);
    }

    void any_shape_becomes_any_other_in_its_place() {
        const Character c;
        Brush box;
        box.size = {4, 3, 2};
        box.place.at = {1, 2, 3};
        box.place.turn_deg = 30;
        for (const Shape first :
             {Shape::box, Shape::ramp, Shape::stairs, Shape::curved_stairs, Shape::cylinder, Shape::cone,
              Shape::ball, Shape::arch, Shape::outline, Shape::wall_run, Shape::body})
            for (const Shape second : {Shape::box, Shape::stairs, Shape::cylinder, Shape::arch,
                                       Shape::outline, Shape::wall_run, Shape::body}) {
                const Brush one = edit::with_shape(box, first, c), two = edit::with_shape(one, second, c);
                QCOMPARE(problem_of(one), std::string());
                QCOMPARE(problem_of(two), std::string());
                QCOMPARE(two.shape, second);
                if (first == Shape::cone || first == Shape::ball || first == Shape::cylinder)
                    continue; // their corners lie within the box
                const Box3 before = own_box(one), after = own_box(two);
                const bool thin =
                    first == Shape::wall_run || second == Shape::wall_run || first == Shape::outline ||
                    (first == Shape::curved_stairs && second == Shape::body); // nor do theirs fill it
                if (!thin)
                    QVERIFY(glm::length(two.place.to_level(after.middle()) -
                                        one.place.to_level(before.middle())) < 1e-6);
            }
    }

    void an_outline_is_stretched_by_its_sides() {
        Brush brush =
            edit::outline_through({{0, 0, 0}, {4, 0, 0}, {4, 2, 0}, {2, 2, 0}, {2, 1, 0}, {0, 1, 0}}, 1);
        brush.place.turn_deg = 90;
        const Vec3 fixed = edit::middle_of(brush, BoxSide::left);
        const Brush wider = edit::stretched(brush, BoxSide::right, 2, 0.01);
        QCOMPARE(wider.size.x, 6.0);
        QVERIFY(glm::length(edit::middle_of(wider, BoxSide::left) - fixed) < 1e-9);
        QCOMPARE(problem_of(wider), std::string());
        const Brush taller = edit::stretched(brush, BoxSide::top, 1, 0.01);
        QCOMPARE(taller.size.z, 2.0);
        QCOMPARE(taller.place.at.z, brush.place.at.z);
        const Brush deeper = edit::stretched(brush, BoxSide::bottom, 1, 0.01);
        QCOMPARE(deeper.place.at.z, brush.place.at.z - 1);
    }
};

RUBBLE_TEST(PathToolTest)
#include "path_tool_test.moc"
