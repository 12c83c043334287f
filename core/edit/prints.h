#pragma once

#include <map>
#include <string>

#include "level/dressing/material.h"
#include "level/level.h"

namespace rubble::edit {

/// The pictures that stand beside each other on one, by what is empty between them: see-through, or of the
/// colour of its corner. Those nearer than a few pixels are one; dust is none. From the top and then from the
/// left, called print_1, print_2 …
std::map<std::string, PrintRegion> prints_by_borders(const Picture& picture);
/// The cells of a grid; those in which nothing is are left out.
std::map<std::string, PrintRegion> prints_by_grid(const Picture& picture, int columns, int rows);
/// A region within a picture, at least a pixel large.
PrintRegion within(PrintRegion region, int width, int height);

} // namespace rubble::edit
