#include "edit/edging.h"

#include <algorithm>
#include <array>
#include <bit>
#include <set>

#include "edit/tiles.h"

namespace rubble::edit {

namespace {

using Around = GroundAround;

/// The cells around one, with their bits; rows count downwards.
constexpr std::array<std::pair<CellAt, Around::Neighbour>, 8> k_around{{{{1, 0}, Around::right},
                                                                        {{1, -1}, Around::upper_right},
                                                                        {{0, -1}, Around::above},
                                                                        {{-1, -1}, Around::upper_left},
                                                                        {{-1, 0}, Around::left},
                                                                        {{-1, 1}, Around::lower_left},
                                                                        {{0, 1}, Around::below},
                                                                        {{1, 1}, Around::lower_right}}};
constexpr uint8_t k_sides = Around::right | Around::above | Around::left | Around::below;

CellAt moved(CellAt cell, CellAt by) { return {cell.column + by.column, cell.row + by.row}; }

/// Whether a set tells corners apart.
bool knows_corners(const Edging& edging) {
    return std::any_of(edging.tiles.begin(), edging.tiles.end(),
                       [](const auto& one) { return one.first != one.first.without_corners(); });
}

template <class Holds> Around around_by(CellAt cell, Holds holds) {
    uint8_t bits = 0;
    for (const auto& [by, bit] : k_around)
        if (holds(moved(cell, by))) bits |= bit;
    return Around(bits);
}

/// Gives the cells and those beside them the tiles that the ground wants.
void edge(TileGridMaker& maker, const Edging& edging, const std::set<CellAt>& cells, bool released) {
    // What belongs to the ground is told by all its tiles; a set of them spares looking through it.
    std::set<int> numbers;
    for (const auto& [around, number] : edging.tiles) numbers.insert(number);
    const auto holds = [&](CellAt at) { return numbers.contains(maker.at(at).number()); };
    for (const CellAt& cell : cells) {
        const Tile tile = maker.at(cell);
        if (!numbers.contains(tile.number()) || (tile.by_hand() && !released)) continue;
        maker.put(cell, Tile(tile_for(edging, around_by(cell, holds))));
    }
}

std::set<CellAt> with_neighbours(std::span<const CellAt> cells) {
    std::set<CellAt> out;
    for (const CellAt& cell : cells) {
        out.insert(cell);
        for (const auto& [by, bit] : k_around) out.insert(moved(cell, by));
    }
    return out;
}

/// What of a cell is solid, as 8 x 8 places of it, and how: cells that are alike can stand for each other.
struct CellShape {
    uint64_t places = 0;
    bool one_way = false, deadly = false;

    bool whole() const { return places == ~uint64_t(0) && is_ground(); }
    bool is_ground() const { return places != 0 && !one_way && !deadly; }
    bool covers_most() const { return std::popcount(places) >= 32; }
};
constexpr int k_places = 8;

/// The shape of a cell, of which `is_in` says for every place in it (0 to 1) whether it is solid. The places
/// lie a little beside the middles of an even grid, where slopes pass.
template <class IsIn> uint64_t places_in(IsIn is_in) {
    uint64_t out = 0;
    for (int i = 0; i < k_places * k_places; ++i)
        if (is_in(Vec2((i % k_places + 0.57) / k_places, (i / k_places + 0.46) / k_places)))
            out |= uint64_t(1) << i;
    return out;
}

/// How a tile of a sheet collides, without where.
CellShape way_of(const TileSheet* sheet, int number) {
    const SheetTile* tile = sheet ? sheet->tile(number) : nullptr;
    if (!tile) return {};
    return {0, tile->collision == TileCollision::one_way, tile->acts == TileActs::deadly};
}

/// What of an art layer's cells another layer makes solid.
class MatterUnder {
public:
    MatterUnder(const TileLayer& art, const TileLayer& solid, Frame frame)
        : art_(art),
          solid_(solid),
          frame_(frame) {}

