#pragma once

#include <cmath>
#include <random>
#include <string>

#include "level/level.h"

namespace rubble::bench {

/// Brushes in a space two storeys high, each overlapping about four others: every fifth a cut, one in twenty
/// a turned ramp; on one floor under them all where wanted.
inline Level crowd(int count, bool floor = false, uint64_t seed = 20'261'124) {
    std::mt19937_64 engine(seed);
    auto stepped = [&](double low, double high) {
        return low + 0.25 * double(std::uniform_int_distribution<int>(0, int((high - low) / 0.25))(engine));
    };
    // Mean edges of 2 m: two overlap when their middles are within 2 m each way, (2 * 2)^3 of the space.
    const double height = floor ? 0 : 8;
    const double side = floor ? 116 : std::sqrt(count * 64.0 / 4.0 / (height + 2));
    Level level;
    level.name = "Crowd";
    level.character = {"courier"};
    Layer layer;
    layer.id = {"l1"}, layer.name = "Ground";
    if (floor) {
        Brush brush;
        brush.place.at = {0, 0, -1};
        brush.size = {128, 128, 1};
        layer.items.push_back(Item{{"floor"}, "Floor", false, brush, {}});
    }
    for (int i = 0; i < count; ++i) {
        Brush brush;
        brush.place.at = {stepped(-side / 2, side / 2), stepped(-side / 2, side / 2), stepped(0, height)};
        brush.size = floor ? Vec3(stepped(0.5, 2), stepped(0.5, 2), stepped(0.5, 2))
                           : Vec3(stepped(1, 3), stepped(1, 3), stepped(1, 3));
        if (i % 5 == 0) brush.effect = Effect::cut, brush.place.at.z -= floor ? 0.25 : 0;
        if (i % 20 == 1) brush.shape = Shape::ramp, brush.place.turn_deg = stepped(0, 345);
        layer.items.push_back(Item{{"b" + std::to_string(i)}, {}, false, brush, {}});
    }
    level.layers.push_back(layer);
    return level;
}

} // namespace rubble::bench
