#pragma once

#include <functional>
#include <optional>

#include "edit/reshape.h"

namespace rubble::edit {

// What all reshaping has in common.

/// A mesh with points on whole micrometres and plane faces, where that is a closed body.
std::optional<FaceMesh> sound(FaceMesh mesh, const std::set<int>& moved = {});

/// Nothing changed.
Reshaped refused(const FaceMesh& mesh);

/// What `attempt` gives for all of what was asked, or for the largest part of it that it gives something for,
/// found by halving.
Reshaped largest(const FaceMesh& mesh, const std::function<std::optional<Reshaped>(double part)>& attempt);

} // namespace rubble::edit
