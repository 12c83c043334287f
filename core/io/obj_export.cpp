#include "io/obj_export.h"

#include <algorithm>
#include <sstream>

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

void put_triangles(std::ostream& out, const std::vector<std::array<uint32_t, 3>>& triangles, size_t first) {
    for (const auto& [a, b, c] : triangles)
        out << "f " << a + first << ' ' << b + first << ' ' << c + first << '\n';
}

} // namespace

Result<void> export_obj(const Project& project, const Level& level, const std::filesystem::path& path) {
    std::filesystem::path materials_path = path;
    materials_path.replace_extension(".mtl");
    std::ostringstream out, materials;
    out.precision(9);
    out << "# " << level.name << "\nmtllib " << one_word(materials_path.filename().string()) << '\n';
    size_t first = 1;
    for (const ExportPart& part : export_parts(level)) {
        if (!part.meshes.empty()) out << "o " << one_word(part.name) << '\n';
        for (const ExportMesh& mesh : part.meshes) {
            const Material* material = find_material(project, mesh.material);
            put_points(out, mesh.points);
            out << "usemtl " << (material ? one_word(material->id.value) : "bare") << '\n';
            put_triangles(out, mesh.triangles, first);
            first += mesh.points.size();
        }
        if (part.collision_triangles.empty()) continue;
        out << "o " << one_word(part.name) << "_collision\n";
        put_points(out, part.collision_points);
        put_triangles(out, part.collision_triangles, first);
        first += part.collision_points.size();
    }
    materials << "newmtl bare\nKd 0.74 0.71 0.66\n";
    for (const Material& material : project.materials)
        materials << "newmtl " << one_word(material.id.value) << "\nKd " << material.color[0] / 255.0 << ' '
                  << material.color[1] / 255.0 << ' ' << material.color[2] / 255.0 << '\n';
    if (auto written = write_file(materials_path, materials.str()); !written) return written;
    return write_file(path, out.str());
}

} // namespace rubble::io
