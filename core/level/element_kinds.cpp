#include "level/element_kinds.h"

#include <algorithm>
#include <array>
#include <charconv>

#include "base/ensure.h"
#include "level/item.h"

namespace rubble {

std::span<const ElementKind> element_kinds() {
    static const std::vector<ElementKind> k_kinds{
        {"start", Role::start, Sign::pennant, "s"},
        {"goal", Role::goal, Sign::ring, "g"},
        {"place", Role::place, Sign::lozenge, "e"},
        {"note", Role::note, Sign::sheet, "n"},
    };
    return k_kinds;
}

const ElementKind& kind_of(const std::string& key) {
    static const ElementKind k_unknown{"", Role::thing, Sign::lozenge, "e"};
    for (const ElementKind& kind : element_kinds())
        if (kind.key == key) return kind;
    return k_unknown;
}

const ElementKind& kind_of(const Element& element) { return kind_of(element.kind); }

const ElementKind& kind_with(Role role) {
    const auto kinds = element_kinds();
    const auto found =
        std::find_if(kinds.begin(), kinds.end(), [&](auto& kind) { return kind.role == role; });
    RUBBLE_ENSURE(found != kinds.end(), return kinds.front());
    return *found;
}

double number_of(const Element& element, const ElementField& field) {
    const auto found = element.values.find(field.key);
    if (found == element.values.end()) return field.usual;
    double value = 0;
    const std::string& text = found->second;
    const auto end = std::from_chars(text.data(), text.data() + text.size(), value).ptr;
    const bool whole = end == text.data() + text.size();
    return whole && value >= field.least && value <= field.most ? value : field.usual;
}

Element with_number(Element element, const ElementField& field, double value) {
    std::array<char, 32> text;
    value = std::clamp(value, field.least, field.most);
    const auto end = std::to_chars(text.data(), text.data() + text.size(), value).ptr;
    element.values[field.key] = std::string(text.data(), end);
    return element;
}

} // namespace rubble
