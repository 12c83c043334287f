#include "parcel/parcel.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <cstring>
#include <set>

#include <zip.h>
#include <zlib.h>

#include "build/solid_builder.h"
#include "io/export_formats.h"
#include "io/level_file.h"
#include "io/report.h"
#include "io/text_file.h"
#include "io/tile_csv.h"
#include "motion/world.h"
#include "parcel/plan_drawing.h"
#include "parcel/schemas.h"
#include "parcel/tables.h"
#include "study/players.h"

namespace rubble::parcel {

namespace fs = std::filesystem;

namespace {

constexpr std::array k_parts{PartKind{Part::geometry, "geometry", "Geometry, what is met apart"},
                             PartKind{Part::layers, "layers", "Geometry layer by layer"},
                             PartKind{Part::materials, "materials", "Materials and their pictures"},
                             PartKind{Part::tables, "tables", "Elements, their values, and names"},
                             PartKind{Part::tiles, "tiles", "Rows of tiles"},
                             PartKind{Part::level, "level", "The level itself"},
                             PartKind{Part::schemas, "schemas", "What its JSON files are made like"},
                             PartKind{Part::grey, "grey", "What is still grey, with sizes"},
                             PartKind{Part::plans, "plans", "Plans by storeys, with dimensions"},
                             PartKind{Part::check, "check", "All that was found, for machines"},
                             PartKind{Part::players, "players", "How simulated players fare"},
                             PartKind{Part::page, "page", "What was checked, on a page and as PDF"}};

const std::vector<ParcelKind>& usual_kinds() {
    static const std::vector<ParcelKind> kinds{
        {"programmer",
         "Programmer",
         "geometry with its collision, elements, tiles and names",
         {Part::geometry, Part::tables, Part::tiles, Part::level, Part::schemas}},
        {"artist",
         "Artist",
         "geometry by layer, materials, pieces, what is grey, and plans",
         {Part::geometry, Part::layers, Part::materials, Part::grey, Part::plans}},
        {"tester",
         "Tester",
         "what was checked, on one page, and plans",
         {Part::check, Part::players, Part::plans, Part::page}}};
    return kinds;
}

/// So many play, from the first seed on, with hands such as these.
constexpr int k_players = 200;

const char* const k_list = "parcel.json";

/// A name for a file: letters, digits, - and _ of what is given, all else as -.
std::string file_name(const std::string& of) {
    std::string out = of.empty() ? "level" : of;
    for (char& c : out)
        if (!std::isalnum(static_cast<unsigned char>(c)) && c != '-' && c != '_') c = '-';
    return out;
}

std::string sum_of(const std::string& bytes) {
    const uLong sum = crc32(0, reinterpret_cast<const Bytef*>(bytes.data()), uInt(bytes.size()));
    char text[16];
    std::snprintf(text, sizeof text, "%08lx", static_cast<unsigned long>(sum));
    return text;
}

/// A folder of its own that is gone afterwards.
class WorkFolder {
public:
    WorkFolder() {
        std::string pattern = (fs::temp_directory_path() / "rubble-parcel-XXXXXX").string();
        if (mkdtemp(pattern.data())) path_ = pattern;
    }
    WorkFolder(const WorkFolder&) = delete;
    WorkFolder& operator=(const WorkFolder&) = delete;
    ~WorkFolder() {
        std::error_code error;
        if (!path_.empty()) fs::remove_all(path_, error);
    }
    const fs::path& path() const { return path_; }

private:
    fs::path path_;
};

class Maker {
public:
    Maker(const Project& project, const Level& level, const check::CheckResult& result, const Cancel& cancel,
          const Progress& progress, const Pictures& pictures)
        : project_(project),
          level_(level),
          result_(result),
          cancel_(cancel),
          progress_(progress),
          pictures_(pictures),
          name_(file_name(level.name)) {}

