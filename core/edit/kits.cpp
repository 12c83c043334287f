#include "edit/kits.h"

namespace rubble::edit {

Project with_kit(const Project& project, Kit kit) {
    Project out = project;
    auto shared = std::make_shared<const Kit>(std::move(kit));
    for (auto& known : out.kits)
        if (known->file == shared->file) {
            known = std::move(shared);
            return out;
        }
    out.kits.push_back(std::move(shared));
    return out;
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

} // namespace rubble::edit
