#include "io/export_parts.h"

#include <algorithm>
#include <set>
#include <unordered_map>

#include "build/dressed_face.h"
#include "build/solid_builder.h"
#include "build/surface_builder.h"
#include "level/order.h"

namespace rubble::io {

namespace {

bool holds_brushes(const Item& item) {
    if (item.brush()) return true;
    const ItemList* members = members_of(item);
    return members && std::any_of(members->begin(), members->end(),
                                  [](const ItemPtr& member) { return holds_brushes(*member); });
}

/// Walks the level in order and notes which part every brush belongs to.
struct Sorter {
    std::vector<ExportPart>& parts;
    std::unordered_map<ItemId, int>& part_of;

    void items(const ItemList& list, int part) {
        for (const ItemPtr& item : list) {
            if (item->brush()) part_of[item->id] = part;
            if (item->element()) parts[size_t(part)].elements.push_back(item.get());
            const ItemList* members = members_of(*item);
            if (!members) continue;
            int own = part;
            if (holds_brushes(*item)) {
                own = int(parts.size());
                parts.push_back({item->name.empty() ? item->id.value : item->name, part, {}, {}, {}, {}});
            }
            items(*members, own);
        }
    }
};

ExportMesh& mesh_of(ExportPart& part, const MaterialId& material) {
    for (ExportMesh& mesh : part.meshes)
        if (mesh.material == material) return mesh;
    part.meshes.push_back({material, {}, {}, {}, {}});
    return part.meshes.back();
}

/// `place`: of the material's picture; null where it has none.
void add_face(ExportMesh& mesh, const build::SurfacePart& part, const build::SurfaceFace& face,
              const PicturePlace* place) {
    std::unordered_map<int, uint32_t> index;
    for (const build::SurfaceCorner& corner : part.loop(face))
        if (index.try_emplace(corner.point, uint32_t(mesh.points.size())).second) {
            mesh.points.push_back(part.point_m(corner.point));
            mesh.normals.push_back(face.normal);
            if (place) mesh.picture_places.push_back(place->of(mesh.points.back()));
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

std::vector<ExportPart> export_parts(const Project& project, const Level& level) {
    std::vector<ExportPart> parts;
    std::unordered_map<ItemId, int> part_of;
    for (const auto& layer : level.layers) {
        const int part = int(parts.size());
        parts.push_back({layer->name.empty() ? layer->id.value : layer->name, -1, {}, {}, {}, {}});
        Sorter{parts, part_of}.items(layer->items, part);
    }
    std::unordered_map<ItemId, const Brush*> brushes;
    for (const OrderedBrush& brush : ordered_brushes(level)) brushes[brush.item->id] = brush.brush;
    const build::Solid solid = build::build_solid(level);
    const build::Surface surface = build::surface_of(solid);
    for_each_face(surface, [&](int brush, const build::SurfacePart& of, const build::SurfaceFace& face) {
        const ItemId& item = solid.brushes[size_t(brush)]->item;
        ExportPart& part = parts[size_t(part_of.at(item))];
        const Material* material = find_material(project, face.material);
        std::optional<PicturePlace> place;
        if (material && material->picture())
            place = build::picture_place_of(*material, *brushes.at(item), face);
        add_face(mesh_of(part, face.material), of, face, place ? &*place : nullptr);
    });
    for (const auto& brush : solid.brushes)
        for_each_matter(*brush, [&](const geometry::ConvexCell& cell) {
            add_collision(parts[size_t(part_of.at(brush->item))], cell);
        });
    return parts;
}

ExportCounts count_export(const Level& level, const build::Solid& solid, const build::Surface& surface) {
    ExportCounts counts;
    counts.parts = level.layers.size();
    for_each_item(level, [&](const Item& item, const Layer&) {
        counts.parts += members_of(item) && holds_brushes(item);
        counts.elements += item.element() != nullptr;
    });
    std::set<MaterialId> materials;
    for_each_face(surface, [&](int, const build::SurfacePart&, const build::SurfaceFace& face) {
        counts.triangles += size_t(face.count) - 2;
        materials.insert(face.material);
    });
    for (const auto& brush : solid.brushes)
        for_each_matter(*brush, [&](const geometry::ConvexCell& cell) {
            for (const auto& face : cell.faces) counts.collision_triangles += face.loop.size() - 2;
        });
    for (const auto& piece : solid.pieces) {
        const PlacedPiece& placed = piece->placed;
        ++counts.parts;
        if (placed.piece && placed.piece->body)
            for (const ModelPart& part : placed.piece->body->model.parts)
                counts.triangles += part.triangles.size();
        for (const geometry::ConvexCell& cell : *piece->cells)
            for (const auto& face : cell.faces) counts.collision_triangles += face.loop.size() - 2;
    }
    counts.materials = materials.size();
    return counts;
}

} // namespace rubble::io
