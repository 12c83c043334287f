#pragma once

#include <functional>
#include <map>
#include <optional>
#include <string>
#include <vector>

#include "level/character.h"
#include "level/claim.h"
#include "level/dimension.h"
#include "level/dressing/material.h"
#include "level/excuse.h"
#include "level/frame.h"
#include "level/item.h"
#include "level/skill.h"
#include "level/tiles/tile_layer.h"
#include "level/underlay.h"

namespace rubble {

/// A floor of a building: how high it lies, and how much room is over it.
struct Storey {
    double floor_m = 0;
    double clear_m = 3;
    bool operator==(const Storey&) const = default;
};

struct Layer {
    LayerId id;
    std::string name;
    LayerId parent; ///< the layer that holds it in the tree; empty: none
    bool hidden = false;
    bool locked = false; ///< its items are not caught by the pointer
    std::optional<Storey> storey;
    std::optional<std::array<uint8_t, 3>> tint; ///< a colour (sRGB) for its bare stone
    ItemList items;
    std::optional<Shared<TileLayer>> tiles; ///< of a layer of tiles, which holds no items
    StandardMaterials standard;
    Extra extra;
    bool operator==(const Layer&) const = default;
};

/// Metrics that a level changes for a character, by their keys in files.
using CharacterChanges = std::map<std::string, double>;

/// Two items kept alike: what is changed of one is changed of the other. Without a mirror they share all but
/// their places; with one, each is the other's image across an upright plane.
struct ItemLink {
    ItemId a, b;
    int mirror_axis = -1; ///< 0 x, 1 y; -1: no mirror
    double mirror_at_m = 0;
    bool operator==(const ItemLink&) const = default;
};

/// What a project's play by cells allows besides what is usual.
struct PuzzleRules {
    bool two_crates = false;    ///< two crates in a row are pushed at once
    bool crates_slide = false;  ///< crates that are pushed onto slippery floor go on as the figure does
    bool keys_are_kept = false; ///< no key is used up
    bool nobody_pushes = false; ///< crates stay where they are
    bool operator==(const PuzzleRules&) const = default;
};

/// Rules that a project gives a name, so that levels can be proven under them too.
struct RuleSet {
    std::string name;
    PuzzleRules rules;
    bool operator==(const RuleSet&) const = default;
};

/// With whom, and under which rules, a level's claims are to hold besides its own character and rules.
struct AlsoProven {
    CharacterId character; ///< empty: the level's
    std::string rules;     ///< the name of a rule set; empty: the project's rules
    bool operator==(const AlsoProven&) const = default;
};

/// What a level is about: which elements serve that, and which are unusual in it.
struct KindOfPlay {
    std::string key, name;
    std::vector<std::string> serves, unusual; ///< kinds of elements
    std::vector<std::string> rules;           ///< findings that it asks for, by their keys
    bool operator==(const KindOfPlay&) const = default;
};

struct Level {
    std::string name;
    Frame frame = Frame::space;
    Walked walked = Walked::freely;
    CharacterId character;
    std::vector<Shared<Layer>> layers;
    std::vector<Claim> claims;
    std::vector<Excuse> excuses; ///< findings that stay, with why
    std::vector<Dimension> dimensions;
    std::vector<Underlay> underlays;
    std::vector<ItemLink> links;
    std::map<CharacterId, CharacterChanges> characters;
    PuzzleRules rules; ///< the project's
    std::vector<AlsoProven> also_proven;
    std::string about; ///< the key of its kind of play; empty: none is said
    bool part = false; ///< of levels: an assembly or a piece that is open by itself, which nobody plays alone
    Extra extra;
    bool operator==(const Level&) const = default;
};

struct NamedCharacter {
    CharacterId id;
    std::string name;
    Character metrics;
    Extra extra;
    bool operator==(const NamedCharacter&) const = default;
};

/// What a team has agreed on for all its levels (metres).
struct Measures {
    double wall_m = 0.25;    ///< thickness of walls
    double door_m = 2.1;     ///< height of doors
    double ceiling_m = 3;    ///< height of rooms
    double corridor_m = 1.2; ///< the least between two walls
    double overlap_m = 0;    ///< how far neighbours reach into each other
    bool operator==(const Measures&) const = default;
};

/// A layer of tiles as all levels of a project have it. Their own layer of the same id is that layer.
struct SchemeLayer {
    LayerId id;
    std::string name;
    Frame frame = Frame::side; ///< the levels that have it
    double cell_m = 0.5;
    bool solid = false;
    double depth = 0, opacity = 1;
    Vec2 parallax{1};
    bool operator==(const SchemeLayer&) const = default;
};

/// What a project kept and threw away of what was suggested to it.
struct Habit {
    int kept = 0, thrown = 0;
    bool operator==(const Habit&) const = default;
};

/// How items of a project are to be called.
struct NameScheme {
    /// With {layer}, {kind} and {number} in it, such as "{layer}_{kind}_{number}"; empty: as one likes.
    std::string pattern;
    int longest = 64;
    std::string allowed = "A-Za-z0-9_-"; ///< characters, and ranges of them
    bool operator==(const NameScheme&) const = default;
};

/// A parcel that a project puts together for itself, or a usual one that it changed.
struct ParcelSet {
    std::string key, name;
    std::vector<std::string> parts; ///< by their keys
    bool operator==(const ParcelSet&) const = default;
};

/// What all levels of a project agree on.
struct Project {
    std::string name;
    double grid_m = 0.5;
    double module_m = 5.0;
    double turn_step_deg = 15;
    Measures measures;
    double easy_pct = 35; ///< margins from which a span is easy, fair
    double fair_pct = 15;
    std::vector<NamedCharacter> characters;
    double dots_per_m = 256; ///< of pictures on faces
    double least_lux = 1;    ///< at the eyes of whoever goes to the goal, where a level has lights
    std::vector<Material> materials;
    double pixels_per_m = 32; ///< of tiles
    std::vector<std::shared_ptr<const TileSheet>> sheets;
    std::vector<std::shared_ptr<const Kit>> kits;
    std::vector<std::shared_ptr<const Assembly>> assemblies;
    PuzzleRules rules;
    std::vector<RuleSet> rule_sets;
    /// Kinds of elements that it made, and limits to those that every project has.
    std::vector<std::shared_ptr<const ElementKind>> element_kinds;
    std::vector<KindOfPlay> kinds_of_play; ///< those that it changed or made
    std::map<std::string, Habit> habits;   ///< by kinds of what is suggested
    std::vector<Skill> skills;             ///< of simulated players, where they are not the usual ones
    std::vector<std::string> rules_off;    ///< keys of rules whose findings nobody wants
    std::vector<SchemeLayer> scheme;       ///< the layers of tiles that its levels have, those behind first
    std::vector<std::string> level_order;  ///< files of levels, in play; others follow by their names
    NameScheme names;
    std::vector<ParcelSet> parcels; ///< its own
    Extra extra;
    bool operator==(const Project&) const = default;
};

/// The skills that simulated players of a project may have: its own, else the usual ones.
std::vector<Skill> skills_of(const Project& project);

/// Calls `visit` for every item, groups before their members, in the order of storing.
void for_each_item(const Level& level, const std::function<void(const Item&, const Layer&)>& visit);
/// The item with that id, inside groups too; null when there is none.
const Item* find_item(const Level& level, const ItemId& id);
/// The index of the layer that holds the item, at any depth; -1 when none does.
int layer_of(const Level& level, const ItemId& id);

/// Null where the project has none of that id.
const Material* find_material(const Project& project, const MaterialId& id);
/// Null where the project has none of that file.
std::shared_ptr<const TileSheet> find_sheet(const Project& project, const std::string& file);
/// Null where the project has none of that file.
std::shared_ptr<const Kit> find_kit(const Project& project, const std::string& file);
/// Null where the project has none of that file.
std::shared_ptr<const Assembly> find_assembly(const Project& project, const std::string& file);
/// The level with its tile layers, pictures, pieces and assemblies as the project's files have them now.
Level with_files_of(const Project& project, Level level);
/// The project's own kind of that key; null where it has none.
std::shared_ptr<const ElementKind> find_own_kind(const Project& project, const std::string& key);
/// Null where the project has none of that name.
const RuleSet* find_rule_set(const Project& project, const std::string& name);
/// Null where the project has none of that id.
const NamedCharacter* find_character(const Project& project, const CharacterId& id);
/// The level's character: the project's, or the default metrics where it has none of that name, with the
/// level's own changes on top.
Character character_of(const Project& project, const Level& level);
/// The rules that play in a level has: some, and that nobody pushes where its character cannot.
PuzzleRules rules_for(const Project& project, const Level& level, PuzzleRules rules);
/// What the level's character is called.
std::string character_name(const Project& project, const Level& level);

/// Where an element counts in play: in a Side level in the plane that is played in, wherever it was put.
Vec3 met_at(const Level& level, const Element& element);

/// Box around all items and tiles, in metres.
Box3 box_of(const Level& level);

/// A level to begin with: a floor whose top is at height 0, in a Plan level the walls around a room, and a
/// start.
Level new_level(const std::string& name, const CharacterId& character, Frame frame = Frame::space);

} // namespace rubble
