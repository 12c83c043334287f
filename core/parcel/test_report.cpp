#include "parcel/test_report.h"

#include <algorithm>
#include <cmath>
#include <cstdio>

#include "level/dressing/light.h"
#include "motion/elements.h"
#include "motion/recording.h"

namespace rubble::parcel {

namespace {

std::string fixed(double value, int digits = 2) {
    char text[32];
    std::snprintf(text, sizeof text, "%.*f", digits, value);
    return text;
}

std::string place_text(const Vec3& p) {
    return fixed(p.x, 1) + " / " + fixed(p.y, 1) + " / " + fixed(p.z, 1);
}

/// What is known of one level, section by section.
class Report {
public:
    Report(const Project& project, const Level& level, const check::CheckResult& result)
        : project_(project),
          level_(level),
          result_(result) {}

    ReportPart facts() const {
        size_t items = 0;
        for_each_item(level_, [&](const Item&, const Layer&) { ++items; });
        const auto hold = std::count_if(result_.claims.begin(), result_.claims.end(), [](const auto& claim) {
            return claim.state == check::ClaimState::holds;
        });
        const auto blockers =
            std::count_if(result_.findings.begin(), result_.findings.end(),
                          [](const auto& finding) { return finding.severity == check::Severity::blocker; });
        return {{},
                "Checked for " + character_name(project_, level_) + ": " + std::to_string(hold) + " of " +
                    std::to_string(result_.claims.size()) + " claims hold, " + std::to_string(blockers) +
                    " blockers, " + std::to_string(result_.findings.size()) + " findings, " +
                    std::to_string(result_.spans.size()) + " spans, " + std::to_string(items) + " items."};
    }

    ReportPart claims() const {
        ReportPart part{"What is claimed", {}, {"", "Claim", "Time", "Why not"}};
        for (const check::ClaimResult& claim : result_.claims) {
            const auto named = std::find_if(level_.claims.begin(), level_.claims.end(),
                                            [&](const Claim& c) { return c.id == claim.id; });
            const std::string name =
                named != level_.claims.end() && !named->name.empty() ? named->name : claim.id.value;
            const std::string state = check::state_key(claim.state);
            part.rows.push_back({{state, name, claim.witness ? fixed(claim.time_s, 1) + " s" : "",
                                  in_english(claim.reason, level_)},
                                 state});
        }
        return part;
    }

    ReportPart places() const {
        ReportPart part{"What is reached", {}, {"", "Element", "After"}};
        for (const check::Place& place : result_.places) {
            const Item* item = find_item(level_, place.item);
            if (item && item->element() && is_dressing(acts_as(*item->element())))
                continue; // nobody goes there
            part.rows.push_back({{check::reached_key(place.reached), item ? item->title() : place.item.value,
                                  place.witness ? fixed(place.time_s, 1) + " s" : ""},
                                 place.reached == check::Reached::yes  ? "holds"
                                 : place.reached == check::Reached::no ? "fails"
                                                                       : "undecided"});
        }
        return part;
    }

    /// The heights of the way to the first goal over time.
    ReportPart route() const {
        for (const check::Place& place : result_.places) {
            const Item* item = find_item(level_, place.item);
            if (!item || !item->element() || role_of(*item->element()) != Role::goal || !place.witness)
                continue;
            const motion::PlayedRun run =
                motion::played(*result_.world, result_.character, place.witness->recording);
            if (run.bodies.size() < 2) continue;
            double low = run.bodies[0].at.z, high = low, length = 0;
            for (size_t i = 1; i < run.bodies.size(); ++i) {
                low = std::min(low, run.bodies[i].at.z), high = std::max(high, run.bodies[i].at.z);
                length += glm::length(flat(run.bodies[i].at - run.bodies[i - 1].at));
            }
            ReportPart part{"The way to " + item->title(),
                            fixed(place.witness->seconds(), 1) + " s, " + fixed(length, 0) + " m, " +
                                std::to_string(place.witness->legs.size()) + " legs; heights over time:"};
            const size_t step = std::max<size_t>(1, run.bodies.size() / 800);
            for (size_t i = 0; i < run.bodies.size(); i += step)
                part.line.push_back({double(i) / double(run.bodies.size() - 1),
                                     (run.bodies[i].at.z - low) / std::max(high - low, 2.0)});
            return part;
        }
        return {};
    }

