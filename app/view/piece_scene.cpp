#include "view/piece_scene.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <unordered_set>

#include "level/item_search.h"

namespace rubble::app {

namespace {

/// The items that are hidden, or lie in what is hidden.
void collect_hidden(const ItemList& items, bool hidden, std::unordered_set<ItemId>& out) {
    for (const ItemPtr& item : items) {
        const bool own = hidden || item->hidden;
        if (item->piece() && own) out.insert(item->id);
        if (const ItemList* members = members_of(*item)) collect_hidden(*members, own, out);
    }
}

/// Where a ray enters a box; nothing where it goes past.
std::optional<double> entry_of(const Ray& ray, const Box3& box) {
    double enters = 0, leaves = 1e30;
    for (int axis = 0; axis < 3; ++axis) {
        const double inverse = 1 / ray.direction[axis];
        double a = (box.low[axis] - ray.from[axis]) * inverse,
               b = (box.high[axis] - ray.from[axis]) * inverse;
        if (a > b) std::swap(a, b);
        if (!(a <= b)) continue; // along a side
        enters = std::max(enters, a), leaves = std::min(leaves, b);
    }
    return enters <= leaves ? std::optional(enters) : std::nullopt;
}

/// How far along a ray a triangle is met (Möller and Trumbore, "Fast, Minimum Storage Ray/Triangle
/// Intersection", 1997).
std::optional<double> met_at(const Vec3& from, const Vec3& way, const Vec3& a, const Vec3& b, const Vec3& c) {
    const Vec3 ab = b - a, ac = c - a, p = glm::cross(way, ac);
    const double det = glm::dot(ab, p);
    if (std::abs(det) < 1e-14) return {};
    const Vec3 s = from - a;
    const double u = glm::dot(s, p) / det;
    if (u < 0 || u > 1) return {};
    const Vec3 q = glm::cross(s, ab);
    const double v = glm::dot(way, q) / det;
    if (v < 0 || u + v > 1) return {};
    const double t = glm::dot(ac, q) / det;
    return t > 0 ? std::optional(t) : std::nullopt;
}

/// The stand-in of what could not be read.
const Box3 k_stand_in{Vec3(-0.5, -0.5, 0), Vec3(0.5, 0.5, 1)};

} // namespace

glm::mat4 matrix_of(const PlacedPiece& placed) {
    const Vec3 x = direction_in_level(placed, {1, 0, 0}), y = direction_in_level(placed, {0, 1, 0}),
               z = direction_in_level(placed, {0, 0, 1});
    const auto sized = float(placed.sized);
    return glm::mat4(glm::vec4(glm::vec3(x) * sized, 0), glm::vec4(glm::vec3(y) * sized, 0),
                     glm::vec4(glm::vec3(z) * sized, 0), glm::vec4(glm::vec3(placed.place.at), 1));
}

PieceScene piece_scene(const Level& level, const build::Solid& solid) {
    PieceScene out;
    if (solid.pieces.empty()) return out;
    std::unordered_set<ItemId> hidden;
    for (const auto& layer : level.layers) collect_hidden(layer->items, is_hidden(level, *layer), hidden);
    std::map<const Piece*, size_t> kinds;
    for (const auto& matter : solid.pieces) {
        if (hidden.contains(matter->item)) continue;
        const PlacedPiece& placed = matter->placed;
        const auto [kind, fresh] = kinds.try_emplace(placed.piece.get(), out.kinds.size());
        if (fresh) out.kinds.push_back({placed.piece, {}});
        out.kinds[kind->second].matrices.push_back(matrix_of(placed));
        out.places.push_back({matter->item, placed, box_of(placed)});
    }
    return out;
}

std::optional<Hit> pick(const PieceScene& scene, const Ray& ray, double cut_z) {
    std::vector<std::pair<double, const PieceScene::Place*>> met;
    for (const PieceScene::Place& place : scene.places)
        if (const auto enters = entry_of(ray, place.box)) met.emplace_back(*enters, &place);
    std::sort(met.begin(), met.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    std::optional<Hit> best;
    for (const auto& [enters, place] : met) {
        if (best && best->along < enters) break;
        const PlacedPiece& placed = place->placed;
        const Vec3 from = to_own(placed, ray.from), way = to_own(placed, ray.from + ray.direction) - from;
        const auto meet = [&](const Vec3& a, const Vec3& b, const Vec3& c) {
            const auto along = met_at(from, way, a, b, c);
            if (!along || (best && *along >= best->along)) return;
            const Vec3 at = ray.at(*along);
            if (at.z > cut_z) return;
            Vec3 normal = direction_in_level(placed, glm::normalize(glm::cross(b - a, c - a)));
            if (glm::dot(normal, ray.direction) > 0) normal = -normal;
            best = Hit{*along, at, normal, -1, BoxSide::top, place->item};
        };
        if (placed.piece && placed.piece->body) {
            for (const ModelPart& part : placed.piece->body->model.parts)
                for (const auto& t : part.triangles)
                    meet(part.points[t[0]], part.points[t[1]], part.points[t[2]]);
            continue;
        }
        const Box3 box = placed.piece ? own_box(*placed.piece) : k_stand_in;
        const auto corner = [&](int i) {
            return Vec3((i & 1 ? box.high : box.low).x, (i & 2 ? box.high : box.low).y,
                        (i & 4 ? box.high : box.low).z);
        };
        for (const auto& [a, b, c, d] :
             {std::array{0, 1, 3, 2}, {4, 5, 7, 6}, {0, 1, 5, 4}, {2, 3, 7, 6}, {0, 2, 6, 4}, {1, 3, 7, 5}})
            meet(corner(a), corner(b), corner(c)), meet(corner(a), corner(c), corner(d));
    }
    return best;
}

} // namespace rubble::app