    Result<Files> run(const ParcelKind& kind) {
        using Step = Result<void> (Maker::*)();
        constexpr std::array<std::pair<Part, Step>, 12> k_steps{{{Part::geometry, &Maker::geometry},
                                                                 {Part::layers, &Maker::layers},
                                                                 {Part::materials, &Maker::materials},
                                                                 {Part::tables, &Maker::tables},
                                                                 {Part::tiles, &Maker::tiles},
                                                                 {Part::level, &Maker::level_itself},
                                                                 {Part::schemas, &Maker::schemas},
                                                                 {Part::grey, &Maker::grey},
                                                                 {Part::plans, &Maker::plans},
                                                                 {Part::check, &Maker::check},
                                                                 {Part::players, &Maker::players},
                                                                 {Part::page, &Maker::page}}};
        size_t done = 0; // in this order, whatever the kind's: the page shows the plans and the players
        for (const auto& [part, step] : k_steps) {
            if (std::find(kind.parts.begin(), kind.parts.end(), part) == kind.parts.end()) continue;
            if (cancel_.requested()) return fail("cancelled", {}, "The parcel was not made.");
            if (const auto made = (this->*step)(); !made) return tl::unexpected(made.error());
            if (progress_) progress_(double(++done) / double(kind.parts.size()));
        }
        list(kind);
        return std::move(files_);
    }

private:
    /// Writes with a form of export, and takes what it wrote.
    Result<void> exported(const Level& level, const std::string& name, const std::string& folder = {}) {
        WorkFolder work;
        if (work.path().empty())
            return fail("file.write", fs::temp_directory_path().string(), "No folder can be made there.");
        const auto written = io::export_level(project_, level, work.path() / name);
        if (!written) return written;
        for (const auto& entry : fs::recursive_directory_iterator(work.path())) {
            if (!entry.is_regular_file()) continue;
            auto bytes = io::read_file(entry.path());
            if (!bytes) return tl::unexpected(bytes.error());
            const std::string place = fs::relative(entry.path(), work.path()).generic_string();
            files_[folder.empty() ? place : folder + "/" + place] = std::move(*bytes);
        }
        return {};
    }

    Result<void> geometry() { return exported(level_, name_ + ".glb"); }

    /// Each layer alone, in the level's axes.
    Result<void> layers() {
        for (const auto& layer : level_.layers) {
            if (layer->items.empty() || cancel_.requested()) continue;
            Level alone = level_;
            for (auto& other : alone.layers)
                if (other->id != layer->id) {
                    Layer empty = *other;
                    empty.items = {};
                    other = std::move(empty);
                }
            if (const auto done = exported(
                    alone, file_name(layer->name) + "-" + file_name(layer->id.value) + ".glb", "layers");
                !done)
                return done;
        }
        return {};
    }

    Result<void> tables() {
        files_["elements.csv"] = elements_csv(level_);
        files_["elements.json"] = io::to_text(elements_json(level_));
        files_["names.csv"] = names_csv(level_);
        return {};
    }

    Result<void> tiles() {
        for (const auto& layer : level_.layers)
            if (layer->tiles) {
                const TileLayer& tiles = **layer->tiles;
                files_["tiles/" + file_name(layer->id.value) + ".csv"] = io::csv_of(tiles.grid);
                if (tiles.solid)
                    files_["tiles/" + file_name(layer->id.value) + ".collision.csv"] =
                        io::collision_csv_of(tiles);
            }
        return {};
    }

    Result<void> materials() {
        std::set<MaterialId> used;
        for_each_item(level_, [&](const Item& item, const Layer&) {
            if (!item.brush()) return;
            used.insert(item.brush()->material);
            for (const auto& [face, look] : item.brush()->looks) used.insert(look.material);
        });
        files_["materials.csv"] = materials_csv(project_, used);
        for (const Material& material : project_.materials)
            if (used.contains(material.id))
                for (const auto& [role, bytes] : material.read)
                    if (const auto file = material.pictures.find(role); file != material.pictures.end())
                        files_["materials/" + fs::path(file->second).filename().string()] = bytes->bytes;
        return {};
    }

    Result<void> schemas() {
        for (const Schema& schema : schemas_of_files()) files_["schemas/" + schema.name] = schema.text;
        return {};
    }

    Result<void> level_itself() {
        files_[name_ + ".level.json"] = io::text_of(level_);
        return {};
    }

    Result<void> grey() {
        files_["grey.csv"] = grey_csv(level_);
        return {};
    }

    Result<void> plans() {
        const std::vector<Plan> drawn = plans_of(level_, *result_.world);
        const auto pdf = pdf_of(drawn);
        if (!pdf) return tl::unexpected(pdf.error());
        files_["plans.pdf"] = *pdf;
        for (size_t i = 0; i < drawn.size(); ++i) {
            const std::string name = "plans/" + std::to_string(i + 1) + "-" + file_name(drawn[i].name);
            auto svg = svg_of(drawn[i]);
            auto png = png_of(drawn[i]);
            if (!svg) return tl::unexpected(svg.error());
            if (!png) return tl::unexpected(png.error());
            drawings_.push_back(*svg);
            files_[name + ".svg"] = std::move(*svg), files_[name + ".png"] = std::move(*png);
        }
        return {};
    }

