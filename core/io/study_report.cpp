#include "io/study_report.h"

#include <algorithm>
#include <cmath>

namespace rubble::io {

namespace {

int64_t whole_ms(double seconds) { return std::llround(seconds * 1000); }

/// In words, or that it is not there.
template <class State> Json told(const std::optional<State>& state, const char* (*key)(State)) {
    return state ? Json(key(*state)) : Json();
}

/// Where players failed, the dearest first.
void sort_falls(Json& falls) {
    std::vector<Json> sorted(falls.begin(), falls.end());
    const auto order = [](const Json& fall) {
        return std::tuple(-fall["lost_ms"].get<int64_t>(), -fall["count"].get<int64_t>(),
                          fall["span"].dump());
    };
    std::sort(sorted.begin(), sorted.end(),
              [&](const Json& a, const Json& b) { return order(a) < order(b); });
    falls = Json::array();
    for (Json& one : sorted) falls.push_back(std::move(one));
}

/// The share and its interval, from the counts.
void put_share(Json& report) {
    const int runs = report["runs"].get<int>(), arrived = report["arrived"].get<int>();
    const study::Interval interval = study::wilson(arrived, runs);
    report["share"] = runs > 0 ? tidy(double(arrived) / runs) : 0.0;
    report["low"] = tidy(interval.low), report["high"] = tidy(interval.high);
}

/// Adds how often players were in each part of the ground.
Result<void> add_areas(Json& sum, const Json& more) {
    const auto same = [&](size_t i) { return sum[i].value("at", Json()) == more[i].value("at", Json()); };
    for (size_t i = 0; i < sum.size(); ++i) {
        if (more.size() != sum.size() || !same(i))
            return fail("gather.parts", "areas", "the reports are not of the same level: this differs");
        for (const char* key : {"visits", "found_by", "circles"})
            sum[i][key] = sum[i][key].get<int64_t>() + more[i][key].get<int64_t>();
    }
    return {};
}

Result<Json> gathered_crowds(const std::vector<Json>& reports) {
    Json out = reports.front();
    std::vector<double> times;
    std::map<std::string, Json> falls;
    int runs = 0, arrived = 0;
    if (out.contains("areas"))
        for (size_t i = 1; i < reports.size(); ++i)
            if (auto added = add_areas(out["areas"], reports[i].value("areas", Json::array())); !added)
                return tl::unexpected(added.error());
    for (const Json& report : reports) {
        for (const char* key : {"level", "from", "to", "skill", "route_s"})
            if (report.value(key, Json()) != out.value(key, Json()))
                return fail("gather.parts", key, "the reports are not of the same question: this differs");
        runs += report["runs"].get<int>(), arrived += report["arrived"].get<int>();
        for (const Json& time : report["times_s"]) times.push_back(time.get<double>());
        for (const Json& fall : report["falls"]) {
            auto [known, is_new] = falls.emplace(fall["span"].dump(), fall);
            if (is_new) continue;
            for (const char* key : {"count", "deaths", "lost_ms"})
                known->second[key] = known->second[key].get<int64_t>() + fall[key].get<int64_t>();
        }
    }
    std::sort(times.begin(), times.end());
    out["arrived"] = arrived, out["runs"] = runs;
    put_share(out);
    out["times_s"] = times;
    out["falls"] = Json::array();
    for (auto& [span, fall] : falls) out["falls"].push_back(fall);
    sort_falls(out["falls"]);
    return out;
}

Json gathered_levels(const std::vector<Json>& reports) {
    std::vector<Json> levels;
    for (const Json& report : reports)
        for (const Json& level : report["levels"]) levels.push_back(level);
    std::sort(levels.begin(), levels.end(), [](const Json& a, const Json& b) {
        return a["file"].get<std::string>() < b["file"].get<std::string>();
    });
    return Json{{"levels", levels}};
}

} // namespace

Json to_json(const check::Span& span, const check::SpanFacts* facts) {
    Json json;
    json["gap_m"] = tidy(span.gap_m);
    json["rise_m"] = tidy(span.rise_m);
    json["margin_m"] = tidy(span.margin_m);
    json["margin_pct"] = std::round(span.margin_pct * 10) / 10;
    json["rise_margin_m"] = tidy(span.rise_margin_m);
    json["rise_margin_pct"] = std::round(span.rise_margin_pct * 10) / 10;
    json["grade"] = check::grade_key(span.grade);
    json["kind"] = check::kind_key(span.kind);
    json["from"] = tidy(span.from);
    json["to"] = tidy(span.to);
    json["run_up_m"] = tidy(span.run_up_m);
    if (!facts) return json;
    json["forgiven_ms"] = facts->forgiven_ms ? Json(tidy(*facts->forgiven_ms)) : Json();
    json["forgiven_deg"] = tidy(facts->forgiven_deg);
    json["landing_depth_m"] = tidy(facts->landing_depth_m);
    json["clearance_m"] = facts->clearance_m ? Json(tidy(*facts->clearance_m)) : Json();
    json["seen"] = facts->seen;
    json["miss"] = check::miss_key(facts->miss);
    if (facts->miss == check::SpanFacts::Miss::back) json["miss_s"] = tidy(facts->miss_s);
    return json;
}

Json crowd_report(const Level& level, const study::Crowd& crowd) {
    Json json;
    json["level"] = level.name;
    json["route_s"] = tidy(crowd.route_s);
    json["arrived"] = crowd.arrived;
    json["runs"] = crowd.runs.size();
    put_share(json);
    Json times = Json::array();
    for (const double time : crowd.times_s) times.push_back(tidy(time));
    json["times_s"] = times;
    std::map<int, int64_t> lost_ms; // rounded one by one, so that parts add up
    for (const study::PlayerRun& run : crowd.runs)
        for (const study::Miss& miss : run.misses) lost_ms[miss.link] += whole_ms(miss.lost_s);
    Json falls = Json::array();
    for (const study::Crowd::Cost& cost : crowd.costs) {
        Json span;
        if (cost.link >= 0) {
            const check::Link& link = *crowd.links[size_t(cost.link)];
            span = Json{{"kind", check::kind_key(link.kind)},
                        {"from", tidy(link.take_off)},
                        {"to", tidy(link.landing)}};
        }
        falls.push_back(Json{{"span", span},
                             {"count", cost.misses},
                             {"deaths", cost.deaths},
                             {"lost_ms", lost_ms[cost.link]}});
    }
    sort_falls(falls);
    json["falls"] = falls;
    return json;
}

Json exploration_report(const Level& level, const study::Exploration& exploration) {
    Json json = crowd_report(level, exploration.crowd);
    json["areas"] = Json::array();
    for (const auto& area : exploration.areas)
        json["areas"].push_back(Json{{"at", tidy(area.at)},
                                     {"area_m2", tidy(area.area_m2)},
                                     {"visits", area.visits},
                                     {"found_by", area.found_by},
                                     {"circles", area.circles}});
    return json;
}

Result<Json> gathered(const std::vector<Json>& reports) {
    if (reports.empty())
        return fail("gather.parts", "", "there is nothing to put together; name some reports");
    const auto all_have = [&](const char* key) {
        return std::all_of(reports.begin(), reports.end(),
                           [&](const Json& one) { return one.is_object() && one.contains(key); });
    };
    if (all_have("levels")) return gathered_levels(reports);
    const bool of_players =
        all_have("runs") && all_have("arrived") && all_have("times_s") && all_have("falls");
    if (of_players) return gathered_crowds(reports);
    return fail("gather.parts", "", "these are no reports of parts: name those that --shard wrote");
}

Json comparison_report(const Level& level, const study::Comparison& comparison) {
    Json json;
    json["worse"] = comparison.got_worse();
    json["reached_m2"] =
        Json{{"was", tidy(comparison.reached_was_m2)}, {"now", tidy(comparison.reached_now_m2)}};
    Json claims = Json::array(), places = Json::array(), spans = Json::array(), findings = Json::array();
    for (const auto& one : comparison.claims)
        claims.push_back(Json{{"id", one.id.value},
                              {"was", told(one.was, check::state_key)},
                              {"now", told(one.now, check::state_key)}});
    for (const auto& one : comparison.places)
        places.push_back(Json{{"item", one.item.value},
                              {"was", told(one.was, check::reached_key)},
                              {"now", told(one.now, check::reached_key)}});
    for (const auto& one : comparison.spans)
        spans.push_back(Json{{"was", one.was ? to_json(*one.was) : Json()},
                             {"now", one.now ? to_json(*one.now) : Json()}});
    for (const auto& one : comparison.findings)
        findings.push_back(Json{{"new", one.is_new},
                                {"rule", check::rule_of(one.finding.rule).key},
                                {"severity", check::severity_key(one.finding.severity)},
                                {"message", in_english(one.finding.says, level)}});
    json["claims"] = claims, json["places"] = places, json["spans"] = spans, json["findings"] = findings;
    return json;
}

Json limits_report(const Level& level, const std::vector<study::MetricLimit>& limits) {
    const auto ids = [](const std::vector<ClaimId>& claims) {
        Json out = Json::array();
        for (const ClaimId& id : claims) out.push_back(id.value);
        return out;
    };
    Json metrics = Json::array();
    for (const study::MetricLimit& limit : limits)
        metrics.push_back(Json{{"metric", level.character.value + "." + limit.field->key},
                               {"now", tidy(limit.now)},
                               {limit.field->helps == Helps::more ? "least" : "most", tidy(limit.limit)},
                               {"breaks", ids(limit.breaks)}});
    return Json{{"level", level.name}, {"metrics", metrics}};
}

Json sides_report(const Level& level, const study::Sides& sides) {
    using Kind = study::Symmetry::Kind;
    const auto run = [](const study::Sides::Run& one) {
        return Json{{"from", one.from.value},
                    {"to", one.to.value},
                    {"seconds", one.seconds ? Json(tidy(*one.seconds)) : Json()},
                    {"spans", one.spans},
                    {"hardest", one.hardest ? Json(check::grade_key(*one.hardest)) : Json()}};
    };
    Json ways = Json::array(), views = Json::array(), odd = Json::array();
    for (const auto& way : sides.ways)
        ways.push_back(Json{{"fair", way.fair()}, {"here", run(way.here)}, {"there", run(way.there)}});
    for (const auto& view : sides.views)
        views.push_back(Json{{"here", view.here.value},
                             {"there", view.there.value},
                             {"here_m2", tidy(view.here_m2)},
                             {"there_m2", tidy(view.there_m2)}});
    for (const ItemId& id : sides.odd) odd.push_back(id.value);
    const Kind kind = sides.symmetry.kind;
    return Json{{"level", level.name},
                {"symmetry", kind == Kind::across_x   ? "across_x"
                             : kind == Kind::across_y ? "across_y"
                                                      : "turned"},
                {"middle", {tidy(sides.symmetry.middle.x), tidy(sides.symmetry.middle.y)}},
                {"alike", tidy(sides.alike)},
                {"ways", ways},
                {"views", views},
                {"odd", odd}};
}

} // namespace rubble::io
