#include "edit/underlays.h"

#include <algorithm>

namespace rubble::edit {

Level with_underlay(const Level& level, Underlay underlay) {
    Level out = level;
    const auto find = [&](const UnderlayId& id) {
        return std::find_if(out.underlays.begin(), out.underlays.end(),
                            [&](const Underlay& one) { return one.id == id; });
    };
    if (!underlay.id.empty()) {
        const auto known = find(underlay.id);
        known != out.underlays.end() ? * known = std::move(underlay)
                                     : out.underlays.emplace_back(std::move(underlay));
        return out;
    }
    for (int n = 1; underlay.id.empty(); ++n)
        if (const UnderlayId id{"p" + std::to_string(n)}; find(id) == out.underlays.end()) underlay.id = id;
    out.underlays.push_back(std::move(underlay));
    return out;
}

Level without_underlay(const Level& level, const UnderlayId& id) {
    Level out = level;
    std::erase_if(out.underlays, [&](const Underlay& one) { return one.id == id; });
    return out;
}

Underlay scaled_between(const Underlay& underlay, const Vec3& a, const Vec3& b, double distance_m) {
    Underlay out = underlay;
    const double now = glm::length(b - a);
    if (now < 1e-6 || !(distance_m > 0)) return out;
    const double width = underlay.width_m * distance_m / now;
    if (width < narrowest_underlay_m || width > widest_underlay_m) return out;
    out.width_m = width;
    out.at = a + (underlay.at - a) * (distance_m / now);
    return out;
}

} // namespace rubble::edit
