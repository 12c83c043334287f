#include "study/what_if.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>

#include "check/claims.h"
#include "check/stages.h"

namespace rubble::study {

namespace {

/// A limit is known to this part of the metric, and never closer than to this part of its range.
constexpr double k_of_metric = 0.01, k_of_range = 1 / 20000.0;

/// A character with another metric; those that may not be more than it give way.
Character with_metric(Character character, const CharacterField& field, double value) {
    character.*field.member = value;
    character.low_jump_height_m = std::min(character.low_jump_height_m, character.jump_height_m);
    character.crouched_height_m = std::min(character.crouched_height_m, character.height_m);
    return character;
}

/// Judges the claims that hold for a character with other metrics.
class Limiter {
public:
    Limiter(const Project& project, const Level& level, const check::CheckResult& checked,
            const CharacterField& field, const Cancel& cancel)
        : level_(level),
          checked_(checked),
          field_(field),
          cancel_(cancel),
          who_(character_name(project, level)) {
        for (const check::ClaimResult& claim : checked.claims)
            for (const Claim& one : level.claims)
                if (one.id == claim.id && claim.state == check::ClaimState::holds) held_.push_back(&one);
    }

    /// How far the metric may go towards an end of its range, and what breaks beyond.
    MetricLimit towards(double end) {
        MetricLimit out{&field_, checked_.character.*field_.member, end, {}, true};
        double good = out.now, bad = end;
        if (good == bad || broken(bad, false).empty()) return out;
        const bool whole = field_.member == &Character::further_jumps;
        const double close =
            whole ? 1 : std::max((field_.most - field_.least) * k_of_range, std::abs(good) * k_of_metric);
        while (std::abs(bad - good) > close && !cancel_.requested()) {
            double middle = (good + bad) / 2;
            if (whole) middle = bad < good ? std::floor(middle) : std::ceil(middle);
            (broken(middle, false).empty() ? good : bad) = middle;
        }
        out.limit = good, out.breaks = broken(bad, true);
        return out;
    }

private:
    /// The claims that break with a value, or where that is enough the first one that is found.
    std::vector<ClaimId> broken(double value, bool all) {
        const Character character = with_metric(checked_.character, field_, value);
        const auto terrain = check::terrain_stage(checked_.world, character, nullptr, {}, cancel_);
        check::ReachQueries queries(*terrain.ground, *terrain.world, character, cancel_, false);
        std::vector<ClaimId> out;
        for (size_t i = 0; i < held_.size() && !cancel_.requested(); ++i) {
            if (check::judge(level_, *held_[i], who_, queries).state == check::ClaimState::holds) continue;
            out.push_back(held_[i]->id);
            if (all) continue;
            // What broke once breaks again: it is asked first from now on.
            std::rotate(held_.begin(), held_.begin() + std::ptrdiff_t(i),
                        held_.begin() + std::ptrdiff_t(i) + 1);
            break;
        }
        return out;
    }

    const Level& level_;
    const check::CheckResult& checked_;
    const CharacterField& field_;
    Cancel cancel_;
    std::string who_;
    std::vector<const Claim*> held_;
};

} // namespace

Result<MetricChange> metric_change_from(const Project& project, const std::string& text) {
    const size_t dot = text.find('.'), equals = text.find('=');
    if (dot == std::string::npos || equals == std::string::npos || equals < dot)
        return fail("metric.name", text,
                    "is no metric of a character; write it as courier.jump_height_m=1.1");
    MetricChange out{{text.substr(0, dot)}, nullptr, 0};
    const std::string key = text.substr(dot + 1, equals - dot - 1), number = text.substr(equals + 1);
    const bool known = out.who.value == "courier" ||
                       std::any_of(project.characters.begin(), project.characters.end(),
                                   [&](const NamedCharacter& one) { return one.id == out.who; });
    if (!known)
        return fail("metric.character", text, "the project has no character \"" + out.who.value + '"');
    out.field = find_character_field(key);
    if (!out.field) return fail("metric.name", text, '"' + key + "\" is no metric of a character");
    char* end = nullptr;
    out.value = std::strtod(number.c_str(), &end);
    if (number.empty() || *end || !(out.value >= out.field->least && out.value <= out.field->most))
        return fail("metric.value", text,
                    "expected a number from " + std::to_string(out.field->least) + " to " +
                        std::to_string(out.field->most));
    return out;
}

Level with_metrics(const Level& level, std::span<const MetricChange> changes) {
    Level out = level;
    for (const MetricChange& change : changes) out.characters[change.who][change.field->key] = change.value;
    return out;
}

WhatIf what_if(const Project& project, const Level& level, const check::CheckResult& checked,
               std::span<const MetricChange> changes, const Cancel& cancel) {
    check::CheckOptions options;
    options.explain = options.mends = false, options.cancel = cancel;
    WhatIf out;
    out.now = check::check_level(project, with_metrics(level, changes), checked.solid, options);
    if (!out.now.complete) return out;
    out.comparison = comparison_of(checked, out.now);
    out.comparison.findings.clear(); // nothing was explained here
    return out;
}

MetricLimit limit_of(const Project& project, const Level& level, const check::CheckResult& checked,
                     const CharacterField& field, const Cancel& cancel) {
    const Character& c = checked.character;
    double end = field.helps == Helps::more ? field.least : field.most;
    if (field.helps == Helps::neither) end = c.*field.member;
    if (field.member == &Character::crouched_height_m) end = c.height_m;
    if (field.member == &Character::least_support_m) end = std::max(c.radius_m * 0.99, c.least_support_m);
    MetricLimit out = Limiter(project, level, checked, field, cancel).towards(end);
    out.complete = !cancel.requested();
    return out;
}

} // namespace rubble::study
