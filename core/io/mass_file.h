#pragma once

#include "io/json_text.h"
#include "level/mass.h"

namespace rubble::io {

/// A mass out of `cell_m`, and rows of whole numbers: `cells`, full boxes [x, y, z, dx, dy, dz]; `slopes`,
/// boxes of cells cut by planes a x + b y + c z <= d, [x, y, z, dx, dy, dz, a, b, c, d, ...], that are behind
/// all of them; `folds`, behind any of them. What is wrong is said to the reader.
MassGrid read_mass(Reader& in);
/// Writes its cells and slopes.
void put_mass(const MassGrid& grid, Json& json);

} // namespace rubble::io
