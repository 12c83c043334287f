#include "finding_list.h"

#include <algorithm>
#include <cmath>
#include <map>

#include <QSettings>

#include "edit/items.h"
#include "text.h"

namespace rubble::app {

namespace {

/// Findings in one square of this side are at one place (metres).
constexpr double k_square_of_place_m = 8;
/// A place is called by the element that is no farther from it (metres).
constexpr double k_beside_m = 12;

QString place_title(const Level& level, const Vec3& at) {
    const Item* nearest = nullptr;
    double least = k_beside_m;
    for_each_item(level, [&](const Item& item, const Layer&) {
        if (!item.element()) return;
        const double apart = glm::length(item.element()->at - at);
        if (apart < least) least = apart, nearest = &item;
    });
    if (nearest) return tr("Near %1").arg(QString::fromStdString(nearest->title()));
    return tr("About %1, %2").arg(int(std::lround(at.x))).arg(int(std::lround(at.y)));
}

bool graver(const check::Finding& a, const check::Finding& b) {
    return a.severity != b.severity ? a.severity < b.severity : a.rule < b.rule;
}

} // namespace

FindingView FindingView::kept() {
    const QSettings settings;
    const int least = settings.value(QStringLiteral("findings/least"), 2).toInt();
    return {check::Severity(std::clamp(least, 0, 2)),
            settings.value(QStringLiteral("findings/by_place"), false).toBool()};
}

void FindingView::keep() const {
    QSettings settings;
    settings.setValue(QStringLiteral("findings/least"), int(least));
    settings.setValue(QStringLiteral("findings/by_place"), by_place);
}

std::vector<FindingGroup> grouped_findings(const check::CheckResult& result, const Level& level,
                                           const FindingView& view) {
    std::vector<check::Finding> sorted;
    for (const check::Finding& one : result.findings)
        if (one.severity <= view.least) sorted.push_back(one);
    std::stable_sort(sorted.begin(), sorted.end(), graver);
    std::vector<FindingGroup> out;
    std::map<std::pair<int, int>, size_t> places; // of `out`
    for (check::Finding& one : sorted) {
        size_t group = out.size();
        if (view.by_place) {
            const glm::ivec2 square = glm::ivec2(glm::floor(flat(one.at) / k_square_of_place_m));
            group = places.try_emplace({square.x, square.y}, out.size()).first->second;
        } else if (!out.empty() && out.back().findings.back().rule == one.rule &&
                   out.back().findings.back().severity == one.severity) {
            group = out.size() - 1;
        }
        if (group == out.size())
            out.push_back({view.by_place ? place_title(level, one.at)
                                         : QString::fromUtf8(check::rule_of(one.rule).about),
                           {}});
        out[group].findings.push_back(std::move(one));
    }
    return out;
}

std::vector<check::Finding> in_walking_order(const check::CheckResult& result, const Level& level) {
    std::vector<check::Finding> out;
    for (FindingGroup& group : grouped_findings(result, level, FindingView::kept()))
        std::move(group.findings.begin(), group.findings.end(), std::back_inserter(out));
    return out;
}

} // namespace rubble::app
