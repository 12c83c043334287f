#include "finding_list.h"

#include <algorithm>

namespace rubble::app {

std::vector<check::Finding> in_walking_order(const check::CheckResult& result) {
    std::vector<check::Finding> out = result.findings;
    std::stable_sort(out.begin(), out.end(), [](const auto& a, const auto& b) {
        return a.severity != b.severity ? a.severity < b.severity : a.rule < b.rule;
    });
    return out;
}

} // namespace rubble::app
