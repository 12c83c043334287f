#include "io/kit_file.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <optional>
#include <set>

#include "build/piece_body.h"
#include "io/format.h"
#include "io/item_file.h"
#include "io/model_file.h"
#include "io/text_file.h"

namespace rubble::io {

namespace fs = std::filesystem;

namespace {

constexpr std::array k_sides{
    Name<ModuleSide>{"left", ModuleSide::left},     Name<ModuleSide>{"right", ModuleSide::right},
    Name<ModuleSide>{"near", ModuleSide::near},     Name<ModuleSide>{"away", ModuleSide::away},
    Name<ModuleSide>{"bottom", ModuleSide::bottom}, Name<ModuleSide>{"top", ModuleSide::top}};
constexpr std::array k_seats{
    Name<PieceSeat>{"cell", PieceSeat::cell}, Name<PieceSeat>{"edge", PieceSeat::edge},
    Name<PieceSeat>{"corner", PieceSeat::corner}, Name<PieceSeat>{"free", PieceSeat::free}};
constexpr const char* k_ups[] = {"y", "z"};
constexpr double k_largest_m = 1000;

/// Brushes of a piece, in its own axes.
ItemList read_items(Reader& in, const std::string& key, std::optional<Error>& error) {
    ItemList out;
    const Json& list = in.list(key);
    for (size_t i = 0; i < list.size() && !error; ++i) {
        auto item = item_from_json(list[i], in.place(), in.path_of(key) + "/" + std::to_string(i));
        if (!item)
            error = item.error();
        else if (!item->brush())
            in.fail(key, "brushes");
        else
            out.push_back(std::move(*item));
    }
    return out;
}

PieceCollision read_collision(Reader& in, std::optional<Error>& error) {
    PieceCollision out;
    out.kind = choice(in, "kind", k_piece_collisions, "faces");
    out.thickness_m = in.number("thickness_m", 0.1);
    if (!(out.thickness_m >= 1e-3 && out.thickness_m <= 100))
        in.fail("thickness_m", "a size from 0.001 to 100 m");
    out.node = in.text("node");
    out.items = read_items(in, "items", error);
    return out;
}

Result<Piece> read_piece(const Json& json, const std::string& place, const std::string& path) {
    Reader in(json, place, path);
    std::optional<Error> error;
    Piece piece;
    piece.id = in.text("id");
    if (piece.id.empty()) in.fail("id", "an id");
    piece.name = in.text("name", piece.id);
    piece.file = in.text("file");
    piece.node = in.text("node");
    piece.scale = in.number("scale", 1);
    if (!(piece.scale >= 1e-6 && piece.scale <= 1e6)) in.fail("scale", "a number from 0.000001 to 1000000");
    const std::string up = in.text("up", "y");
    if (up != "y" && up != "z") in.fail("up", "one of y, z");
    piece.y_up = up == "y";
    piece.origin_m = point(in, "origin_m", Vec3(0));
    piece.size_m = point(in, "size_m", Vec3(1));
    for (int axis = 0; axis < 3; ++axis) {
        if (!(piece.size_m[axis] >= 0 && piece.size_m[axis] <= k_largest_m))
            in.fail("size_m", "three sizes up to 1000 m");
        if (!(std::abs(piece.origin_m[axis]) <= 1e6)) in.fail("origin_m", "a place within 1000 km");
    }
    Reader collision(in.object("collision"), place, in.path_of("collision"));
    piece.collision = read_collision(collision, error);
    in.take_error(collision);
    const Json& joints = in.list("joints");
    for (size_t i = 0; i < joints.size() && in.ok(); ++i) {
        Reader joint(joints[i], place, in.path_of("joints") + "/" + std::to_string(i));
        piece.joints.push_back(read_joint(joint));
        in.take_error(joint);
    }
    piece.joints_by_hand = in.flag("joints_by_hand", false);
    piece.seat = choice(in, "seat", k_seats, "cell");
    piece.overlap_m = in.number("overlap_m", 0);
    piece.covers = in.flag("covers", false);
    piece.items = read_items(in, "items", error);
    if (piece.file.empty() && piece.items.empty()) in.fail("file", "a model, or brushes under \"items\"");
    for (const auto& [key, value] : in.object("values").items()) piece.values[key] = value.dump();
    if (error) return tl::unexpected(*error);
    if (!in.ok()) return tl::unexpected(in.error());
    piece.extra = in.rest();
    return piece;
}

Json collision_json(const PieceCollision& collision) {
    Json json;
    json["kind"] = key_of(k_piece_collisions, collision.kind);
    if (collision.kind == PieceCollisionKind::faces || collision.kind == PieceCollisionKind::node)
        json["thickness_m"] = collision.thickness_m;
    if (!collision.items.empty()) json["items"] = items_json(collision.items);
    if (!collision.node.empty()) json["node"] = collision.node;
    return json;
}

} // namespace

Joint read_joint(Reader& in) {
    Joint out;
    const auto cell = in.numbers("cell", 3, {0, 0, 0});
    for (size_t k = 0; k < 3; ++k) {
        if (cell[k] != std::floor(cell[k]) || std::abs(cell[k]) > 10'000)
            in.fail("cell", "three whole numbers");
        else
            out.cell[k] = int(cell[k]);
    }
    out.side = choice(in, "side", k_sides, "left");
    out.kind = in.text("kind");
    out.passage = in.flag("passage", true);
    return out;
}

Json to_json(const Joint& joint) {
    Json json{{"cell", joint.cell}, {"side", key_of(k_sides, joint.side)}, {"kind", joint.kind}};
    if (!joint.passage) json["passage"] = false;
    return json;
}

Result<Kit> kit_from_text(const std::string& text, const std::string& place) {
    const auto json = parse_json(text, place);
    if (!json) return tl::unexpected(json.error());
    Reader in(*json, place);
    if (!in.ok()) return tl::unexpected(in.error());
    if (const auto newer = newer_format(in, k_kit_format, "kit.format")) return tl::unexpected(*newer);
    Kit kit;
    kit.name = in.text("name", "Kit");
    kit.module_m = point(in, "module_m", kit.module_m);
    for (int axis = 0; axis < 3; ++axis)
        if (!(kit.module_m[axis] >= 0.01 && kit.module_m[axis] <= k_largest_m))
            in.fail("module_m", "three sizes from 0.01 to 1000 m");
    const Json& pieces = in.list("pieces");
    std::set<std::string> ids;
    for (size_t i = 0; i < pieces.size() && in.ok(); ++i) {
        auto piece = read_piece(pieces[i], place, in.path_of("pieces") + "/" + std::to_string(i));
        if (!piece) return tl::unexpected(piece.error());
        if (!ids.insert(piece->id).second) in.fail("pieces", "ids of which each is there once");
        kit.pieces.push_back(std::make_shared<const Piece>(std::move(*piece)));
    }
    if (!in.ok()) return tl::unexpected(in.error());
    kit.extra = in.rest();
    return kit;
}

Json to_json(const Piece& piece) {
    Json json;
    json["id"] = piece.id, json["name"] = piece.name;
    if (piece.items.empty()) {
        json["file"] = piece.file, json["node"] = piece.node;
        json["scale"] = piece.scale, json["up"] = k_ups[piece.y_up ? 0 : 1];
    }
    json["origin_m"] = to_json(piece.origin_m);
    json["size_m"] = to_json(piece.size_m);
    json["collision"] = collision_json(piece.collision);
    Json joints = Json::array();
    for (const Joint& joint : piece.joints) joints.push_back(to_json(joint));
    json["joints"] = joints;
    if (piece.joints_by_hand) json["joints_by_hand"] = true;
    json["seat"] = key_of(k_seats, piece.seat);
    if (piece.overlap_m != 0) json["overlap_m"] = piece.overlap_m;
    if (piece.covers) json["covers"] = true;
    if (!piece.values.empty()) {
        Json values = Json::object();
        add_rest(values, piece.values);
        json["values"] = values;
    }
    add_rest(json, piece.extra);
    if (!piece.items.empty()) json["items"] = items_json(piece.items);
    return json;
}

std::string text_of(const Kit& kit) {
    Json json;
    json["format"] = k_kit_format;
    json["name"] = kit.name;
    json["module_m"] = to_json(kit.module_m);
    add_rest(json, kit.extra);
    Json pieces = Json::array();
    for (const auto& piece : kit.pieces) pieces.push_back(to_json(*piece));
    json["pieces"] = pieces;
    return to_text(json);
}

fs::path model_path(const Kit& kit, const Piece& piece, const fs::path& folder) {
    return (folder / kit.file).parent_path() / piece.file;
}

Kit with_bodies(Kit kit, const fs::path& folder, std::vector<Error>& remarks) {
    std::map<std::string, std::optional<Model>>
        models; // by their files, which several pieces may be parts of
    for (auto& piece : kit.pieces) {
        if (piece->body) continue;
        Piece made = *piece;
        if (made.items.empty()) {
            const auto [found, fresh] = models.try_emplace(made.file);
            if (fresh) {
                if (auto model = load_model(model_path(kit, made, folder)))
                    found->second = std::move(*model);
                else
                    remarks.push_back(model.error());
            }
            if (!found->second) continue;
            made.body = std::make_shared<const PieceBody>(build::piece_body(made, *found->second));
        } else {
            made.body = std::make_shared<const PieceBody>(build::piece_body(made, {}));
        }
        piece = std::make_shared<const Piece>(std::move(made));
    }
    return kit;
}

Result<Kit> load_kit(const fs::path& folder, const std::string& file, std::vector<Error>& remarks) {
    const fs::path path = folder / file;
    const auto text = read_file(path);
    if (!text) return tl::unexpected(text.error());
    auto kit = kit_from_text(*text, path.string());
    if (!kit) return kit;
    kit->file = file;
    return with_bodies(std::move(*kit), folder, remarks);
}

Result<void> save_kit(const Kit& kit, const fs::path& folder) {
    std::error_code error;
    fs::create_directories((folder / kit.file).parent_path(), error);
    return write_file(folder / kit.file, text_of(kit));
}

std::vector<std::string> kit_files(const fs::path& folder) {
    std::vector<std::string> out;
    std::error_code error;
    for (const auto& entry : fs::directory_iterator(folder / "kits", error))
        if (fs::exists(entry.path() / "kit.json", error))
            out.push_back("kits/" + entry.path().filename().string() + "/kit.json");
    std::sort(out.begin(), out.end());
    return out;
}

} // namespace rubble::io
