#include "io/json_text.h"

#include <algorithm>
#include <cmath>

namespace rubble::io {

namespace {

/// Deep enough for `deepest_group` groups within each other.
constexpr int k_deepest = 192;
constexpr size_t k_largest_text = size_t(256) << 20;

int line_of(const std::string& text, size_t byte) {
    return 1 + int(std::count(text.begin(), text.begin() + long(std::min(byte, text.size())), '\n'));
}

/// How deep lists and objects lie within each other. (The library can watch it too, but then it looks through
/// all members of an object after each of them.)
int deepest_nesting(const std::string& text) {
    int depth = 0, deepest = 0;
    bool quoted = false;
    for (size_t i = 0; i < text.size(); ++i) {
        const char c = text[i];
        if (quoted) {
            if (c == '\\') ++i;
            quoted = c != '"';
        } else if (c == '"') {
            quoted = true;
        } else if (c == '[' || c == '{') {
            deepest = std::max(deepest, ++depth);
        } else if (c == ']' || c == '}') {
            --depth;
        }
    }
    return deepest;
}

bool has_rows(const Json& json) {
    const auto rows = json.is_object() ? json.find("rows") : json.end();
    return rows != json.end() && rows->is_array() && !rows->empty() && rows->front().is_string();
}

/// Whether its members stand in lines of their own.
bool spans_lines(const Json& json) {
    if (!json.is_structured()) return false;
    if ((json.is_array() && !json.empty() && json.front().is_object()) || has_rows(json)) return true;
    return std::any_of(json.begin(), json.end(), spans_lines);
}

std::string one_line(const Json& json) { return json.dump(-1, ' ', false, Json::error_handler_t::replace); }

void write(const Json& json, int indent, std::string& out, bool rows = false) {
    if (!json.is_structured() || json.empty() || (indent > 0 && !rows && !spans_lines(json))) {
        out += one_line(json);
        return;
    }
    const std::string inner(size_t(indent) + 2, ' ');
    out += json.is_array() ? "[\n" : "{\n";
    bool first = true;
    for (const auto& [key, value] : json.items()) {
        if (!first) out += ",\n";
        first = false;
        out += inner;
        if (json.is_object()) out += one_line(Json(key)) + ": ";
        write(value, indent + 2, out, key == "rows" && has_rows(json));
    }
    out += "\n" + std::string(size_t(indent), ' ') + (json.is_array() ? "]" : "}");
}

const Json k_no_list = Json::array();
const Json k_no_object = Json::object();

} // namespace

Result<Json> parse_json(const std::string& text, const std::string& place) {
    if (text.size() > k_largest_text)
        return rubble::fail("json.size", place, "The file is larger than 256 MB.");
    try {
        if (deepest_nesting(text) > k_deepest)
            return rubble::fail("json.depth", place, "Values are nested deeper than 192.");
        return Json::parse(text);
    } catch (const Json::parse_error& e) {
        const std::string where =
            place + ", line " + std::to_string(line_of(text, e.byte > 0 ? e.byte - 1 : 0));
        return rubble::fail("json.syntax", where,
                            "Not valid JSON here. Undo the last change by hand, or restore the file.");
    } catch (const Json::out_of_range& e) { // the library's text names the number
        return rubble::fail("json.number", place,
                            std::string("A number is larger than any that can be kept (") + e.what() + ").");
    } catch (const std::exception&) {
        return rubble::fail("json.syntax", place, "Not valid JSON.");
    }
}

std::string to_text(const Json& json) {
    std::string out;
    write(json, 0, out);
    return out + "\n";
}

Reader::Reader(const Json& json, std::string place, std::string path)
    : json_(json),
      place_(std::move(place)),
      path_(std::move(path)) {
    if (!json.is_object()) fail("", "an object");
}

const Json* Reader::find(const std::string& key) {
    known_.push_back(key);
    if (!json_.is_object()) return nullptr;
    const auto found = json_.find(key);
    return found == json_.end() ? nullptr : &*found;
}

void Reader::fail(const std::string& key, const std::string& expected) {
    if (error_) return;
    std::string found = "nothing";
    if (json_.is_object() && json_.contains(key)) found = one_line(json_[key]).substr(0, 60);
    error_ = Error{"file.value", place_ + ", key " + path_of(key),
                   "Expected " + expected + ", found " + found + "."};
}

std::string Reader::text(const std::string& key, const std::string& otherwise) {
    const Json* value = find(key);
    if (!value) return otherwise;
    if (!value->is_string()) {
        fail(key, "a text");
        return otherwise;
    }
    return value->get<std::string>();
}

double Reader::number(const std::string& key, double otherwise) {
    const Json* value = find(key);
    if (!value) return otherwise;
    if (!value->is_number() || !std::isfinite(value->get<double>())) {
        fail(key, "a number");
        return otherwise;
    }
    return value->get<double>();
}

bool Reader::flag(const std::string& key, bool otherwise) {
    const Json* value = find(key);
    if (!value) return otherwise;
    if (!value->is_boolean()) {
        fail(key, "true or false");
        return otherwise;
    }
    return value->get<bool>();
}

std::vector<double> Reader::numbers(const std::string& key, size_t count, std::vector<double> otherwise) {
    const Json* value = find(key);
    if (!value) return otherwise;
    std::vector<double> out;
    if (value->is_array() && value->size() == count)
        for (const Json& part : *value)
            if (part.is_number() && std::isfinite(part.get<double>())) out.push_back(part.get<double>());
    if (out.size() == count) return out;
    fail(key, "a list of " + std::to_string(count) + " numbers");
    return otherwise;
}

const Json& Reader::list(const std::string& key) {
    const Json* value = find(key);
    if (!value) return k_no_list;
    if (value->is_array()) return *value;
    fail(key, "a list");
    return k_no_list;
}

const Json& Reader::strings(const std::string& key) {
    const Json& texts = list(key);
    if (std::all_of(texts.begin(), texts.end(), [](const Json& text) { return text.is_string(); }))
        return texts;
    fail(key, "a list of texts");
    return k_no_list;
}

const Json& Reader::object(const std::string& key) {
    const Json* value = find(key);
    if (!value) return k_no_object;
    if (value->is_object()) return *value;
    fail(key, "an object");
    return k_no_object;
}

std::map<std::string, std::string> Reader::rest() const {
    std::map<std::string, std::string> out;
    if (!json_.is_object()) return out;
    for (const auto& [key, value] : json_.items())
        if (std::find(known_.begin(), known_.end(), key) == known_.end()) out[key] = value.dump();
    return out;
}

Json to_json(const Vec3& p) { return Json::array({p.x, p.y, p.z}); }

void add_rest(Json& json, const std::map<std::string, std::string>& rest) {
    for (const auto& [key, text] : rest) json[key] = Json::parse(text, nullptr, false);
}

double tidy(double value) { return std::round(value * 1e4) / 1e4; }
Json tidy(const Vec3& p) { return Json::array({tidy(p.x), tidy(p.y), tidy(p.z)}); }

std::vector<std::string> texts(Reader& in, const std::string& key) {
    std::vector<std::string> out;
    for (const Json& one : in.strings(key)) out.push_back(one.get<std::string>());
    return out;
}

} // namespace rubble::io
