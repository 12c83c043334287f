#include "demo_levels.h"
#include "edit/items.h"

namespace rubble::demo {

namespace {

/// Builds two sides that answer each other across x = 0.
class Building {
public:
    explicit Building(Level& level) : level_(level) {}

    void box(const char* name, const Vec3& at, const Vec3& size, const char* material) {
        add(name, at, size, Shape::box, material);
    }
    /// The same for the crew on the west side and, mirrored, for the one on the east.
    void both(const char* name, const Vec3& west, const Vec3& size, const char* material,
              Shape shape = Shape::box) {
        add(std::string("West ") + name, west, size, shape, material);
        add(std::string("East ") + name, {-west.x, west.y, west.z}, size, shape, material, 180);
    }
    void element(const char* id, const char* name, const char* kind, const Vec3& at, double facing_deg) {
        level_ = edit::with_item(level_, 0, Item{{id}, name, false, Element{kind, at, facing_deg, {}}, {}});
    }

private:
    void add(std::string name, const Vec3& at, const Vec3& size, Shape shape, const char* material,
             double turn_deg = 0) {
        Brush brush;
        brush.shape = shape, brush.place.at = at, brush.size = size, brush.material = {material};
        if (shape != Shape::box) brush.place.turn_deg = turn_deg;
        level_ = edit::with_item(level_, 0,
                                 Item{{"b" + std::to_string(++count_)}, std::move(name), false, brush, {}});
    }

    Level& level_;
    int count_ = 0;
};

Claim claim(const char* id, const char* name, Claim::Kind kind, const char* from, const char* to,
            double value = 0) {
    Claim out;
    out.id = {id}, out.name = name, out.kind = kind;
    out.from = {from}, out.to = {to}, out.value = value;
    return out;
}

} // namespace

Level twin_quays() {
    Level level;
    level.name = "Twin Quays";
    level.character = {"courier"};
    Layer layer;
    layer.id = {"quays"}, layer.name = "Quays";
    level.layers.push_back(std::move(layer));
    Building build(level);
    build.box("Basin floor", {0, 0, -1}, {44, 24, 1}, "concrete");
    build.box("Scale house", {0, 0, 0}, {4, 4, 3}, "brick");
    build.both("ramp", {-5, 0, 0}, {6, 2, 3}, "timber", Shape::ramp);
    build.both("shed", {-14, 5, 0}, {8, 8, 3}, "brick");
    build.both("ramp to the roof", {-14, -2, 0}, {6, 2, 2}, "timber", Shape::ramp);
    build.both("landing", {-10, -2, 0}, {2, 2, 2}, "timber");
    build.both("tub", {-16, -8, 0}, {1, 1, 1}, "timber");
    build.both("quay", {-20.5, 0, 0}, {3, 24, 1}, "concrete");
    build.both("upper step", {-18.75, 0, 0}, {0.5, 3, 0.7}, "concrete");
    build.both("lower step", {-18.25, 0, 0}, {0.5, 3, 0.35}, "concrete");
    // The east side's gantry was pushed outward later: its jump is the longer one.
    build.box("West gantry", {-6.75, 3, 3}, {6.5, 1.5, 0.25}, "steel");
    build.box("East gantry", {7.5, 3, 3}, {5, 1.5, 0.25}, "steel");
    // A crate that only one crew has.
    build.box("Crate", {-11, -6, 0}, {1.5, 1.5, 1}, "timber");
    build.element("s1", "West crew", "start", {-20.5, 0, 1}, 0);
    build.element("s2", "East crew", "start", {20.5, 0, 1}, 180);
    build.element("r1", "West roof", "place", {-14, 5, 3}, 0);
    build.element("r2", "East roof", "place", {14, 5, 3}, 180);
    build.element("g1", "Scale", "goal", {0, 0, 3}, 0);
    level.claims = {
        claim("c1", "West crew gets to the scale", Claim::Kind::within, "s1", "g1", 8),
        claim("c2", "East crew gets to the scale", Claim::Kind::within, "s2", "g1", 8),
        claim("c3", "West roof to the scale", Claim::Kind::within, "r1", "g1", 8),
        claim("c4", "East roof to the scale", Claim::Kind::within, "r2", "g1", 8),
    };
    return level;
}

} // namespace rubble::demo
