#include "edit/chance.h"

#include <algorithm>
#include <cmath>

#include "base/random.h"
#include "edit/assemblies.h"
#include "edit/items.h"
#include "level/element_values.h"
#include "level/order.h"

namespace rubble::edit {

namespace {

const std::vector<Alternative>& alternatives(const Level& level, const ItemId& place) {
    return find_item(level, place)->assembly()->one_of;
}

} // namespace

std::vector<ItemId> chance_places(const Level& level) {
    std::vector<ItemId> out;
    for_each_item(level, [&](const Item& item, const Layer&) {
        // What is within another assembly is that one's.
        if (item.assembly() && !item.assembly()->one_of.empty() &&
            item.id.value.find('/') == std::string::npos)
            out.push_back(item.id);
    });
    return out;
}

std::map<std::string, std::vector<ItemId>> chance_groups(const Level& level) {
    std::map<std::string, std::vector<ItemId>> out;
    for (const Item* item : elements_of(level))
        if (item->id.value.find('/') == std::string::npos)
            if (const std::string group = text_value(*item->element(), "one_of"); !group.empty())
                out[group].push_back(item->id);
    std::erase_if(out, [](const auto& group) { return group.second.size() < 2; });
    return out;
}

bool has_chance(const Level& level) { return !chance_places(level).empty() || !chance_groups(level).empty(); }

namespace {

/// The level with one of some elements.
Level with_one_of(Level level, const std::vector<ItemId>& group, size_t kept) {
    std::vector<ItemId> others = group;
    others.erase(others.begin() + std::ptrdiff_t(kept));
    return without(level, others);
}

} // namespace

Level drawn(const Project& project, const Level& level, uint64_t seed) {
    constexpr double k_weight = 1 << 20;
    RandomSource random(seed);
    Level out = level;
    for (const ItemId& place : chance_places(level)) {
        const auto& one_of = alternatives(level, place);
        std::vector<uint64_t> weights;
        for (const Alternative& alternative : one_of)
            weights.push_back(uint64_t(std::clamp(alternative.weight * k_weight, 1.0, 1e12)));
        out = with_source(project, out, place, one_of[random.weighted(weights)].source);
    }
    for (const auto& [name, group] : chance_groups(level))
        out = with_one_of(std::move(out), group, random.below(group.size()));
    return out;
}

Outcomes outcomes_of(const Level& level, size_t most) {
    Outcomes out;
    out.places = chance_places(level);
    for (auto& [name, group] : chance_groups(level)) out.groups.push_back(std::move(group));
    if (out.places.empty() && out.groups.empty()) return out;
    const size_t places = out.places.size();
    std::vector<size_t> at(places + out.groups.size(), 0);
    std::vector<std::string> shown;
    for (const ItemId& place : out.places) shown.push_back(find_item(level, place)->assembly()->source);
    for (size_t turned = 0; turned < at.size();) {
        std::vector<std::string> sources;
        for (size_t i = 0; i < places; ++i)
            sources.push_back(alternatives(level, out.places[i])[at[i]].source);
        // The level as it is shown has all elements of a group.
        if (sources != shown || !out.groups.empty()) {
            if (out.sources.size() == most) {
                out.all = false;
                break;
            }
            out.sources.push_back(std::move(sources));
            out.kept.emplace_back(at.begin() + std::ptrdiff_t(places), at.end());
        }
        for (turned = 0; turned < at.size(); ++turned) { // counted up, the first place quickest
            const size_t count = turned < places ? alternatives(level, out.places[turned]).size()
                                                 : out.groups[turned - places].size();
            if (++at[turned] < count) break;
            at[turned] = 0;
        }
    }
    return out;
}

Level with_outcome(const Project& project, Level level, const Outcomes& outcomes, size_t which) {
    for (size_t i = 0; i < outcomes.places.size(); ++i)
        level = with_source(project, level, outcomes.places[i], outcomes.sources[which][i]);
    for (size_t i = 0; i < outcomes.groups.size(); ++i)
        level = with_one_of(std::move(level), outcomes.groups[i], outcomes.kept[which][i]);
    return level;
}

Level with_alternative(const Project& project, const Level& level, const ItemId& place,
                       const std::string& source, double weight) {
    const Item* item = find_item(level, place);
    if (!item || !item->assembly()) return level;
    Item changed = *item;
    auto& placed = std::get<PlacedAssembly>(changed.body);
    auto& one_of = placed.one_of;
    if (one_of.empty()) one_of.push_back({placed.source, 1});
    const auto known = std::find_if(one_of.begin(), one_of.end(),
                                    [&](const Alternative& one) { return one.source == source; });
    if (weight <= 0) {
        if (known != one_of.end()) one_of.erase(known);
    } else if (known != one_of.end()) {
        known->weight = weight;
    } else {
        one_of.push_back({source, weight});
    }
    const auto is_shown = [&](const Alternative& one) { return one.source == placed.source; };
    const bool still_shown = std::any_of(one_of.begin(), one_of.end(), is_shown);
    const std::string shown = still_shown || one_of.empty() ? placed.source : one_of[0].source;
    if (one_of.size() < 2) one_of.clear();
    return with_source(project, with_changed(level, changed), place, shown);
}

} // namespace rubble::edit
