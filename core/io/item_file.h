#pragma once

#include "io/json_text.h"
#include "level/item.h"

namespace rubble::io {

/// One item, as it stands in a file; the clipboard uses the same form.
Json to_json(const Item& item);
/// Reads an item of any kind.
Result<Item> item_from_json(const Json& json, const std::string& place, const std::string& path);

} // namespace rubble::io
