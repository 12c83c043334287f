#include "check/claims_in_play.h"

#include <algorithm>
#include <array>

#include "base/tolerance.h"
#include "check/walk.h"
#include "edit/items.h"
#include "level/element_kinds.h"
#include "level/order.h"
#include "motion/cells/cell_play.h"
#include "solve/state_graph.h"

namespace rubble::check {

namespace {

/// Situations that a claim goes through at most: a check is to be quick.
constexpr size_t k_most_situations = 200'000;

ClaimResult unknown(const Claim& claim, Sentences why) {
    ClaimResult result;
    result.id = claim.id, result.reason = std::move(why);
    return result;
}

ClaimResult judged(const Claim& claim, ClaimState state, Sentences why = {}) {
    ClaimResult result = unknown(claim, std::move(why));
    result.state = state;
    return result;
}

const Element* element_at(const Level& level, const ItemId& id) {
    const Item* item = find_item(level, id);
    return item ? item->element() : nullptr;
}

Sentences no_element(const ItemId& id) {
    return {{"\"%1\" is not an element of this level.", {id.value}}, {"Choose another end."}};
}

/// The puzzle of a world as it is when play begins at a place.
std::optional<motion::CellPuzzle> puzzle_from(const motion::World& world, const Character& character,
                                              const Vec3& at) {
    if (!world.moving().puzzle) return {};
    motion::CellPuzzle puzzle = *world.moving().puzzle;
    puzzle.start = motion::begun_at(world, character, at).puzzle.cells;
    puzzle.has_start = true;
    return puzzle;
}

/// What the answer would be if an element was not there.
ReachQueries::Answer ask_without(const Level& level, const ItemId& item, const Vec3& from, const Vec3& to,
                                 ReachQueries& queries) {
    if (const auto& acting = queries.world().elements()) {
        motion::PlayElements lacking = *acting;
        const auto far_away = [&](auto& all) { // where nobody gets it
            for (auto& one : all)
                if (one.id == item) {
                    one.at = Vec3(0, 0, -1e9);
                    return true;
                }
            return false;
        };
        if (far_away(lacking.things) || far_away(lacking.switches)) {
            motion::World world = queries.world();
            world.set_elements(std::make_shared<const motion::PlayElements>(std::move(lacking)));
            ReachQueries others(queries.ground(), world, queries.character(), queries.cancel(), false);
            return others.ask(from, to);
        }
    }
    const std::array gone{item};
    const auto world = motion::world_of(build::build_solid(edit::without(level, gone)));
    const Ground ground = ground_of(world, queries.character(), queries.cancel());
    ReachQueries others(ground, world, queries.character(), queries.cancel(), false);
    return others.ask(from, to);
}

/// So many places of one level are asked whether a goal is still reached from there.
constexpr int k_most_asked = 48;
/// Places smaller than this are edges on which nobody stays (square metres).
constexpr double k_stays_m2 = 0.01;

/// Whether one can get stuck where elements act freely: asked in every chapter of play of the places from
/// which there is neither a way to a goal nor back to where the chapter began.
class StuckSearch {
public:
    StuckSearch(const Level& level, ReachQueries& queries) : queries_(queries) {
        for (const Item* goal : elements_of(level, Role::goal))
            goals_.push_back(met_at(level, *goal->element()));
    }

    /// A place where one is stuck; nothing where none was found.
    std::optional<Vec3> run(const Vec3& from) {
        const PlayReach play(queries_.levels(), from, queries_.cancel());
        decided_ = play.complete();
        for (const PlayReach::Chapter& chapter : play.chapters()) {
            if (queries_.cancel().requested()) break;
            if (gets_to_goal(chapter.begin, chapter.before)) {
                for (const int ledge : not_leading_back(chapter))
                    if (const auto at = stuck_on(chapter, ledge)) return at;
            } else if (decided_) {
                return chapter.begin.body.at;
            }
        }
        return {};
    }
    bool decided() const { return decided_ && !queries_.cancel().requested(); }

private:
    bool gets_to_goal(const motion::PlayState& begin, const PlayReach::Way& before) {
        if (++asked_ > k_most_asked) {
            decided_ = false;
            return true;
        }
        const PlayReach play(queries_.levels(), begin, Witness{before.recording, before.legs, {}},
                             queries_.cancel());
        bool decided = true;
        for (const Vec3& goal : goals_) {
            const PlayReach::Answer answer = play.ask(goal);
            if (answer.reached) return true;
            decided = decided && answer.decided;
        }
        if (!decided) decided_ = false;
        return false;
    }

