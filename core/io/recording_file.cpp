#include "io/recording_file.h"

#include <algorithm>
#include <cmath>

#include "io/level_file.h"
#include "io/text_file.h"

namespace rubble::io {

namespace {

constexpr int k_format = 1;
/// Far beyond all levels.
constexpr double k_farthest_m = 1e5;
constexpr int k_jump = 1, k_crouch = 2, k_use = 4;
/// Three hours: longer recordings are damaged ones.
constexpr int k_most_steps = 120 * 60 * 180;

} // namespace

Json to_json(const motion::Recording& recording) {
    Json json;
    json["format"] = k_format;
    json["start"] = to_json(recording.start);
    Json runs = Json::array();
    for (const auto& run : recording.runs) {
        const int keys =
            (run.input.jump ? k_jump : 0) + (run.input.crouch ? k_crouch : 0) + (run.input.use ? k_use : 0);
        runs.push_back(Json::array({run.steps, run.input.stick.x, run.input.stick.y, keys}));
    }
    json["runs"] = runs;
    return json;
}

Result<motion::Recording> recording_from_json(const Json& json, const std::string& place) {
    Reader in(json, place);
    if (!in.ok()) return tl::unexpected(in.error());
    if (in.number("format", 0) > k_format)
        return fail("recording.format", place, "Made by a newer version of Rubble.");
    motion::Recording recording;
    const auto start = in.numbers("start", 3, {});
    if (start.size() != 3)
        in.fail("start", "a list of 3 numbers");
    else if (std::max({std::abs(start[0]), std::abs(start[1]), std::abs(start[2])}) > k_farthest_m)
        in.fail("start", "a place within 100000 m");
    else
        recording.start = {start[0], start[1], start[2]};
    int steps = 0;
    for (const Json& run : in.list("runs")) {
        const bool numbers = run.is_array() && run.size() == 4 && run[0].is_number_integer() &&
                             run[1].is_number() && run[2].is_number() && run[3].is_number_integer();
        if (!numbers) {
            in.fail("runs", "lists of steps, stick x, stick y, keys");
            break;
        }
        const int64_t count = run[0].get<int64_t>(), keys = run[3].get<int64_t>();
        const Vec2 stick(run[1].get<double>(), run[2].get<double>());
        if (count < 1 || count > k_most_steps - steps || keys < 0 || keys > 7 || !std::isfinite(stick.x) ||
            !std::isfinite(stick.y)) {
            in.fail("runs", "counts of at least 1, less than three hours in all, and keys from 0 to 7");
            break;
        }
        steps += int(count);
        recording.runs.push_back(
            {int(count), {stick, (keys & k_jump) != 0, (keys & k_crouch) != 0, (keys & k_use) != 0}});
    }
    if (!in.ok()) return tl::unexpected(in.error());
    return recording;
}

Result<motion::Recording> load_recording(const std::filesystem::path& path) {
    const auto text = read_file(path);
    if (!text) return tl::unexpected(text.error());
    const auto json = parse_json(*text, path.string());
    if (!json) return tl::unexpected(json.error());
    return recording_from_json(*json, path.string());
}

Result<void> save_recording(const motion::Recording& recording, const std::filesystem::path& path) {
    return write_file(path, to_text(to_json(recording)));
}

} // namespace rubble::io
