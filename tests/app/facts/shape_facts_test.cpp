#include <QtTest/QtTest>

#include <set>

#include <QComboBox>
#include <QLabel>
#include <QPushButton>

#include "core/level_maker.h"
#include "edit/items.h"
#include "facts/facts.h"
#include "level/brush_shape.h"
#include "level/face_mesh.h"
#include "session/session.h"
#include "shape_list.h"
#include "test_program.h"
#include "tools/tool_list.h"
#include "window/number_field.h"

using namespace rubble;
using namespace rubble::app;
using test::LevelMaker;

namespace {

/// One brush on a floor, selected, with its facts shown.
struct FactsDesk {
    Session session;
    ItemId id;
    Facts facts;

    explicit FactsDesk(const Brush& brush) : facts(session) {
        session.files().start_new();
        LevelMaker maker;
        maker.box({0, 0, -1}, {30, 30, 1});
        id = maker.brush(brush);
        session.apply(maker.level(), "Test");
        session.select({id});
    }
    const Brush& brush() { return *find_item(session.level(), id)->brush(); }
    NumberField* field(const QString& name) {
        for (NumberField* one : facts.findChildren<NumberField*>())
            if (one->accessibleName() == name) return one;
        return nullptr;
    }
    void type(const QString& name, const QString& text) {
        NumberField* one = field(name);
        QVERIFY2(one, qPrintable(name));
        one->selectAll();
        QTest::keyClicks(one, text);
        QTest::keyClick(one, Qt::Key_Return);
        QCoreApplication::processEvents(); // fields of another kind are made anew
    }
    QComboBox* choice(const QString& name) {
        for (QComboBox* one : facts.findChildren<QComboBox*>())
            if (one->accessibleName() == name) return one;
        return nullptr;
    }
    void choose(const QString& name, const QString& text) {
        QComboBox* one = choice(name);
        QVERIFY2(one && one->findText(text) >= 0, qPrintable(name + " " + text));
        emit one->activated(one->findText(text));
        QCoreApplication::processEvents();
    }
    bool says(const QString& part) {
        for (const QLabel* label : facts.findChildren<QLabel*>())
            if (label->text().contains(part)) return true;
        return false;
    }
};

Brush of(Shape shape, const Vec3& size) {
    Brush brush;
    brush.shape = shape;
    brush.size = size;
    return brush;
}

} // namespace

/// What the facts show of shapes and change in them.
class ShapeFactsTest : public QObject {
    Q_OBJECT

private slots:
    void a_tipped_brush_says_how_high_it_is_in_the_level() {
        Brush plank = of(Shape::box, {4, 1, 0.25});
        plank.place.rotation = rotation_onto({0, 0, 1}, {0, 1, 0}, {-1, 0, 0}); // set upright
        FactsDesk desk(plank);
        QVERIFY(desk.says("4.00 m high: 2.80 m too high to jump onto"));
        for (QPushButton* button : desk.facts.findChildren<QPushButton*>())
            if (button->text() == "Put back onto its base") button->click();
        QCoreApplication::processEvents();
        QVERIFY(desk.says("0.25 m high: Courier steps onto it"));
    }

    void a_leaning_plank_is_walked_up() {
        Brush plank = of(Shape::box, {6, 1, 0.25});
        const auto [c, s] = cos_sin(20);
        plank.place.rotation = rotation_onto({c, 0, s}, {0, 1, 0}, {-s, 0, c});
        FactsDesk desk(plank);
        QVERIFY(desk.says("leans 20.0°: Courier walks up it"));
        plank.place.rotation =
            rotation_onto({0.5, 0, std::sqrt(0.75)}, {0, 1, 0}, {-std::sqrt(0.75), 0, 0.5});
        FactsDesk steep(plank);
        QVERIFY(steep.says("too high to jump onto"));
    }

