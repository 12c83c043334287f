#include "edit/part_uses.h"

#include "edit/assemblies.h"

namespace rubble::edit {

std::vector<int> uses_of_part(const Document& document, const OpenLevel& part) {
    std::vector<int> out(document.levels.size(), 0);
    if (!part.assembly.empty()) out = uses_of(document, part.assembly);
    for (size_t i = 0; i < document.levels.size(); ++i) {
        if (document.levels[i].is_part()) {
            out[i] = 0;
            continue;
        }
        if (part.piece.empty()) continue;
        for_each_item(*document.levels[i].level, [&](const Item& item, const Layer&) {
            const PlacedPiece* placed = item.piece();
            out[i] += placed && placed->kit_file == part.kit && placed->piece_id == part.piece;
        });
    }
    return out;
}

} // namespace rubble::edit
