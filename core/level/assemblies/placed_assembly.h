#pragma once

#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "level/assemblies/assembly.h"
#include "level/transform.h"

namespace rubble {

/// One of the assemblies that a place may hold by chance.
struct Alternative {
    std::string source;
    double weight = 1; ///< how often, beside the others
    bool operator==(const Alternative&) const = default;
};

/// An assembly where it stands in a level, with what this place has of its own. Its members are worked out:
/// they are those of its assembly, under ids that begin with its own.
struct PlacedAssembly {
    std::string source;
    std::shared_ptr<const Assembly> assembly; ///< null where it could not be read
    Placement place;
    bool mirrored = false; ///< left to right in its own axes, before it is turned
    OwnById own;
    ItemList members;
    Extra values;                    ///< tags and values for the game
    std::vector<Alternative> one_of; ///< drawn anew at each walk; empty: it always holds `source`
    bool operator==(const PlacedAssembly& other) const;
};

/// Calls `visit` for the files of all assemblies that a place holds or may hold; they may be set.
void for_each_source(PlacedAssembly& placed, const std::function<void(std::string&)>& visit);
/// Likewise, to be read.
void for_each_source(const PlacedAssembly& placed, const std::function<void(const std::string&)>& visit);

/// Items, and what is in them, with what is own to them. Ids of what is in nested assemblies are whole paths.
ItemList with_own(const ItemList& items, const OwnById& own);
/// An assembly's items as they come to stand at a place of a level, under ids that begin with `id` and '/'.
ItemList members_at(const ItemId& id, const PlacedAssembly& placed);
/// The same place with its members worked out anew, where its item has that id.
PlacedAssembly with_members_at(const ItemId& id, PlacedAssembly placed);
/// A place whose members were changed by an edit: what they have otherwise than their originals becomes what
/// the place has of its own.
PlacedAssembly with_own_from_members(const ItemId& id, PlacedAssembly placed);

/// What every kind of item answers, as item.h says. @{
const char* type_key(const PlacedAssembly& placed);
const char* id_prefix(const PlacedAssembly& placed);
std::string kind_word(const PlacedAssembly& placed);
std::string search_words(const PlacedAssembly& placed);
std::string problem_of(const PlacedAssembly& placed, const PlacedAssembly* before = nullptr);
Box3 box_of(const PlacedAssembly& placed);
std::optional<Placement> placement_of(const PlacedAssembly& placed);
std::optional<Vec3> place_of_part(const PlacedAssembly& placed, const Vec3& part);
std::optional<Vec3> part_at(const PlacedAssembly& placed, const Vec3& place);
PlacedAssembly transformed(const PlacedAssembly& placed, const Transform& transform);
const ItemList* members_of(const PlacedAssembly& placed);
PlacedAssembly with_members(const PlacedAssembly& placed, ItemList members);
void for_each_reference(PlacedAssembly& placed, const std::function<void(ItemId&)>& visit);
/// @}

} // namespace rubble
