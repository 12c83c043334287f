#include "edit/finals.h"

#include <cctype>
#include <map>
#include <set>

#include "edit/items.h"
#include "level/brush_shape.h"

namespace rubble::edit {

namespace {

const char* const k_replaces = "replaces";

std::string plain(const std::string& name) {
    std::string out;
    for (const char c : name)
        if (std::isalnum(static_cast<unsigned char>(c)))
            out += char(std::tolower(static_cast<unsigned char>(c)));
    return out;
}

/// The level with some items seen and others not.
Level with_seen(const Level& level, const std::map<ItemId, bool>& seen) {
    std::vector<Item> changed;
    for (const auto& [id, shown] : seen) {
        const Item* item = find_item(level, id);
        if (!item || item->hidden == !shown) continue;
        Item copy = *item;
        copy.hidden = !shown;
        changed.push_back(std::move(copy));
    }
    return changed.empty() ? level : with_all_changed(level, changed);
}

} // namespace

ItemId grey_of(const Item& item) {
    const PlacedPiece* placed = item.piece();
    if (!placed) return {};
    const auto value = placed->values.find(k_replaces);
    if (value == placed->values.end() || value->second.size() < 2) return {};
    return {value->second.substr(1, value->second.size() - 2)}; // it is kept as JSON, in quotes
}

LaidFinals with_finals(const Level& level, const Kit& kit) {
    std::map<std::string, ItemId> by_name, by_id;
    std::map<ItemId, ItemId> before;
    for_each_item(level, [&](const Item& item, const Layer&) {
        if (item.brush() && item.brush()->effect == Effect::fill) {
            by_id.emplace(plain(item.id.value), item.id);
            if (!item.name.empty()) by_name.emplace(plain(item.name), item.id);
        }
        if (const ItemId grey = grey_of(item); !grey.empty()) before[grey] = item.id;
    });
    LaidFinals out{level, {}, {}};
    std::map<ItemId, bool> seen;
    for (const auto& piece : kit.pieces) {
        const ItemId* grey = nullptr;
        for (const std::string& name : {plain(piece->name), plain(piece->id)})
            for (const auto* known : {&by_name, &by_id})
                if (const auto found = known->find(name); !grey && found != known->end())
                    grey = &found->second;
        if (!grey) {
            out.unknown.push_back(piece->name.empty() ? piece->id : piece->name);
            continue;
        }
        const Brush& brush = *find_item(out.level, *grey)->brush();
        PlacedPiece placed;
        placed.kit_file = kit.file, placed.piece_id = piece->id, placed.piece = piece;
        placed.place = brush.place;
        placed.collision = PieceCollisionKind::none; // the grey one is met
        placed.values[k_replaces] = '"' + grey->value + '"';
        Item item;
        item.name = find_item(out.level, *grey)->name;
        item.body = placed;
        if (const auto known = before.find(*grey); known != before.end()) {
            item.id = known->second;
            out.level = with_changed(out.level, item);
        } else {
            item.id = fresh_id(out.level, "final");
            out.level = with_item_after(out.level, *grey, item);
        }
        const Box3 own = own_box(*piece), grey_box = own_box(brush);
        out.laid.push_back({*grey, item.id, (own.high - own.low) - (grey_box.high - grey_box.low)});
        seen[*grey] = false, seen[item.id] = true;
    }
    out.level = with_seen(out.level, seen);
    return out;
}

bool shows_finals(const Level& level) {
    bool shown = false;
    for_each_item(level, [&](const Item& item, const Layer&) {
        shown = shown || (!item.hidden && !grey_of(item).empty());
    });
    return shown;
}

Level with_finals_shown(const Level& level, bool finals) {
    std::map<ItemId, bool> seen;
    for_each_item(level, [&](const Item& item, const Layer&) {
        const ItemId grey = grey_of(item);
        if (!grey.empty() && find_item(level, grey)) seen[item.id] = finals, seen[grey] = !finals;
    });
    return with_seen(level, seen);
}

GreyCount grey_left(const Level& level) {
    GreyCount out;
    std::set<ItemId> done;
    for_each_item(level, [&](const Item& item, const Layer&) {
        if (const ItemId grey = grey_of(item); !grey.empty()) done.insert(grey);
    });
    for_each_item(level, [&](const Item& item, const Layer&) {
        if (item.brush() && item.brush()->effect == Effect::fill)
            ++(done.contains(item.id) ? out.finals : out.grey);
    });
    return out;
}

} // namespace rubble::edit
