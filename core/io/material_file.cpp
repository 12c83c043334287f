#include "io/material_file.h"

#include <array>
#include <cmath>
#include <cstdio>

#include "io/names.h"
#include "io/text_file.h"

namespace rubble::io {

namespace fs = std::filesystem;

namespace {

std::string color_text(const std::array<uint8_t, 3>& color) {
    char text[16];
    std::snprintf(text, sizeof text, "#%02X%02X%02X", color[0], color[1], color[2]);
    return text;
}

std::array<uint8_t, 3> read_color(Reader& in, const std::string& key) {
    const std::string text = in.text(key, "#BDB6A9");
    unsigned r = 0, g = 0, b = 0;
    const bool digits = text.size() == 7 && text[0] == '#' &&
                        text.find_first_not_of("0123456789abcdefABCDEF", 1) == std::string::npos;
    if (!digits || std::sscanf(text.c_str(), "#%2x%2x%2x", &r, &g, &b) != 3)
        in.fail(key, "a colour such as #BDB6A9");
    return {uint8_t(r), uint8_t(g), uint8_t(b)};
}

constexpr std::array k_material_kinds{Name<MaterialKind>{"pattern", MaterialKind::pattern},
                                      Name<MaterialKind>{"prints", MaterialKind::prints}};
constexpr std::array k_lays{Name<LayKind>{"level", LayKind::level}, Name<LayKind>{"brush", LayKind::brush},
                            Name<LayKind>{"edge", LayKind::edge}, Name<LayKind>{"fitted", LayKind::fitted}};

constexpr std::array k_picture_roles{
    Name<PictureRole>{"color", PictureRole::color}, Name<PictureRole>{"normal", PictureRole::normal},
    Name<PictureRole>{"roughness", PictureRole::roughness}, Name<PictureRole>{"metal", PictureRole::metal},
    Name<PictureRole>{"glow", PictureRole::glow}};

constexpr double k_least_metres = 1e-3, k_most_metres = 1e4;

/// Two sizes in metres.
Vec2 read_metres(Reader& in, const Vec2& usual) {
    const auto metres = in.numbers("metres", 2, {usual.x, usual.y});
    for (const double size : metres)
        if (!(size >= k_least_metres && size <= k_most_metres)) {
            in.fail("metres", "two sizes from 0.001 to 10000 m");
            return usual;
        }
    return {metres[0], metres[1]};
}

bool is_within(const fs::path& file) {
    if (file.is_absolute()) return false;
    for (const fs::path& part : file)
        if (part == "..") return false;
    return true;
}

} // namespace

Material read_material(Reader& in) {
    Material material;
    material.id = {in.text("id")};
    if (material.id.empty()) in.fail("id", "an id");
    material.name = in.text("name", material.id.value);
    material.kind = choice(in, "kind", k_material_kinds, "pattern");
    material.color = read_color(in, "color");
    material.roughness = in.number("roughness", 0.9);
    if (!(material.roughness >= 0 && material.roughness <= 1)) in.fail("roughness", "a number from 0 to 1");
    material.metal = in.number("metal", 0);
    if (!(material.metal >= 0 && material.metal <= 1)) in.fail("metal", "a number from 0 to 1");
    if (in.has("pictures")) {
        const Json& pictures = in.object("pictures");
        for (const auto& role : k_picture_roles) {
            if (!pictures.contains(role.key)) continue;
            const Json& file = pictures[role.key];
            if (file.is_string() && is_within(file.get<std::string>()))
                material.pictures[role.value] = file.get<std::string>();
            else
                in.fail("pictures", "files within the project's folder");
        }
    }
    material.metres = read_metres(in, material.metres);
    if (in.has("prints")) {
        const Json& prints = in.object("prints");
        for (const auto& [name, region] : prints.items()) {
            bool good = region.is_array() && region.size() == 4;
            for (const Json& value : region)
                good = good && value.is_number_integer() && value >= 0 && value < 1 << 24;
            if (good)
                material.prints[name] = {region[0], region[1], region[2], region[3]};
            else
                in.fail("prints", "regions of four whole numbers: x, y, width and height in pixels");
        }
    }
    material.extra = in.rest();
    return material;
}

Json material_json(const Material& material) {
    Json json;
    json["id"] = material.id.value;
    json["name"] = material.name;
    if (material.kind != MaterialKind::pattern) json["kind"] = key_of(k_material_kinds, material.kind);
    json["color"] = color_text(material.color);
    json["roughness"] = material.roughness;
    if (material.metal != 0) json["metal"] = material.metal;
    for (const auto& [role, file] : material.pictures) json["pictures"][key_of(k_picture_roles, role)] = file;
    if (!material.pictures.empty()) json["metres"] = Json{material.metres.x, material.metres.y};
    for (const auto& [name, region] : material.prints)
        json["prints"][name] = Json{region.x, region.y, region.width, region.height};
    add_rest(json, material.extra);
    return json;
}

Look read_look(Reader& in) {
    Look look;
    look.material = {in.text("material", "")};
    Lay& lay = look.lay;
    lay.kind = choice(in, "lay", k_lays, "level");
    if (in.has("metres")) lay.metres = read_metres(in, {1, 1});
    lay.turn_deg = in.number("turn_deg", 0);
    if (!(std::abs(lay.turn_deg) <= 1e6)) in.fail("turn_deg", "an angle");
    const auto shift = in.numbers("shift", 2, {0, 0});
    lay.shift = {shift[0], shift[1]};
    if (!(std::abs(lay.shift.x) <= 1e6 && std::abs(lay.shift.y) <= 1e6)) in.fail("shift", "two lengths");
    lay.mirrored = in.flag("mirrored", false);
    lay.print = in.text("print", "");
    return look;
}

Json look_json(const Look& look) {
    const Lay& lay = look.lay;
    Json json;
    json["material"] = look.material.value;
    if (lay.kind != LayKind::level) json["lay"] = key_of(k_lays, lay.kind);
    if (lay.metres) json["metres"] = Json{lay.metres->x, lay.metres->y};
    if (lay.turn_deg != 0) json["turn_deg"] = lay.turn_deg;
    if (lay.shift != Vec2(0)) json["shift"] = Json{lay.shift.x, lay.shift.y};
    if (lay.mirrored) json["mirrored"] = true;
    if (!lay.print.empty()) json["print"] = lay.print;
    return json;
}

Result<PictureBytes> load_picture_bytes(const fs::path& path) {
    const auto bytes = read_file(path);
    if (!bytes) return tl::unexpected(bytes.error());
    PictureBytes out{path.filename().string(), picture_mime(*bytes), *bytes};
    if (out.mime.empty() || !picture_size(out.bytes))
        return fail("material.picture", path.string(), "It is neither a PNG nor a JPEG picture.");
    return out;
}

void read_pictures(Material& material, const fs::path& folder, std::vector<Error>& remarks) {
    for (const auto& [role, file] : material.pictures) {
        auto picture = load_picture_bytes(folder / file);
        if (picture)
            material.read[role] = std::move(*picture);
        else
            remarks.push_back(picture.error());
    }
}

Result<void> save_pictures(const Material& material, const fs::path& folder) {
    for (const auto& [role, file] : material.pictures) {
        const auto picture = material.read.find(role);
        std::error_code error;
        if (picture == material.read.end() || fs::exists(folder / file, error)) continue;
        fs::create_directories((folder / file).parent_path(), error);
        if (auto written = write_file(folder / file, picture->second->bytes); !written) return written;
    }
    return {};
}

} // namespace rubble::io
