#include "motion/world.h"

#include <algorithm>
#include <map>
#include <mutex>

#include "base/ensure.h"
#include "base/tolerance.h"

namespace rubble::motion {

struct World::Others {
    std::mutex mutex;
    std::map<std::vector<SourceId>, std::unique_ptr<const World>> worlds;
};

World::World(std::vector<Column> columns, std::vector<Source> sources)
    : columns_(std::move(columns)),
      sources_(std::move(sources)),
      others_(std::make_shared<Others>()) {
    std::vector<Box2> boxes;
    for (const Column& column : columns_) {
        lowest_ = boxes.empty() ? column.low : std::min(lowest_, column.low);
        boxes.push_back(column.box);
    }
    grid_ = geometry::BoxGrid(boxes);
    for (Column& column : columns_)
        if (column.steep > 0) column.leads_to_deg = slope_led_to(column);
}

const World& World::without(const std::vector<SourceId>& gone) const {
    if (gone.empty() || !others_) return *this;
    const std::lock_guard lock(others_->mutex);
    std::unique_ptr<const World>& other = others_->worlds[gone];
    if (!other) {
        std::vector<Column> columns;
        std::vector<Source> sources;
        for (const Source& source : sources_) {
            if (std::binary_search(gone.begin(), gone.end(), source.id)) continue;
            const int shift = int(columns.size()) - source.first;
            for (int i = source.first; i < source.first + source.count; ++i) {
                Column column = columns_[size_t(i)];
                column.source = int(sources.size());
                column.cell.first += shift;
                columns.push_back(std::move(column));
            }
            sources.push_back({source.id, source.first + shift, source.count, source.tags});
        }
        other = std::make_unique<const World>(std::move(columns), std::move(sources));
    }
    return *other;
}

double World::slope_led_to(const Column& riser) const {
    constexpr double k_near_m = 0.02;
    double gentlest = std::numeric_limits<double>::infinity();
    for_near(riser.box.grown(k_near_m), [&](int i) {
        const Column& tread = columns_[size_t(i)];
        if (&tread == &riser || tread.slope_deg >= gentlest) return;
        if (tread.high < riser.high - k_near_m) return;
        for (Vec2 p : riser.area) {
            if (riser.top.at(p) < riser.high - tolerance::limit_m) continue;
            const Vec2 q = geometry::nearest(tread.area, p);
            if (glm::length(q - p) <= k_near_m && std::abs(tread.top.at(q) - riser.high) <= k_near_m)
                gentlest = tread.slope_deg;
        }
    });
    return gentlest;
}

void WorldMaker::begin(SourceId id, MatterTags tags) {
    sources_.push_back({std::move(id), int(columns_.size()), 0, tags});
}

void WorldMaker::add(const geometry::ConvexCell& cell) {
    RUBBLE_ENSURE(!sources_.empty(), return );
    std::vector<Column> parts = columns_of(cell, int(sources_.size()) - 1);
    const Column::Cell all{int(columns_.size()), int(parts.size())};
    for (Column& part : parts) {
        part.cell = all;
        columns_.push_back(std::move(part));
    }
    sources_.back().count += all.count;
}

World WorldMaker::finished() { return World(std::move(columns_), std::move(sources_)); }

World world_of(const build::Solid& solid) {
    WorldMaker maker;
    for (const auto& brush : solid.brushes) {
        maker.begin({brush->item, 0});
        for_each_matter(*brush, [&](const geometry::ConvexCell& cell) { maker.add(cell); });
    }
    return maker.finished();
}

double overlap_m(const World& world, const Body& body) {
    double deepest = 0;
    const Vec2 centre = flat(body.at);
    world.for_near(Box2{centre, centre}.grown(body.radius), [&](int i) {
        const Column& column = world.columns()[size_t(i)];
        if (column.low >= body.at.z + body.height || column.most_under_disc(centre, body.radius) <= body.at.z)
            return;
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
        if (column.low > body.at.z + up) return;
        if (column.most_under_disc(centre, body.radius) < body.at.z - down) return;
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
