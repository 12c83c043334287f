#include "edit/assemblies.h"

#include <algorithm>
#include <cctype>
#include <cmath>

#include "edit/fresh_ids.h"
#include "edit/items.h"
#include "edit/tiles.h"
#include "level/assemblies/resolved.h"
#include "level/item_search.h"

namespace rubble::edit {

namespace {

const LayerId k_layer{"assembly"};

/// Items that others use are stored once: pieces and nested assemblies without what they come to are the
/// same.
bool same_items(const ItemList& a, const ItemList& b) { return a == b; }

Level with_item_body(const Level& level, const ItemId& id,
                     const std::function<void(PlacedAssembly&)>& change) {
    const Item* item = find_item(level, id);
    if (!item || !item->assembly()) return level;
    Item changed = *item;
    auto& placed = std::get<PlacedAssembly>(changed.body);
    change(placed);
    placed = with_members_at(id, std::move(placed));
    return with_changed(level, changed);
}

/// The cells of a layer as an item, under an id that is the layer's.
Item block_of(const Level& level, const Layer& layer, const TileBox& cells) {
    PlacedTiles block;
    block.tiles = **layer.tiles;
    block.tiles.grid = TileGrid();
    TileGridMaker maker;
    (*layer.tiles)->grid.for_each_tile(cells, [&](CellAt at, Tile tile) { maker.put(at, tile); });
    block.tiles.grid = maker.finished();
    block.layer = layer.id, block.upright = level.frame == Frame::side;
    block.tiles = counted_anew(std::move(block.tiles), level.frame);
    return Item{{layer.id.value}, layer.name, false, std::move(block), {}};
}

Level without_tiles(const Level& level, const Box3& area) {
    Level out = level;
    for (const auto& [layer, cells] : tiles_within(level, area)) {
        TileGridMaker maker((*layer->tiles)->grid);
        (*layer->tiles)->grid.for_each_tile(cells, [&](CellAt at, Tile) { maker.put(at, Tile()); });
        TileLayer tiles = **layer->tiles;
        tiles.grid = maker.finished();
        out = with_tile_layer(out, layer->id, std::move(tiles));
    }
    return out;
}

} // namespace

std::vector<std::pair<const Layer*, TileBox>> tiles_within(const Level& level, const Box3& area) {
    std::vector<std::pair<const Layer*, TileBox>> out;
    for (const auto& layer : level.layers) {
        if (!layer->tiles || level.frame == Frame::space || is_hidden(level, *layer)) continue;
        const TileLayer& tiles = **layer->tiles;
        const FrameLayout layout = layout_of(level.frame);
        Vec3 low = area.low, high = area.high;
        // From the first to the last cell whose middle is in it.
        for (const int axis : {layout.right, layout.ahead})
            low[axis] += tiles.cell_m * (0.5 - 1e-9), high[axis] -= tiles.cell_m * (0.5 - 1e-9);
        const CellAt a = cell_at(tiles, level.frame, {low.x, low.y, low.z}),
                     b = cell_at(tiles, level.frame, {high.x, high.y, high.z});
        const TileBox box{{a.column, b.row}, {b.column + 1, a.row + 1}};
        bool any = false;
        if (!box.empty()) tiles.grid.for_each_tile(box, [&](CellAt, Tile) { any = true; });
        if (any) out.push_back({layer.get(), box});
    }
    return out;
}

Project with_assembly(const Project& project, Assembly assembly) {
    Project out = project;
    const std::string file = assembly.file;
    auto shared = std::make_shared<const Assembly>(std::move(assembly));
    const auto known = std::find_if(out.assemblies.begin(), out.assemblies.end(),
                                    [&](const auto& one) { return one->file == file; });
    if (known == out.assemblies.end())
        out.assemblies.push_back(std::move(shared));
    else
        *known = std::move(shared);
    return with_assemblies_resolved(std::move(out));
}

std::string fresh_assembly_file(const Project& project, const std::string& name) {
    std::string base;
    for (const unsigned char c : name) base += std::isalnum(c) ? char(std::tolower(c)) : '-';
    if (base.empty()) base = "assembly";
    for (int n = 1;; ++n) {
        const std::string file =
            "assemblies/" + base + (n > 1 ? "-" + std::to_string(n) : "") + ".assembly.json";
        if (!find_assembly(project, file)) return file;
    }
}

MadeAssembly made_assembly(const Project& project, const Level& level, const std::vector<ItemId>& ids,
                           const std::string& name, const std::string& file,
                           const std::optional<Box3>& area) {
    MadeAssembly out{project, level, {}};
    std::vector<const Item*> chosen;
    std::vector<Item> blocks;
    Box3 box;
    int layer = 0;
    for_each_item(level, [&](const Item& item, const Layer&) {
        if (std::find(ids.begin(), ids.end(), item.id) != ids.end())
            chosen.push_back(&item), box.add(box_of(item));
    });
    if (area)
        for (const auto& [of, cells] : tiles_within(level, *area)) {
            blocks.push_back(block_of(level, *of, cells));
            box.add(box_of(blocks.back()));
        }
    if (chosen.empty() && blocks.empty()) return out;
    layer = chosen.empty() ? 0 : std::max(layer_of(level, chosen[0]->id), 0);
    const double grid = std::max(project.grid_m, 1e-3);
    const Vec3 middle = box.middle();
    const Vec3 at(std::round(middle.x / grid) * grid, std::round(middle.y / grid) * grid,
                  std::round(box.low.z / grid) * grid);
    Assembly assembly;
    assembly.file = file, assembly.name = name;
    for (const Item* item : chosen)
        assembly.items.push_back(ItemPtr(transformed(*item, Transform::moving(-at))));
    for (const Item& block : blocks)
        assembly.items.push_back(ItemPtr(transformed(block, Transform::moving(-at))));
    out.project = with_assembly(project, std::move(assembly));
    out.level = without(level, ids);
    if (area) out.level = without_tiles(out.level, *area);
    out.level = with_placed(out.project, out.level, layer, file, at, 0, out.id);
    return out;
}

Assembly derived(const Assembly& original, const std::string& name, const std::string& file,
                 const OwnById& own) {
    Assembly out;
    out.file = file, out.name = name, out.derived_from = original.file, out.own = own;
    return out;
}

MadeAssembly made_independent(const Project& project, const Level& level, const ItemId& place,
                              const std::string& name, const std::string& file) {
    MadeAssembly out{project, level, {}};
    const Item* item = find_item(level, place);
    const PlacedAssembly* placed = item ? item->assembly() : nullptr;
    if (!placed || !placed->assembly) return out;
    Assembly copy;
    copy.file = file, copy.name = name, copy.values = placed->assembly->values;
    copy.items = rubble::with_own(placed->assembly->resolved, placed->own);
    out.project = with_assembly(project, std::move(copy));
    out.level = with_source(out.project, with_own(level, place, {}), place, file);
    out.id = place;
    return out;
}

Level with_placed(const Project& project, const Level& level, int layer, const std::string& source,
                  const Vec3& at, double turn_deg, ItemId& id) {
    PlacedAssembly placed;
    placed.source = source, placed.assembly = find_assembly(project, source);
    placed.place.at = at, placed.place.turn_deg = turn_deg;
    id = fresh_id(level, id_prefix(placed));
    return with_item(level, layer, Item{id, {}, false, with_members_at(id, std::move(placed)), {}});
}

Level as_plain_items(const Level& level, const std::vector<ItemId>& ids) {
    Level out = level;
    for (const ItemId& id : ids) {
        const Item* item = find_item(out, id);
        if (!item || !item->assembly()) continue;
        const Item group{id, item->title(), item->hidden, Group{item->assembly()->members}, {}};
        const Item fresh = with_fresh_ids(out, group);
        Item kept = fresh;
        kept.id = id;
        out = with_changed(out, kept);
    }
    return out;
}

Level with_source(const Project& project, const Level& level, const ItemId& id, const std::string& source) {
    return with_item_body(level, id, [&](PlacedAssembly& placed) {
        placed.source = source, placed.assembly = find_assembly(project, source);
    });
}

Level with_own(const Level& level, const ItemId& id, OwnById own) {
    return with_item_body(level, id, [&](PlacedAssembly& placed) { placed.own = std::move(own); });
}

namespace {

/// Items with what is own to one of them put into it.
ItemList with_own_in(const ItemList& items, const std::string& id, const OwnValues& own) {
    std::vector<ItemPtr> out;
    for (const ItemPtr& item : items) {
        std::optional<Item> now = item->id.value == id ? rubble::with_own(*item, own) : std::optional(*item);
        if (!now) continue;
        if (now->group()) now = rubble::with_members(*now, with_own_in(now->group()->items, id, own));
        out.push_back(ItemPtr(std::move(*now)));
    }
    return ItemList(out);
}

} // namespace

namespace {

/// An assembly whose items have what is given to them, within nested ones at its place in this assembly.
Assembly with_own_taken_in(Assembly assembly, const std::string& item, const OwnValues& own) {
    const size_t slash = item.find('/');
    if (!assembly.derived_from.empty()) {
        assembly.own[item] = own;
    } else if (slash == std::string::npos) {
        assembly.items = with_own_in(assembly.items, item, own);
    } else {
        const std::string inner = item.substr(0, slash), rest = item.substr(slash + 1);
        for (size_t i = 0; i < assembly.items.size(); ++i) {
            Item one = *assembly.items[i];
            if (one.id.value != inner || !one.assembly()) continue;
            std::get<PlacedAssembly>(one.body).own[rest] = own;
            std::get<PlacedAssembly>(one.body).assembly = nullptr; // and is worked out anew
            assembly.items.set(i, std::move(one));
        }
    }
    return assembly;
}

} // namespace

Document passed_up(const Document& document, size_t level, const ItemId& place, const std::string& item) {
    const Item* at =
        level < document.levels.size() ? find_item(*document.levels[level].level, place) : nullptr;
    const PlacedAssembly* placed = at ? at->assembly() : nullptr;
    const auto assembly = placed ? find_assembly(*document.project, placed->source) : nullptr;
    if (!assembly || !placed->own.contains(item)) return document;
    Assembly changed = with_own_taken_in(*assembly, item, placed->own.at(item));
    Document out = document;
    OwnById left = placed->own;
    left.erase(item);
    out.levels[level].level = Shared<Level>(with_own(*document.levels[level].level, place, std::move(left)));
    out.project = Shared<Project>(with_assembly(*document.project, std::move(changed)));
    for (OpenLevel& open : out.levels) {
        Level now = with_files_of(*out.project, *open.level);
        if (!(now.layers == open.level->layers)) open.level = Shared<Level>(std::move(now));
    }
    return out;
}

Project with_own_given_back(const Project& project, const std::string& file, const std::string& item,
                            bool up) {
    const auto assembly = find_assembly(project, file);
    const auto original = assembly ? find_assembly(project, assembly->derived_from) : nullptr;
    if (!assembly || !assembly->own.contains(item)) return project;
    Assembly changed = *assembly;
    const OwnValues own = changed.own.at(item);
    changed.own.erase(item);
    const Project out =
        up && original ? with_assembly(project, with_own_taken_in(*original, item, own)) : project;
    return with_assembly(out, std::move(changed));
}

std::vector<int> uses_of(const Document& document, const std::string& file) {
    std::vector<int> out;
    for (const OpenLevel& open : document.levels) {
        int count = 0;
        for_each_item(*open.level, [&](const Item& item, const Layer&) {
            const PlacedAssembly* placed = item.assembly();
            if (!placed) return;
            // What is derived from it is one of its uses too.
            for (auto at = placed->assembly; at; at = find_assembly(*document.project, at->derived_from)) {
                if (at->file != file) continue;
                ++count;
                break;
            }
        });
        out.push_back(count);
    }
    return out;
}

Level with_own_values_followed(const Level& before, Level level) {
    if (before.layers == level.layers) return level;
    std::vector<Item> changed;
    for_each_item(level, [&](const Item& item, const Layer&) {
        const PlacedAssembly* now = item.assembly();
        if (!now || item.id.value.find('/') != std::string::npos) return;
        const Item* was = find_item(before, item.id);
        const PlacedAssembly* then = was ? was->assembly() : nullptr;
        if (!then || then->members.is(now->members)) return;
        const bool same_place = then->source == now->source && then->assembly == now->assembly &&
                                then->place == now->place && then->mirrored == now->mirrored &&
                                then->own == now->own;
        if (!same_place || then->members == now->members) return;
        Item kept = item;
        kept.body = with_own_from_members(item.id, *now);
        changed.push_back(std::move(kept));
    });
    return changed.empty() ? level : with_all_changed(level, changed);
}

Level level_of(const Assembly& assembly, const Level& like) {
    Level out;
    out.name = assembly.name, out.frame = like.frame, out.walked = like.walked,
    out.character = like.character, out.part = true;
    Layer layer;
    layer.id = k_layer, layer.name = assembly.name;
    std::vector<Shared<Layer>> tiles;
    for (const ItemPtr& item : assembly.derived_from.empty() ? assembly.items : assembly.resolved) {
        if (!item->tiles()) {
            layer.items.push_back(item);
            continue;
        }
        Layer block; // and is painted on as a layer
        block.id = {item->id.value}, block.name = item->name;
        block.tiles = Shared<TileLayer>(item->tiles()->tiles);
        tiles.push_back(std::move(block));
    }
    out.layers.push_back(std::move(layer));
    out.layers.insert(out.layers.end(), tiles.begin(), tiles.end());
    return out;
}

namespace {

/// What an assembly that is open as a level holds: its items, and a block of tiles for each layer of tiles.
ItemList all_items(const Level& level, const ItemList& before) {
    ItemList out;
    for (const auto& layer : level.layers) {
        for (const ItemPtr& item : layer->items) out.push_back(item);
        if (!layer->tiles || (*layer->tiles)->grid.bare()) continue;
        PlacedTiles block;
        block.layer = layer->id, block.upright = level.frame == Frame::side;
        for (const ItemPtr& item : before) // it lies in the layer that it came from
            if (item->tiles() && item->id.value == layer->id.value) block = *item->tiles();
        block.tiles = counted_anew(**layer->tiles, block.plane());
        out.push_back(ItemPtr(Item{{layer->id.value}, layer->name, false, std::move(block), {}}));
    }
    return out;
}

/// The same item of its own instead of the original's: tiles have no values that could be told one by one.
Item of_its_own(const Item& item) {
    Item out = item;
    out.id = {item.id.value + "-own"};
    return out;
}

/// A derived assembly that comes to other items: what they have otherwise than its original is its own, and
/// what the original does not have is added.
Assembly with_items(Assembly assembly, const Assembly& original, const ItemList& items) {
    PlacedAssembly whole;
    whole.assembly = std::make_shared<const Assembly>(original);
    ItemList known;
    assembly.added = {};
    for (const ItemPtr& item : items) {
        const auto same = [&](const ItemPtr& other) { return other->id == item->id; };
        const auto its = std::find_if(original.resolved.begin(), original.resolved.end(), same);
        if (its == original.resolved.end())
            assembly.added.push_back(item);
        else if (item->tiles() && !(*item == **its))
            assembly.added.push_back(ItemPtr(of_its_own(*item)));
        else
            known.push_back(item);
    }
    whole.members = std::move(known);
    assembly.own = with_own_from_members({"derived"}, std::move(whole)).own;
    return assembly;
}

} // namespace

Document with_assemblies_followed(const Document& before, Document document) {
    bool changed = false;
    for (size_t i = 0; i < document.levels.size(); ++i) {
        OpenLevel& open = document.levels[i];
        const auto assembly = find_assembly(*document.project, open.assembly);
        if (open.assembly.empty() || !assembly) continue;
        const auto was = find_assembly(*before.project, open.assembly);
        const bool edited = i < before.levels.size() && before.levels[i].assembly == open.assembly &&
                            !(before.levels[i].level == open.level);
        const auto original = find_assembly(*document.project, assembly->derived_from);
        if (edited && (original || assembly->derived_from.empty())) {
            Assembly now = *assembly;
            const ItemList& was_in_it = original ? assembly->resolved : assembly->items;
            const ItemList items = all_items(*open.level, was_in_it);
            if (same_items(items, was_in_it)) continue;
            if (original)
                now = with_items(std::move(now), *original, items);
            else
                now.items = items;
            document.project = Shared<Project>(with_assembly(*document.project, std::move(now)));
            changed = true;
        } else if (was != assembly && !edited) {
            open.level = Shared<Level>(with_files_of(*document.project, level_of(*assembly, *open.level)));
        }
    }
    if (!changed) return document;
    for (OpenLevel& open : document.levels) {
        Level now = with_files_of(*document.project, *open.level);
        if (!(now.layers == open.level->layers)) open.level = Shared<Level>(std::move(now));
    }
    return document;
}

} // namespace rubble::edit
