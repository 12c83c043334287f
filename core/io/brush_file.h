#pragma once

#include "io/json_text.h"
#include "level/brush_item.h"

namespace rubble::io {

/// A brush from the keys of its item; what is wrong with them is told to the reader.
Brush read_brush(Reader& in);

/// The keys of a brush put after those that `json` has.
Json brush_json(const Brush& brush, Json json);

} // namespace rubble::io
