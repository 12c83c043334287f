#pragma once

#include <filesystem>

#include "base/result.h"
#include "level/kits/model.h"

namespace rubble::io {

/// Most points and triangles of a model, each use of a mesh counted.
inline constexpr size_t k_most_model_points = 6'000'000, k_most_model_triangles = 12'000'000;

/// Reads a model by the ending of its name: .glb, .gltf, .obj. What it names beside it (buffers, materials,
/// pictures) is read too; what is missing of pictures and materials is a warning in the model. Errors say in
/// one sentence why the file is refused.
Result<Model> load_model(const std::filesystem::path& path);

/// Whether a file's ending is that of a model.
bool is_model_file(const std::filesystem::path& path);

/// glTF 2.0, as text or binary: https://registry.khronos.org/glTF/specs/2.0/glTF-2.0.html
Result<Model> load_gltf(const std::filesystem::path& path);
/// Wavefront OBJ with its MTL.
Result<Model> load_obj(const std::filesystem::path& path);

/// The type of a picture by its first bytes: "image/png", "image/jpeg"; empty for others.
std::string picture_mime(const std::string& bytes);

} // namespace rubble::io
