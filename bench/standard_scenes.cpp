// The standard scenes, with the figures that docs/figures.md keeps. Run a release build on an idle machine.

#include <benchmark/benchmark.h>

#include "build/solid_builder.h"
#include "build/surface_builder.h"
#include "check/check.h"
#include "edit/items.h"
#include "scattered_boxes.h"

using namespace rubble;

using bench::scattered_boxes;

namespace {

void solid_all(benchmark::State& state) {
    const Level level = scattered_boxes(int(state.range(0)));
    for (auto _ : state) benchmark::DoNotOptimize(build::build_solid(level));
}
BENCHMARK(solid_all)->Arg(1000)->Arg(4000)->Unit(benchmark::kMillisecond);

void surface_all(benchmark::State& state) {
    const build::Solid solid = build::build_solid(scattered_boxes(int(state.range(0))));
    for (auto _ : state) benchmark::DoNotOptimize(build::surface_of(solid));
}
BENCHMARK(surface_all)->Arg(1000)->Arg(4000)->Unit(benchmark::kMillisecond);

void check_all(benchmark::State& state) {
    const Level level = scattered_boxes(int(state.range(0)));
    for (auto _ : state) {
        const auto result = check::check_level({}, level);
        state.counters["ledges"] = double(result.ground->ledges.size());
        state.counters["links"] = double(result.reach->links.size());
        state.counters["tries"] = double(result.reach->tries);
        state.counters["fragments"] = double(result.ground->fragments.size());
    }
}
BENCHMARK(check_all)->Arg(1000)->Unit(benchmark::kMillisecond);

void ground_all(benchmark::State& state) {
    const auto world = motion::world_of(build::build_solid(scattered_boxes(int(state.range(0)))));
    for (auto _ : state) benchmark::DoNotOptimize(check::ground_of(world, Character{}));
}
BENCHMARK(ground_all)->Arg(1000)->Unit(benchmark::kMillisecond);

void solid_after_one_move(benchmark::State& state) {
    Level level = scattered_boxes(1000);
    build::SolidBuilder builder;
    build::SurfaceBuilder surfaces;
    surfaces.build(builder.build(level));
    double by = 0.25;
    for (auto _ : state) {
        const std::vector<ItemId> one{{"b500"}};
        level = edit::moved(level, one, {by, 0, 0});
        by = -by;
        benchmark::DoNotOptimize(surfaces.build(builder.build(level)));
    }
}
BENCHMARK(solid_after_one_move)->Unit(benchmark::kMillisecond);

/// What is seen after a box was moved: the new solid, and where one gets to now.
void tint_after_one_move(benchmark::State& state) {
    Level level = scattered_boxes(1000);
    build::SolidBuilder builder;
    check::CheckOptions options;
    options.before = std::make_shared<check::CheckResult>(check::check_level({}, level, builder, options));
    double by = 0.25;
    for (auto _ : state) {
        const std::vector<ItemId> one{{"b500"}};
        level = edit::moved(level, one, {by, 0, 0});
        by = -by;
        check::CheckResult after;
        options.on_reach = [&](const check::CheckResult& result) {
            after = result;
            options.cancel.request();
        };
        options.cancel = Cancel::create();
        check::check_level({}, level, builder, options);
        state.counters["reach_ms"] = after.timing.reach_ms;
        options.before = std::make_shared<check::CheckResult>(std::move(after));
    }
}
BENCHMARK(tint_after_one_move)->Unit(benchmark::kMillisecond);

void one_second_of_walking(benchmark::State& state) {
    const auto world = motion::world_of(build::build_solid(scattered_boxes(1000)));
    const Character c;
    motion::State s = motion::state_at(world, c, {0, 0, 0.0});
    for (auto _ : state)
        for (int i = 0; i < 120; ++i) s = motion::step(world, c, s, {{1, 0}, i == 30, false, false});
}
BENCHMARK(one_second_of_walking)->Unit(benchmark::kMicrosecond);

} // namespace

BENCHMARK_MAIN();
