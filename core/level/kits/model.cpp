#include "level/kits/model.h"

#include <map>
#include <tuple>

#include "geometry/exact.h"

namespace rubble {

ModelNumbers numbers_of(const Model& model) {
    ModelNumbers out;
    for (const ModelPart& part : model.parts) {
        out.points += part.points.size(), out.triangles += part.triangles.size();
        for (const auto& t : part.triangles) {
            const Vec3 &a = part.points[t[0]], &b = part.points[t[1]], &c = part.points[t[2]];
            for (const Vec3& p : {a, b, c}) out.box.add(p);
            out.area_m2 += glm::length(glm::cross(b - a, c - a)) / 2;
        }
    }
    // About the middle of the box, so that large coordinates take nothing from the sum.
    const Vec3 middle = out.triangles ? (out.box.low + out.box.high) * 0.5 : Vec3(0);
    for (const ModelPart& part : model.parts)
        for (const auto& t : part.triangles)
            out.volume_m3 += glm::dot(part.points[t[0]] - middle,
                                      glm::cross(part.points[t[1]] - middle, part.points[t[2]] - middle)) /
                             6;
    return out;
}

std::vector<Vec3> edges_of(const Model& model) {
    constexpr double k_angle_cos = 0.94; // 20 degrees
    struct Edge {
        Vec3 a, b, normal;
        bool inner = false;
    };
    using Key = std::array<int64_t, 6>;
    std::map<Key, Edge> edges;
    for (const ModelPart& part : model.parts)
        for (const auto& t : part.triangles) {
            const Vec3 area =
                glm::cross(part.points[t[1]] - part.points[t[0]], part.points[t[2]] - part.points[t[0]]);
            const double length = glm::length(area);
            if (length < 1e-12) continue;
            for (size_t k = 0; k < 3; ++k) {
                const Vec3 p = part.points[t[k]], q = part.points[t[(k + 1) % 3]];
                const auto a = geometry::to_ticks(p), b = geometry::to_ticks(q);
                const bool first = std::tie(a.x, a.y, a.z) < std::tie(b.x, b.y, b.z);
                const Key key = first ? Key{a.x, a.y, a.z, b.x, b.y, b.z} : Key{b.x, b.y, b.z, a.x, a.y, a.z};
                const auto [found, fresh] = edges.try_emplace(key, Edge{p, q, area / length, false});
                if (!fresh)
                    found->second.inner |= glm::dot(found->second.normal, area / length) > k_angle_cos;
            }
        }
    std::vector<Vec3> out;
    for (const auto& [key, edge] : edges)
        if (!edge.inner) out.push_back(edge.a), out.push_back(edge.b);
    return out;
}

} // namespace rubble
