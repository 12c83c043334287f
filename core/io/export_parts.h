#pragma once

#include <array>
#include <map>
#include <string>
#include <vector>

#include "build/surface.h"
#include "level/document.h"

namespace rubble::io {

/// What a level is handed off as, in an order that depends only on the level: one part for each layer and
/// for each group that holds brushes, with its drawn faces by material, its collision and its elements.
struct ExportMesh {
    MaterialId material;
    std::vector<Vec3> points, normals;
    std::vector<Vec2>
        picture_places; ///< on the material's picture, from its upper left corner; none: it has none
    std::vector<std::array<uint32_t, 3>> triangles;
};
struct ExportPart {
    std::string name;
    int parent = -1; ///< index of the layer's part for a group's, or of the group's for one inside it
    std::vector<ExportMesh> meshes;
    std::vector<Vec3> collision_points;
    std::vector<std::array<uint32_t, 3>> collision_triangles;
    std::vector<const Item*> elements;
};
/// What each format writes: brushes with what they look like, in order.
std::vector<ExportPart> export_parts(const Project& project, const Level& level);

/// What an export will hold, for the people who decide whether to make it. Told from what is built already.
struct ExportCounts {
    size_t parts = 0, triangles = 0, collision_triangles = 0, elements = 0, materials = 0;
    bool operator==(const ExportCounts&) const = default;
};
/// What of a built level would be written, without writing it.
ExportCounts count_export(const Level& level, const build::Solid& solid, const build::Surface& surface);

} // namespace rubble::io
