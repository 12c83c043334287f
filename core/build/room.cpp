#include "build/room.h"

namespace rubble::build {

using geometry::PlaneRef;
using geometry::PlaneTable;
using geometry::Side;

namespace {

/// The face that closes a part of a room along the cut: the edges of its other faces there, reversed.
Polygon lid_of(const Room& part, PlaneRef by, const PlaneTable& planes) {
    struct Edge {
        int32_t plane;
        geometry::Corner from, to;
    };
    std::vector<Edge> edges;
    for (const Polygon& polygon : part) {
        const size_t n = polygon.edges.size();
        for (size_t i = 0; i < n; ++i) {
            const auto &a = polygon.edges[i].start, &b = polygon.edges[(i + 1) % n].start;
            if (planes.side(a, by) == Side::on && planes.side(b, by) == Side::on)
                edges.push_back({polygon.support.id, b, a});
        }
    }
    for (size_t i = 0; i + 1 < edges.size(); ++i)
        for (size_t k = i + 1; k < edges.size(); ++k)
            if (planes.same(edges[i].to, edges[k].from)) {
                std::swap(edges[i + 1], edges[k]);
                break;
            }
    Polygon lid{by, {}};
    for (size_t i = 0; i < edges.size(); ++i) {
        const int32_t before = edges[(i + edges.size() - 1) % edges.size()].plane;
        lid.edges.push_back({planes.meet(by.id, before, edges[i].plane), edges[i].plane});
    }
    return lid;
}

} // namespace

Room room_within(std::span<const PlaneRef> around, const PlaneTable& planes) {
    static constexpr int order[6][4] = {{4, 2, 5, 3}, {4, 3, 5, 2}, {4, 1, 5, 0},
                                        {4, 0, 5, 1}, {3, 1, 2, 0}, {2, 1, 3, 0}};
    Room room;
    for (size_t f = 0; f < 6; ++f) {
        Polygon polygon{around[f], {}};
        for (size_t i = 0; i < 4; ++i) {
            const int32_t in = around[size_t(order[f][(i + 3) % 4])].id,
                          outgoing = around[size_t(order[f][i])].id;
            polygon.edges.push_back({planes.meet(around[f].id, in, outgoing), outgoing});
        }
        room.push_back(std::move(polygon));
    }
    return room;
}

std::pair<Room, Room> halves_of(const Room& room, PlaneRef by, const PlaneTable& planes) {
    Room front, back;
    bool any_front = false, any_back = false;
    for (const Polygon& polygon : room) {
        const CornerSides sides = sides_of(polygon, by, planes);
        any_front |= sides.front, any_back |= sides.back;
        if (sides.front && sides.back) {
            Halves halves = split(polygon, sides, by, planes);
            front.push_back(std::move(halves.front)), back.push_back(std::move(halves.back));
        } else if (sides.front) {
            front.push_back(polygon);
        } else if (sides.back) {
            back.push_back(polygon);
        }
    }
    if (!any_front || !any_back) return any_front ? std::pair(room, Room{}) : std::pair(Room{}, room);
    const Polygon lid = lid_of(back, by, planes);
    back.push_back(lid);
    front.push_back(lid_of(front, {by.id, !by.flipped}, planes));
    return {std::move(front), std::move(back)};
}

PreparedCell cell_of(std::vector<PreparedCell::Face> faces, const PlaneTable& planes) {
    PreparedCell cell;
    const auto body = std::make_shared<geometry::ConvexCell>();
    for (PreparedCell::Face& face : faces) {
        geometry::ConvexCell::Face seen;
        for (const auto& edge : face.polygon.edges) {
            seen.loop.push_back(geometry::to_metres(planes.rounded(edge.start)));
            cell.box.add(seen.loop.back());
        }
        const Vec3 normal = planes.normal(face.polygon.support);
        seen.plane = {normal, -glm::dot(normal, seen.loop[0])};
        cell.faces.push_back(std::move(face));
        body->faces.push_back(std::move(seen));
    }
    cell.cell = body;
    return cell;
}

namespace {

/// The faces of a piece of a cell: those in planes of the cell are of its sides, others of the cutter's.
PreparedCell piece_of(const Room& room, const PreparedCell& cell, const PreparedCell& cutter,
                      const std::shared_ptr<const MaterialId>& material, const PlaneTable& planes) {
    std::vector<PreparedCell::Face> faces;
    for (const Polygon& polygon : room) {
        PreparedCell::Face face{polygon, BoxSide::top, box_of(polygon), material};
        for (const auto& other : cutter.faces)
            if (other.polygon.support.id == polygon.support.id) face.side = other.side;
        for (const auto& own : cell.faces)
            if (own.polygon.support == polygon.support) face.side = own.side, face.material = own.material;
        faces.push_back(std::move(face));
    }
    return cell_of(std::move(faces), planes);
}

} // namespace

std::vector<PreparedCell> less(const PreparedCell& cell, const PreparedCell& cutter,
                               const std::shared_ptr<const MaterialId>& material, const PlaneTable& planes) {
    if (!cell.box.touches(cutter.box)) return {cell};
    Room left;
    for (const auto& face : cell.faces) left.push_back(face.polygon);
    std::vector<PreparedCell> out;
    for (const auto& face : cutter.faces) {
        auto [before, behind] = halves_of(left, face.polygon.support, planes);
        if (!before.empty()) out.push_back(piece_of(before, cell, cutter, material, planes));
        if (behind.empty()) {
            // What was parted off so far is all of the cell: it stays whole.
            if (out.size() > 1) return {cell};
            return out;
        }
        left = std::move(behind);
    }
    return out;
}

} // namespace rubble::build
