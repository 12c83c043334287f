#pragma once

#include <vector>

#include <QString>

#include "check/check.h"

namespace rubble::app {

/// How findings are listed: which are, and what goes together.
struct FindingView {
    check::Severity least = check::Severity::remark;
    bool by_place = false; ///< else by rule

    /// As it was left; kept for the next start. @{
    static FindingView kept();
    void keep() const;
    /// @}
};

/// Findings that go together.
struct FindingGroup {
    QString title;
    std::vector<check::Finding> findings;
};

/// What a check found, in the order in which one walks through it: of rules the gravest first, of places
/// those first where the gravest is.
std::vector<FindingGroup> grouped_findings(const check::CheckResult& result, const Level& level,
                                           const FindingView& view);

/// The same one after the other, as the user wants to see them.
std::vector<check::Finding> in_walking_order(const check::CheckResult& result, const Level& level);

} // namespace rubble::app
