#include "level/level.h"

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
    return character;
}

std::string character_name(const Project& project, const Level& level) {
    const NamedCharacter* named = find_character(project, level.character);
    if (named && !named->name.empty()) return named->name;
    std::string name = level.character.value.empty() ? "The character" : level.character.value;
    name[0] = char(std::toupper(static_cast<unsigned char>(name[0])));
    return name;
}

Box3 box_of(const Level& level) {
    Box3 box;
    for (const auto& layer : level.layers)
        for (const ItemPtr& item : layer->items) box.add(box_of(*item));
    return box;
}

Level new_level(const std::string& name, const CharacterId& character) {
    Brush floor;
    floor.place.at = {0, 0, -0.5};
    floor.size = {16, 16, 0.5};
    Element start{"start", {-6, 0, 0}, 0, {}};
    Layer layer;
    layer.id = {"l1"}, layer.name = "Ground";
    layer.items.push_back(Item{{"b1"}, "Floor", false, floor, {}});
    layer.items.push_back(Item{{"s1"}, "Start", false, start, {}});
    Level level;
    level.name = name;
    level.character = character;
    level.layers.push_back(std::move(layer));
    return level;
}

} // namespace rubble
