#include "commands/reshaping.h"

#include "edit/body.h"
#include "edit/items.h"
#include "level/turning.h"
#include "numbers.h"

namespace rubble::app {

namespace {

using edit::Reshaped;

Picks picks_after(const Reshaped& change) { return {change.points, change.edges, change.faces}; }

/// A direction of the level in the brush's own axes.
Vec3 own_way(const Brush& brush, const Vec3& way) { return brush.place.to_own(brush.place.at + way); }

/// Makes a change of one thing after the other, as far as each can be done.
template <class Things, class F> Reshaped one_by_one(const FaceMesh& mesh, const Things& things, F change) {
    Reshaped all;
    all.mesh = mesh;
    all.part = 0;
    for (const auto& thing : things) {
        Reshaped one = change(all.mesh, thing);
        if (!one.done) continue;
        all.done = true;
        all.part = std::max(all.part, one.part);
        all.mesh = std::move(one.mesh);
        all.points.merge(one.points), all.edges.merge(one.edges), all.faces.merge(one.faces);
    }
    return all;
}

bool has_edge(const FaceMesh& mesh, const edit::MeshEdge& edge) {
    const EdgeFaces faces = edge_faces(mesh);
    return faces.contains({edge.a, edge.b});
}

/// 1, or -1 where an edge from one place to the other runs against the level's axis that it is most along:
/// so an edge turns the same way whichever of its ends is stored first.
double way_of(const Placement& place, const Vec3& from, const Vec3& to) {
    const Vec3 way = place.direction(to - from), size = glm::abs(way);
    const int axis = size.x >= size.y && size.x >= size.z ? 0 : size.y >= size.z ? 1 : 2;
    return way[axis] < 0 ? -1 : 1;
}

} // namespace

Level with_reshaped(const Level& level, const ItemId& id, const Reshaped& change) {
    Item item = *find_item(level, id);
    const auto body = edit::as_body(*item.brush());
    if (!change.done || !body) return level;
    item.body = edit::with_mesh(*body, change.mesh);
    return edit::with_changed(level, item);
}

void tell_limit(Session& session, const Reshaped& change) {
    if (!change.done)
        emit session.message(
            Session::tr("That is not possible: the body would turn inside out or intersect itself"));
    else if (change.part < 1)
        emit session.message(Session::tr(
            "That is as far as it goes: more would turn the body inside out or let it intersect itself"));
}

void reshape(Session& session, const QString& what,
             const std::function<Reshaped(const FaceMesh&, const Picks&)>& change) {
    const Brush* body = session.body();
    if (!body) return;
    const Reshaped after = change(edit::mesh_of(*body), session.picks());
    if (after.done) {
        session.apply(with_reshaped(session.stored_level(), session.selected()->id, after), what);
        session.pick(picks_after(after));
    }
    tell_limit(session, after);
}

std::vector<Vec3> picked_places(const Session& session) {
    std::vector<Vec3> out;
    if (session.picks().empty()) return out;
    const Brush& body = *session.body();
    for (const int p : session.picks().all_points(edit::mesh_of(body)))
        out.push_back(body.place.to_level(body.corners[size_t(p)]));
    return out;
}

void move_picks(Session& session, const Vec3& by) {
    const Brush* body = session.body();
    if (!body || session.picks().empty()) return;
    const Vec3 own = own_way(*body, by);
    reshape(session, Session::tr("Move points"), [&](const FaceMesh& mesh, const Picks& picks) {
        Reshaped out = edit::points_moved(mesh, picks.all_points(mesh), own);
        // What was picked stays picked, unless points became one.
        if (out.mesh.points.size() == mesh.points.size())
            out.points = picks.points, out.edges = picks.edges, out.faces = picks.faces;
        return out;
    });
}

void align_picks(Session& session, int axis, double to_m) {
    const Brush* body = session.body();
    if (!body || session.picks().empty()) return;
    const Placement place = body->place;
    reshape(session, Session::tr("Line up points"), [&](const FaceMesh& mesh, const Picks& picks) {
        std::map<int, Vec3> places;
        for (const int p : picks.all_points(mesh)) {
            Vec3 at = place.to_level(mesh.points[size_t(p)]);
            at[axis] = to_m;
            places[p] = place.to_own(at);
        }
        Reshaped out = edit::points_put(mesh, places);
        if (out.mesh.points.size() == mesh.points.size())
            out.points = picks.points, out.edges = picks.edges, out.faces = picks.faces;
        return out;
    });
}

void turn_picks(Session& session, int axis, double deg) {
    const Brush* body = session.body();
    if (!body || session.picks().empty()) return;
    Vec3 way(0);
    way[axis] = 1;
    const Vec3 own = own_way(*body, way);
    reshape(session, Session::tr("Turn points"), [&](const FaceMesh& mesh, const Picks& picks) {
        const std::set<int> points = picks.all_points(mesh);
        Vec3 about(0);
        for (const int p : points) about += mesh.points[size_t(p)] / double(points.size());
        Reshaped out = edit::points_turned(mesh, points, about, own, deg);
        if (out.mesh.points.size() == mesh.points.size())
            out.points = picks.points, out.edges = picks.edges, out.faces = picks.faces;
        return out;
    });
}

bool has_hinge(const Picks& picks) {
    return picks.edges.size() == 1 && (!picks.points.empty() || !picks.faces.empty());
}

void turn_on_hinge(Session& session, double deg) {
    if (!has_hinge(session.picks())) return;
    const Placement place = session.body()->place;
    reshape(session, Session::tr("Turn on a hinge"), [&](const FaceMesh& mesh, const Picks& picks) {
        const edit::MeshEdge hinge = *picks.edges.begin();
        const Vec3 a = mesh.points[size_t(hinge.a)], b = mesh.points[size_t(hinge.b)];
        Picks turning = picks;
        turning.edges.clear();
        std::set<int> points = turning.all_points(mesh);
        points.erase(hinge.a), points.erase(hinge.b);
        Reshaped out = edit::points_turned(mesh, points, a, glm::normalize(b - a), deg * way_of(place, a, b));
        if (out.mesh.points.size() == mesh.points.size())
            out.points = picks.points, out.edges = picks.edges, out.faces = picks.faces;
        return out;
    });
}

bool has_pivot(const Picks& picks) {
    return picks.faces.empty() && picks.points.size() + picks.edges.size() == 1;
}

void turn_about_pick(Session& session, double deg) {
    const Brush* body = session.body();
    if (!body || !has_pivot(session.picks())) return;
    const auto corner = [&](int i) { return body->place.to_level(body->corners[size_t(i)]); };
    const Picks& picks = session.picks();
    Vec3 about, axis(0, 0, 1);
    if (picks.edges.empty()) {
        about = corner(*picks.points.begin());
    } else {
        const edit::MeshEdge edge = *picks.edges.begin();
        about = corner(edge.a);
        axis = glm::normalize(corner(edge.b) - about) * way_of({}, about, corner(edge.b));
    }
    Item item = *find_item(session.stored_level(), session.selected()->id);
    Brush& brush = std::get<Brush>(item.body);
    brush.place = turned_about(brush.place, about, axis, deg);
    session.apply(edit::with_changed(session.stored_level(), item),
                  Session::tr("Turn about a point or edge"));
}

void pick_rows(Session& session) {
    const Brush* body = session.body();
    if (!body || session.picks().empty()) return;
    const FaceMesh mesh = edit::mesh_of(*body);
    Picks picks = session.picks();
    for (const edit::MeshEdge& edge : session.picks().edges) picks.edges.merge(edit::ring_of(mesh, edge));
    if (!picks.faces.empty()) {
        const int first = *picks.faces.begin();
        const auto& loop = mesh.faces[size_t(first)];
        const auto row = [&](size_t i) {
            return edit::face_row(mesh, first, {loop[i], loop[(i + 1) % loop.size()]});
        };
        const bool again = picks.faces == row(0);
        std::set<int> rows = row(again ? 1 : 0);
        if (!again && picks.faces.size() > 1) // of several faces each has its row in the same direction
            for (const int face : picks.faces) {
                const auto& own = mesh.faces[size_t(face)];
                rows.merge(edit::face_row(mesh, face, {own[0], own[1]}));
            }
        picks.faces = rows;
    }
    session.pick(picks);
}

void split_rings(Session& session, const std::vector<double>& places) {
    reshape(session, Session::tr("Split the ring"), [&](const FaceMesh& mesh, const Picks& picks) {
        return one_by_one(mesh, picks.edges, [&](const FaceMesh& now, const edit::MeshEdge& edge) {
            // Two edges of one ring are split by the first.
            return has_edge(now, edge) ? edit::ring_split(now, edge, places) : Reshaped{};
        });
    });
}

void round_edges(Session& session, double width_m, int segments) {
    bool done = true;
    reshape(session, segments > 1 ? Session::tr("Round edges") : Session::tr("Chamfer edges"),
            [&](const FaceMesh& mesh, const Picks& picks) {
                Reshaped out = edit::edges_rounded(mesh, picks.edges, width_m, segments);
                done = out.done;
                return out;
            });
    if (!done)
        emit session.message(Session::tr("That cannot be done: an edge is rounded where three faces meet at "
                                         "each of its ends, and where there is room for its width"));
}

void push_faces(Session& session, double by_m) {
    reshape(session, Session::tr("Push the face"), [&](const FaceMesh& mesh, const Picks& picks) {
        // A hole takes its face away; what comes after it would be another face.
        if (picks.faces.size() == 1) return edit::face_pushed(mesh, *picks.faces.begin(), by_m);
        return one_by_one(mesh, picks.faces, [&](const FaceMesh& now, int face) {
            Reshaped pushed = edit::face_pushed(now, face, by_m);
            return pushed.faces.empty() ? Reshaped{} : pushed;
        });
    });
}

void inset_faces(Session& session, double by_m) {
    reshape(session, Session::tr("Inset the face"), [&](const FaceMesh& mesh, const Picks& picks) {
        return one_by_one(mesh, picks.faces,
                          [&](const FaceMesh& now, int face) { return edit::face_inset(now, face, by_m); });
    });
}

void join_faces(Session& session) {
    reshape(session, Session::tr("Join faces"), [&](const FaceMesh& mesh, const Picks& picks) {
        std::set<int> faces = picks.faces;
        const EdgeFaces beside = edge_faces(mesh);
        for (const edit::MeshEdge& edge : picks.edges)
            faces.insert({beside.at({edge.a, edge.b}), beside.at({edge.b, edge.a})});
        return edit::faces_joined(mesh, faces);
    });
}

void straighten_faces(Session& session) {
    reshape(session, Session::tr("Straighten the face"), [&](const FaceMesh& mesh, const Picks& picks) {
        return edit::faces_straightened(mesh, picks.faces);
    });
}

void weld_points(Session& session, double within_m) {
    reshape(session, Session::tr("Weld points"),
            [&](const FaceMesh& mesh, const Picks&) { return edit::points_welded(mesh, within_m); });
}

void cut_with_knife(Session& session, const geometry::HalfSpace& plane, bool apart) {
    Level level = session.stored_level();
    std::vector<ItemId> selection = session.selection();
    std::optional<Picks> picks;
    int cut = 0;
    for (const ItemId& id : session.selection()) {
        const Item* item = find_item(level, id);
        const auto body = item && item->brush() ? edit::as_body(*item->brush()) : std::nullopt;
        if (!body) continue;
        const Vec3 normal = own_way(*body, plane.normal);
        const geometry::HalfSpace own{normal, plane.distance(body->place.at)};
        if (!apart) {
            const Reshaped change = edit::cut_across(edit::mesh_of(*body), own);
            if (!change.done) continue;
            level = with_reshaped(level, id, change);
            picks = picks_after(change);
            ++cut;
            continue;
        }
        const auto parts = edit::parted(edit::mesh_of(*body), own);
        if (parts.size() != 2) continue;
        Item first = *item, second = *item;
        first.body = edit::with_mesh(*body, parts[0]), second.body = edit::with_mesh(*body, parts[1]);
        second = edit::with_fresh_ids(level, second);
        selection.push_back(second.id);
        level = edit::with_item(edit::with_changed(level, first), layer_of(level, id), second);
        ++cut;
    }
    if (cut == 0) {
        emit session.message(Session::tr("The knife missed. Select a brush and draw across it"));
        return;
    }
    session.apply(level, apart ? Session::tr("Cut apart") : Session::tr("Cut with the knife"));
    session.select(selection);
    if (picks && selection.size() == 1) session.pick(*picks);
}

} // namespace rubble::app
