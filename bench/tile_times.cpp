// How long layers of tiles take to open, fill and check. Run a release build on an idle machine;
// docs/figures.md keeps the figures.

#include <cstdio>
#include <random>
#include <string>

#include "check/check.h"
#include "edit/tiles.h"
#include "io/level_file.h"
#include "measure.h"
#include "tile_terrain.h"

using namespace rubble;
using bench::level_of;
using bench::memory_mb;
using bench::now_ms;
using bench::terrain;

namespace {

void large_layer() {
    constexpr int k_size = 4096;
    std::mt19937 random(5);
    TileGridMaker maker;
    for (int row = 0; row < k_size; ++row)
        for (int column = 0; column < k_size; ++column) maker.put({column, row}, Tile(int(random() % 24)));
    TileLayer tiles;
    tiles.grid = maker.finished();
    const std::string text = io::text_of(level_of(tiles));
    const double before = memory_mb();
    const double begin = now_ms();
    const auto read = io::level_from_text(text, "bench");
    const double opened = now_ms() - begin;
    const TileGrid& grid = (*read->layers[0]->tiles)->grid;
    size_t chunks = 0;
    grid.for_each_chunk([&](int, int, const auto&) { ++chunks; });
    std::printf(
        "4,096 x 4,096 cells: opened in %.0f ms, %.2f bytes a cell (%.0f MB more in all), %zu chunks\n",
        opened, double(chunks) * sizeof(TileGrid::Chunk) / (double(k_size) * k_size), memory_mb() - before,
        chunks);
    const TileGrid bare = TileGrid().with_area({{0, 0}, {k_size, k_size}});
    const double fill = now_ms();
    const auto runs = edit::area_around(bare, {2000, 2000});
    const TileGrid filled = edit::filled(bare, edit::Stamp{1, 1, {Tile(3)}}, runs, {2000, 2000});
    std::printf("filled in %.0f ms (%zu runs)\n", now_ms() - fill, runs.size());
}

void usual_level() {
    Level level = level_of(terrain(500, 100));
    Layer play;
    play.id = {"play"};
    const TileLayer& tiles = **level.layers[0]->tiles;
    // On the uppermost whole cell of a column about there.
    const auto ground_at = [&](int column) {
        for (;; ++column) {
            int row = 0;
            while (tiles.grid.at({column, row}).empty()) ++row;
            if (tiles.grid.at({column, row}).number() == 0 && tiles.grid.at({column, row + 5}).number() == 0)
                return Vec3((column + 0.5) * tiles.cell_m, 0, (100 - row) * tiles.cell_m);
        }
    };
    play.items.push_back(Item{{"start"}, {}, false, Element{"start", ground_at(4), 0, {}}, {}});
    play.items.push_back(Item{{"goal"}, {}, false, Element{"goal", ground_at(470), 0, {}}, {}});
    level.layers.push_back(std::move(play));
    size_t cells = 0;
    tiles.grid.for_each_tile(tiles.grid.area(), [&](CellAt, Tile) { ++cells; });
    build::SolidBuilder builder;
    const double begin = now_ms();
    auto result = std::make_shared<check::CheckResult>(check::check_level({}, level, builder, {}));
    std::printf("500 x 100, %zu cells: full check %.0f ms; %zu columns, %zu ledges, %zu links, goal %s\n",
                cells, now_ms() - begin, result->world->columns().size(), result->ground->ledges.size(),
                result->reach->links.size(), check::reached_key(result->places[1].reached));
    std::vector<double> matter, tint;
    std::mt19937 random(9);
    for (int i = 0; i < 60; ++i) {
        TileLayer now = **level.layers[0]->tiles;
        const TileGrid::Change change{{int(random() % 480) + 10, int(random() % 90) + 5},
                                      random() % 2 ? Tile() : Tile(0)};
        const double start = now_ms();
        now.grid = now.grid.with(std::span(&change, 1));
        level = edit::with_tile_layer(level, {"ground"}, std::move(now));
        auto solid = std::make_shared<const build::Solid>(builder.build(level));
        matter.push_back(now_ms() - start);
        check::CheckOptions options;
        options.before = result;
        double reached = 0;
        options.on_reach = [&](const check::CheckResult&) { reached = now_ms() - start; };
        result = std::make_shared<check::CheckResult>(check::check_level({}, level, solid, options));
        tint.push_back(reached);
    }
    std::sort(matter.begin(), matter.end()), std::sort(tint.begin(), tint.end());
    std::printf("one cell painted: matter %.2f ms median, %.2f at most; matter and tint %.1f ms median, %.1f "
                "at most\n",
                matter[30], matter.back(), tint[30], tint.back());
}

} // namespace

int main() {
    usual_level();
    large_layer();
}
