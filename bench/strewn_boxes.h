#pragma once

#include <cmath>
#include <random>
#include <string>

#include "level/level.h"

namespace rubble::bench {

/// Boxes strewn over a floor, 1.6 m² of it for each: edges of 1 to 4 m on a quarter-metre grid, tops at 0.25
/// to 3 m, every sixth a roof half a metre thick at 3 m; a start and a goal at opposite corners. Other shapes
/// stand in the boxes' places, those that are round with 24 sides.
inline Level strewn_boxes(int count, Shape shape = Shape::box) {
    std::mt19937_64 engine(1804);
    const auto stepped = [&](double low, double high) {
        return low + 0.25 * double(std::uniform_int_distribution<int>(0, int((high - low) / 0.25))(engine));
    };
    const double side = std::sqrt(count * 1.6);
    Level level;
    level.name = "Strewn boxes";
    level.character = {"courier"};
    Layer layer;
    layer.id = {"l1"}, layer.name = "Ground";
    const auto add = [&](const std::string& id, const Vec3& at, const Vec3& size) {
        Brush box;
        box.place.at = at, box.size = size;
        if (id != "floor") box.shape = shape, box.sides = 24;
        layer.items.push_back(Item{{id}, {}, false, box, {}});
    };
    add("floor", {0, 0, -1}, {side + 8, side + 8, 1});
    for (int i = 0; i < count; ++i) {
        const bool roof = i % 6 == 0;
        const Vec3 size(stepped(1, 4), stepped(1, 4), roof ? 0.5 : stepped(0.25, 3));
        const double half = std::floor(side * 2) / 4;
        add("b" + std::to_string(i), {stepped(-half, half), stepped(-half, half), roof ? 3.0 : 0.0}, size);
    }
    const double corner = side / 2 + 3;
    layer.items.push_back(Item{{"s1"}, "Start", false, Element{"start", {-corner, -corner, 0}, 0, {}}, {}});
    layer.items.push_back(Item{{"g1"}, "Goal", false, Element{"goal", {corner, corner, 0}, 0, {}}, {}});
    level.layers.push_back(layer);
    level.claims.push_back({{"c1"}, {}, Claim::Kind::reaches, {"s1"}, {"g1"}, {}, {}, 0, {}});
    return level;
}

} // namespace rubble::bench
