#include "io/project_file.h"
#include "io/play_file.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <set>

#include "io/assembly_file.h"
#include "io/format.h"
#include "io/kit_file.h"
#include "io/level_file.h"
#include "io/material_file.h"
#include "io/names.h"
#include "io/sheet_file.h"
#include "io/text_file.h"
#include "level/assemblies/resolved.h"

namespace rubble::io {

namespace fs = std::filesystem;

namespace {

constexpr const char* k_file = "project.json";

constexpr std::array k_scheme_frames{Name<Frame>{"side", Frame::side}, Name<Frame>{"plan", Frame::plan}};

SchemeLayer read_scheme(Reader& in) {
    SchemeLayer layer;
    layer.id = {in.text("id")};
    if (layer.id.empty()) in.fail("id", "an id");
    layer.name = in.text("name", layer.id.value);
    layer.frame = choice(in, "frame", k_scheme_frames, "side");
    layer.cell_m = in.number("cell_m", layer.cell_m);
    if (!(layer.cell_m >= smallest_cell_m && layer.cell_m <= largest_cell_m))
        in.fail("cell_m", "a size from 0.01 to 100 m");
    layer.solid = in.flag("solid", false);
    layer.depth = in.number("depth", 0);
    layer.opacity = in.number("opacity", 1);
    if (!(layer.opacity >= 0 && layer.opacity <= 1)) in.fail("opacity", "a number from 0 to 1");
    const auto parallax = in.numbers("parallax", 2, {1, 1});
    layer.parallax = {parallax[0], parallax[1]};
    return layer;
}

Json scheme_json(const SchemeLayer& layer) {
    return Json{{"id", layer.id.value},
                {"name", layer.name},
                {"frame", key_of(k_scheme_frames, layer.frame)},
                {"cell_m", layer.cell_m},
                {"solid", layer.solid},
                {"depth", layer.depth},
                {"opacity", layer.opacity},
                {"parallax", Json{layer.parallax.x, layer.parallax.y}}};
}

struct MeasureField {
    const char* key;
    double Measures::*member;
    double least;
};
constexpr MeasureField k_measures[] = {{"wall_m", &Measures::wall_m, 1e-3},
                                       {"door_m", &Measures::door_m, 1e-3},
                                       {"ceiling_m", &Measures::ceiling_m, 1e-3},
                                       {"corridor_m", &Measures::corridor_m, 0},
                                       {"overlap_m", &Measures::overlap_m, 0}};

/// Names of files by what they were called before.
using Names = std::map<std::string, std::string>;

/// Items, those in groups too, whose sheets and kits are named otherwise.
ItemList with_files_named(const ItemList& items, const Names& names) {
    const auto renamed = [&](std::string& file) {
        const auto found = names.find(file);
        if (found == names.end()) return false;
        file = found->second;
        return true;
    };
    ItemList out = items;
    for (size_t i = 0; i < items.size(); ++i) {
        Item item = *items[i];
        if (const ItemList* members = members_of(item); members && !item.assembly())
            out.set(i, with_members(item, with_files_named(*members, names)));
        else if (auto* picture = std::get_if<PlacedPicture>(&item.body);
                 picture && renamed(picture->sheet_file))
            out.set(i, std::move(item));
        else if (auto* block = std::get_if<PlacedTiles>(&item.body);
                 block && renamed(block->tiles.sheet_file))
            out.set(i, std::move(item));
        else if (auto* placed = std::get_if<PlacedPiece>(&item.body); placed && renamed(placed->kit_file))
            out.set(i, std::move(item));
        else if (auto* assembly = std::get_if<PlacedAssembly>(&item.body)) {
            bool any = false;
            for_each_source(*assembly, [&](std::string& source) { any |= renamed(source); });
            if (any) out.set(i, std::move(item));
        }
    }
    return out;
}

/// The same files named from another folder, with what they were called before noted; whole paths stay.
template <class T>
void name_from(std::vector<std::shared_ptr<const T>>& files, const fs::path& before, const fs::path& now,
               Names& names) {
    for (auto& file : files) {
        if (fs::path(file->file).is_absolute()) continue;
        T named = *file;
        named.file = (before / file->file).lexically_normal().lexically_proximate(now).generic_string();
        names[file->file] = named.file;
        file = std::make_shared<const T>(std::move(named));
    }
}

/// Calls `read(json, path)` for each member of a list until one fails.
template <class F> std::optional<Error> each(Reader& in, const std::string& key, F read) {
    const Json& list = in.list(key);
    for (size_t i = 0; i < list.size(); ++i) {
        Reader member(list[i], in.place(), in.path_of(key) + "/" + std::to_string(i));
        read(member);
        if (!member.ok()) return member.error();
    }
    return {};
}

NamedCharacter read_character(Reader& in) {
    NamedCharacter named;
    named.id = {in.text("id")};
    if (named.id.empty()) in.fail("id", "an id");
    named.name = in.text("name", named.id.value);
    for (const CharacterField& field : character_fields())
        named.metrics.*field.member = in.number(field.key, named.metrics.*field.member);
    if (const std::string problem = problem_of(named.metrics); !problem.empty()) {
        const CharacterField* field = find_character_field(problem);
        in.fail(problem, std::string("a value from ") + std::to_string(field->least) + " to " +
                             std::to_string(field->most) + " that fits the others");
    }
    named.extra = in.rest();
    return named;
}

} // namespace

Result<Project> project_from_text(const std::string& text, const std::string& place) {
    const auto json = parse_json(text, place);
    if (!json) return tl::unexpected(json.error());
    Reader in(*json, place);
    if (!in.ok()) return tl::unexpected(in.error());
    if (const auto newer = newer_format(in, k_project_format, "project.format"))
        return tl::unexpected(*newer);
    Project project;
    project.name = in.text("name", "Project");
    project.grid_m = in.number("grid_m", project.grid_m);
    project.module_m = in.number("module_m", project.module_m);
    project.turn_step_deg = in.number("turn_step_deg", project.turn_step_deg);
    project.pixels_per_m = in.number("pixels_per_m", project.pixels_per_m);
    if (!(project.pixels_per_m >= 0.1 && project.pixels_per_m <= 10000))
        in.fail("pixels_per_m", "a number of pixels from 0.1 to 10000");
    project.dots_per_m = in.number("dots_per_m", project.dots_per_m);
    if (!(project.dots_per_m >= 1 && project.dots_per_m <= 100000))
        in.fail("dots_per_m", "a number of dots from 1 to 100000");
    project.least_lux = in.number("least_lux", project.least_lux);
    if (!(project.least_lux >= 0 && project.least_lux <= 100000))
        in.fail("least_lux", "a number of lux from 0 to 100000");
    project.easy_pct = in.number("easy_pct", project.easy_pct);
    project.fair_pct = in.number("fair_pct", project.fair_pct);
    if (project.grid_m < 1e-4 || project.grid_m > 1000) in.fail("grid_m", "a step from 0.0001 to 1000 m");
    if (project.module_m < 1e-4 || project.module_m > 1000)
        in.fail("module_m", "a module from 0.0001 to 1000 m");
    for (const MeasureField& field : k_measures) {
        double& value = project.measures.*field.member;
        value = in.number(field.key, value);
        if (!(value >= field.least && value <= 1000)) in.fail(field.key, "a measure from 0 to 1000 m");
    }
    project.rules = read_puzzle_rules(in, "rules");
    project.rules_off = texts(in, "rules_off");
    if (in.has("suggestions")) {
        const Json& kinds = in.object("suggestions");
        for (const auto& [kind, counts] : kinds.items()) {
            Reader habit(counts, in.place(), in.path_of("suggestions") + "." + kind);
            const double kept = habit.number("kept", 0), thrown = habit.number("thrown", 0);
            if (!(kept >= 0 && kept <= 1e9)) habit.fail("kept", "a count");
            if (!(thrown >= 0 && thrown <= 1e9)) habit.fail("thrown", "a count");
            in.take_error(habit);
            if (in.ok()) project.habits[kind] = {int(kept), int(thrown)};
        }
    }
    if (auto error =
            each(in, "characters", [&](Reader& r) { project.characters.push_back(read_character(r)); }))
        return tl::unexpected(*error);
    if (auto error = each(in, "materials", [&](Reader& r) { project.materials.push_back(read_material(r)); }))
        return tl::unexpected(*error);
    if (auto error = each(in, "layer_scheme", [&](Reader& r) { project.scheme.push_back(read_scheme(r)); }))
        return tl::unexpected(*error);
    if (auto error = each(in, "element_kinds",
                          [&](Reader& r) { project.element_kinds.push_back(read_element_kind(r)); }))
        return tl::unexpected(*error);
    if (auto error = each(in, "skills", [&](Reader& r) { project.skills.push_back(read_skill(r)); }))
        return tl::unexpected(*error);
    if (auto error = each(in, "rule_sets", [&](Reader& r) { project.rule_sets.push_back(read_rule_set(r)); }))
        return tl::unexpected(*error);
    if (auto error = each(in, "kinds_of_play",
                          [&](Reader& r) { project.kinds_of_play.push_back(read_kind_of_play(r)); }))
        return tl::unexpected(*error);
    project.level_order = texts(in, "levels");
    if (in.has("names")) {
        Reader names(in.object("names"), in.place(), in.path_of("names"));
        project.names.pattern = names.text("pattern");
        const double longest = names.number("longest", project.names.longest);
        if (!(longest >= 1 && longest <= 1000))
            names.fail("longest", "a number of characters from 1 to 1000");
        project.names.longest = int(longest);
        project.names.allowed = names.text("allowed", project.names.allowed);
        in.take_error(names);
    }
    if (auto error = each(in, "parcels", [&](Reader& r) {
            ParcelSet set{r.text("key"), r.text("name"), texts(r, "parts")};
            if (set.key.empty()) r.fail("key", "what --for calls it by");
            project.parcels.push_back(std::move(set));
        }))
        return tl::unexpected(*error);
    if (!in.ok()) return tl::unexpected(in.error());
    project.extra = in.rest();
    return project;
}

std::string text_of(const Project& project) {
    Json json;
    json["format"] = k_project_format;
    json["name"] = project.name;
    json["grid_m"] = project.grid_m;
    json["module_m"] = project.module_m;
    json["turn_step_deg"] = project.turn_step_deg;
    for (const MeasureField& field : k_measures) json[field.key] = project.measures.*field.member;
    if (Json rules = puzzle_rules_json(project.rules); !rules.is_null()) json["rules"] = rules;
    for (const auto& [kind, habit] : project.habits)
        json["suggestions"][kind] = {{"kept", habit.kept}, {"thrown", habit.thrown}};
    json["pixels_per_m"] = project.pixels_per_m;
    if (project.dots_per_m != Project{}.dots_per_m) json["dots_per_m"] = project.dots_per_m;
    if (project.least_lux != Project{}.least_lux) json["least_lux"] = project.least_lux;
    json["easy_pct"] = project.easy_pct;
    json["fair_pct"] = project.fair_pct;
    if (!project.level_order.empty()) json["levels"] = project.level_order;
    if (project.names != NameScheme{})
        json["names"] = {{"pattern", project.names.pattern},
                         {"longest", project.names.longest},
                         {"allowed", project.names.allowed}};
    for (const ParcelSet& set : project.parcels)
        json["parcels"].push_back({{"key", set.key}, {"name", set.name}, {"parts", set.parts}});
    Json characters = Json::array();
    for (const NamedCharacter& named : project.characters) {
        Json one;
        one["id"] = named.id.value;
        one["name"] = named.name;
        for (const CharacterField& field : character_fields()) one[field.key] = named.metrics.*field.member;
        add_rest(one, named.extra);
        characters.push_back(one);
    }
    json["characters"] = characters;
    Json materials = Json::array();
    for (const Material& material : project.materials) materials.push_back(material_json(material));
    json["materials"] = materials;
    if (!project.scheme.empty()) {
        Json scheme = Json::array();
        for (const SchemeLayer& layer : project.scheme) scheme.push_back(scheme_json(layer));
        json["layer_scheme"] = scheme;
    }
    const auto add_list = [&](const char* key, const auto& list, const auto& one_json) {
        if (list.empty()) return;
        json[key] = Json::array();
        for (const auto& one : list) json[key].push_back(one_json(one));
    };
    add_list("element_kinds", project.element_kinds,
             [](const auto& kind) { return element_kind_json(*kind); });
    add_list("skills", project.skills, skill_json);
    if (!project.rules_off.empty()) json["rules_off"] = project.rules_off;
    add_list("rule_sets", project.rule_sets, rule_set_json);
    add_list("kinds_of_play", project.kinds_of_play, kind_of_play_json);
    add_rest(json, project.extra);
    return to_text(json);
}

Result<Project> load_project(const fs::path& folder) {
    const auto text = read_file(folder / k_file);
    if (!text) return tl::unexpected(text.error());
    auto project = project_from_text(*text, (folder / k_file).string());
    std::vector<Error> remarks;
    if (project)
        for (Material& material : project->materials) read_pictures(material, folder, remarks);
    if (project)
        for (const std::string& file : sheet_files(folder))
            if (auto sheet = load_sheet(folder, file, remarks))
                project->sheets.push_back(std::make_shared<const TileSheet>(std::move(*sheet)));
    if (project)
        for (const std::string& file : kit_files(folder))
            if (auto kit = load_kit(folder, file, remarks))
                project->kits.push_back(std::make_shared<const Kit>(std::move(*kit)));
    if (project) {
        for (const std::string& file : assembly_files(folder))
            if (auto assembly = load_assembly(folder, file))
                project->assemblies.push_back(std::make_shared<const Assembly>(std::move(*assembly)));
        *project = with_assemblies_resolved(std::move(*project));
    }
    return project;
}

namespace {

void collect_sources(const ItemList& items, std::set<std::string>& out) {
    for (const ItemPtr& item : items) {
        if (const PlacedAssembly* placed = item->assembly())
            for_each_source(*placed, [&](const std::string& source) { out.insert(source); });
        if (const ItemList* members = members_of(*item)) collect_sources(*members, out);
    }
}

/// Takes in the assemblies that a level names, and those that they are made of.
void read_assemblies(Project& project, const Level& level, const fs::path& folder,
                     std::vector<Error>& remarks) {
    std::set<std::string> open, seen;
    for (const auto& layer : level.layers) collect_sources(layer->items, open);
    while (!open.empty()) {
        const std::string file = *open.begin();
        open.erase(open.begin());
        if (file.empty() || !seen.insert(file).second || find_assembly(project, file)) continue;
        auto assembly = load_assembly(folder, file);
        if (!assembly) {
            remarks.push_back(assembly.error());
            continue;
        }
        collect_sources(assembly->items, open), collect_sources(assembly->added, open);
        if (!assembly->derived_from.empty()) open.insert(assembly->derived_from);
        project.assemblies.push_back(std::make_shared<const Assembly>(std::move(*assembly)));
    }
}

/// The files of sheets and kits that items name, those of what is in them too.
void collect_files(const ItemList& items, std::set<std::string>& sheets, std::set<std::string>& kits) {
    for (const ItemPtr& item : items) {
        if (const PlacedPicture* picture = item->picture()) sheets.insert(picture->sheet_file);
        if (const PlacedTiles* block = item->tiles()) sheets.insert(block->tiles.sheet_file);
        if (const PlacedPiece* placed = item->piece()) kits.insert(placed->kit_file);
        if (const ItemList* members = members_of(*item)) collect_files(*members, sheets, kits);
    }
}

} // namespace

Project with_files_for(Project project, const Level& level, const fs::path& folder,
                       std::vector<Error>& remarks) {
    read_assemblies(project, level, folder, remarks);
    std::set<std::string> named, kits;
    for (const auto& layer : level.layers) {
        if (layer->tiles) named.insert((*layer->tiles)->sheet_file);
        collect_files(layer->items, named, kits);
    }
    for (const auto& assembly : project.assemblies)
        collect_files(assembly->items, named, kits), collect_files(assembly->added, named, kits);
    for (const std::string& file : named) {
        if (file.empty() || find_sheet(project, file)) continue;
        if (auto sheet = load_sheet(folder, file, remarks))
            project.sheets.push_back(std::make_shared<const TileSheet>(std::move(*sheet)));
        else
            remarks.push_back(sheet.error());
    }
    for (const std::string& file : kits) {
        if (file.empty() || find_kit(project, file)) continue;
        if (auto kit = load_kit(folder, file, remarks))
            project.kits.push_back(std::make_shared<const Kit>(std::move(*kit)));
        else
            remarks.push_back(kit.error());
    }
    return project.assemblies.empty() ? project : with_assemblies_resolved(std::move(project));
}

fs::path files_folder(const Document& document, const std::string& level_file) {
    return document.folder.empty() ? fs::path(level_file).parent_path() : fs::path(document.folder);
}

Document with_files_read(Document document, std::vector<Error>& remarks) {
    Project project = *document.project;
    for (const OpenLevel& open : document.levels)
        project = with_files_for(std::move(project), *open.level, files_folder(document, open.file), remarks);
    for (OpenLevel& open : document.levels) open.level = Shared<Level>(with_files_of(project, *open.level));
    if (project.sheets != document.project->sheets || project.kits != document.project->kits ||
        project.assemblies != document.project->assemblies)
        document.project = Shared<Project>(std::move(project));
    return document;
}

Document with_files_named_from(Document document, const fs::path& before, const fs::path& now) {
    Project project = *document.project;
    Names names;
    name_from(project.sheets, before, now, names);
    name_from(project.kits, before, now, names);
    name_from(project.assemblies, before, now, names);
    for (auto& assembly : project.assemblies) { // they name kits and each other
        Assembly named = *assembly;
        named.items = with_files_named(named.items, names),
        named.added = with_files_named(named.added, names);
        if (const auto original = names.find(named.derived_from); original != names.end())
            named.derived_from = original->second;
        assembly = std::make_shared<const Assembly>(std::move(named));
    }
    project = with_assemblies_resolved(std::move(project));
    for (OpenLevel& open : document.levels) {
        Level level = *open.level;
        for (Shared<Layer>& layer : level.layers) {
            Layer changed = *layer;
            if (layer->tiles && names.contains((*layer->tiles)->sheet_file)) {
                TileLayer tiles = **layer->tiles;
                tiles.sheet_file = names.at(tiles.sheet_file);
                changed.tiles = Shared<TileLayer>(std::move(tiles));
            }
            changed.items = with_files_named(changed.items, names);
            layer = Shared<Layer>(std::move(changed));
        }
        open.level = Shared<Level>(with_files_of(project, std::move(level)));
        for (std::string* file : {&open.assembly, &open.kit})
            if (const auto named = names.find(*file); named != names.end()) *file = named->second;
    }
    document.project = Shared<Project>(std::move(project));
    return document;
}

bool differs(const std::shared_ptr<const Assembly>& saved, const Assembly& now) {
    return !saved || text_of(*saved) != text_of(now);
}

Result<void> save_project(const Project& project, const fs::path& folder, const Project& saved) {
    for (const auto& sheet : project.sheets)
        if (find_sheet(saved, sheet->file) != sheet)
            if (auto written = save_sheet(*sheet, folder); !written) return written;
    for (const Material& material : project.materials)
        if (auto written = save_pictures(material, folder); !written) return written;
    for (const auto& kit : project.kits)
        if (find_kit(saved, kit->file) != kit)
            if (auto written = save_kit(*kit, folder); !written) return written;
    for (const auto& assembly : project.assemblies)
        if (differs(find_assembly(saved, assembly->file), *assembly))
            if (auto written = save_assembly(*assembly, folder); !written) return written;
    return write_file(folder / k_file, text_of(project));
}

std::vector<fs::path> level_files(const fs::path& folder, const std::vector<std::string>& order) {
    std::vector<fs::path> out;
    std::error_code error;
    for (const auto& entry : fs::directory_iterator(folder / "levels", error))
        if (entry.path().string().ends_with(".level.json")) out.push_back(entry.path());
    const auto place_of = [&](const fs::path& file) {
        return std::find(order.begin(), order.end(), file.filename().string()) - order.begin();
    };
    std::sort(out.begin(), out.end(), [&](const fs::path& a, const fs::path& b) {
        return std::pair(place_of(a), a) < std::pair(place_of(b), b);
    });
    return out;
}

fs::path project_folder_of(const fs::path& level_file) {
    std::error_code error;
    fs::path folder = fs::absolute(level_file, error).parent_path();
    for (int up = 0; up < 3 && !folder.empty(); ++up, folder = folder.parent_path())
        if (fs::exists(folder / k_file, error)) return folder;
    return {};
}

Result<LoadedLevel> load_level_with_project(const fs::path& path) {
    LoadedLevel out;
    auto level = load_level(path);
    if (!level) return tl::unexpected(level.error());
    out.level = std::move(*level);
    out.folder = project_folder_of(path);
    if (!out.folder.empty()) {
        auto project = load_project(out.folder);
        if (!project) return tl::unexpected(project.error());
        out.project = std::move(*project);
    }
    const fs::path sheets_from = out.folder.empty() ? path.parent_path() : out.folder;
    out.project = with_files_for(std::move(out.project), out.level, sheets_from, out.remarks);
    out.level = with_files_of(out.project, std::move(out.level));
    const Character c = character_of(out.project, out.level);
    if (const std::string problem = problem_of(c); !problem.empty())
        return fail("level.metric",
                    path.string() + ", key /characters/" + out.level.character.value + "/" + problem,
                    "The metric does not fit the character's others.");
    return out;
}

Project new_project(const std::string& name) {
    Project project;
    project.name = name;
    project.characters.push_back({{"courier"}, "Courier", {}, {}});
    project.materials = {{{"stone"}, "Stone", {0xBD, 0xB6, 0xA9}, 0.9, {}},
                         {{"timber"}, "Timber", {0xA8, 0x82, 0x5A}, 0.8, {}},
                         {{"steel"}, "Steel", {0x7E, 0x8A, 0x92}, 0.45, {}}};
    return project;
}

} // namespace rubble::io
