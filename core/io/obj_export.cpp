#include "io/obj_export.h"

#include <algorithm>
#include <optional>
#include <set>
#include <sstream>

#include "build/piece_matter.h"
#include "io/export_parts.h"
#include "io/text_file.h"

namespace rubble::io {

namespace {

/// OBJ names end at white space.
std::string one_word(std::string name) {
    std::replace_if(
        name.begin(), name.end(), [](unsigned char c) { return c <= ' '; }, '_');
    return name.empty() ? "unnamed" : name;
}

void put_points(std::ostream& out, const std::vector<Vec3>& points) {
    for (const Vec3& p : points) out << "v " << p.x << ' ' << p.z << ' ' << -p.y << '\n';
}

/// Points are counted from `first`, places on pictures, where there are any, from `first_place`.
void put_triangles(std::ostream& out, const std::vector<std::array<uint32_t, 3>>& triangles, size_t first,
                   std::optional<size_t> first_place = {}) {
    for (const auto& triangle : triangles) {
        out << 'f';
        for (const uint32_t corner : triangle) {
            out << ' ' << corner + first;
            if (first_place) out << '/' << corner + *first_place;
        }
        out << '\n';
    }
}

/// The pieces that stand in a level, each as an object of its own with its collision as another, and
/// materials of their models.
void put_pieces(const Level& level, std::ostream& out, std::ostream& materials, size_t first) {
    std::set<std::string> known;
    for_each_item(level, [&](const Item& item, const Layer&) {
        const PlacedPiece* placed = item.piece();
        if (!placed || !placed->piece || !placed->piece->body) return;
        const Model& model = placed->piece->body->model;
        const std::string name = one_word(item.name.empty() ? item.id.value : item.name);
        out << "o " << name << '\n';
        for (const ModelPart& part : model.parts) {
            std::vector<Vec3> points;
            for (const Vec3& p : part.points) points.push_back(to_level(*placed, p));
            put_points(out, points);
            std::string material = "bare";
            if (part.material >= 0) {
                const ModelMaterial& own = model.materials[size_t(part.material)];
                material = one_word(own.of_project ? own.name : placed->piece_id + "_" + own.name);
                if (!own.of_project && known.insert(material).second)
                    materials << "newmtl " << material << "\nKd " << own.color[0] << ' ' << own.color[1]
                              << ' ' << own.color[2] << '\n';
            }
            out << "usemtl " << material << '\n';
            auto triangles = part.triangles;
            if (placed->mirrored)
                for (auto& t : triangles) std::swap(t[1], t[2]);
            put_triangles(out, triangles, first);
            first += points.size();
        }
    });
    for (const auto& piece : build::PieceMatterBuilder().build(level)) {
        if (piece->cells->empty()) continue;
        out << "o " << one_word(piece->item.value) << "_collision\n";
        build::for_each_matter(*piece, [&](const geometry::ConvexCell& cell) {
            for (const auto& face : cell.faces) {
                put_points(out, {face.loop.begin(), face.loop.end()});
                for (size_t i = 1; i + 1 < face.loop.size(); ++i)
                    out << "f " << first << ' ' << first + i << ' ' << first + i + 1 << '\n';
                first += face.loop.size();
            }
        });
    }
}

} // namespace

Result<void> export_obj(const Project& project, const Level& level, const std::filesystem::path& path) {
    std::filesystem::path materials_path = path;
    materials_path.replace_extension(".mtl");
    std::ostringstream out, materials;
    out.precision(9);
    out << "# " << level.name << "\nmtllib " << one_word(materials_path.filename().string()) << '\n';
    size_t first = 1, first_place = 1;
    for (const ExportPart& part : export_parts(project, level)) {
        if (!part.meshes.empty()) out << "o " << one_word(part.name) << '\n';
        for (const ExportMesh& mesh : part.meshes) {
            const Material* material = find_material(project, mesh.material);
            put_points(out, mesh.points);
            out << "usemtl " << (material ? one_word(material->id.value) : "bare") << '\n';
            for (const Vec2& place : mesh.picture_places)
                out << "vt " << place.x << ' ' << 1 - place.y << '\n';
            const bool places = !mesh.picture_places.empty();
            put_triangles(out, mesh.triangles, first, places ? std::optional(first_place) : std::nullopt);
            first += mesh.points.size(), first_place += mesh.picture_places.size();
        }
        if (part.collision_triangles.empty()) continue;
        out << "o " << one_word(part.name) << "_collision\n";
        put_points(out, part.collision_points);
        put_triangles(out, part.collision_triangles, first);
        first += part.collision_points.size();
    }
    put_pieces(level, out, materials, first);
    materials << "newmtl bare\nKd 0.74 0.71 0.66\n";
    for (const Material& material : project.materials) {
        materials << "newmtl " << one_word(material.id.value) << "\nKd ";
        if (const PictureBytes* picture = material.picture()) {
            const std::string name =
                one_word(material.id.value) + (picture->mime == "image/png" ? ".png" : ".jpg");
            if (auto written = write_file(path.parent_path() / name, picture->bytes); !written)
                return written;
            materials << "1 1 1\nmap_Kd " << name << '\n';
        } else {
            materials << material.color[0] / 255.0 << ' ' << material.color[1] / 255.0 << ' '
                      << material.color[2] / 255.0 << '\n';
        }
    }
    if (auto written = write_file(materials_path, materials.str()); !written) return written;
    return write_file(path, out.str());
}

} // namespace rubble::io