    void several_brushes_have_the_fields_they_share() {
        Brush stairs = of(Shape::stairs, {3, 1, 1.5});
        stairs.steps = 5;
        FactsDesk desk(stairs);
        Item other = *find_item(desk.session.level(), desk.id);
        other.id = {"other"};
        std::get<Brush>(other.body).steps = 10;
        std::get<Brush>(other.body).place.at = {8, 0, 0};
        desk.session.apply(edit::with_item(desk.session.level(), 0, other), "Test");
        const std::vector<ItemId> both{desk.id, other.id};
        desk.session.select(both);
        const auto brush = [&](size_t i) { return *find_item(desk.session.level(), both[i])->brush(); };
        QCOMPARE(desk.field("Steps")->text(), QString("mixed"));
        desk.type("Steps", "+ 2");
        QCOMPARE(brush(0).steps, 7);
        QCOMPARE(brush(1).steps, 12);
        desk.type("Steps", "6");
        QCOMPARE(brush(0).steps, 6);
        QCOMPARE(brush(1).steps, 6);
        QCOMPARE(desk.field("Middle of base, x")->text(), QString("mixed"));
        desk.type("Turned", "90");
        QCOMPARE(brush(1).place.turn_deg, 90.0);
        QCOMPARE(brush(1).place.at.x, 8.0);
        desk.type("Shell (0: solid)", "0.1");
        QCOMPARE(brush(0).shell_m, 0.1);
        QCOMPARE(brush(1).shell_m, 0.1);
        // What does not fit is said and left.
        QString said;
        QObject::connect(&desk.session, &Session::message, [&](const QString& text) { said = text; });
        desk.type("Width", "0");
        QVERIFY2(said.startsWith("2 items stay as they were"), qPrintable(said));
        QCOMPARE(brush(0).size.y, 1.0);
        // Kinds are chosen for all.
        desk.choose("Shape", "Ramp");
        QCOMPARE(brush(0).shape, Shape::ramp);
        QCOMPARE(brush(1).shape, Shape::ramp);
        desk.choose("Effect", "Cut");
        QCOMPARE(brush(1).effect, Effect::cut);
    }

    void elements_and_brushes_are_moved_and_turned_together() {
        FactsDesk desk(of(Shape::box, {1, 1, 1}));
        const Item place{{"p"}, {}, false, Element{"place", {3, 1, 0}, 10, {}}, {}};
        desk.session.apply(edit::with_item(desk.session.level(), 0, place), "Test");
        desk.session.select({desk.id, place.id});
        desk.type("Middle of base, y", "+ 2");
        const auto element = [&] { return *find_item(desk.session.level(), place.id)->element(); };
        QCOMPARE(element().at, Vec3(3, 3, 0));
        QCOMPARE(desk.brush().place.at, Vec3(0, 2, 0));
        desk.type("Middle of base, x", "5");
        QCOMPARE(element().at.x, 5.0);
        QCOMPARE(desk.brush().place.at.x, 5.0);
        desk.type("Turned", "+ 15");
        QCOMPARE(element().facing_deg, 25.0);
        QCOMPARE(desk.brush().place.turn_deg, 15.0);
    }

    void winding_stairs_are_turned_the_other_way_by_an_angle_below_zero() {
        Brush flight = of(Shape::curved_stairs, {4, 4, 2});
        FactsDesk desk(flight);
        desk.type("Turn through", "-120");
        QCOMPARE(desk.brush().angle_deg, -120.0);
        QCOMPARE(problem_of(desk.brush()), std::string());
        double lowest = 0, highest = 0; // it goes round clockwise: to where y is below 0
        for (const Vec3& p : corners_of(desk.brush()))
            lowest = std::min(lowest, p.y), highest = std::max(highest, p.y);
        QVERIFY(lowest < -1.5 && highest < 0.1);
        desk.type("Turn through", "0"); // no stairs
        QCOMPARE(desk.brush().angle_deg, -120.0);
    }

    void a_hollow_arch_is_a_number_away() {
        Brush gate = of(Shape::arch, {6, 3, 5});
        gate.thickness_m = 1;
        FactsDesk desk(gate);
        desk.type("Shell (0: solid)", "0.2");
        QCOMPARE(desk.brush().shell_m, 0.2);
        desk.type("Shell (0: solid)", "2"); // walls that meet leave no hollow
        QCOMPARE(desk.brush().shell_m, 0.2);
    }

    void stairs_say_whether_they_are_walked() {
        Brush stairs = of(Shape::stairs, {4, 2, 3});
        stairs.steps = 10;
        FactsDesk desk(stairs);
        QVERIFY(desk.says("Each 0.30 m high: Courier walks them"));
        desk.type("Steps", "5");
        QCOMPARE(desk.brush().steps, 5);
        QVERIFY(desk.says("too high to step"));
        desk.type("Steps", "2");
        QVERIFY(desk.says("too high for Courier"));
        desk.type("Steps", "0");
        QCOMPARE(desk.brush().steps, 2); // refused
        desk.session.documents().undo();
        QCOMPARE(desk.brush().steps, 5);
    }

    void curved_stairs_turn_and_leave_their_middle_free() {
        FactsDesk desk(of(Shape::curved_stairs, {4, 4, 3}));
        desk.type("Turn through", "180");
        desk.type("Free middle", "25");
        QCOMPARE(desk.brush().angle_deg, 180.0);
        QCOMPARE(desk.brush().inner_part, 0.25);
        QVERIFY(!desk.field("Thickness of treads"));
        desk.type("Turn through", "9000");
        QCOMPARE(desk.brush().angle_deg, 180.0); // refused
        desk.type("Free middle", "100");
        QCOMPARE(desk.brush().inner_part, 0.25);
    }

