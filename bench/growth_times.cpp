// How a check grows with its level: growth_times [boxes|cylinders|balls] COUNT… strews so many of them,
// checks them from nothing, moves one and checks again, and fits how the times grow against n·log n.

#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <cstring>

#include "check/check.h"
#include "edit/items.h"
#include "measure.h"
#include "strewn_boxes.h"

using namespace rubble;

namespace {

struct Times {
    int count = 0;
    double full_ms = 0, reach_ms = 0, tint_ms = 0, after_ms = 0;
};

/// So many boxes are moved in turn.
constexpr int k_moves = 8;

Times measured(int count, Shape shape) {
    Times out{count};
    const Level level = bench::strewn_boxes(count, shape);
    build::SolidBuilder builder;
    double begin = bench::now_ms();
    const auto before =
        std::make_shared<check::CheckResult>(check::check_level({}, level, builder, check::CheckOptions{}));
    out.full_ms = bench::now_ms() - begin, out.reach_ms = before->timing.reach_ms;
    for (int k = 0; k < k_moves; ++k) {
        Item item = *level.layers[0]->items[size_t(1 + count * (k + 1) / (k_moves + 1))];
        Brush box = *item.brush();
        box.place.at.x += 0.5;
        item.body = box;
        const Level moved = edit::with_changed(level, item);
        check::CheckOptions options;
        options.before = before;
        begin = bench::now_ms();
        options.on_reach = [&](const check::CheckResult&) {
            out.tint_ms += (bench::now_ms() - begin) / k_moves;
        };
        const check::CheckResult after = check::check_level({}, moved, builder, options);
        out.after_ms += (bench::now_ms() - begin) / k_moves;
        builder.build(level); // as it was, for the next one
    }
    std::printf("%6d: check %8.1f ms (reach %8.1f), one moved: tint %7.1f ms, all %7.1f ms; %zu "
                "findings, %.0f MB\n",
                count, out.full_ms, out.reach_ms, out.tint_ms, out.after_ms, before->findings.size(),
                bench::memory_mb());
    std::fflush(stdout);
    return out;
}

/// The power of n·log n with which the times grow: least squares over the logarithms.
double power_of(const std::vector<Times>& all) {
    double n = 0, sx = 0, sy = 0, sxx = 0, sxy = 0;
    for (const Times& one : all) {
        const double x = std::log(one.count * std::log(double(one.count))), y = std::log(one.full_ms);
        n += 1, sx += x, sy += y, sxx += x * x, sxy += x * y;
    }
    return (n * sxy - sx * sy) / (n * sxx - sx * sx);
}

} // namespace

int main(int argc, char** argv) {
    std::vector<Times> all;
    Shape shape = Shape::box;
    for (int i = 1; i < argc; ++i) {
        if (std::strcmp(argv[i], "boxes") == 0)
            shape = Shape::box;
        else if (std::strcmp(argv[i], "cylinders") == 0)
            shape = Shape::cylinder;
        else if (std::strcmp(argv[i], "balls") == 0)
            shape = Shape::ball;
        else
            all.push_back(measured(std::max(std::atoi(argv[i]), 10), shape));
    }
    if (all.size() > 1) std::printf("grows with the power %.2f of n log n\n", power_of(all));
}