    /// The art's cells over all of the other layer.
    TileBox cells() const {
        const Box3 box = box_of(solid_, frame_, solid_.grid.area());
        const int ahead = layout_of(frame_).ahead, right = layout_of(frame_).right;
        // From the middles of the outermost places, so that no cell is taken for a rim that it only touches.
        const double inset = std::min(art_.cell_m, solid_.cell_m) / (2 * k_places);
        Vec3 corner = box.low, opposite = box.high;
        corner[right] += inset, opposite[right] -= inset;
        corner[ahead] = box.high[ahead] - inset, opposite[ahead] = box.low[ahead] + inset;
        return box_between(cell_at(art_, frame_, corner), cell_at(art_, frame_, opposite));
    }

    CellShape shape(CellAt at) const {
        // Most cells lie in one cell of the other layer that is empty or full.
        const double near = 0.5 / k_places, far = 1 - near;
        const CellAt first = under(at, {near, near}), last = under(at, {far, far});
        const Tile tile = solid_.grid.at(first);
        CellShape shape = way_of(solid_.sheet.get(), tile.number());
        if (first == last && tile.empty()) return {};
        if (first == last && is_full(tile)) return {~uint64_t(0), shape.one_way, shape.deadly};
        shape.places = places_in([&](Vec2 in_cell) {
            const CellAt cell = under(at, in_cell);
            const Tile there = solid_.grid.at(cell);
            const CellShape way = way_of(solid_.sheet.get(), there.number());
            if (there.empty()) return false;
            shape.one_way |= way.one_way, shape.deadly |= way.deadly;
            return in_outline(outline_of(there), local(cell, at, in_cell));
        });
        return shape;
    }

private:
    CellAt under(CellAt at, Vec2 in_cell) const {
        return cell_at(solid_, frame_, place_of(art_, frame_, at, in_cell));
    }
    bool is_full(const Tile& tile) const {
        const SheetTile* known = solid_.sheet ? solid_.sheet->tile(tile.number()) : nullptr;
        return !known || known->collision == TileCollision::full;
    }
    /// Where a place of an art cell lies in a cell of the other layer.
    Vec2 local(CellAt cell, CellAt at, Vec2 in_cell) const {
        const Vec3 from = place_of(solid_, frame_, cell, Vec2(0)), to = place_of(art_, frame_, at, in_cell);
        const FrameLayout layout = layout_of(frame_);
        return Vec2(to[layout.right] - from[layout.right], to[layout.ahead] - from[layout.ahead]) /
               solid_.cell_m;
    }
    std::vector<Vec2> outline_of(const Tile& tile) const {
        std::vector<Vec2> outline = collision_outline(solid_.sheet.get(), tile.number());
        for (Vec2& p : outline) p = placed(tile, p);
        return outline;
    }

