#include "edit/kits.h"

#include <algorithm>
#include <cctype>
#include <cmath>

#include "edit/items.h"
#include "edit/project.h"
#include "level/assemblies/resolved.h"

namespace rubble::edit {

namespace {

/// The layer of a piece's own brushes, and that of the piece which they are drawn over.
const LayerId k_brushes{"brushes"}, k_seen{"seen"};
const ItemId k_seen_piece{"seen-piece"};
/// A base that is no farther from a storey's floor stands on it (metres).
constexpr double k_on_floor_m = 0.3;

/// The brushes among items, those in groups too.
void collect_brushes(const Item& item, std::vector<const Item*>& out) {
    if (item.brush()) out.push_back(&item);
    if (const Group* group = item.group())
        for (const ItemPtr& member : group->items) collect_brushes(*member, out);
}

/// Along one axis: the middle of the cells that a range takes up, or of the range where it is thin.
double middle_of_cells(double low, double high, double module, bool thin) {
    if (thin) return (low + high) / 2;
    const double count = std::max(1.0, std::round((high - low) / module));
    const double first = std::round(((low + high) / 2 - count * module / 2) / module);
    return (first + count / 2) * module;
}

ItemList brushes_of(const Level& level) {
    ItemList out;
    for (const auto& layer : level.layers) {
        if (layer->id == k_seen) continue;
        for (const ItemPtr& item : layer->items) {
            std::vector<const Item*> brushes;
            collect_brushes(*item, brushes);
            for (const Item* brush : brushes) out.push_back(ItemPtr(*brush));
        }
    }
    return out;
}

} // namespace

Project with_kit(const Project& project, Kit kit) {
    Project out = project;
    auto shared = std::make_shared<const Kit>(std::move(kit));
    const auto known = std::find_if(out.kits.begin(), out.kits.end(),
                                    [&](const auto& one) { return one->file == shared->file; });
    if (known == out.kits.end())
        out.kits.push_back(std::move(shared));
    else
        *known = std::move(shared);
    return with_assemblies_resolved(std::move(out)); // pieces stand in assemblies too
}

Kit with_piece(Kit kit, Piece piece) {
    for (auto& known : kit.pieces)
        if (known->id == piece.id) {
            known = std::make_shared<const Piece>(std::move(piece));
            return kit;
        }
    kit.pieces.push_back(std::make_shared<const Piece>(std::move(piece)));
    return kit;
}

std::string fresh_piece_id(const Kit& kit, const std::string& wanted) {
    std::string id = wanted;
    for (int n = 2; kit.piece(id); ++n) id = wanted + "_" + std::to_string(n);
    return id;
}

std::optional<PieceOfBrushes> piece_of_brushes(const Kit& kit, const Level& level,
                                               const std::vector<ItemId>& ids, const std::string& name) {
    std::vector<const Item*> brushes;
    for_each_item(level, [&](const Item& item, const Layer&) {
        if (std::find(ids.begin(), ids.end(), item.id) != ids.end()) collect_brushes(item, brushes);
    });
    if (brushes.empty()) return {};
    PieceOfBrushes out;
    Box3 box;
    for (const Item* brush : brushes) {
        if (brush->brush()->effect == Effect::fill) box.add(box_of(*brush).low), box.add(box_of(*brush).high);
        out.brushes.push_back(brush->id);
    }
    if (box.empty()) return {};
    const Vec3 size = box.high - box.low, module = kit.module_m;
    const bool thin_x = size.x < module.x / 2, thin_y = size.y < module.y / 2;
    const double storey = std::round(box.low.z / module.z) * module.z;
    const Vec3 origin(middle_of_cells(box.low.x, box.high.x, module.x, thin_x),
                      middle_of_cells(box.low.y, box.high.y, module.y, thin_y),
                      std::abs(box.low.z - storey) <= k_on_floor_m ? storey : box.low.z);
    out.place.at = origin;
    Piece& piece = out.piece;
    for (const unsigned char c : name) piece.id += std::isalnum(c) ? char(std::tolower(c)) : '_';
    piece.id = fresh_piece_id(kit, piece.id.empty() ? "piece" : piece.id);
    piece.name = name, piece.size_m = size;
    piece.seat = thin_x && thin_y ? PieceSeat::corner : thin_x || thin_y ? PieceSeat::edge : PieceSeat::cell;
    for (const Item* brush : brushes) piece.items.push_back(transformed(*brush, Transform::moving(-origin)));
    return out;
}

Level level_of(const Kit& kit, const Piece& piece, const Level& like) {
    Level out;
    out.name = piece.name.empty() ? piece.id : piece.name;
    out.character = like.character, out.part = true;
    Layer brushes;
    brushes.id = k_brushes, brushes.name = out.name;
    brushes.items = piece.items.empty() ? piece.collision.items : piece.items;
    if (piece.items.empty()) {
        PlacedPiece placed;
        placed.kit_file = kit.file, placed.piece_id = piece.id, placed.collision = PieceCollisionKind::none;
        placed.piece = kit.piece(piece.id);
        Layer seen;
        seen.id = k_seen, seen.name = out.name, seen.locked = true;
        seen.items = ItemList{ItemPtr(Item{k_seen_piece, {}, false, std::move(placed), {}})};
        out.layers.push_back(std::move(seen));
    }
    out.layers.push_back(std::move(brushes));
    return out;
}

Document with_pieces_followed(const Document& before, Document document,
                              const std::function<Kit(Kit)>& made) {
    Project project = *document.project;
    bool changed = false;
    for (size_t i = 0; i < document.levels.size(); ++i) {
        OpenLevel& open = document.levels[i];
        const auto kit = find_kit(project, open.kit);
        const auto piece = kit ? kit->piece(open.piece) : nullptr;
        if (open.piece.empty() || !piece) continue;
        const bool was_open = i < before.levels.size() && before.levels[i].piece == open.piece;
        const bool edited = was_open && !(before.levels[i].level == open.level);
        const auto kit_before = find_kit(*before.project, open.kit);
        if (edited) {
            const ItemList items = brushes_of(*open.level);
            Piece now = *piece;
            if (now.items.empty())
                now.collision.kind = PieceCollisionKind::brushes, now.collision.items = items;
            else
                now.items = items;
            const bool same = now.items == piece->items && now.collision == piece->collision;
            if (items.empty() || same) continue; // a piece is never of nothing
            now.body = nullptr;
            project = with_kit(project, made(with_piece(*kit, now)));
            changed = true;
        } else if (was_open && kit_before != kit) {
            open.level = Shared<Level>(with_files_of(project, level_of(*kit, *piece, *open.level)));
        }
    }
    return changed ? with_project(document, std::move(project)) : document;
}

} // namespace rubble::edit
