#include "view/scene_mesh.h"

#include <algorithm>
#include <cmath>

#include "build/decal_pieces.h"
#include "build/dressed_face.h"
#include "check/round_top.h"
#include "level/brush_shape.h"
#include "level/item_search.h"
#include "level/order.h"

namespace rubble::app {

namespace {

void collect_hidden(const ItemList& items, bool hidden, std::vector<bool>& out) {
    for (const ItemPtr& item : items) {
        if (item->brush()) out.push_back(hidden || item->hidden);
        if (const ItemList* members = members_of(*item))
            collect_hidden(*members, hidden || item->hidden, out);
    }
}

} // namespace

std::vector<bool> hidden_brushes(const Level& level) {
    std::vector<bool> out;
    for (const auto& layer : level.layers) collect_hidden(layer->items, is_hidden(level, *layer), out);
    return out;
}

BrushTints brush_tints(const Level& level) {
    BrushTints out;
    if (std::none_of(level.layers.begin(), level.layers.end(),
                     [](auto& layer) { return layer->tint.has_value(); }))
        return out;
    for (const OrderedBrush& brush : ordered_brushes(level))
        out.push_back(level.layers[size_t(brush.layer)]->tint);
    return out;
}

DressedBrushes dressed_brushes(const Project& project, const Level& level) {
    DressedBrushes out;
    bool any = false;
    for (const OrderedBrush& brush : ordered_brushes(level)) {
        const Material* material = find_material(project, brush.brush->material);
        const bool dressed =
            !brush.brush->looks.empty() || (material && material->kind == MaterialKind::prints);
        out.push_back(dressed ? std::make_shared<const Brush>(*brush.brush) : nullptr);
        any |= dressed;
    }
    return any ? out : DressedBrushes{};
}

std::vector<const Material*> pictured_materials(const Project& project) {
    std::vector<const Material*> out;
    for (const Material& material : project.materials)
        if (material.picture() && out.size() < SceneMesh::Vertex::no_layer) out.push_back(&material);
    return out;
}

std::vector<float> picture_dots(const Project& project) {
    std::vector<float> out;
    for (const Material* material : pictured_materials(project)) {
        const auto size = picture_size(material->picture()->bytes);
        out.push_back(size ? float(size->first) : 0);
    }
    return out;
}

namespace {

/// So many brushes are one chunk: few enough to be made anew in a moment, many enough to be drawn at once.
constexpr size_t k_brushes_per_chunk = 64;

using Color = std::array<uint8_t, 3>;

/// What a face is drawn with.
struct Coat {
    Color rgb;
    uint8_t layer = SceneMesh::Vertex::no_layer;
    PicturePlace place;
};

void add_face(SceneMesh::Chunk& chunk, const build::SurfacePart& part, const build::SurfaceFace& face,
              const Coat& coat) {
    constexpr double k_upright = 0.1; // sine of the angle to the vertical
    float rise = -1;
    if (std::abs(face.normal.z) < k_upright) {
        double low = 1e9, high = -1e9;
        for (const auto& corner : part.loop(face)) {
            const double z = part.point_m(corner.point).z;
            low = std::min(low, z), high = std::max(high, z);
        }
        rise = float(high - low);
    }
    for (const auto& triangle : triangles_of(part, face))
        for (int index : triangle) {
            const Vec3 p = part.point_m(index);
            SceneMesh::Vertex v{};
            v.rise = rise, v.layer = coat.layer;
            for (int axis = 0; axis < 3; ++axis) {
                v.at[axis] = float(p[axis]);
                v.normal[axis] = int16_t(std::lround(face.normal[axis] * 32767));
                v.color[axis] = coat.rgb[size_t(axis)];
            }
            if (coat.layer != SceneMesh::Vertex::no_layer) {
                const Vec2 place = coat.place.of(p);
                v.place[0] = float(place.x), v.place[1] = float(place.y);
            }
            chunk.faces.push_back(v);
        }
    const auto loop = part.loop(face);
    for (size_t i = 0; i < loop.size(); ++i) {
        const int a = loop[i].point, b = loop[(i + 1) % loop.size()].point;
        // The face beyond the edge has it the other way round: one of them draws it.
        if (loop[i].inner || part.points[size_t(b)] < part.points[size_t(a)]) continue;
        for (int index : {a, b}) {
            const Vec3 p = part.point_m(index);
            chunk.edges.push_back({{float(p.x), float(p.y), float(p.z)}});
        }
    }
}

void add_brush(SceneMesh::Chunk& chunk, const Project& project, const std::vector<const Material*>& pictured,
               const build::BrushSurface& surface, const std::optional<Color>& tint, const Brush* dressed) {
    constexpr Color k_bare{0xC6, 0xBF, 0xB2};
    const Brush plain;
    for (const auto& part : surface)
        for (const build::SurfaceFace& face : part->faces) {
            const Material* material = find_material(project, face.material);
            Coat coat{material ? material->color : tint.value_or(k_bare), SceneMesh::Vertex::no_layer, {}};
            const auto layer = std::find(pictured.begin(), pictured.end(), material);
            if (material && layer != pictured.end()) {
                coat.layer = uint8_t(layer - pictured.begin());
                coat.place = build::picture_place_of(*material, dressed ? *dressed : plain, face);
            }
            add_face(chunk, *part, face, coat);
        }
}

} // namespace

SceneMesh SceneMesher::build(const Project& project, const build::Surface& surface,
                             const std::vector<bool>& hidden, const BrushTints& tints,
                             const DressedBrushes& dressed) {
    if (!(materials_ == project.materials)) kept_.clear(), materials_ = project.materials;
    const size_t count = surface.brushes.size();
    kept_.resize((count + k_brushes_per_chunk - 1) / k_brushes_per_chunk);
    const std::vector<const Material*> pictured = pictured_materials(project);
    SceneMesh mesh;
    for (size_t c = 0; c < kept_.size(); ++c) {
        std::vector<Source> sources;
        for (size_t i = c * k_brushes_per_chunk; i < std::min((c + 1) * k_brushes_per_chunk, count); ++i)
            sources.push_back({surface.brushes[i], hidden[i], tints.empty() ? std::nullopt : tints[i],
                               dressed.empty() ? nullptr : dressed[i]});
        Kept& kept = kept_[c];
        if (!kept.chunk || !(kept.sources == sources)) {
            auto chunk = std::make_shared<SceneMesh::Chunk>();
            for (const Source& source : sources)
                if (!source.hidden)
                    add_brush(*chunk, project, pictured, *source.surface, source.tint, source.dressed.get());
            kept = {std::move(sources), std::move(chunk)};
        }
        mesh.chunks.push_back(kept.chunk);
    }
    return mesh;
}

std::vector<SceneMesh::Vertex> decal_mesh(const Project& project, const Level& level,
                                          const build::Surface& surface) {
    std::vector<SceneMesh::Vertex> out;
    const std::vector<const Material*> pictured = pictured_materials(project);
    for (const Decal& decal : decals_of(level)) {
        const Material* material = find_material(project, decal.material);
        const auto layer = std::find(pictured.begin(), pictured.end(), material);
        if (!material || layer == pictured.end()) continue;
        for (const build::DecalPiece& piece : build::decal_pieces(surface, decal, *material))
            for (size_t i = 1; i + 1 < piece.corners.size(); ++i)
                for (const size_t corner : {size_t(0), i, i + 1}) {
                    SceneMesh::Vertex v{};
                    v.rise = -1, v.layer = uint8_t(layer - pictured.begin());
                    for (int axis = 0; axis < 3; ++axis) {
                        v.at[axis] = float(piece.corners[corner][axis]);
                        v.normal[axis] = int16_t(std::lround(piece.normal[axis] * 32767));
                        v.color[axis] = material->color[size_t(axis)];
                    }
                    v.place[0] = float(piece.places[corner].x), v.place[1] = float(piece.places[corner].y);
                    out.push_back(v);
                }
    }
    return out;
}

std::vector<SceneMesh::Line> cut_outlines(const Level& level, const std::vector<bool>& hidden) {
    constexpr double k_dash_m = 0.18, k_gap_m = 0.12;
    std::vector<SceneMesh::Line> lines;
    auto add = [&](const Vec3& a, const Vec3& b) {
        const double length = glm::length(b - a);
        const Vec3 way = (b - a) / std::max(length, 1e-9);
        for (double from = 0; from < length; from += k_dash_m + k_gap_m)
            for (const Vec3& p : {a + way * from, a + way * std::min(from + k_dash_m, length)})
                lines.push_back({{float(p.x), float(p.y), float(p.z)}});
    };
    const std::vector<OrderedBrush> brushes = ordered_brushes(level);
    for (size_t i = 0; i < brushes.size(); ++i) {
        if (brushes[i].brush->effect != Effect::cut || hidden[i]) continue;
        const BrushBody body = body_of(*brushes[i].brush);
        for (const auto& face : body.faces)
            for (size_t k = 0; k < face.loop.size(); ++k) {
                const int a = face.loop[k], b = face.loop[(k + 1) % face.loop.size()];
                if (a < b)
                    add(geometry::to_metres(body.points[size_t(a)]),
                        geometry::to_metres(body.points[size_t(b)]));
            }
    }
    return lines;
}

std::vector<SceneMesh::Line> collision_lines(const motion::World& world) {
    std::vector<SceneMesh::Line> lines;
    auto add = [&](const Vec3& a, const Vec3& b) {
        for (const Vec3& p : {a, b}) lines.push_back({{float(p.x), float(p.y), float(p.z)}});
    };
    for (const motion::Column& column : world.columns()) {
        const size_t n = column.area.size();
        for (size_t i = 0; i < n; ++i) {
            const Vec2 a = column.area[i], b = column.area[(i + 1) % n];
            const Vec3 top = raised(a, column.top.at(a)), bottom = raised(a, column.bottom.at(a));
            add(top, raised(b, column.top.at(b)));
            add(bottom, raised(b, column.bottom.at(b)));
            add(bottom, top);
        }
    }
    return lines;
}

namespace {

using geometry::ConvexArea;

/// Cuts what lies over `by` off some areas; they keep the rest. Gives what was cut off.
std::vector<ConvexArea> cut_off(std::vector<ConvexArea>& areas, const ConvexArea& by) {
    std::vector<ConvexArea> off, rest;
    for (ConvexArea& area : areas) {
        if (!geometry::box_of(area).touches(geometry::box_of(by))) {
            rest.push_back(std::move(area));
            continue;
        }
        for (size_t i = 0; i < by.size() && area.size() >= 3; ++i) {
            const Vec2 along = glm::normalize(by[(i + 1) % by.size()] - by[i]);
            const geometry::HalfPlane inside{by[i], {-along.y, along.x}};
            if (ConvexArea outer = geometry::clipped(area, {inside.at, -inside.inward}); outer.size() >= 3)
                rest.push_back(std::move(outer));
            area = geometry::clipped(area, inside);
        }
        if (area.size() >= 3) off.push_back(std::move(area));
    }
    areas = std::move(rest);
    return off;
}

/// The parts of a fragment that lie on matter at its own height: on the column that carries it, and on others
/// beside it whose tops are one with its own. The middle may stand beyond an edge; the tint stays on the
/// ground.
std::vector<ConvexArea> on_ground(const check::Fragment& fragment, const motion::Column& own,
                                  const motion::World& world) {
    std::vector<ConvexArea> open{fragment.area};
    std::vector<ConvexArea> out = cut_off(open, own.area);
    if (open.empty()) return out;
    world.for_near(geometry::box_of(fragment.area), [&](int i) {
        const motion::Column& column = world.columns()[size_t(i)];
        if (open.empty() || &column == &own || !(column.top == own.top)) return;
        for (ConvexArea& area : cut_off(open, column.area)) out.push_back(std::move(area));
    });
    return out;
}

/// The side of the squares that are shaded one by one (metres).
double square_side(const check::CheckResult& result) {
    constexpr double k_squares = 8000, k_least_m = 0.5, k_most_m = 2;
    double area = 0;
    for (const auto& fragment : result.ground->fragments)
        if (result.reach->reached(fragment.ledge)) area += fragment.area_m2;
    return std::clamp(std::sqrt(area / k_squares), k_least_m, k_most_m);
}

/// An area cut into the squares of a grid.
std::vector<ConvexArea> in_squares(const ConvexArea& area, double side) {
    std::vector<ConvexArea> out;
    const Box2 box = geometry::box_of(area);
    for (double x = std::floor(box.low.x / side) * side; x < box.high.x; x += side)
        for (double y = std::floor(box.low.y / side) * side; y < box.high.y; y += side) {
            const ConvexArea square{{x, y}, {x + side, y}, {x + side, y + side}, {x, y + side}};
            if (ConvexArea piece = geometry::common(area, square); piece.size() >= 3)
                out.push_back(std::move(piece));
        }
    return out;
}

} // namespace

TintMesh tint_mesh(const check::CheckResult& result, const std::vector<bool>& hidden,
                   const ShadeOf& shade_of) {
    TintMesh mesh;
    const auto& ground = *result.ground;
    const double side = shade_of ? square_side(result) : 0;
    for (const auto& fragment : ground.fragments) {
        if (!result.reach->reached(fragment.ledge)) continue;
        const check::Top& top = ground.tops[size_t(fragment.top)];
        const bool returns = result.returns.empty() || result.returns[size_t(fragment.ledge)];
        const TintKind kind = fragment.low ? TintKind::low
                              : returns    ? TintKind::reached
                                           : TintKind::no_return;
        const bool in_bands = result.bands && result.bands->count() > 1 && kind == TintKind::reached;
        const int band = in_bands ? std::max(result.bands->of_ledge[size_t(fragment.ledge)], 0) : 0;
        const float usual = in_bands ? float(first_band_kind + band) : float(kind);
        const int number = int(&fragment - ground.fragments.data());
        const auto add_piece = [&](const ConvexArea& area, const motion::HeightPlane& height, float shade) {
            for (size_t i = 1; i + 1 < area.size(); ++i)
                for (const Vec2 p : {area[0], area[i], area[i + 1]})
                    mesh.triangles.push_back({{float(p.x), float(p.y), float(height.at(p))}, shade});
        };
        const auto add = [&](const ConvexArea& area, const motion::HeightPlane& height) {
            if (!shade_of) return add_piece(area, height, usual);
            for (const ConvexArea& piece : in_squares(area, side)) {
                const Vec2 p = geometry::middle_of(piece);
                add_piece(piece, height, shade_of(number, raised(p, height.at(p))).value_or(usual));
            }
        };
        if (top.column < 0) { // cells that are walked from one to the next lie on no matter
            add(fragment.area, {});
            continue;
        }
        const motion::Column& column = result.world->columns()[size_t(top.column)];
        if (size_t(column.source) < hidden.size() && hidden[size_t(column.source)]) continue;
        if (!top.round)
            for (const ConvexArea& area : on_ground(fragment, column, *result.world)) add(area, column.top);
        else
            for (int i : top.round->columns) {
                const motion::Column& part = result.world->columns()[size_t(i)];
                add(geometry::common(fragment.area, part.area), part.top);
            }
    }
    return mesh;
}

} // namespace rubble::app