    ReportPart players(const PlayedBy& played) const {
        const study::Crowd& crowd = played.crowd;
        ReportPart part{"Simulated players",
                        std::to_string(crowd.arrived) + " of " + std::to_string(crowd.runs.size()) + " (" +
                            played.skill + ") arrive at the first try: between " + fixed(crowd.low * 100, 0) +
                            " and " + fixed(crowd.high * 100, 0) + " of 100.",
                        {"Where a leap was missed", "How often", "Deadly", "Time it cost"}};
        constexpr size_t k_most = 12;
        for (size_t i = 0; i < std::min(crowd.costs.size(), k_most); ++i) {
            const study::Crowd::Cost& cost = crowd.costs[i];
            if (cost.link < 0) continue;
            const auto& link = crowd.links[size_t(cost.link)];
            part.rows.push_back(
                {{place_text(link->take_off) + " to " + place_text(link->landing),
                  std::to_string(cost.misses), std::to_string(cost.deaths), fixed(cost.lost_s, 0) + " s"}});
        }
        return part;
    }

    ReportPart spans() const {
        ReportPart part{"Spans", {}, {"Grade", "Kind", "Gap", "Rise", "Margin", "From", "To"}};
        std::vector<const check::Span*> hardest;
        for (const check::Span& span : result_.spans) hardest.push_back(&span);
        const double step = result_.character.step_height_m;
        std::stable_sort(hardest.begin(), hardest.end(), [&](const check::Span* a, const check::Span* b) {
            return a->least_pct(step) < b->least_pct(step);
        });
        constexpr size_t k_most = 200;
        for (size_t i = 0; i < std::min(hardest.size(), k_most); ++i) {
            const check::Span& span = *hardest[i];
            part.rows.push_back(
                {{check::grade_key(span.grade), check::kind_key(span.kind), fixed(span.gap_m) + " m",
                  fixed(span.rise_m) + " m", fixed(span.least_pct(step), 0) + " %", place_text(span.from),
                  place_text(span.to)}});
        }
        if (hardest.size() > k_most)
            part.text =
                "The " + std::to_string(k_most) + " hardest of " + std::to_string(hardest.size()) + ":";
        return part;
    }

    ReportPart findings() const {
        ReportPart part{"Findings that are open", {}, {"", "What", "Where"}};
        for (const check::Finding& finding : result_.findings)
            part.rows.push_back({{check::severity_key(finding.severity), in_english(finding.says, level_),
                                  place_text(finding.at)},
                                 finding.severity == check::Severity::blocker   ? "fails"
                                 : finding.severity == check::Severity::concern ? "undecided"
                                                                                : ""});
        return part;
    }

private:
    const Project& project_;
    const Level& level_;
    const check::CheckResult& result_;
};

} // namespace

TestReport test_report(const Project& project, const Level& level, const check::CheckResult& result,
                       const std::optional<PlayedBy>& players) {
    const Report report(project, level, result);
    TestReport out{level.name.empty() ? "Level" : level.name, {report.facts()}};
    std::vector<ReportPart> parts{report.claims(), report.places(), report.route()};
    if (players) parts.push_back(report.players(*players));
    parts.push_back(report.spans()), parts.push_back(report.findings());
    for (ReportPart& part : parts)
        if (!part.rows.empty() || !part.line.empty() || (part.columns.empty() && !part.text.empty()) ||
            (players && part.heading == "Simulated players"))
            out.parts.push_back(std::move(part));
    return out;
}

} // namespace rubble::parcel
