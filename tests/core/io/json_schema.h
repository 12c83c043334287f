#pragma once

#include <cmath>
#include <regex>
#include <string>

#include "io/json_text.h"

namespace rubble::test {

/// Checks JSON against a schema, as far as the project's own schemas go: type, const, enum, required,
/// properties, propertyNames, additionalProperties, items, counts, ranges, pattern and $ref into $defs. A
/// keyword that it does not know is an error, so that no rule is passed over.
class SchemaCheck {
public:
    explicit SchemaCheck(const io::Json& schema) : root_(schema) {}

    /// What is wrong first, with its place; empty when all is well.
    std::string problem(const io::Json& value) const { return problem(value, root_, ""); }

private:
    static std::string at(const std::string& path, const std::string& what) {
        return (path.empty() ? "/" : path) + ": " + what;
    }

    static bool has_type(const io::Json& v, const std::string& type) {
        if (type == "object") return v.is_object();
        if (type == "array") return v.is_array();
        if (type == "string") return v.is_string();
        if (type == "number") return v.is_number();
        if (type == "boolean") return v.is_boolean();
        if (type == "integer") return v.is_number() && v.get<double>() == std::floor(v.get<double>());
        return false;
    }

    std::string problem(const io::Json& v, const io::Json& schema, const std::string& path) const {
        if (schema.is_boolean()) return schema.get<bool>() ? "" : at(path, "nothing is allowed here");
        for (const auto& [key, rule] : schema.items()) {
            std::string found = by_rule(v, schema, key, rule, path);
            if (!found.empty()) return found;
        }
        return {};
    }

    std::string by_rule(const io::Json& v, const io::Json& schema, const std::string& key,
                        const io::Json& rule, const std::string& path) const {
        if (key == "$ref") {
            const std::string name = rule.get<std::string>().substr(std::string("#/$defs/").size());
            return problem(v, root_.at("$defs").at(name), path);
        }
        if (key == "type")
            return has_type(v, rule.get<std::string>()) ? "" : at(path, "not of type " + rule.dump());
        if (key == "const") return v == rule ? "" : at(path, "not " + rule.dump());
        if (key == "enum") {
            for (const auto& one : rule)
                if (v == one) return {};
            return at(path, v.dump() + " is none of " + rule.dump());
        }
        if (key == "required") {
            for (const auto& name : rule)
                if (!v.contains(name.get<std::string>())) return at(path, "lacks " + name.dump());
            return {};
        }
        if (key == "properties") return of_members(v, rule, path);
        if (key == "propertyNames") {
            for (const auto& [name, member] : v.items())
                if (std::string found = problem(name, rule, path + "/" + name); !found.empty()) return found;
            return {};
        }
        if (key == "additionalProperties") return of_others(v, schema, rule, path);
        if (key == "items") {
            for (size_t i = 0; v.is_array() && i < v.size(); ++i)
                if (std::string found = problem(v[i], rule, path + "/" + std::to_string(i)); !found.empty())
                    return found;
            return {};
        }
        if (key == "minItems") return v.size() >= rule.get<size_t>() ? "" : at(path, "too few");
        if (key == "maxItems") return v.size() <= rule.get<size_t>() ? "" : at(path, "too many");
        if (key == "minLength")
            return v.get<std::string>().size() >= rule.get<size_t>() ? "" : at(path, "too short");
        if (key == "minimum") return v.get<double>() >= rule.get<double>() ? "" : at(path, "too small");
        if (key == "maximum") return v.get<double>() <= rule.get<double>() ? "" : at(path, "too large");
        if (key == "exclusiveMinimum")
            return v.get<double>() > rule.get<double>() ? "" : at(path, "too small");
        if (key == "pattern")
            return std::regex_search(v.get<std::string>(), std::regex(rule.get<std::string>()))
                       ? ""
                       : at(path, "does not match " + rule.dump());
        if (key == "$schema" || key == "$id" || key == "$defs" || key == "title" || key == "description" ||
            key == "default")
            return {};
        return at(path, "the schema uses " + key + ", which this check does not know");
    }

    std::string of_members(const io::Json& v, const io::Json& rules, const std::string& path) const {
        for (const auto& [name, rule] : rules.items())
            if (v.is_object() && v.contains(name))
                if (std::string found = problem(v.at(name), rule, path + "/" + name); !found.empty())
                    return found;
        return {};
    }

    std::string of_others(const io::Json& v, const io::Json& schema, const io::Json& rule,
                          const std::string& path) const {
        if (!v.is_object()) return {};
        for (const auto& [name, member] : v.items()) {
            if (schema.contains("properties") && schema["properties"].contains(name)) continue;
            if (std::string found = problem(member, rule, path + "/" + name); !found.empty()) return found;
        }
        return {};
    }

    const io::Json& root_;
};

} // namespace rubble::test
