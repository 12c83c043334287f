#include "edit/dimensions.h"

#include <algorithm>

namespace rubble::edit {

Level with_dimension(const Level& level, const DimensionEnd& from, const DimensionEnd& to) {
    Level out = level;
    for (int n = 1;; ++n) {
        const DimensionId id{"d" + std::to_string(n)};
        const auto has_id = [&](const Dimension& one) { return one.id == id; };
        if (std::any_of(out.dimensions.begin(), out.dimensions.end(), has_id)) continue;
        out.dimensions.push_back({id, from, to});
        return out;
    }
}

Level without_dimension(const Level& level, const DimensionId& id) {
    Level out = level;
    std::erase_if(out.dimensions, [&](const Dimension& one) { return one.id == id; });
    return out;
}

} // namespace rubble::edit
