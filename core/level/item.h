#pragma once

#include <functional>
#include <optional>
#include <string>
#include <variant>

#include "level/assemblies/placed_assembly.h"
#include "level/brush.h"
#include "level/element.h"
#include "level/extra.h"
#include "level/group.h"
#include "level/kits/placed_piece.h"
#include "level/tiles/placed_picture.h"
#include "level/tiles/placed_tiles.h"

namespace rubble {

/// Something that lies in a layer. A new kind is a row of `Body` and a header with what every kind answers:
/// the functions below ask it of whatever the item is, and the compiler names the kind that has no answer.
/// Files know kinds too (io/item_file).
struct Item {
    using Body = std::variant<Brush, Element, Group, PlacedPicture, PlacedPiece, PlacedAssembly, PlacedTiles>;

    ItemId id;
    std::string name;
    bool hidden = false; ///< changes only the view
    Body body;
    Extra extra;

    /// The brush that it is; null where it is none.
    const Brush* brush() const { return std::get_if<Brush>(&body); }
    /// The element that it is; null where it is none.
    const Element* element() const { return std::get_if<Element>(&body); }
    /// The group that it is; null where it is none.
    const Group* group() const { return std::get_if<Group>(&body); }
    /// The picture that it is; null where it is none.
    const PlacedPicture* picture() const { return std::get_if<PlacedPicture>(&body); }
    /// The piece that it is; null where it is none.
    const PlacedPiece* piece() const { return std::get_if<PlacedPiece>(&body); }
    /// The assembly that it is; null where it is none.
    const PlacedAssembly* assembly() const { return std::get_if<PlacedAssembly>(&body); }
    /// The block of tiles that it is; null where it is none.
    const PlacedTiles* tiles() const { return std::get_if<PlacedTiles>(&body); }
    /// What to call it in a sentence: its name, else its kind and id.
    std::string title() const;
    bool operator==(const Item&) const = default;
};

/// The kind in files ("brush"), and what fresh ids of such items begin with.
const char* type_key(const Item& item);
/// What fresh ids of such items begin with.
const char* id_prefix(const Item& item);
/// What it can be found by besides its name, in one line.
std::string search_words(const Item& item);
/// Which key of its own makes it unusable, empty when it can be kept: what it holds aside. An item that was
/// sound as `before` is looked at only as far as it differs.
std::string problem_of(const Item& item, const Item* before = nullptr);
/// Box around an item, in metres; a point for elements; empty for an empty group.
Box3 box_of(const Item& item);
/// Where it stands and how it is turned; nothing for what only holds others.
std::optional<Placement> placement_of(const Item& item);
/// A place that goes along with the item, given as parts of its own size from its low corner, and the parts
/// at which a place lies; nothing for what only holds others.
std::optional<Vec3> place_of_part(const Item& item, const Vec3& part);
/// The parts at which a place lies.
std::optional<Vec3> part_at(const Item& item, const Vec3& place);
/// The item elsewhere, with all it holds.
Item transformed(const Item& item, const Transform& transform);
/// The items it holds; null for what holds none.
const ItemList* members_of(const Item& item);
/// The same with others in it; for what holds none, itself.
Item with_members(const Item& item, ItemList members);
/// Calls `visit` for the ids of other items by which it refers to them; they may be set. Members are no
/// references.
void for_each_reference(Item& item, const std::function<void(ItemId&)>& visit);

} // namespace rubble
