#include "check/pace.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

#include "check/route_light.h"
#include "level/element_kinds.h"
#include "level/order.h"
#include "motion/elements.h"
#include "motion/sweep.h"

namespace rubble::check {

using motion::step_s;

namespace {

/// What is so near is a danger, and a rest lasts at least so long (metres, seconds).
constexpr double k_danger_m = 3, k_rest_s = 3;
/// Nobody goes on for longer than this without a rest (seconds).
constexpr double k_without_rest_s = 60;
/// What a danger adds to the effort.
constexpr double k_danger_effort = 50;
/// Room is looked at every so many steps, by looks as thick as this, as far as this (metres).
constexpr auto k_look_steps = size_t(pace_look_s / motion::step_s + 0.5);
constexpr double k_ray_m = 0.02, k_side_m = 20, k_ahead_m = 100;
/// Below this one stands rather than goes (metres per second).
constexpr double k_going_mps = 0.5;

/// The middle one of some numbers.
double usual(std::vector<double> of) {
    if (of.empty()) return 0;
    std::nth_element(of.begin(), of.begin() + std::ptrdiff_t(of.size() / 2), of.end());
    return of[of.size() / 2];
}

/// Whether the one is of use only with the other.
bool belong_together(const std::string& a, const std::string& b) {
    const auto is = [&](const char* what, const char* with) {
        return (a == what && b == with) || (a == with && b == what);
    };
    return is("key", "door") || is("pickup", "gate") || is("switch", "door");
}

class PaceReader {
public:
    PaceReader(const Project& project, const Level& level, const CheckResult& result, const Witness& witness)
        : project_(project),
          level_(level),
          result_(result),
          witness_(witness),
          world_(*result.world),
          run_(motion::played(*result.world, result.character, witness.recording)) {}

    Pace run() {
        pace_.seconds = double(run_.bodies.size() - 1) * step_s;
        read_leaps();
        read_events();
        read_dangers();
        read_rests();
        read_windows();
        read_light();
        remark();
        return std::move(pace_);
    }

private:
    double time_of(size_t step) const { return double(step) * step_s; }
    const Vec3& at(double seconds) const {
        return run_.bodies[std::min(size_t(seconds / step_s), run_.bodies.size() - 1)].at;
    }

    void read_leaps() {
        const LinkGraph graph(*result_.ground, result_.character, result_.reach->links);
        for (const auto& leg : witness_.legs) {
            if (!leg.link || leg.link->kind == LinkKind::drop) continue;
            Pace::Leap leap;
            leap.span = span_of(*result_.ground, world_, result_.character, project_, *leg.link);
            leap.span.link = leg.link;
            size_t begin = std::min(size_t(leg.first_step), run_.bodies.size() - 1);
            while (begin + 1 < run_.bodies.size() && run_.bodies[begin].standing) ++begin;
            size_t end = begin;
            while (end + 1 < run_.bodies.size() && !run_.bodies[end].standing) ++end;
            leap.begin_s = time_of(begin), leap.end_s = time_of(end);
            leap.deadly =
                miss_of(*result_.ground, world_, result_.character, graph, *leg.link, leap.span).miss ==
                SpanFacts::Miss::fatal;
            pace_.leaps.push_back(std::move(leap));
        }
    }

    /// When each element is come to for the first time: what is taken, pressed and opened when it is, all
    /// else when one stands at it.
    void read_events() {
        for (const Item* item : elements_of(level_)) {
            const Element& element = *item->element();
            const Vec3 place = met_at(level_, element);
            const bool door = acts_as(element) == "door" || acts_as(element) == "gate";
            const bool counts = role_of(element) == Role::thing || acts_as(element) == "checkpoint" ||
                                acts_as(element) == "switch" || door;
            if (!counts) continue;
            const double near =
                door ? result_.character.radius_m + glm::length(flat(size_of(element))) / 2 : 0;
            for (size_t step = 0; step < run_.bodies.size(); ++step) {
                const motion::State& body = run_.bodies[step];
                const bool there = door ? glm::length(flat(body.at - place)) <= near &&
                                              std::abs(body.at.z - place.z) < result_.character.height_m
                                        : motion::has_at(result_.character, body, place, true);
                if (!there) continue;
                pace_.events.push_back({time_of(step), item->id, acts_as(element)});
                break;
            }
        }
        std::stable_sort(pace_.events.begin(), pace_.events.end(),
                         [](const auto& a, const auto& b) { return a.at_s < b.at_s; });
    }

