#pragma once

#include "level/document.h"

namespace rubble::edit {

/// Edits of what a project's levels share, and of which level a document holds.

/// A material more, or changed.
Project with_material(const Project& project, Material material);
/// A character more, or changed.
Project with_character(const Project& project, NamedCharacter character);
/// One that no material of the project has.
MaterialId fresh_material_id(const Project& project);

/// The document with one open level, or its project, replaced.
Document with_level(const Document& document, size_t index, Level level);
/// The same levels in another project.
Document with_project(const Document& document, Project project);

} // namespace rubble::edit
