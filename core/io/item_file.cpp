#include "io/item_file.h"

#include <array>
#include <cmath>

#include "io/assembly_file.h"
#include "io/brush_file.h"
#include "io/kit_file.h"
#include "io/names.h"
#include "io/tile_file.h"

namespace rubble::io {

namespace {

/// Where an item stands in its file, and how many hold it.
struct At {
    const std::string& place;
    int depth;
    Frame frame;
};

Result<Item> read_item(const Json& json, const std::string& path, const At& at);

// How each kind is read, from the keys of its item. What is wrong with them is told to the reader.

Result<Item::Body> read_brush_body(Reader& in, const At& at) { return read_brush(in, at.frame); }

Result<Item::Body> read_element(Reader& in, const At&) {
    Element element;
    element.kind = in.text("kind");
    if (element.kind.empty()) in.fail("kind", "the kind of element, such as start or goal");
    element.at = point(in, "at", Vec3(0));
    if (!problem_of(element).empty()) in.fail("at", "a place within 10000 m");
    element.facing_deg = in.number("facing_deg", 0);
    for (const auto& [key, value] : in.object("values").items()) element.values[key] = value.dump();
    return element;
}

Result<Item::Body> read_group(Reader& in, const At& at) {
    Group group;
    if (at.depth >= deepest_group)
        in.fail("items", "groups nested at most " + std::to_string(deepest_group) + " deep");
    const Json& members = in.list("items");
    for (size_t i = 0; i < members.size() && in.ok(); ++i) {
        auto member = read_item(members[i], in.path_of("items") + "/" + std::to_string(i),
                                {at.place, at.depth + 1, at.frame});
        if (!member) return tl::unexpected(member.error());
        group.items.push_back(std::move(*member));
    }
    return group;
}

Result<Item::Body> read_picture(Reader& in, const At&) {
    PlacedPicture picture;
    picture.sheet_file = in.text("sheet");
    const double number = in.number("number", 0);
    if (!(number >= 0 && number <= Tile::most) || number != std::floor(number))
        in.fail("number", "the number of a tile of its sheet");
    else
        picture.number = int(number);
    picture.at = point(in, "at", Vec3(0));
    const auto size = in.numbers("size", 2, {1, 1});
    picture.size = {size[0], size[1]};
    if (const std::string key = problem_of(picture); !key.empty())
        in.fail(key, key == "at" ? "a place within 10000 m" : "a width and height from 0.01 to 10000");
    picture.upright = in.flag("upright", true);
    picture.turn_deg = in.number("turn_deg", 0);
    picture.mirrored = in.flag("mirrored", false), picture.solid = in.flag("solid", false);
    picture.repeats_right = in.flag("repeats_right", false);
    picture.repeats_up = in.flag("repeats_up", false);
    picture.opacity = in.number("opacity", 1);
    if (!(picture.opacity >= 0 && picture.opacity <= 1)) in.fail("opacity", "a number from 0 to 1");
    const auto parallax = in.numbers("parallax", 2, {1, 1});
    picture.parallax = {parallax[0], parallax[1]};
    return picture;
}

Result<Item::Body> read_piece(Reader& in, const At& at) {
    PlacedPiece placed;
    placed.kit_file = in.text("kit");
    placed.piece_id = in.text("piece");
    if (placed.kit_file.empty()) in.fail("kit", "the file of a kit");
    placed.place.at = point(in, "at", Vec3(0));
    placed.place = read_turn(in, placed.place, at.frame);
    placed.mirrored = in.flag("mirrored", false);
    placed.sized = in.number("sized", 1);
    if (!(placed.sized >= least_sized && placed.sized <= most_sized))
        in.fail("sized", "a number from 0.05 to 20");
    if (in.has("collision")) placed.collision = choice(in, "collision", k_piece_collisions, "faces");
    for (const auto& [key, value] : in.object("values").items()) placed.values[key] = value.dump();
    if (!problem_of(placed).empty()) in.fail("at", "a place within 10000 m");
    return placed;
}

Result<Item::Body> read_assembly(Reader& in, const At& at) {
    PlacedAssembly placed;
    placed.source = in.text("source");
    if (placed.source.empty()) in.fail("source", "the file of an assembly");
    placed.place.at = point(in, "at", Vec3(0));
    placed.place = read_turn(in, placed.place, at.frame);
    placed.mirrored = in.flag("mirrored", false);
    placed.own = read_own(in, "own");
    const Json& one_of = in.list("one_of");
    for (size_t i = 0; i < one_of.size() && in.ok(); ++i) {
        Reader one(one_of[i], in.place(), in.path_of("one_of") + "/" + std::to_string(i));
        placed.one_of.push_back({one.text("source"), one.number("weight", 1)});
        if (placed.one_of.back().source.empty()) one.fail("source", "the file of an assembly");
        if (!(placed.one_of.back().weight > 0 && placed.one_of.back().weight <= 1e6))
            one.fail("weight", "a number above 0, up to 1000000");
        in.take_error(one);
    }
    for (const auto& [key, value] : in.object("values").items()) placed.values[key] = value.dump();
    if (!problem_of(placed).empty()) in.fail("at", "a place within 10000 m");
    return placed;
}

Result<Item::Body> read_block(Reader& in, const At&) {
    PlacedTiles block;
    block.tiles = read_tiles(in);
    block.layer = {in.text("layer")};
    block.upright = in.flag("upright", true);
    if (in.ok() && !problem_of(block).empty()) in.fail("origin", "a place within 10000 m");
    return block;
}

using Read = Result<Item::Body> (*)(Reader&, const At&);
/// By the key of the kind.
const std::array k_kinds{
    Name<Read>{type_key(Brush{}), read_brush_body},  Name<Read>{type_key(Element{}), read_element},
    Name<Read>{type_key(Group{}), read_group},       Name<Read>{type_key(PlacedPicture{}), read_picture},
    Name<Read>{type_key(PlacedPiece{}), read_piece}, Name<Read>{type_key(PlacedAssembly{}), read_assembly},
    Name<Read>{type_key(PlacedTiles{}), read_block}};
static_assert(std::tuple_size_v<decltype(k_kinds)> == std::variant_size_v<Item::Body>);

Result<Item> read_item(const Json& json, const std::string& path, const At& at) {
    Reader in(json, at.place, path);
    Item item;
    item.id = {in.text("id")};
    if (item.id.empty()) in.fail("id", "an id");
    const Read read = choice(in, "type", k_kinds, "");
    item.name = in.text("name");
    item.hidden = in.flag("hidden", false);
    if (!in.ok()) return tl::unexpected(in.error());
    auto body = read(in, at);
    if (!body) return tl::unexpected(body.error());
    item.body = std::move(*body);
    if (!in.ok()) return tl::unexpected(in.error());
    item.extra = in.rest();
    return item;
}

// How each kind is written: its keys put after those that `json` has, and its members, which come last.

Json with_keys(const Brush& brush, Json json, Frame frame) {
    return brush_json(brush, std::move(json), frame);
}

Json with_keys(const Element& element, Json json, Frame) {
    json["kind"] = element.kind;
    json["at"] = to_json(element.at);
    json["facing_deg"] = element.facing_deg;
    if (!element.values.empty()) {
        Json values = Json::object();
        add_rest(values, element.values);
        json["values"] = values;
    }
    return json;
}

Json with_keys(const PlacedPicture& picture, Json json, Frame) {
    json["sheet"] = picture.sheet_file, json["number"] = picture.number;
    json["at"] = to_json(picture.at);
    json["size"] = Json{picture.size.x, picture.size.y};
    if (!picture.upright) json["upright"] = false;
    if (picture.turn_deg != 0) json["turn_deg"] = picture.turn_deg;
    for (const auto& [key, value] : {std::pair{"mirrored", picture.mirrored},
                                     {"solid", picture.solid},
                                     {"repeats_right", picture.repeats_right},
                                     {"repeats_up", picture.repeats_up}})
        if (value) json[key] = true;
    if (picture.opacity != 1) json["opacity"] = picture.opacity;
    if (picture.parallax != Vec2(1)) json["parallax"] = Json{picture.parallax.x, picture.parallax.y};
    return json;
}

Json with_keys(const PlacedPiece& placed, Json json, Frame frame) {
    json["kit"] = placed.kit_file, json["piece"] = placed.piece_id;
    json["at"] = to_json(placed.place.at);
    put_turn(json, placed.place, frame);
    json["mirrored"] = placed.mirrored;
    if (placed.sized != 1) json["sized"] = placed.sized;
    if (placed.collision) json["collision"] = key_of(k_piece_collisions, *placed.collision);
    if (!placed.values.empty()) {
        Json values = Json::object();
        add_rest(values, placed.values);
        json["values"] = values;
    }
    return json;
}

Json with_keys(const PlacedAssembly& placed, Json json, Frame frame) {
    json["source"] = placed.source;
    json["at"] = to_json(placed.place.at);
    put_turn(json, placed.place, frame);
    json["mirrored"] = placed.mirrored;
    if (!placed.own.empty()) json["own"] = own_json(placed.own);
    for (const Alternative& alternative : placed.one_of)
        json["one_of"].push_back({{"source", alternative.source}, {"weight", alternative.weight}});
    if (!placed.values.empty()) {
        Json values = Json::object();
        add_rest(values, placed.values);
        json["values"] = values;
    }
    return json;
}

Json with_keys(const PlacedTiles& block, Json json, Frame) {
    if (!block.layer.empty()) json["layer"] = block.layer.value;
    if (!block.upright) json["upright"] = false;
    return tiles_json(block.tiles, block.plane(), std::move(json));
}

Json with_keys(const Group&, Json json, Frame) { return json; }

} // namespace

Json to_json(const Item& item, Frame frame) {
    Json json;
    json["id"] = item.id.value;
    json["type"] = type_key(item);
    if (!item.name.empty()) json["name"] = item.name;
    if (item.hidden) json["hidden"] = true;
    json = std::visit([&](const auto& kind) { return with_keys(kind, std::move(json), frame); }, item.body);
    add_rest(json, item.extra);
    if (const ItemList* members = members_of(item); members && !item.assembly()) {
        Json list = Json::array();
        for (const ItemPtr& member : *members) list.push_back(to_json(*member, frame));
        json["items"] = list;
    }
    return json;
}

Json items_json(const ItemList& items) {
    Json out = Json::array();
    for (const ItemPtr& item : items) out.push_back(to_json(*item));
    return out;
}

Result<Item> item_from_json(const Json& json, const std::string& place, const std::string& path,
                            Frame frame) {
    return read_item(json, path, {place, 0, frame});
}

} // namespace rubble::io