    /// Which foes and hazards are near at each look.
    void read_dangers() {
        const auto& elements = world_.elements();
        near_.assign(run_.bodies.size() / k_look_steps + 1, {});
        for (size_t look = 0; elements && look < near_.size(); ++look) {
            const motion::PlayState then = run_.at(look * k_look_steps);
            const motion::Body body = body_of(result_.character, then.body);
            const motion::Shifts shifts = shifts_of(*elements, then);
            for (size_t i = 0; i < elements->foes.size(); ++i)
                if (apart_m(shifted(elements->foes[i].room, shifts.foes[i]), body) < k_danger_m)
                    near_[look].insert(elements->foes[i].id);
            for (const auto& hazard : elements->hazards)
                if (apart_m(hazard.room, body) < k_danger_m) near_[look].insert(hazard.id);
        }
    }

    /// Times without spans and dangers.
    void read_rests() {
        std::vector<Pace::Rest> busy;
        for (const Pace::Leap& leap : pace_.leaps) busy.push_back({leap.begin_s, leap.end_s});
        for (size_t look = 0; look < near_.size(); ++look)
            if (!near_[look].empty())
                busy.push_back({time_of(look * k_look_steps), time_of((look + 1) * k_look_steps)});
        std::sort(busy.begin(), busy.end(),
                  [](const auto& a, const auto& b) { return a.begin_s < b.begin_s; });
        double free_since = 0;
        busy.push_back({pace_.seconds, pace_.seconds});
        for (const Pace::Rest& one : busy) {
            if (one.begin_s - free_since >= k_rest_s) pace_.rests.push_back({free_since, one.begin_s});
            free_since = std::max(free_since, one.end_s);
        }
    }

    double room_towards(const Vec3& from, Vec2 direction, double most) const {
        const auto contact =
            motion::first_contact(world_, {from, k_ray_m, k_ray_m}, raised(direction * most, 0));
        return contact ? contact->part * most : most;
    }

    void read_windows() {
        const int count = int(std::ceil(pace_.seconds / pace_window_s));
        for (int i = 0; i < count; ++i) {
            Pace::Window window;
            window.begin_s = i * pace_window_s;
            const double end = std::min(window.begin_s + pace_window_s, pace_.seconds);
            window.climbed_m = at(end).z - at(window.begin_s).z;
            for (const Pace::Leap& leap : pace_.leaps) {
                if (leap.begin_s < window.begin_s || leap.begin_s >= end) continue;
                ++window.spans;
                window.effort += 100 - leap.span.least_pct(result_.character.step_height_m);
            }
            std::set<ItemId> dangers;
            std::vector<double> corridor, ahead;
            for (size_t step = size_t(window.begin_s / step_s); time_of(step) < end; step += k_look_steps) {
                const auto& near = near_[std::min(step / k_look_steps, near_.size() - 1)];
                dangers.insert(near.begin(), near.end());
                look_round(step, corridor, ahead);
            }
            window.dangers = int(dangers.size());
            window.effort += k_danger_effort * window.dangers;
            window.corridor_m = usual(std::move(corridor)), window.view_m = usual(std::move(ahead));
            for (const Pace::Event& event : pace_.events)
                window.pick_ups += event.kind == "pickup" && event.at_s >= window.begin_s && event.at_s < end;
            pace_.windows.push_back(window);
        }
    }

    void look_round(size_t step, std::vector<double>& corridor, std::vector<double>& ahead) const {
        const motion::State& body = run_.bodies[std::min(step, run_.bodies.size() - 1)];
        const double speed = glm::length(flat(body.velocity));
        if (speed < k_going_mps || !body.standing) return;
        const Vec2 way = flat(body.velocity) / speed, side(-way.y, way.x);
        const Vec3 waist = body.at + Vec3(0, 0, result_.character.height_m / 2);
        if (!world_.flat_on())
            corridor.push_back(room_towards(waist, side, k_side_m) + room_towards(waist, -side, k_side_m));
        ahead.push_back(room_towards(body.at + Vec3(0, 0, result_.character.eye_height_m), way, k_ahead_m));
    }

    void add(RuleId rule, double seconds, Sentences says, std::vector<ItemId> items = {}) {
        pace_.remarks.push_back({rule, seconds, at(seconds), std::move(says), std::move(items)});
    }

    static std::string whole(double seconds) { return std::to_string(std::lround(seconds)); }

    void read_light() {
        const std::vector<Light> lights = lights_of(level_);
        if (lights.empty()) return;
        const Vec3 eye(0, 0, result_.character.eye_height_m);
        for (size_t step = 0; step < run_.bodies.size(); step += k_look_steps)
            pace_.lux.push_back(lux_at_eye(world_, lights, run_.bodies[step].at + eye));
    }

