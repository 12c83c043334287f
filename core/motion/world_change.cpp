#include "motion/world_change.h"

#include <algorithm>
#include <unordered_map>

namespace rubble::motion {

namespace {

/// Whether a source brings the same columns, of the same kind; its index says nothing about them.
bool same_columns(const World& a, const World::Source& from_a, const World& b, const World::Source& from_b) {
    if (from_a.count != from_b.count || from_a.tags != from_b.tags) return false;
    for (int k = 0; k < from_a.count; ++k) {
        const Column &p = a.columns()[size_t(from_a.first + k)], &q = b.columns()[size_t(from_b.first + k)];
        if (p.top != q.top || p.bottom != q.bottom || p.area != q.area) return false;
    }
    return true;
}

/// Everything, where nothing can be taken over.
WorldChange all_new(const World& now) {
    const double far = std::numeric_limits<double>::infinity();
    return {std::vector<int>(now.columns().size(), -1), {Box2{Vec2(-far), Vec2(far)}}};
}

} // namespace

bool WorldChange::touches(const Box2& area) const {
    return std::any_of(places.begin(), places.end(), [&](const Box2& place) { return place.touches(area); });
}

WorldChange change_between(const World& before, const World& now) {
    // How deep one may fall depends on the lowest matter of all.
    if (before.lowest() != now.lowest() || before.moving() != now.moving()) return all_new(now);
    std::unordered_map<SourceId, size_t> known;
    for (size_t i = 0; i < before.sources().size(); ++i) known[before.sources()[i].id] = i;

    WorldChange change;
    change.before.assign(now.columns().size(), -1);
    std::vector<bool> kept(before.sources().size(), false);
    auto add_places = [&](const World& world, const World::Source& source) {
        for (int k = 0; k < source.count; ++k)
            change.places.push_back(world.columns()[size_t(source.first + k)].box);
    };
    int last = -1;
    for (const World::Source& source : now.sources()) {
        const auto same = known.find(source.id);
        if (same == known.end() || !same_columns(before, before.sources()[same->second], now, source)) {
            add_places(now, source);
            continue;
        }
        // Columns are looked at in their order: another order may give another answer.
        if (int(same->second) < last) return all_new(now);
        last = int(same->second);
        kept[same->second] = true;
        for (int k = 0; k < source.count; ++k)
            change.before[size_t(source.first + k)] = before.sources()[same->second].first + k;
    }
    for (size_t i = 0; i < kept.size(); ++i)
        if (!kept[i]) add_places(before, before.sources()[i]);
    return change;
}

} // namespace rubble::motion
