#include "study/what_if.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>

#include "check/claims.h"
#include "check/stages.h"

namespace rubble::study {

namespace {

/// A limit is known to this part of the metric's range, or to this part of the metric where that is more.
constexpr double k_of_range = 1 / 2000.0, k_of_metric = 1 / 400.0;

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

    /// The claims that break with a value; the first one alone is enough where only that matters.
    std::vector<ClaimId> broken(double value, bool all) const {
        Character character = checked_.character;
        character.*field_.member = value;
        const auto terrain = check::terrain_stage(checked_.world, character, nullptr, {}, cancel_);
        check::ReachQueries queries(*terrain.ground, *terrain.world, character, cancel_, false);
        std::vector<ClaimId> out;
        for (const Claim* claim : held_) {
            if (cancel_.requested()) return out;
            if (check::judge(level_, *claim, who_, queries).state == check::ClaimState::holds) continue;
            out.push_back(claim->id);
            if (!all) break;
        }
        return out;
    }

    /// How far a metric may go towards an end of its range, and what breaks beyond.
    double towards(double end, std::vector<ClaimId>& breaks) const {
        double good = checked_.character.*field_.member, bad = end;
        if (good == bad || broken(bad, false).empty()) return bad;
        const bool whole = field_.member == &Character::further_jumps;
        const double close =
            whole ? 1 : std::max((field_.most - field_.least) * k_of_range, std::abs(good) * k_of_metric);
        while (std::abs(bad - good) > close && !cancel_.requested()) {
            double middle = (good + bad) / 2;
            if (whole) middle = bad < good ? std::floor(middle) : std::ceil(middle);
            (broken(middle, false).empty() ? good : bad) = middle;
            if (whole && std::abs(bad - good) <= 1) break;
        }
        breaks = broken(bad, true);
        return good;
    }

private:
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
        return fail("no-metric", text, "is no metric of a character; write it as courier.jump_height_m=1.1");
    MetricChange out{{text.substr(0, dot)}, nullptr, 0};
    const std::string key = text.substr(dot + 1, equals - dot - 1), number = text.substr(equals + 1);
    const bool known = out.who.value == "courier" ||
                       std::any_of(project.characters.begin(), project.characters.end(),
                                   [&](const NamedCharacter& one) { return one.id == out.who; });
    if (!known) return fail("no-character", text, "the project has no character \"" + out.who.value + '"');
    out.field = find_character_field(key);
    if (!out.field) return fail("no-metric", text, '"' + key + "\" is no metric of a character");
    char* end = nullptr;
    out.value = std::strtod(number.c_str(), &end);
    if (number.empty() || *end || !(out.value >= out.field->least && out.value <= out.field->most))
        return fail("no-number", text,
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
    const Limiter limiter(project, level, checked, field, cancel);
    MetricLimit out;
    out.field = &field, out.now = checked.character.*field.member;
    out.least = limiter.towards(field.least, out.low);
    out.most = limiter.towards(field.most, out.high);
    out.complete = !cancel.requested();
    return out;
}

} // namespace rubble::study
