#include "io/tile_export.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <optional>

#include "build/tile_outlines.h"
#include "io/json_text.h"
#include "io/picture_file.h"
#include "io/text_file.h"
#include "io/tile_csv.h"
#include "level/order.h"
#include "level/tiles/laid_tiles.h"

namespace rubble::io {

namespace fs = std::filesystem;

namespace {

struct NamedTiles {
    const Layer* layer;
    const TileLayer* tiles;
};

/// The layers of tiles, those behind first.
std::vector<NamedTiles> layers_of(const Level& level) {
    std::vector<NamedTiles> out;
    for (const auto& layer : level.layers)
        if (layer->tiles) out.push_back({layer.get(), layer->tiles->get()});
    std::stable_sort(out.begin(), out.end(), [](const NamedTiles& a, const NamedTiles& b) {
        return a.tiles->depth > b.tiles->depth;
    });
    return out;
}

/// A name for a file beside another: letters, digits, - and _ of what is given, all else as -.
fs::path beside(const fs::path& path, const std::string& what, const std::string& ending) {
    std::string name = what;
    for (char& c : name)
        if (!std::isalnum(static_cast<unsigned char>(c)) && c != '-' && c != '_') c = '-';
    fs::path out = path;
    out.replace_filename(path.stem().string() + "." + name + ending);
    return out;
}

std::string quoted(const std::string& text) {
    std::string out = "\"";
    for (const char c : text) out += c == '"' ? std::string("\"\"") : std::string(1, c);
    return out + "\"";
}

std::string elements_csv(const Level& level) {
    std::string out = "id,name,kind,x,y,z,facing_deg,values\n";
    for (const Item* item : elements_of(level)) {
        const Element& e = *item->element();
        out += quoted(item->id.value) + "," + quoted(item->name) + "," + quoted(e.kind);
        for (const double v : {e.at.x, e.at.y, e.at.z, e.facing_deg}) out += "," + Json(v).dump();
        Json values = Json::object();
        add_rest(values, e.values);
        out += "," + (values.empty() ? std::string() : quoted(values.dump()));
        out += "\n";
    }
    return out;
}

/// A pixel over another, both with their opacity (Porter and Duff 1984).
void lay_over(uint8_t* to, const uint8_t* from, double opacity) {
    const double a = from[3] / 255.0 * opacity, below = to[3] / 255.0, sum = a + below * (1 - a);
    if (sum <= 0) return;
    for (size_t i = 0; i < 3; ++i)
        to[i] = uint8_t(std::lround((from[i] * a + to[i] * below * (1 - a)) / sum));
    to[3] = uint8_t(std::lround(sum * 255));
}

/// Draws a tile of a sheet over a picture, its pixels multiplied; without one, a grey cell.
void draw(Picture& onto, int left, int top, int px, const TileSheet* sheet, Tile tile, double opacity) {
    const SheetTile* own = sheet ? sheet->tile(tile.number()) : nullptr;
    const bool pictured = own && sheet->picture;
    const auto place = pictured ? pixels_of(*sheet, *own) : std::array{0, 0, 1, 1};
    for (int y = 0; y < px; ++y)
        for (int x = 0; x < px; ++x) {
            const int tx = left + x, ty = top + y;
            if (tx < 0 || ty < 0 || tx >= onto.width || ty >= onto.height) continue;
            std::array<uint8_t, 4> from{0xBD, 0xB6, 0xA9, 255};
            if (pictured) {
                // Back from the cell to the sheet: turns undone first, then the mirror.
                Vec2 p((x + 0.5) / px, 1 - (y + 0.5) / px);
                for (int i = 0; i < tile.turns(); ++i) p = {p.y, 1 - p.x};
                if (tile.mirrored()) p.x = 1 - p.x;
                const int sx = place[0] + std::min(int(p.x * place[2]), place[2] - 1),
                          sy = place[1] + std::min(int((1 - p.y) * place[3]), place[3] - 1);
                if (sx >= sheet->picture->width || sy >= sheet->picture->height) continue;
                const uint8_t* pixel =
                    &sheet->picture->rgba[(size_t(sy) * size_t(sheet->picture->width) + size_t(sx)) * 4];
                for (size_t i = 0; i < 4; ++i) from[i] = pixel[i];
            }
            lay_over(&onto.rgba[(size_t(ty) * size_t(onto.width) + size_t(tx)) * 4], from.data(), opacity);
        }
}

constexpr int64_t k_most_pixels_out = int64_t(1) << 28;

/// A picture of some part of the plane, `per_m` pixels a metre.
Result<Picture> blank(const Box3& box, Frame frame, double per_m, const fs::path& path) {
    const FrameLayout layout = layout_of(frame);
    Picture out;
    const double w = (box.high[layout.right] - box.low[layout.right]) * per_m,
                 h = (box.high[layout.ahead] - box.low[layout.ahead]) * per_m;
    if (!(w * h <= double(k_most_pixels_out)))
        return fail("export.picture", path.string(),
                    "The picture would be too large for memory. Export a part.");
    out.width = std::max(1, int(std::lround(w))), out.height = std::max(1, int(std::lround(h)));
    out.rgba.assign(size_t(out.width) * size_t(out.height) * 4, 0);
    return out;
}

double pixels_per_m(const Project& project, const std::vector<NamedTiles>& layers) {
    double most = 0;
    for (const NamedTiles& one : layers)
        if (one.tiles->sheet) most = std::max(most, one.tiles->sheet->cut.cell_px[0] / one.tiles->cell_m);
    return most > 0 ? most : project.pixels_per_m;
}

void draw_layer(Picture& onto, const TileLayer& layer, const Box3& box, Frame frame, double per_m) {
    const FrameLayout layout = layout_of(frame);
    const int px = std::max(1, int(std::lround(layer.cell_m * per_m)));
    layer.grid.for_each_tile(layer.grid.area(), [&](CellAt at, Tile tile) {
        const Vec3 corner = place_of(layer, frame, at, {0, 1});
        draw(onto, int(std::lround((corner[layout.right] - box.low[layout.right]) * per_m)),
             int(std::lround((box.high[layout.ahead] - corner[layout.ahead]) * per_m)), px, layer.sheet.get(),
             tile, layer.opacity);
    });
}

/// What of a picture lies at a place of the level, between 0 and 1 each way; repeated ones lie everywhere
/// along.
std::optional<Vec2> part_of(const PlacedPicture& picture, const Vec3& place) {
    Vec3 part = part_at(picture, place).value_or(Vec3(-1));
    if (picture.repeats_right) part.x -= std::floor(part.x);
    if (picture.repeats_up) part.y -= std::floor(part.y);
    if (part.x < 0 || part.x >= 1 || part.y < 0 || part.y >= 1) return {};
    return Vec2(picture.mirrored ? 1 - part.x : part.x, part.y);
}

void draw_picture(Picture& onto, const PlacedPicture& picture, const Box3& box, Frame frame, double per_m) {
    const SheetTile* tile = picture.sheet ? picture.sheet->tile(picture.number) : nullptr;
    if (!tile || !picture.sheet->picture) return;
    const Picture& from = *picture.sheet->picture;
    const auto [left, top, width, height] = pixels_of(*picture.sheet, *tile);
    const FrameLayout layout = layout_of(frame);
    for (int y = 0; y < onto.height; ++y)
        for (int x = 0; x < onto.width; ++x) {
            Vec3 place = picture.at;
            place[layout.right] = box.low[layout.right] + (x + 0.5) / per_m;
            place[layout.ahead] = box.high[layout.ahead] - (y + 0.5) / per_m;
            const auto part = part_of(picture, place);
            if (!part) continue;
            const int sx = left + std::min(int(part->x * width), width - 1),
                      sy = top + std::min(int((1 - part->y) * height), height - 1);
            if (sx >= from.width || sy >= from.height) continue;
            lay_over(&onto.rgba[(size_t(y) * size_t(onto.width) + size_t(x)) * 4],
                     &from.rgba[(size_t(sy) * size_t(from.width) + size_t(sx)) * 4], picture.opacity);
        }
}

/// The pictures that lie in the frame's plane and are not hidden, with their depths.
std::vector<std::pair<double, const PlacedPicture*>> pictures_of(const Level& level) {
    std::vector<std::pair<double, const PlacedPicture*>> out;
    for_each_item(level, [&](const Item& item, const Layer& layer) {
        const PlacedPicture* picture = item.picture();
        if (!picture || item.hidden || layer.hidden || picture->upright != (level.frame == Frame::side))
            return;
        out.push_back({picture->upright ? picture->at.y : -picture->at.z, picture});
    });
    return out;
}

std::string number(double v) { return Json(std::round(v * 1e6) / 1e6).dump(); }

} // namespace

const char* key_of(build::TileMatterKind kind) {
    switch (kind) {
    case build::TileMatterKind::one_way:
        return "one_way";
    case build::TileMatterKind::deadly:
        return "deadly";
    case build::TileMatterKind::solid:
        break;
    }
    return "solid";
}

std::vector<TileMatter> tile_matter_of(const Level& level) {
    std::map<std::pair<ItemId, build::TileMatterKind>, TileMatter> matter;
    for (const auto& strip : build::TileMatterBuilder().build(level)) {
        const ItemId source = strip->item.empty() ? ItemId{strip->layer.value} : strip->item;
        TileMatter& own = matter[{source, strip->kind}];
        own.kind = strip->kind, own.source = source;
        own.prisms.insert(own.prisms.end(), strip->prisms.begin(), strip->prisms.end());
    }
    std::vector<TileMatter> out;
    for (auto& [key, own] : matter) {
        own.outlines = build::outlines_of(own.prisms);
        own.name = own.source.value;
        for (const auto& layer : level.layers)
            if (layer->id.value == own.source.value) own.name = layer->name;
        if (const Item* item = find_item(level, own.source)) own.name = item->title();
        out.push_back(std::move(own));
    }
    return out;
}

Result<void> export_csv(const Project&, const Level& with_blocks, const fs::path& path) {
    const Level level = with_tiles_laid(with_blocks);
    const std::vector<NamedTiles> layers = layers_of(level);
    if (layers.empty()) return write_file(path, elements_csv(level));
    const NamedTiles* first = &layers[0];
    for (const NamedTiles& one : layers)
        if (one.tiles->solid && !first->tiles->solid) first = &one;
    for (const NamedTiles& one : layers) {
        const bool named = &one == first;
        if (auto written =
                write_file(named ? path : beside(path, one.layer->id.value, ".csv"), csv_of(one.tiles->grid));
            !written)
            return written;
        if (!one.tiles->solid) continue;
        if (auto written =
                write_file(beside(path, one.layer->id.value, ".collision.csv"), collision_csv_of(*one.tiles));
            !written)
            return written;
    }
    return write_file(beside(path, "elements", ".csv"), elements_csv(level));
}

Result<void> export_png(const Project& project, const Level& with_blocks, const fs::path& path) {
    const Level level = with_tiles_laid(with_blocks);
    const std::vector<NamedTiles> layers = layers_of(level);
    if (layers.empty())
        return fail("export.tiles", path.string(), "The level has no tiles to draw. Export a model instead.");
    Box3 box;
    for (const NamedTiles& one : layers) box.add(box_of(*one.tiles, level.frame, one.tiles->grid.area()));
    if (box.empty()) return fail("export.tiles", path.string(), "No layer of the level has a tile yet.");
    const double per_m = pixels_per_m(project, layers);
    auto all = blank(box, level.frame, per_m, path);
    if (!all) return tl::unexpected(all.error());
    // Pictures among the layers by their depths; those of a layer's own depth lie before it.
    auto pictures = pictures_of(level);
    std::stable_sort(pictures.begin(), pictures.end(),
                     [](const auto& a, const auto& b) { return a.first > b.first; });
    size_t drawn = 0;
    const auto draw_pictures_behind = [&](double depth) {
        for (; drawn < pictures.size() && pictures[drawn].first > depth; ++drawn)
            draw_picture(*all, *pictures[drawn].second, box, level.frame, per_m);
    };
    for (const NamedTiles& one : layers) {
        draw_pictures_behind(one.tiles->depth);
        auto alone = blank(box, level.frame, per_m, path);
        if (!alone) return tl::unexpected(alone.error());
        draw_layer(*alone, *one.tiles, box, level.frame, per_m);
        if (auto written = save_picture(*alone, beside(path, one.layer->id.value, ".png")); !written)
            return written;
        if (!one.layer->hidden) draw_layer(*all, *one.tiles, box, level.frame, per_m);
    }
    draw_pictures_behind(-std::numeric_limits<double>::infinity());
    return save_picture(*all, path);
}

Result<void> export_outlines(const Project&, const Level& with_blocks, const fs::path& path) {
    const Level level = with_tiles_laid(with_blocks);
    Json json;
    json["level"] = level.name;
    json["frame"] = level.frame == Frame::plan ? "plan" : "side";
    Json outlines = Json::array();
    for (const TileMatter& own : tile_matter_of(level))
        for (const auto& line : own.outlines) {
            Json points = Json::array();
            for (Vec2 p : line)
                points.push_back(Json{std::round(p.x * 1e6) / 1e6, std::round(p.y * 1e6) / 1e6});
            outlines.push_back(
                Json{{"layer", own.source.value}, {"kind", key_of(own.kind)}, {"points", points}});
        }
    json["outlines"] = std::move(outlines);
    return write_file(path, to_text(json));
}

Result<void> export_svg(const Project&, const Level& with_blocks, const fs::path& path) {
    const Level level = with_tiles_laid(with_blocks);
    const FrameLayout layout = layout_of(level.frame);
    const Box3 box = box_of(level);
    if (box.empty()) return fail("export.tiles", path.string(), "There is nothing in the level to draw.");
    const double left = box.low[layout.right] - 1, top = box.high[layout.ahead] + 1,
                 wide = box.high[layout.right] + 1 - left, high = top - box.low[layout.ahead] + 1;
    std::string out = "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"" + number(wide * 16) +
                      "\" height=\"" + number(high * 16) + "\" viewBox=\"0 0 " + number(wide) + " " +
                      number(high) + "\">\n";
    const auto place = [&](Vec2 p) { return number(p.x - left) + " " + number(top - p.y); };
    for (const TileMatter& own : tile_matter_of(level)) {
        const char* fill = own.kind == build::TileMatterKind::deadly    ? "#B5532D"
                           : own.kind == build::TileMatterKind::one_way ? "#5B7C99"
                                                                        : "#BDB6A9";
        out += "  <path fill-rule=\"nonzero\" fill=\"" + std::string(fill) +
               "\" stroke=\"#2A2723\" stroke-width=\"0.05\" d=\"";
        for (const auto& line : own.outlines) {
            for (size_t i = 0; i < line.size(); ++i) out += (i == 0 ? "M" : "L") + place(line[i]) + " ";
            out += "Z ";
        }
        out += "\"><title>" + std::string(key_of(own.kind)) + "</title></path>\n";
    }
    for (const Item* item : elements_of(level)) {
        const Vec3& at = item->element()->at;
        const Vec2 p(at[layout.right], at[layout.ahead]);
        out += "  <circle r=\"0.2\" fill=\"#1F8A7D\" cx=\"" + number(p.x - left) + "\" cy=\"" +
               number(top - p.y) + "\"/>\n";
    }
    return write_file(path, out + "</svg>\n");
}

} // namespace rubble::io
