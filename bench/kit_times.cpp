// Kits at the size of real levels: 10,000 placed pieces of 24 kinds (2 million triangles) opened, one more
// placed, checked; an inner value of an assembly used 1,000 times changed; casts of 100 pieces.
// kit_times FOLDER [RULES SEEDS]: FOLDER gets the files.

#include <algorithm>
#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <string>

#include "check/check.h"
#include "edit/assemblies.h"
#include "edit/items.h"
#include "edit/project.h"
#include "io/cast_file.h"
#include "io/kit_file.h"
#include "io/level_file.h"
#include "io/model_writer.h"
#include "io/project_file.h"
#include "io/text_file.h"

using namespace rubble;
namespace fs = std::filesystem;

namespace {

constexpr int k_kinds = 24, k_across = 100;

double seconds_of(const auto& work) {
    const auto begin = std::chrono::steady_clock::now();
    work();
    return std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
}

double resident_mb() {
    std::ifstream statm("/proc/self/statm");
    double pages = 0, resident = 0;
    statm >> pages >> resident;
    return resident * 4096 / 1e6;
}

/// A closed box whose faces are parted into n × n squares.
void add_box(ModelPart& part, const Vec3& low, const Vec3& high, int n) {
    for (int axis = 0; axis < 3; ++axis)
        for (const bool far : {false, true}) {
            const int u = (axis + 1) % 3, v = (axis + 2) % 3;
            const auto first = uint32_t(part.points.size());
            for (int i = 0; i <= n; ++i)
                for (int k = 0; k <= n; ++k) {
                    Vec3 p = low;
                    p[axis] = far ? high[axis] : low[axis];
                    p[u] += (high[u] - low[u]) * i / n, p[v] += (high[v] - low[v]) * k / n;
                    part.points.push_back(p);
                }
            for (uint32_t i = 0; i < uint32_t(n); ++i)
                for (uint32_t k = 0; k < uint32_t(n); ++k) {
                    const uint32_t a = first + i * uint32_t(n + 1) + k, b = a + uint32_t(n + 1);
                    part.triangles.push_back(far ? std::array{a, b, a + 1} : std::array{a, a + 1, b});
                    part.triangles.push_back(far ? std::array{b, b + 1, a + 1} : std::array{b, a + 1, b + 1});
                }
        }
}

/// Floors at heights that are walked over, every fourth with a wall.
Model model_of(int kind) {
    Model model;
    model.nodes = {"piece"};
    model.parts.emplace_back();
    add_box(model.parts[0], {0, 0, -0.3}, {5, 5, 0.01 * kind}, 4);
    if (kind % 4 == 3) add_box(model.parts[0], {0, 0, 0.5}, {0.3, 5, 3.5}, 1);
    return model;
}

bool write_files(const fs::path& folder) {
    fs::create_directories(folder / "kits/big");
    Kit kit;
    kit.name = "Big", kit.file = "kits/big/kit.json";
    for (int kind = 0; kind < k_kinds; ++kind) {
        auto piece = std::make_shared<Piece>();
        piece->id = piece->name = "k" + std::to_string(kind), piece->file = piece->id + ".glb";
        piece->y_up = true, piece->size_m = {5, 5, 4}, piece->origin_m = {2.5, 2.5, 0};
        const auto bytes = io::glb_of(Project{}, model_of(kind), piece->id);
        if (!bytes || !io::write_file(folder / "kits/big" / piece->file, *bytes)) return false;
        kit.pieces.push_back(piece);
    }
    fs::create_directories(folder / "levels");
    Level level;
    level.name = "Big", level.character = {"courier"};
    Layer layer;
    layer.id = {"l"};
    for (int i = 0; i < k_across * k_across; ++i) {
        PlacedPiece placed;
        placed.kit_file = kit.file, placed.piece_id = "k" + std::to_string((i * 7 + i / 31) % k_kinds);
        placed.place.at = {i % k_across * 5 + 2.5, i / k_across * 5 + 2.5, 0};
        layer.items.push_back(ItemPtr(Item{{"p" + std::to_string(i)}, {}, false, placed, {}}));
    }
    layer.items.push_back(ItemPtr(Item{{"s"}, {}, false, Element{"start", {2.5, 2.5, 0.5}, 0, {}}, {}}));
    layer.items.push_back(ItemPtr(Item{{"g"}, {}, false, Element{"goal", {97.5, 97.5, 0.5}, 0, {}}, {}}));
    level.layers.push_back(std::move(layer));
    return io::save_project(io::new_project("Big"), folder).has_value() && io::save_kit(kit, folder) &&
           io::save_level(level, folder / "levels/big.level.json");
}

void measure_pieces(const fs::path& folder) {
    std::optional<io::LoadedLevel> loaded;
    const double open_s = seconds_of([&] {
        auto read = io::load_level_with_project(folder / "levels/big.level.json");
        if (read) loaded = std::move(*read);
    });
    if (!loaded) return;
    size_t triangles = 0;
    for_each_item(loaded->level, [&](const Item& item, const Layer&) {
        if (item.piece() && item.piece()->piece && item.piece()->piece->body)
            for (const ModelPart& part : item.piece()->piece->body->model.parts)
                triangles += part.triangles.size();
    });
    std::printf("10,000 pieces, %zu triangles: opened in %.2f s, %.0f MB\n", triangles, open_s,
                resident_mb());
    build::SolidBuilder builder;
    check::CheckOptions options;
    options.explain = options.mends = false;
    std::shared_ptr<const check::CheckResult> before;
    const double check_s = seconds_of([&] {
        before = std::make_shared<check::CheckResult>(
            check::check_level(loaded->project, loaded->level, builder, options));
    });
    std::printf("checked in %.2f s (matter %.2f s, reach %.2f s), %.0f MB\n", check_s,
                before->timing.build_ms / 1000, before->timing.reach_ms / 1000, resident_mb());
    Level level = loaded->level;
    std::vector<double> matter, tint, whole;
    for (int i = 0; i < 9; ++i) {
        Item one = *find_item(loaded->level, {"p" + std::to_string(5050 + i)});
        one.id = {"more" + std::to_string(i)};
        std::get<PlacedPiece>(one.body).place.at.z = 4;
        level = edit::with_item(level, 0, one);
        options.before = before;
        const auto begin = std::chrono::steady_clock::now();
        options.on_reach = [&](const check::CheckResult&) {
            tint.push_back(std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count());
        };
        whole.push_back(seconds_of([&] {
            before = std::make_shared<check::CheckResult>(
                check::check_level(loaded->project, level, builder, options));
        }));
        matter.push_back(before->timing.build_ms / 1000);
    }
    const auto median_ms = [](std::vector<double>& times) {
        std::sort(times.begin(), times.end());
        return times[times.size() / 2] * 1000;
    };
    std::printf("one more placed: matter %.0f ms, the tint after %.0f ms, the whole check after %.0f ms "
                "(medians of 9)\n",
                median_ms(matter), median_ms(tint), median_ms(whole));
    std::fflush(stdout);
}

ItemPtr placed_at(const char* id, const std::string& source, const Vec3& at) {
    PlacedAssembly placed;
    placed.source = source, placed.place.at = at;
    return ItemPtr(Item{{id}, {}, false, std::move(placed), {}});
}

/// A drum in a winch in a hoist in a bay, 1,000 times.
void measure_assemblies() {
    Project project = io::new_project("Nested");
    const auto add = [&](const char* file, ItemPtr item) {
        Assembly assembly;
        assembly.file = file, assembly.name = file, assembly.items = ItemList{std::move(item)};
        project = edit::with_assembly(project, std::move(assembly));
    };
    Brush drum;
    drum.size = {1, 1, 1};
    add("drum", ItemPtr(Item{{"b"}, {}, false, drum, {}}));
    add("winch", placed_at("d", "drum", {0, 0, 1}));
    add("hoist", placed_at("w", "winch", {0, 0, 1}));
    add("bay", placed_at("h", "hoist", {0, 0, 1}));
    Level level = new_level("Nested", project.characters[0].id);
    for (int i = 0; i < 1000; ++i) {
        ItemId id;
        level = edit::with_placed(project, level, 0, "bay", {i % 40 * 3.0, i / 40 * 3.0, 0}, 0, id);
    }
    build::SolidBuilder builder;
    builder.build(level);
    Document document;
    document.project = Shared<Project>(project);
    document.levels.push_back({"l", Shared<Level>(level)});
    drum.size.z = 2;
    Assembly changed = *find_assembly(project, "drum");
    changed.items = ItemList{ItemPtr(Item{{"b"}, {}, false, drum, {}})};
    Document next;
    const double edit_s = seconds_of([&] {
        next = edit::with_project(document, edit::with_assembly(*document.project, std::move(changed)));
    });
    const double build_s = seconds_of([&] { builder.build(*next.levels[0].level); });
    std::printf(
        "an inner value of an assembly used 1,000 times, nested 4 deep: edit %.0f ms, solid %.0f ms\n",
        edit_s * 1000, build_s * 1000);
    std::fflush(stdout);
}

void measure_casts(const fs::path& file, int seeds) {
    auto rules = io::load_cast_rules(file);
    const auto project = io::load_project(io::project_folder_of(file));
    if (!rules || !project) return;
    rules->count = 100;
    rules->area.rows.assign(16, std::string(16, '#'));
    const auto parts = cast::parts_of(*project, *rules);
    if (!parts) return;
    double sum = 0, most = 0;
    int made = 0;
    for (int seed = 1; seed <= seeds; ++seed) {
        const double s = seconds_of(
            [&] { made += cast::cast_level(*project, *rules, *parts, uint64_t(seed)).has_value(); });
        sum += s, most = std::max(most, s);
    }
    std::printf("%d of %d casts of 100 pieces, each played: %.3f s, at most %.3f s\n", made, seeds,
                sum / seeds, most);
}

} // namespace

int main(int count, char** words) {
    if (count != 2 && count != 4) {
        std::fprintf(stderr, "usage: kit_times FOLDER [RULES SEEDS]\n");
        return 2;
    }
    if (!write_files(words[1])) return 1;
    measure_pieces(words[1]);
    measure_assemblies();
    if (count == 4) measure_casts(words[2], std::atoi(words[3]));
}
