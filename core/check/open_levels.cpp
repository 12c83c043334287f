#include "check/open_levels.h"

#include <algorithm>

#include "base/tolerance.h"

namespace rubble::check {

using motion::PlayElements;
using motion::SourceId;

std::shared_ptr<OpenLevel> OpenLevels::made(const motion::World& world,
                                            const motion::PuzzleState& puzzle) const {
    auto level = std::make_shared<OpenLevel>();
    level->character = skilled(*world_.elements(), puzzle, character_);
    level->world = &world;
    if (built_ && level->character == character_) {
        const motion::WorldChange change = motion::change_between(world_, world);
        const GroundBefore before{*built_, change};
        level->ground = ground_of(world, level->character, cancel_, &before);
    } else {
        level->ground = ground_of(world, level->character, cancel_);
    }
    level->searcher = std::make_unique<LeapSearch>(level->ground, world, level->character);
    return level;
}

OpenLevels::Name OpenLevels::name_of(const motion::PuzzleState& puzzle, int lift, int stop) const {
    const PlayElements& elements = *world_.elements();
    Name name{wherever_one_is(elements, puzzle).gone, lift, stop, {}, {}};
    for (size_t i = 0; i < elements.lifts.size(); ++i) // what moves is met when it is played
        if (int(i) != lift) name.gone.push_back(elements.lifts[i].source());
    std::sort(name.gone.begin(), name.gone.end());
    const bool pushed = std::any_of(puzzle.moved.begin(), puzzle.moved.end(),
                                    [](const auto& moved) { return moved != std::array<int, 3>{}; });
    if (pushed) name.moved = puzzle.moved;
    for (const PlayElements::Thing& thing : elements.things)
        if (thing.skill && puzzle.cells.has(thing.bit)) name.skills.push_back(thing.bit);
    return name;
}

std::shared_ptr<OpenLevel> OpenLevels::like(const motion::PuzzleState& puzzle) {
    const Name name = name_of(puzzle, -1, 0);
    auto& known = known_[name];
    if (known) return known;
    if (!name.moved.empty()) return known = made_with(name, puzzle);
    if (!name.gone.empty()) return known = made(world_.without(name.gone), puzzle);
    auto world = std::make_shared<motion::World>(world_); // the same matter, in which nothing acts
    world->set_elements(nullptr);
    known = made(*world, puzzle);
    known->own_world = std::move(world);
    return known;
}

std::shared_ptr<OpenLevel> OpenLevels::with_lift_at(const motion::PuzzleState& puzzle, size_t lift,
                                                    int stop) {
    const Name name = name_of(puzzle, int(lift), stop);
    auto& known = known_[name];
    if (!known) known = made_with(name, puzzle);
    return known;
}

std::shared_ptr<OpenLevel> OpenLevels::made_with(const Name& name, const motion::PuzzleState& puzzle) const {
    const PlayElements& elements = *world_.elements();
    std::map<SourceId, Vec3> elsewhere;
    if (name.lift >= 0) {
        const PlayElements::Lift& lift = elements.lifts[size_t(name.lift)];
        elsewhere[lift.source()] = lift.course.places()[size_t(name.stop)] - lift.course.places()[0];
    }
    for (size_t i = 0; i < name.moved.size(); ++i)
        elsewhere[elements.crates[i].source()] = motion::metres_of(name.moved[i]);
    const motion::World& from = world_.without(name.gone);
    motion::WorldMaker maker;
    for (const motion::World::Source& source : from.sources()) {
        maker.begin(source.id, source.tags);
        const auto moved = elsewhere.find(source.id);
        if (moved == elsewhere.end()) {
            maker.add(from, source);
            continue;
        }
        for (int i = source.first; i < source.first + source.count; ++i)
            maker.add(motion::moved(from.columns()[size_t(i)], moved->second));
    }
    auto world = std::make_shared<motion::World>(maker.finished(from.moving()));
    world->set_fixtures(from.fixtures());
    auto level = made(*world, puzzle);
    level->own_world = std::move(world);
    return level;
}

namespace {

/// What links of another search lead to from where one begins, not played yet.
Reach linked(const Reach& wider, Arrival begin, int ledge) {
    Reach reach;
    reach.arrivals.resize(wider.arrivals.size());
    reach.doubtful = wider.doubtful;
    std::vector<std::vector<std::shared_ptr<const Link>>> from(wider.arrivals.size());
    for (const auto& link : wider.links) from[size_t(link->from)].push_back(link);
    reach.arrivals[size_t(ledge)] = std::make_shared<const Arrival>(std::move(begin));
    std::vector<int> open{ledge};
    for (size_t i = 0; i < open.size(); ++i)
        for (const auto& link : from[size_t(open[i])]) {
            auto& place = reach.arrivals[size_t(link->to)];
            if (place) continue;
            auto arrival = std::make_shared<Arrival>();
            arrival->link = link, arrival->from = open[i];
            place = std::move(arrival);
            reach.links.push_back(link);
            open.push_back(link->to);
        }
    return reach;
}

/// Where a search begins in the middle of play.
Arrival begun_with(const motion::PlayState& begin, const motion::Recording& before) {
    Arrival arrival;
    arrival.run = before;
    arrival.rest = {begin.body, {}, 0, {}};
    return arrival;
}

bool reaches_as_much(const Reach& reach, const Reach& wider) {
    for (int ledge = 0; ledge < int(reach.arrivals.size()); ++ledge)
        if (wider.reached(ledge) && !reach.reached(ledge)) return false;
    return true;
}

} // namespace

Reach OpenLevels::search(OpenLevel& level, const motion::PlayState& begin,
                         const motion::Recording& before) const {
    const int ledge = level.ground.ledge_at(begin.body.at, tolerance::feet_m);
    Arrival arrival = begun_with(begin, before);
    ReachOptions options;
    options.cancel = cancel_;
    // The newest knows the most links.
    const auto wider = std::find_if(level.searches.rbegin(), level.searches.rend(), [&](const auto& search) {
        return search->complete && search->reached(ledge);
    });
    if (wider != level.searches.rend()) {
        Reach reach = linked(**wider, arrival, ledge);
        if (reaches_as_much(reach, **wider)) return reach;
        options.within = wider->get();
    }
    Reach reach = search_reach(*level.searcher, std::move(arrival), options);
    if (ledge >= 0) {
        auto known = std::make_shared<Reach>(reach);
        if (options.within) // whoever comes later has the links of both
            known->links.insert(known->links.end(), options.within->links.begin(),
                                options.within->links.end());
        level.searches.push_back(std::move(known));
    }
    return reach;
}

Reach OpenLevels::search_anew(OpenLevel& level, const motion::PlayState& begin,
                              const motion::Recording& before) const {
    ReachOptions options;
    options.cancel = cancel_;
    return search_reach(*level.searcher, begun_with(begin, before), options);
}

std::vector<std::shared_ptr<const Arrival>> OpenLevels::played(const OpenLevel& level, const Reach& reach,
                                                               int ledge) const {
    auto chain = reach.chain(ledge);
    for (size_t i = 1; i < chain.size(); ++i) {
        if (!chain[i]->run.runs.empty()) continue;
        auto arrival = arrival_by(level.ground, level.character,
                                  motion::Recorder(*level.world, level.character, chain[i - 1]->rest),
                                  *chain[i - 1], chain[i]->link);
        if (!arrival) return {};
        chain[i] = std::make_shared<const Arrival>(std::move(*arrival));
    }
    return chain;
}

} // namespace rubble::check
