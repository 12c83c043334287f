#pragma once

#include <optional>
#include <utility>
#include <vector>

#include "level/document.h"

namespace rubble::edit {

/// A project with another or a changed assembly in it, and all of them worked out anew.
Project with_assembly(const Project& project, Assembly assembly);

/// Items of a level made an assembly, which stands in their place.
struct MadeAssembly {
    Project project;
    Level level;
    ItemId id; ///< of the place; empty: nothing was chosen, or it would be within itself
};
/// `file` is how levels will name it. Its origin is the middle of the base of what was chosen, on the grid.
/// With an `area`, the cells of all tile layers that are seen and whose middles lie in it go in too.
MadeAssembly made_assembly(const Project& project, const Level& level, const std::vector<ItemId>& ids,
                           const std::string& name, const std::string& file,
                           const std::optional<Box3>& area = {});
/// The cells that go into an assembly with an area: for each layer of tiles that is seen, its box of cells.
std::vector<std::pair<const Layer*, TileBox>> tiles_within(const Level& level, const Box3& area);
/// One that no assembly of the project has, by a name.
std::string fresh_assembly_file(const Project& project, const std::string& name);
/// An assembly that follows another in all but its own values; those of a place become its own where there is
/// one.
Assembly derived(const Assembly& original, const std::string& name, const std::string& file,
                 const OwnById& own = {});

/// A place given an assembly of its own, with the items that it has now, so that it follows the other one no
/// longer.
MadeAssembly made_independent(const Project& project, const Level& level, const ItemId& place,
                              const std::string& name, const std::string& file);

/// A level with another place of an assembly in it; its id is noted.
Level with_placed(const Project& project, const Level& level, int layer, const std::string& source,
                  const Vec3& at, double turn_deg, ItemId& id);
/// Places of assemblies turned into a group of plain items each, under ids of their own.
Level as_plain_items(const Level& level, const std::vector<ItemId>& ids);
/// A place that follows another assembly, in the same spot; own values stay.
Level with_source(const Project& project, const Level& level, const ItemId& id, const std::string& source);
/// A place with other own values.
Level with_own(const Level& level, const ItemId& id, OwnById own);
/// What a place has of its own for one of its items given to the assembly itself, so that all places have it.
Document passed_up(const Document& document, size_t level, const ItemId& place, const std::string& item);

/// What a derived assembly has of its own for one of its items taken away, so that it follows its original
/// again; with `up` it is given to the original first.
Project with_own_given_back(const Project& project, const std::string& file, const std::string& item,
                            bool up = false);

/// How many places an assembly has, also within others, in each open level.
std::vector<int> uses_of(const Document& document, const std::string& file);

/// What follows from an edit of a level: what was changed within a place of an assembly is what the place has
/// of its own.
Level with_own_values_followed(const Level& before, Level level);
/// What follows from an edit of a document: an assembly that is open by itself is changed as its level was,
/// in all levels, and shown as it was changed elsewhere.
Document with_assemblies_followed(const Document& before, Document document);
/// The level that an assembly is shown as when it is opened by itself.
Level level_of(const Assembly& assembly, const Level& like);

} // namespace rubble::edit
