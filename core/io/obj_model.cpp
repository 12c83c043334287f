#include <array>
#include <charconv>
#include <cmath>
#include <cstdlib>
#include <map>
#include <numeric>
#include <optional>
#include <sstream>

#include <tiny_obj_loader.h>

#include "io/model_file.h"
#include "io/text_file.h"
#include "level/face_mesh.h"

namespace rubble::io {

namespace {

namespace fs = std::filesystem;

/// More corners of a face than the library can count.
constexpr size_t k_most_corners = 255;

/// The lines of a text, without line ends of any kind, those that end in a backslash joined with the next.
std::vector<std::string> joined_lines_of(const std::string& text) {
    std::vector<std::string> out;
    std::string line;
    for (size_t i = 0; i < text.size();) {
        const size_t end = std::min(text.find_first_of("\r\n", i), text.size());
        line.append(text, i, end - i);
        i = end + (text.compare(end, 2, "\r\n") == 0 ? 2 : 1);
        if (!line.empty() && line.back() == '\\') {
            line.back() = ' ';
            continue;
        }
        out.push_back(std::move(line));
        line.clear();
    }
    if (!line.empty()) out.push_back(std::move(line));
    return out;
}

/// A face as triangles, two less than it has corners: one that crosses itself as a fan.
std::vector<FaceMesh::Loop> face_triangles(const std::vector<Vec3>& corners) {
    FaceMesh::Loop loop(corners.size());
    std::iota(loop.begin(), loop.end(), 0);
    std::vector<FaceMesh::Loop> triangles = triangles_of(corners, loop);
    if (triangles.size() + 2 == corners.size()) return triangles;
    triangles.clear();
    for (int i = 1; i + 1 < int(corners.size()); ++i) triangles.push_back({0, i, i + 1});
    return triangles;
}

std::vector<std::string_view> words_of(std::string_view line) {
    std::vector<std::string_view> out;
    while (true) {
        const size_t begin = line.find_first_not_of(" \t\v\f");
        if (begin == std::string_view::npos) return out;
        line.remove_prefix(begin);
        const size_t end = std::min(line.find_first_of(" \t\v\f"), line.size());
        out.push_back(line.substr(0, end));
        line.remove_prefix(end);
    }
}

std::optional<Vec3> place_in(const std::vector<std::string_view>& words) {
    if (words.size() < 4) return {};
    Vec3 out(0);
    for (int axis = 0; axis < 3; ++axis) {
        const std::string word(words[size_t(axis) + 1]);
        char* end = nullptr;
        out[axis] = std::strtod(word.c_str(), &end);
        if (end == word.c_str() || !std::isfinite(out[axis])) return {};
    }
    return out;
}

/// A corner of a face: indices from 0 of its place, of its place in the picture and of its normal; -1: none.
using Corner = std::array<int64_t, 3>;

/// An index as OBJ counts (from 1, or backwards from what was read last) from 0; nothing where it is none of
/// `all`.
std::optional<int64_t> index_in(std::string_view text, int64_t so_far, int64_t all) {
    int64_t value = 0;
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), value);
    if (error != std::errc() || end != text.data() + text.size() || value == 0) return {};
    const int64_t index = value > 0 ? value - 1 : (value < -so_far ? -1 : so_far + value);
    return index >= 0 && index < all ? std::optional(index) : std::nullopt;
}

/// What is handed to the library: only what it needs, with faces whose indices are all there. What was left
/// out is counted.
class Sifter {
public:
    explicit Sifter(const std::string& text) : lines_(joined_lines_of(text)) {
        for (const std::string& line : lines_) {
            const auto words = words_of(line);
            if (words.empty()) continue;
            for (size_t k = 0; k < 3; ++k) all_[k] += words[0] == k_listed[k];
            if (words[0] == "v") places_.push_back(place_in(words));
        }
    }

    std::string sifted() {
        std::string out;
        for (const std::string& line : lines_) {
            const auto words = words_of(line);
            if (words.empty()) continue;
            if (words[0] == "f")
                add_face(words, out);
            else if (words[0] == "l" || words[0] == "p")
                ++lines_and_points_;
            else if (words[0] == "v" || words[0] == "vt" || words[0] == "vn")
                add_listed(words, line, out);
            else if (words[0] == "g" || words[0] == "o" || words[0] == "usemtl" || words[0] == "mtllib")
                out += line + "\n";
        }
        return out;
    }

    size_t faces() const { return faces_; }
    std::vector<std::string> warnings() const {
        std::vector<std::string> out;
        const auto say = [&](size_t count, const char* what) {
            if (count) out.push_back(std::to_string(count) + " " + what);
        };
        say(lines_and_points_, "lines and points were left out.");
        say(bad_faces_, "faces name places that are not there, or fewer than three, and were left out.");
        say(bad_details_, "faces name normals or picture places that are not there; they do without.");
        return out;
    }

private:
    static constexpr std::array<std::string_view, 3> k_listed{"v", "vt", "vn"};

