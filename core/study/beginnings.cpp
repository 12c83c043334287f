#include "study/beginnings.h"

#include <algorithm>
#include <cmath>

#include <nlohmann/json.hpp>

#include "base/parallel.h"
#include "motion/recording.h"

namespace rubble::study {

namespace {

const char* const k_key = "begun_from";
/// So many places are looked at in each; ways are one where they are no farther apart than this (metres).
constexpr size_t k_places = 20000;
constexpr double k_same_way_m = 1.5;

/// What of some items is wanted; groups with what is left in them.
ItemList wanted_of(const ItemList& items, const Keeping& keeping) {
    ItemList out;
    for (const ItemPtr& item : items) {
        if (const ItemList* members = item->group() ? members_of(*item) : nullptr) {
            ItemList left = wanted_of(*members, keeping);
            if (!left.empty()) out.push_back(ItemPtr(with_members(*item, std::move(left))));
            continue;
        }
        if (item->piece() && keeping.pieces) out.push_back(item);
        const Brush* brush = item->brush();
        if (!brush || !keeping.brushes) continue;
        // What is cut out belongs to what it is cut into.
        if (!keeping.material.empty() && brush->effect == Effect::fill && brush->material != keeping.material)
            continue;
        Item bare = *item;
        auto& own = std::get<Brush>(bare.body);
        own.material = {}, own.looks.clear();
        out.push_back(ItemPtr(std::move(bare)));
    }
    return out;
}

bool in_matter(const motion::World& world, const Vec3& at) {
    bool in = false;
    const Box2 here{flat(at), flat(at)};
    world.for_near(here, [&](int i) {
        const motion::Column& column = world.columns()[size_t(i)];
        in = in || (geometry::contains(column.area, flat(at)) && at.z > column.bottom.at(flat(at)) &&
                    at.z < column.top.at(flat(at)));
    });
    return in;
}

/// The fraction of 1 that stands at a place of a sequence that fills it evenly (Halton, "On the efficiency of
/// certain quasi-random sequences of points", 1960).
double halton(size_t index, size_t base) {
    double part = 1, out = 0;
    for (size_t i = index + 1; i > 0; i /= base) part /= double(base), out += part * double(i % base);
    return out;
}

Box3 box_of(const motion::World& world) {
    Box3 box;
    for (const motion::Column& column : world.columns()) {
        box.add(raised(column.box.low, column.low));
        box.add(raised(column.box.high, column.high));
    }
    return box;
}

/// The part of one's matter that is matter of the other.
double shared_part(const motion::World& one, const motion::World& other) {
    const Box3 box = box_of(one);
    if (box.empty()) return 0;
    std::vector<char> in(k_places), both(k_places);
    parallel_for(
        k_places,
        [&](size_t i) {
            const Vec3 at = box.low + (box.high - box.low) * Vec3(halton(i, 2), halton(i, 3), halton(i, 5));
            in[i] = in_matter(one, at);
            both[i] = in[i] && in_matter(other, at);
        },
        256);
    const auto count = std::count(in.begin(), in.end(), 1);
    return count == 0 ? 0 : double(std::count(both.begin(), both.end(), 1)) / double(count);
}

/// Where the figure is on the quickest known way to a goal, twice a second.
std::vector<Vec3> way_of(const check::CheckResult& result) {
    for (const check::Place& place : result.places) {
        const bool goal = std::any_of(result.goals.begin(), result.goals.end(),
                                      [&](const Vec3& at) { return at == place.at; });
        if (!goal || !place.witness) continue;
        const motion::PlayedRun run =
            motion::played(*result.world, result.character, place.witness->recording);
        constexpr auto k_each = size_t(0.5 / motion::step_s);
        std::vector<Vec3> out;
        for (size_t i = 0; i < run.bodies.size(); i += k_each) out.push_back(run.bodies[i].at);
        return out;
    }
    return {};
}

} // namespace

Level begun_from(const Level& other, const std::string& file, const Keeping& keeping) {
    Level out;
    out.name = other.name, out.frame = other.frame, out.walked = other.walked,
    out.character = other.character;
    for (const auto& layer : other.layers) {
        if (!keeping.layers.contains(layer->id)) continue;
        Layer kept = *layer;
        kept.items = wanted_of(layer->items, keeping);
        kept.standard = {};
        const bool solid_tiles = kept.tiles && keeping.tiles && (*kept.tiles)->solid;
        if (kept.tiles && !solid_tiles) continue;
        if (!kept.tiles && kept.items.empty()) continue;
        const bool has_parent = std::any_of(out.layers.begin(), out.layers.end(),
                                            [&](const auto& one) { return one->id == kept.parent; });
        if (!has_parent) kept.parent = {};
        out.layers.push_back(std::move(kept));
    }
    out.extra[k_key] = nlohmann::json{{"file", file}, {"name", other.name}}.dump();
    return out;
}

std::optional<BegunFrom> beginning_of(const Level& level) {
    const auto kept = level.extra.find(k_key);
    if (kept == level.extra.end()) return {};
    const auto json = nlohmann::json::parse(kept->second, nullptr, false);
    if (!json.is_object() || !json.contains("file") || !json["file"].is_string()) return {};
    const bool named = json.contains("name") && json["name"].is_string();
    return BegunFrom{json["file"].get<std::string>(),
                     named ? json["name"].get<std::string>() : std::string()};
}

Likeness likeness_of(const check::CheckResult& original, const check::CheckResult& now) {
    Likeness out;
    out.walls_kept = shared_part(*original.world, *now.world);
    out.walls_new = 1 - shared_part(*now.world, *original.world);
    const std::vector<Vec3> was = way_of(original), is = way_of(now);
    if (was.empty() || is.empty()) return out;
    const auto alike = std::count_if(is.begin(), is.end(), [&](const Vec3& at) {
        return std::any_of(was.begin(), was.end(),
                           [&](const Vec3& one) { return glm::length(one - at) <= k_same_way_m; });
    });
    out.routes_alike = double(alike) / double(is.size());
    return out;
}

} // namespace rubble::study
