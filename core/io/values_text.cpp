#include "io/values_text.h"

#include <sstream>

#include "io/json_text.h"

namespace rubble::io {

namespace {

std::string trimmed(const std::string& text) {
    const size_t first = text.find_first_not_of(" \t\r"), last = text.find_last_not_of(" \t\r");
    return first == std::string::npos ? std::string() : text.substr(first, last - first + 1);
}

} // namespace

std::string text_of_values(const Extra& values) {
    std::string out;
    for (const auto& [key, json] : values) {
        const Json value = Json::parse(json, nullptr, false);
        out += key;
        if (!(value.is_boolean() && value.get<bool>()))
            out += " = " + (value.is_string() ? value.get<std::string>() : json);
        out += '\n';
    }
    return out;
}

Extra values_from_text(const std::string& text) {
    Extra out;
    std::istringstream in(text);
    for (std::string line; std::getline(in, line);) {
        const size_t equals = line.find('=');
        const std::string key = trimmed(line.substr(0, equals));
        if (key.empty()) continue;
        if (equals == std::string::npos) {
            out[key] = "true";
            continue;
        }
        const std::string typed = trimmed(line.substr(equals + 1));
        const Json value = Json::parse(typed, nullptr, false);
        out[key] = value.is_discarded() ? Json(typed).dump(-1, ' ', false, Json::error_handler_t::replace) : value.dump();
    }
    return out;
}

} // namespace rubble::io
