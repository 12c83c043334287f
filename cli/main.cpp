// rubble-cli: the core without a window. Exit codes: 0 all that was asked holds; 1 a claim fails or is
// undecided, a blocker was found, a replay misses; 2 wrong usage or unusable input; 3 interrupted.

#include <chrono>
#include <csignal>
#include <fstream>
#include <iostream>

#include <CLI/CLI.hpp>

#include "commands.h"
#include "edit/items.h"
#include "edit/sheet_cut.h"
#include "io/ci_reports.h"
#include "io/export_formats.h"
#include "io/level_file.h"
#include "io/model_file.h"
#include "io/picture_file.h"
#include "io/project_file.h"
#include "io/recording_file.h"
#include "io/report.h"
#include "io/sheet_file.h"
#include "io/text_file.h"
#include "io/tile_csv.h"
#include "level/order.h"
#include "study/players.h"

using namespace rubble;
using namespace rubble::cli;

namespace {

const Cancel& cancel_on_signal() {
    static const Cancel cancel = Cancel::create();
    return cancel;
}

struct CheckArguments {
    std::string level, json, sarif, junit, against, shard;
    bool claims = false, all_spans = false;
};

void tell(const Level& level, const check::CheckResult& result) {
    for (const auto& claim : result.claims) {
        const auto named = std::find_if(level.claims.begin(), level.claims.end(),
                                        [&](const Claim& c) { return c.id == claim.id; });
        std::cout << check::state_key(claim.state) << "  "
                  << (named != level.claims.end() && !named->name.empty() ? named->name : claim.id.value);
        if (!claim.reason.empty()) std::cout << ": " << in_english(claim.reason, level);
        std::cout << '\n';
    }
    for (const auto& finding : result.findings)
        std::cout << check::severity_key(finding.severity) << "  " << in_english(finding.says, level) << '\n';
}

int run_check(const CheckArguments& arguments) {
    if (!arguments.against.empty())
        return run_against(arguments.level, arguments.against, arguments.json, cancel_on_signal());
    if (std::filesystem::is_directory(arguments.level))
        return run_check_all(arguments.level, arguments.shard, arguments.json, arguments.claims,
                             cancel_on_signal());
    const auto loaded = io::load_level_with_project(arguments.level);
    if (!loaded) return unusable_input(loaded.error());
    check::CheckOptions options;
    options.all_spans = arguments.all_spans;
    options.cancel = cancel_on_signal();
    check::CheckResult result = check::check_level(loaded->project, loaded->level, options);
    study::judge_shares(loaded->project, loaded->level, result, options.cancel);
    if (!result.complete || options.cancel.requested()) return interrupted;
    const Level& level = loaded->level;
    int code = exit_of(result, arguments.claims);
    if (!arguments.json.empty()) {
        const auto facts = check::facts_of(result);
        code = put(arguments.json, io::to_text(io::check_report(level, result, &facts)), code);
    }
    if (!arguments.sarif.empty() && code != unusable)
        code = put(arguments.sarif, io::to_text(io::sarif_report(level, result, arguments.level)), code);
    if (!arguments.junit.empty() && code != unusable)
        code = put(arguments.junit, io::junit_report(level, result), code);
    if (arguments.json.empty() && arguments.sarif.empty() && arguments.junit.empty()) tell(level, result);
    return code;
}

/// A recording holds when its figure lives and ends standing with an element other than a start in reach.
int run_replay(const std::string& level_file, const std::string& witness_file, const std::string& json) {
    const auto loaded = io::load_level_with_project(level_file);
    if (!loaded) return unusable_input(loaded.error());
    const auto recording = io::load_recording(witness_file);
    if (!recording) return unusable_input(recording.error());
    const auto world = motion::world_of(build::build_solid(loaded->level));
    const Character c = character_of(loaded->project, loaded->level);
    const motion::State end = motion::replayed(world, c, *recording);
    io::Json report;
    report["level"] = loaded->level.name;
    report["time_s"] = recording->seconds();
    report["end"] = io::to_json(end.at);
    report["standing"] = end.standing;
    report["dead"] = end.dead;
    io::Json had = io::Json::array();
    for (const Item* item : elements_of(loaded->level))
        if (check::has_thing(world, end, c, met_at(loaded->level, *item->element())))
            had.push_back(item->id.value);
    report["reaches"] = had;
    const bool arrives = end.standing && !end.dead && !had.empty();
    report["arrives"] = arrives;
    if (!json.empty()) return put(json, io::to_text(report), arrives ? all_holds : something_fails);
    std::cout << (arrives ? "arrives at " + had[0].get<std::string>() : std::string("does not arrive"))
              << '\n';
    return arrives ? all_holds : something_fails;
}

int run_export(const std::string& level_file, const std::string& target) {
    const auto loaded = io::load_level_with_project(level_file);
    if (!loaded) return unusable_input(loaded.error());
    const auto written = io::export_level(loaded->project, loaded->level, target);
    return written ? all_holds : unusable_input(written.error());
}

int run_import_sheet(const std::string& file, const std::string& json) {
    const auto picture = io::load_picture(file);
    if (!picture) return unusable_input(picture.error());
    const SheetCut cut = edit::proposed_cut(*picture);
    const auto [columns, rows] = cells_in(cut, picture->width, picture->height);
    const std::vector<int> empty = edit::empty_cells(*picture, cut);
    io::Json report;
    report["cell_px"] = cut.cell_px;
    report["margin_px"] = cut.margin_px;
    report["spacing_px"] = cut.spacing_px;
    report["columns"] = columns;
    report["rows"] = rows;
    report["tiles"] = int64_t(columns) * rows - int64_t(empty.size());
    report["empty"] = empty;
    return put(json.empty() ? "-" : json, io::to_text(report), all_holds);
}

/// Makes a level of one solid layer, or puts the layer into the level that is there.
int run_import_csv(const std::string& file, const std::string& sheet, const std::string& target,
                   bool fill_up) {
    namespace fs = std::filesystem;
    const auto text = io::read_file(file);
    if (!text) return unusable_input(text.error());
    const auto grid =
        io::grid_from_csv(*text, file, fill_up ? io::RaggedRows::fill_up : io::RaggedRows::refuse);
    if (!grid) return unusable_input(grid.error());
    Level level;
    level.name = fs::path(target).stem().stem().string(), level.frame = Frame::side,
    level.character = {"courier"};
    Project project;
    fs::path folder = io::project_folder_of(target);
    if (folder.empty()) folder = fs::absolute(target).parent_path();
    if (fs::exists(target)) {
        auto loaded = io::load_level_with_project(target);
        if (!loaded) return unusable_input(loaded.error());
        level = std::move(loaded->level), project = std::move(loaded->project);
    }
    TileLayer tiles;
    tiles.grid = *grid;
    tiles.solid = true;
    if (!sheet.empty()) {
        std::vector<Error> remarks;
        const std::string named = fs::relative(fs::absolute(sheet), folder).generic_string();
        const auto loaded = io::load_sheet(folder, named, remarks);
        if (!loaded) return unusable_input(loaded.error());
        tiles.sheet_file = named;
        tiles.cell_m =
            std::clamp(loaded->cut.cell_px[0] / project.pixels_per_m, smallest_cell_m, largest_cell_m);
    }
    Layer layer;
    layer.id = edit::fresh_layer_id(level), layer.name = fs::path(file).stem().string();
    layer.tiles = Shared<TileLayer>(std::move(tiles));
    level.layers.push_back(std::move(layer));
    const auto saved = io::save_level(level, target);
    return saved ? all_holds : unusable_input(saved.error());
}

int run_info(const std::string& level_file, const std::string& json) {
    if (io::is_model_file(level_file)) return run_model_info(level_file, json);
    const auto loaded = io::load_level_with_project(level_file);
    if (!loaded) return unusable_input(loaded.error());
    const io::Json report = io::info_report(loaded->project, loaded->level);
    return put(json.empty() ? "-" : json, io::to_text(report), all_holds);
}

/// Runs what the arguments ask for.
int run(int argc, char** argv) {
    std::signal(SIGINT, [](int) { cancel_on_signal().request(); });
    cancel_on_signal();

    CLI::App app{"Checks, replays and exports Rubble levels"};
    app.require_subcommand(1);
    app.set_version_flag("--version", "rubble-cli " RUBBLE_VERSION);
    CheckArguments check_arguments;
    std::string level, witness, target, json;

    auto* check = app.add_subcommand("check", "What is reached, which claims hold, what was noticed");
    check->add_option("LEVEL", check_arguments.level)->required();
    check->add_flag("--claims", check_arguments.claims, "Only claims decide the exit code");
    check->add_flag("--all-spans", check_arguments.all_spans, "All proven spans, not only those on routes");
    check->add_option("--json", check_arguments.json, "Write the report to a file, or - for standard output");
    check->add_option("--sarif", check_arguments.sarif, "Write what fails and what was noticed as SARIF");
    check->add_option("--junit", check_arguments.junit, "Write the claims as JUnit test cases");

    check->add_option("--against", check_arguments.against,
                      "An earlier version: says what got better and worse, and ends with 1 for worse");
    check->add_option("--shard", check_arguments.shard,
                      "Of a folder's levels only a part: 3/8 is the third of eight");

    PlayersArguments crowd;
    auto* players =
        app.add_subcommand("players", "How many simulated players get from one element to another");
    players->add_option("LEVEL", crowd.level)->required();
    players->add_option("--from", crowd.from, "An element; without it the start");
    players->add_option("--to", crowd.to, "An element; without it the goal");
    players->add_option("--skill", crowd.skill,
                        "Of the project: newcomer, regular, expert; exact: no mistakes");
    players->add_flag("--exploring", crowd.exploring,
                      "They do not know the way, and look for the goal; doors count as open");
    players
        ->add_option("--within", crowd.within_s, "Of those: who has not found it by then gives up (seconds)")
        ->check(CLI::Range(1.0, 36'000.0));
    players->add_option("--runs", crowd.runs, "How many")->check(CLI::Range(1, 10'000'000));
    players->add_option("--seed", crowd.seed, "Of the first run; the others have the following ones");
    players->add_option("--shard", crowd.shard, "Only a part of the runs: 3/8 is the third of eight");
    players->add_option("--json", crowd.json, "Write the report to a file, or - for standard output");

    std::vector<std::string> names;
    auto* gather = app.add_subcommand("gather", "Puts the reports of parts (--shard) together");
    gather->add_option("FILE", names)->required();
    gather->add_option("--json", json, "Write the report to a file, or - for standard output");

    auto* whatif = app.add_subcommand("whatif", "What a level would be with other metrics");
    whatif->add_option("LEVEL", level)->required();
    whatif->add_option("--set", names, "A metric as it would be, such as courier.jump_height_m=1.1")
        ->required();
    whatif->add_option("--json", json, "Write the report to a file, or - for standard output");

    auto* sides = app.add_subcommand("sides", "Whether both sides of a mirrored level are fair");
    sides->add_option("LEVEL", level)->required();
    sides->add_option("--json", json, "Write the report to a file, or - for standard output");

    auto* limits = app.add_subcommand("limits", "How far metrics may go until a claim breaks");
    limits->add_option("LEVEL", level)->required();
    limits->add_option("--metric", names, "Only these, such as jump_height_m");
    limits->add_option("--json", json, "Write the report to a file, or - for standard output");

    auto* replay = app.add_subcommand("replay", "Does this recording still get there?");
    replay->add_option("LEVEL", level)->required();
    std::string steps;
    auto* recorded = replay->add_option("WITNESS", witness, "A recording");
    auto* by_letters =
        replay->add_option("--steps", steps, "Steps from cell to cell instead: e, n, w, s, . to wait");
    by_letters->excludes(recorded);
    replay->add_option("--json", json, "Write the report to a file, or - for standard output");

    SolveArguments puzzle;
    auto* solve =
        app.add_subcommand("solve", "The shortest solution of a level walked by cells, and its ruins");
    solve->add_option("LEVEL", puzzle.level)->required();
    solve->add_option("--json", puzzle.json, "Write the answer to a file, or - for standard output");
    solve->add_option("--most-states", puzzle.most_states, "States to be looked at, at most");

    auto* to_file = app.add_subcommand("export", "Write the level for other programs");
    to_file->add_option("LEVEL", level)->required();
    to_file->add_option("--to", target, "A file that ends in " + io::export_endings(", "))->required();

    std::string sheet, picture;
    bool fill_up = false;
    auto* import_sheet = app.add_subcommand("import-sheet", "How a picture is best cut into tiles");
    import_sheet->add_option("FILE", picture)->required();
    import_sheet->add_option("--json", json, "Write the cut to a file, or - for standard output");

    auto* import_csv = app.add_subcommand("import-csv", "Make a layer of tiles from comma-separated numbers");
    import_csv->add_option("FILE", picture)->required();
    import_csv->add_option("--sheet", sheet, "The sheet that the numbers are of; none: plain cells");
    import_csv->add_option("--to", target, "The level that gets the layer; a new one where it is not there")
        ->required();
    import_csv->add_flag("--fill-up", fill_up, "Fill short rows up with empty cells");

    ModelArguments models;
    auto* import_model = app.add_subcommand("import-model", "Make pieces of a kit from models");
    import_model->add_option("FILE", models.files, "Files that end in .glb, .gltf or .obj")->required();
    import_model
        ->add_option("--kit", models.kit, "The kit.json that gets them; a new one where it is not there")
        ->required();
    import_model->add_option("--collision", models.collision, "none, box, hull, faces; else what suits each");
    import_model->add_option("--scale", models.scale,
                             "Metres per unit of the files; else what fits the module");
    import_model->add_option("--up", models.up, "The axis of the files that is up: y or z");
    import_model->add_option("--json", json, "Write what became of them to a file, or - for standard output");

    CastArguments casts;
    auto* cast = app.add_subcommand("cast", "Put a level together by chance, in which the goal is reached");
    cast->add_option("RULES", casts.rules, "What may be laid, and how (docs/formats/cast.schema.json)")
        ->required();
    cast->add_option("--seed", casts.seed, "The same seed gives the same level")->required();
    cast->add_option("--to", casts.target, "The level that is written")->required();
    cast->add_option("--json", json, "Write what was found out to a file, or - for standard output");

    ParcelArguments parcels;
    auto* to_parcel = app.add_subcommand("parcel", "Make a parcel for a programmer, an artist or a tester");
    to_parcel->add_option("LEVEL", parcels.level)->required();
    to_parcel->add_option("--for", parcels.receiver, "programmer, artist or tester")->required();
    to_parcel->add_option("--to", parcels.target, "A folder, or a file that ends in .zip")->required();
    to_parcel->add_flag("--must-hold", parcels.must_hold,
                        "Make none while a claim fails or there is a blocker");

    MergeArguments merging;
    auto* merge = app.add_subcommand("merge", "Put two versions of a level together");
    merge->add_option("BASE", merging.base, "The version that both come from")->required();
    merge->add_option("MINE", merging.mine, "Stands where both changed the same")->required();
    merge->add_option("THEIRS", merging.theirs)->required();
    merge->add_option("--to", merging.target, "The level that is written, or - for standard output")
        ->required();

    auto* info =
        app.add_subcommand("info", "Of a level: counts, size, layers, metrics; of a model: what it holds");
    info->add_option("LEVEL|MODEL", level)->required();
    info->add_option("--json", json, "Write the report to a file, or - for standard output");

    try {
        app.parse(argc, argv);
    } catch (const CLI::Success& asked) { // help or version
        return app.exit(asked);
    } catch (const CLI::ParseError& error) {
        std::cerr << "usage: " << error.what() << '\n';
        return unusable;
    }
    if (check->parsed()) return run_check(check_arguments);
    if (players->parsed()) return run_players(crowd, cancel_on_signal());
    if (gather->parsed()) return run_gather(names, json);
    if (whatif->parsed()) return run_what_if(level, names, json, cancel_on_signal());
    if (sides->parsed()) return run_sides(level, json, cancel_on_signal());
    if (limits->parsed()) return run_limits(level, names, json, cancel_on_signal());
    if (solve->parsed()) return run_solve(puzzle, cancel_on_signal());
    if (replay->parsed() && *by_letters) return run_replay_steps(level, steps, json);
    if (replay->parsed() && witness.empty())
        return unusable_input(
            fail("usage", "replay", "Name a recording, or the steps to be played with --steps.").value());
    if (replay->parsed()) return run_replay(level, witness, json);
    if (to_file->parsed()) return run_export(level, target);
    if (import_sheet->parsed()) return run_import_sheet(picture, json);
    if (import_csv->parsed()) return run_import_csv(picture, sheet, target, fill_up);
    if (import_model->parsed()) return run_import_model(models, json);
    if (cast->parsed()) return run_cast(casts, json);
    if (to_parcel->parsed()) return run_parcel(parcels, cancel_on_signal());
    if (merge->parsed()) return run_merge(merging);
    return run_info(level, json);
}

} // namespace

int main(int argc, char** argv) {
    const int code = run(argc, argv);
    // What could not be told did not happen.
    if (!std::cout.flush()) {
        std::cerr << "standard output: could not be written to. Free some space, or write to a file.\n";
        return unusable;
    }
    return code;
}
