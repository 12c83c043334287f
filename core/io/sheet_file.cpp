#include "io/sheet_file.h"

#include <algorithm>
#include <cmath>
#include <set>

#include "io/format.h"
#include "io/names.h"
#include "io/picture_file.h"
#include "io/text_file.h"

namespace rubble::io {

namespace fs = std::filesystem;

namespace {

constexpr std::array k_collisions{Name<TileCollision>{"none", TileCollision::none},
                                  Name<TileCollision>{"full", TileCollision::full},
                                  Name<TileCollision>{"outline", TileCollision::outline},
                                  Name<TileCollision>{"one_way", TileCollision::one_way}};
constexpr std::array k_acts{Name<TileActs>{"nothing", TileActs::nothing},
                            Name<TileActs>{"deadly", TileActs::deadly}};
constexpr size_t k_most_corners = 256;
constexpr int k_largest_px = 65536;
constexpr const char* k_ending = ".sheet.json";

int whole(Reader& in, const std::string& key, double otherwise, int least, int most) {
    const double value = in.number(key, otherwise);
    if (value != std::floor(value) || value < least || value > most) {
        in.fail(key, "a whole number from " + std::to_string(least) + " to " + std::to_string(most));
        return least;
    }
    return int(value);
}

std::array<int, 2> two_whole(Reader& in, const std::string& key, int least, int most) {
    const auto pair = in.numbers(key, 2, {double(least), double(least)});
    std::array<int, 2> out{least, least};
    for (size_t i = 0; i < 2; ++i) {
        if (pair[i] != std::floor(pair[i]) || pair[i] < least || pair[i] > most)
            in.fail(key, "two whole numbers from " + std::to_string(least) + " to " + std::to_string(most));
        else
            out[i] = int(pair[i]);
    }
    return out;
}

std::vector<Vec2> read_outline(Reader& in, const Json& json) {
    std::vector<Vec2> out;
    bool sound = json.is_array() && json.size() <= k_most_corners;
    if (sound)
        for (const Json& corner : json) {
            sound = corner.is_array() && corner.size() == 2 && corner[0].is_number() && corner[1].is_number();
            if (!sound) break;
            out.push_back({corner[0].get<double>(), corner[1].get<double>()});
            sound = out.back().x >= 0 && out.back().x <= 1 && out.back().y >= 0 && out.back().y <= 1;
            if (!sound) break;
        }
    if (!sound || (!out.empty() && out.size() < 3)) {
        in.fail("outline", "three or more places of a cell, each two numbers from 0 to 1");
        return {};
    }
    return out;
}

/// Where a picture among unequal ones lies on its sheet.
std::optional<std::array<int, 4>> read_box(Reader& in) {
    const auto numbers = in.numbers("box_px", 4, {0, 0, 0, 0});
    std::array<int, 4> box{};
    for (size_t i = 0; i < 4; ++i) {
        const bool sound = numbers[i] == std::floor(numbers[i]) && numbers[i] >= (i < 2 ? 0 : 1) &&
                           numbers[i] <= k_largest_px;
        if (!sound) {
            in.fail("box_px", "left, top, width and height in whole pixels");
            return {};
        }
        box[i] = int(numbers[i]);
    }
    return box;
}

SheetTile read_tile(Reader& in, const Json& json) {
    SheetTile tile;
    tile.at = two_whole(in, "at", 0, k_largest_px);
    if (in.has("box_px")) tile.box_px = read_box(in);
    tile.name = in.text("name");
    tile.collision = choice(in, "collision", k_collisions, "none");
    if (in.has("outline")) tile.outline = read_outline(in, json["outline"]);
    if (tile.collision == TileCollision::outline && tile.outline.empty())
        in.fail("outline", "the places of its corners");
    tile.acts = choice(in, "acts", k_acts, "nothing");
    tile.extra = in.rest();
    tile.extra.erase("outline");
    return tile;
}

Json tile_json(const SheetTile& tile) {
    Json json;
    if (tile.box_px)
        json["box_px"] = *tile.box_px;
    else
        json["at"] = tile.at;
    if (!tile.name.empty()) json["name"] = tile.name;
    json["collision"] = key_of(k_collisions, tile.collision);
    if (!tile.outline.empty()) {
        Json outline = Json::array();
        for (Vec2 p : tile.outline) outline.push_back(Json{p.x, p.y});
        json["outline"] = outline;
    }
    if (tile.acts != TileActs::nothing) json["acts"] = key_of(k_acts, tile.acts);
    add_rest(json, tile.extra);
    return json;
}

std::optional<int> tile_number(const std::string& key) {
    if (key.empty() || key.size() > 9 || key.find_first_not_of("0123456789") != std::string::npos) return {};
    const int number = std::stoi(key);
    return number <= Tile::most ? std::optional(number) : std::nullopt;
}

/// A ground's tiles by what is around them: the sum of 1 right, 2 upper right, 4 above, 8 upper left, 16
/// left, 32 lower left, 64 below, 128 lower right.
Edging read_edging(Reader& in) {
    Edging edging;
    edging.name = in.text("name");
    for (const auto& [key, tile] : in.object("tiles").items()) {
        const auto around = tile_number(key);
        const bool number = tile.is_number_integer() && tile >= 0 && tile <= Tile::most;
        if (!around || *around > 255 || !number) {
            in.fail("tiles", "numbers of tiles under what is around them, from 0 to 255");
            break;
        }
        edging.tiles[GroundAround(uint8_t(*around))] = tile.get<int>();
    }
    return edging;
}

Json edging_json(const Edging& edging) {
    Json tiles = Json::object();
    for (const auto& [around, number] : edging.tiles) tiles[std::to_string(around.bits())] = number;
    return Json{{"name", edging.name}, {"tiles", tiles}};
}

} // namespace

Result<TileSheet> sheet_from_text(const std::string& text, const std::string& place) {
    const auto json = parse_json(text, place);
    if (!json) return tl::unexpected(json.error());
    Reader in(*json, place);
    if (!in.ok()) return tl::unexpected(in.error());
    if (const auto newer = newer_format(in, k_sheet_format, "sheet.format")) return tl::unexpected(*newer);
    TileSheet sheet;
    sheet.image = in.text("image");
    sheet.cut.cell_px = two_whole(in, "cell_px", 1, k_largest_px);
    sheet.cut.margin_px = whole(in, "margin_px", 0, 0, k_largest_px);
    sheet.cut.spacing_px = whole(in, "spacing_px", 0, 0, k_largest_px);
    for (const auto& [key, own] : in.object("tiles").items()) {
        const auto number = tile_number(key);
        if (!number) {
            in.fail("tiles", "numbers of tiles as keys; \"" + key + "\" is none");
            break;
        }
        Reader tile(own, place, in.path_of("tiles") + "/" + key);
        if (!tile.ok()) continue;
        SheetTile& read = sheet.tiles[*number] = read_tile(tile, own);
        if (read.box_px) read.at = {*number, 0};
        if (!tile.ok()) return tl::unexpected(tile.error());
    }
    const Json& edgings = in.list("edgings");
    for (size_t i = 0; i < edgings.size(); ++i) {
        Reader own(edgings[i], place, in.path_of("edgings") + "/" + std::to_string(i));
        if (own.ok()) sheet.edgings.push_back(read_edging(own));
        if (!own.ok()) return tl::unexpected(own.error());
    }
    if (!in.ok()) return tl::unexpected(in.error());
    sheet.extra = in.rest();
    return sheet;
}

std::string text_of(const TileSheet& sheet) {
    Json json;
    json["format"] = k_sheet_format;
    json["image"] = sheet.image;
    json["cell_px"] = sheet.cut.cell_px;
    json["margin_px"] = sheet.cut.margin_px;
    json["spacing_px"] = sheet.cut.spacing_px;
    add_rest(json, sheet.extra);
    Json tiles = Json::object();
    for (const auto& [number, tile] : sheet.tiles) tiles[std::to_string(number)] = tile_json(tile);
    json["tiles"] = tiles;
    if (!sheet.edgings.empty()) json["edgings"] = Json::array();
    for (const Edging& edging : sheet.edgings) json["edgings"].push_back(edging_json(edging));
    return to_text(json);
}

fs::path picture_path(const TileSheet& sheet, const fs::path& folder) {
    return (folder / sheet.file).parent_path() / sheet.image;
}

Result<TileSheet> load_sheet(const fs::path& folder, const std::string& file, std::vector<Error>& remarks) {
    const fs::path path = folder / file;
    const auto text = read_file(path);
    if (!text) return tl::unexpected(text.error());
    auto sheet = sheet_from_text(*text, path.string());
    if (!sheet) return sheet;
    sheet->file = file;
    if (sheet->image.empty()) return sheet;
    if (auto picture = load_picture(picture_path(*sheet, folder)))
        sheet->picture = std::make_shared<const Picture>(std::move(*picture));
    else
        remarks.push_back(picture.error());
    return sheet;
}

Result<void> save_sheet(const TileSheet& sheet, const fs::path& folder) {
    std::error_code error;
    fs::create_directories((folder / sheet.file).parent_path(), error);
    return write_file(folder / sheet.file, text_of(sheet));
}

std::vector<std::string> sheet_files(const fs::path& folder) {
    std::vector<std::string> out;
    std::error_code error;
    for (const auto& entry : fs::directory_iterator(folder / "sheets", error))
        if (entry.path().string().ends_with(k_ending))
            out.push_back("sheets/" + entry.path().filename().string());
    std::sort(out.begin(), out.end());
    return out;
}

} // namespace rubble::io
