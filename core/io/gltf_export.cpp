#include "io/gltf_export.h"

#include <cmath>
#include <sstream>

#include <nlohmann/json.hpp>

#include "build/decal_pieces.h"
#include "build/solid_builder.h"
#include "build/surface_builder.h"
#include "io/export_parts.h"
#include "io/gltf_maker.h"
#include "io/gltf_pieces.h"
#include "io/gltf_tiles.h"
#include "io/text_file.h"

namespace rubble::io {

namespace {

void add_element(GltfMaker& maker, const Item& item, int parent) {
    const Element& element = *item.element();
    const int index = maker.add_node(item.name.empty() ? item.id.value : item.name, parent);
    tinygltf::Node& node = maker.node(index);
    const Vec3 at = y_up(element.at);
    node.translation = {at.x, at.y, at.z};
    // A turn about z here is the same turn about y there.
    const double half = element.facing_deg * 3.14159265358979323846 / 360;
    if (element.facing_deg != 0) node.rotation = {0, std::sin(half), 0, std::cos(half)};
    tinygltf::Value::Object extras{{"id", tinygltf::Value(item.id.value)},
                                   {"kind", tinygltf::Value(element.kind)}};
    tinygltf::Value::Object values;
    for (const auto& [key, text] : element.values)
        values[key] = value_of(nlohmann::json::parse(text, nullptr, false));
    extras.insert(values.begin(), values.end());
    // All together too: a key has a kind of its own.
    if (!values.empty()) extras["values"] = tinygltf::Value(values);
    node.extras = tinygltf::Value(extras);
}

int add_part(GltfMaker& maker, const ExportPart& part, int parent) {
    const int node = maker.add_node(part.name, parent);
    std::vector<tinygltf::Primitive> drawn;
    for (const ExportMesh& source : part.meshes) {
        if (source.triangles.empty()) continue;
        tinygltf::Primitive primitive = maker.triangles(source.points, source.triangles);
        primitive.attributes["NORMAL"] = maker.vectors(source.normals, false);
        if (!source.picture_places.empty())
            primitive.attributes["TEXCOORD_0"] = maker.texture_places(source.picture_places);
        primitive.material = maker.material(source.material);
        drawn.push_back(primitive);
    }
    maker.give_mesh(node, part.name, std::move(drawn));
    if (!part.collision_triangles.empty())
        maker.add_collision(part.name, node,
                            maker.triangles(part.collision_points, part.collision_triangles));
    for (const Item* item : part.elements) add_element(maker, *item, node);
    return node;
}

} // namespace

namespace {

/// Decals as thin meshes of their own.
void add_decals(GltfMaker& maker, const Project& project, const Level& level) {
    const std::vector<Decal> decals = decals_of(level);
    if (decals.empty()) return;
    const build::Surface surface = build::surface_of(build::build_solid(level));
    for (const Decal& decal : decals) {
        const Material* material = find_material(project, decal.material);
        if (!material || !material->picture()) continue;
        ExportMesh mesh;
        for (const build::DecalPiece& piece : build::decal_pieces(surface, decal, *material)) {
            const uint32_t first = uint32_t(mesh.points.size());
            mesh.points.insert(mesh.points.end(), piece.corners.begin(), piece.corners.end());
            mesh.picture_places.insert(mesh.picture_places.end(), piece.places.begin(), piece.places.end());
            mesh.normals.insert(mesh.normals.end(), piece.corners.size(), piece.normal);
            for (uint32_t i = 1; i + 1 < piece.corners.size(); ++i)
                mesh.triangles.push_back({first, first + i, first + i + 1});
        }
        if (mesh.triangles.empty()) continue;
        tinygltf::Primitive primitive = maker.triangles(mesh.points, mesh.triangles);
        primitive.attributes["NORMAL"] = maker.vectors(mesh.normals, false);
        primitive.attributes["TEXCOORD_0"] = maker.texture_places(mesh.picture_places);
        primitive.material = maker.material(decal.material);
        const std::string name = find_item(level, decal.item)->title();
        maker.give_mesh(maker.add_node(name, -1), name, {primitive});
    }
}

} // namespace

Result<std::string> gltf_text(const Project& project, const Level& level, bool binary) {
    GltfMaker maker(project);
    maker.name_scene(level.name);
    std::vector<int> nodes;
    for (const ExportPart& part : export_parts(project, level))
        nodes.push_back(add_part(maker, part, part.parent < 0 ? -1 : nodes[size_t(part.parent)]));
    add_decals(maker, project, level);
    for (const Light& light : lights_of(level)) {
        const Item* item = find_item(level, light.item);
        maker.add_light(item->name.empty() ? item->id.value : item->name, light, -1);
    }
    add_pieces(maker, level);
    add_assemblies(maker, level);
    if (auto added = add_tiles(maker, level); !added) return tl::unexpected(added.error());
    const tinygltf::Model model = maker.finished();
    tinygltf::TinyGLTF writer;
    std::ostringstream out;
    if (!writer.WriteGltfSceneToStream(&model, out, !binary, binary))
        return fail("export.gltf", level.name, "The level could not be put into glTF.");
    return out.str();
}

namespace {

Result<void> export_as(bool binary, const Project& project, const Level& level,
                       const std::filesystem::path& path) {
    const auto text = gltf_text(project, level, binary);
    if (!text) return tl::unexpected(text.error());
    return write_file(path, *text);
}

} // namespace

Result<void> export_glb(const Project& project, const Level& level, const std::filesystem::path& path) {
    return export_as(true, project, level, path);
}

Result<void> export_gltf(const Project& project, const Level& level, const std::filesystem::path& path) {
    return export_as(false, project, level, path);
}

} // namespace rubble::io
