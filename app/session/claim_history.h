#pragma once

#include <map>

#include <QString>

#include "check/check.h"

namespace rubble::app {

/// With which edit claims began to fail, as far as one was there to see it.
class ClaimHistory {
public:
    /// The claims of a level as a check has them now; `edit` is what was done since the check before.
    void note(const check::CheckResult& result, const QString& edit);
    /// Another level is shown.
    void clear() { states_.clear(), since_.clear(); }
    /// The edit that a failing claim held before; empty where it never held.
    QString since(const ClaimId& claim) const;

private:
    std::map<ClaimId, check::ClaimState> states_;
    std::map<ClaimId, QString> since_;
};

} // namespace rubble::app
