#pragma once

#include <map>
#include <string>
#include <variant>
#include <vector>

#include "level/brush.h"
#include "level/item_list.h"

namespace rubble {

/// Keys of a file that this version does not know, with their values as JSON text, so that they are written
/// back as they came.
using Extra = std::map<std::string, std::string>;

/// Anything that takes part in play: start, goal, place, note. Kinds that a newer version knows are kept.
struct Element {
    std::string kind;
    Vec3 at{0};
    double facing_deg = 0;
    Extra values;
    bool operator==(const Element&) const = default;
};

/// Items that are handled as one; in the order of fills and cuts they count at the group's own place.
struct Group {
    ItemList items;
    bool operator==(const Group&) const;
};

struct Item {
    ItemId id;
    std::string name;
    bool hidden = false; ///< changes only the view
    std::variant<Brush, Element, Group> body;
    Extra extra;

    const Brush* brush() const { return std::get_if<Brush>(&body); }
    const Element* element() const { return std::get_if<Element>(&body); }
    const Group* group() const { return std::get_if<Group>(&body); }
    /// What to call it in a sentence: its name, else its kind and id.
    std::string title() const;
    bool operator==(const Item&) const = default;
};

inline bool Group::operator==(const Group& other) const { return items == other.items; }

} // namespace rubble
