#include "check/stages.h"

#include <algorithm>
#include <array>
#include <set>

#include "base/parallel.h"
#include "base/tolerance.h"
#include "check/claims.h"

namespace rubble::check {

namespace {

bool same_matter(const build::Solid& a, const build::Solid& b) {
    if (a.brushes.size() != b.brushes.size()) return false;
    for (size_t i = 0; i < a.brushes.size(); ++i)
        if (a.brushes[i] != b.brushes[i]) return false;
    return a.frame == b.frame && a.pieces == b.pieces && a.tiles == b.tiles && a.cells == b.cells &&
           a.box == b.box && a.elements == b.elements && a.rules == b.rules;
}

Terrain terrain_of(const CheckResult& result) { return {result.world, result.ground}; }

std::vector<Vec3> places_of(const Level& level, Role role) {
    std::vector<Vec3> out;
    for (const Item* item : elements_of(level, role)) out.push_back(met_at(level, *item->element()));
    return out;
}

/// The ledges that one comes to where elements act: in the level as it is built all that is reached in some
/// state of play. Proofs are made by who asks for a place.
Reach reach_in_play(ReachQueries& queries, const Terrain& terrain, const std::vector<Vec3>& starts) {
    const Ground& ground = *terrain.ground;
    Reach reach;
    reach.arrivals.resize(ground.ledges.size());
    reach.doubtful.assign(ground.ledges.size(), false);
    const auto mark = [&](int ledge, const std::shared_ptr<const Arrival>& arrival) {
        if (ledge >= 0 && !reach.tinted(ledge)) reach.arrivals[size_t(ledge)] = arrival;
    };
    for (const Vec3& start : starts) {
        auto begun = std::make_shared<Arrival>();
        begun->run.start = start;
        begun->rest = motion::begun_at(*terrain.world, queries.character(), start);
        if (ground.cells) {
            const std::vector<bool> cells = queries.by_cells().cells_from(start);
            for (size_t cell = 0; cell < cells.size(); ++cell)
                if (const int f = ground.fragment_of_cell[cell]; cells[cell] && f >= 0)
                    mark(ground.fragments[size_t(f)].ledge, begun);
            continue;
        }
        const PlayReach& play = queries.play_from(start);
        reach.complete = reach.complete && play.complete();
        for (const PlayReach::Chapter& chapter : play.chapters()) {
            const Ground& then = chapter.open->ground;
            for (const auto& link : chapter.reach.links) { // as ways of the level as it was built
                auto same = std::make_shared<Link>(*link);
                same->from = ground.ledge_at(link->start, tolerance::feet_m);
                same->to = ground.ledge_at(link->rest, tolerance::feet_m);
                if (same->from >= 0 && same->to >= 0) reach.links.push_back(std::move(same));
            }
            const auto arrival_in = [&](int ledge) {
                auto arrival = std::make_shared<Arrival>(*chapter.reach.arrivals[size_t(ledge)]);
                arrival->from = {}, arrival->link = nullptr;
                return arrival;
            };
            for (int f = 0; f < int(then.fragments.size()); ++f)
                if (const int ledge = then.fragments[size_t(f)].ledge; chapter.reach.tinted(ledge))
                    mark(ground.ledge_at(place_of(then, f), tolerance::feet_m), arrival_in(ledge));
            // What was parted when the level was built may be one by now.
            for (int f = 0; f < int(ground.fragments.size()); ++f) {
                const int ledge = ground.fragments[size_t(f)].ledge;
                if (reach.tinted(ledge)) continue;
                const int by_then = then.ledge_at(place_of(ground, f), tolerance::feet_m);
                if (chapter.reach.tinted(by_then)) mark(ledge, arrival_in(by_then));
            }
        }
        const auto& elements = *terrain.world->elements();
        for (size_t i = 0; i < elements.lifts.size(); ++i)
            if (const motion::Room& room = elements.lifts[i].room; play.rode(i))
                mark(ground.ledge_at(room.place.to_level({0, 0, room.size.z}), tolerance::feet_m), begun);
    }
    return reach;
}

} // namespace

std::shared_ptr<const motion::World> world_stage(const build::Solid& solid, const CheckResult* before) {
    if (before && before->solid && before->world && same_matter(*before->solid, solid)) return before->world;
    if (before && before->solid && before->world)
        return std::make_shared<motion::World>(motion::world_of(solid, *before->solid, *before->world));
    return std::make_shared<motion::World>(motion::world_of(solid));
}

Terrain terrain_stage(std::shared_ptr<const motion::World> world, const Character& character,
                      const CheckResult* before, const motion::WorldChange& change, const Cancel& cancel) {
    if (before && before->world == world) return terrain_of(*before);
    const auto known =
        before ? std::optional<GroundBefore>({*before->ground, change}) : std::optional<GroundBefore>();
    auto ground =
        std::make_shared<const Ground>(ground_of(*world, character, cancel, known ? &*known : nullptr));
    return {std::move(world), std::move(ground)};
}

Ways ways_stage(ReachQueries& queries, const Terrain& terrain, const Level& level, const CheckResult* before,
                const motion::WorldChange& change, const Cancel& cancel) {
    Ways ways{places_of(level, Role::start), places_of(level, Role::goal), {}, {}};
    const bool same_terrain = before && terrain_of(*before) == terrain;
    if (same_terrain && before->starts == ways.starts && before->goals == ways.goals) {
        ways.reach = before->reach, ways.returns = before->returns;
        return ways;
    }
    if (queries.elements_act()) {
        auto reach = std::make_shared<Reach>(reach_in_play(queries, terrain, ways.starts));
        ways.returns.assign(reach->arrivals.size(), false);
        for (size_t i = 0; i < ways.returns.size(); ++i) ways.returns[i] = reach->tinted(int(i));
        ways.reach = std::move(reach);
        return ways;
    }
    ReachOptions options;
    options.cancel = cancel;
    const auto known =
        before ? std::optional<ReachBefore>({*before->ground, *before->reach, before->returns, change})
               : std::optional<ReachBefore>();
    options.before = known ? &*known : nullptr;
    auto reach = std::make_shared<Reach>(search_reach(queries.searcher(), ways.starts, options));
    std::vector<int> targets;
    for (int ledge = 0; ledge < int(reach->arrivals.size()); ++ledge)
        if (reach->tinted(ledge) && !reach->arrivals[size_t(ledge)]->link) targets.push_back(ledge);
    for (const Vec3& goal : ways.goals)
        for (const Spot& spot : spots_of(*terrain.ground, queries.character(), goal))
            targets.push_back(spot.ledge);
    ways.returns = search_return(queries.searcher(), *reach, targets, options);
    ways.reach = std::move(reach);
    return ways;
}

std::vector<Place> places_stage(ReachQueries& queries, const Ways& ways, const Level& level,
                                const CheckResult* before, bool explain, const Cancel& cancel) {
    const bool same_ways =
        before && before->reach == ways.reach && before->explained && before->explained->explain == explain;
    const std::vector<const Item*> elements = elements_of(level);
    std::vector<Place> places(elements.size());
    const auto look_at = [&](size_t i) {
        Place& place = places[i];
        place.item = elements[i]->id;
        place.at = met_at(level, *elements[i]->element());
        if (cancel.requested() || ways.starts.empty()) return;
        if (same_ways) {
            const auto same = std::find_if(before->places.begin(), before->places.end(), [&](const Place& p) {
                return p.item == place.item && p.at == place.at;
            });
            if (same != before->places.end()) {
                place = *same;
                return;
            }
        }
        ReachQueries::Answer best = queries.elements_act() ? queries.ask(ways.starts[0], place.at)
                                                           : queries.ask(*ways.reach, place.at);
        if (best.reached == Reached::no && explain && !queries.elements_act())
            best = queries.ask_with_help(*ways.reach, place.at);
        place.reached = best.reached;
        if (best.witness) place.time_s = best.witness->seconds();
        place.witness = std::move(best.witness);
    };
    if (queries.elements_act()) // its searches are made as they are asked for
        for (size_t i = 0; i < elements.size(); ++i) look_at(i);
    else
        parallel_for(elements.size(), look_at);
    return places;
}

std::vector<ClaimResult> claims_stage(ReachQueries& queries, const Terrain& terrain, const Level& level,
                                      const std::string& character_name, const CheckResult* before,
                                      const Cancel& cancel) {
    const bool same_terrain = before && terrain_of(*before) == terrain;
    std::vector<ClaimResult> results;
    for (const Claim& claim : level.claims) {
        if (cancel.requested()) break;
        const ClaimQuestion question = question_of(level, claim, character_name);
        const ClaimResult* known = nullptr;
        if (same_terrain && kind_of(claim).of_places)
            for (const ClaimResult& result : before->judged)
                if (result.question == question) known = &result;
        results.push_back(known ? *known : judge(level, claim, character_name, queries));
        results.back().question = question;
    }
    return results;
}

MeasuredLinks spans_stage(const Terrain& terrain, const Character& character, const Project& project,
                          const std::vector<std::shared_ptr<const Link>>& links, const CheckResult* before) {
    MeasuredLinks measured{{}, project.easy_pct, project.fair_pct, {}};
    const bool same = before && before->measured && terrain_of(*before) == terrain &&
                      before->measured->easy_pct == measured.easy_pct &&
                      before->measured->fair_pct == measured.fair_pct;
    std::vector<std::shared_ptr<const Link>> each;
    std::set<std::array<double, 6>> seen;
    for (const auto& link : links) {
        const Vec3 &a = link->take_off, &b = link->landing;
        if (link->kind != LinkKind::drop && seen.insert({a.x, a.y, a.z, b.x, b.y, b.z}).second)
            each.push_back(link);
    }
    std::vector<Span> spans(each.size());
    parallel_for(
        each.size(),
        [&](size_t i) {
            if (same)
                if (const auto known = before->measured->spans.find(each[i]);
                    known != before->measured->spans.end()) {
                    spans[i] = known->second;
                    return;
                }
            spans[i] = span_of(*terrain.ground, *terrain.world, character, project, *each[i]);
            spans[i].link = each[i];
        },
        8);
    std::map<std::tuple<int, int, LinkKind>, size_t> best_of;
    for (size_t i = 0; i < spans.size(); ++i) {
        const Span& span = spans[i];
        measured.spans[each[i]] = span;
        const auto [at, is_new] =
            best_of.emplace(std::tuple{span.from_ledge, span.to_ledge, span.kind}, measured.best.size());
        if (is_new)
            measured.best.push_back(span);
        else if (Span& best = measured.best[at->second];
                 span.least_pct(character.step_height_m) > best.least_pct(character.step_height_m))
            best = span;
    }
    return measured;
}

} // namespace rubble::check