    /// The ledges of a chapter from which no links lead to where it began.
    std::vector<int> not_leading_back(const PlayReach::Chapter& chapter) const {
        const Ground& ground = chapter.open->ground;
        const int begin = ground.ledge_at(chapter.begin.body.at, tolerance::feet_m);
        if (begin < 0) return {};
        Reach reach = chapter.reach;
        const std::vector<bool> returns = search_return(*chapter.open->searcher, reach, {begin});
        std::vector<int> out;
        for (int ledge = 0; ledge < int(returns.size()); ++ledge)
            if (reach.reached(ledge) && !returns[size_t(ledge)] &&
                ground.ledges[size_t(ledge)].area_m2 >= k_stays_m2)
                out.push_back(ledge);
        return out;
    }

    std::optional<Vec3> stuck_on(const PlayReach::Chapter& chapter, int ledge) {
        const Arrival& arrival = *chapter.reach.arrivals[size_t(ledge)];
        motion::PlayState there = chapter.begin;
        there.body = arrival.rest.body;
        if (there.body == motion::State{}) { // it was not played: put down there
            const auto& fragments = chapter.open->ground.ledges[size_t(ledge)].fragments;
            there.body = motion::state_at(*chapter.open->world, queries_.character(),
                                          place_of(chapter.open->ground, fragments[0]));
        }
        const bool was_decided = decided_;
        decided_ = true;
        const bool out = gets_to_goal(there, chapter.before);
        const bool stuck = !out && decided_;
        decided_ = was_decided && decided_;
        return stuck ? std::optional(there.body.at) : std::nullopt;
    }