    Result<void> check() {
        io::Json report = io::check_report(level_, result_);
        report.erase("timing_ms"); // a parcel is the same whenever it is made
        files_["check.json"] = io::to_text(report);
        return {};
    }

    /// On the way from the first start to the first goal that is reached.
    Result<void> players() {
        const auto starts = elements_of(level_, Role::start);
        if (starts.empty() || level_.walked == Walked::by_cells) return {};
        for (const Item* goal : elements_of(level_, Role::goal)) {
            study::PlayersOptions options;
            options.skill = skills_of(project_).front();
            options.runs = k_players, options.cancel = cancel_;
            const auto crowd = study::run_players(level_, result_, starts[0]->id, goal->id, options);
            if (!crowd) continue; // nobody gets there
            crowd_ = PlayedBy{options.skill.name, *crowd};
            return {};
        }
        return {};
    }

    Result<void> page() {
        const TestReport report = test_report(project_, level_, result_, crowd_);
        files_["index.html"] = html_of(report, drawings_, pictures_);
        auto pdf = pdf_of(report);
        if (!pdf) return tl::unexpected(pdf.error());
        files_["report.pdf"] = std::move(*pdf);
        return {};
    }

    void list(const ParcelKind& kind) {
        io::Json out = io::Json::object();
        out["format"] = 1;
        out["level"] = level_.name;
        out["for"] = kind.key;
        const Open open = open_in(level_, result_);
        out["open"] = {{"blockers", open.blockers}, {"failing_claims", open.failing_claims}};
        io::Json files = io::Json::array();
        for (const auto& [path, bytes] : files_)
            files.push_back({{"path", path}, {"bytes", bytes.size()}, {"crc32", sum_of(bytes)}});
        out["files"] = std::move(files);
        files_[k_list] = io::to_text(out);
    }

