#pragma once

#include "base/result.h"
#include "study/comparison.h"

namespace rubble::study {

/// A metric as it would be.
struct MetricChange {
    CharacterId who;
    const CharacterField* field = nullptr;
    double value = 0;
};

/// Reads "courier.jump_height_m=1.1". An error says what is wrong with it.
Result<MetricChange> metric_change_from(const Project& project, const std::string& text);

/// The level with its characters as they would be.
Level with_metrics(const Level& level, std::span<const MetricChange> changes);

/// What a level would be with other metrics.
struct WhatIf {
    check::CheckResult now; ///< the check with them
    Comparison comparison;  ///< against the check of the level as it is
};
/// Only the check of the level as it would be, on matter that is there already.
WhatIf what_if(const Project& project, const Level& level, const check::CheckResult& checked,
               std::span<const MetricChange> changes, const Cancel& cancel = {});

/// How far a metric may go towards what hinders, until a claim breaks.
struct MetricLimit {
    const CharacterField* field = nullptr;
    double now = 0;
    double limit = 0;            ///< all claims hold there that hold now
    std::vector<ClaimId> breaks; ///< just beyond; none where the metric's own range ends there
    bool complete = true;
};
/// The least value of a metric that helps, the largest of one that hinders, at which all claims hold that
/// hold now, to a hundredth of itself; by bisection, for more of what helps hardly ever hinders.
MetricLimit limit_of(const Project& project, const Level& level, const check::CheckResult& checked,
                     const CharacterField& field, const Cancel& cancel = {});

} // namespace rubble::study
