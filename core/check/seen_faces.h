#pragma once

#include <map>
#include <memory>
#include <optional>
#include <vector>

#include "level/kits/placed_piece.h"

namespace rubble::check {

/// The faces that pieces show, gathered by their planes, once for each piece.
class SeenFaces {
public:
    /// Where two pieces show faces in one plane, to the same side and of different materials, over each
    /// other; nothing where they do not, or only as far as they reach into each other on purpose. Such faces
    /// flicker: which of them is seen depends on rounding.
    std::optional<Vec3> over_each_other(const PlacedPiece& a, const PlacedPiece& b);

private:
    /// Triangles in one plane and of one material, in the piece's own axes.
    struct Sheet {
        Vec3 normal{0};
        Box3 box;
        std::string look; ///< tells materials apart
        std::vector<std::array<Vec3, 3>> triangles;
    };
    const std::vector<Sheet>& sheets_of(const std::shared_ptr<const rubble::Piece>& piece);
    static std::vector<Sheet> made(const Model& model);

    std::map<std::shared_ptr<const rubble::Piece>, std::vector<Sheet>> known_;
};

} // namespace rubble::check
