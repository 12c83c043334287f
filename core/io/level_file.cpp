#include "io/level_file.h"

#include <array>
#include <cmath>
#include <set>

#include "io/item_file.h"
#include "io/names.h"
#include "io/text_file.h"
#include "io/tile_file.h"

namespace rubble::io {

namespace {

constexpr const char* k_tiles = "tiles"; ///< the type of layers of tiles; others have none
constexpr std::array k_axes{Name<int>{"x", 0}, Name<int>{"y", 1}};
constexpr std::array k_frames{Name<Frame>{"space", Frame::space}, Name<Frame>{"side", Frame::side},
                              Name<Frame>{"plan", Frame::plan}};
constexpr std::array k_walked{Name<Walked>{"freely", Walked::freely},
                              Name<Walked>{"by_cells", Walked::by_cells}};

/// What the bare faces of a layer get.
constexpr std::pair<const char*, MaterialId StandardMaterials::*> k_standard[] = {
    {"floor", &StandardMaterials::floor},
    {"wall", &StandardMaterials::wall},
    {"ceiling", &StandardMaterials::ceiling}};

Json layer_json(const Layer& layer, Frame frame) {
    Json json;
    json["id"] = layer.id.value;
    if (layer.tiles) json["type"] = k_tiles;
    json["name"] = layer.name;
    if (!layer.parent.empty()) json["parent"] = layer.parent.value;
    if (layer.hidden) json["hidden"] = true;
    if (layer.locked) json["locked"] = true;
    if (layer.storey)
        json["storey"] = {{"floor_m", layer.storey->floor_m}, {"clear_m", layer.storey->clear_m}};
    if (layer.tint) json["tint"] = *layer.tint;
    for (const auto& [key, member] : k_standard)
        if (const MaterialId& material = layer.standard.*member; !material.empty())
            json["standard"][key] = material.value;
    add_rest(json, layer.extra);
    if (layer.tiles) return tiles_json(**layer.tiles, frame, std::move(json));
    Json items = Json::array();
    for (const ItemPtr& item : layer.items) items.push_back(to_json(*item, frame));
    json["items"] = items;
    return json;
}

Json claim_json(const Claim& claim) {
    Json json;
    json["id"] = claim.id.value;
    if (!claim.name.empty()) json["name"] = claim.name;
    json["kind"] = kind_of(claim).key;
    const int ends = kind_of(claim).ends;
    if (ends > 0) json["from"] = claim.from.value;
    if (ends > 1 || !claim.to.empty()) json["to"] = claim.to.value;
    if (ends > 2 || !claim.item.empty()) json["item"] = claim.item.value;
    if (claim.kind == Claim::Kind::at_most) json["element"] = claim.element, json["count"] = claim.count;
    if (claim.value != 0) json["value"] = claim.value;
    if (!claim.skill.empty()) json["skill"] = claim.skill;
    add_rest(json, claim.extra);
    return json;
}

Json excuse_json(const Excuse& excuse) {
    Json json{{"rule", excuse.rule}, {"at", {excuse.at.x, excuse.at.y, excuse.at.z}}};
    json["items"] = Json::array();
    for (const ItemId& id : excuse.items) json["items"].push_back(id.value);
    json["reason"] = excuse.reason;
    add_rest(json, excuse.extra);
    return json;
}

Result<Excuse> read_excuse(const Json& json, const std::string& place, const std::string& path) {
    Reader in(json, place, path);
    Excuse out;
    out.rule = in.text("rule");
    if (out.rule.empty()) in.fail("rule", "the key of a rule");
    out.at = point(in, "at", Vec3(0));
    for (const std::string& id : texts(in, "items")) out.items.push_back({id});
    out.reason = in.text("reason");
    if (!in.ok()) return tl::unexpected(in.error());
    out.extra = in.rest();
    return out;
}

const Json k_no_items = Json::array();

Result<Layer> read_layer(const Json& json, const std::string& place, const std::string& path, Frame frame) {
    Reader in(json, place, path);
    Layer layer;
    layer.id = {in.text("id")};
    if (layer.id.empty()) in.fail("id", "an id");
    layer.name = in.text("name");
    layer.parent = {in.text("parent")};
    layer.hidden = in.flag("hidden", false);
    layer.locked = in.flag("locked", false);
    if (in.has("storey")) {
        Reader storey(in.object("storey"), place, in.path_of("storey"));
        layer.storey = Storey{storey.number("floor_m", 0), storey.number("clear_m", 3)};
        if (!storey.ok()) return tl::unexpected(storey.error());
    }
    if (in.has("tint")) {
        const auto rgb = in.numbers("tint", 3, {0, 0, 0});
        layer.tint.emplace();
        for (size_t i = 0; i < 3; ++i) (*layer.tint)[i] = uint8_t(std::clamp(rgb[i], 0.0, 255.0));
    }
    if (in.has("standard")) {
        Reader standard(in.object("standard"), place, in.path_of("standard"));
        for (const auto& [key, member] : k_standard) layer.standard.*member = {standard.text(key)};
        in.take_error(standard);
    }
    if (const std::string type = in.text("type"); type == k_tiles)
        layer.tiles = Shared<TileLayer>(read_tiles(in));
    else if (!type.empty())
        in.fail("type", std::string("\"") + k_tiles + "\", or no type for a layer of items");
    const Json& items = layer.tiles ? k_no_items : in.list("items");
    for (size_t i = 0; i < items.size(); ++i) {
        auto item = item_from_json(items[i], place, in.path_of("items") + "/" + std::to_string(i), frame);
        if (!item) return tl::unexpected(item.error());
        layer.items.push_back(std::move(*item));
    }
    if (!in.ok()) return tl::unexpected(in.error());
    layer.extra = in.rest();
    return layer;
}

Claim::Kind read_claim_kind(Reader& in) {
    std::array<Name<Claim::Kind>, claim_kinds.size()> names;
    for (size_t i = 0; i < names.size(); ++i) names[i] = {claim_kinds[i].key, claim_kinds[i].kind};
    return choice(in, "kind", names, "");
}

constexpr double k_largest_claim = 1e5;

Result<Claim> read_claim(const Json& json, const std::string& place, const std::string& path) {
    Reader in(json, place, path);
    Claim claim;
    claim.id = {in.text("id")};
    if (claim.id.empty()) in.fail("id", "an id");
    claim.name = in.text("name");
    claim.kind = read_claim_kind(in);
    claim.from = {in.text("from")};
    claim.to = {in.text("to")};
    claim.item = {in.text("item")};
    claim.value = in.number("value", 0);
    if (claim.value < 0 || claim.value > k_largest_claim) in.fail("value", "a number from 0 to 100000");
    claim.skill = in.text("skill");
    if (claim.kind == Claim::Kind::at_most) {
        claim.element = in.text("element");
        const double count = in.number("count", 0);
        if (!(count >= 0 && count <= 1e6) || count != std::floor(count))
            in.fail("count", "a whole number from 0 to 1000000");
        else
            claim.count = int(count);
    }
    if (!in.ok()) return tl::unexpected(in.error());
    claim.extra = in.rest();
    return claim;
}

Json end_json(const DimensionEnd& end) {
    Json json = Json::object();
    if (!end.item.empty()) json["item"] = end.item.value;
    json["place"] = to_json(end.place);
    return json;
}

Result<Dimension> read_dimension(const Json& json, const std::string& place, const std::string& path) {
    Reader in(json, place, path);
    Dimension out;
    out.id = {in.text("id")};
    for (const auto& [key, end] : {std::pair{"from", &out.from}, std::pair{"to", &out.to}}) {
        Reader own(in.object(key), place, in.path_of(key));
        end->item = {own.text("item")};
        end->place = point(own, "place", Vec3(0));
        if (!own.ok()) return tl::unexpected(own.error());
    }
    if (!in.ok()) return tl::unexpected(in.error());
    return out;
}

constexpr std::array k_underlay_axes{Name<int>{"x", 0}, Name<int>{"y", 1}, Name<int>{"z", 2}};

Result<Underlay> read_underlay(const Json& json, const std::string& place, const std::string& path) {
    Reader in(json, place, path);
    Underlay out;
    out.id = {in.text("id")};
    out.file = in.text("file");
    if (out.id.empty()) in.fail("id", "an id");
    if (out.file.empty()) in.fail("file", "the name of a picture");
    out.axis = choice(in, "across", k_underlay_axes, "z");
    out.at = point(in, "at", Vec3(0));
    out.width_m = in.number("width_m", out.width_m);
    if (!(out.width_m >= narrowest_underlay_m && out.width_m <= widest_underlay_m))
        in.fail("width_m", "a width from 0.01 to 10000 m");
    out.opacity = in.number("opacity", out.opacity);
    if (!(out.opacity >= 0 && out.opacity <= 1)) in.fail("opacity", "a part from 0 to 1");
    out.hidden = in.flag("hidden", false);
    out.locked = in.flag("locked", false);
    if (!in.ok()) return tl::unexpected(in.error());
    out.extra = in.rest();
    return out;
}

Json underlay_json(const Underlay& underlay) {
    Json json{{"id", underlay.id.value},
              {"file", underlay.file},
              {"across", key_of(k_underlay_axes, underlay.axis)},
              {"at", to_json(underlay.at)},
              {"width_m", underlay.width_m},
              {"opacity", underlay.opacity}};
    if (underlay.hidden) json["hidden"] = true;
    if (underlay.locked) json["locked"] = true;
    add_rest(json, underlay.extra);
    return json;
}

CharacterChanges read_changes(Reader& in, const std::string& who, const Json& json) {
    CharacterChanges changes;
    if (!json.is_object()) in.fail("characters", "metrics for " + who);
    if (json.is_object())
        for (const auto& [key, value] : json.items()) {
            const CharacterField* field = find_character_field(key);
            if (!field || !value.is_number()) {
                in.fail("characters", "known metrics with numbers; \"" + key + "\" is none");
                continue;
            }
            changes[key] = value.get<double>();
        }
    return changes;
}

/// Ids must be there once: edits and answers go by them.
std::optional<Error> doubled_id(const Level& level, const std::string& place) {
    std::set<std::string> seen;
    std::optional<Error> error;
    for_each_item(level, [&](const Item& item, const Layer&) {
        if (!seen.insert(item.id.value).second && !error)
            error =
                Error{"level.id", place,
                      "The id \"" + item.id.value + "\" is used by two items. Give one of them another id."};
    });
    return error;
}

std::optional<Error> bad_metrics(const Level& level, const std::string& place) {
    for (const auto& [who, changes] : level.characters) {
        Character c;
        for (const auto& [key, value] : changes) c.*find_character_field(key)->member = value;
        // Two metrics that depend on each other may be completed by the project's own; ranges may not.
        const CharacterField* field = find_character_field(problem_of(c));
        if (!field || !changes.contains(field->key)) continue;
        const double value = c.*field->member;
        if (value >= field->least && value <= field->most) continue;
        return Error{"level.metric", place + ", key /characters/" + who.value + "/" + field->key,
                     "Expected a value from " + Json(field->least).dump() + " to " +
                         Json(field->most).dump() + "."};
    }
    return {};
}

} // namespace

Result<Level> level_from_text(const std::string& text, const std::string& place) {
    const auto json = parse_json(text, place);
    if (!json) return tl::unexpected(json.error());
    Reader in(*json, place);
    if (!in.ok()) return tl::unexpected(in.error());
    const double format = in.number("format", 0);
    if (format > k_level_format)
        return fail("level.format", place,
                    "Made by a newer version of Rubble (format " + Json(format).dump() +
                        "). Update Rubble to open it.");
    if (format < 1) in.fail("format", "the number 1");
    Level level;
    level.name = in.text("name", "Level");
    level.frame = choice(in, "frame", k_frames, "space");
    level.walked = choice(in, "walked", k_walked, "freely");
    level.character = {in.text("character", "courier")};
    const Json& layers = in.list("layers");
    for (size_t i = 0; i < layers.size(); ++i) {
        auto layer = read_layer(layers[i], place, "/layers/" + std::to_string(i), level.frame);
        if (!layer) return tl::unexpected(layer.error());
        level.layers.push_back(std::move(*layer));
    }
    const Json& claims = in.list("claims");
    for (size_t i = 0; i < claims.size(); ++i) {
        auto claim = read_claim(claims[i], place, "/claims/" + std::to_string(i));
        if (!claim) return tl::unexpected(claim.error());
        level.claims.push_back(std::move(*claim));
    }
    const Json& excuses = in.list("excuses");
    for (size_t i = 0; i < excuses.size(); ++i) {
        auto excuse = read_excuse(excuses[i], place, "/excuses/" + std::to_string(i));
        if (!excuse) return tl::unexpected(excuse.error());
        level.excuses.push_back(std::move(*excuse));
    }
    const Json& dimensions = in.list("dimensions");
    for (size_t i = 0; i < dimensions.size(); ++i) {
        auto dimension = read_dimension(dimensions[i], place, "/dimensions/" + std::to_string(i));
        if (!dimension) return tl::unexpected(dimension.error());
        level.dimensions.push_back(std::move(*dimension));
    }
    const Json& underlays = in.list("underlays");
    for (size_t i = 0; i < underlays.size(); ++i) {
        auto underlay = read_underlay(underlays[i], place, "/underlays/" + std::to_string(i));
        if (!underlay) return tl::unexpected(underlay.error());
        level.underlays.push_back(std::move(*underlay));
    }
    const Json& links = in.list("links");
    for (size_t i = 0; i < links.size(); ++i) {
        Reader own(links[i], place, "/links/" + std::to_string(i));
        ItemLink made{{own.text("a")}, {own.text("b")}, -1, 0};
        if (own.has("mirror")) {
            made.mirror_axis = choice(own, "mirror", k_axes, "x");
            made.mirror_at_m = own.number("at_m", 0);
        }
        if (!own.ok()) return tl::unexpected(own.error());
        level.links.push_back(std::move(made));
    }
    level.about = in.text("about");
    for (const Json& also : in.list("also_proven")) {
        Reader own(also, place, in.path_of("also_proven"));
        level.also_proven.push_back({{own.text("character")}, own.text("rules")});
        if (!own.ok()) return tl::unexpected(own.error());
    }
    for (const auto& [who, changes] : in.object("characters").items())
        level.characters[{who}] = read_changes(in, who, changes);
    if (!in.ok()) return tl::unexpected(in.error());
    if (auto error = doubled_id(level, place)) return tl::unexpected(*error);
    if (auto error = bad_metrics(level, place)) return tl::unexpected(*error);
    level.extra = in.rest();
    return level;
}

std::string text_of(const Level& level) {
    Json json;
    json["format"] = k_level_format;
    json["name"] = level.name;
    json["frame"] = key_of(k_frames, level.frame);
    if (level.walked != Walked::freely) json["walked"] = key_of(k_walked, level.walked);
    json["character"] = level.character.value;
    if (!level.about.empty()) json["about"] = level.about;
    if (!level.also_proven.empty()) {
        json["also_proven"] = Json::array();
        for (const AlsoProven& also : level.also_proven) {
            Json one = Json::object();
            if (!also.character.empty()) one["character"] = also.character.value;
            if (!also.rules.empty()) one["rules"] = also.rules;
            json["also_proven"].push_back(std::move(one));
        }
    }
    if (!level.characters.empty()) {
        Json all = Json::object();
        for (const auto& [who, changes] : level.characters) all[who.value] = Json(changes);
        json["characters"] = all;
    }
    add_rest(json, level.extra);
    Json layers = Json::array();
    for (const auto& layer : level.layers) layers.push_back(layer_json(*layer, level.frame));
    json["layers"] = layers;
    Json claims = Json::array();
    for (const Claim& claim : level.claims) claims.push_back(claim_json(claim));
    json["claims"] = claims;
    if (!level.excuses.empty()) {
        json["excuses"] = Json::array();
        for (const Excuse& one : level.excuses) json["excuses"].push_back(excuse_json(one));
    }
    if (!level.dimensions.empty()) {
        json["dimensions"] = Json::array();
        for (const Dimension& one : level.dimensions)
            json["dimensions"].push_back(
                Json{{"id", one.id.value}, {"from", end_json(one.from)}, {"to", end_json(one.to)}});
    }
    if (!level.underlays.empty()) {
        json["underlays"] = Json::array();
        for (const Underlay& one : level.underlays) json["underlays"].push_back(underlay_json(one));
    }
    if (!level.links.empty()) {
        json["links"] = Json::array();
        for (const ItemLink& one : level.links) {
            Json own{{"a", one.a.value}, {"b", one.b.value}};
            if (one.mirror_axis >= 0)
                own["mirror"] = key_of(k_axes, one.mirror_axis), own["at_m"] = one.mirror_at_m;
            json["links"].push_back(std::move(own));
        }
    }
    return to_text(json);
}

Result<Level> load_level(const std::filesystem::path& path) {
    const auto text = read_file(path);
    if (!text) return tl::unexpected(text.error());
    return level_from_text(*text, path.string());
}

Result<void> save_level(const Level& level, const std::filesystem::path& path) {
    return write_file(path, text_of(level));
}

} // namespace rubble::io
