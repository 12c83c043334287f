#include "io/model_file.h"

#include <algorithm>
#include <cctype>

namespace rubble::io {

namespace {

std::string ending_of(const std::filesystem::path& path) {
    std::string ending = path.extension().string();
    std::transform(ending.begin(), ending.end(), ending.begin(),
                   [](unsigned char c) { return std::tolower(c); });
    return ending;
}

} // namespace

bool is_model_file(const std::filesystem::path& path) {
    const std::string ending = ending_of(path);
    return ending == ".glb" || ending == ".gltf" || ending == ".obj";
}

Result<Model> load_model(const std::filesystem::path& path) {
    const std::string ending = ending_of(path);
    if (ending == ".obj") return load_obj(path);
    if (ending == ".glb" || ending == ".gltf") return load_gltf(path);
    return fail("model.ending", path.string(), "Models are read from files that end in .glb, .gltf or .obj.");
}

std::string picture_mime(const std::string& bytes) {
    if (bytes.starts_with("\x89PNG\r\n\x1a\n")) return "image/png";
    if (bytes.starts_with("\xff\xd8\xff")) return "image/jpeg";
    return {};
}

} // namespace rubble::io
