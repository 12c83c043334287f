#include "build/piece_body.h"

#include <cmath>
#include <map>
#include <set>

#include "build/mesh_matter.h"
#include "build/solid_builder.h"
#include "build/surface_builder.h"

namespace rubble::build {

using geometry::ConvexCell;

namespace {

/// Whether a name fits a pattern in which * stands for any letters.
bool fits(const std::string& name, const std::string& pattern) {
    const size_t star = pattern.find('*');
    if (star == std::string::npos) return name == pattern;
    const std::string before = pattern.substr(0, star), after = pattern.substr(star + 1);
    return name.size() >= before.size() + after.size() && name.starts_with(before) && name.ends_with(after);
}

bool stands_for_collision(const Piece& piece, const std::string& node) {
    return piece.collision.kind == PieceCollisionKind::node && !piece.collision.node.empty() &&
           fits(node, piece.collision.node);
}

/// A level that holds nothing but some brushes.
Level level_of(const ItemList& items) {
    Layer layer;
    layer.id = {"piece"}, layer.items = items;
    Level level;
    level.layers.push_back(std::move(layer));
    return level;
}

std::vector<ConvexCell> matter_of(const Solid& solid) {
    std::vector<ConvexCell> out;
    for (const auto& brush : solid.brushes)
        for_each_matter(*brush, [&](const ConvexCell& cell) { out.push_back(cell); });
    return out;
}

/// The parts of a file's model as the piece has them; `collision`: those that stand for it, else those drawn.
std::vector<ModelPart> parts_of(const Piece& piece, const Model& file, bool collision) {
    std::vector<ModelPart> out;
    for (const ModelPart& source : file.parts) {
        const std::string& node = file.nodes[size_t(source.node)];
        if (stands_for_collision(piece, node) != collision) continue;
        if (!collision && !piece.node.empty() && node != piece.node) continue;
        ModelPart part = source;
        for (Vec3& p : part.points) p = in_piece(piece, p);
        for (Vec3& n : part.normals)
            if (piece.y_up) n = {n.x, -n.z, n.y};
        out.push_back(std::move(part));
    }
    return out;
}

/// The faces of brushes as a model, one part for each material.
Model model_of(const Solid& solid) {
    Model out;
    out.nodes = {"brushes"};
    const Surface surface = surface_of(solid);
    std::map<MaterialId, size_t> parts;
    for_each_face(surface, [&](int, const SurfacePart& from, const SurfaceFace& face) {
        const auto [found, fresh] = parts.try_emplace(face.material, out.parts.size());
        if (fresh) {
            out.parts.emplace_back();
            if (!face.material.empty()) {
                out.parts.back().material = int(out.materials.size());
                out.materials.push_back({.name = face.material.value, .of_project = true});
            }
        }
        ModelPart& part = out.parts[found->second];
        std::map<int, uint32_t> index;
        for (const SurfaceCorner& corner : from.loop(face))
            if (index.try_emplace(corner.point, uint32_t(part.points.size())).second) {
                part.points.push_back(from.point_m(corner.point));
                part.normals.push_back(face.normal);
            }
        for (const auto& [a, b, c] : triangles_of(from, face))
            part.triangles.push_back({index.at(a), index.at(b), index.at(c)});
    });
    return out;
}

std::vector<ConvexCell> one(ConvexCell cell) {
    std::vector<ConvexCell> out;
    if (!cell.empty()) out.push_back(std::move(cell));
    return out;
}

/// Convex cells by a kind of collision; what could not be made as asked for is said.
std::vector<ConvexCell> cells_by(const Piece& piece, PieceCollisionKind kind, const TriangleMesh& drawn,
                                 const TriangleMesh& of_node, const Box3& box, std::string& remark) {
    const auto of_faces = [&](const TriangleMesh& mesh) {
        MeshMatter matter = matter_of_faces(mesh, piece.collision.thickness_m);
        if (!matter.exact)
            remark = "Its faces meet each other or are too many; what is closed is met as its hull.";
        return std::move(matter.cells);
    };
    switch (kind) {
    case PieceCollisionKind::none:
        return {};
    case PieceCollisionKind::box:
        return one(box_cell(box));
    case PieceCollisionKind::hull:
        return one(hull_of(drawn.points));
    case PieceCollisionKind::faces:
        return of_faces(drawn);
    case PieceCollisionKind::node:
        if (of_node.triangles.empty())
            remark = "No object of its file has the name that stands for its collision.";
        return of_faces(of_node);
    case PieceCollisionKind::brushes:
        return matter_of(build_solid(level_of(piece.collision.items)));
    }
    return {};
}

double volume_of(const std::vector<ConvexCell>& cells) {
    double sum = 0;
    for (const ConvexCell& cell : cells) sum += cell.volume();
    return sum;
}

/// Plain boxes that end where the piece does reach into its neighbours by its overlap, wherever something
/// goes through that side: walls beside an opening, and the opening itself.
ItemList reaching_over(const Piece& piece) {
    const auto is_plain = [](const Brush& brush) {
        return brush.shape == Shape::box && brush.shell_m == 0 && brush.place.turn_deg == 0 &&
               !brush.place.rotation;
    };
    Box3 whole;
    for (const ItemPtr& item : piece.items)
        if (item->brush() && item->brush()->effect == Effect::fill)
            whole.add(box_of(*item).low), whole.add(box_of(*item).high);
    std::vector<ItemPtr> out(piece.items.begin(), piece.items.end());
    std::set<ModuleSide> sides;
    for (const Joint& joint : piece.joints)
        if (joint.passage) sides.insert(joint.side);
    for (const ModuleSide side : sides) {
        const Vec3 way = direction_of(side);
        const int axis = way.x != 0 ? 0 : way.y != 0 ? 1 : 2;
        const bool up = way[axis] > 0;
        for (ItemPtr& item : out) {
            if (!item->brush() || !is_plain(*item->brush())) continue;
            Box3 box = box_of(*item);
            const double end = up ? box.high[axis] : box.low[axis],
                         last = up ? whole.high[axis] : whole.low[axis];
            // What cuts through the side may end beyond it.
            if (up ? end < last - 1e-6 : end > last + 1e-6) continue;
            const bool reaches = std::abs(end - last) < 1e-6 || item->brush()->effect == Effect::cut;
            if (!reaches) continue;
            (up ? box.high[axis] : box.low[axis]) += up ? piece.overlap_m : -piece.overlap_m;
            Item longer = *item;
            auto& brush = std::get<Brush>(longer.body);
            brush.size = box.high - box.low;
            brush.place.at = {(box.low.x + box.high.x) / 2, (box.low.y + box.high.y) / 2, box.low.z};
            item = ItemPtr(std::move(longer));
        }
    }
    return ItemList(out);
}

PieceBody body_of_brushes(const Piece& piece) {
    const Solid solid = build_solid(level_of(piece.overlap_m > 0 ? reaching_over(piece) : piece.items));
    PieceBody out;
    out.model = model_of(solid);
    out.box = numbers_of(out.model).box, out.edges = edges_of(out.model);
    const PieceCollisionKind kind = piece.collision.kind;
    const bool as_it_is = kind == PieceCollisionKind::faces || kind == PieceCollisionKind::node;
    out.matter = as_it_is ? matter_of(solid)
                          : cells_by(piece, kind, mesh_of(out.model.parts), {}, out.box, out.remark);
    out.matter_m3 = volume_of(out.matter);
    return out;
}

} // namespace

TriangleMesh mesh_of(const std::vector<ModelPart>& parts) {
    TriangleMesh out;
    for (const ModelPart& part : parts) {
        const int first = int(out.points.size());
        out.points.insert(out.points.end(), part.points.begin(), part.points.end());
        for (const auto& t : part.triangles)
            out.triangles.push_back({first + int(t[0]), first + int(t[1]), first + int(t[2])});
    }
    return out;
}

PieceBody piece_body(const Piece& piece, const Model& file) {
    if (!piece.items.empty()) return body_of_brushes(piece);
    PieceBody out;
    out.model = {file.nodes, parts_of(piece, file, false), file.materials, file.pictures, file.scene_nodes,
                 {}};
    out.collision_parts = parts_of(piece, file, true);
    out.box = numbers_of(out.model).box, out.edges = edges_of(out.model);
    out.matter = cells_by(piece, piece.collision.kind, mesh_of(out.model.parts), mesh_of(out.collision_parts),
                          out.box, out.remark);
    out.matter_m3 = volume_of(out.matter);
    return out;
}

std::vector<ConvexCell> matter_by(const Piece& piece, PieceCollisionKind kind) {
    if (!piece.body) return one(box_cell(own_box(piece)));
    if (kind == piece.collision.kind) return piece.body->matter;
    std::string remark;
    return cells_by(piece, kind, mesh_of(piece.body->model.parts), mesh_of(piece.body->collision_parts),
                    piece.body->box, remark);
}

PieceBody with_matter_anew(const Piece& piece) {
    if (!piece.items.empty() || !piece.body) return piece_body(piece, {});
    PieceBody out = *piece.body;
    out.remark.clear();
    out.matter = cells_by(piece, piece.collision.kind, mesh_of(out.model.parts), mesh_of(out.collision_parts),
                          out.box, out.remark);
    out.matter_m3 = volume_of(out.matter);
    return out;
}

Kit with_brush_bodies(Kit kit) {
    for (auto& piece : kit.pieces) {
        if (piece->items.empty() || piece->body) continue;
        Piece made = *piece;
        made.body = std::make_shared<const PieceBody>(piece_body(made, {}));
        piece = std::make_shared<const Piece>(std::move(made));
    }
    return kit;
}

} // namespace rubble::build
