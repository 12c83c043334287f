#include "parcel/test_report.h"

#include <algorithm>
#include <cmath>
#include <cstdio>

#include "motion/elements.h"
#include "motion/recording.h"

namespace rubble::parcel {

namespace {

std::string escaped(const std::string& text) {
    std::string out;
    for (const char c : text)
        out += c == '&'   ? "&amp;"
               : c == '<' ? "&lt;"
               : c == '>' ? "&gt;"
               : c == '"' ? "&quot;"
                          : std::string(1, c);
    return out;
}

std::string fixed(double value, int digits = 2) {
    char text[32];
    std::snprintf(text, sizeof text, "%.*f", digits, value);
    return text;
}

const char* const k_style = R"(
body { font: 15px/1.45 "Inter", "Segoe UI", sans-serif; color: #26231f; background: #faf8f4; margin: 2rem auto; max-width: 64rem; padding: 0 1rem; }
h1 { font-size: 1.6rem; } h2 { font-size: 1.15rem; margin-top: 2rem; border-bottom: 1px solid #d8d2c6; }
table { border-collapse: collapse; width: 100%; } th, td { text-align: left; padding: .25rem .6rem .25rem 0; vertical-align: top; border-bottom: 1px solid #ece7dc; }
th { font-weight: 600; } td.number { text-align: right; font-variant-numeric: tabular-nums; }
.holds { color: #1f6f64; } .fails { color: #7a2f58; font-weight: 600; } .undecided { color: #8a6414; }
svg { width: 100%; height: auto; background: #fff; border: 1px solid #e2dccf; }
)";

class Report {
public:
    Report(const Project& project, const Level& level, const check::CheckResult& result)
        : project_(project),
          level_(level),
          result_(result) {}

    std::string text(const std::vector<std::string>& plans) {
        const std::string title = escaped(level_.name.empty() ? "Level" : level_.name);
        out_ = "<!DOCTYPE html>\n<html lang=\"en\">\n<head>\n<meta charset=\"utf-8\"/>\n<title>" + title +
               "</title>\n<style>" + k_style + "</style>\n</head>\n<body>\n<h1>" + title + "</h1>\n";
        facts();
        claims();
        places();
        route();
        spans();
        findings();
        if (!plans.empty()) out_ += "<h2>Plans</h2>\n";
        for (const std::string& plan : plans) {
            // Without what only stands before a document of its own.
            const size_t begin = plan.find("<svg");
            out_ += begin == std::string::npos ? "" : with_own_ids(plan.substr(begin)) + "\n";
        }
        return out_ + "</body>\n</html>\n";
    }

private:
    /// Drawings in one page must not share the names of their parts.
    std::string with_own_ids(std::string svg) {
        const std::string own = "p" + std::to_string(++drawing_) + "-";
        for (const std::string mark : {"id=\"", "href=\"#", "url(#"})
            for (size_t at = svg.find(mark); at != std::string::npos; at = svg.find(mark, at + mark.size()))
                svg.insert(at + mark.size(), own);
        return svg;
    }

    void head(const char* title, std::initializer_list<const char*> columns) {
        out_ += std::string("<h2>") + title + "</h2>\n<table>\n<tr>";
        for (const char* column : columns) out_ += std::string("<th>") + column + "</th>";
        out_ += "</tr>\n";
    }
    void row(const std::vector<std::string>& cells, const std::string& kind = {}) {
        out_ += "<tr>";
        for (size_t i = 0; i < cells.size(); ++i)
            out_ += (i == 0 && !kind.empty() ? "<td class=\"" + kind + "\">" : std::string("<td>")) +
                    cells[i] + "</td>";
        out_ += "</tr>\n";
    }
    void end() { out_ += "</table>\n"; }

    void facts() {
        size_t items = 0;
        for_each_item(level_, [&](const Item&, const Layer&) { ++items; });
        const auto hold = std::count_if(result_.claims.begin(), result_.claims.end(), [](const auto& claim) {
            return claim.state == check::ClaimState::holds;
        });
        const auto blockers =
            std::count_if(result_.findings.begin(), result_.findings.end(),
                          [](const auto& finding) { return finding.severity == check::Severity::blocker; });
        out_ += "<p>Checked for " + escaped(character_name(project_, level_)) + ": " + std::to_string(hold) +
                " of " + std::to_string(result_.claims.size()) + " claims hold, " + std::to_string(blockers) +
                " blockers, " + std::to_string(result_.findings.size()) + " findings, " +
                std::to_string(result_.spans.size()) + " spans, " + std::to_string(items) + " items.</p>\n";
    }

    void claims() {
        if (result_.claims.empty()) return;
        head("What is claimed", {"", "Claim", "Time", "Why not"});
        for (const check::ClaimResult& claim : result_.claims) {
            const auto named = std::find_if(level_.claims.begin(), level_.claims.end(),
                                            [&](const Claim& c) { return c.id == claim.id; });
            const std::string name =
                named != level_.claims.end() && !named->name.empty() ? named->name : claim.id.value;
            const std::string state = check::state_key(claim.state);
            row({state, escaped(name), claim.witness ? fixed(claim.time_s, 1) + " s" : "",
                 escaped(in_english(claim.reason, level_))},
                state);
        }
        end();
    }

    void places() {
        if (result_.places.empty()) return;
        head("What is reached", {"", "Element", "After"});
        for (const check::Place& place : result_.places) {
            const Item* item = find_item(level_, place.item);
            row({check::reached_key(place.reached), escaped(item ? item->title() : place.item.value),
                 place.witness ? fixed(place.time_s, 1) + " s" : ""},
                place.reached == check::Reached::yes  ? "holds"
                : place.reached == check::Reached::no ? "fails"
                                                      : "undecided");
        }
        end();
    }

    /// The heights of the way to the first goal over time.
    void route() {
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
            constexpr double k_wide = 1000, k_high = 160, k_edge = 20;
            const auto x_of = [&](size_t step) {
                return k_edge + (k_wide - 2 * k_edge) * double(step) / double(run.bodies.size() - 1);
            };
            const auto y_of = [&](double z) {
                return k_high - k_edge - (k_high - 2 * k_edge) * (z - low) / std::max(high - low, 2.0);
            };
            out_ += "<h2>The way to " + escaped(item->title()) + "</h2>\n<p>" +
                    fixed(place.witness->seconds(), 1) + " s, " + fixed(length, 0) + " m, " +
                    std::to_string(place.witness->legs.size()) + " legs; heights over time:</p>\n" +
                    "<svg viewBox=\"0 0 1000 160\" role=\"img\" aria-label=\"Heights of the way over time\">"
                    "<polyline fill=\"none\" stroke=\"#1f6f64\" stroke-width=\"2\" points=\"";
            const size_t step = std::max<size_t>(1, run.bodies.size() / 800);
            for (size_t i = 0; i < run.bodies.size(); i += step)
                out_ += fixed(x_of(i), 1) + "," + fixed(y_of(run.bodies[i].at.z), 1) + " ";
            out_ += "\"/></svg>\n";
            return;
        }
    }

    void spans() {
        if (result_.spans.empty()) return;
        head("Spans", {"Grade", "Kind", "Gap", "Rise", "Margin", "From", "To"});
        std::vector<const check::Span*> hardest;
        for (const check::Span& span : result_.spans) hardest.push_back(&span);
        const double step = result_.character.step_height_m;
        std::stable_sort(hardest.begin(), hardest.end(), [&](const check::Span* a, const check::Span* b) {
            return a->least_pct(step) < b->least_pct(step);
        });
        constexpr size_t k_most = 200;
        for (size_t i = 0; i < std::min(hardest.size(), k_most); ++i) {
            const check::Span& span = *hardest[i];
            const auto place = [](const Vec3& p) {
                return fixed(p.x, 1) + " / " + fixed(p.y, 1) + " / " + fixed(p.z, 1);
            };
            row({check::grade_key(span.grade), check::kind_key(span.kind), fixed(span.gap_m) + " m",
                 fixed(span.rise_m) + " m", fixed(span.least_pct(step), 0) + " %", place(span.from),
                 place(span.to)});
        }
        end();
        if (hardest.size() > k_most)
            out_ += "<p>The " + std::to_string(k_most) + " hardest of " + std::to_string(hardest.size()) +
                    ".</p>\n";
    }

    void findings() {
        if (result_.findings.empty()) return;
        head("Findings that are open", {"", "What", "Where"});
        for (const check::Finding& finding : result_.findings)
            row({check::severity_key(finding.severity), escaped(in_english(finding.says, level_)),
                 fixed(finding.at.x, 1) + " / " + fixed(finding.at.y, 1) + " / " + fixed(finding.at.z, 1)},
                finding.severity == check::Severity::blocker   ? "fails"
                : finding.severity == check::Severity::concern ? "undecided"
                                                               : "");
        end();
    }

    const Project& project_;
    const Level& level_;
    const check::CheckResult& result_;
    std::string out_;
    int drawing_ = 0;
};

} // namespace

std::string test_report(const Project& project, const Level& level, const check::CheckResult& result,
                        const std::vector<std::string>& plans) {
    return Report(project, level, result).text(plans);
}

} // namespace rubble::parcel
