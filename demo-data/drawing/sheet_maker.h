#pragma once

#include <functional>

#include "canvas.h"

namespace rubble::demo {

/// Draws a sheet tile by tile, in the order in which they are added.
class SheetMaker {
public:
    using Draw = std::function<void(Canvas&)>;

    /// `columns` and `rows` of cells of a size.
    SheetMaker(const std::string& name, int cell_px, int columns, int rows);

    /// One tile more, in the next cell; its number.
    int add(const std::string& name, const Draw& draw, TileCollision collision = TileCollision::none,
            std::vector<Vec2> outline = {}, TileActs acts = TileActs::nothing);
    /// A picture of several cells, beside the last one where there is room, else under all that is drawn; the
    /// number of its upper left tile, after which the others follow row by row.
    int add_large(const std::string& name, int columns, int rows, const Draw& draw);
    /// A ground: one tile for each case, drawn by what is around it.
    void add_ground(const std::string& name, bool corners,
                    const std::function<void(Canvas&, GroundAround)>& draw, TileCollision collision);

    TileSheet finished();

private:
    TileSheet sheet_;
    Picture picture_;
    int columns_, rows_;
    int next_ = 0;             ///< the next free cell, row by row
    int beside_ = 0, top_ = 0; ///< where a large picture would begin beside the last one
};

} // namespace rubble::demo
