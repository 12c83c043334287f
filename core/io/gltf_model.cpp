#include <cmath>
#include <cstring>
#include <optional>
#include <set>

#include <glm/gtc/quaternion.hpp>
#include <glm/mat4x4.hpp>

#include "io/gltf_accessor.h"
#include "io/json_text.h"
#include "io/model_file.h"
#include "io/text_file.h"

namespace rubble::io {

namespace {

namespace fs = std::filesystem;
using glm::dmat4;

constexpr size_t k_most_instances = 1'000'000;
constexpr const char* k_instancing = "EXT_mesh_gpu_instancing";
/// Extensions without which a file can still be read as its standard says, by what they change.
const std::set<std::string> k_known{"KHR_materials_unlit",
                                    "KHR_texture_transform",
                                    "KHR_mesh_quantization",
                                    "KHR_materials_emissive_strength",
                                    "KHR_materials_ior",
                                    "KHR_materials_specular",
                                    "KHR_materials_clearcoat",
                                    "KHR_materials_sheen",
                                    "KHR_materials_transmission",
                                    "KHR_materials_volume",
                                    "KHR_materials_iridescence",
                                    "KHR_materials_anisotropy",
                                    "KHR_materials_variants",
                                    "KHR_lights_punctual",
                                    k_instancing};

/// Keeps the bytes of a picture as they are: who draws it reads it.
bool keep_bytes(tinygltf::Image* image, const int, std::string*, std::string*, int, int,
                const unsigned char* bytes, int size, void*) {
    image->image.assign(bytes, bytes + std::max(size, 0));
    image->as_is = true;
    return true;
}

// What a file names beside it is read whole, and only where it is a file: a device has no end.
bool exists(const std::string& path, void*) {
    std::error_code error;
    return fs::is_regular_file(path, error);
}
std::string as_it_is(const std::string& path, void*) { return path; }
bool read_whole(std::vector<unsigned char>* out, std::string* error, const std::string& path, void*) {
    const auto bytes = read_file(path);
    if (!bytes && error) *error += bytes.error().message;
    if (bytes) out->assign(bytes->begin(), bytes->end());
    return bytes.has_value();
}
bool write_nothing(std::string*, const std::string&, const std::vector<unsigned char>&, void*) {
    return false;
}

dmat4 matrix_of(const std::vector<double>& t, const std::vector<double>& r, const std::vector<double>& s) {
    dmat4 out(1);
    if (r.size() == 4) {
        const glm::dquat q(r[3], r[0], r[1], r[2]);
        const double length = glm::length(q);
        if (length > 1e-12) out = glm::mat4_cast(q / length);
    }
    if (s.size() == 3)
        for (int k = 0; k < 3; ++k) out[k] *= s[size_t(k)];
    if (t.size() == 3) out[3] = {t[0], t[1], t[2], 1};
    return out;
}

dmat4 matrix_of(const tinygltf::Node& node) {
    if (node.matrix.size() != 16) return matrix_of(node.translation, node.rotation, node.scale);
    dmat4 out;
    for (int i = 0; i < 16; ++i) out[i / 4][i % 4] = node.matrix[size_t(i)];
    return out;
}

class SceneReader {
public:
    SceneReader(const tinygltf::Model& from, std::string place, Model& to)
        : from_(from),
          place_(std::move(place)),
          to_(to) {}

