#include "io/gltf_accessor.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <limits>
#include <set>

#include "io/model_file.h"

namespace rubble::io {

namespace {

using tinygltf::Accessor;

/// Most values of one accessor, and most numbers of all that a file can make one hold in memory.
constexpr size_t k_most_values = k_most_model_triangles * 3;

size_t bytes_of_component(int type) {
    switch (type) {
    case TINYGLTF_COMPONENT_TYPE_BYTE:
    case TINYGLTF_COMPONENT_TYPE_UNSIGNED_BYTE:
        return 1;
    case TINYGLTF_COMPONENT_TYPE_SHORT:
    case TINYGLTF_COMPONENT_TYPE_UNSIGNED_SHORT:
        return 2;
    case TINYGLTF_COMPONENT_TYPE_INT:
    case TINYGLTF_COMPONENT_TYPE_UNSIGNED_INT:
    case TINYGLTF_COMPONENT_TYPE_FLOAT:
        return 4;
    case TINYGLTF_COMPONENT_TYPE_DOUBLE:
        return 8;
    default:
        return 0;
    }
}

size_t components_of(int type) {
    switch (type) {
    case TINYGLTF_TYPE_SCALAR:
        return 1;
    case TINYGLTF_TYPE_VEC2:
        return 2;
    case TINYGLTF_TYPE_VEC3:
        return 3;
    case TINYGLTF_TYPE_VEC4:
    case TINYGLTF_TYPE_MAT2:
        return 4;
    case TINYGLTF_TYPE_MAT3:
        return 9;
    case TINYGLTF_TYPE_MAT4:
        return 16;
    default:
        return 0;
    }
}

/// Bytes of one value. Columns of small matrices begin at multiples of four bytes.
size_t bytes_of_value(const Accessor& accessor) {
    const size_t bytes = bytes_of_component(accessor.componentType);
    if (accessor.type == TINYGLTF_TYPE_MAT2 && bytes == 1) return 8;
    if (accessor.type == TINYGLTF_TYPE_MAT3 && bytes < 4) return bytes == 1 ? 12 : 24;
    return components_of(accessor.type) * bytes;
}

template <class T> double number_at(const unsigned char* at) {
    T value;
    std::memcpy(&value, at, sizeof value);
    return double(value);
}

double component_at(const unsigned char* at, int type, bool normalized) {
    switch (type) {
    case TINYGLTF_COMPONENT_TYPE_BYTE: {
        const double v = number_at<int8_t>(at);
        return normalized ? std::max(v / 127, -1.0) : v;
    }
    case TINYGLTF_COMPONENT_TYPE_UNSIGNED_BYTE:
        return number_at<uint8_t>(at) / (normalized ? 255 : 1);
    case TINYGLTF_COMPONENT_TYPE_SHORT: {
        const double v = number_at<int16_t>(at);
        return normalized ? std::max(v / 32767, -1.0) : v;
    }
    case TINYGLTF_COMPONENT_TYPE_UNSIGNED_SHORT:
        return number_at<uint16_t>(at) / (normalized ? 65535 : 1);
    case TINYGLTF_COMPONENT_TYPE_INT:
        return number_at<int32_t>(at);
    case TINYGLTF_COMPONENT_TYPE_UNSIGNED_INT:
        return number_at<uint32_t>(at);
    case TINYGLTF_COMPONENT_TYPE_DOUBLE:
        return number_at<double>(at);
    default:
        return number_at<float>(at);
    }
}

/// Whether an index names one of a list; below 0 it may name none.
template <class List> bool names_one(int index, const List& list, bool needed = false) {
    return index < 0 ? (!needed && index == -1) : size_t(index) < list.size();
}

class FlawFinder {
public:
    explicit FlawFinder(const tinygltf::Model& model) : m_(model) {}

    std::string flaw() {
        for (size_t i = 0; i < m_.bufferViews.size() && flaw_.empty(); ++i) look_at_view(i);
        for (size_t i = 0; i < m_.accessors.size() && flaw_.empty(); ++i) look_at_accessor(i);
        for (size_t i = 0; i < m_.meshes.size() && flaw_.empty(); ++i) look_at_mesh(i);
        look_at_materials();
        if (flaw_.empty()) look_at_nodes();
        return flaw_;
    }

private:
    void say(const char* what, size_t which, const char* flaw) {
        if (flaw_.empty()) flaw_ = std::string(what) + " " + std::to_string(which) + " " + flaw;
    }

    void look_at_view(size_t i) {
        const tinygltf::BufferView& view = m_.bufferViews[i];
        if (!names_one(view.buffer, m_.buffers, true)) return say("Buffer view", i, "names no buffer.");
        const size_t size = m_.buffers[size_t(view.buffer)].data.size();
        if (view.byteOffset > size || view.byteLength > size - view.byteOffset)
            return say("Buffer view", i, "reaches beyond its buffer.");
        if (view.byteStride != 0 && (view.byteStride < 4 || view.byteStride > 252))
            say("Buffer view", i, "has a stride that is none.");
    }

