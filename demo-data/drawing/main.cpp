#include <cstdio>

#include "cold_store_kit.h"
#include "demo_levels.h"
#include "edit/grey_sheet.h"
#include "edit/kits.h"
#include "fittings_kit.h"
#include "io/cast_file.h"
#include "io/kit_file.h"
#include "io/level_file.h"
#include "io/picture_file.h"
#include "io/project_file.h"
#include "io/sheet_file.h"
#include "io/text_file.h"
#include "patterns.h"

using namespace rubble;

namespace {

bool said(const Result<void>& done) {
    if (!done) std::fprintf(stderr, "%s\n", done.error().text().c_str());
    return done.has_value();
}

bool write(const TileSheet& sheet, const std::filesystem::path& project) {
    return said(io::save_picture(*sheet.picture, io::picture_path(sheet, project))) &&
           said(io::save_sheet(sheet, project));
}

bool write_kit(const demo::ModelledKit& modelled, const std::filesystem::path& project) {
    const std::filesystem::path folder = (project / modelled.kit.file).parent_path();
    std::error_code error;
    std::filesystem::create_directories(folder, error);
    for (const auto& [name, bytes] : modelled.files)
        if (!said(io::write_file(folder / name, bytes))) return false;
    return said(io::save_kit(modelled.kit, project));
}

bool write(const demo::ModelledKit& modelled, const Kit& fittings, const std::filesystem::path& project) {
    return write_kit(modelled, project) && said(io::save_level(demo::cold_store(modelled.kit, fittings),
                                                               project / "levels" / "cold-store.level.json"));
}

/// The level that is cast from the kit as it lies in the project.
bool write_cast(const std::string& kit_file, const std::filesystem::path& folder) {
    std::vector<Error> remarks;
    auto kit = io::load_kit(folder, kit_file, remarks);
    if (!kit) return said(tl::unexpected(kit.error()));
    const cast::Rules rules = demo::cold_store_rules(*kit);
    const Project project = edit::with_kit(io::new_project("Cold Store"), std::move(*kit));
    const auto parts = cast::parts_of(project, rules);
    if (!parts) return said(tl::unexpected(parts.error()));
    const auto made = cast::cast_level(project, rules, *parts, 6);
    if (!made) return said(tl::unexpected(made.error()));
    return said(io::save_cast_rules(rules, folder / "casts" / "cold-store.cast.json")) &&
           said(io::save_level(made->level, folder / "levels" / "cold-store-cast.level.json"));
}

} // namespace

/// Draws the tile sheets and the kit of the demo project, and the levels that are made of them, into its
/// folder.
int main(int count, char** words) {
    if (count != 2) {
        std::fprintf(stderr, "usage: rubble-demo-drawing PROJECT\n");
        return 2;
    }
    const std::filesystem::path project = words[1];
    std::error_code error;
    std::filesystem::create_directories(project / "sheets", error);
    std::filesystem::create_directories(project / "levels", error);
    TileSheet grey = edit::grey_sheet(32);
    grey.file = "sheets/grey.sheet.json", grey.image = "grey.png";
    const demo::RooftopSheet roofs = demo::rooftop_sheet();
    const demo::HarbourSheet harbour = demo::harbour_sheet();
    const demo::StoreSheet store = demo::store_sheet();
    const auto level_path = [&](const char* name) { return project / "levels" / name; };
    const bool done = write(grey, project) && write(roofs.sheet, project) && write(harbour.sheet, project) &&
                      write(store.sheet, project) &&
                      said(io::save_level(demo::low_tide_rooftops(grey, roofs, harbour),
                                          level_path("low-tide-rooftops.level.json"))) &&
                      said(io::save_level(demo::twin_quays(), level_path("twin-quays.level.json"))) &&
                      said(io::save_level(demo::pallet_store(store), level_path("pallet-store.level.json")));
    for (const auto& [file, level] : demo::pallet_puzzles(store))
        if (!said(io::save_level(level, level_path((file + ".level.json").c_str())))) return 1;
    std::filesystem::create_directories(project / "materials", error);
    for (const demo::DrawnPattern& pattern : demo::drawn_patterns())
        if (!said(io::save_picture(pattern.picture, project / "materials" / pattern.file))) return 1;
    const auto fittings = demo::fittings_kit();
    if (!fittings) return said(tl::unexpected(fittings.error())) ? 0 : 1;
    if (!write_kit(*fittings, project)) return 1;
    const auto cold_store = demo::cold_store_kit();
    if (!cold_store) return said(tl::unexpected(cold_store.error())) ? 0 : 1;
    return done && write(*cold_store, fittings->kit, project) && write_cast(cold_store->kit.file, project)
               ? 0
               : 1;
}
