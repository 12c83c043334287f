#include "io/export_formats.h"

#include <array>

#include "io/gltf_export.h"
#include "io/obj_export.h"
#include "io/tile_export.h"

namespace rubble::io {

std::span<const ExportFormat> export_formats() {
    static constexpr std::array k_formats{
        ExportFormat{".glb", "glTF 2.0 in one file", export_glb},
        ExportFormat{".gltf", "glTF 2.0 as text", export_gltf},
        ExportFormat{".obj", "Wavefront OBJ with its materials beside it", export_obj},
        ExportFormat{".csv", "Rows of tiles, what collides, and elements", export_csv},
        ExportFormat{".png", "The layers of tiles as pictures", export_png},
        ExportFormat{".svg", "What collides, as a drawing", export_svg},
        ExportFormat{".json", "What collides, as outlines", export_outlines},
    };
    return k_formats;
}

std::string export_endings(const std::string& between) {
    std::string out;
    for (const ExportFormat& format : export_formats()) out += (out.empty() ? "" : between) + format.ending;
    return out;
}

Result<void> export_level(const Project& project, const Level& level, const std::filesystem::path& path) {
    for (const ExportFormat& format : export_formats())
        if (path.extension() == format.ending) return format.write(project, level, path);
    return fail("export.ending", path.string(),
                "Rubble exports to " + export_endings(", ") + ". Choose one of these endings.");
}

} // namespace rubble::io