    const TileLayer& art_;
    const TileLayer& solid_;
    Frame frame_;
};

/// The tiles of a sheet that collide in a part of their cell, or otherwise than plain ground.
class AlikeTiles {
public:
    AlikeTiles(const TileSheet* sheet, const Edging& edging) {
        if (!sheet) return;
        for (const auto& [number, known] : sheet->tiles) {
            const std::vector<Vec2> outline = collision_outline(sheet, number);
            if (outline.empty() || edging.holds(number)) continue;
            for (const bool mirrored : {false, true}) {
                CellShape shape = way_of(sheet, number);
                shape.places =
                    places_in([&](Vec2 p) { return in_outline(outline, mirrored ? Vec2(1 - p.x, p.y) : p); });
                if (!shape.whole()) shapes_.push_back({Tile(number, mirrored), shape});
            }
        }
    }
    bool has(const Tile& tile) const {
        return std::any_of(shapes_.begin(), shapes_.end(),
                           [&](const auto& one) { return one.first.number() == tile.number(); });
    }
    /// The tile that collides as a cell does but for a few places; empty where there is none.
    Tile tile_for(const CellShape& shape) const {
        constexpr int k_few = 6;
        int least = k_few + 1;
        Tile best;
        for (const auto& [tile, known] : shapes_) {
            const int apart = std::popcount(known.places ^ shape.places);
            if (known.one_way != shape.one_way || known.deadly != shape.deadly || apart >= least) continue;
            least = apart, best = tile;
        }
        return shape.places ? best : Tile();
    }

private:
    std::vector<std::pair<Tile, CellShape>> shapes_;
};

} // namespace

std::vector<GroundAround> edging_cases(bool corners) {
    std::set<Around> cases;
    for (int bits = 0; bits < 256; ++bits) {
        const Around around{uint8_t(bits)};
        cases.insert(corners ? around : around.without_corners());
    }
    std::vector<Around> out(cases.begin(), cases.end());
    // The filling first, then what has fewer of its sides.
    std::stable_sort(out.begin(), out.end(),
                     [](Around a, Around b) { return std::popcount(a.bits()) > std::popcount(b.bits()); });
    return out;
}

std::vector<GroundAround> missing_cases(const Edging& edging) {
    std::vector<Around> out;
    for (const Around& one : edging_cases(knows_corners(edging)))
        if (!edging.tiles.contains(one)) out.push_back(one);
    return out;
}

int tile_for(const Edging& edging, GroundAround around) {
    if (const auto exact = edging.tiles.find(around); exact != edging.tiles.end()) return exact->second;
    int best = -1, least = 1000;
    for (const auto& [known, number] : edging.tiles) {
        const uint8_t differs = known.bits() ^ around.bits();
        const int apart =
            10 * std::popcount(uint8_t(differs & k_sides)) + std::popcount(uint8_t(differs & ~k_sides));
        if (apart < least) least = apart, best = number;
    }
    return best;
}

GroundAround around_cell(const TileGrid& grid, const Edging& edging, CellAt cell) {
    return around_by(cell, [&](CellAt at) { return edging.holds(grid.at(at).number()); });
}

TileGrid with_ground(const TileGrid& grid, const Edging& edging, std::span<const CellAt> cells, bool ground) {
    if (edging.tiles.empty()) return grid;
    TileGridMaker maker(grid);
    const int filling = tile_for(edging, Around(255));
    for (const CellAt& cell : cells) {
        const Tile now = maker.at(cell);
        if (ground ? !edging.holds(now.number()) : edging.holds(now.number()))
            maker.put(cell, ground ? Tile(filling) : Tile());
    }
    edge(maker, edging, with_neighbours(cells), false);
    return maker.finished();
}

TileGrid edged_anew(const TileGrid& grid, const Edging& edging, bool released) {
    std::set<CellAt> all;
    grid.for_each_tile(grid.area(), [&](CellAt at, Tile tile) {
        if (edging.holds(tile.number())) all.insert(at);
    });
    TileGridMaker maker(grid);
    edge(maker, edging, all, released);
    return maker.finished();
}

TileLayer clothed(const TileLayer& art, const TileLayer& solid, Frame frame, const Edging& edging) {
    TileLayer out = art;
    if (edging.tiles.empty() || solid.grid.area().empty()) return out;
    const MatterUnder under(art, solid, frame);
    const AlikeTiles alike(art.sheet.get(), edging);
    // A slope is of the ground: what lies under it has no rim there.
    const auto is_ground = [&](CellAt at) { return under.shape(at).is_ground(); };
    TileGridMaker maker(art.grid);
    const TileBox box = under.cells();
    for (int row = box.low.row; row < box.high.row; ++row)
        for (int column = box.low.column; column < box.high.column; ++column) {
            const CellAt at{column, row};
            const Tile now = maker.at(at);
            if (now.by_hand() || (!now.empty() && !edging.holds(now.number()) && !alike.has(now))) continue;
            const CellShape shape = under.shape(at);
            Tile tile = shape.whole() ? Tile() : alike.tile_for(shape);
            if (tile.empty() && shape.is_ground() && shape.covers_most())
                tile = Tile(tile_for(edging, around_by(at, is_ground)));
            if (tile != now) maker.put(at, tile);
        }
    out.grid = maker.finished();
    return out;
}

} // namespace rubble::edit
