#include "study/versions.h"

#include <algorithm>
#include <map>

#include "level/diff.h"
#include "level/item_search.h"

namespace rubble::study {

using check::CheckResult;
using check::Fragment;
using check::Ground;

namespace {

/// An item has moved when its box is as large and elsewhere (metres).
constexpr double k_as_large_m = 1e-6;
/// Ground that lies so much higher or lower is the same (metres).
constexpr double k_as_high_m = 1;
/// Less ground than this is not told (square metres).
constexpr double k_least_m2 = 0.05;

bool moved(const Box3& was, const Box3& now) {
    const Vec3 size = (was.high - was.low) - (now.high - now.low);
    return glm::length(size) < k_as_large_m && glm::length(now.middle() - was.middle()) > k_as_large_m;
}

void add_items(VersionDifference& out, const Level& was, const Level& now) {
    const Diff diff = difference(was, now);
    using Kind = ItemChange::Kind;
    for_each_item(was, [&](const Item& item, const Layer&) {
        if (diff.removed.contains(item.id)) out.items.push_back({Kind::gone, item.id, box_of(item), {}});
    });
    for_each_item(now, [&](const Item& item, const Layer&) {
        if (diff.added.contains(item.id)) out.items.push_back({Kind::added, item.id, {}, box_of(item)});
        const Item* before = diff.changed.contains(item.id) ? find_item(was, item.id) : nullptr;
        if (!before) return;
        const Box3 old_box = box_of(*before), box = box_of(item);
        out.items.push_back({moved(old_box, box) ? Kind::moved : Kind::changed, item.id, old_box, box});
    });
}

bool gets_to(const CheckResult& result, int ledge) { return ledge >= 0 && result.reach->tinted(ledge); }

std::vector<Vec3> outline_of(const Ground& ground, int fragment) {
    std::vector<Vec3> out;
    for (const Vec2& p : ground.fragments[size_t(fragment)].area)
        out.push_back(raised(p, ground.feet_at(fragment, p)));
    return out;
}

/// Ground that one gets to in one check and not in the other, ledge by ledge.
void add_ground(VersionDifference& out, const CheckResult& has, const CheckResult& lacks, bool gained) {
    std::map<int, GroundChange> by_ledge;
    for (int f = 0; f < int(has.ground->fragments.size()); ++f) {
        const Fragment& one = has.ground->fragments[size_t(f)];
        if (!gets_to(has, one.ledge)) continue;
        const Vec3 at = place_of(*has.ground, f);
        if (gets_to(lacks, lacks.ground->ledge_at(at, k_as_high_m))) continue;
        GroundChange& change = by_ledge[one.ledge];
        change.gained = gained;
        change.at += at * one.area_m2, change.area_m2 += one.area_m2;
        change.areas.push_back(outline_of(*has.ground, f));
    }
    for (auto& [ledge, change] : by_ledge) {
        if (change.area_m2 < k_least_m2) continue;
        change.at /= change.area_m2;
        out.ground.push_back(std::move(change));
    }
}

} // namespace

VersionDifference difference_of(const Level& was_level, const CheckResult& was, const Level& now_level,
                                const CheckResult& now) {
    VersionDifference out;
    add_items(out, was_level, now_level);
    out.checks = comparison_of(was, now);
    if (was.reach && now.reach && !was.ground->cells && !now.ground->cells)
        add_ground(out, was, now, false), add_ground(out, now, was, true);
    std::stable_sort(out.ground.begin(), out.ground.end(),
                     [](const GroundChange& a, const GroundChange& b) { return a.area_m2 > b.area_m2; });
    return out;
}

const check::Witness* same_run(const CheckResult& was, const CheckResult& now, const check::Witness& run) {
    const auto is_it = [&](const auto& one) {
        return one.witness && one.witness->recording == run.recording;
    };
    if (const auto claim = std::find_if(now.claims.begin(), now.claims.end(), is_it);
        claim != now.claims.end())
        for (const check::ClaimResult& before : was.claims)
            if (before.id == claim->id && before.witness) return &*before.witness;
    if (const auto place = std::find_if(now.places.begin(), now.places.end(), is_it);
        place != now.places.end())
        for (const check::Place& before : was.places)
            if (before.item == place->item && before.witness) return &*before.witness;
    return nullptr;
}

} // namespace rubble::study
