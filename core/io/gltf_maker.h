#pragma once

#include <array>
#include <cstring>
#include <map>
#include <memory>
#include <string>
#include <vector>

#include <tiny_gltf.h>

#include "base/result.h"
#include "level/dressing/light.h"
#include "level/level.h"

namespace rubble::io {

/// Puts nodes, meshes and what they are made of into a glTF model. Places are those of levels, z up.
class GltfMaker {
public:
    explicit GltfMaker(const Project& project);

    tinygltf::Model finished();
    void name_scene(const std::string& name) { model_.scenes[0].name = name; }

    /// A node under another; -1: of the scene. Its index.
    int add_node(const std::string& name, int parent);
    /// The node that was added as such.
    tinygltf::Node& node(int index) { return model_.nodes[size_t(index)]; }
    /// Gives a node a mesh of its own.
    void give_mesh(int node, const std::string& name, std::vector<tinygltf::Primitive> primitives);
    /// A node that holds what collides, marked as such in its extras.
    int add_collision(const std::string& name, int parent, tinygltf::Primitive shape);

    tinygltf::Primitive triangles(const std::vector<Vec3>& points,
                                  const std::vector<std::array<uint32_t, 3>>& list);
    /// Accessors of values of each point. @{
    int vectors(const std::vector<Vec3>& list, bool with_limits);
    int texture_places(const std::vector<Vec2>& list);
    /// @}
    /// A material of the project; what it does not have is bare stone.
    int material(const MaterialId& id);
    /// A node that shines (KHR_lights_punctual), under another; -1: of the scene.
    void add_light(const std::string& name, const Light& light, int parent);
    /// The mesh of a model, made once for each `key` and shared by all nodes that have it; -1 for one that
    /// shows nothing. Places are seen as the model has them, z up.
    int model_mesh(const void* key, const std::string& name, const Model& model);
    /// A mesh of convex bodies, likewise.
    int bodies_mesh(const void* key, const std::string& name, const std::vector<geometry::ConvexCell>& cells);
    /// A sheet's picture as a material whose pixels stay what they are; an error where it cannot be written.
    Result<int> picture_material(const std::shared_ptr<const TileSheet>& sheet, double opacity);

private:
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
    int add_accessor(const std::vector<float>& values, int type, size_t count);
    int model_material(const Model& model, int index);
    int add_texture(const PictureBytes& picture);
    void add_pictures(tinygltf::Material& out, const Material& material);

    void use_extension(const std::string& name);

    const Project& project_;
    tinygltf::Value::Array lights_;
    std::map<std::string, int> materials_; ///< by their ids; "" for bare stone
    std::map<const TileSheet*, int> textures_;
    std::map<const void*, int> meshes_;
    std::map<std::string, int> model_pictures_;                          ///< by their bytes
    std::map<std::pair<std::string, std::string>, int> model_materials_; ///< by name and all that they are
    std::map<std::pair<const TileSheet*, double>, int> picture_materials_;
    tinygltf::Model model_;
};

/// The coordinates of glTF: y up, z towards whoever looks.
Vec3 y_up(const Vec3& place);

} // namespace rubble::io
