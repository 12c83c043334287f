#pragma once

#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "base/id.h"
#include "geometry/vec.h"
#include "level/extra.h"
#include "level/item_list.h"

namespace rubble {

/// What an item of an assembly has of its own instead of its original's, in the original's axes.
struct OwnValues {
    std::optional<Vec3> at;
    std::optional<double> turn_deg;
    std::optional<Vec3> size;
    std::optional<std::string> material;
    Extra values; ///< of an element or a piece
    bool left_out = false;
    Extra extra;
    /// Whether nothing is otherwise.
    bool empty() const { return *this == OwnValues{}; }
    bool operator==(const OwnValues&) const = default;
};
/// By the ids of items within an assembly, those of nested ones joined by '/'.
using OwnById = std::map<std::string, OwnValues>;

/// Items that are made once and used in many places. A derived one follows its original but for its own
/// values.
struct Assembly {
    std::string file; ///< as levels name it
    std::string name;
    ItemList items;           ///< of an original
    std::string derived_from; ///< the original's file; empty: it is one
    OwnById own;
    ItemList added; ///< to the original's items, by a derived one
    Extra values;   ///< tags and values for the game, of all its places
    Extra extra;
    /// The items it comes to, those of nested ones in them: worked out by `with_assemblies_resolved`.
    ItemList resolved;
    std::string
        flaw; ///< why nothing could be worked out: an original that is missing, a ring; empty: it could
};

/// An item with its own values; nothing where it is left out.
std::optional<Item> with_own(const Item& item, const OwnValues& own);
/// What an item has otherwise than another that it comes from, both in the same axes.
OwnValues own_of(const Item& original, const Item& now);

} // namespace rubble