    Result<void> read() {
        add_materials();
        for (const int root : roots()) {
            std::vector<std::pair<int, dmat4>> open{{root, dmat4(1)}};
            while (!open.empty() && !error_) {
                const auto [index, above] = open.back();
                open.pop_back();
                const tinygltf::Node& node = from_.nodes[size_t(index)];
                const dmat4 here = above * matrix_of(node);
                ++to_.scene_nodes;
                if (node.mesh >= 0) add_uses(node, here);
                if (node.skin >= 0) skins_ = true;
                for (auto child = node.children.rbegin(); child != node.children.rend(); ++child)
                    open.emplace_back(*child, here);
            }
        }
        if (error_) return tl::unexpected(*error_);
        if (left_out_)
            to_.warnings.push_back(std::to_string(left_out_) + " meshes of lines or points were left out.");
        if (skins_) to_.warnings.push_back("What is moved by bones stands at rest.");
        if (morphs_) to_.warnings.push_back("What changes its form stands at rest.");
        return {};
    }

private:
    /// The nodes of the default scene, else of the first; without any, all that hang on no other.
    std::vector<int> roots() const {
        if (!from_.scenes.empty()) return from_.scenes[size_t(std::max(from_.defaultScene, 0))].nodes;
        std::set<int> children;
        for (const auto& node : from_.nodes) children.insert(node.children.begin(), node.children.end());
        std::vector<int> out;
        for (int i = 0; i < int(from_.nodes.size()); ++i)
            if (!children.contains(i)) out.push_back(i);
        return out;
    }

    void add_uses(const tinygltf::Node& node, const dmat4& here) {
        const int index = int(to_.nodes.size());
        to_.nodes.push_back(!node.name.empty() ? node.name : from_.meshes[size_t(node.mesh)].name);
        const size_t parts = to_.parts.size();
        for (const dmat4& matrix : instances_of(node)) {
            for (const auto& primitive : from_.meshes[size_t(node.mesh)].primitives)
                add_part(primitive, here * matrix, index);
            if (error_) return;
        }
        if (to_.parts.size() == parts) to_.nodes.pop_back();
    }

    /// Where a node's mesh stands, once or as often as its instances say.
    std::vector<dmat4> instances_of(const tinygltf::Node& node) {
        const auto found = node.extensions.find(k_instancing);
        if (found == node.extensions.end()) return {dmat4(1)};
        const tinygltf::Value& attributes = found->second.Get("attributes");
        size_t count = 0;
        const auto values = [&](const char* name, size_t components) -> std::vector<double> {
            if (!attributes.IsObject() || !attributes.Has(name) || !attributes.Get(name).IsInt()) return {};
            const int accessor = attributes.Get(name).GetNumberAsInt();
            if (accessor < 0 || size_t(accessor) >= from_.accessors.size()) {
                refuse("An instanced mesh names no values.");
                return {};
            }
            const size_t n = from_.accessors[size_t(accessor)].count;
            if (count != 0 && n != count) refuse("An instanced mesh has lists of different lengths.");
            count = n;
            return values_of(from_, accessor, components);
        };
        const auto t = values("TRANSLATION", 3), r = values("ROTATION", 4), s = values("SCALE", 3);
        if (count > k_most_instances) refuse("An instanced mesh stands in too many places.");
        std::vector<dmat4> out;
        const auto part = [](const std::vector<double>& list, size_t i, size_t width) {
            if (list.empty()) return std::vector<double>();
            return std::vector<double>(list.begin() + long(i * width), list.begin() + long((i + 1) * width));
        };
        for (size_t i = 0; i < count && !error_; ++i)
            out.push_back(matrix_of(part(t, i, 3), part(r, i, 4), part(s, i, 3)));
        return out;
    }

    void refuse(const std::string& why) {
        if (!error_) error_ = Error{"model.damaged", place_, why};
    }

    /// The triangles of a primitive that has some, by its points.
    std::vector<std::array<uint32_t, 3>> triangles_in(const tinygltf::Primitive& primitive, size_t points) {
        std::vector<uint32_t> list;
        if (primitive.indices >= 0)
            list = indices_of(from_, primitive.indices);
        else
            for (uint32_t i = 0; i < points; ++i) list.push_back(i);
        std::vector<std::array<uint32_t, 3>> out;
        if (primitive.mode == TINYGLTF_MODE_TRIANGLE_STRIP)
            for (size_t i = 2; i < list.size(); ++i)
                out.push_back(i % 2 ? std::array{list[i - 1], list[i - 2], list[i]}
                                    : std::array{list[i - 2], list[i - 1], list[i]});
        else if (primitive.mode == TINYGLTF_MODE_TRIANGLE_FAN)
            for (size_t i = 2; i < list.size(); ++i) out.push_back({list[0], list[i - 1], list[i]});
        else
            for (size_t i = 2; i < list.size(); i += 3) out.push_back({list[i - 2], list[i - 1], list[i]});
        return out;
    }

