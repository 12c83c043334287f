#include "level/element_values.h"

#include <cmath>
#include <optional>

#include <nlohmann/json.hpp>

#include "level/element_kinds.h"

namespace rubble {

namespace {

using Json = nlohmann::json;

/// A value that is there and is JSON; null where none is.
Json value_of(const Element& element, const std::string& key) {
    const auto found = element.values.find(key);
    if (found == element.values.end()) return {};
    Json json = Json::parse(found->second, nullptr, false);
    return json.is_discarded() ? Json() : json;
}

std::optional<Vec3> point_of(const Json& json) {
    if (!json.is_array() || json.size() != 3) return {};
    Vec3 out(0);
    for (int axis = 0; axis < 3; ++axis) {
        if (!json[size_t(axis)].is_number()) return {};
        out[axis] = json[size_t(axis)].get<double>();
        if (!std::isfinite(out[axis])) return {};
    }
    return out;
}

Json json_of(const Vec3& v) { return Json{v.x, v.y, v.z}; }

Element with_json(Element element, const std::string& key, const Json& json) {
    element.values[key] = json.dump(-1, ' ', false, Json::error_handler_t::replace);
    return element;
}

} // namespace

double number_value(const Element& element, const std::string& key, double usual) {
    const Json json = value_of(element, key);
    return json.is_number() && std::isfinite(json.get<double>()) ? json.get<double>() : usual;
}

double number_of(const Element& element, const std::string& key) {
    const ElementField* field = kind_of(element).field(key);
    return field ? number_of(element, *field) : 0;
}

bool flag_value(const Element& element, const std::string& key, bool usual) {
    const Json json = value_of(element, key);
    return json.is_boolean() ? json.get<bool>() : usual;
}

std::string text_value(const Element& element, const std::string& key, const std::string& usual) {
    const Json json = value_of(element, key);
    return json.is_string() ? json.get<std::string>() : usual;
}

std::string text_of(const Element& element, const std::string& key) {
    const ElementField* field = kind_of(element).field(key);
    return text_value(element, key, field ? field->usual_text : "");
}

Vec3 point_value(const Element& element, const std::string& key, const Vec3& usual) {
    return point_of(value_of(element, key)).value_or(usual);
}

std::vector<Vec3> points_value(const Element& element, const std::string& key) {
    const Json json = value_of(element, key);
    std::vector<Vec3> out;
    if (json.is_array())
        for (const Json& one : json)
            if (const auto point = point_of(one)) out.push_back(*point);
    return out;
}

std::vector<std::string> texts_value(const Element& element, const std::string& key) {
    const Json json = value_of(element, key);
    if (json.is_string()) return {json.get<std::string>()};
    std::vector<std::string> out;
    if (json.is_array())
        for (const Json& one : json)
            if (one.is_string()) out.push_back(one.get<std::string>());
    return out;
}

Element with_value(Element element, const std::string& key, double value) {
    return with_json(std::move(element), key, value);
}
Element with_value(Element element, const std::string& key, bool value) {
    return with_json(std::move(element), key, value);
}
Element with_value(Element element, const std::string& key, const std::string& value) {
    return with_json(std::move(element), key, value);
}
Element with_value(Element element, const std::string& key, const Vec3& value) {
    return with_json(std::move(element), key, json_of(value));
}
Element with_value(Element element, const std::string& key, const std::vector<Vec3>& value) {
    Json list = Json::array();
    for (const Vec3& one : value) list.push_back(json_of(one));
    return with_json(std::move(element), key, list);
}
Element with_value(Element element, const std::string& key, const std::vector<std::string>& value) {
    return with_json(std::move(element), key, value);
}

} // namespace rubble