    /// Whether `count` values of some bytes lie within a view.
    bool fits(int view, size_t offset, size_t count, size_t bytes, size_t stride) const {
        if (!names_one(view, m_.bufferViews, true)) return false;
        const size_t length = m_.bufferViews[size_t(view)].byteLength;
        if (count == 0) return offset <= length;
        if (offset > length || bytes > length - offset) return false;
        return (count - 1) <= (length - offset - bytes) / std::max<size_t>(stride, 1);
    }

    void look_at_accessor(size_t i) {
        const Accessor& accessor = m_.accessors[i];
        const size_t bytes = bytes_of_component(accessor.componentType);
        if (bytes == 0 || components_of(accessor.type) == 0)
            return say("Accessor", i, "is of a type that is none.");
        if (accessor.count > k_most_values) return say("Accessor", i, "counts too many values.");
        if (accessor.count == 0) return say("Accessor", i, "counts no values.");
        if (!names_one(accessor.bufferView, m_.bufferViews))
            return say("Accessor", i, "names no buffer view.");
        const size_t value = bytes_of_value(accessor);
        if (accessor.bufferView >= 0) {
            const size_t own = m_.bufferViews[size_t(accessor.bufferView)].byteStride;
            const size_t stride = own ? own : value;
            if (!fits(accessor.bufferView, accessor.byteOffset, accessor.count, value, stride))
                return say("Accessor", i, "reaches beyond its buffer view.");
        }
        if (!accessor.sparse.isSparse) return;
        const auto& sparse = accessor.sparse;
        if (sparse.count < 0 || size_t(sparse.count) > accessor.count)
            return say("Accessor", i, "replaces more values than it has.");
        const int type = sparse.indices.componentType;
        const bool whole = type == TINYGLTF_COMPONENT_TYPE_UNSIGNED_BYTE ||
                           type == TINYGLTF_COMPONENT_TYPE_UNSIGNED_SHORT ||
                           type == TINYGLTF_COMPONENT_TYPE_UNSIGNED_INT;
        const size_t width = bytes_of_component(type), count = size_t(sparse.count);
        if (!whole || sparse.indices.byteOffset < 0 || sparse.values.byteOffset < 0 ||
            !fits(sparse.indices.bufferView, size_t(sparse.indices.byteOffset), count, width, width) ||
            !fits(sparse.values.bufferView, size_t(sparse.values.byteOffset), count, value, value))
            return say("Accessor", i, "has replacements that reach beyond their buffer views.");
        const unsigned char* at = start(sparse.indices.bufferView) + sparse.indices.byteOffset;
        for (size_t k = 0; k < count; ++k)
            if (component_at(at + k * width, type, false) >= double(accessor.count))
                return say("Accessor", i, "replaces a value that it does not have.");
    }

    const unsigned char* start(int view) const {
        const tinygltf::BufferView& v = m_.bufferViews[size_t(view)];
        return m_.buffers[size_t(v.buffer)].data.data() + v.byteOffset;
    }

    void look_at_mesh(size_t i) {
        for (const tinygltf::Primitive& primitive : m_.meshes[i].primitives) {
            if (!names_one(primitive.material, m_.materials)) return say("Mesh", i, "names no material.");
            if (!names_one(primitive.indices, m_.accessors)) return say("Mesh", i, "names no indices.");
            if (primitive.mode < -1 || primitive.mode > 6)
                return say("Mesh", i, "is of a kind that is none.");
            size_t points = 0;
            for (const auto& [name, accessor] : primitive.attributes) {
                if (!names_one(accessor, m_.accessors, true)) return say("Mesh", i, "names no values.");
                const Accessor& values = m_.accessors[size_t(accessor)];
                if (name == "POSITION" && values.type != TINYGLTF_TYPE_VEC3)
                    return say("Mesh", i, "has places that are none.");
                if (points == 0) points = values.count;
                if (values.count != points) return say("Mesh", i, "has lists of different lengths.");
            }
            if (primitive.indices < 0) continue;
            const Accessor& indices = m_.accessors[size_t(primitive.indices)];
            const bool whole = indices.componentType == TINYGLTF_COMPONENT_TYPE_UNSIGNED_BYTE ||
                               indices.componentType == TINYGLTF_COMPONENT_TYPE_UNSIGNED_SHORT ||
                               indices.componentType == TINYGLTF_COMPONENT_TYPE_UNSIGNED_INT;
            if (!whole || indices.type != TINYGLTF_TYPE_SCALAR)
                return say("Mesh", i, "has indices that are none.");
            for (const uint32_t index : indices_of(m_, primitive.indices))
                if (index >= points) return say("Mesh", i, "names a point that is not there.");
        }
    }

