#include "io/report.h"

#include <cmath>

#include "build/solid_builder.h"
#include "build/surface_builder.h"
#include "io/item_file.h"
#include "io/recording_file.h"
#include "io/study_report.h"
#include "io/tile_file.h"
#include "level/order.h"

namespace rubble::io {

namespace {

/// The keys of an item that a mend sets, with what it sets them to.
Json set_by(const check::MendEdit& edit, const Level& level) {
    Json set = Json::object();
    const Item* before = find_item(level, edit.item.id);
    const Json now = to_json(edit.item, level.frame),
               was = before ? to_json(*before, level.frame) : Json::object();
    for (const auto& [key, value] : now.items())
        if (!was.contains(key) || was[key] != value) set[key] = value;
    return set;
}

Json mend_json(const check::Mend& mend, const Level& level) {
    Json json;
    json["text"] = in_english(mend.says, level);
    Json edits = Json::array();
    for (const check::MendEdit& edit : mend.edits) {
        Json one;
        one["item"] = edit.item.id.value;
        one[edit.added ? "add" : "set"] = edit.added ? to_json(edit.item, level.frame) : set_by(edit, level);
        edits.push_back(one);
    }
    for (const check::MendCells& edit : mend.cells) {
        Json cells = Json::array();
        for (const auto& change : edit.cells)
            cells.push_back(Json{change.at.column, change.at.row, text_of(change.tile)});
        edits.push_back(Json{{"layer", edit.layer.value}, {"cells", cells}});
    }
    json["edits"] = edits;
    Json breaks = Json::array();
    for (const ClaimId& id : mend.breaks) breaks.push_back(id.value);
    json["breaks"] = breaks;
    return json;
}

Json way_json(const check::Maze::Way& way) {
    Json places = Json::array();
    for (const Vec2& p : way.places) places.push_back(Json{tidy(p.x), tidy(p.y)});
    return Json{{"length_m", tidy(way.length_m)}, {"places", places}};
}

Json maze_json(const check::Maze& maze) {
    Json dead_ends = Json::array(), shortcuts = Json::array();
    for (const auto& one : maze.dead_ends) {
        Json branches = Json::array();
        for (const auto& branch : one.branches) branches.push_back(way_json(branch));
        dead_ends.push_back(Json{{"length_m", tidy(one.length_m)}, {"branches", branches}});
    }
    for (const auto& one : maze.shortcuts) {
        Json shortcut = way_json(one.way);
        shortcut["saves_m"] = tidy(one.saves_m);
        shortcuts.push_back(shortcut);
    }
    return Json{{"corridors_m", tidy(maze.corridors_m)},
                {"narrowest_m", tidy(maze.narrowest_m)},
                {"usual_m", tidy(maze.usual_m)},
                {"dead_ends", dead_ends},
                {"walked_twice_m", tidy(maze.twice_m)},
                {"loops", maze.loops},
                {"shortcuts", shortcuts},
                {"shortest", way_json(maze.shortest)},
                {"longest", way_json(maze.longest)},
                {"longest_is_longest", maze.longest_is_longest},
                {"on_the_way_pct", std::round(maze.on_the_way() * 1000) / 10}};
}

Json finding_json(const check::Finding& finding, const Level& level) {
    Json one;
    one["rule"] = check::rule_of(finding.rule).key;
    one["severity"] = check::severity_key(finding.severity);
    one["message"] = in_english(finding.says, level);
    one["at"] = tidy(finding.at);
    one["items"] = Json::array();
    for (const ItemId& id : finding.items) one["items"].push_back(id.value);
    return one;
}

} // namespace

Json check_report(const Level& level, const check::CheckResult& result,
                  const std::vector<check::SpanFacts>* facts) {
    Json json;
    json["level"] = level.name;
    json["character"] = level.character.value;
    Json claims = Json::array();
    for (const auto& claim : result.claims) {
        Json one;
        one["id"] = claim.id.value;
        one["state"] = check::state_key(claim.state);
        one["reason"] = in_english(claim.reason, level);
        if (claim.witness) {
            one["time_s"] = tidy(claim.time_s);
            one["witness"] = to_json(claim.witness->recording);
        }
        claims.push_back(one);
    }
    json["claims"] = claims;
    Json places = Json::array();
    for (const auto& place : result.places) {
        Json one;
        one["item"] = place.item.value;
        one["reached"] = check::reached_key(place.reached);
        if (place.witness) {
            one["time_s"] = tidy(place.time_s);
            one["witness"] = to_json(place.witness->recording);
        }
        places.push_back(one);
    }
    json["places"] = places;
    Json spans = Json::array();
    for (size_t i = 0; i < result.spans.size(); ++i)
        spans.push_back(to_json(result.spans[i], facts ? &(*facts)[i] : nullptr));
    json["spans"] = spans;
    Json misses = Json::array();
    for (const auto& miss : result.near_misses) {
        Json one;
        one["from"] = miss.from.value;
        one["to"] = miss.to.value;
        one["limit"] = check::limit_key(miss.limit);
        if (miss.limit == check::Limit::slope)
            one["missing_deg"] = std::round(miss.missing_deg * 100) / 100;
        else if (miss.limit != check::Limit::item)
            one["missing_m"] = tidy(miss.missing_m);
        one["text"] = in_english(miss.says, level);
        Json mends = Json::array();
        for (const auto& mend : miss.mends) mends.push_back(mend_json(mend, level));
        one["mends"] = mends;
        misses.push_back(one);
    }
    json["near_misses"] = misses;
    json["findings"] = Json::array();
    for (const auto& finding : result.findings) json["findings"].push_back(finding_json(finding, level));
    for (const check::Excused& one : result.excused) {
        Json excused = finding_json(one.finding, level);
        excused["excused"] = one.reason;
        json["findings"].push_back(std::move(excused));
    }
    if (result.maze) json["maze"] = maze_json(*result.maze);
    json["timing_ms"] = Json{{"build", std::round(result.timing.build_ms * 10) / 10},
                             {"reach", std::round(result.timing.reach_ms * 10) / 10},
                             {"total", std::round(result.timing.total_ms * 10) / 10}};
    return json;
}

Json info_report(const Project& project, const Level& level) {
    int brushes = 0, cuts = 0, elements = 0, groups = 0, pieces = 0, assemblies = 0;
    for_each_item(level, [&](const Item& item, const Layer&) {
        if (item.brush()) ++brushes;
        if (item.brush() && item.brush()->effect == Effect::cut) ++cuts;
        if (item.element()) ++elements;
        if (item.group()) ++groups;
        if (item.piece()) ++pieces;
        if (item.assembly()) ++assemblies;
    });
    Json json;
    json["level"] = level.name;
    json["counts"] = Json{{"layers", level.layers.size()},
                          {"brushes", brushes},
                          {"cuts", cuts},
                          {"elements", elements},
                          {"groups", groups},
                          {"pieces", pieces},
                          {"assemblies", assemblies},
                          {"claims", level.claims.size()}};
    const Box3 box = box_of(level);
    if (!box.empty()) {
        json["size"] = tidy(box.high - box.low);
        json["low"] = tidy(box.low);
        json["high"] = tidy(box.high);
    }
    Json layers = Json::array();
    for (const auto& layer : level.layers)
        layers.push_back(
            Json{{"id", layer->id.value}, {"name", layer->name}, {"items", layer->items.size()}});
    json["layers"] = layers;
    json["character"] = level.character.value;
    const Character c = character_of(project, level);
    Json metrics;
    for (const CharacterField& field : character_fields()) metrics[field.key] = c.*field.member;
    json["metrics"] = metrics;
    const build::SurfaceFacts facts = facts_of(build::surface_of(build::build_solid(level)));
    json["solid"] = Json{{"volume_m3", facts.volume_m3},
                         {"area_m2", facts.area_m2},
                         {"faces", facts.faces},
                         {"open_edges", facts.open_edges}};
    return json;
}

} // namespace rubble::io
