#include "io/gltf_export.h"

#include <cmath>
#include <cstring>
#include <map>
#include <sstream>

#include <nlohmann/json.hpp>
#include <tiny_gltf.h>

#include "io/export_parts.h"
#include "io/text_file.h"

namespace rubble::io {

namespace {

Vec3 y_up(const Vec3& p) { return {p.x, p.z, -p.y}; }

double linear_of(uint8_t srgb) {
    const double v = srgb / 255.0;
    return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4);
}

/// Values of an element as the standard's extras.
tinygltf::Value value_of(const nlohmann::json& json) {
    if (json.is_boolean()) return tinygltf::Value(json.get<bool>());
    // The writer knows whole numbers of 32 bits alone; larger ones keep their value as a real number.
    if (json.is_number_integer() && json == json.get<int>()) return tinygltf::Value(json.get<int>());
    if (json.is_number()) return tinygltf::Value(json.get<double>());
    if (json.is_string()) return tinygltf::Value(json.get<std::string>());
    if (json.is_array()) {
        tinygltf::Value::Array list;
        for (const auto& part : json) list.push_back(value_of(part));
        return tinygltf::Value(list);
    }
    tinygltf::Value::Object object;
    for (const auto& [key, part] : json.items()) object[key] = value_of(part);
    return tinygltf::Value(object);
}

class GltfWriter {
public:
    explicit GltfWriter(const Project& project) : project_(project) {
        model_.asset.version = "2.0";
        model_.asset.generator = "Rubble";
        model_.buffers.emplace_back();
        model_.scenes.emplace_back();
        model_.defaultScene = 0;
    }

    tinygltf::Model write(const Level& level) {
        model_.scenes[0].name = level.name;
        const std::vector<ExportPart> parts = export_parts(level);
        std::vector<int> nodes;
        for (const ExportPart& part : parts)
            nodes.push_back(add_part(part, part.parent < 0 ? -1 : nodes[size_t(part.parent)]));
        if (model_.buffers[0].data.empty()) model_.buffers.clear();
        return std::move(model_);
    }

private:
    int add_node(const std::string& name, int parent) {
        const int index = int(model_.nodes.size());
        tinygltf::Node node;
        node.name = name;
        model_.nodes.push_back(node);
        if (parent < 0)
            model_.scenes[0].nodes.push_back(index);
        else
            model_.nodes[size_t(parent)].children.push_back(index);
        return index;
    }

    int add_part(const ExportPart& part, int parent) {
        const int node = add_node(part.name, parent);
        tinygltf::Mesh mesh;
        mesh.name = part.name;
        for (const ExportMesh& source : part.meshes) {
            if (source.triangles.empty()) continue;
            tinygltf::Primitive primitive = triangles(source.points, source.triangles);
            primitive.attributes["NORMAL"] = vectors(source.normals, false);
            primitive.material = material(source.material);
            mesh.primitives.push_back(primitive);
        }
        if (!mesh.primitives.empty()) {
            model_.nodes[size_t(node)].mesh = int(model_.meshes.size());
            model_.meshes.push_back(mesh);
        }
        if (!part.collision_triangles.empty()) {
            const int collision = add_node(part.name + " collision", node);
            tinygltf::Mesh shape;
            shape.name = part.name + " collision";
            shape.primitives.push_back(triangles(part.collision_points, part.collision_triangles));
            model_.nodes[size_t(collision)].mesh = int(model_.meshes.size());
            model_.nodes[size_t(collision)].extras =
                tinygltf::Value(tinygltf::Value::Object{{"collision", tinygltf::Value(true)}});
            model_.meshes.push_back(shape);
        }
        for (const Item* item : part.elements) add_element(*item, node);
        return node;
    }

    void add_element(const Item& item, int parent) {
        const Element& element = *item.element();
        const int index = add_node(item.name.empty() ? item.id.value : item.name, parent);
        tinygltf::Node& node = model_.nodes[size_t(index)];
        const Vec3 at = y_up(element.at);
        node.translation = {at.x, at.y, at.z};
        // A turn about z here is the same turn about y there.
        const double half = element.facing_deg * 3.14159265358979323846 / 360;
        if (element.facing_deg != 0) node.rotation = {0, std::sin(half), 0, std::cos(half)};
        tinygltf::Value::Object extras{{"id", tinygltf::Value(item.id.value)},
                                       {"kind", tinygltf::Value(element.kind)}};
        for (const auto& [key, text] : element.values)
            extras[key] = value_of(nlohmann::json::parse(text, nullptr, false));
        node.extras = tinygltf::Value(extras);
    }

