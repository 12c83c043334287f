#pragma once

#include "io/json_text.h"
#include "level/brush_item.h"
#include "level/frame.h"

namespace rubble::io {

/// A brush from the keys of its item; what is wrong with them is told to the reader.
Brush read_brush(Reader& in, Frame frame);

/// The keys of a brush put after those that `json` has.
Json brush_json(const Brush& brush, Json json, Frame frame);

/// `turn_deg` as the frame's main view shows it, `turn_up_deg` about z where that is not it, or `rotation`.
/// @{
Placement read_turn(Reader& in, Placement place, Frame frame);
void put_turn(Json& json, const Placement& place, Frame frame);
/// @}

} // namespace rubble::io
