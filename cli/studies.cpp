#include <algorithm>
#include <iostream>
#include <mutex>

#include "base/parallel.h"
#include "commands.h"
#include "io/git_versions.h"
#include "io/project_file.h"
#include "io/report.h"
#include "io/study_report.h"
#include "io/text_file.h"

namespace rubble::cli {

namespace {

/// A level, and its check without what only explains.
struct Checked {
    io::LoadedLevel loaded;
    check::CheckResult result;
};

Result<Checked> checked_level(const std::string& file, const Cancel& cancel,
                              const std::string& version = {}) {
    auto loaded = io::load_level_with_project(file);
    if (!loaded) return tl::unexpected(loaded.error());
    if (!version.empty()) {
        auto then = io::level_in_git(file, version, loaded->project);
        if (!then) return tl::unexpected(then.error());
        loaded->project = std::move(then->project), loaded->level = std::move(then->level);
    }
    check::CheckOptions options;
    options.explain = options.mends = false, options.cancel = cancel;
    check::CheckResult result = check::check_level(loaded->project, loaded->level, options);
    return Checked{std::move(*loaded), std::move(result)};
}

/// "3/8": the third of eight parts.
struct Shard {
    int number = 1, of = 1;
    bool has(size_t index) const { return index % size_t(of) == size_t(number - 1); }
};

Result<Shard> shard_from(const std::string& text) {
    Shard shard;
    if (text.empty()) return shard;
    char slash = 0, more = 0;
    const int read = std::sscanf(text.c_str(), "%d%c%d%c", &shard.number, &slash, &shard.of, &more);
    if (read != 3 || slash != '/' || shard.of < 1 || shard.number < 1 || shard.number > shard.of)
        return fail("usage", text, "is no part; the third of eight is 3/8");
    return shard;
}

/// The first element of a role, where none was named.
ItemId named_or_first(const Level& level, const std::string& id, Role role) {
    if (!id.empty()) return {id};
    const auto all = elements_of(level, role);
    return all.empty() ? ItemId{role == Role::start ? "start" : "goal"} : all[0]->id;
}

void tell(const io::Json& report) {
    std::cout << report["arrived"] << " of " << report["runs"] << " arrive (" << report["low"] << " to "
              << report["high"] << ")\n";
    for (const io::Json& fall : report["falls"])
        std::cout << fall["count"] << " misses, " << fall["lost_ms"].get<int64_t>() / 1000
                  << " s lost: " << fall["span"].dump() << '\n';
}

/// Every part has its own row of seeds.
struct RunsOfPart {
    int runs = 0;
    uint64_t first_seed = 1;
};

Result<RunsOfPart> part_of(const PlayersArguments& arguments) {
    const auto shard = shard_from(arguments.shard);
    if (!shard) return tl::unexpected(shard.error());
    const int each = arguments.runs / shard->of, more = arguments.runs % shard->of;
    return RunsOfPart{each + (shard->number <= more ? 1 : 0),
                      arguments.seed + uint64_t(each) * uint64_t(shard->number - 1) +
                          uint64_t(std::min(shard->number - 1, more))};
}

int put_players(const PlayersArguments& arguments, const io::Json& report) {
    if (!arguments.json.empty()) return put(arguments.json, io::to_text(report), all_holds);
    tell(report);
    return all_holds;
}

int run_explorers(const PlayersArguments& arguments, const Cancel& cancel) {
    const auto part = part_of(arguments);
    if (!part) return unusable_input(part.error());
    const auto loaded = io::load_level_with_project(arguments.level);
    if (!loaded) return unusable_input(loaded.error());
    study::ExplorersOptions options;
    options.runs = part->runs, options.first_seed = part->first_seed;
    options.within_s = arguments.within_s, options.cancel = cancel;
    const ItemId from = named_or_first(loaded->level, arguments.from, Role::start),
                 to = named_or_first(loaded->level, arguments.to, Role::goal);
    const auto found = study::run_explorers(loaded->project, loaded->level, from, to, options);
    if (!found) return unusable_input(found.error());
    if (!found->crowd.complete) return interrupted;
    io::Json report = io::exploration_report(loaded->level, *found);
    report["from"] = from.value, report["to"] = to.value, report["skill"] = "exploring";
    report["within_s"] = options.within_s;
    return put_players(arguments, report);
}

} // namespace

int run_players(const PlayersArguments& arguments, const Cancel& cancel) {
    if (arguments.exploring) return run_explorers(arguments, cancel);
    const auto part = part_of(arguments);
    if (!part) return unusable_input(part.error());
    const auto checked = checked_level(arguments.level, cancel);
    if (!checked) return unusable_input(checked.error());
    if (!checked->result.complete) return interrupted;
    const Level& level = checked->loaded.level;
    study::PlayersOptions options;
    const std::vector<Skill> skills = skills_of(checked->loaded.project);
    const auto skill = std::find_if(skills.begin(), skills.end(),
                                    [&](const Skill& one) { return one.name == arguments.skill; });
    if (arguments.skill != "exact" && skill == skills.end())
        return unusable_input(
            fail("players.skill", arguments.skill, "is no skill of the project; \"exact\" makes no mistakes")
                .value());
    options.skill = skill == skills.end() ? Skill{"exact"} : *skill;
    options.runs = part->runs, options.first_seed = part->first_seed;
    options.cancel = cancel;
    const ItemId from = named_or_first(level, arguments.from, Role::start),
                 to = named_or_first(level, arguments.to, Role::goal);
    const auto crowd = study::run_players(level, checked->result, from, to, options);
    if (!crowd) return unusable_input(crowd.error());
    if (!crowd->complete) return interrupted;
    io::Json report = io::crowd_report(level, *crowd);
    report["from"] = from.value, report["to"] = to.value, report["skill"] = options.skill.name;
    return put_players(arguments, report);
}

int run_gather(const std::vector<std::string>& files, const std::string& json) {
    std::vector<io::Json> reports;
    for (const std::string& file : files) {
        const auto text = io::read_file(file);
        if (!text) return unusable_input(text.error());
        auto report = io::parse_json(*text, file);
        if (!report) return unusable_input(report.error());
        reports.push_back(std::move(*report));
    }
    const auto whole = io::gathered(reports);
    if (!whole) return unusable_input(whole.error());
    return put(json.empty() ? "-" : json, io::to_text(*whole), all_holds);
}

int run_what_if(const std::string& file, const std::vector<std::string>& sets, const std::string& json,
                const Cancel& cancel) {
    const auto checked = checked_level(file, cancel);
    if (!checked) return unusable_input(checked.error());
    std::vector<study::MetricChange> changes;
    for (const std::string& set : sets) {
        const auto change = study::metric_change_from(checked->loaded.project, set);
        if (!change) return unusable_input(change.error());
        changes.push_back(*change);
    }
    const study::WhatIf what =
        study::what_if(checked->loaded.project, checked->loaded.level, checked->result, changes, cancel);
    if (!what.now.complete) return interrupted;
    const int code = what.comparison.got_worse() ? something_fails : all_holds;
    return put(json.empty() ? "-" : json,
               io::to_text(io::comparison_report(checked->loaded.level, what.comparison)), code);
}

int run_limits(const std::string& file, const std::vector<std::string>& metrics, const std::string& json,
               const Cancel& cancel) {
    const auto checked = checked_level(file, cancel);
    if (!checked) return unusable_input(checked.error());
    std::vector<const CharacterField*> fields;
    for (const std::string& key : metrics) {
        fields.push_back(find_character_field(key));
        if (!fields.back())
            return unusable_input(fail("metric.name", key, "is no metric of a character").value());
    }
    if (fields.empty())
        for (const CharacterField& field : character_fields())
            if (field.helps != Helps::neither) fields.push_back(&field);
    std::vector<study::MetricLimit> limits(fields.size());
    parallel_for(fields.size(), [&](size_t i) {
        limits[i] = study::limit_of(checked->loaded.project, checked->loaded.level, checked->result,
                                    *fields[i], cancel);
    });
    if (cancel.requested()) return interrupted;
    return put(json.empty() ? "-" : json, io::to_text(io::limits_report(checked->loaded.level, limits)),
               all_holds);
}

int run_sides(const std::string& file, const std::string& json, const Cancel& cancel) {
    const auto checked = checked_level(file, cancel);
    if (!checked) return unusable_input(checked.error());
    const auto sides =
        study::sides_of(checked->loaded.project, checked->loaded.level, checked->result, cancel);
    if (!sides) return unusable_input(sides.error());
    if (cancel.requested()) return interrupted;
    const bool fair = std::all_of(sides->ways.begin(), sides->ways.end(),
                                  [](const study::Sides::Way& way) { return way.fair(); });
    return put(json.empty() ? "-" : json, io::to_text(io::sides_report(checked->loaded.level, *sides)),
               fair ? all_holds : something_fails);
}

int run_against(const std::string& now_file, const std::string& was_file, const std::string& json,
                const Cancel& cancel) {
    // "git:HEAD~1": the same file as it was then.
    constexpr std::string_view k_git = "git:";
    const bool in_git = was_file.starts_with(k_git);
    const auto now = checked_level(now_file, cancel),
               was = in_git ? checked_level(now_file, cancel, was_file.substr(k_git.size()))
                            : checked_level(was_file, cancel);
    if (!now) return unusable_input(now.error());
    if (!was) return unusable_input(was.error());
    if (!now->result.complete || !was->result.complete) return interrupted;
    const study::Comparison comparison = study::comparison_of(was->result, now->result);
    return put(json.empty() ? "-" : json, io::to_text(io::comparison_report(now->loaded.level, comparison)),
               comparison.got_worse() ? something_fails : all_holds);
}

int run_check_all(const std::string& folder, const std::string& part, const std::string& json,
                  bool claims_only, const Cancel& cancel) {
    const auto shard = shard_from(part);
    if (!shard) return unusable_input(shard.error());
    std::filesystem::path root = folder;
    std::vector<std::filesystem::path> files = io::level_files(root);
    if (files.empty())
        return unusable_input(
            fail("check.none", folder, "has no levels; name a level, or a project's folder").value());
    std::sort(files.begin(), files.end());
    std::vector<std::filesystem::path> own;
    for (size_t i = 0; i < files.size(); ++i)
        if (shard->has(i)) own.push_back(files[i]);
    std::vector<io::Json> reports(own.size());
    std::vector<int> codes(own.size(), all_holds);
    parallel_for(own.size(), [&](size_t i) {
        io::Json one;
        one["file"] = std::filesystem::relative(own[i], root).generic_string();
        const auto loaded = io::load_level_with_project(own[i]);
        if (!loaded) {
            one["error"] = loaded.error().text();
            codes[i] = unusable;
        } else {
            check::CheckOptions options;
            options.cancel = cancel;
            auto result = check::check_level(loaded->project, loaded->level, options);
            study::judge_shares(loaded->project, loaded->level, result, cancel);
            one["report"] = io::check_report(loaded->level, result);
            one["report"].erase("timing_ms"); // nothing that differs from run to run
            codes[i] = exit_of(result, claims_only);
        }
        reports[i] = std::move(one);
    });
    if (cancel.requested()) return interrupted;
    const int code = codes.empty() ? int(all_holds) : *std::max_element(codes.begin(), codes.end());
    if (!json.empty()) return put(json, io::to_text(io::Json{{"levels", reports}}), code);
    for (size_t i = 0; i < own.size(); ++i)
        std::cout << (codes[i] == all_holds         ? "holds"
                      : codes[i] == something_fails ? "fails"
                                                    : "unusable")
                  << "  " << reports[i]["file"].get<std::string>() << '\n';
    return code;
}

int exit_of(const check::CheckResult& result, bool claims_only) {
    bool fails = false;
    for (const auto& claim : result.claims) fails |= claim.state != check::ClaimState::holds;
    for (const auto& finding : result.findings)
        fails |= !claims_only && finding.severity == check::Severity::blocker;
    return fails ? something_fails : all_holds;
}

} // namespace rubble::cli