    template <class T> int add_view(const std::vector<T>& values, int target) {
        auto& data = model_.buffers[0].data;
        while (data.size() % 4 != 0) data.push_back(0);
        tinygltf::BufferView view;
        view.buffer = 0;
        view.byteOffset = data.size();
        view.byteLength = values.size() * sizeof(T);
        view.target = target;
        data.resize(data.size() + view.byteLength);
        std::memcpy(data.data() + view.byteOffset, values.data(), view.byteLength);
        model_.bufferViews.push_back(view);
        return int(model_.bufferViews.size()) - 1;
    }

    int vectors(const std::vector<Vec3>& list, bool with_limits) {
        std::vector<float> values;
        std::vector<double> low(3, std::numeric_limits<double>::infinity()),
            high(3, -std::numeric_limits<double>::infinity());
        for (const Vec3& v : list) {
            const Vec3 up = y_up(v);
            for (int axis = 0; axis < 3; ++axis) {
                values.push_back(float(up[axis]));
                low[size_t(axis)] = std::min(low[size_t(axis)], double(values.back()));
                high[size_t(axis)] = std::max(high[size_t(axis)], double(values.back()));
            }
        }
        tinygltf::Accessor accessor;
        accessor.bufferView = add_view(values, TINYGLTF_TARGET_ARRAY_BUFFER);
        accessor.componentType = TINYGLTF_COMPONENT_TYPE_FLOAT;
        accessor.type = TINYGLTF_TYPE_VEC3;
        accessor.count = list.size();
        if (with_limits) accessor.minValues = low, accessor.maxValues = high;
        model_.accessors.push_back(accessor);
        return int(model_.accessors.size()) - 1;
    }

    tinygltf::Primitive triangles(const std::vector<Vec3>& points,
                                  const std::vector<std::array<uint32_t, 3>>& list) {
        tinygltf::Primitive primitive;
        primitive.mode = TINYGLTF_MODE_TRIANGLES;
        primitive.attributes["POSITION"] = vectors(points, true);
        std::vector<uint32_t> indices;
        for (const auto& t : list) indices.insert(indices.end(), t.begin(), t.end());
        tinygltf::Accessor accessor;
        accessor.bufferView = add_view(indices, TINYGLTF_TARGET_ELEMENT_ARRAY_BUFFER);
        accessor.componentType = TINYGLTF_COMPONENT_TYPE_UNSIGNED_INT;
        accessor.type = TINYGLTF_TYPE_SCALAR;
        accessor.count = indices.size();
        model_.accessors.push_back(accessor);
        primitive.indices = int(model_.accessors.size()) - 1;
        return primitive;
    }

    int material(const MaterialId& id) {
        const Material* own = find_material(project_, id);
        const Material used = own ? *own : Material{{"bare"}, "Bare stone", {0xBD, 0xB6, 0xA9}, 0.9, {}};
        // Two may have the same name; one that is not known is bare.
        const auto [place, added] = materials_.try_emplace(own ? own->id.value : std::string(), 0);
        if (!added) return place->second;
        place->second = int(model_.materials.size());
        tinygltf::Material out;
        out.name = used.name;
        out.pbrMetallicRoughness.baseColorFactor = {linear_of(used.color[0]), linear_of(used.color[1]),
                                                    linear_of(used.color[2]), 1.0};
        out.pbrMetallicRoughness.metallicFactor = 0;
        out.pbrMetallicRoughness.roughnessFactor = used.roughness;
        model_.materials.push_back(out);
        return place->second;
    }

    const Project& project_;
    std::map<std::string, int> materials_; ///< by their ids; "" for bare stone
    tinygltf::Model model_;
};

} // namespace

Result<std::string> gltf_text(const Project& project, const Level& level, bool binary) {
    const tinygltf::Model model = GltfWriter(project).write(level);
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
