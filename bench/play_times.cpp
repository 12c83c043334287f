#include <cstdio>
#include <cstdlib>

#include "build/solid_builder.h"
#include "level/element_values.h"
#include "measure.h"
#include "motion/recording.h"

using namespace rubble;

/// How many steps of play a second there are with so many lifts and foes under way, in real time steps of
/// 1/120 s: `play_times COUNT`.
int main(int count_of_words, char** words) {
    const int count = count_of_words > 1 ? std::atoi(words[1]) : 200;
    Level level;
    Layer layer;
    Brush floor;
    floor.place.at = {0, 0, -1}, floor.size = {300, 300, 1};
    layer.items.push_back(Item{{"b1"}, {}, false, floor, {}});
    for (int i = 0; i < count; ++i) {
        const Vec3 at((i % 20) * 6.0 - 60, (i / 20) * 6.0 - 30, 0);
        Element one{i % 2 ? "foe" : "lift", at, 0, {}};
        one = with_value(std::move(one), i % 2 ? "path" : "stops",
                         std::vector<Vec3>{at, at + (i % 2 ? Vec3(4, 0, 0) : Vec3(0, 0, 3))});
        layer.items.push_back(Item{{"e" + std::to_string(i)}, {}, false, std::move(one), {}});
    }
    level.layers.push_back(std::move(layer));
    const motion::World world = motion::world_of(build::build_solid(level));
    const Character character;
    motion::PlayState state = motion::begun_at(world, character, {-63, -33, 0});
    constexpr int k_steps = 120 * 60;
    const double begin = bench::now_ms();
    for (int i = 0; i < k_steps; ++i) {
        const double turn = i % 480 < 240 ? 1 : -1;
        state = motion::step(world, character, state, {{turn, 0}, i % 100 < 20, false, false});
        if (state.body.dead) state = motion::put_back(world, character, state, {-63, -33, 0});
    }
    const double seconds = (bench::now_ms() - begin) / 1000;
    std::printf("%d moving elements: %.0f steps a second, %.0f times as fast as it is walked\n", count,
                k_steps / seconds, k_steps / seconds / 120);
}
