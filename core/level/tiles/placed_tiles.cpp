#include "level/tiles/placed_tiles.h"

#include <array>
#include <cmath>

#include "geometry/exact.h"
#include "level/item.h"

namespace rubble {

namespace {

/// Where the cells' right and up come to, in whole cells: a quarter turn, mirrored or not.
struct CellTurn {
    std::array<int, 2> right{1, 0}, up{0, 1};

    bool mirrors() const { return right[0] * up[1] - right[1] * up[0] < 0; }
    /// Quarter turns counter-clockwise, after mirroring left to right.
    int quarters() const {
        const int sign = mirrors() ? -1 : 1, x = right[0] * sign, y = right[1] * sign;
        return x > 0 ? 0 : y > 0 ? 1 : x < 0 ? 2 : 3;
    }
    Tile applied_to(Tile tile) const { return (mirrors() ? tile.flipped() : tile).turned(quarters()); }
    /// By the middle of the cell.
    CellAt applied_to(CellAt cell) const {
        const double x = cell.column + 0.5, y = -(cell.row + 0.5);
        return {int(std::floor(right[0] * x + up[0] * y)), int(std::floor(-(right[1] * x + up[1] * y)))};
    }
};

/// The nearest quarter turn of an image of the cells' axes; nothing where they are turned out of the plane.
std::optional<CellTurn> cell_turn(const Vec3& right, const Vec3& up, const FrameLayout& layout) {
    const auto flat_on = [&](const Vec3& v) { return Vec2(v[layout.right], v[layout.ahead]); };
    const Vec2 r = flat_on(right), u = flat_on(up);
    if (glm::length(r) < glm::length(right) / 2 || glm::length(u) < glm::length(up) / 2) return {};
    CellTurn turn;
    const auto sign = [](double v) { return v < 0 ? -1 : 1; };
    turn.right = std::abs(r.x) >= std::abs(r.y) ? std::array{sign(r.x), 0} : std::array{0, sign(r.y)};
    const double side = r.x * u.y - r.y * u.x < 0 ? -1 : 1;
    turn.up = {-turn.right[1] * int(side), turn.right[0] * int(side)};
    return turn;
}

} // namespace

const char* type_key(const PlacedTiles&) { return "tiles"; }
const char* id_prefix(const PlacedTiles&) { return "t"; }
std::string kind_word(const PlacedTiles&) { return "tiles"; }
std::string search_words(const PlacedTiles& block) { return "tiles cells " + block.tiles.sheet_file; }

std::string problem_of(const PlacedTiles& block, const PlacedTiles*) {
    for (int axis = 0; axis < 3; ++axis)
        if (!(std::abs(block.tiles.origin[axis]) <= geometry::farthest_m)) return "origin";
    return block.tiles.cell_m >= smallest_cell_m && block.tiles.cell_m <= largest_cell_m ? "" : "cell_m";
}

Box3 box_of(const PlacedTiles& block) { return box_of(block.tiles, block.plane(), block.tiles.grid.area()); }

std::optional<Placement> placement_of(const PlacedTiles& block) {
    return Placement{block.tiles.origin, 0, {}};
}

std::optional<Vec3> place_of_part(const PlacedTiles& block, const Vec3& part) {
    const Box3 box = box_of(block);
    return box.low + (box.high - box.low) * part;
}

std::optional<Vec3> part_at(const PlacedTiles& block, const Vec3& place) {
    const Box3 box = box_of(block);
    Vec3 out(0);
    for (int axis = 0; axis < 3; ++axis)
        if (box.high[axis] > box.low[axis])
            out[axis] = (place[axis] - box.low[axis]) / (box.high[axis] - box.low[axis]);
    return out;
}

PlacedTiles transformed(const PlacedTiles& block, const Transform& transform) {
    PlacedTiles out = block;
    const Vec3 origin = block.tiles.origin;
    out.tiles.origin = transform.applied_to(origin);
    out.tiles.cell_m *= transform.factor();
    const FrameLayout layout = layout_of(block.plane());
    const auto image = [&](int axis) {
        return transform.applied_to(origin + along(axis)) - out.tiles.origin;
    };
    const auto turn = cell_turn(image(layout.right), image(layout.ahead), layout);
    if (!turn || (turn->quarters() == 0 && !turn->mirrors())) return out;
    TileGridMaker maker;
    block.tiles.grid.for_each_tile(block.tiles.grid.area(), [&](CellAt at, Tile tile) {
        maker.put(turn->applied_to(at), turn->applied_to(tile));
    });
    out.tiles.grid = maker.finished();
    out.tiles = counted_anew(std::move(out.tiles), block.plane());
    return out;
}

const ItemList* members_of(const PlacedTiles&) { return nullptr; }
PlacedTiles with_members(const PlacedTiles& block, ItemList) { return block; }
void for_each_reference(PlacedTiles&, const std::function<void(ItemId&)>&) {}

} // namespace rubble
