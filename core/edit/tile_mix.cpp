#include "edit/tile_mix.h"

namespace rubble::edit {

namespace {

/// Evenly spread over 0 up to, without, 1: bits of a cell and a seed well mixed (finalizer of MurmurHash3,
/// Appleby 2011).
double chance(CellAt cell, uint32_t seed) {
    uint32_t bits =
        uint32_t(cell.column) * 0x9E3779B1u ^ (uint32_t(cell.row) * 0x85EBCA77u + seed * 0xC2B2AE3Du);
    bits ^= bits >> 16, bits *= 0x85EBCA6Bu;
    bits ^= bits >> 13, bits *= 0xC2B2AE35u;
    bits ^= bits >> 16;
    return bits / 4294967296.0;
}

} // namespace

Tile TileMix::at(CellAt cell, uint32_t seed) const {
    double all = 0;
    for (const Part& part : parts) all += part.weight;
    double left = chance(cell, seed) * all;
    Tile last;
    for (const Part& part : parts) {
        if (part.weight <= 0) continue;
        left -= part.weight;
        last = part.tile;
        if (left < 0) break;
    }
    return last;
}

TileChanges strewn(const TileMix& mix, std::span<const CellAt> cells, uint32_t seed) {
    TileChanges out;
    out.reserve(cells.size());
    for (const CellAt& cell : cells)
        if (const Tile tile = mix.at(cell, seed); !tile.empty()) out.push_back({cell, tile});
    return out;
}

} // namespace rubble::edit
