#include "io/kit_bring_in.h"

#include <algorithm>
#include <functional>
#include <map>
#include <set>
#include <sstream>

#include "build/joints.h"
#include "build/piece_body.h"
#include "io/json_text.h"
#include "io/kit_file.h"
#include "io/model_file.h"
#include "io/text_file.h"

namespace rubble::io {

namespace fs = std::filesystem;

namespace {

/// Calls `visit(keyword, rest)` for the lines of a text of OBJ or MTL.
void for_each_line(const std::string& text,
                   const std::function<void(const std::string&, const std::string&)>& visit) {
    std::istringstream in(text);
    for (std::string line; std::getline(in, line);) {
        while (!line.empty() && (line.back() == '\r' || line.back() == ' ')) line.pop_back();
        const size_t begin = line.find_first_not_of(" \t");
        if (begin == std::string::npos) continue;
        const size_t end = line.find_first_of(" \t", begin);
        if (end == std::string::npos) continue;
        const size_t rest = line.find_first_not_of(" \t", end);
        if (rest != std::string::npos) visit(line.substr(begin, end - begin), line.substr(rest));
    }
}

std::vector<std::string> named_by_obj(const std::string& text, const fs::path& folder) {
    std::vector<std::string> out;
    for_each_line(text, [&](const std::string& key, const std::string& name) {
        if (key != "mtllib") return;
        out.push_back(name);
        const auto materials = read_file(folder / name);
        if (!materials) return;
        for_each_line(*materials, [&](const std::string& map, const std::string& picture) {
            if (map.starts_with("map_")) out.push_back(picture.substr(picture.find_last_of(' ') + 1));
        });
    });
    return out;
}

std::vector<std::string> named_by_gltf(const std::string& text, const std::string& place) {
    std::vector<std::string> out;
    const auto json = parse_json(text, place);
    if (!json || !json->is_object()) return out;
    for (const char* list : {"buffers", "images"}) {
        if (!json->contains(list) || !(*json)[list].is_array()) continue;
        for (const Json& one : (*json)[list])
            if (one.is_object() && one.contains("uri") && one["uri"].is_string())
                if (const auto uri = one["uri"].get<std::string>(); !uri.starts_with("data:"))
                    out.push_back(uri);
    }
    return out;
}

Result<void> copy_to(const fs::path& from, const fs::path& to) {
    std::error_code error;
    if (fs::equivalent(from, to, error)) return {};
    fs::create_directories(to.parent_path(), error);
    const auto bytes = read_file(from);
    if (!bytes) return tl::unexpected(bytes.error());
    return write_file(to, *bytes);
}

/// What the piece of a file becomes that a kit has already: all that was set of it stays.
Piece brought_again(const Piece& before, const Piece& now, const Model& model) {
    Piece out = before;
    out.file = now.file, out.scale = now.scale, out.y_up = now.y_up;
    out.origin_m = now.origin_m, out.size_m = now.size_m;
    out.body = std::make_shared<const PieceBody>(build::piece_body(out, model));
    return out;
}

} // namespace

std::vector<fs::path> companions_of(const fs::path& model) {
    const auto text = read_file(model);
    if (!text) return {};
    const fs::path folder = model.parent_path();
    const std::vector<std::string> names = model.extension() == ".obj" ? named_by_obj(*text, folder)
                                           : text->starts_with("glTF") ? std::vector<std::string>{}
                                                                       : named_by_gltf(*text, model.string());
    std::vector<fs::path> out;
    for (const std::string& name : names) {
        std::error_code error;
        const fs::path path = folder / name;
        // Only what lies beside the model or below can keep its place beside the copy.
        const bool below =
            !fs::path(name).is_absolute() && !fs::path(name).lexically_normal().string().starts_with("..");
        if (below && fs::is_regular_file(path, error)) out.push_back(path);
    }
    return out;
}

Result<Kit> brought_into(Kit kit, const std::vector<build::BroughtPiece>& pieces, const fs::path& folder) {
    const fs::path beside = (folder / kit.file).parent_path();
    std::set<std::string> copied;
    for (const build::BroughtPiece& brought : pieces) {
        const fs::path from(brought.path);
        if (copied.insert(brought.path).second) {
            for (const fs::path& companion : companions_of(from))
                if (auto done = copy_to(companion, beside / fs::relative(companion, from.parent_path()));
                    !done)
                    return tl::unexpected(done.error());
            if (auto done = copy_to(from, beside / brought.piece.file); !done)
                return tl::unexpected(done.error());
        }
        const auto known = std::find_if(kit.pieces.begin(), kit.pieces.end(), [&](const auto& piece) {
            return piece->file == brought.piece.file && piece->node == brought.piece.node;
        });
        if (known != kit.pieces.end()) {
            *known = std::make_shared<const Piece>(brought_again(**known, brought.piece, *brought.model));
            continue;
        }
        Piece piece = brought.piece;
        const std::string wanted = piece.id;
        for (int n = 2; kit.piece(piece.id); ++n) piece.id = wanted + "_" + std::to_string(n);
        kit.pieces.push_back(std::make_shared<const Piece>(std::move(piece)));
    }
    return build::with_joints_found(std::move(kit));
}

namespace {

std::string joints_text(const Piece& piece) {
    std::map<std::string, int> kinds;
    for (const Joint& joint : piece.joints)
        if (joint.passage) ++kinds[joint.kind];
    std::string out;
    for (const auto& [kind, count] : kinds)
        out += (out.empty() ? "" : ", ") + std::to_string(count) + " of " + kind;
    return out.empty() ? "none" : out;
}

std::string modules_text(const Kit& kit, const Piece& piece) {
    const auto count = modules_of(kit, piece.size_m);
    return std::to_string(count[0]) + " x " + std::to_string(count[1]) + " x " + std::to_string(count[2]);
}

} // namespace

Result<FileAgain> with_file_again(const Kit& kit, const std::string& file, const fs::path& folder) {
    const auto model = load_model((folder / kit.file).parent_path() / file);
    if (!model) return tl::unexpected(model.error());
    FileAgain out{kit, {}};
    for (auto& piece : out.kit.pieces) {
        if (piece->file != file) continue;
        const bool there = piece->node.empty() || std::find(model->nodes.begin(), model->nodes.end(),
                                                            piece->node) != model->nodes.end();
        if (!there) { // its place and what is known of it stay
            out.unfit.push_back(piece->name + ": the object " + piece->node + " is no longer in the file.");
            continue;
        }
        Piece now = *piece;
        now.body = std::make_shared<const PieceBody>(build::piece_body(now, *model));
        if (!now.body->box.empty()) now.size_m = now.body->box.high - now.body->box.low;
        if (!now.body->remark.empty()) out.unfit.push_back(now.name + ": " + now.body->remark);
        piece = std::make_shared<const Piece>(std::move(now));
    }
    out.kit = build::with_joints_found(std::move(out.kit));
    for (size_t i = 0; i < kit.pieces.size(); ++i) {
        const Piece &before = *kit.pieces[i], &now = *out.kit.pieces[i];
        if (before.file != file) continue;
        if (modules_of(kit, before.size_m) != modules_of(kit, now.size_m))
            out.unfit.push_back(now.name + " takes up " + modules_text(kit, now) + " modules instead of " +
                                modules_text(kit, before) + ".");
        if (joints_text(before) != joints_text(now))
            out.unfit.push_back(now.name + " has other joints: " + joints_text(now) + " instead of " +
                                joints_text(before) + ".");
    }
    return out;
}

} // namespace rubble::io
