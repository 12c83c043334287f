#include "io/ci_reports.h"

#include <algorithm>
#include <cctype>
#include <cstdio>
#include <map>
#include <set>
#include <string_view>

#include <tinyxml2.h>

namespace rubble::io {

using check::ClaimResult;
using check::ClaimState;
using check::Finding;
using check::Severity;

namespace {

std::string name_of(const Level& level, const ClaimId& id) {
    const auto claim = std::find_if(level.claims.begin(), level.claims.end(),
                                    [&](const Claim& one) { return one.id == id; });
    return claim == level.claims.end() || claim->name.empty() ? id.value : claim->name;
}

const char* level_key(Severity severity) {
    return severity == Severity::blocker ? "error" : severity == Severity::concern ? "warning" : "note";
}

/// A path as a URI reference: what is not allowed in one, byte by byte.
std::string uri_of(const std::string& path) {
    std::string out;
    for (const char c : path) {
        const auto byte = static_cast<unsigned char>(c);
        if (std::isalnum(byte) || std::string_view("-._~/").find(c) != std::string_view::npos) {
            out += c;
            continue;
        }
        char text[4];
        std::snprintf(text, sizeof text, "%%%02X", byte);
        out += text;
    }
    return out;
}

Json sarif_result(const std::string& rule, const char* level, const std::string& message,
                  const std::string& file, Json properties) {
    Json result = Json::object();
    result["ruleId"] = rule;
    result["level"] = level;
    result["message"]["text"] = message;
    result["locations"] =
        Json::array({{{"physicalLocation", {{"artifactLocation", {{"uri", uri_of(file)}}}}}}});
    result["properties"] = std::move(properties);
    return result;
}

/// A rule by its key, with what it looks for where it is one of the table's.
Json rule_json(const std::string& key) {
    Json json = {{"id", key}};
    for (const check::Rule& rule : check::rules())
        if (rule.key == key) json["shortDescription"]["text"] = rule.about;
    return json;
}

/// The length of the UTF-8 character at `i`; 0 where there is none that XML allows, as U+FFFE and U+FFFF are
/// not.
size_t character_length(const std::string& text, size_t i) {
    const auto byte = [&](size_t k) { return k < text.size() ? static_cast<unsigned char>(text[k]) : 0u; };
    const unsigned first = byte(i);
    if (first < 0x80) return 1;
    const size_t length = first >= 0xF0 ? 4 : first >= 0xE0 ? 3 : 2;
    if (first < 0xC2 || first > 0xF4) return 0;
    unsigned code = first & (0xFFu >> (length + 1));
    for (size_t k = 1; k < length; ++k) {
        if ((byte(i + k) & 0xC0) != 0x80) return 0;
        code = code << 6 | (byte(i + k) & 0x3F);
    }
    const bool shortest = code >= (length == 4 ? 0x10000u : length == 3 ? 0x800u : 0x80u);
    const bool surrogate = code >= 0xD800 && code <= 0xDFFF;
    return shortest && !surrogate && code != 0xFFFE && code != 0xFFFF && code <= 0x10FFFF ? length : 0;
}

/// What XML can hold of a text: other control characters become spaces, what is no character a sign for it.
std::string printable(const std::string& text) {
    std::string out;
    for (size_t i = 0; i < text.size();) {
        const size_t length = character_length(text, i);
        if (length == 1)
            out += static_cast<unsigned char>(text[i]) < 0x20 ? ' ' : text[i];
        else
            out += length == 0 ? "\uFFFD" : text.substr(i, length);
        i += std::max<size_t>(length, 1);
    }
    return out;
}

std::string seconds(double s) {
    char text[32];
    std::snprintf(text, sizeof text, "%.3f", s);
    return text;
}

void put_test_case(tinyxml2::XMLPrinter& xml, const std::string& group, const std::string& name,
                   double time_s, const std::string& failure) {
    xml.OpenElement("testcase");
    xml.PushAttribute("classname", printable(group).c_str());
    xml.PushAttribute("name", printable(name).c_str());
    xml.PushAttribute("time", seconds(time_s).c_str());
    if (!failure.empty()) {
        xml.OpenElement("failure");
        xml.PushAttribute("message", printable(failure).c_str());
        xml.CloseElement();
    }
    xml.CloseElement();
}

} // namespace

Json sarif_report(const Level& level, const check::CheckResult& result, const std::string& file) {
    Json results = Json::array();
    std::set<std::string> rules;
    for (const ClaimResult& claim : result.claims) {
        if (claim.state == ClaimState::holds) continue;
        const std::string rule = std::string("claim.") + check::state_key(claim.state);
        rules.insert(rule);
        results.push_back(sarif_result(rule, "error",
                                       name_of(level, claim.id) + ": " + in_english(claim.reason, level),
                                       file, {{"claim", claim.id.value}}));
    }
    const auto add = [&](const Finding& finding) {
        Json items = Json::array();
        for (const ItemId& id : finding.items) items.push_back(id.value);
        const std::string rule = check::rule_of(finding.rule).key;
        rules.insert(rule);
        results.push_back(
            sarif_result(rule, level_key(finding.severity), in_english(finding.says, level), file,
                         {{"at", {finding.at.x, finding.at.y, finding.at.z}}, {"items", items}}));
    };
    for (const Finding& finding : result.findings) add(finding);
    for (const check::Excused& one : result.excused) {
        add(one.finding);
        results.back()["suppressions"] = Json::array({{{"kind", "external"}, {"justification", one.reason}}});
    }
    Json driver = {{"name", "Rubble"}, {"rules", Json::array()}};
    for (const std::string& rule : rules) driver["rules"].push_back(rule_json(rule));
    Json run = Json::object();
    run["tool"]["driver"] = std::move(driver);
    run["results"] = std::move(results);
    Json report = Json::object();
    report["$schema"] = "https://json.schemastore.org/sarif-2.1.0.json";
    report["version"] = "2.1.0";
    report["runs"] = Json::array({std::move(run)});
    return report;
}

std::string junit_report(const Level& level, const check::CheckResult& result) {
    std::string blockers;
    for (const Finding& finding : result.findings)
        if (finding.severity == Severity::blocker)
            blockers += (blockers.empty() ? "" : " ") + in_english(finding.says, level);
    const auto failed =
        std::count_if(result.claims.begin(), result.claims.end(),
                      [](const ClaimResult& claim) { return claim.state != ClaimState::holds; });
    tinyxml2::XMLPrinter xml;
    xml.PushHeader(false, true);
    xml.OpenElement("testsuite");
    xml.PushAttribute("name", printable(level.name).c_str());
    xml.PushAttribute("tests", int64_t(result.claims.size() + 1));
    xml.PushAttribute("failures", int64_t(failed + !blockers.empty()));
    xml.PushAttribute("time", seconds(result.timing.total_ms / 1000).c_str());
    for (const ClaimResult& claim : result.claims) {
        const std::string said =
            claim.reason.empty() ? check::state_key(claim.state) : in_english(claim.reason, level);
        put_test_case(xml, level.name + ".claims", name_of(level, claim.id), claim.time_s,
                      claim.state == ClaimState::holds ? std::string() : said);
    }
    put_test_case(xml, level.name + ".findings", "no blockers", 0, blockers);
    xml.CloseElement();
    return xml.CStr();
}

} // namespace rubble::io
