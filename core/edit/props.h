#pragma once

#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "level/level.h"

namespace rubble::edit {

/// A prop standing on a place of a surface: upright, or leaning with the surface; the heading that it had
/// stays as far as it can. Its origin is what stands there.
PlacedPiece stood_on(PlacedPiece prop, const SurfacePlace& place, bool leans);
/// A prop turned about its own upright axis.
PlacedPiece turned_about_itself(PlacedPiece prop, double deg);

/// Where something that is let go comes to lie; nothing where nothing is below.
using Below = std::function<std::optional<SurfacePlace>(const Vec3& from)>;

/// The selected props of a level, each on what is below it; others stay.
Level with_props_set_down(Level level, const std::vector<ItemId>& ids, const Below& below, bool leans);
/// Some props made so many times as large as their pieces are.
Level with_props_sized(Level level, const std::vector<ItemId>& ids, double sized);

/// What is strewn, and how.
struct Strewing {
    struct Kind {
        std::string kit_file, piece_id;
        uint64_t weight = 1;
    };
    std::vector<Kind> kinds; ///< of which one has a weight
    uint64_t seed = 1;
    double per_m2 = 0.5;
    double least_apart_m = 0.8; ///< from middle to middle, in plan
    double least_sized = 1, most_sized = 1;
    bool turned = true; ///< each its own way round
    bool leans = true;
};

/// Props over an area of upward looking faces (convex, in the level's axes): about so many to the square
/// metre, none nearer to another than the least distance, none where something lies over the face. The same
/// for the same seed. Places are drawn one after the other and kept where they are far enough from those
/// before (Cook, "Stochastic sampling in computer graphics", 1986), so that an area too small for as many has
/// fewer.
std::vector<PlacedPiece> strewn(const Project& project, const Strewing& how,
                                const std::vector<std::vector<Vec3>>& faces, const Below& below);

} // namespace rubble::edit
