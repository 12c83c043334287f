#include "level/item_search.h"

#include <algorithm>
#include <cctype>
#include <charconv>
#include <cmath>
#include <functional>
#include <optional>
#include <sstream>

#include "level/brush_shape.h"

namespace rubble {

namespace {

std::string lower(std::string text) {
    for (char& c : text) c = char(std::tolower(static_cast<unsigned char>(c)));
    return text;
}

/// All that can be searched for by a word.
std::string words_of(const Level& level, const Item& item, const Layer& layer) {
    std::string words = item.title() + " " + item.name + " " + item.id.value + " " + layer.name;
    words += " " + search_words(item);
    if (item.hidden || is_hidden(level, layer)) words += " hidden";
    if (is_locked(level, layer)) words += " locked";
    return lower(std::move(words));
}

std::optional<double> value_of(const Item& item, const std::string& name) {
    const Brush* brush = item.brush();
    const Box3 box = box_of(item);
    if (box.empty()) return {};
    const Vec3 size = brush ? brush->size : box.high - box.low;
    const Placement place = placement_of(item).value_or(Placement{box.middle(), 0, {}});
    if (name == "length") return size.x;
    if (name == "width") return size.y;
    if (name == "height") return size.z;
    if (name == "x") return place.at.x;
    if (name == "y") return place.at.y;
    if (name == "z") return place.at.z;
    if (name == "turn") return brush ? place.turn_deg : 0;
    return {};
}

/// Whether a word such as "length>4" is a comparison, and whether the item meets it.
std::optional<bool> compared(const Item& item, const std::string& word) {
    const size_t sign = word.find_first_of("<>=");
    if (sign == std::string::npos || sign == 0 || sign + 1 >= word.size()) return {};
    // With a point whatever the user's language writes.
    double wanted = 0;
    const char* begin = word.data() + sign + 1;
    if (std::from_chars(begin, word.data() + word.size(), wanted).ptr == begin) return {};
    const auto value = value_of(item, word.substr(0, sign));
    if (!value) return false;
    constexpr double k_same = 1e-3;
    if (word[sign] == '<') return *value < wanted;
    if (word[sign] == '>') return *value > wanted;
    return std::abs(*value - wanted) <= k_same;
}

/// Whether something is true of a layer or of one that holds it.
bool holds_up(const Level& level, const Layer& layer, bool Layer::*what) {
    const Layer* at = &layer;
    for (size_t steps = 0; at && steps <= level.layers.size(); ++steps) { // parents may go round
        if (at->*what) return true;
        const LayerId parent = at->parent;
        at = nullptr;
        if (parent.empty()) break;
        for (const auto& one : level.layers)
            if (one->id == parent) at = one.get();
    }
    return false;
}

} // namespace

bool is_locked(const Level& level, const Layer& layer) { return holds_up(level, layer, &Layer::locked); }
bool is_hidden(const Level& level, const Layer& layer) { return holds_up(level, layer, &Layer::hidden); }

std::vector<const Item*> path_to(const Level& level, const ItemId& id) {
    const int layer = layer_of(level, id);
    if (layer < 0) return {};
    const ItemList& items = level.layers[size_t(layer)]->items;
    std::vector<const Item*> path{items[items.place_of(id)].get()};
    while (path.back()->id != id) {
        const ItemList& members = *members_of(*path.back());
        path.push_back(members[members.place_of(id)].get());
    }
    return path;
}

bool is_locked(const Level& level, const ItemId& id) {
    const int layer = layer_of(level, id);
    return layer >= 0 && is_locked(level, *level.layers[size_t(layer)]);
}

std::vector<FoundItem> found_items(const Level& level, const std::string& text) {
    std::istringstream stream(lower(text));
    std::vector<std::string> words;
    for (std::string word; stream >> word;) words.push_back(word);
    std::vector<FoundItem> out;
    for_each_item(level, [&](const Item& item, const Layer& layer) {
        std::string own;
        for (const std::string& word : words) {
            if (const auto met = compared(item, word)) {
                if (!*met) return;
                continue;
            }
            if (own.empty()) own = words_of(level, item, layer);
            if (own.find(word) == std::string::npos) return;
        }
        out.push_back({&item, &layer});
    });
    return out;
}

} // namespace rubble
