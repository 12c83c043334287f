#pragma once

#include <map>
#include <string>
#include <variant>
#include <vector>

#include "base/id.h"
#include "base/shared.h"
#include "level/placement.h"

namespace rubble {

/// Keys of a file that this version does not know, with their values as JSON text, so that they are written
/// back as they came.
using Extra = std::map<std::string, std::string>;

enum class Effect { fill, cut };
enum class Shape { box, ramp, cylinder, cone };
/// Whether a shape has `sides` around its middle.
inline bool is_round(Shape shape) { return shape == Shape::cylinder || shape == Shape::cone; }

/// The six sides of a brush's base box in its own axes; a ramp's slope counts as its top, and a side of a
/// round shape as the one it looks to most.
enum class BoxSide { left, right, near, away, bottom, top }; // -x +x -y +y -z +z
inline constexpr int box_sides = 6;
inline constexpr int least_sides = 3, most_sides = 64;

/// A simple solid that adds matter to what comes before it, or takes matter away.
/// `at` is the middle of the base of the unturned box `size` that the shape fills; ramps rise along +x.
struct Brush {
    Effect effect = Effect::fill;
    Shape shape = Shape::box;
    Placement place;
    Vec3 size{1, 1, 1};
    int sides = 16;                               ///< around a round shape, from least_sides to most_sides
    MaterialId material;                          ///< empty: bare stone, or on a cut the fill's own
    std::map<BoxSide, MaterialId> side_materials; ///< sides that differ from `material`
    bool operator==(const Brush&) const = default;
};

/// Anything that takes part in play: start, goal, place, note. Kinds that a newer version knows are kept.
struct Element {
    std::string kind;
    Vec3 at{0};
    double facing_deg = 0;
    Extra values;
    bool operator==(const Element&) const = default;
};

struct Item;
using ItemPtr = Shared<Item>;

/// Items that are handled as one; in the order of fills and cuts they count at the group's own place.
struct Group {
    std::vector<ItemPtr> items;
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
