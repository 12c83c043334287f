#include "io/values_text.h"

#include <sstream>

#include "io/json_text.h"

namespace rubble::io {

namespace {

std::string trimmed(const std::string& text) {
    const size_t first = text.find_first_not_of(" \t\r"), last = text.find_last_not_of(" \t\r");
    return first == std::string::npos ? std::string() : text.substr(first, last - first + 1);
}

/// Text stands without quotes unless it would be read as something else.
std::string typed(const Json& value, const std::string& json) {
    if (!value.is_string()) return json;
    const std::string text = value.get<std::string>();
    const bool plain = Json::parse(text, nullptr, false).is_discarded() && trimmed(text) == text &&
                       text.find('\n') == std::string::npos;
    return plain ? text : json;
}

} // namespace

std::string text_of_values(const Extra& values) {
    std::string out;
    for (const auto& [key, json] : values) {
        const Json value = Json::parse(json, nullptr, false);
        out += key;
        if (!(value.is_boolean() && value.get<bool>())) out += " = " + typed(value, json);
        out += '\n';
    }
    return out;
}

Extra values_from_text(const std::string& lines) {
    Extra out;
    std::istringstream in(lines);
    for (std::string line; std::getline(in, line);) {
        const size_t equals = line.find('=');
        const std::string key = trimmed(line.substr(0, equals));
        if (key.empty()) continue;
        if (equals == std::string::npos) {
            out[key] = "true";
            continue;
        }
        const std::string text = trimmed(line.substr(equals + 1));
        const Json value = Json::parse(text, nullptr, false);
        out[key] = value.is_discarded() ? Json(text).dump(-1, ' ', false, Json::error_handler_t::replace)
                                        : value.dump();
    }
    return out;
}

} // namespace rubble::io
