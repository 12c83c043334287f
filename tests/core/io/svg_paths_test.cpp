#include <QtTest/QtTest>

#include <numbers>

#include "core/level_maker.h"
#include "core/random.h"
#include "edit/traced.h"
#include "io/svg_paths.h"
#include "level/brush_item.h"
#include "test_program.h"

using namespace rubble;
using test::Random;

/// Lines of drawings, and brushes along them.
class SvgPathsTest : public QObject {
    Q_OBJECT

    static io::SvgDrawing drawn(const std::string& inner, const std::string& head = "") {
        const auto read = io::svg_from_text("<svg " + head + ">" + inner + "</svg>", "drawing");
        return read ? *read : io::SvgDrawing{};
    }
    static double area_of(const std::vector<Vec2>& ring) {
        double twice = 0;
        for (size_t i = 0; i < ring.size(); ++i) twice += cross(ring[i], ring[(i + 1) % ring.size()]);
        return std::abs(twice) / 2;
    }
    static std::vector<edit::PlanLine> lines(const io::SvgDrawing& drawing) {
        std::vector<edit::PlanLine> out;
        for (const io::SvgPath& path : drawing.paths)
            out.push_back({path.name, path.points, path.closed, path.shape});
        return out;
    }

private slots:
    void all_kinds_of_lines_have_their_length_and_area() {
        QCOMPARE(area_of(drawn(R"(<rect x="1" y="2" width="3" height="4"/>)").paths.at(0).points), 12.0);
        const double pi = std::numbers::pi;
        QVERIFY(std::abs(area_of(drawn(R"(<circle cx="5" cy="5" r="2"/>)").paths.at(0).points) / (pi * 4) -
                         1) < 0.015);
        QVERIFY(std::abs(area_of(drawn(R"(<ellipse rx="3" ry="2"/>)").paths.at(0).points) / (pi * 6) - 1) <
                0.015);
        QCOMPARE(drawn(R"(<line x1="0" y1="0" x2="3" y2="4"/>)").paths.at(0).points.size(), size_t(2));
        QVERIFY(!drawn(R"(<polyline points="0,0 1,0 1,1"/>)").paths.at(0).closed);
        QVERIFY(drawn(R"(<polygon points="0,0 1,0 1,1"/>)").paths.at(0).closed);
        // Two half circles by arcs, with numbers that touch.
        const auto arcs = drawn(R"(<path d="M-2 0a2 2 0 0140 0a2 2 0 01-4-0z"/>)");
        QVERIFY(!arcs.paths.empty());
        const auto disc = drawn(R"(<path d="M-2,0 A2,2 0 0 1 2,0 A2,2 0 0 1 -2,0 Z"/>)");
        QVERIFY(std::abs(area_of(disc.paths.at(0).points) / (pi * 4) - 1) < 0.015);
    }

    void commands_go_on_as_the_standard_says() {
        const auto same = [](const char* a, const char* b) {
            const auto x = drawn(std::string("<path d=\"") + a + "\"/>"),
                       y = drawn(std::string("<path d=\"") + b + "\"/>");
            if (x.paths.size() != y.paths.size() || x.paths.empty()) return false;
            for (size_t i = 0; i < x.paths.size(); ++i) {
                if (x.paths[i].points.size() != y.paths[i].points.size() ||
                    x.paths[i].closed != y.paths[i].closed)
                    return false;
                for (size_t k = 0; k < x.paths[i].points.size(); ++k)
                    if (glm::length(x.paths[i].points[k] - y.paths[i].points[k]) > 1e-9) return false;
            }
            return true;
        };
        QVERIFY(same("M0 0 4 0 4 4z", "M0,0 L4,0 L4,4 L0,0"));
        QVERIFY(same("m1 1 h3 v3 h-3 z", "M1 1 H4 V4 H1 Z"));
        QVERIFY(same("M0 0C0 1 1 2 2 2S4 1 4 0", "M0 0C0 1 1 2 2 2C3 2 4 1 4 0"));
        QVERIFY(same("M0 0Q1 2 2 0T4 0", "M0 0Q1 2 2 0Q3 -2 4 0"));
        QVERIFY(same("M0 0 1 0 1 1z m5 5 1 0 0 1z", "M0 0L1 0L1 1Z M5 5L6 5L6 6Z"));
        QVERIFY(same("M.5.5-1-1", "M0.5 0.5 L-1 -1"));
        QVERIFY(same("M1e1 0 L2E1,0", "M10 0 L20 0"));
    }

