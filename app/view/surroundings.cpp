#include "view/surroundings.h"

#include <algorithm>

#include "level/brush_shape.h"

namespace rubble::app {

namespace {

/// So many lines are drawn.
constexpr size_t k_most_edges = 30'000;

/// The edges of an item, in the level's axes.
void add_edges(const Item& item, std::vector<Vec3>& out) {
    if (const PlacedPiece* placed = item.piece(); placed && placed->piece && placed->piece->body) {
        for (const Vec3& end : placed->piece->body->edges) out.push_back(to_level(*placed, end));
        return;
    }
    const Brush* brush = item.brush();
    if (!brush || brush->effect != Effect::fill || brush->shape == Shape::mass) return;
    const BrushBody body = body_of(*brush);
    for (const auto& face : body.faces)
        for (size_t i = 0; i < face.loop.size(); ++i) {
            const int a = face.loop[i], b = face.loop[(i + 1) % face.loop.size()];
            if (a > b) continue;
            out.push_back(geometry::to_metres(body.points[size_t(a)]));
            out.push_back(geometry::to_metres(body.points[size_t(b)]));
        }
}

} // namespace

std::vector<Vec3> lines_around(const Level& level, const ItemId& place) {
    const Item* at = find_item(level, place);
    const auto placement = at ? placement_of(*at) : std::nullopt;
    if (!placement) return {};
    const bool mirrored =
        (at->assembly() && at->assembly()->mirrored) || (at->piece() && at->piece()->mirrored);
    const Vec3 middle = box_of(*at).middle();
    const std::string within = place.value + "/";
    std::vector<std::pair<double, const Item*>> near;
    for_each_item(level, [&](const Item& item, const Layer& layer) {
        if (layer.hidden || item.hidden || item.id == place || item.id.value.starts_with(within)) return;
        if (!item.brush() && !item.piece()) return;
        near.emplace_back(glm::length(box_of(item).middle() - middle), &item);
    });
    std::sort(near.begin(), near.end());
    std::vector<Vec3> out;
    for (const auto& [distance, item] : near) {
        if (out.size() >= 2 * k_most_edges) break;
        add_edges(*item, out);
    }
    for (Vec3& p : out) {
        p = placement->to_own(p);
        if (mirrored) p.x = -p.x;
    }
    return out;
}

} // namespace rubble::app
