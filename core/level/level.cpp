#include "level/level.h"

#include "level/element_kinds.h"

namespace rubble {

namespace {

void visit_items(const ItemList& items, const Layer& layer,
                 const std::function<void(const Item&, const Layer&)>& visit) {
    for (const ItemPtr& item : items) {
        visit(*item, layer);
        if (const ItemList* members = members_of(*item)) visit_items(*members, layer, visit);
    }
}

const Item* find_in(const ItemList& items, const ItemId& id) {
    const size_t place = items.place_of(id);
    if (place == items.size()) return nullptr;
    const Item& item = *items[place];
    return item.id == id ? &item : find_in(*members_of(item), id);
}

/// An item as the project's sheets and kits have it now; nothing where that is how it is.
std::optional<Item> with_files_of(const Project& project, const Item& item);

/// Items, those in groups too, as the project's sheets and kits have them now.
ItemList with_files_of(const Project& project, const ItemList& items) {
    ItemList out = items;
    for (size_t i = 0; i < items.size(); ++i)
        if (auto changed = with_files_of(project, *items[i])) out.set(i, std::move(*changed));
    return out;
}

std::optional<Item> with_files_of(const Project& project, const Item& item) {
    if (const PlacedAssembly* placed = item.assembly()) {
        auto assembly = find_assembly(project, placed->source);
        if (assembly == placed->assembly) return {};
        Item changed = item;
        auto& now = std::get<PlacedAssembly>(changed.body);
        now.assembly = std::move(assembly);
        now = with_members_at(item.id, std::move(now));
        return changed;
    }
    if (const ItemList* members = members_of(item)) {
        ItemList now = with_files_of(project, *members);
        return now.is(*members) ? std::nullopt : std::optional(with_members(item, std::move(now)));
    }
    if (const Element* element = item.element()) {
        auto own = find_own_kind(project, element->kind);
        if (own == element->own) return {};
        Item changed = item;
        std::get<Element>(changed.body).own = std::move(own);
        return changed;
    }
    if (const PlacedPicture* picture = item.picture()) {
        auto sheet = find_sheet(project, picture->sheet_file);
        if (sheet == picture->sheet) return {};
        Item changed = item;
        std::get<PlacedPicture>(changed.body).sheet = std::move(sheet);
        return changed;
    }
    if (const PlacedTiles* block = item.tiles()) {
        auto sheet = find_sheet(project, block->tiles.sheet_file);
        if (sheet == block->tiles.sheet) return {};
        Item changed = item;
        std::get<PlacedTiles>(changed.body).tiles.sheet = std::move(sheet);
        return changed;
    }
    if (const PlacedPiece* placed = item.piece()) {
        const auto kit = find_kit(project, placed->kit_file);
        auto piece = kit ? kit->piece(placed->piece_id) : nullptr;
        if (piece == placed->piece) return {};
        Item changed = item;
        std::get<PlacedPiece>(changed.body).piece = std::move(piece);
        return changed;
    }
    return {};
}

} // namespace

void for_each_item(const Level& level, const std::function<void(const Item&, const Layer&)>& visit) {
    for (const auto& layer : level.layers) visit_items(layer->items, *layer, visit);
}

const Item* find_item(const Level& level, const ItemId& id) {
    for (const auto& layer : level.layers)
        if (const Item* found = find_in(layer->items, id)) return found;
    return nullptr;
}

int layer_of(const Level& level, const ItemId& id) {
    for (size_t i = 0; i < level.layers.size(); ++i)
        if (level.layers[i]->items.place_of(id) < level.layers[i]->items.size()) return int(i);
    return -1;
}

const Material* find_material(const Project& project, const MaterialId& id) {
    for (const Material& material : project.materials)
        if (material.id == id) return &material;
    return nullptr;
}

std::shared_ptr<const TileSheet> find_sheet(const Project& project, const std::string& file) {
    for (const auto& sheet : project.sheets)
        if (sheet->file == file) return sheet;
    return nullptr;
}

std::shared_ptr<const Kit> find_kit(const Project& project, const std::string& file) {
    for (const auto& kit : project.kits)
        if (kit->file == file) return kit;
    return nullptr;
}

std::shared_ptr<const Assembly> find_assembly(const Project& project, const std::string& file) {
    for (const auto& assembly : project.assemblies)
        if (assembly->file == file) return assembly;
    return nullptr;
}

std::shared_ptr<const ElementKind> find_own_kind(const Project& project, const std::string& key) {
    for (const auto& kind : project.element_kinds)
        if (kind->key == key && !kind->name.empty()) return kind;
    return nullptr;
}

const RuleSet* find_rule_set(const Project& project, const std::string& name) {
    for (const RuleSet& set : project.rule_sets)
        if (set.name == name) return &set;
    return nullptr;
}

Level with_files_of(const Project& project, Level level) {
    level.rules = rules_for(project, level, project.rules);
    for (Shared<Layer>& layer : level.layers) {
        ItemList items = with_files_of(project, layer->items);
        std::optional<Shared<TileLayer>> tiles = layer->tiles;
        if (tiles && (*tiles)->sheet != find_sheet(project, (*tiles)->sheet_file)) {
            TileLayer drawn = **tiles;
            drawn.sheet = find_sheet(project, drawn.sheet_file);
            tiles = Shared<TileLayer>(std::move(drawn));
        }
        if (items.is(layer->items) && tiles == layer->tiles) continue;
        Layer changed = *layer;
        changed.items = std::move(items), changed.tiles = std::move(tiles);
        layer = Shared<Layer>(std::move(changed));
    }
    return level;
}

const NamedCharacter* find_character(const Project& project, const CharacterId& id) {
    for (const NamedCharacter& character : project.characters)
        if (character.id == id) return &character;
    return nullptr;
}

Character character_of(const Project& project, const Level& level) {
    const NamedCharacter* named = find_character(project, level.character);
    Character character = named ? named->metrics : Character{};
    if (const auto changes = level.characters.find(level.character); changes != level.characters.end())
        for (const auto& [key, value] : changes->second)
            if (const CharacterField* field = find_character_field(key)) character.*field->member = value;
    if (level.frame == Frame::plan) // nothing falls there, so nothing jumps
        character.jump_height_m = character.further_jumps = character.pull_up_m = 0;
    return character;
}

PuzzleRules rules_for(const Project& project, const Level& level, PuzzleRules rules) {
    if (character_of(project, level).push_part <= 0) rules.nobody_pushes = true;
    return rules;
}

std::vector<Skill> skills_of(const Project& project) {
    if (!project.skills.empty()) return project.skills;
    const auto usual = usual_skills();
    return {usual.begin(), usual.end()};
}

std::string character_name(const Project& project, const Level& level) {
    const NamedCharacter* named = find_character(project, level.character);
    if (named && !named->name.empty()) return named->name;
    std::string name = level.character.value.empty() ? "The character" : level.character.value;
    name[0] = char(std::toupper(static_cast<unsigned char>(name[0])));
    return name;
}

Vec3 met_at(const Level& level, const Element& element) {
    return level.frame == Frame::side ? Vec3(element.at.x, 0, element.at.z) : element.at;
}

Box3 box_of(const Level& level) {
    Box3 box;
    for (const auto& layer : level.layers) {
        for (const ItemPtr& item : layer->items) box.add(box_of(*item));
        if (layer->tiles) box.add(box_of(**layer->tiles, level.frame, (*layer->tiles)->grid.area()));
    }
    return box;
}

namespace {

/// Plain solid cells with the floor's top at height 0, or the walls around a room seen from above.
TileLayer first_tiles(Frame frame) {
    TileLayer tiles;
    tiles.solid = true;
    TileGridMaker maker;
    if (frame == Frame::side) {
        constexpr int k_columns = 48, k_rows = 4;
        tiles.cell_m = 0.5, tiles.origin = {-12, 0, 0};
        for (int row = 0; row < k_rows; ++row) maker.put_run({0, row}, k_columns, Tile(0));
    } else {
        constexpr int k_columns = 24, k_rows = 16;
        tiles.cell_m = 1, tiles.origin = {-12, 8, 0};
        for (int row = 0; row < k_rows; ++row) {
            const bool whole = row == 0 || row == k_rows - 1;
            maker.put_run({0, row}, whole ? k_columns : 1, Tile(0));
            maker.put_run({k_columns - 1, row}, k_columns, Tile(0));
        }
    }
    tiles.grid = maker.finished();
    return tiles;
}

} // namespace

Level new_level(const std::string& name, const CharacterId& character, Frame frame) {
    Level level;
    level.name = name;
    level.frame = frame;
    level.character = character;
    const Item start{{"s1"}, "Start", false, Element{"start", {-6, 0, 0}, 0, {}}, {}};
    Layer layer;
    layer.id = {"l1"}, layer.name = "Ground";
    if (frame == Frame::space) {
        Brush floor;
        floor.place.at = {0, 0, -0.5};
        floor.size = {16, 16, 0.5};
        layer.items.push_back(Item{{"b1"}, "Floor", false, floor, {}});
        layer.items.push_back(start);
        level.layers.push_back(std::move(layer));
        return level;
    }
    layer.tiles = Shared<TileLayer>(first_tiles(frame));
    level.layers.push_back(std::move(layer));
    Layer play;
    play.id = {"l2"}, play.name = "Play";
    play.items.push_back(start);
    level.layers.push_back(std::move(play));
    return level;
}

} // namespace rubble
