#include <filesystem>
#include <iostream>

#include "commands.h"
#include "io/cast_file.h"
#include "io/level_file.h"
#include "io/project_file.h"

namespace rubble::cli {

namespace fs = std::filesystem;

namespace {

/// A level with no more than what a cast names, so that its files are read.
Level level_naming(const cast::Rules& rules) {
    Level level;
    Layer layer;
    for (const cast::Candidate& candidate : rules.candidates) {
        Item item;
        item.id = {"named" + std::to_string(layer.items.size())};
        if (candidate.source.empty()) {
            PlacedPiece placed;
            placed.kit_file = candidate.kit_file, placed.piece_id = candidate.piece_id;
            item.body = placed;
        } else {
            PlacedAssembly placed;
            placed.source = candidate.source;
            item.body = placed;
        }
        layer.items.push_back(std::move(item));
    }
    level.layers.push_back(Shared<Layer>(std::move(layer)));
    return level;
}

} // namespace

int run_cast(const CastArguments& arguments, const std::string& json) {
    const auto rules = io::load_cast_rules(arguments.rules);
    if (!rules) return unusable_input(rules.error());
    fs::path folder = io::project_folder_of(fs::absolute(arguments.rules));
    Project project = io::new_project("Cast");
    if (!folder.empty()) {
        auto loaded = io::load_project(folder);
        if (!loaded) return unusable_input(loaded.error());
        project = std::move(*loaded);
    } else {
        folder = fs::absolute(arguments.rules).parent_path();
    }
    std::vector<Error> remarks;
    project = io::with_files_for(std::move(project), level_naming(*rules), folder, remarks);
    for (const Error& remark : remarks) std::cerr << remark.text() << '\n';
    const auto parts = cast::parts_of(project, *rules);
    if (!parts) return unusable_input(parts.error());
    const auto made = cast::cast_level(project, *rules, *parts, arguments.seed);
    if (!made) {
        std::cerr << made.error().text() << '\n';
        return something_fails;
    }
    if (const auto saved = io::save_level(made->level, arguments.target); !saved)
        return unusable_input(saved.error());
    io::Json report{{"seed", made->seed}};
    report.update(io::to_json(made->figures));
    return put(json.empty() ? "-" : json, io::to_text(report), all_holds);
}

} // namespace rubble::cli