    void add_listed(const std::vector<std::string_view>& words, const std::string& line, std::string& out) {
        for (size_t k = 0; k < 3; ++k) so_far_[k] += words[0] == k_listed[k];
        // What cannot be read keeps its number, so that those after it keep theirs.
        const bool bad = words[0] == "v" && !places_[size_t(so_far_[0] - 1)];
        out += (bad ? "v 0 0 0" : line) + "\n";
    }

    std::optional<Corner> corner_in(std::string_view word) {
        Corner out{-1, -1, -1};
        for (size_t k = 0; k < 3 && !word.empty(); ++k) {
            const size_t slash = std::min(word.find('/'), word.size());
            const std::string_view part = word.substr(0, slash);
            word.remove_prefix(std::min(slash + 1, word.size()));
            if (part.empty() && k > 0) continue;
            const auto index = index_in(part, so_far_[k], all_[k]);
            if (!index && k == 0) return {};
            details_missing_ |= !index;
            out[k] = index.value_or(-1);
        }
        if (out[0] < 0 || !places_[size_t(out[0])]) return {};
        return out;
    }

    void add_face(const std::vector<std::string_view>& words, std::string& out) {
        details_missing_ = false;
        std::vector<Corner> corners;
        for (size_t i = 1; i < words.size() && !words[i].starts_with('#'); ++i) {
            const auto corner = corner_in(words[i]);
            if (!corner) {
                ++bad_faces_;
                return;
            }
            corners.push_back(*corner);
        }
        if (corners.size() < 3) {
            ++bad_faces_;
            return;
        }
        bad_details_ += details_missing_;
        // All corners of a face have the same details, or none has.
        for (size_t k = 1; k < 3; ++k)
            if (std::any_of(corners.begin(), corners.end(), [&](const Corner& c) { return c[k] < 0; }))
                for (Corner& c : corners) c[k] = -1;
        ++faces_;
        if (corners.size() <= k_most_corners) return write(corners, out);
        std::vector<Vec3> points;
        for (const Corner& c : corners) points.push_back(*places_[size_t(c[0])]);
        for (const FaceMesh::Loop& t : face_triangles(points))
            write({corners[size_t(t[0])], corners[size_t(t[1])], corners[size_t(t[2])]}, out);
    }

    static void write(const std::vector<Corner>& corners, std::string& out) {
        out += "f";
        for (const Corner& c : corners) {
            out += " " + std::to_string(c[0] + 1);
            if (c[1] >= 0) out += "/" + std::to_string(c[1] + 1);
            if (c[2] >= 0) out += (c[1] >= 0 ? "/" : "//") + std::to_string(c[2] + 1);
        }
        out += "\n";
    }

    std::vector<std::string> lines_;
    std::vector<std::optional<Vec3>> places_;
    std::array<int64_t, 3> all_{}, so_far_{};
    size_t faces_ = 0, bad_faces_ = 0, bad_details_ = 0, lines_and_points_ = 0;
    bool details_missing_ = false;
};

/// Reads material files from beside the model.
class BesideModel : public tinyobj::MaterialReader {
public:
    BesideModel(fs::path folder, std::vector<std::string>& warnings)
        : folder_(std::move(folder)),
          warnings_(warnings) {}
    bool operator()(const std::string& name, std::vector<tinyobj::material_t>* materials,
                    std::map<std::string, int>* by_name, std::string*, std::string*) override {
        const auto text = read_file(folder_ / name);
        if (!text) {
            warnings_.push_back("Its materials in " + name + " could not be read.");
            return false;
        }
        std::istringstream in(*text);
        std::string warning, error;
        tinyobj::LoadMtl(by_name, materials, &in, &warning, &error);
        return true;
    }

private:
    fs::path folder_;
    std::vector<std::string>& warnings_;
};

void add_materials(const std::vector<tinyobj::material_t>& materials, const fs::path& folder, Model& model) {
    std::map<std::string, int> pictures;
    for (const tinyobj::material_t& from : materials) {
        ModelMaterial to;
        to.name = from.name;
        to.color = {from.diffuse[0], from.diffuse[1], from.diffuse[2], from.dissolve};
        to.roughness = from.shininess > 0 ? std::sqrt(2 / (2 + from.shininess)) : 1;
        to.metal = from.metallic;
        if (const std::string& name = from.diffuse_texname; !name.empty()) {
            const auto [found, fresh] = pictures.try_emplace(name, -1);
            if (fresh) {
                std::string file = name;
                std::replace(file.begin(), file.end(), '\\', '/');
                const auto bytes = read_file(folder / file);
                if (bytes && !picture_mime(*bytes).empty()) {
                    found->second = int(model.pictures.size());
                    model.pictures.push_back(std::make_shared<const PictureBytes>(
                        PictureBytes{name, picture_mime(*bytes), *bytes}));
                } else {
                    model.warnings.push_back("The picture " + name + " could not be read.");
                }
            }
            to.picture = found->second;
        }
        for (double& c : to.color)
            if (!(c >= 0 && c <= 1)) c = 1;
        model.materials.push_back(std::move(to));
    }
}