    void groups_move_what_is_in_them_and_the_drawing_tells_its_size() {
        const auto moved = drawn(
            R"svg(<g transform="translate(10,0) rotate(90)"><g transform="scale(2)"><line x1="1" y1="0" x2="2" y2="0"/></g></g>)svg",
            R"(width="100mm" height="50mm" viewBox="0 0 200 100")");
        QCOMPARE(moved.paths.at(0).points.at(0), Vec2(10, -2)); // y is up here
        QCOMPARE(moved.paths.at(0).points.at(1), Vec2(10, -4));
        QVERIFY(std::abs(moved.metres_per_unit - 0.1 / 200) < 1e-12);
        QVERIFY(drawn(R"(<defs><rect width="1" height="1"/></defs>)").paths.empty());
        QVERIFY(!drawn(R"(<text>Hall</text><rect width="1" height="1"/>)").remarks.empty());
    }

    void what_is_no_drawing_is_refused_and_damaged_paths_go_as_far_as_they_make_sense() {
        for (const char* bad : {"", "<svg", "<html></html>", "{}", "<svg><path d='M0 0</svg>"})
            QVERIFY2(!io::svg_from_text(bad, "drawing"), bad);
        const auto half = drawn(R"(<path d="M0 0 L4 0 L4 4 nonsense L0 4"/>)");
        QCOMPARE(half.paths.at(0).points.size(), size_t(3));
        QVERIFY(!half.remarks.empty());
        const uint64_t seed = 4099;
        qInfo("seed %llu", static_cast<unsigned long long>(seed));
        Random random(seed);
        const std::string characters = "MmLlHhVvCcSsQqTtAaZz0123456789.,-+eE ";
        for (int round = 0; round < 2000; ++round) {
            std::string d;
            for (int i = int(random.between(0, 60)); i > 0; --i)
                d += characters[size_t(random.between(0, double(characters.size()) - 0.01))];
            const auto read = io::svg_from_text("<svg><path d=\"" + d + "\"/></svg>", "drawing");
            QVERIFY(read);
            for (const io::SvgPath& path : read->paths)
                for (const Vec2& p : path.points)
                    QVERIFY2(std::isfinite(p.x) && std::isfinite(p.y), d.c_str());
        }
    }

    void closed_lines_are_outlines_with_holes_or_walls_and_open_ones_walls() {
        const auto room =
            drawn(R"(<path id="hall" d="M0 0H10V10H0Z M2 2H8V8H2Z M4 4H6V6H4Z"/><path d="M20 0 25 0 25 5"/>
                                   <path d="M0 20 H1"/><path d="M30 30 L34 34 L34 30 L30 34Z"/>)");
        edit::TracedAs as;
        as.at = {100, 0, 1};
        const Level level = test::LevelMaker().level();
        const edit::Traced traced = edit::traced(level, lines(room), as);
        QCOMPARE(traced.left_out, 1); // it crosses itself
        QCOMPARE(traced.items.size(), size_t(4));
        const Brush& hall = *traced.items[0].brush();
        QCOMPARE(traced.items[0].name, std::string("hall"));
        QCOMPARE(hall.shape, Shape::outline);
        QCOMPARE(hall.holes.size(), size_t(1));
        QCOMPARE(area_of(hall.points), 100.0);
        QCOMPARE(area_of(hall.holes[0]), 36.0);
        QCOMPARE(area_of(traced.items[1].brush()->points), 4.0); // the island in the hole
        QCOMPARE(traced.items[2].brush()->shape, Shape::wall_run);
        QVERIFY(box_of(traced.items[0]).low == Vec3(100, -10, 1));
        as.walls = true;
        for (const Item& item : edit::traced(level, lines(room), as).items)
            QCOMPARE(item.brush()->shape, Shape::wall_run);
    }

    void lines_of_very_many_points_become_brushes_that_hold_them() {
        edit::PlanLine circle{"round", {}, true, 0};
        constexpr int k_points = 20000;
        for (int i = 0; i < k_points; ++i) {
            const double t = 2 * std::numbers::pi * i / k_points;
            circle.points.push_back(Vec2(std::cos(t), std::sin(t)) * 400.0);
        }
        const edit::Traced traced = edit::traced(test::LevelMaker().level(), std::span(&circle, 1), {});
        QCOMPARE(traced.items.size(), size_t(1));
        const Brush& brush = *traced.items[0].brush();
        QVERIFY(brush.points.size() <= most_points && brush.points.size() > 32);
        QVERIFY(std::abs(area_of(brush.points) / (std::numbers::pi * 160000) - 1) < 0.005);
        QVERIFY(problem_of(brush, nullptr).empty());
    }
};

RUBBLE_TEST(SvgPathsTest)
#include "svg_paths_test.moc"
