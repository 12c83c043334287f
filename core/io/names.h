#pragma once

#include <string>

#include "geometry/vec.h"
#include "io/json_text.h"

namespace rubble::io {

/// A value with its name in files.
template <class Value> struct Name {
    const char* key;
    Value value;
};

/// The name of a value; the first where it has none.
template <class List, class Value> const char* key_of(const List& list, Value value) {
    for (const auto& name : list)
        if (name.value == value) return name.key;
    return list[0].key;
}

/// The value whose name stands under a key; the first of the list, and an error, where it is none of them.
template <class List>
auto choice(Reader& in, const std::string& key, const List& list, const char* otherwise) {
    const std::string text = in.text(key, otherwise);
    std::string choices;
    for (const auto& name : list) {
        if (text == name.key) return name.value;
        choices += (choices.empty() ? "" : ", ") + std::string(name.key);
    }
    in.fail(key, "one of " + choices);
    return list[0].value;
}

/// The three numbers under a key.
inline Vec3 point(Reader& in, const std::string& key, const Vec3& otherwise) {
    const auto v = in.numbers(key, 3, {otherwise.x, otherwise.y, otherwise.z});
    return {v[0], v[1], v[2]};
}

} // namespace rubble::io
