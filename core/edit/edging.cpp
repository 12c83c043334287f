#include "edit/edging.h"

#include <algorithm>
#include <array>
#include <bit>
#include <set>

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
    const auto is_solid = [&](CellAt at) {
        const CellAt under = cell_at(solid, frame, place_of(art, frame, at));
        return !collision_outline(solid.sheet.get(), solid.grid.at(under).number()).empty();
    };
    const Box3 box = box_of(solid, frame, solid.grid.area());
    const FrameLayout layout = layout_of(frame);
    Vec3 corner = box.low;
    corner[layout.ahead] = box.high[layout.ahead];
    Vec3 opposite = box.high;
    opposite[layout.ahead] = box.low[layout.ahead];
    const CellAt first = cell_at(art, frame, corner), last = cell_at(art, frame, opposite);
    TileGridMaker maker(art.grid);
    for (int row = first.row; row <= last.row; ++row)
        for (int column = first.column; column <= last.column; ++column) {
            const CellAt at{column, row};
            const Tile now = maker.at(at);
            if (now.by_hand() || (!now.empty() && !edging.holds(now.number()))) continue;
            if (is_solid(at))
                maker.put(at, Tile(tile_for(edging, around_by(at, is_solid))));
            else if (!now.empty())
                maker.put(at, Tile());
        }
    out.grid = maker.finished();
    return out;
}

} // namespace rubble::edit
