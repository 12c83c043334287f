#include "io/export_parts.h"

#include <set>
#include <unordered_map>

#include "build/solid_builder.h"
#include "build/surface_builder.h"

namespace rubble::io {

namespace {

bool holds_brushes(const Item& item) {
    if (item.brush()) return true;
    if (const Group* group = item.group())
        for (const ItemPtr& member : group->items)
            if (holds_brushes(*member)) return true;
    return false;
}

/// Walks the level in order and notes which part every brush belongs to.
struct Sorter {
    std::vector<ExportPart>& parts;
    std::unordered_map<ItemId, int>& part_of;

    void items(const ItemList& list, int part) {
        for (const ItemPtr& item : list) {
            if (item->brush()) part_of[item->id] = part;
            if (item->element()) parts[size_t(part)].elements.push_back(item.get());
            const Group* group = item->group();
            if (!group) continue;
            int own = part;
            if (holds_brushes(*item)) {
                own = int(parts.size());
                parts.push_back({item->name.empty() ? item->id.value : item->name, part, {}, {}, {}, {}});
            }
            items(group->items, own);
        }
    }
};

ExportMesh& mesh_of(ExportPart& part, const MaterialId& material) {
    for (ExportMesh& mesh : part.meshes)
        if (mesh.material == material) return mesh;
    part.meshes.push_back({material, {}, {}, {}});
    return part.meshes.back();
}

void add_face(ExportMesh& mesh, const build::SurfacePart& part, const build::SurfaceFace& face) {
    std::unordered_map<int, uint32_t> index;
    for (const build::SurfaceCorner& corner : part.loop(face))
        if (index.try_emplace(corner.point, uint32_t(mesh.points.size())).second) {
            mesh.points.push_back(part.point_m(corner.point));
            mesh.normals.push_back(face.normal);
        }
    for (const auto& [a, b, c] : triangles_of(part, face))
        mesh.triangles.push_back({index.at(a), index.at(b), index.at(c)});
}

void add_collision(ExportPart& part, const geometry::ConvexCell& cell) {
    for (const auto& face : cell.faces) {
        const uint32_t first = uint32_t(part.collision_points.size());
        for (const Vec3& p : face.loop) part.collision_points.push_back(p);
        for (uint32_t i = 1; i + 1 < face.loop.size(); ++i)
            part.collision_triangles.push_back({first, first + i, first + i + 1});
    }
}

} // namespace

std::vector<ExportPart> export_parts(const Level& level) {
    std::vector<ExportPart> parts;
    std::unordered_map<ItemId, int> part_of;
    for (const auto& layer : level.layers) {
        const int part = int(parts.size());
        parts.push_back({layer->name.empty() ? layer->id.value : layer->name, -1, {}, {}, {}, {}});
        Sorter{parts, part_of}.items(layer->items, part);
    }
    const build::Solid solid = build::build_solid(level);
    const build::Surface surface = build::surface_of(solid);
    for_each_face(surface, [&](int brush, const build::SurfacePart& of, const build::SurfaceFace& face) {
        ExportPart& part = parts[size_t(part_of.at(solid.brushes[size_t(brush)]->item))];
        add_face(mesh_of(part, face.material), of, face);
    });
    for (const auto& brush : solid.brushes)
        for_each_matter(*brush, [&](const geometry::ConvexCell& cell) {
            add_collision(parts[size_t(part_of.at(brush->item))], cell);
        });
    return parts;
}

ExportCounts count_export(const Level& level) {
    ExportCounts counts;
    std::set<MaterialId> materials;
    for (const ExportPart& part : export_parts(level)) {
        ++counts.parts;
        counts.elements += part.elements.size();
        counts.collision_triangles += part.collision_triangles.size();
        for (const ExportMesh& mesh : part.meshes) {
            counts.triangles += mesh.triangles.size();
            materials.insert(mesh.material);
        }
    }
    counts.materials = materials.size();
    return counts;
}

} // namespace rubble::io
