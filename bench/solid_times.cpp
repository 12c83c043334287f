// How long solids of very many brushes take, from nothing and after one edit. Run a release build on an idle
// machine; docs/figures.md keeps the figures.

#include <algorithm>
#include <cstdio>
#include <string>

#include "build/solid_builder.h"
#include "build/surface_builder.h"
#include "crowd.h"
#include "edit/items.h"
#include "level/history.h"
#include "measure.h"

using namespace rubble;
using bench::crowd;
using bench::memory_mb;
using bench::now_ms;

namespace {

struct Builders {
    build::SolidBuilder solids;
    build::SurfaceBuilder surfaces;
    build::Surface build(const Level& level) { return surfaces.build(solids.build(level)); }
};

double full_ms(const Level& level, int times) {
    double best = 1e9;
    for (int i = 0; i < times; ++i) {
        const double begin = now_ms();
        Builders builders;
        builders.build(level);
        best = std::min(best, now_ms() - begin);
    }
    return best;
}

/// Times of moving one brush after another by a quarter metre, in order.
std::vector<double> move_times(const Level& start, int moves, const std::string& only = {}) {
    Builders builders;
    builders.build(start);
    std::mt19937_64 engine(7);
    const int count = int(start.layers[0]->items.size());
    std::vector<double> times;
    Level level = start;
    for (int i = 0; i < moves; ++i) {
        const int n = std::uniform_int_distribution<int>(1, count - 1)(engine);
        const std::vector<ItemId> one{only.empty() ? level.layers[0]->items[size_t(n)]->id : ItemId{only}};
        const Level after = edit::moved(level, one, {i % 2 ? 0.25 : -0.25, 0, 0});
        const double begin = now_ms();
        builders.build(after);
        times.push_back(now_ms() - begin);
        level = after;
    }
    std::sort(times.begin(), times.end());
    return times;
}

void print_moves(const char* what, const std::vector<double>& times) {
    std::printf("%s: median %.3f ms, 99 %% %.3f ms\n", what, times[times.size() / 2],
                times[times.size() * 99 / 100]);
}

} // namespace

int main() {
    // First, while no memory that was used before is there to be used again.
    {
        const Level level = crowd(10'000);
        Document document;
        document.levels.push_back({"", level});
        History history(document);
        const double before = memory_mb();
        std::mt19937_64 engine(7);
        for (int i = 0; i < 1000; ++i) {
            const int n = std::uniform_int_distribution<int>(1, 9999)(engine);
            const std::vector<ItemId> one{level.layers[0]->items[size_t(n)]->id};
            document.levels[0].level = edit::moved(*history.now().levels[0].level, one, {0.25, 0, 0});
            history.add(document, "Move");
        }
        std::printf("1,000 edits of 10,000 brushes: %.0f MB of history\n", memory_mb() - before);
        const double begin = now_ms();
        history.undo();
        std::printf("undo of one: %.3f ms\n", now_ms() - begin);
    }
    {
        const Level level = crowd(10'000);
        std::printf("10,000 brushes, solid and surface from nothing: %.0f ms\n", full_ms(level, 3));
        const build::Surface surface = Builders().build(level);
        const double begin = now_ms();
        const build::SurfaceFacts facts = facts_of(surface);
        std::printf("  counted in %.0f ms: %zu faces of %zu pieces, %zu open edges\n", now_ms() - begin,
                    facts.faces, facts.pieces, facts.open_edges);
        print_moves("10,000 brushes, one moved", move_times(level, 1000));
    }
    {
        const Level level = crowd(10'000, true);
        std::printf("10,000 on one floor, from nothing: %.0f ms\n", full_ms(level, 2));
        print_moves("10,000 on one floor, one moved", move_times(level, 300));
        print_moves("10,000 on one floor, the floor moved", move_times(level, 10, "floor"));
    }
    {
        const Level level = crowd(50'000);
        const double before = memory_mb(), begin = now_ms();
        Builders builders;
        builders.build(level);
        std::printf("50,000 brushes, from nothing: %.0f ms, %.0f MB\n", now_ms() - begin,
                    memory_mb() - before);
        print_moves("50,000 brushes, one moved", move_times(level, 1000));
    }
    // The slope of a line through the points, both ways as logarithms.
    double n = 0, sx = 0, sy = 0, sxx = 0, sxy = 0;
    for (int count = 1000; count <= 64'000; count *= 2) {
        const double ms = full_ms(crowd(count), count < 20'000 ? 3 : 1);
        const double x = std::log(count), y = std::log(ms);
        n += 1, sx += x, sy += y, sxx += x * x, sxy += x * y;
        std::printf("  %d brushes: %.1f ms\n", count, ms);
    }
    std::printf("grows as n^%.2f\n", (n * sxy - sx * sy) / (n * sxx - sx * sx));
}
