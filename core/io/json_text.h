#pragma once

#include <string>

#include <nlohmann/json.hpp>

#include "base/result.h"
#include "geometry/vec.h"
#include "io/key_order_map.h"

namespace rubble::io {

/// Keys keep the order in which they were put in, so that files differ only where their content does.
using Json = nlohmann::basic_json<KeyOrderMap>;

/// Text to JSON. Errors name the line; nesting deeper than 192 and texts over 256 MB are refused.
Result<Json> parse_json(const std::string& text, const std::string& place);

/// JSON as text that differs well line by line: whatever holds a list of objects, or texts under "rows", has
/// one member a line, all else, such as an item of a level, is one line. Numbers are shortest-exact. Ends
/// with a line break. Bytes that are no UTF-8, as names of files may have, become the replacement character.
std::string to_text(const Json& json);

/// Measured values are told to a tenth of a millimetre; more would be noise in reports.
double tidy(double value);
Json tidy(const Vec3& p);

/// Reads values out of an object, remembers the first thing that is wrong with its path in the file, and
/// which keys nobody asked for.
class Reader {
public:
    Reader(const Json& json, std::string place, std::string path = {});

    /// Whether the key is there.
    bool has(const std::string& key) const { return json_.is_object() && json_.contains(key); }
    /// The text under a key; an error where it is something else.
    std::string text(const std::string& key, const std::string& otherwise = {});
    /// The number under a key; an error where it is something else, or not finite.
    double number(const std::string& key, double otherwise);
    /// True or false under a key; an error where it is something else.
    bool flag(const std::string& key, bool otherwise);
    /// `count` numbers; `otherwise` where the key is missing.
    std::vector<double> numbers(const std::string& key, size_t count, std::vector<double> otherwise);
    /// A list of objects; empty where the key is missing.
    const Json& list(const std::string& key);
    /// A list of texts; empty where the key is missing, an error where it holds anything else.
    const Json& strings(const std::string& key);
    /// The object under a key, empty where there is none; an error where it is something else.
    const Json& object(const std::string& key);

    /// Notes what was expected under a key; the first error counts.
    void fail(const std::string& key, const std::string& expected);
    /// The key's place in the file.
    std::string path_of(const std::string& key) const { return path_ + "/" + key; }
    const std::string& place() const { return place_; }
    /// Whether nothing was wrong so far.
    bool ok() const { return !error_; }
    const Error& error() const { return *error_; }
    /// Takes over another reader's error, where there is one.
    void take_error(const Reader& other) {
        if (!error_ && other.error_) error_ = other.error_;
    }

    /// Keys that were never read, as JSON text.
    std::map<std::string, std::string> rest() const;

private:
    const Json* find(const std::string& key);

    const Json& json_;
    std::string place_, path_;
    std::vector<std::string> known_;
    std::optional<Error> error_;
};

/// A place as a list of its three numbers.
Json to_json(const Vec3& p);

/// Puts back keys that were kept as text.
void add_rest(Json& json, const std::map<std::string, std::string>& rest);

/// A list of texts under a key; empty where it is missing.
std::vector<std::string> texts(Reader& in, const std::string& key);

} // namespace rubble::io
