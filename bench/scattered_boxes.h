#pragma once

#include <cmath>
#include <random>
#include <string>

#include "level/level.h"

namespace rubble::bench {

/// Boxes with edges of 1 to 6 m on a quarter-metre grid, each overlapping about four others, on a floor.
inline Level scattered_boxes(int count) {
    std::mt19937_64 engine(20'261'123);
    auto stepped = [&](double low, double high) {
        return low + 0.25 * double(std::uniform_int_distribution<int>(0, int((high - low) / 0.25))(engine));
    };
    // A mean edge of 3.5 m: two boxes overlap in plan when their middles are within about 3.5 m each way.
    const double side = std::sqrt(count * 7.0 * 7.0 / 4.0);
    Level level;
    level.name = "Scattered boxes";
    level.character = {"courier"};
    Layer layer;
    layer.id = {"l1"}, layer.name = "Ground";
    Brush floor;
    floor.place.at = {0, 0, -1};
    floor.size = {side + 12, side + 12, 1};
    layer.items.push_back(Item{{"floor"}, "Floor", false, floor, {}});
    for (int i = 0; i < count; ++i) {
        Brush box;
        box.place.at = {stepped(-side / 2, side / 2), stepped(-side / 2, side / 2), 0};
        box.size = {stepped(1, 6), stepped(1, 6), stepped(1, 6)};
        layer.items.push_back(Item{{"b" + std::to_string(i)}, {}, false, box, {}});
    }
    layer.items.push_back(
        Item{{"s1"}, "Start", false, Element{"start", {side / 2 + 4, side / 2 + 4, 0}, 0, {}}, {}});
    layer.items.push_back(
        Item{{"g1"}, "Goal", false, Element{"goal", {-side / 2 - 4, -side / 2 - 4, 0}, 0, {}}, {}});
    level.layers.push_back(layer);
    level.claims.push_back({{"c1"}, {}, Claim::Kind::reaches, {"s1"}, {"g1"}, {}, {}, 0, {}});
    return level;
}

} // namespace rubble::bench