    const Project& project_;
    const Level& level_;
    const check::CheckResult& result_;
    const Cancel& cancel_;
    const Progress& progress_;
    const Pictures& pictures_;
    const std::string name_;
    Files files_;
    std::optional<PlayedBy> crowd_;
    std::vector<std::string> drawings_;
};

bool is_zip(const fs::path& target) { return target.extension() == ".zip"; }

/// The sums of a list's files by their paths.
std::map<std::string, std::string> sums_in(const std::string& list) {
    std::map<std::string, std::string> out;
    const auto json = io::parse_json(list, k_list);
    if (!json || !json->is_object() || !json->contains("files") || !(*json)["files"].is_array()) return out;
    for (const io::Json& file : (*json)["files"])
        if (file.is_object() && file.contains("path") && file["path"].is_string() && file.contains("crc32") &&
            file["crc32"].is_string())
            out[file["path"].get<std::string>()] = file["crc32"].get<std::string>();
    return out;
}

/// The list of the parcel that is there already.
std::optional<std::string> list_before(const fs::path& target) {
    std::error_code error;
    if (!is_zip(target)) {
        const auto text = io::read_file(target / k_list);
        return text ? std::optional(*text) : std::nullopt;
    }
    if (!fs::exists(target, error)) return {};
    int why = 0;
    zip_t* zip = zip_open(target.c_str(), ZIP_RDONLY, &why);
    if (!zip) return {};
    std::optional<std::string> out;
    zip_stat_t stat;
    constexpr zip_uint64_t k_most = 64 << 20;
    if (zip_stat(zip, k_list, 0, &stat) == 0 && (stat.valid & ZIP_STAT_SIZE) && stat.size < k_most)
        if (zip_file_t* file = zip_fopen(zip, k_list, 0)) {
            std::string text(stat.size, '\0');
            const zip_int64_t read = zip_fread(file, text.data(), stat.size);
            if (read == zip_int64_t(stat.size)) out = std::move(text);
            zip_fclose(file);
        }
    zip_discard(zip);
    return out;
}

Result<std::string> zipped(const Files& files) {
    zip_error_t why;
    zip_error_init(&why);
    zip_source_t* into = zip_source_buffer_create(nullptr, 0, 0, &why);
    zip_t* zip = into ? zip_open_from_source(into, ZIP_TRUNCATE, &why) : nullptr;
    if (!zip) return fail("parcel.zip", {}, zip_error_strerror(&why));
    zip_source_keep(into);
    bool good = true;
    for (const auto& [path, bytes] : files) {
        zip_source_t* source = zip_source_buffer(zip, bytes.data(), bytes.size(), 0);
        const zip_int64_t at = source ? zip_file_add(zip, path.c_str(), source, ZIP_FL_ENC_UTF_8) : -1;
        if (at < 0) {
            if (source) zip_source_free(source);
            good = false;
            break;
        }
        // The same bytes whenever it is made: the first day that the format knows.
        constexpr uint16_t k_first_day = (1 << 5) | 1;
        good &= zip_file_set_dostime(zip, zip_uint64_t(at), 0, k_first_day, 0) == 0;
    }
    if (!good || zip_close(zip) != 0) {
        const std::string said = zip_strerror(zip);
        zip_discard(zip);
        zip_source_free(into);
        return fail("parcel.zip", {}, said);
    }
    zip_source_open(into);
    zip_source_seek(into, 0, SEEK_END);
    std::string out(size_t(zip_source_tell(into)), '\0');
    zip_source_seek(into, 0, SEEK_SET);
    const bool read = zip_source_read(into, out.data(), out.size()) == zip_int64_t(out.size());
    zip_source_close(into);
    zip_source_free(into);
    if (!read) return fail("parcel.zip", {}, "The zip could not be put together.");
    return out;
}

} // namespace

std::span<const PartKind> part_kinds() { return k_parts; }

std::vector<ParcelKind> parcel_kinds(const Project& project) {
    std::vector<ParcelKind> out = usual_kinds();
    for (const ParcelSet& set : project.parcels) {
        ParcelKind own{set.key, set.name.empty() ? set.key : set.name, {}, {}};
        for (const std::string& key : set.parts)
            for (const PartKind& kind : k_parts)
                if (key == kind.key) own.parts.push_back(kind.part);
        const auto usual =
            std::find_if(out.begin(), out.end(), [&](const ParcelKind& kind) { return kind.key == own.key; });
        if (usual == out.end())
            out.push_back(std::move(own));
        else
            *usual = std::move(own);
    }
    return out;
}

std::optional<ParcelKind> parcel_kind(const Project& project, const std::string& key) {
    for (ParcelKind& kind : parcel_kinds(project))
        if (kind.key == key) return std::move(kind);
    return {};
}

Open open_in(const Level& level, const check::CheckResult& result) {
    Open out;
    for (const check::Finding& finding : result.findings)
        if (finding.severity == check::Severity::blocker)
            out.blockers.push_back(in_english(finding.says, level));
    for (const check::ClaimResult& claim : result.claims) {
        if (claim.state == check::ClaimState::holds) continue;
        const auto named = std::find_if(level.claims.begin(), level.claims.end(),
                                        [&](const Claim& c) { return c.id == claim.id; });
        out.failing_claims.push_back(named != level.claims.end() && !named->name.empty() ? named->name
                                                                                         : claim.id.value);
    }
    return out;
}

Result<Files> parcel_of(const Project& project, const Level& level, const check::CheckResult& result,
                        const ParcelKind& kind, const Cancel& cancel, const Progress& progress,
                        const Pictures& pictures) {
    return Maker(project, level, result, cancel, progress, pictures).run(kind);
}

std::optional<Changes> changes_since(const Files& files, const fs::path& target) {
    const auto list = list_before(target);
    if (!list) return {};
    const auto was = sums_in(*list);
    Changes out;
    for (const auto& [path, bytes] : files) {
        if (path == k_list) continue;
        const auto before = was.find(path);
        if (before == was.end())
            out.added.push_back(path);
        else if (before->second != sum_of(bytes))
            out.changed.push_back(path);
    }
    for (const auto& [path, sum] : was)
        if (!files.contains(path)) out.gone.push_back(path);
    return out;
}

Result<void> write_parcel(const Files& files, const fs::path& target) {
    if (is_zip(target)) {
        const auto bytes = zipped(files);
        if (!bytes) return tl::unexpected(bytes.error());
        return io::write_file(target, *bytes);
    }
    std::error_code error;
    if (const auto list = list_before(target))
        for (const auto& [path, sum] : sums_in(*list)) {
            // What a list names must lie in its folder.
            const fs::path inside = fs::path(path).lexically_normal();
            if (!inside.is_absolute() && *inside.begin() != ".." && !files.contains(path))
                fs::remove(target / inside, error);
        }
    for (const auto& [path, bytes] : files) {
        const fs::path place = target / path;
        fs::create_directories(place.parent_path(), error);
        if (error) return fail("file.write", place.parent_path().string(), "No folder can be made there.");
        if (const auto written = io::write_file(place, bytes); !written) return written;
    }
    return {};
}

} // namespace rubble::parcel
