#include "view/scene_mesh.h"

namespace rubble::app {

namespace {

void collect_hidden(const std::vector<ItemPtr>& items, bool hidden, std::vector<bool>& out) {
    for (const ItemPtr& item : items) {
        if (item->brush()) out.push_back(hidden || item->hidden);
        if (const Group* group = item->group()) collect_hidden(group->items, hidden || item->hidden, out);
    }
}

} // namespace

std::vector<bool> hidden_brushes(const Level& level) {
    std::vector<bool> out;
    for (const auto& layer : level.layers) collect_hidden(layer->items, layer->hidden, out);
    return out;
}

SceneMesh scene_mesh(const Project& project, const build::Surface& surface, const std::vector<bool>& hidden) {
    SceneMesh mesh;
    for_each_face(surface, [&](int brush, const build::SurfacePart& part, const build::SurfaceFace& face) {
        if (hidden[size_t(brush)]) return;
        const Material* material = find_material(project, face.material);
        const std::array<uint8_t, 3> rgb =
            material ? material->color : std::array<uint8_t, 3>{0xC6, 0xBF, 0xB2};
        for (const auto& triangle : triangles_of(part, face))
            for (int index : triangle) {
                const Vec3 p = part.point_m(index);
                SceneMesh::Vertex v{};
                for (int axis = 0; axis < 3; ++axis) {
                    v.at[axis] = float(p[axis]);
                    v.normal[axis] = float(face.normal[axis]);
                    v.color[axis] = float(rgb[size_t(axis)]) / 255.0f;
                }
                mesh.faces.push_back(v);
            }
        const auto loop = part.loop(face);
        for (size_t i = 0; i < loop.size(); ++i) {
            const int a = loop[i].point, b = loop[(i + 1) % loop.size()].point;
            // The face beyond the edge has it the other way round: one of them draws it.
            if (loop[i].inner || part.points[size_t(b)] < part.points[size_t(a)]) continue;
            for (int index : {a, b}) {
                const Vec3 p = part.point_m(index);
                mesh.edges.push_back({{float(p.x), float(p.y), float(p.z)}});
            }
        }
    });
    return mesh;
}

TintMesh tint_mesh(const check::CheckResult& result, const std::vector<bool>& hidden) {
    TintMesh mesh;
    const auto& ground = *result.ground;
    for (const auto& fragment : ground.fragments) {
        if (!result.reach->reached(fragment.ledge)) continue;
        const check::Top& top = ground.tops[size_t(fragment.top)];
        const motion::Column& column = result.world->columns()[size_t(top.column)];
        if (hidden[size_t(column.brush)]) continue;
        // The middle may stand beyond an edge; the tint stays on the ground.
        const geometry::ConvexArea area = geometry::common(fragment.area, column.area);
        if (area.size() < 3) continue;
        const bool returns = result.returns.empty() || result.returns[size_t(fragment.ledge)];
        const TintKind kind = fragment.low ? TintKind::low
                              : returns    ? TintKind::reached
                                           : TintKind::no_return;
        for (size_t i = 1; i + 1 < area.size(); ++i)
            for (const Vec2 p : {area[0], area[i], area[i + 1]})
                mesh.triangles.push_back({{float(p.x), float(p.y), float(column.top.at(p))}, float(kind)});
    }
    return mesh;
}

} // namespace rubble::app
