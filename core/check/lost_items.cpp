#include "check/lost_items.h"

#include <algorithm>
#include <map>

#include "level/order.h"

namespace rubble::check {

namespace {

bool adds_nothing(const build::BrushSolid& brush) {
    return std::all_of(brush.parts.begin(), brush.parts.end(),
                       [](const auto& part) { return part->pieces.empty(); });
}

/// Whether a place lies deeper in matter than rounding.
bool is_in_matter(const build::Solid& solid, const Vec3& at) {
    constexpr double k_deep_m = 0.01;
    bool inside = false;
    for (size_t i = 0; i < solid.brushes.size() && !inside; ++i) {
        if (!solid.brushes[i]->box.touches({at, at})) continue;
        for_each_matter(*solid.brushes[i], [&](const geometry::ConvexCell& cell) {
            inside |= !cell.empty() &&
                      std::all_of(cell.faces.begin(), cell.faces.end(),
                                  [&](const auto& face) { return face.plane.distance(at) < -k_deep_m; });
        });
    }
    return inside;
}

/// A distance from the middle beyond which an item is far from all others: several times that of four in
/// five.
struct Spread {
    Vec3 middle{0};
    double far_m = 1e30;

    explicit Spread(const std::vector<Vec3>& places) {
        if (places.size() < 4) return;
        for (int axis = 0; axis < 3; ++axis) {
            std::vector<double> along;
            for (const Vec3& p : places) along.push_back(p[axis]);
            std::nth_element(along.begin(), along.begin() + long(along.size() / 2), along.end());
            middle[axis] = along[along.size() / 2];
        }
        std::vector<double> distances;
        for (const Vec3& p : places) distances.push_back(glm::length(p - middle));
        const size_t most = (distances.size() - 1) * 4 / 5;
        std::nth_element(distances.begin(), distances.begin() + long(most), distances.end());
        constexpr double k_times = 4, k_least_m = 50;
        far_m = std::max(k_times * distances[most], k_least_m);
    }
};

} // namespace

std::vector<LostItem> lost_items(const Level& level, const build::Solid& solid) {
    std::map<ItemId, const build::BrushSolid*> solids;
    for (size_t i = 0; i < solid.brushes.size(); ++i) solids[solid.brushes[i]->item] = solid.brushes[i].get();
    std::vector<Vec3> places;
    for_each_item(level, [&](const Item& item, const Layer&) {
        if (!item.group()) places.push_back(box_of(item).middle());
    });
    const Spread spread(places);
    std::vector<LostItem> out;
    for_each_item(level, [&](const Item& item, const Layer&) {
        if (item.group()) return;
        const auto own = solids.find(item.id);
        if (glm::length(box_of(item).middle() - spread.middle) > spread.far_m)
            out.push_back({item.id, Lost::far_away});
        else if (item.brush() && own != solids.end() && adds_nothing(*own->second))
            out.push_back(
                {item.id, item.brush()->effect == Effect::cut ? Lost::cuts_nothing : Lost::inside_matter});
        else if (item.element() && is_in_matter(solid, item.element()->at + Vec3(0, 0, 0.1)))
            out.push_back({item.id, Lost::inside_matter});
    });
    return out;
}

} // namespace rubble::check
