#include "check/foe_watch.h"

#include <algorithm>

#include "level/element_kinds.h"
#include "motion/cells/letter.h"
#include "motion/elements.h"
#include "motion/sweep.h"

namespace rubble::check {

namespace {

/// The run matters from where it comes this near to the way, and is looked at so often (metres, steps).
constexpr double k_matters_m = 2.5;
constexpr size_t k_watch_steps = 30;
/// So many places of a way are looked for; a look is as thick as this (metres).
constexpr int k_watched_places = 24;
constexpr double k_watch_m = 0.02;

/// Where each foe goes.
struct Way {
    ItemId foe;
    std::vector<Vec3> places;
};

std::vector<Way> ways_of(const motion::World& world) {
    std::vector<Way> out;
    if (const auto& puzzle = world.moving().puzzle) {
        for (const auto& foe : puzzle->foes) {
            if (foe.sight > 0) continue;
            Way way{foe.id, {}};
            for (const int cell : foe.way)
                way.places.push_back(raised(world.moving().cells->middle_of(puzzle->at(cell)), 0));
            out.push_back(std::move(way));
        }
    } else if (const auto& elements = world.elements()) {
        for (const auto& foe : elements->foes) {
            if (foe.nearing >= 0) continue;
            Way way{foe.id, {}};
            for (int i = 0; i < k_watched_places; ++i)
                way.places.push_back(foe.course.at(foe.course.steps() * i / k_watched_places));
            out.push_back(std::move(way));
        }
    }
    return out;
}

} // namespace

std::vector<FoeWatch> watch_foes(const Level& level, const CheckResult& result) {
    const Place* goal = nullptr;
    for (const Place& place : result.places) {
        const Item* item = find_item(level, place.item);
        if (!goal && place.witness && item && role_of(*item->element()) == Role::goal) goal = &place;
    }
    if (!goal || !result.world) return {};
    const motion::World& world = *result.world;
    const std::vector<Way> ways = ways_of(world);
    if (ways.empty()) return {};
    const motion::PlayedRun run = motion::played(world, result.character, goal->witness->recording);
    // What moves does not keep anybody from seeing.
    std::vector<motion::SourceId> movers;
    for (const auto& mover : world.movers()) movers.push_back(mover.id);
    std::sort(movers.begin(), movers.end());
    const motion::World& still = world.without(movers);
    const Vec3 eyes(0, 0, result.character.eye_height_m);
    std::vector<FoeWatch> out;
    for (const Way& way : ways) {
        FoeWatch watch{way.foe, false, 0, {}};
        for (size_t step = 0; step < run.bodies.size() && !watch.matters; step += k_watch_steps) {
            const Vec3& at = run.bodies[step].at;
            int seen = 0;
            for (const Vec3& place : way.places) {
                watch.matters = watch.matters || glm::length(place - at) < k_matters_m;
                seen += !first_contact(still, {at + eyes, k_watch_m, k_watch_m}, place - at);
            }
            const double share = double(seen) / double(way.places.size());
            if (!watch.matters && share > watch.seen_share) watch.seen_share = share, watch.from = at;
        }
        out.push_back(std::move(watch));
    }
    return out;
}

} // namespace rubble::check
