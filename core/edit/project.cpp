#include "edit/project.h"

#include <algorithm>

namespace rubble::edit {

namespace {

template <class T> void put(std::vector<T>& list, T value) {
    for (T& old : list)
        if (old.id == value.id) {
            old = std::move(value);
            return;
        }
    list.push_back(std::move(value));
}

} // namespace

Project with_material(const Project& project, Material material) {
    Project out = project;
    put(out.materials, std::move(material));
    return out;
}

Project with_character(const Project& project, NamedCharacter character) {
    Project out = project;
    put(out.characters, std::move(character));
    return out;
}

MaterialId fresh_material_id(const Project& project) {
    for (int n = 1;; ++n) {
        const MaterialId id{"m" + std::to_string(n)};
        if (!find_material(project, id)) return id;
    }
}

Document with_level(const Document& document, size_t index, Level level) {
    Document out = document;
    if (index < out.levels.size()) out.levels[index].level = std::move(level);
    return out;
}

Document with_project(const Document& document, Project project) {
    Document out = document;
    const bool same_files = project.sheets == out.project->sheets && project.kits == out.project->kits &&
                            project.assemblies == out.project->assemblies &&
                            project.element_kinds == out.project->element_kinds &&
                            project.rules == out.project->rules;
    out.project = std::move(project);
    if (!same_files)
        for (OpenLevel& open : out.levels) {
            Level level = with_files_of(*out.project, *open.level);
            if (!(level.layers == open.level->layers && level.rules == open.level->rules))
                open.level = Shared<Level>(std::move(level));
        }
    return out;
}

} // namespace rubble::edit
