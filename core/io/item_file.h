#pragma once

#include "io/json_text.h"
#include "level/frame.h"
#include "level/item.h"

namespace rubble::io {

/// One item, as it stands in a file of a level of that frame; the clipboard uses the same form. `turn_deg` of
/// what has a placement is a turn as the frame's main view shows it.
Json to_json(const Item& item, Frame frame = Frame::space);
/// A list of items, of a Space level.
Json items_json(const ItemList& items);
/// Reads an item of any kind.
Result<Item> item_from_json(const Json& json, const std::string& place, const std::string& path,
                            Frame frame = Frame::space);

} // namespace rubble::io