/// Puts the faces of a shape into parts, one for each material.
class ShapeParts {
public:
    ShapeParts(const tinyobj::attrib_t& from, Model& to, int node) : from_(from), to_(to), node_(node) {}

    void add_faces(const tinyobj::mesh_t& mesh) {
        size_t first = 0;
        for (size_t f = 0; f < mesh.num_face_vertices.size(); ++f) {
            const size_t count = mesh.num_face_vertices[f];
            const int material = f < mesh.material_ids.size() ? mesh.material_ids[f] : -1;
            add_face(std::span(mesh.indices).subspan(first, count),
                     material < int(to_.materials.size()) ? std::max(material, -1) : -1);
            first += count;
        }
    }

private:
    using Key = std::array<int, 4>; ///< of the part, and the three indices of a corner

    void add_face(std::span<const tinyobj::index_t> corners, int material) {
        const auto [found, fresh] = part_of_.try_emplace(material, to_.parts.size());
        if (fresh) {
            to_.parts.emplace_back();
            to_.parts.back().node = node_, to_.parts.back().material = material;
        }
        const int part = int(found->second);
        std::vector<uint32_t> at;
        for (const tinyobj::index_t& corner : corners) at.push_back(point(part, corner));
        ModelPart& into = to_.parts[size_t(part)];
        if (at.size() == 3) {
            into.triangles.push_back({at[0], at[1], at[2]});
            return;
        }
        std::vector<Vec3> points;
        for (const uint32_t i : at) points.push_back(into.points[i]);
        for (const FaceMesh::Loop& t : face_triangles(points))
            into.triangles.push_back({at[size_t(t[0])], at[size_t(t[1])], at[size_t(t[2])]});
    }

    uint32_t point(int part, const tinyobj::index_t& corner) {
        ModelPart& into = to_.parts[size_t(part)];
        const Key key{part, corner.vertex_index, corner.normal_index, corner.texcoord_index};
        const auto [found, fresh] = points_.try_emplace(key, uint32_t(into.points.size()));
        if (!fresh) return found->second;
        const auto vec3 = [](const std::vector<double>& list, int i) {
            return Vec3(list[size_t(i) * 3], list[size_t(i) * 3 + 1], list[size_t(i) * 3 + 2]);
        };
        into.points.push_back(vec3(from_.vertices, corner.vertex_index));
        // A part whose corners differ in what they know has none of it.
        const bool normal =
            corner.normal_index >= 0 && size_t(corner.normal_index) * 3 + 2 < from_.normals.size();
        if (normal && into.normals.size() + 1 == into.points.size())
            into.normals.push_back(vec3(from_.normals, corner.normal_index));
        else
            into.normals.clear();
        const bool placed =
            corner.texcoord_index >= 0 && size_t(corner.texcoord_index) * 2 + 1 < from_.texcoords.size();
        if (placed && into.picture_places.size() + 1 == into.points.size())
            into.picture_places.push_back({from_.texcoords[size_t(corner.texcoord_index) * 2],
                                           1 - from_.texcoords[size_t(corner.texcoord_index) * 2 + 1]});
        else
            into.picture_places.clear();
        return found->second;
    }

    const tinyobj::attrib_t& from_;
    Model& to_;
    int node_;
    std::map<int, size_t> part_of_; ///< by material
    std::map<Key, uint32_t> points_;
};

} // namespace

Result<Model> load_obj(const fs::path& path) {
    const auto text = read_file(path);
    if (!text) return tl::unexpected(text.error());
    Sifter sifter(*text);
    std::istringstream in(sifter.sifted());
    Model model;
    model.warnings = sifter.warnings();
    if (sifter.faces() == 0)
        return fail("model.empty", path.string(), "The file has no face that can be read.");
    BesideModel reader(path.parent_path(), model.warnings);
    tinyobj::attrib_t attributes;
    std::vector<tinyobj::shape_t> shapes;
    std::vector<tinyobj::material_t> materials;
    std::string warning, error;
    if (!tinyobj::LoadObj(&attributes, &shapes, &materials, &warning, &error, &in, &reader, false, false))
        return fail("model.damaged", path.string(), "The file could not be read as OBJ.");
    add_materials(materials, path.parent_path(), model);
    for (const tinyobj::shape_t& shape : shapes) {
        if (shape.mesh.indices.empty()) continue;
        model.nodes.push_back(shape.name.empty() ? path.stem().string() : shape.name);
        ShapeParts(attributes, model, int(model.nodes.size()) - 1).add_faces(shape.mesh);
    }
    model.scene_nodes = int(model.nodes.size());
    const ModelNumbers numbers = numbers_of(model);
    if (numbers.triangles == 0)
        return fail("model.empty", path.string(), "The file has no face that can be read.");
    if (numbers.triangles > k_most_model_triangles || numbers.points > k_most_model_points)
        return fail("model.large", path.string(), "The model has more than 12 million triangles.");
    return model;
}

} // namespace rubble::io