    void an_arch_says_who_gets_through_and_changes_its_kind() {
        FactsDesk desk(of(Shape::arch, {3, 0.5, 3}));
        QVERIFY(desk.says("Opening 2.00 m × 2.50 m: Courier walks through upright"));
        desk.type("Thickness of frame", "1.3");
        QVERIFY(desk.says("too narrow"));
        desk.type("Thickness of frame", "1.5");
        QCOMPARE(desk.brush().thickness_m, 1.3); // would leave no opening
        QVERIFY(desk.field("Sides"));
        desk.choose("Kind of arch", "Flat");
        QCOMPARE(desk.brush().arch, ArchKind::flat);
        QVERIFY(!desk.field("Sides"));
        desk.choose("Kind of arch", "Pointed");
        desk.type("Sides", "8");
        QCOMPARE(desk.brush().sides, 8);
    }

    void a_low_arch_makes_one_crouch_or_stops() {
        FactsDesk desk(of(Shape::arch, {3, 0.5, 1.8}));
        QVERIFY(desk.says("has to crouch"));
        desk.type("Height", "1.2");
        QVERIFY(desk.says("too low"));
    }

    void a_wall_run_is_made_thicker() {
        Brush wall;
        wall.shape = Shape::wall_run;
        wall.points = {{0, 0}, {4, 0}, {4, 3}};
        wall.thickness_m = 0.25;
        wall.size.z = 2;
        FactsDesk desk(measured(wall));
        desk.type("Thickness of walls", "0.5");
        QCOMPARE(desk.brush().thickness_m, 0.5);
        QCOMPARE(desk.brush().size.y, 3.25); // the measured size follows
        desk.type("Height", "3");
        QCOMPARE(desk.brush().size.z, 3.0);
        desk.type("Length", "8.5");
        QVERIFY(std::abs(desk.brush().size.x - 8.5) < 0.5);
    }

    void the_kind_of_shape_is_changed_and_taken_back() {
        FactsDesk desk(of(Shape::box, {4, 3, 2}));
        for (const ToolEntry& tool : all_tools()) {
            if (!tool.shape) continue;
            desk.choose("Shape", shape_name(*tool.shape));
            QCOMPARE(desk.brush().shape, *tool.shape);
            QCOMPARE(problem_of(desk.brush()), std::string());
        }
        while (!desk.session.documents().undo_text().isEmpty() && desk.brush().shape != Shape::box)
            desk.session.documents().undo();
        QCOMPARE(desk.brush().size, Vec3(4, 3, 2));
    }

    void stairs_made_from_a_box_fit_the_character() {
        FactsDesk desk(of(Shape::box, {4, 3, 2}));
        desk.choose("Shape", "Stairs");
        QCOMPARE(desk.brush().steps, 5);
        QVERIFY(desk.says("walks them"));
    }

    void stairs_become_a_concave_body() {
        FactsDesk desk(of(Shape::stairs, {4, 3, 2}));
        desk.choose("Shape", "Body");
        QCOMPARE(desk.brush().shape, Shape::body);
        QVERIFY(!is_convex({desk.brush().corners, desk.brush().faces}));
        QCOMPARE(problem_of(desk.brush()), std::string());
    }

    void every_tool_has_a_name_a_picture_and_a_key_of_its_own() {
        std::set<QString> ids, commands;
        std::set<int> keys;
        size_t shapes = 0, with_key = 0;
        for (const ToolEntry& tool : all_tools()) {
            ids.insert(QString::fromLatin1(tool.id));
            commands.insert(tool.command());
            QVERIFY(!tool.label().isEmpty() && tool.picture && tool.make);
            QCOMPARE(find_tool(QString::fromLatin1(tool.id)), &tool);
            if (tool.shape) QCOMPARE(tool_of_shape(*tool.shape), &tool);
            shapes += tool.shape.has_value();
            if (!(tool.key == k_no_key)) keys.insert(tool.key.toCombined()), ++with_key;
        }
        QCOMPARE(ids.size(), all_tools().size());
        QCOMPARE(commands.size(), all_tools().size());
        QCOMPARE(keys.size(), with_key);
        QCOMPARE(shapes, size_t(11)); // bodies and masses are made in other ways
        QVERIFY(!find_tool("no such tool") && !tool_of_shape(Shape::mass));
        // While walking these belong to the figure.
        for (const int walks :
             {Qt::Key_W, Qt::Key_A, Qt::Key_S, Qt::Key_D, Qt::Key_C, Qt::Key_R, Qt::Key_V, Qt::Key_N})
            QVERIFY(!keys.contains(walks));
    }
};

RUBBLE_TEST(ShapeFactsTest)
#include "shape_facts_test.moc"