    void add_part(const tinygltf::Primitive& primitive, const dmat4& matrix, int node) {
        const auto places = primitive.attributes.find("POSITION");
        const int mode = primitive.mode < 0 ? TINYGLTF_MODE_TRIANGLES : primitive.mode;
        if (places == primitive.attributes.end() || mode < TINYGLTF_MODE_TRIANGLES) {
            ++left_out_;
            return;
        }
        const size_t count = from_.accessors[size_t(places->second)].count;
        ModelPart part;
        part.node = node, part.material = primitive.material;
        part.triangles = triangles_in(primitive, count);
        points_ += count, triangles_ += part.triangles.size();
        if (points_ > k_most_model_points || triangles_ > k_most_model_triangles) {
            error_ = Error{"model.large", place_, "The model has more than 12 million triangles."};
            return;
        }
        morphs_ |= !primitive.targets.empty();
        const auto list = [&](const char* name, size_t components, double fill) -> std::vector<double> {
            const auto found = primitive.attributes.find(name);
            if (found == primitive.attributes.end()) return {};
            return values_of(from_, found->second, components, fill);
        };
        const std::vector<double> at = values_of(from_, places->second, 3);
        for (size_t i = 0; i < count; ++i) {
            const glm::dvec4 p = matrix * glm::dvec4(at[i * 3], at[i * 3 + 1], at[i * 3 + 2], 1);
            if (!(std::abs(p.x) < 1e12 && std::abs(p.y) < 1e12 && std::abs(p.z) < 1e12))
                return refuse("A point lies nowhere.");
            part.points.push_back({p.x, p.y, p.z});
        }
        const glm::dmat3 turn(matrix);
        const double handed = glm::determinant(turn);
        const glm::dmat3 normals = std::abs(handed) > 1e-300 ? glm::transpose(glm::inverse(turn)) : turn;
        const std::vector<double> n = list("NORMAL", 3, 0), uv = list("TEXCOORD_0", 2, 0),
                                  c = list("COLOR_0", 4, 1);
        for (size_t i = 0; i < n.size() / 3; ++i) {
            const Vec3 normal = normals * Vec3(n[i * 3], n[i * 3 + 1], n[i * 3 + 2]);
            const double length = glm::length(normal);
            part.normals.push_back(length > 1e-300 && std::isfinite(length) ? normal / length
                                                                            : Vec3(0, 0, 1));
        }
        for (size_t i = 0; i < uv.size() / 2; ++i) part.picture_places.push_back({uv[i * 2], uv[i * 2 + 1]});
        for (size_t i = 0; i < c.size() / 4; ++i)
            part.colors.push_back(
                {float(c[i * 4]), float(c[i * 4 + 1]), float(c[i * 4 + 2]), float(c[i * 4 + 3])});
        // Mirrored by its nodes it would be seen from inside.
        if (handed < 0)
            for (auto& t : part.triangles) std::swap(t[1], t[2]);
        to_.parts.push_back(std::move(part));
    }

