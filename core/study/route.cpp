#include "study/route.h"

#include <algorithm>
#include <set>

#include "base/tolerance.h"
#include "check/reach_queries.h"
#include "level/element_kinds.h"
#include "level/order.h"

namespace rubble::study {

using check::Link;

namespace {

const Element* element_of(const Level& level, const ItemId& id) {
    const Item* item = find_item(level, id);
    return item ? item->element() : nullptr;
}

} // namespace

Result<std::unique_ptr<Route>> Route::between(const Level& level, const check::CheckResult& checked,
                                              const ItemId& from, const ItemId& to, const Cancel& cancel) {
    const Element *begin = element_of(level, from), *goal = element_of(level, to);
    if (!begin || !goal)
        return fail("players.end", (begin ? to : from).value,
                    "is not an element of this level; name another one");
    if (checked.world->moving().puzzle || checked.ground->cells)
        return fail("players.cells", level.name,
                    "is walked from cell to cell, where hands make no difference; choose another level");
    std::unique_ptr<Route> route(new Route(checked));
    route->begin_ = met_at(level, *begin), route->goal_ = met_at(level, *goal);
    for (const Item* item : elements_of(level))
        if (acts_as(*item->element()) == "checkpoint")
            route->checkpoints_.push_back(met_at(level, *item->element()));
    check::ReachQueries queries(*checked.ground, *checked.world, checked.character, cancel, false);
    const bool from_start = checked.starts.size() == 1 && checked.starts[0] == route->begin_;
    if (from_start && !queries.elements_act()) queries.know(route->begin_, checked.reach);
    auto answer = queries.ask(route->begin_, route->goal_);
    if (answer.reached != check::Reached::yes || !answer.witness)
        return fail("players.unreached", to.value,
                    "is not reached from " + from.value + ", so that nobody can get there");
    route->witness_ = std::move(*answer.witness);

    std::vector<std::shared_ptr<const Link>> links = checked.reach->links;
    if (!from_start && !queries.elements_act()) {
        check::Reach reach = queries.reach_from(route->begin_);
        check::search_return(queries.searcher(), reach, {answer.spot.ledge});
        links.insert(links.end(), reach.links.begin(), reach.links.end());
    }
    for (const auto& leg : route->witness_.legs)
        if (leg.link) links.push_back(leg.link);
    // Each once, in the order of their finding.
    std::set<const Link*> known;
    std::erase_if(links, [&](const auto& link) {
        return link->from < 0 || link->to < 0 || !known.insert(link.get()).second;
    });
    route->graph_.emplace(*checked.ground, checked.character, std::move(links));
    for (size_t i = 0; i < route->links().size(); ++i)
        route->approaches_.push_back(std::make_unique<Known>());
    route->towards_goal_ = route->graph_->towards(answer.spot.ledge, answer.spot.at);
    route->read_legs();
    return route;
}

void Route::read_legs() {
    const motion::PlayedRun run = motion::played(world(), character(), witness_.recording);
    std::vector<motion::Input> inputs;
    for (const auto& part : witness_.recording.runs)
        inputs.insert(inputs.end(), size_t(part.steps), part.input);
    size_t at = 0;
    const auto add = [&](const std::shared_ptr<const Link>& link, size_t leap, size_t end) {
        const size_t until = std::min(leap, inputs.size());
        Leg leg{
            link, run.at(at), {inputs.begin() + std::ptrdiff_t(at), inputs.begin() + std::ptrdiff_t(until)}};
        legs_.push_back(std::move(leg));
        const auto place = std::find(links().begin(), links().end(), link);
        leg_links_.push_back(place == links().end() ? -1 : int(place - links().begin()));
        at = end;
    };
    for (const auto& leg : witness_.legs)
        if (leg.link)
            add(leg.link, size_t(leg.first_step),
                size_t(leg.first_step) + size_t(leg.link->recording.steps()));
    add(nullptr, inputs.size(), inputs.size());
}

const check::Approach* Route::approach(int link) const {
    Known& known = *approaches_[size_t(link)];
    std::call_once(known.once, [&] {
        known.approach = check::approach_of(ground(), world(), character(), *links()[size_t(link)]);
    });
    return known.approach ? &*known.approach : nullptr;
}

} // namespace rubble::study
