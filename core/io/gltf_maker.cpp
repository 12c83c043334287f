#include "io/gltf_maker.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include "base/angle.h"
#include "io/picture_file.h"

namespace rubble::io {

namespace {

double linear_of(uint8_t srgb) {
    const double v = srgb / 255.0;
    return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4);
}

/// Whether all of a picture is wholly opaque or not at all.
bool is_cut_out(const Picture& picture) {
    for (size_t i = 3; i < picture.rgba.size(); i += 4)
        if (picture.rgba[i] != 0 && picture.rgba[i] != 255) return false;
    return true;
}

} // namespace

Vec3 y_up(const Vec3& p) { return {p.x, p.z, -p.y}; }

GltfMaker::GltfMaker(const Project& project) : project_(project) {
    model_.asset.version = "2.0";
    model_.asset.generator = "Rubble";
    model_.buffers.emplace_back();
    model_.scenes.emplace_back();
    model_.defaultScene = 0;
}

tinygltf::Model GltfMaker::finished() {
    if (!lights_.empty())
        model_.extensions["KHR_lights_punctual"] =
            tinygltf::Value(tinygltf::Value::Object{{"lights", tinygltf::Value(lights_)}});
    if (model_.buffers[0].data.empty()) model_.buffers.clear();
    return std::move(model_);
}

