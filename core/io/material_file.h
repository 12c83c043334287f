#pragma once

#include <filesystem>

#include "io/format.h"
#include "level/dressing/lay.h"
#include "level/dressing/material.h"

namespace rubble::io {

/// Materials as they stand in a project's file. @{
Material read_material(Reader& in);
Json material_json(const Material& material);
/// @}

/// How a picture lies on a face, as it stands in a level's file. @{
Look read_look(Reader& in);
Json look_json(const Look& look);
/// @}

/// A picture from a file, as it is. Errors: not there, or neither PNG nor JPEG.
Result<PictureBytes> load_picture_bytes(const std::filesystem::path& path);

/// Reads the pictures that a material names; what cannot be read is a remark, and the material is without.
void read_pictures(Material& material, const std::filesystem::path& folder, std::vector<Error>& remarks);
/// Writes those pictures of a material that are not in the folder yet.
Result<void> save_pictures(const Material& material, const std::filesystem::path& folder);

} // namespace rubble::io
