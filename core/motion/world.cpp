#include "motion/world.h"

#include <cmath>

#include "base/tolerance.h"

namespace rubble::motion {

namespace {
constexpr double k_most_cells = 256;
}

World::World(std::vector<Column> columns) : columns_(std::move(columns)) {
    cells_.reserve(columns_.size() * 4);
    for (int i = 0; i < int(columns_.size()); ++i) {
        const Column& column = columns_[size_t(i)];
        lowest_ = i == 0 ? column.low : std::min(lowest_, column.low);
        const int64_t x0 = index(column.box.low.x), x1 = index(column.box.high.x);
        const int64_t y0 = index(column.box.low.y), y1 = index(column.box.high.y);
        if (double(x1 - x0 + 1) * double(y1 - y0 + 1) > k_most_cells) {
            large_.push_back(i);
            continue;
        }
        for (int64_t x = x0; x <= x1; ++x)
            for (int64_t y = y0; y <= y1; ++y) cells_[key(x, y)].push_back(i);
    }
}

World world_of(const build::Solid& solid) {
    std::vector<Column> columns;
    for (int b = 0; b < int(solid.brushes.size()); ++b)
        for (const auto& cell : solid.brushes[size_t(b)]->matter)
            for (Column& column : columns_of(cell, b)) columns.push_back(std::move(column));
    return World(std::move(columns));
}

double overlap_m(const World& world, const Body& body) {
    double deepest = 0;
    const Vec2 centre = flat(body.at);
    world.for_near(Box2{centre, centre}.grown(body.radius), [&](int i) {
        const Column& column = world.columns()[size_t(i)];
        const auto range = column.over_disc(centre, body.radius);
        if (!range) return;
        const double up = range->high - body.at.z, down = body.at.z + body.height - range->low;
        if (up <= 0 || down <= 0) return;
        const auto beside = column.between(body.at.z, body.at.z + body.height);
        const double aside = beside.empty() ? 0 : body.radius - geometry::distance(beside, centre);
        deepest = std::max(deepest, std::min({up, down, std::max(aside, 0.0)}));
    });
    return deepest;
}

std::optional<Support> support_below(const World& world, const Body& body, double up, double down) {
    std::optional<Support> best;
    const Vec2 centre = flat(body.at);
    world.for_near(Box2{centre, centre}.grown(body.radius), [&](int i) {
        const Column& column = world.columns()[size_t(i)];
        if (column.low > body.at.z + up || column.high < body.at.z - down) return;
        const auto range = column.over_disc(centre, body.radius);
        if (!range || range->high > body.at.z + up || range->high < body.at.z - down) return;
        const bool gentler = best && range->high > best->height - tolerance::same_height_m &&
                             column.steep < world.columns()[size_t(best->column)].steep;
        if (!best || range->high > best->height + tolerance::same_height_m || gentler)
            best = Support{range->high, i};
    });
    return best;
}

} // namespace rubble::motion