    void add_materials() {
        std::vector<int> pictures; // of the file's images, by index
        for (const tinygltf::Image& image : from_.images) {
            const std::string bytes(image.image.begin(), image.image.end());
            const std::string mime = picture_mime(bytes);
            const std::string name = !image.name.empty() ? image.name : fs::path(image.uri).stem().string();
            if (mime.empty()) {
                to_.warnings.push_back("The picture " + (name.empty() ? "of a material" : name) +
                                       " could not be read.");
                pictures.push_back(-1);
                continue;
            }
            pictures.push_back(int(to_.pictures.size()));
            to_.pictures.push_back(std::make_shared<const PictureBytes>(PictureBytes{name, mime, bytes}));
        }
        for (const tinygltf::Material& from : from_.materials) {
            ModelMaterial to;
            to.name = from.name;
            const auto& pbr = from.pbrMetallicRoughness;
            for (size_t k = 0; k < 4 && k < pbr.baseColorFactor.size(); ++k)
                to.color[k] = std::isfinite(pbr.baseColorFactor[k]) ? pbr.baseColorFactor[k] : 1;
            to.roughness = pbr.roughnessFactor, to.metal = pbr.metallicFactor;
            to.two_sided = from.doubleSided;
            const int texture = pbr.baseColorTexture.index;
            const int source = texture >= 0 ? from_.textures[size_t(texture)].source : -1;
            if (source >= 0) to.picture = pictures[size_t(source)];
            to_.materials.push_back(std::move(to));
        }
    }

    const tinygltf::Model& from_;
    std::string place_;
    Model& to_;
    std::optional<Error> error_;
    size_t points_ = 0, triangles_ = 0, left_out_ = 0;
    bool skins_ = false, morphs_ = false;
};

/// What was said on several lines, on one.
std::string first_line(const std::string& text) { return text.substr(0, text.find('\n')); }

/// The extensions that a file names as required, as far as its JSON can be read: of a binary one it comes
/// after its head and that of its first chunk.
std::vector<std::string> required_by(const std::string& bytes) {
    constexpr size_t k_heads = 20;
    const bool binary = bytes.starts_with("glTF") && bytes.size() > k_heads;
    uint32_t length = 0;
    if (binary) std::memcpy(&length, bytes.data() + 12, sizeof length);
    const Json json = Json::parse(binary ? bytes.substr(k_heads, length) : bytes, nullptr, false);
    std::vector<std::string> out;
    if (json.is_object() && json.contains("extensionsRequired") && json["extensionsRequired"].is_array())
        for (const Json& name : json["extensionsRequired"])
            if (name.is_string()) out.push_back(name.get<std::string>());
    return out;
}

} // namespace

Result<Model> load_gltf(const fs::path& path) {
    const auto bytes = read_file(path);
    if (!bytes) return tl::unexpected(bytes.error());
    tinygltf::TinyGLTF reader;
    reader.SetImageLoader(keep_bytes, nullptr);
    reader.SetFsCallbacks({exists, as_it_is, read_whole, write_nothing, nullptr});
    tinygltf::Model file;
    std::string error, warning;
    bool read = false;
    try {
        const std::string folder = path.parent_path().string();
        read = bytes->starts_with("glTF")
                   ? reader.LoadBinaryFromMemory(&file, &error, &warning,
                                                 reinterpret_cast<const unsigned char*>(bytes->data()),
                                                 unsigned(bytes->size()), folder)
                   : reader.LoadASCIIFromString(&file, &error, &warning, bytes->data(),
                                                unsigned(bytes->size()), folder);
    } catch (const std::exception& e) { // of the JSON that it reads
        error = e.what();
    }
    // What it requires may be why it could not be read.
    for (const std::string& extension : read ? file.extensionsRequired : required_by(*bytes))
        if (!k_known.contains(extension))
            return fail("model.extension", path.string(),
                        "The file requires the extension " + extension + ", which is not known here.");
    if (!read)
        return fail("model.damaged", path.string(),
                    "The file could not be read as glTF: " +
                        (error.empty() ? std::string("it is damaged.") : first_line(error)));
    if (!file.asset.version.starts_with("2."))
        return fail("model.version", path.string(),
                    "The file is of glTF " + file.asset.version + "; 2.0 is read.");
    if (const std::string flaw = flaw_of(file); !flaw.empty())
        return fail("model.damaged", path.string(), flaw);
    Model model;
    if (auto done = SceneReader(file, path.string(), model).read(); !done)
        return tl::unexpected(done.error());
    if (model.parts.empty()) return fail("model.empty", path.string(), "The file's scene has no triangles.");
    return model;
}

} // namespace rubble::io
