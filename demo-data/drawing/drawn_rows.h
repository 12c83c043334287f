#pragma once

#include <functional>
#include <string>
#include <vector>

#include "level/level.h"

namespace rubble::demo {

/// Calls `visit` with every character of a drawing and the cell in which it stands.
void for_each_letter(const std::vector<std::string>& rows, const std::function<void(CellAt, char)>& visit);
/// Tiles with their upper left corner at a place (to the right, up the screen).
TileLayer tiles_at(Frame frame, Vec2 corner, double cell_m, const TileSheet& sheet);
/// A layer of them.
Layer tile_layer(const std::string& id, const std::string& name, TileLayer tiles);
/// Lays a picture of several cells, whose tiles are numbered row by row.
void lay(TileGridMaker& maker, CellAt at, int first, int columns, int rows);
Item element(const std::string& id, const std::string& kind, const std::string& name, Vec3 at,
             double facing_deg = 0);

} // namespace rubble::demo
