#include <filesystem>

#include "build/bring_in.h"
#include "commands.h"
#include "io/kit_bring_in.h"
#include "io/kit_file.h"
#include "io/model_file.h"
#include "io/project_file.h"

namespace rubble::cli {

namespace fs = std::filesystem;

int run_model_info(const std::string& file, const std::string& json) {
    const auto model = io::load_model(file);
    if (!model) return unusable_input(model.error());
    const ModelNumbers numbers = numbers_of(*model);
    io::Json out;
    out["triangles"] = numbers.triangles, out["vertices"] = numbers.points;
    out["bbox_m"] = io::Json::array({io::to_json(numbers.box.low), io::to_json(numbers.box.high)});
    out["area_m2"] = numbers.area_m2, out["volume_m3"] = numbers.volume_m3;
    out["materials"] = model->materials.size(), out["nodes"] = model->scene_nodes;
    out["warnings"] = io::Json::array();
    for (const std::string& warning : model->warnings) out["warnings"].push_back(warning);
    return put(json.empty() ? "-" : json, io::to_text(io::Json{{"model", out}}), all_holds);
}

int run_import_model(const ModelArguments& arguments, const std::string& json) {
    fs::path file(arguments.kit);
    if (fs::is_directory(file) || file.extension() != ".json") file /= "kit.json";
    const fs::path folder = fs::absolute(file).parent_path();
    Kit kit;
    kit.name = folder.filename().string();
    std::vector<Error> remarks;
    if (fs::exists(file)) {
        auto loaded = io::load_kit(folder, file.filename().string(), remarks);
        if (!loaded) return unusable_input(loaded.error());
        kit = std::move(*loaded);
    } else if (const fs::path project = io::project_folder_of(file); !project.empty()) {
        if (const auto own = io::load_project(project)) kit.module_m = Vec3(own->module_m);
    }
    kit.file = file.filename().string();
    std::vector<build::BroughtPiece> files;
    for (const std::string& path : arguments.files) {
        auto model = io::load_model(path);
        if (!model) return unusable_input(model.error());
        files.push_back(build::brought(path, std::move(*model)));
    }
    build::BringIn how = build::proposed(files, kit.module_m);
    if (arguments.scale) how.scale = *arguments.scale;
    if (arguments.up == "y" || arguments.up == "z")
        how.y_up = arguments.up == "y";
    else if (!arguments.up.empty())
        return unusable_input({"usage", "--up", "The axis that is up is y or z."});
    std::optional<PieceCollisionKind> kind;
    for (const auto& name : io::k_piece_collisions)
        if (arguments.collision == name.key) kind = name.value;
    if (!arguments.collision.empty() && !kind)
        return unusable_input(
            {"usage", "--collision", "The collision is none, box, hull, faces, brushes or node."});
    if (!(how.scale >= 1e-6 && how.scale <= 1e6))
        return unusable_input({"usage", "--scale", "The scale is a number from 0.000001 to 1000000."});
    std::vector<build::BroughtPiece> pieces = build::pieces_of(files, how);
    if (kind)
        for (build::BroughtPiece& piece : pieces) piece = build::with_collision(std::move(piece), *kind);
    auto with = io::brought_into(std::move(kit), pieces, folder);
    if (!with) return unusable_input(with.error());
    if (auto saved = io::save_kit(*with, folder); !saved) return unusable_input(saved.error());
    io::Json list = io::Json::array();
    for (const build::BroughtPiece& brought : pieces) {
        const auto piece = with->piece(brought.piece.id);
        if (!piece) continue;
        io::Json one = io::to_json(*piece);
        one["solid"] = {{"volume_m3", piece->body->matter_m3}, {"cells", piece->body->matter.size()}};
        if (!piece->body->remark.empty()) one["remark"] = piece->body->remark;
        list.push_back(one);
    }
    return put(json.empty() ? "-" : json,
               io::to_text(io::Json{{"kit", file.generic_string()}, {"pieces", list}}), all_holds);
}

} // namespace rubble::cli