int GltfMaker::add_node(const std::string& name, int parent) {
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

void GltfMaker::give_mesh(int node, const std::string& name, std::vector<tinygltf::Primitive> primitives) {
    if (primitives.empty()) return;
    tinygltf::Mesh mesh;
    mesh.name = name;
    mesh.primitives = std::move(primitives);
    model_.nodes[size_t(node)].mesh = int(model_.meshes.size());
    model_.meshes.push_back(std::move(mesh));
}

int GltfMaker::add_collision(const std::string& name, int parent, tinygltf::Primitive shape) {
    const int index = add_node(name + " collision", parent);
    give_mesh(index, name + " collision", {std::move(shape)});
    node(index).extras = tinygltf::Value(tinygltf::Value::Object{{"collision", tinygltf::Value(true)}});
    return index;
}

int GltfMaker::add_accessor(const std::vector<float>& values, int type, size_t count) {
    tinygltf::Accessor accessor;
    accessor.bufferView = add_view(values, TINYGLTF_TARGET_ARRAY_BUFFER);
    accessor.componentType = TINYGLTF_COMPONENT_TYPE_FLOAT;
    accessor.type = type;
    accessor.count = count;
    model_.accessors.push_back(accessor);
    return int(model_.accessors.size()) - 1;
}

int GltfMaker::vectors(const std::vector<Vec3>& list, bool with_limits) {
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
    const int index = add_accessor(values, TINYGLTF_TYPE_VEC3, list.size());
    if (with_limits)
        model_.accessors[size_t(index)].minValues = low, model_.accessors[size_t(index)].maxValues = high;
    return index;
}

int GltfMaker::texture_places(const std::vector<Vec2>& list) {
    std::vector<float> values;
    for (const Vec2& v : list) values.push_back(float(v.x)), values.push_back(float(v.y));
    return add_accessor(values, TINYGLTF_TYPE_VEC2, list.size());
}

tinygltf::Primitive GltfMaker::triangles(const std::vector<Vec3>& points,
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

int GltfMaker::material(const MaterialId& id) {
    const Material* own = find_material(project_, id);
    Material used;
    used.name = "Bare stone";
    if (own) used = *own;
    // Two may have the same name; one that is not known is bare.
    const auto [place, added] = materials_.try_emplace(own ? own->id.value : std::string(), 0);
    if (!added) return place->second;
    place->second = int(model_.materials.size());
    tinygltf::Material out;
    out.name = used.name;
    out.pbrMetallicRoughness.baseColorFactor = {linear_of(used.color[0]), linear_of(used.color[1]),
                                                linear_of(used.color[2]), 1.0};
    out.pbrMetallicRoughness.metallicFactor = used.metal;
    out.pbrMetallicRoughness.roughnessFactor = used.roughness;
    add_pictures(out, used);
    model_.materials.push_back(out);
    return place->second;
}

void GltfMaker::add_pictures(tinygltf::Material& out, const Material& material) {
    if (!material.picture()) return; // the others have no places without it
    const auto texture_of = [&](PictureRole role) {
        const auto picture = material.read.find(role);
        return picture == material.read.end() ? -1 : add_texture(*picture->second);
    };
    out.pbrMetallicRoughness.baseColorFactor = {1, 1, 1, 1};
    out.pbrMetallicRoughness.baseColorTexture.index = texture_of(PictureRole::color);
    out.normalTexture.index = texture_of(PictureRole::normal);
    out.emissiveTexture.index = texture_of(PictureRole::glow);
    if (out.emissiveTexture.index >= 0) out.emissiveFactor = {1, 1, 1};
    // One picture tells roughness in its green and metal in its blue: a grey one does where nothing is metal.
    if (material.metal == 0 && material.read.contains(PictureRole::roughness)) {
        out.pbrMetallicRoughness.metallicRoughnessTexture.index = texture_of(PictureRole::roughness);
        out.pbrMetallicRoughness.roughnessFactor = 1;
    }
}

void GltfMaker::use_extension(const std::string& name) {
    auto& used = model_.extensionsUsed;
    if (std::find(used.begin(), used.end(), name) == used.end()) used.push_back(name);
}

void GltfMaker::add_light(const std::string& name, const Light& light, int parent) {
    using Value = tinygltf::Value;
    const bool is_sun = light.kind == Light::Kind::sun, cone = !is_sun && light.opening_deg < 180;
    Value::Object out{
        {"name", Value(name)},
        {"type", Value(std::string(is_sun ? "directional"
                                   : cone ? "spot"
                                          : "point"))},
        {"color", Value(Value::Array{Value(light.color.x), Value(light.color.y), Value(light.color.z)})},
        {"intensity", Value(is_sun ? light.strength : light.candela())}};
    if (!is_sun) out["range"] = Value(light.reach_m);
    if (cone)
        out["spot"] = Value(Value::Object{{"innerConeAngle", Value(radians(light.opening_deg / 2) * 0.9)},
                                          {"outerConeAngle", Value(radians(light.opening_deg / 2))}});
    const int index = add_node(name, parent);
    tinygltf::Node& shines = node(index);
    const Vec3 at = y_up(light.at), way = y_up(light.way), ahead(0, 0, -1);
    shines.translation = {at.x, at.y, at.z};
    // A light shines along its node's -z: the shortest turn to its way.
    const double same = glm::dot(ahead, way);
    if (same < 1 - 1e-9) {
        const Vec3 axis = same > -1 + 1e-9 ? glm::cross(ahead, way) : Vec3(0, 1, 0);
        const double w = same > -1 + 1e-9 ? 1 + same : 0, length = std::sqrt(glm::dot(axis, axis) + w * w);
        shines.rotation = {axis.x / length, axis.y / length, axis.z / length, w / length};
    }
    shines.extensions["KHR_lights_punctual"] = Value(Value::Object{{"light", Value(int(lights_.size()))}});
    lights_.push_back(Value(std::move(out)));
    use_extension("KHR_lights_punctual");
}

int GltfMaker::add_texture(const PictureBytes& picture) {
    const auto [known, fresh] = model_pictures_.try_emplace(picture.bytes, 0);
    if (!fresh) return known->second;
    tinygltf::Image image;
    image.name = picture.name, image.mimeType = picture.mime;
    image.bufferView = add_view(std::vector<char>(picture.bytes.begin(), picture.bytes.end()), 0);
    tinygltf::Texture out;
    out.source = int(model_.images.size());
    known->second = int(model_.textures.size());
    model_.images.push_back(image), model_.textures.push_back(out);
    return known->second;
}

int GltfMaker::model_material(const Model& model, int index) {
    if (index < 0) return material({});
    const ModelMaterial& own = model.materials[size_t(index)];
    if (own.of_project) return material({own.name});
    const int texture = own.picture < 0 ? -1 : add_texture(*model.pictures[size_t(own.picture)]);
    std::string looks = std::to_string(texture);
    for (const double v : {own.color[0], own.color[1], own.color[2], own.color[3], own.roughness, own.metal})
        looks += " " + std::to_string(v);
    const auto [known, fresh] = model_materials_.try_emplace({own.name, looks}, 0);
    if (!fresh) return known->second;
    tinygltf::Material out;
    out.name = own.name, out.doubleSided = own.two_sided;
    out.pbrMetallicRoughness.baseColorFactor.assign(own.color.begin(), own.color.end());
    out.pbrMetallicRoughness.roughnessFactor = own.roughness,
    out.pbrMetallicRoughness.metallicFactor = own.metal;
    out.pbrMetallicRoughness.baseColorTexture.index = texture;
    if (own.color[3] < 1) out.alphaMode = "BLEND";
    known->second = int(model_.materials.size());
    model_.materials.push_back(out);
    return known->second;
}

int GltfMaker::model_mesh(const void* key, const std::string& name, const Model& model) {
    const auto [known, fresh] = meshes_.try_emplace(key, -1);
    if (!fresh) return known->second;
    tinygltf::Mesh mesh;
    mesh.name = name;
    for (const ModelPart& part : model.parts) {
        if (part.triangles.empty()) continue;
        tinygltf::Primitive primitive = triangles(part.points, part.triangles);
        if (part.normals.size() == part.points.size())
            primitive.attributes["NORMAL"] = vectors(part.normals, false);
        if (part.picture_places.size() == part.points.size())
            primitive.attributes["TEXCOORD_0"] = texture_places(part.picture_places);
        if (part.colors.size() == part.points.size()) {
            std::vector<float> values;
            for (const auto& c : part.colors) values.insert(values.end(), c.begin(), c.end());
            primitive.attributes["COLOR_0"] = add_accessor(values, TINYGLTF_TYPE_VEC4, part.colors.size());
        }
        primitive.material = model_material(model, part.material);
        mesh.primitives.push_back(std::move(primitive));
    }
    if (mesh.primitives.empty()) return -1;
    known->second = int(model_.meshes.size());
    model_.meshes.push_back(std::move(mesh));
    return known->second;
}

int GltfMaker::bodies_mesh(const void* key, const std::string& name,
                           const std::vector<geometry::ConvexCell>& cells) {
    const auto [known, fresh] = meshes_.try_emplace(key, -1);
    if (!fresh) return known->second;
    std::vector<Vec3> points;
    std::vector<std::array<uint32_t, 3>> list;
    for (const geometry::ConvexCell& cell : cells)
        for (const auto& face : cell.faces) {
            const uint32_t first = uint32_t(points.size());
            points.insert(points.end(), face.loop.begin(), face.loop.end());
            for (uint32_t i = 1; i + 1 < face.loop.size(); ++i)
                list.push_back({first, first + i, first + i + 1});
        }
    if (list.empty()) return -1;
    tinygltf::Mesh mesh;
    mesh.name = name;
    mesh.primitives.push_back(triangles(points, list));
    known->second = int(model_.meshes.size());
    model_.meshes.push_back(std::move(mesh));
    return known->second;
}

Result<int> GltfMaker::picture_material(const std::shared_ptr<const TileSheet>& sheet, double opacity) {
    const auto [known, is_new] = picture_materials_.try_emplace({sheet.get(), opacity}, 0);
    if (!is_new) return known->second;
    const auto [texture, first] = textures_.try_emplace(sheet.get(), 0);
    if (first) {
        const auto png = png_of(*sheet->picture);
        if (!png) return tl::unexpected(png.error());
        tinygltf::Image image;
        image.name = sheet->image;
        image.mimeType = "image/png";
        image.bufferView = add_view(std::vector<char>(png->begin(), png->end()), 0);
        tinygltf::Sampler crisp;
        crisp.magFilter = crisp.minFilter = TINYGLTF_TEXTURE_FILTER_NEAREST;
        crisp.wrapS = crisp.wrapT = TINYGLTF_TEXTURE_WRAP_CLAMP_TO_EDGE;
        tinygltf::Texture out;
        out.source = int(model_.images.size()), out.sampler = int(model_.samplers.size());
        texture->second = int(model_.textures.size());
        model_.images.push_back(image), model_.samplers.push_back(crisp), model_.textures.push_back(out);
    }
    tinygltf::Material out;
    out.name = sheet->image;
    out.doubleSided = true;
    out.alphaMode = opacity >= 1 && is_cut_out(*sheet->picture) ? "MASK" : "BLEND";
    out.pbrMetallicRoughness.baseColorTexture.index = texture->second;
    out.pbrMetallicRoughness.baseColorFactor = {1, 1, 1, opacity};
    out.pbrMetallicRoughness.metallicFactor = 0;
    // Drawn pictures bring their own light.
    out.extensions["KHR_materials_unlit"] = tinygltf::Value(tinygltf::Value::Object());
    use_extension("KHR_materials_unlit");
    known->second = int(model_.materials.size());
    model_.materials.push_back(out);
    return known->second;
}

} // namespace rubble::io
