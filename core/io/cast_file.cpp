#include "io/cast_file.h"

#include <algorithm>
#include <cmath>

#include "io/format.h"
#include "io/kit_file.h"
#include "io/names.h"
#include "io/text_file.h"

namespace rubble::io {

namespace fs = std::filesystem;

namespace {

constexpr const char* k_rules_ending = ".cast.json";
constexpr std::array k_forms{Name<cast::Form>{"network", cast::Form::network},
                             Name<cast::Form>{"chain", cast::Form::chain}};
constexpr std::array k_uses{Name<cast::Use>{"any", cast::Use::any},
                            Name<cast::Use>{"start", cast::Use::start},
                            Name<cast::Use>{"goal", cast::Use::goal}};
constexpr std::array k_cast_frames{Name<Frame>{"space", Frame::space}, Name<Frame>{"side", Frame::side},
                                   Name<Frame>{"plan", Frame::plan}};
constexpr double k_farthest_cell = 1e6;

int whole(Reader& in, const std::string& key, int otherwise, int least, int most) {
    const double value = in.number(key, otherwise);
    if (value == std::floor(value) && value >= least && value <= most) return int(value);
    in.fail(key, "a whole number from " + std::to_string(least) + " to " + std::to_string(most));
    return otherwise;
}

double share(Reader& in, const std::string& key, double otherwise) {
    const double value = in.number(key, otherwise);
    if (!(value >= 0 && value <= 1)) in.fail(key, "a share from 0 to 1");
    return value;
}

cast::ModuleCell cell(Reader& in, const std::string& key) {
    cast::ModuleCell out{0, 0, 0};
    const auto numbers = in.numbers(key, 3, {0, 0, 0});
    for (size_t axis = 0; axis < 3; ++axis) {
        if (numbers[axis] != std::floor(numbers[axis]) || std::abs(numbers[axis]) > k_farthest_cell)
            in.fail(key, "three whole numbers");
        else
            out[axis] = int(numbers[axis]);
    }
    return out;
}

cast::Area read_area(Reader& in) {
    cast::Area out;
    out.low = cell(in, "low");
    out.storeys = whole(in, "storeys", 1, 1, 100);
    size_t columns = 0;
    for (const Json& row : in.strings("rows")) {
        out.rows.push_back(row.get<std::string>());
        columns = std::max(columns, out.rows.back().size());
    }
    if (out.rows.empty() || columns * out.rows.size() * size_t(out.storeys) > size_t(cast::most_cells))
        in.fail("rows", "rows of # for cells, up to " + std::to_string(cast::most_cells) + " in all");
    return out;
}

cast::Candidate read_candidate(Reader& in) {
    cast::Candidate out;
    out.kit_file = in.text("kit"), out.piece_id = in.text("piece"), out.source = in.text("assembly");
    if (out.source.empty() == out.piece_id.empty()) in.fail("piece", "a piece of a kit, or an assembly");
    out.weight = in.number("weight", 1);
    if (!(out.weight >= 0 && out.weight <= 1e6)) in.fail("weight", "a number from 0 to 1000000");
    out.at_least = whole(in, "at_least", 0, 0, cast::most_pieces);
    if (in.has("at_most")) out.at_most = whole(in, "at_most", 0, 0, cast::most_pieces);
    out.use = choice(in, "use", k_uses, "any");
    out.turns = in.flag("turns", true), out.mirrors = in.flag("mirrors", false);
    const Json& joints = in.list("joints");
    for (size_t i = 0; i < joints.size() && in.ok(); ++i) {
        Reader joint(joints[i], in.place(), in.path_of("joints") + "/" + std::to_string(i));
        out.joints.push_back(read_joint(joint));
        in.take_error(joint);
    }
    out.extra = in.rest();
    return out;
}

Json candidate_json(const cast::Candidate& candidate) {
    Json json;
    if (candidate.source.empty())
        json["kit"] = candidate.kit_file, json["piece"] = candidate.piece_id;
    else
        json["assembly"] = candidate.source;
    json["weight"] = candidate.weight;
    if (candidate.at_least > 0) json["at_least"] = candidate.at_least;
    if (candidate.at_most != cast::Candidate::unlimited) json["at_most"] = candidate.at_most;
    if (candidate.use != cast::Use::any) json["use"] = key_of(k_uses, candidate.use);
    if (!candidate.turns) json["turns"] = false;
    if (candidate.mirrors) json["mirrors"] = true;
    add_rest(json, candidate.extra);
    if (!candidate.joints.empty()) {
        json["joints"] = Json::array();
        for (const Joint& joint : candidate.joints) json["joints"].push_back(to_json(joint));
    }
    return json;
}

void read_apart(Reader& in, cast::Rules& rules) {
    const Json& list = in.list("apart");
    for (size_t i = 0; i < list.size() && in.ok(); ++i) {
        Reader pair(list[i], in.place(), in.path_of("apart") + "/" + std::to_string(i));
        rules.apart.emplace_back(pair.text("a"), pair.text("b"));
        in.take_error(pair);
    }
}

} // namespace

Result<cast::Rules> cast_rules_from_text(const std::string& text, const std::string& place) {
    const auto json = parse_json(text, place);
    if (!json) return tl::unexpected(json.error());
    Reader in(*json, place);
    if (!in.ok()) return tl::unexpected(in.error());
    if (const auto newer = newer_format(in, k_cast_format, "cast.format")) return tl::unexpected(*newer);
    cast::Rules rules;
    rules.name = in.text("name", "Cast");
    rules.frame = choice(in, "frame", k_cast_frames, "space");
    rules.character = in.text("character");
    if (in.has("module_m")) {
        rules.module_m = point(in, "module_m", Vec3(1));
        for (int axis = 0; axis < 3; ++axis)
            if (!((*rules.module_m)[axis] >= 0.01 && (*rules.module_m)[axis] <= 1000))
                in.fail("module_m", "three sizes from 0.01 to 1000 m");
    }
    rules.form = choice(in, "form", k_forms, "network");
    Reader area(in.object("area"), place, in.path_of("area"));
    rules.area = read_area(area);
    in.take_error(area);
    rules.count = whole(in, "count", rules.count, 1, cast::most_pieces);
    rules.loops = share(in, "loops", rules.loops), rules.dead_ends = share(in, "dead_ends", rules.dead_ends);
    if (in.has("start")) rules.start = cell(in, "start");
    rules.goal_away = whole(in, "goal_away", rules.goal_away, 0, cast::most_pieces);
    rules.open_joints = in.flag("open_joints", false);
    const Json& parts = in.list("parts");
    for (size_t i = 0; i < parts.size() && in.ok(); ++i) {
        Reader part(parts[i], place, in.path_of("parts") + "/" + std::to_string(i));
        rules.candidates.push_back(read_candidate(part));
        in.take_error(part);
    }
    read_apart(in, rules);
    if (!in.ok()) return tl::unexpected(in.error());
    rules.extra = in.rest();
    return rules;
}

std::string text_of(const cast::Rules& rules) {
    Json json;
    json["format"] = k_cast_format, json["name"] = rules.name;
    json["frame"] = key_of(k_cast_frames, rules.frame);
    if (!rules.character.empty()) json["character"] = rules.character;
    if (rules.module_m) json["module_m"] = to_json(*rules.module_m);
    json["form"] = key_of(k_forms, rules.form);
    json["area"] = {{"low", rules.area.low}, {"storeys", rules.area.storeys}, {"rows", rules.area.rows}};
    json["count"] = rules.count, json["loops"] = rules.loops, json["dead_ends"] = rules.dead_ends;
    if (rules.start) json["start"] = *rules.start;
    json["goal_away"] = rules.goal_away, json["open_joints"] = rules.open_joints;
    add_rest(json, rules.extra);
    json["parts"] = Json::array();
    for (const cast::Candidate& candidate : rules.candidates)
        json["parts"].push_back(candidate_json(candidate));
    json["apart"] = Json::array();
    for (const auto& [a, b] : rules.apart) json["apart"].push_back({{"a", a}, {"b", b}});
    return to_text(json);
}

Json to_json(const cast::Figures& figures) {
    return {{"time_s", figures.time_s},
            {"length_m", figures.length_m},
            {"spans", {{"easy", figures.easy}, {"fair", figures.fair}, {"tight", figures.tight}}},
            {"pieces", figures.pieces},
            {"dead_ends", figures.dead_ends},
            {"loops", figures.loops},
            {"pick_ups", figures.pick_ups},
            {"open_joints", figures.open_joints}};
}

Result<cast::Rules> load_cast_rules(const fs::path& path) {
    const auto text = read_file(path);
    if (!text) return tl::unexpected(text.error());
    return cast_rules_from_text(*text, path.string());
}

Result<void> save_cast_rules(const cast::Rules& rules, const fs::path& path) {
    std::error_code error;
    fs::create_directories(path.parent_path(), error);
    return write_file(path, text_of(rules));
}

std::vector<fs::path> cast_rules_files(const fs::path& folder) {
    std::vector<fs::path> out;
    std::error_code error;
    for (const auto& entry : fs::directory_iterator(folder / "casts", error))
        if (entry.path().string().ends_with(k_rules_ending)) out.push_back(entry.path());
    std::sort(out.begin(), out.end());
    return out;
}

} // namespace rubble::io
