#pragma once

#include <algorithm>

#include "level/mass.h"

namespace rubble {

/// Calls `visit(x, y, column)` for every column of matter.
template <class F> void for_each_column(const MassGrid& grid, F visit) {
    constexpr int size = MassChunk::size;
    for (const auto& [key, chunk] : grid.chunks)
        for (int y = 0; y < size; ++y)
            for (int x = 0; x < size; ++x)
                if (const CellColumn& column = chunk->column(x, y); !column.empty())
                    visit(key[0] * size + x, key[1] * size + y, column);
}

/// A form with its planes put through `change`; nothing where one of them cannot be.
template <class F> std::optional<CellForm> with_planes(const CellForm& form, F change) {
    CellForm out{{}, form.either};
    for (const CellPlane& plane : form.planes) {
        const std::optional<CellPlane> changed = change(plane);
        if (!changed) return {};
        out.planes.push_back(*changed);
    }
    std::sort(out.planes.begin(), out.planes.end());
    return out;
}

} // namespace rubble
