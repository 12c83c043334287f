#include "suggest/candidates.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/tolerance.h"
#include "edit/items.h"
#include "edit/tiles.h"
#include "level/element_kinds.h"
#include "level/element_values.h"
#include "level/order.h"
#include "motion/recording.h"

namespace rubble::suggest {

using check::Fragment;
using check::Ground;
using check::Metres;

namespace {

/// Nothing is put nearer than this to another element, and a way is left when one is so far from it (metres).
constexpr double k_alone_m = 3, k_off_way_m = 2;
/// A foe stays so far from where play begins; its way is so long, and has so much room beside it (metres).
constexpr double k_foe_far_m = 5, k_least_patrol_m = 3, k_most_patrol_m = 10, k_beside_m = 0.7;
/// A way so long that it wants a checkpoint (seconds), and how far from another one (metres).
constexpr double k_long_way_s = 12, k_checkpoint_m = 10;
/// Ground that a ladder is worth (square metres), and how high ladders are (metres).
constexpr double k_worth_m2 = 1, k_most_ladder_m = 8;

Item element_item(const Level& level, Element element) {
    const std::string kind = element.kind;
    Item item{edit::fresh_id(level, kind_of(kind).id_prefix), {}, false, std::move(element), {}};
    item.name = kind;
    item.name[0] = char(std::toupper(static_cast<unsigned char>(kind[0])));
    return item;
}

double nearest_element_m(const Level& level, const Vec3& at) {
    double nearest = 1e9;
    for (const Item* item : elements_of(level))
        nearest = std::min(nearest, glm::length(item->element()->at - at));
    return nearest;
}

/// Where one is on the way to the first goal, every few steps; empty where none is reached.
std::vector<Vec3> way_to_goal(const Level& level, const check::CheckResult& result) {
    std::vector<Vec3> out;
    for (const check::Place& place : result.places) {
        const Item* item = find_item(level, place.item);
        if (!item || !item->element() || role_of(*item->element()) != Role::goal || !place.witness) continue;
        const auto states = motion::replay(*result.world, result.character, place.witness->recording);
        for (size_t i = 0; i < states.size(); i += 12) out.push_back(states[i].at);
        break;
    }
    return out;
}

double off_way_m(const std::vector<Vec3>& way, const Vec3& at) {
    double nearest = way.empty() ? 0 : 1e9;
    for (const Vec3& point : way) nearest = std::min(nearest, glm::length(point - at));
    return nearest;
}

/// Whether some cells are filled, and none is taken away.
bool only_adds(const Level& level, const std::vector<check::MendCells>& cells) {
    return std::all_of(cells.begin(), cells.end(), [&](const check::MendCells& of) {
        const TileLayer* tiles = edit::tile_layer(level, of.layer);
        return tiles && !of.cells.empty() &&
               std::all_of(of.cells.begin(), of.cells.end(), [&](const TileGrid::Change& change) {
                   return !change.tile.empty() && tiles->grid.at(change.at).empty();
               });
    });
}

} // namespace

Vec3 place_of(const Level& level, const Candidate& candidate) {
    if (!candidate.items.empty()) {
        const Item& item = candidate.items.front();
        return item.element() ? item.element()->at : box_of(item).middle();
    }
    const check::MendCells& cells = candidate.cells.front();
    const TileLayer* tiles = edit::tile_layer(level, cells.layer);
    return tiles ? rubble::place_of(*tiles, level.frame, cells.cells.front().at) : Vec3(0);
}

std::vector<Candidate> pick_ups(const Level& level, const check::CheckResult& result) {
    std::vector<Candidate> out;
    const Ground& ground = *result.ground;
    const std::vector<Vec3> way = way_to_goal(level, result);
    // The kind that the level has already, if any.
    std::string kind = "pearl";
    for (const Item* item : elements_of(level))
        if (item->element()->kind == "pickup") kind = text_of(*item->element(), "kind");
    for (int f = 0; f < int(ground.fragments.size()); ++f) {
        const Fragment& fragment = ground.fragments[size_t(f)];
        if (!result.reach->reached(fragment.ledge) || fragment.low || fragment.area_m2 < 0.2) continue;
        const Vec3 at = place_of(ground, f);
        const double off = off_way_m(way, at), alone = nearest_element_m(level, at);
        if (alone < k_alone_m || (!way.empty() && off < k_off_way_m)) continue;
        Candidate one{"pickup",
                      {element_item(level, with_value(Element{"pickup", at, 0, {}}, "kind", kind))},
                      {},
                      off + std::min(alone, 10.0) / 4 + fragment.lowest_m / 4};
        one.reason =
            way.empty()
                ? check::Sentences{{"One gets here, and nothing is here yet."}}
                : check::Sentences{{"%1 off the way to the goal, and nothing is here yet.", {Metres{off}}}};
        out.push_back(std::move(one));
    }
    return out;
}

std::vector<Candidate> checkpoints(const Level& level, const check::CheckResult& result) {
    const std::vector<Vec3> way = way_to_goal(level, result);
    const double seconds = double(way.size()) * 12 * motion::step_s;
    if (seconds < k_long_way_s) return {};
    std::vector<Candidate> out;
    for (const double part : {0.5, 0.33, 0.67}) {
        const Vec3 at = way[size_t(double(way.size() - 1) * part)];
        const int f = result.ground->locate(at, tolerance::feet_m);
        double near_m = 1e9;
        for (const Item* item : elements_of(level))
            if (item->element()->kind == "checkpoint")
                near_m = std::min(near_m, glm::length(item->element()->at - at));
        if (f < 0 || near_m < k_checkpoint_m) continue;
        out.push_back({"checkpoint",
                       {element_item(level, Element{"checkpoint", at, 0, {}})},
                       {{"After %1 of %2 seconds there is nowhere to come back to.",
                         {std::to_string(int(seconds * part)), std::to_string(int(seconds))}}},
                       5 - std::abs(part - 0.5) * 4});
    }
    return out;
}

std::vector<Candidate> foes(const Level& level, const check::CheckResult& result) {
    std::vector<Candidate> out;
    const Ground& ground = *result.ground;
    for (int f = 0; f < int(ground.fragments.size()); ++f) {
        const Fragment& fragment = ground.fragments[size_t(f)];
        const check::Top& top = ground.tops[size_t(fragment.top)];
        if (!result.reach->reached(fragment.ledge) || fragment.low || !top.level()) continue;
        const Vec2 size = fragment.box.high - fragment.box.low;
        const int along = size.x >= size.y ? 0 : 1;
        if (size[along] < k_least_patrol_m + 2 * k_beside_m) continue;
        if (level.frame != Frame::side && size[1 - along] < 2 * k_beside_m) continue;
        const Vec3 middle = place_of(ground, f);
        Vec3 half(0);
        half[along] = std::min(size[along] / 2 - k_beside_m, k_most_patrol_m / 2);
        const Vec3 from = middle - half, to = middle + half;
        if (!geometry::contains(fragment.area, flat(from)) || !geometry::contains(fragment.area, flat(to)))
            continue;
        double nearest = 1e9;
        for (const Vec3& start : result.starts)
            for (const Vec3& point : {from, middle, to})
                nearest = std::min(nearest, glm::length(point - start));
        if (nearest < k_foe_far_m || nearest_element_m(level, middle) < k_alone_m / 2) continue;
        Element foe = with_value(Element{"foe", from, 0, {}}, "path", std::vector<Vec3>{from, to});
        foe = with_value(with_value(std::move(foe), "way", std::string("back_and_forth")), "size_m",
                         Vec3(0.7, 0.7, 0.7));
        out.push_back({"foe",
                       {element_item(level, std::move(foe))},
                       {{"Room to go %1 to and fro, and to get past.", {Metres{2 * half[along]}}}},
                       2 * half[along]});
    }
    return out;
}

std::vector<Candidate> ladders(const Level& level, const check::CheckResult& result) {
    std::vector<Candidate> out;
    if (level.frame == Frame::plan || result.character.climb_speed_mps <= 0) return out;
    const Ground& ground = *result.ground;
    const double r = result.character.radius_m;
    for (const Fragment& fragment : ground.fragments) {
        const auto& ledge = ground.ledges[size_t(fragment.ledge)];
        if (result.reach->tinted(fragment.ledge) || ledge.area_m2 < k_worth_m2 || fragment.low) continue;
        for (size_t i = 0; i < fragment.area.size(); ++i) {
            const Vec2 a = fragment.area[i], b = fragment.area[(i + 1) % fragment.area.size()];
            if (glm::length(b - a) < 2 * r) continue;
            const Vec2 along = glm::normalize(b - a), out_of(along.y, -along.x);
            const Vec2 edge = (a + b) * 0.5;
            const double top = ground.feet_at(int(&fragment - ground.fragments.data()), edge);
            // Where one stands before it: the middle of the bottom may overhang the edge by the radius.
            int below = -1;
            Vec2 foot(0);
            for (const double apart : {0.0, r, 2 * r}) {
                foot = edge + out_of * apart;
                below = ground.locate(raised(foot + out_of * (r + 0.1), top - k_most_ladder_m / 2),
                                      k_most_ladder_m / 2);
                if (below >= 0) break;
            }
            if (below < 0 || !result.reach->reached(ground.fragments[size_t(below)].ledge)) continue;
            const double bottom = ground.feet_at(below, foot + out_of * (r + 0.1)), height = top - bottom;
            if (height <= result.character.jump_height_m || height > k_most_ladder_m) continue;
            Element ladder{"ladder", raised(edge - out_of * r, bottom), 0, {}};
            ladder.facing_deg = std::atan2(out_of.y, out_of.x) * 180 / std::numbers::pi;
            out.push_back({"ladder",
                           {element_item(level, with_value(std::move(ladder), "height_m", height))},
                           {{"Leads onto ground %1 higher that nobody gets to.", {Metres{height}}}},
                           std::min(ledge.area_m2, 12.0)});
            break;
        }
    }
    return out;
}

std::vector<Candidate> decks(const Level& level, const check::CheckResult& result) {
    std::vector<Candidate> out;
    if (level.frame == Frame::plan) return out;
    for (const check::NearMiss& miss : result.near_misses) {
        if (miss.limit != check::Limit::gap) continue;
        const Vec3 size(std::min(2.0, std::max(miss.gap_m / 3, 1.0)), level.frame == Frame::side ? 1.0 : 2.0,
                        0.2);
        const Vec3 at = (miss.take_off + miss.landing) * 0.5 - Vec3(0, 0, size.z);
        if (nearest_element_m(level, at) < k_alone_m / 2) continue;
        Element deck = with_value(Element{"deck", at, 0, {}}, "size_m", size);
        out.push_back({"deck",
                       {element_item(level, std::move(deck))},
                       {{"Parts a gap of %1 that is too wide.", {Metres{miss.gap_m}}}},
                       7});
    }
    return out;
}

std::vector<Candidate> steps(const Level& level, const check::CheckResult& result) {
    std::vector<Candidate> out;
    for (const check::NearMiss& miss : result.near_misses)
        for (const check::Mend& mend : miss.mends) {
            Candidate one{"step", {}, {}, 8};
            for (const check::MendEdit& edit : mend.edits)
                if (edit.added) one.items.push_back(edit.item);
            one.cells = mend.cells;
            if ((one.items.empty() && one.cells.empty()) || one.items.size() != mend.edits.size() ||
                !only_adds(level, mend.cells) || !mend.breaks.empty())
                continue;
            one.reason = {{"With this one gets from %1 to %2.", {miss.from, miss.to}}};
            out.push_back(std::move(one));
        }
    return out;
}

} // namespace rubble::suggest