    /// The longest stretch of the way on which it is too dark.
    void remark_on_light() {
        constexpr double k_blink_s = 1;
        size_t best = 0, begin = 0, dark = 0;
        for (size_t i = 0; i < pace_.lux.size(); ++i) {
            dark = pace_.lux[i] < project_.least_lux ? dark + 1 : 0;
            if (dark > best) best = dark, begin = i + 1 - dark;
        }
        if (double(best) * pace_look_s <= k_blink_s) return;
        const double least = *std::min_element(pace_.lux.begin() + std::ptrdiff_t(begin),
                                               pace_.lux.begin() + std::ptrdiff_t(begin + best));
        add(RuleId::dress_dark_route, double(begin) * pace_look_s,
            {{"From %1 s on the way is dark for %2 s: %3 lux, %4 are wanted.",
              {whole(double(begin) * pace_look_s), whole(double(best) * pace_look_s), tenths(least),
               tenths(project_.least_lux)}}});
    }

    static std::string tenths(double value) {
        const long of = std::lround(value * 10);
        return std::to_string(of / 10) + '.' + std::to_string(of % 10);
    }

    void remark() {
        remark_on_light();
        if (result_.ground->cells) return; // there nobody leaps, and one takes all the time one wants
        // A kind of span is learned where a miss does not kill.
        std::set<LinkKind> learned;
        for (const Pace::Leap& leap : pace_.leaps) {
            if (leap.deadly && learned.insert(leap.span.kind).second)
                add(RuleId::deadly_first, leap.begin_s,
                    {{"After %1 s the first span of its kind, and whoever misses it dies.",
                      {whole(leap.begin_s)}}});
            learned.insert(leap.span.kind);
        }
        const auto margin = [&](const Pace::Leap& leap) {
            return leap.span.least_pct(result_.character.step_height_m);
        };
        const auto hardest = std::min_element(pace_.leaps.begin(), pace_.leaps.end(),
                                              [&](auto& a, auto& b) { return margin(a) < margin(b); });
        if (pace_.leaps.size() >= 3 && hardest->begin_s < pace_.seconds / 4)
            add(RuleId::hardest_early, hardest->begin_s,
                {{"The hardest span of %1 comes after %2 of %3 s.",
                  {std::to_string(pace_.leaps.size()), whole(hardest->begin_s), whole(pace_.seconds)}}});
        double since = 0;
        std::vector<Pace::Rest> rests = pace_.rests;
        rests.push_back({pace_.seconds, pace_.seconds});
        for (const Pace::Rest& rest : rests) {
            if (rest.begin_s - since > k_without_rest_s)
                add(RuleId::no_rest, since + k_without_rest_s,
                    {{"From %1 to %2 s there is no rest of %3 s.",
                      {whole(since), whole(rest.begin_s), whole(k_rest_s)}}});
            since = rest.end_s;
        }
        remark_on_new_things();
    }

    /// Two kinds of things that are met for the first time, nearly at once.
    void remark_on_new_things() {
        std::map<std::string, const Pace::Event*> first;
        for (const Pace::Event& event : pace_.events) first.emplace(event.kind, &event);
        std::vector<const Pace::Event*> fresh;
        for (const auto& [kind, event] : first)
            if (kind != "goal" && kind != "place") fresh.push_back(event);
        std::sort(fresh.begin(), fresh.end(), [](auto* a, auto* b) { return a->at_s < b->at_s; });
        constexpr double k_at_once_s = 2;
        for (size_t i = 1; i < fresh.size(); ++i) {
            if (fresh[i]->at_s - fresh[i - 1]->at_s >= k_at_once_s) continue;
            // A key and its door, a pick-up that lies on a switch: what belongs together is one thing.
            if (belong_together(fresh[i - 1]->kind, fresh[i]->kind) ||
                glm::length(at(fresh[i]->at_s) - at(fresh[i - 1]->at_s)) < result_.character.radius_m)
                continue;
            add(RuleId::two_new, fresh[i]->at_s,
                {{"%1 and %2 are new within %3 s.",
                  {fresh[i - 1]->item, fresh[i]->item, whole(k_at_once_s)}}},
                {fresh[i - 1]->item, fresh[i]->item});
        }
    }

    const Project& project_;
    const Level& level_;
    const CheckResult& result_;
    const Witness& witness_;
    const motion::World& world_;
    const motion::PlayedRun run_;
    std::vector<std::set<ItemId>> near_; ///< dangers, at each look
    Pace pace_;
};

} // namespace

Pace pace_of(const Project& project, const Level& level, const CheckResult& result, const Witness& witness) {
    return PaceReader(project, level, result, witness).run();
}

std::vector<Finding> find_on_the_way(const Project& project, const Level& level, const CheckResult& result) {
    std::vector<Finding> out;
    if (result.ground->cells) return out; // there nobody leaps
    for (const Place& place : result.places) {
        const Item* item = find_item(level, place.item);
        if (!item || !item->element() || role_of(*item->element()) != Role::goal || !place.witness) continue;
        const Pace pace = pace_of(project, level, result, *place.witness);
        for (const Pace::Remark& remark : pace.remarks)
            out.push_back({remark.rule, rule_of(remark.rule).severity, remark.says, remark.at, remark.items});
        break;
    }
    return out;
}

} // namespace rubble::check
