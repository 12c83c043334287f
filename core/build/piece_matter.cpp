#include "build/piece_matter.h"

#include <algorithm>

#include "build/mesh_matter.h"
#include "build/piece_body.h"

namespace rubble::build {

using geometry::ConvexCell;

void for_each_matter(const PieceMatter& piece, const std::function<void(const ConvexCell&)>& visit) {
    for (const ConvexCell& own : *piece.cells) {
        ConvexCell cell = own;
        for (ConvexCell::Face& face : cell.faces) {
            for (Vec3& p : face.loop) p = to_level(piece.placed, p);
            // Mirrored, loops run the other way round.
            if (piece.placed.mirrored) std::reverse(face.loop.begin(), face.loop.end());
            face.plane.normal = direction_in_level(piece.placed, face.plane.normal);
            face.plane.d = -glm::dot(face.plane.normal, face.loop[0]);
        }
        visit(cell);
    }
}

PieceMatterBuilder::Cells PieceMatterBuilder::cells_of(const PlacedPiece& placed) {
    const int kind = placed.collision ? int(*placed.collision) : -1;
    auto& [piece, cells] = cells_[{placed.piece.get(), kind}];
    if (cells) return cells;
    piece = placed.piece;
    std::vector<ConvexCell> made;
    if (!placed.piece) // nobody knows what it is: as large as it is drawn
        made.push_back(box_cell({Vec3(-0.5, -0.5, 0), Vec3(0.5, 0.5, 1)}));
    else
        made = matter_by(*placed.piece, placed.collision.value_or(placed.piece->collision.kind));
    cells = std::make_shared<const std::vector<ConvexCell>>(std::move(made));
    return cells;
}

PieceMatterBuilder::Pieces PieceMatterBuilder::build(const Level& level) {
    if (level.layers == last_layers_) return last_;
    Pieces out;
    std::unordered_map<ItemId, std::shared_ptr<const PieceMatter>> now;
    for_each_item(level, [&](const Item& item, const Layer&) {
        const PlacedPiece* placed = item.piece();
        if (!placed) return;
        auto& known = known_[item.id];
        if (!known || !(known->placed == *placed))
            known = std::make_shared<const PieceMatter>(PieceMatter{item.id, *placed, cells_of(*placed)});
        out.push_back(known);
        now[item.id] = known;
    });
    std::swap(known_, now);
    // Pieces that are nowhere any more are forgotten.
    std::erase_if(cells_, [](const auto& one) { return one.second.second.use_count() == 1; });
    last_layers_ = level.layers, last_ = out;
    return out;
}

} // namespace rubble::build
