#include "check/open_levels.h"

#include <algorithm>

#include "base/tolerance.h"

namespace rubble::check {

using motion::PlayElements;
using motion::SourceId;

std::shared_ptr<OpenLevel> OpenLevels::made(const motion::World& world) const {
    auto level = std::make_shared<OpenLevel>();
    level->world = &world;
    if (built_) {
        const motion::WorldChange change = motion::change_between(world_, world);
        const GroundBefore before{*built_, change};
        level->ground = ground_of(world, character_, cancel_, &before);
    } else {
        level->ground = ground_of(world, character_, cancel_);
    }
    level->searcher = std::make_unique<LeapSearch>(level->ground, world, character_);
    return level;
}

std::shared_ptr<OpenLevel> OpenLevels::without(const std::vector<SourceId>& gone) {
    std::vector<SourceId> still = gone; // what moves is met when it is played
    for (const PlayElements::Lift& lift : world_.elements()->lifts) still.push_back(lift.source());
    std::sort(still.begin(), still.end());
    auto& known = known_[still];
    if (!known && still.empty()) { // the same matter, in which nothing acts
        auto world = std::make_shared<motion::World>(world_);
        world->set_elements(nullptr);
        known = made(*world);
        known->own_world = std::move(world);
    } else if (!known) {
        known = made(world_.without(still));
    }
    return known;
}

std::shared_ptr<OpenLevel> OpenLevels::with_lift_at(const std::vector<SourceId>& gone, size_t lift,
                                                    int stop) {
    const PlayElements& elements = *world_.elements();
    const PlayElements::Lift& one = elements.lifts[lift];
    std::vector<SourceId> still = gone;
    for (size_t i = 0; i < elements.lifts.size(); ++i)
        if (i != lift) still.push_back(elements.lifts[i].source());
    std::sort(still.begin(), still.end());
    // A source that no lift has says which stop it is.
    std::vector<SourceId> name = still;
    name.push_back({one.id, stop + 1});
    auto& known = known_[name];
    if (known) return known;
    const motion::World& from = world_.without(still);
    motion::WorldMaker maker;
    const Vec3 by = one.course.places()[size_t(stop)] - one.course.places()[0];
    for (const motion::World::Source& source : from.sources()) {
        maker.begin(source.id, source.tags);
        if (source.id != one.source()) {
            maker.add(from, source);
            continue;
        }
        for (int i = source.first; i < source.first + source.count; ++i)
            maker.add(motion::moved(from.columns()[size_t(i)], by));
    }
    auto world = std::make_shared<motion::World>(maker.finished(from.moving()));
    world->set_fixtures(from.fixtures());
    known = made(*world);
    known->own_world = std::move(world);
    return known;
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

bool reaches_as_much(const Reach& reach, const Reach& wider) {
    for (int ledge = 0; ledge < int(reach.arrivals.size()); ++ledge)
        if (wider.reached(ledge) && !reach.reached(ledge)) return false;
    return true;
}

} // namespace

Reach OpenLevels::search(OpenLevel& level, const motion::PlayState& begin,
                         const motion::Recording& before) const {
    const int ledge = level.ground.ledge_at(begin.body.at, tolerance::feet_m);
    Arrival arrival;
    arrival.run = before;
    arrival.rest = {begin.body, {}, 0, {}};
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
    Arrival arrival;
    arrival.run = before;
    arrival.rest = {begin.body, {}, 0, {}};
    ReachOptions options;
    options.cancel = cancel_;
    return search_reach(*level.searcher, std::move(arrival), options);
}

std::vector<std::shared_ptr<const Arrival>> OpenLevels::played(const OpenLevel& level, const Reach& reach,
                                                               int ledge) const {
    auto chain = reach.chain(ledge);
    for (size_t i = 1; i < chain.size(); ++i) {
        if (!chain[i]->run.runs.empty()) continue;
        auto arrival = arrival_by(level.ground, *level.world, character_, *chain[i - 1], chain[i]->link);
        if (!arrival) return {};
        chain[i] = std::make_shared<const Arrival>(std::move(*arrival));
    }
    return chain;
}

} // namespace rubble::check