    void look_at_materials() {
        for (size_t i = 0; i < m_.materials.size(); ++i)
            if (!names_one(m_.materials[i].pbrMetallicRoughness.baseColorTexture.index, m_.textures))
                say("Material", i, "names no texture.");
        for (size_t i = 0; i < m_.textures.size(); ++i)
            if (!names_one(m_.textures[i].source, m_.images)) say("Texture", i, "names no picture.");
        for (size_t i = 0; i < m_.images.size(); ++i)
            if (!names_one(m_.images[i].bufferView, m_.bufferViews))
                say("Picture", i, "names no buffer view.");
    }

    static bool of_size(const std::vector<double>& values, size_t size) {
        return values.empty() ||
               (values.size() == size &&
                std::all_of(values.begin(), values.end(), [](double v) { return std::isfinite(v); }));
    }

    void look_at_nodes() {
        std::vector<int> parents(m_.nodes.size(), -1);
        for (size_t i = 0; i < m_.nodes.size(); ++i) {
            const tinygltf::Node& node = m_.nodes[i];
            if (!names_one(node.mesh, m_.meshes)) return say("Node", i, "names no mesh.");
            if (!of_size(node.matrix, 16) || !of_size(node.translation, 3) || !of_size(node.rotation, 4) ||
                !of_size(node.scale, 3))
                return say("Node", i, "has a transform that is none.");
            if (!node.matrix.empty() &&
                (std::abs(node.matrix[3]) > 1e-6 || std::abs(node.matrix[7]) > 1e-6 ||
                 std::abs(node.matrix[11]) > 1e-6 || std::abs(node.matrix[15] - 1) > 1e-6))
                return say("Node", i, "has a transform that is none.");
            for (const int child : node.children) {
                if (!names_one(child, m_.nodes, true)) return say("Node", i, "names no child.");
                if (parents[size_t(child)] >= 0) return say("Node", size_t(child), "hangs on two others.");
                parents[size_t(child)] = int(i);
            }
        }
        // With one parent each, a ring is what one can go round without an end.
        std::vector<char> known(m_.nodes.size(), 0);
        for (size_t i = 0; i < m_.nodes.size(); ++i) {
            std::vector<size_t> way;
            int at = int(i);
            while (at >= 0 && known[size_t(at)] == 0) {
                known[size_t(at)] = 1;
                way.push_back(size_t(at));
                at = parents[size_t(at)];
            }
            if (at >= 0 && known[size_t(at)] == 1) return say("Node", size_t(at), "hangs on itself.");
            for (const size_t node : way) known[node] = 2;
        }
        for (const tinygltf::Scene& scene : m_.scenes)
            for (const int node : scene.nodes)
                if (!names_one(node, m_.nodes, true)) return say("Scene", 0, "names no node.");
        if (!names_one(m_.defaultScene, m_.scenes))
            say("Scene", size_t(std::max(m_.defaultScene, 0)), "is not there.");
    }

    const tinygltf::Model& m_;
    std::string flaw_;
};

} // namespace

std::string flaw_of(const tinygltf::Model& model) { return FlawFinder(model).flaw(); }

std::vector<double> values_of(const tinygltf::Model& model, int accessor, size_t components, double fill) {
    const Accessor& a = model.accessors[size_t(accessor)];
    const size_t width = bytes_of_component(a.componentType), own = components_of(a.type);
    const size_t value = bytes_of_value(a), taken = std::min(components, own);
    std::vector<double> out(a.count * components, a.bufferView < 0 && !a.sparse.isSparse ? 0 : fill);
    const auto put = [&](size_t i, const unsigned char* at) {
        for (size_t k = 0; k < taken; ++k)
            out[i * components + k] = component_at(at + k * width, a.componentType, a.normalized);
    };
    const auto start = [&](int view) {
        const tinygltf::BufferView& v = model.bufferViews[size_t(view)];
        return model.buffers[size_t(v.buffer)].data.data() + v.byteOffset;
    };
    if (a.bufferView >= 0) {
        const size_t stride = model.bufferViews[size_t(a.bufferView)].byteStride;
        const unsigned char* at = start(a.bufferView) + a.byteOffset;
        for (size_t i = 0; i < a.count; ++i) put(i, at + i * (stride ? stride : value));
    } else {
        for (size_t i = 0; i < a.count; ++i)
            for (size_t k = 0; k < taken; ++k) out[i * components + k] = 0;
    }
    if (!a.sparse.isSparse) return out;
    const int type = a.sparse.indices.componentType;
    const unsigned char* index = start(a.sparse.indices.bufferView) + a.sparse.indices.byteOffset;
    const unsigned char* values = start(a.sparse.values.bufferView) + a.sparse.values.byteOffset;
    for (size_t k = 0; k < size_t(a.sparse.count); ++k)
        put(size_t(component_at(index + k * bytes_of_component(type), type, false)), values + k * value);
    return out;
}

std::vector<uint32_t> indices_of(const tinygltf::Model& model, int accessor) {
    std::vector<uint32_t> out;
    for (const double v : values_of(model, accessor, 1)) out.push_back(uint32_t(v));
    return out;
}

} // namespace rubble::io
