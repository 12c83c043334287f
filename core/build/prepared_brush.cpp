#include "build/prepared_brush.h"

namespace rubble::build {

using geometry::PlaneRef;
using geometry::PlaneTable;

PreparedBrush prepare(const Brush& brush, PlaneTable& planes) {
    const BrushBody body = body_of(brush);
    PreparedBrush out;
    out.effect = brush.effect;

    std::vector<size_t> face_of_edge(body.points.size() * body.points.size()); // by its ends, in order
    auto edge_at = [&](int from, int to) -> size_t& {
        return face_of_edge[size_t(from) * body.points.size() + size_t(to)];
    };
    std::vector<PlaneRef> refs;
    for (size_t f = 0; f < body.faces.size(); ++f) {
        const auto& loop = body.faces[f].loop;
        // Three corners far apart: where a face is only nearly plane, its plane leans the least.
        const auto corner = [&](size_t part) { return body.points[size_t(loop[part * loop.size() / 3])]; };
        refs.push_back(planes.through(corner(0), corner(1), corner(2)));
        for (size_t i = 0; i < loop.size(); ++i) edge_at(loop[i], loop[(i + 1) % loop.size()]) = f;
    }
    for (size_t f = 0; f < body.faces.size(); ++f) {
        const auto& loop = body.faces[f].loop;
        PreparedBrush::Face face{{refs[f], {}}, body.faces[f].side};
        geometry::ConvexCell::Face cell_face;
        for (size_t i = 0; i < loop.size(); ++i) {
            const int before = loop[(i + loop.size() - 1) % loop.size()], here = loop[i],
                      after = loop[(i + 1) % loop.size()];
            const int32_t in = refs[edge_at(here, before)].id;
            const int32_t outgoing = refs[edge_at(after, here)].id;
            face.polygon.edges.push_back({outgoing, planes.meet(refs[f].id, in, outgoing)});
            // Where the planes meet, which of a tipped round shape is up to a tick from the body's corner.
            cell_face.loop.push_back(geometry::to_metres(planes.rounded(face.polygon.edges.back().start)));
            out.box.add(cell_face.loop.back());
        }
        const Vec3 normal = planes.normal(refs[f]);
        cell_face.plane = {normal, -glm::dot(normal, cell_face.loop[0])};
        out.faces.push_back(std::move(face));
        out.cell.faces.push_back(std::move(cell_face));
    }
    return out;
}

Box3 box_of(const Polygon& polygon) {
    Vec3 low = polygon.edges[0].start.at, high = low;
    double error = 0;
    for (const auto& edge : polygon.edges) {
        low = glm::min(low, edge.start.at), high = glm::max(high, edge.start.at);
        error = std::max(error, edge.start.error);
    }
    constexpr double unit = geometry::ticks_per_metre;
    return Box3{low / unit, high / unit}.grown(error / unit + 1e-5);
}

} // namespace rubble::build
