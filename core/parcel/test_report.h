#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "base/result.h"
#include "check/check.h"
#include "study/players.h"

namespace rubble::parcel {

/// PNG pictures of places, by what they show.
using Pictures = std::map<std::string, std::string>;

/// How players of some skill fared.
struct PlayedBy {
    std::string skill;
    study::Crowd crowd;
};

/// One section of a report: words, a table, or a line over time.
struct ReportPart {
    struct Row {
        std::vector<std::string> cells;
        std::string kind = {}; ///< "holds", "fails", "undecided" or empty: how its first cell looks
    };
    std::string heading, text;
    std::vector<std::string> columns = {};
    std::vector<Row> rows = {};
    std::vector<Vec2> line = {}; ///< from 0 to 1 both ways, up is more
};

/// What testers read: what was checked and holds, the way to the goal, how players fare, spans, findings.
struct TestReport {
    std::string title;
    std::vector<ReportPart> parts;
};
TestReport test_report(const Project& project, const Level& level, const check::CheckResult& result,
                       const std::optional<PlayedBy>& players = {});

/// One page of HTML that needs nothing else. The plans are drawings as text (SVG).
std::string html_of(const TestReport& report, const std::vector<std::string>& plans,
                    const Pictures& pictures = {});
/// The same on pages of A4, without plans and pictures.
Result<std::string> pdf_of(const TestReport& report);

} // namespace rubble::parcel
