#include "check/excuses.h"

#include <algorithm>

namespace rubble::check {

namespace {

/// What is excused stays so where it moves no farther than this (metres).
constexpr double k_same_place_m = 1;

} // namespace

const Excuse* excuse_for(const Level& level, const Finding& finding) {
    const char* rule = rule_of(finding.rule).key;
    for (const Excuse& one : level.excuses)
        if (one.rule == rule && glm::length(one.at - finding.at) <= k_same_place_m &&
            std::is_permutation(one.items.begin(), one.items.end(), finding.items.begin(),
                                finding.items.end()))
            return &one;
    return nullptr;
}

Excuse excuse_of(const Finding& finding, const std::string& reason) {
    return {rule_of(finding.rule).key, finding.at, finding.items, reason, {}};
}

void set_excused_apart(const Project& project, const Level& level, CheckResult& result) {
    if (project.rules_off.empty() && level.excuses.empty()) return;
    std::vector<Finding> stay;
    for (Finding& finding : result.findings) {
        if (std::count(project.rules_off.begin(), project.rules_off.end(), rule_of(finding.rule).key))
            continue;
        if (const Excuse* excuse = excuse_for(level, finding))
            result.excused.push_back({std::move(finding), excuse->reason});
        else
            stay.push_back(std::move(finding));
    }
    result.findings = std::move(stay);
}

} // namespace rubble::check
