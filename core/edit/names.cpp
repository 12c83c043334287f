#include "edit/names.h"

#include <algorithm>
#include <cctype>
#include <map>
#include <optional>
#include <set>

#include "edit/items.h"
#include "level/shapes/shape_kind.h"

namespace rubble::edit {

namespace {

const std::string k_number = "{number}";

/// The characters of "a-z0-9_" one by one; a minus at an end stands for itself.
std::set<char> characters_of(const std::string& ranges) {
    std::set<char> out;
    for (size_t i = 0; i < ranges.size(); ++i) {
        const bool range = i + 2 < ranges.size() && ranges[i + 1] == '-';
        const char last = range ? ranges[i + 2] : ranges[i];
        for (int c = static_cast<unsigned char>(ranges[i]); c <= static_cast<unsigned char>(last); ++c)
            out.insert(char(c));
        if (range) i += 2;
    }
    return out;
}

/// What is not allowed as one "_", or as the first that is allowed; never two of them.
std::string cleaned(const std::string& text, const std::set<char>& allowed) {
    if (allowed.empty()) return text;
    const char instead = allowed.contains('_') ? '_' : allowed.contains('-') ? '-' : '\0';
    std::string out;
    for (char c : text) {
        const char lower = char(std::tolower(static_cast<unsigned char>(c)));
        const char upper = char(std::toupper(static_cast<unsigned char>(c)));
        if (!allowed.contains(c))
            c = allowed.contains(lower) ? lower : allowed.contains(upper) ? upper : instead;
        if (c != '\0' && !(c == instead && !out.empty() && out.back() == instead)) out += c;
    }
    return out;
}

std::string kind_name(const Item& item) {
    if (const Brush* brush = item.brush()) return kind_of(brush->shape).key;
    if (const Element* element = item.element()) return element->kind;
    if (const PlacedPiece* piece = item.piece()) return piece->piece_id;
    return type_key(item);
}

std::string replaced(std::string text, const std::string& what, const std::string& by) {
    if (const size_t at = text.find(what); at != std::string::npos) text.replace(at, what.size(), by);
    return text;
}

/// The names that items of one layer and kind have: what stands before and after their number.
struct Form {
    std::string before, after;
};
Form form_of(const NameScheme& scheme, const Layer& layer, const Item& item) {
    const auto allowed = characters_of(scheme.allowed);
    std::string text = replaced(scheme.pattern, "{layer}", cleaned(layer.name, allowed));
    text = replaced(std::move(text), "{kind}", cleaned(kind_name(item), allowed));
    const size_t at = text.find(k_number);
    return {text.substr(0, at), at == std::string::npos ? std::string() : text.substr(at + k_number.size())};
}

std::string numbered(const Form& form, int number, int longest) {
    std::string digits = std::to_string(number);
    if (digits.size() < 2) digits.insert(0, 1, '0');
    const size_t room = size_t(std::max(longest, 1));
    const size_t others = digits.size() + form.after.size();
    // What stands before the number is cut where the whole is too long.
    const std::string before = form.before.substr(0, room > others ? room - others : 0);
    return before + digits + form.after;
}

/// Whether a name is the form's with some number.
bool fits(const std::string& name, const Form& form, int longest) {
    if (!name.ends_with(form.after)) return false;
    const size_t end = name.size() - form.after.size();
    size_t begin = end;
    while (begin > 0 && std::isdigit(static_cast<unsigned char>(name[begin - 1]))) --begin;
    constexpr size_t k_most_digits = 7;
    // Where the form itself ends in a digit, fewer of them are the number.
    for (; begin < end; ++begin)
        if (end - begin <= k_most_digits &&
            numbered(form, std::stoi(name.substr(begin, end - begin)), longest) == name)
            return true;
    return false;
}

} // namespace

std::string problem_of(const NameScheme& scheme) {
    if (scheme.pattern.empty()) return {};
    if (scheme.pattern.find(k_number) == std::string::npos)
        return "Without {number} in it, items of one layer and kind would share a name.";
    const auto allowed = characters_of(scheme.allowed);
    std::string rest = scheme.pattern;
    for (const char* field : {"{layer}", "{kind}", "{number}"}) rest = replaced(std::move(rest), field, "");
    for (const char c : rest)
        if (!allowed.empty() && !allowed.contains(c))
            return std::string("\"") + c + "\" is not allowed in names.";
    for (char digit = '0'; digit <= '9'; ++digit)
        if (!allowed.empty() && !allowed.contains(digit)) return "Digits must be allowed, for the number.";
    return {};
}

std::vector<Misnamed> misnamed(const NameScheme& scheme, const Level& level) {
    if (scheme.pattern.empty() || !problem_of(scheme).empty()) return {};
    const auto allowed = characters_of(scheme.allowed);
    std::vector<Misnamed> out;
    std::set<std::string> taken;
    std::map<ItemId, Form> forms;
    for_each_item(level, [&](const Item& item, const Layer& layer) {
        const Form form = form_of(scheme, layer, item);
        using Why = Misnamed::Why;
        std::optional<Why> why;
        const bool strange = std::any_of(item.name.begin(), item.name.end(),
                                         [&](char c) { return !allowed.empty() && !allowed.contains(c); });
        if (item.name.empty())
            why = Why::none;
        else if (strange)
            why = Why::characters;
        else if (int(item.name.size()) > scheme.longest)
            why = Why::length;
        else if (!fits(item.name, form, scheme.longest))
            why = Why::pattern;
        else if (taken.contains(item.name))
            why = Why::twice;
        if (!why) {
            taken.insert(item.name);
            return;
        }
        out.push_back({item.id, *why, item.name, {}});
        forms[item.id] = form;
    });
    // The least number that nobody has.
    std::map<std::string, int> next;
    for (Misnamed& one : out) {
        const Form& form = forms[one.item];
        int& number = next[form.before + '\0' + form.after];
        do one.wanted = numbered(form, ++number, scheme.longest);
        while (taken.contains(one.wanted) && number < 1000000);
        taken.insert(one.wanted);
    }
    return out;
}

Level with_names_by(const NameScheme& scheme, const Level& level) {
    std::map<ItemId, std::string> wanted;
    for (Misnamed& one : misnamed(scheme, level)) wanted.emplace(one.item, std::move(one.wanted));
    std::vector<Item> changed;
    std::vector<ItemId> groups; // those in others come after them
    for_each_item(level, [&](const Item& item, const Layer&) {
        const auto name = wanted.find(item.id);
        if (name == wanted.end()) return;
        if (item.group()) return groups.push_back(item.id);
        changed.push_back(item);
        changed.back().name = name->second;
    });
    Level out = with_all_changed(level, changed);
    for (const ItemId& id : groups) {
        Item group = *find_item(out, id);
        group.name = wanted[id];
        out = with_changed(out, group);
    }
    return out;
}

} // namespace rubble::edit