    ReachQueries& queries_;
    std::vector<Vec3> goals_;
    int asked_ = 0;
    bool decided_ = true;
};

ClaimResult never_stuck_freely(const Level& level, const Claim& claim, const std::string& who,
                               ReachQueries& queries, const Vec3& from) {
    StuckSearch search(level, queries);
    if (const auto at = search.run(from))
        return judged(claim, ClaimState::fails,
                      {{"From a place at %1, %2, %3 %4 gets to no goal any more.",
                        {Metres{at->x}, Metres{at->y}, Metres{at->z}, who}}});
    if (!search.decided()) return unknown(claim, {{"Not every way of playing could be looked at."}});
    return judged(claim, ClaimState::holds);
}

} // namespace

ClaimResult judge_needs(const Level& level, const Claim& claim, const std::string& who,
                        ReachQueries& queries) {
    for (const ItemId& id : {claim.from, claim.to, claim.item})
        if (!element_at(level, id)) return unknown(claim, no_element(id));
    const Vec3 from = met_at(level, *element_at(level, claim.from)),
               to = met_at(level, *element_at(level, claim.to));
    const Reached with = queries.ask(from, to).reached;
    if (with == Reached::undecided)
        return unknown(claim, {{"The way from %1 to %2 could not be decided.", {claim.from, claim.to}}});
    if (with != Reached::yes)
        return judged(claim, ClaimState::fails,
                      {{"%1 does not get from %2 to %3.", {who, claim.from, claim.to}}});
    const ReachQueries::Answer without = ask_without(level, claim.item, from, to, queries);
    if (without.reached == Reached::no) return judged(claim, ClaimState::holds);
    if (without.reached == Reached::undecided)
        return unknown(claim,
                       {{"Whether %1 is reached without %2 could not be decided.", {claim.to, claim.item}}});
    return judged(claim, ClaimState::fails, {{"%1 gets to %2 without %3.", {who, claim.to, claim.item}}});
}

ClaimResult judge_all_pickups(const Level& level, const Claim& claim, const std::string& who,
                              ReachQueries& queries) {
    const Element* start = element_at(level, claim.from);
    if (!start) return unknown(claim, no_element(claim.from));
    const auto is_pick_up = [](const Item* item) { return item->element()->kind == "pickup"; };
    const auto elements = elements_of(level);
    if (std::none_of(elements.begin(), elements.end(), is_pick_up))
        return judged(claim, ClaimState::fails, {{"There is no pick-up in this level."}});
    const Vec3 from = met_at(level, *start);
    // The first one that cannot be had by itself says the most.
    for (const Item* item : elements) {
        if (!is_pick_up(item)) continue;
        if (queries.ask(from, met_at(level, *item->element())).reached == Reached::no)
            return judged(claim, ClaimState::fails, {{"%1 is not had from %2.", {item->id, claim.from}}});
    }
    const auto goals = elements_of(level, Role::goal);
    if (const auto puzzle = puzzle_from(queries.world(), queries.character(), from)) {
        const solve::StateGraph graph(*puzzle, k_most_situations, {}, {});
        if (!graph.complete()) return unknown(claim, {{"Not every way of playing could be looked at."}});
        std::vector<char> ends(graph.situations(), 0), all(graph.situations(), 0);
        for (uint32_t state = 0; state < graph.states(); ++state) {
            const motion::CellState now = graph.state(state);
            all[graph.situation_of(state)] =
                std::all_of(puzzle->things.begin(), puzzle->things.end(), [&](const auto& thing) {
                    return thing.kind != motion::ThingKind::pick_up || now.has(thing.bit);
                });
        }
        for (uint32_t s = 0; s < ends.size(); ++s) ends[s] = goals.empty() || graph.is_goal(s);
        const std::vector<char> good = graph.leading_to(std::move(ends));
        for (uint32_t s = 0; s < all.size(); ++s)
            if (all[s] && good[s]) return judged(claim, ClaimState::holds);
    } else if (const auto& acting = queries.world().elements()) {
        const PlayReach play(queries.levels(), from, queries.cancel(), PlayReach::Take::everything);
        for (const PlayReach::Chapter& chapter : play.chapters()) {
            const bool all =
                std::all_of(acting->things.begin(), acting->things.end(), [&](const auto& thing) {
                    return thing.kind != motion::ThingKind::pick_up ||
                           chapter.begin.puzzle.cells.has(thing.bit);
                });
            if (!all) continue;
            const bool ends =
                goals.empty() || std::any_of(goals.begin(), goals.end(), [&](const Item* goal) {
                    const auto spots =
                        spots_of(chapter.open->ground, queries.character(), met_at(level, *goal->element()));
                    return std::any_of(spots.begin(), spots.end(),
                                       [&](const Spot& spot) { return chapter.reach.reached(spot.ledge); });
                });
            if (ends) return judged(claim, ClaimState::holds);
        }
        if (!play.complete()) return unknown(claim, {{"Not every way of playing could be looked at."}});
    }
    return judged(claim, ClaimState::fails, {{"%1 does not have all pick-ups in one run.", {who}}});
}

ClaimResult judge_never_stuck(const Level& level, const Claim& claim, const std::string& who,
                              ReachQueries& queries) {
    const Element* start = element_at(level, claim.from);
    if (!start) return unknown(claim, no_element(claim.from));
    const auto goals = elements_of(level, Role::goal);
    if (goals.empty()) return unknown(claim, {{"There is no goal to get to."}});
    const Vec3 from = met_at(level, *start);
    if (const auto puzzle = puzzle_from(queries.world(), queries.character(), from)) {
        const solve::StateGraph graph(*puzzle, k_most_situations, {}, {});
        if (!graph.complete()) return unknown(claim, {{"Not every way of playing could be looked at."}});
        std::vector<char> ends(graph.situations(), 0);
        for (uint32_t s = 0; s < ends.size(); ++s) ends[s] = graph.is_goal(s);
        const std::vector<char> good = graph.leading_to(std::move(ends));
        const auto ruined = std::count(good.begin(), good.end(), 0);
        if (ruined == 0) return judged(claim, ClaimState::holds);
        if (!good[graph.situation_of(graph.start())])
            return judged(claim, ClaimState::fails, {{"%1 does not get to a goal at all.", {who}}});
        return judged(claim, ClaimState::fails,
                      {{"In %1 of %2 situations that one can get into no goal is reached any more.",
                        {std::to_string(ruined), std::to_string(graph.situations())}}});
    }
    if (queries.world().elements()) return never_stuck_freely(level, claim, who, queries, from);
    Reach reach = queries.reach_from(from);
    std::vector<int> targets;
    for (const Item* goal : goals)
        for (const Spot& spot :
             spots_of(queries.ground(), queries.character(), met_at(level, *goal->element())))
            targets.push_back(spot.ledge);
    const std::vector<bool> returns = search_return(queries.searcher(), reach, targets);
    for (int ledge = 0; ledge < int(returns.size()); ++ledge) {
        if (!reach.reached(ledge) || returns[size_t(ledge)]) continue;
        if (queries.ground().ledges[size_t(ledge)].area_m2 < 0.01) continue; // an edge where nobody stays
        const Vec3 at = queries.ground().ledges[size_t(ledge)].box.middle();
        return judged(claim, ClaimState::fails,
                      {{"From a place at %1, %2, %3 %4 gets to no goal any more.",
                        {Metres{at.x}, Metres{at.y}, Metres{at.z}, who}}});
    }
    return judged(claim, ClaimState::holds);
}

ClaimResult judge_at_most(const Level& level, const Claim& claim) {
    const auto elements = elements_of(level);
    const auto count = std::count_if(elements.begin(), elements.end(), [&](const Item* item) {
        return item->element()->kind == claim.element;
    });
    if (count <= claim.count) return judged(claim, ClaimState::holds);
    return judged(claim, ClaimState::fails,
                  {{"There are %1 elements of the kind %2; %3 are allowed.",
                    {std::to_string(count), claim.element, std::to_string(claim.count)}}});
}

} // namespace rubble::check
