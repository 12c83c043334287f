#include "build/brush_parts.h"

#include <cmath>

namespace rubble::build {

using geometry::ConvexCell;
using geometry::PlaneTable;

namespace {

/// Faces that more brushes touch, and cells that more cuts touch, are built in tiles.
constexpr size_t k_many = 48;
/// Edge of a tile, doubled until there are no more than so many along an edge.
constexpr int64_t k_tile_m = 8;
constexpr double k_most_tiles = 64;

using Neighbours = std::vector<Neighbour>;

MaterialId material_of(const Brush& brush, BoxSide side) {
    const auto own = brush.side_materials.find(side);
    return own != brush.side_materials.end() ? own->second : brush.material;
}

Vec3 middle_of(const Polygon& polygon) {
    Vec3 sum(0);
    for (const auto& edge : polygon.edges) sum += edge.start.at;
    return sum / (double(polygon.edges.size()) * geometry::ticks_per_metre);
}

Neighbours those_near(const Neighbours& touching, const Box3& box) {
    Neighbours near;
    for (const Neighbour& neighbour : touching)
        if (neighbour.prepared->box.touches(box)) near.push_back(neighbour);
    return near;
}

bool touches_any(const Box3& box, const std::vector<Box3>& others) {
    return std::any_of(others.begin(), others.end(), [&](const Box3& other) { return other.touches(box); });
}

/// The material of the matter that a cut opens: the last earlier fill that holds the place.
MaterialId material_behind(const Vec3& at_m, const Neighbours& touching) {
    for (const Neighbour& neighbour : touching) {
        if (neighbour.later || neighbour.prepared->effect != Effect::fill) continue;
        for (const PreparedCell& cell : neighbour.prepared->cells) {
            bool inside = true;
            for (const auto& face : cell.cell.faces) inside &= face.plane.distance(at_m) <= 1e-6;
            if (inside) return neighbour.brush->material;
        }
    }
    return {};
}

/// A brush whose parts are built, with what touches the piece at hand.
struct Site {
    const Brush& brush;
    const PreparedBrush& prepared;
    const PlaneTable& planes;

    /// The cells that decide about a piece of a face of a cell: the brush's own others stand between the later
    /// and the earlier brushes.
    std::vector<Touching> deciders(size_t cell, const Neighbours& near, const Box3& box) const {
        std::vector<Touching> out;
        auto offer = [&](const PreparedCell& other, Effect effect, bool later) {
            if (other.box.touches(box)) out.push_back({&other, effect, later});
        };
        for (size_t c = cell + 1; c < prepared.cells.size(); ++c)
            offer(prepared.cells[c], prepared.effect, true);
        for (const Neighbour& n : near)
            if (n.later)
                for (const PreparedCell& other : n.prepared->cells) offer(other, n.prepared->effect, true);
        for (size_t c = cell; c-- > 0;) offer(prepared.cells[c], prepared.effect, false);
        for (const Neighbour& n : near)
            if (!n.later)
                for (size_t c = n.prepared->cells.size(); c-- > 0;)
                    offer(n.prepared->cells[c], n.prepared->effect, false);
        return out;
    }

    void add_fragments(size_t cell, const PreparedCell::Face& face, const Polygon& polygon, const Box3& box,
                       const Neighbours& near, SolidPart& part) const {
        const bool cut = prepared.effect == Effect::cut;
        for (Polygon& piece : clipped_face(polygon, prepared.effect, deciders(cell, near, box), planes)) {
            MaterialId material = material_of(brush, face.side);
            if (cut && material.empty()) material = material_behind(middle_of(piece), near);
            part.box.add(box_of(piece));
            part.fragments.push_back({std::move(piece), face.side, std::move(material), cut});
        }
    }

    /// A cell less the later cuts.
    void add_matter(const ConvexCell& cell, const Neighbours& cuts, SolidPart& part) const {
        std::vector<ConvexCell> pieces{cell};
        for (const Neighbour& cut : cuts)
            for (const PreparedCell& cutter : cut.prepared->cells) {
                std::vector<ConvexCell> next;
                for (ConvexCell& piece : pieces) {
                    if (!piece.box().touches(cutter.box))
                        next.push_back(std::move(piece));
                    else
                        for (ConvexCell& rest : geometry::subtracted(piece, cutter.cell))
                            next.push_back(std::move(rest));
                }
                pieces = std::move(next);
            }
        for (ConvexCell& piece : pieces) part.matter.push_back(std::move(piece));
    }
};

/// The planes across an axis that cut a box into tiles.
std::vector<int32_t> tile_planes_of(const Box3& box, int axis, PlaneTable& planes) {
    int64_t tile = k_tile_m;
    while ((box.high[axis] - box.low[axis]) / double(tile) > k_most_tiles) tile *= 2;
    std::vector<int32_t> out;
    for (auto at = int64_t(std::floor(box.low[axis] / double(tile))) + 1; double(at * tile) < box.high[axis];
         ++at)
        out.push_back(planes.across(axis, at * tile * int64_t(geometry::ticks_per_metre)));
    return out;
}

/// The two axes along which something extends that is thinnest across the third.
std::pair<size_t, size_t> axes_but(int across) { return {across == 0 ? 1 : 0, across == 2 ? 1 : 2}; }

int largest_axis(const Vec3& v) { return v.x >= v.y && v.x >= v.z ? 0 : v.y >= v.z ? 1 : 2; }
int least_axis(const Vec3& v) { return v.x <= v.y && v.x <= v.z ? 0 : v.y <= v.z ? 1 : 2; }

/// A cell cut along planes across an axis.
std::vector<ConvexCell> slices_of(const ConvexCell& cell, size_t axis, std::span<const int32_t> cuts,
                                  const PlaneTable& planes) {
    std::vector<ConvexCell> out;
    ConvexCell rest = cell;
    for (const int32_t cut : cuts) {
        Vec3 normal(0);
        normal[int(axis)] = 1;
        const geometry::HalfSpace below{normal, double(planes.plane(cut).d) / geometry::ticks_per_metre};
        if (ConvexCell slice = geometry::clipped(rest, below); !slice.empty()) out.push_back(std::move(slice));
        rest = geometry::clipped(rest, below.opposite());
        if (rest.empty()) break;
    }
    if (!rest.empty()) out.push_back(std::move(rest));
    return out;
}

} // namespace

void BrushParts::plan_tiles(const PreparedBrush& prepared, size_t touching, PlaneTable& planes) {
    if (touching <= k_many || !tile_planes_[0].empty()) return;
    for (int axis = 0; axis < 3; ++axis)
        tile_planes_[size_t(axis)] = tile_planes_of(prepared.box, axis, planes);
}

std::vector<std::shared_ptr<const SolidPart>>
BrushParts::build(const Brush& brush, const PreparedBrush& prepared, const Neighbours& touching,
                  const std::vector<Box3>& dirty, bool changed, const PlaneTable& planes) {
    const Site site{brush, prepared, planes};
    std::vector<std::shared_ptr<const SolidPart>> parts;
    auto whole = std::make_shared<SolidPart>();
    if (changed) face_tiles_.clear(), cell_tiles_.clear();
    /// Brings the tiles up to date and adds them to the parts.
    auto add_tiles = [&](auto& tiles, auto build_tile) {
        for (auto& tile : tiles) {
            if (!tile.part || touches_any(tile.box, dirty)) {
                auto part = std::make_shared<SolidPart>();
                build_tile(tile, *part);
                tile.part = std::move(part);
            }
            parts.push_back(tile.part);
        }
    };

    for (size_t c = 0; c < prepared.cells.size(); ++c) {
        const PreparedCell& cell = prepared.cells[c];
        for (size_t f = 0; f < cell.faces.size(); ++f) {
            const PreparedCell::Face& face = cell.faces[f];
            const Neighbours near = those_near(touching, face.box);
            if (near.size() <= k_many) {
                face_tiles_.erase({c, f});
                site.add_fragments(c, face, face.polygon, face.box, near, *whole);
                continue;
            }
            std::vector<FaceTile>& tiles = face_tiles_[{c, f}];
            if (tiles.empty()) {
                const auto [first, second] = axes_but(largest_axis(glm::abs(planes.normal(face.polygon.support))));
                for (const Strip& row : strips_of(face.polygon, tile_planes_[first], planes))
                    for (Strip& tile : strips_of(row.polygon, tile_planes_[second], planes)) {
                        const Box3 box = box_of(tile.polygon);
                        tiles.push_back({std::move(tile.polygon), box, nullptr});
                    }
            }
            add_tiles(tiles, [&](const FaceTile& tile, SolidPart& part) {
                site.add_fragments(c, face, tile.polygon, tile.box, those_near(near, tile.box), part);
            });
        }
        if (prepared.effect != Effect::fill) continue;
        Neighbours cuts;
        for (const Neighbour& n : touching)
            if (n.later && n.prepared->effect == Effect::cut && n.prepared->box.touches(cell.box))
                cuts.push_back(n);
        if (cuts.size() <= k_many) {
            cell_tiles_.erase(c);
            site.add_matter(cell.cell, cuts, *whole);
            continue;
        }
        std::vector<CellTile>& tiles = cell_tiles_[c];
        if (tiles.empty()) {
            const auto [first, second] = axes_but(least_axis(cell.box.high - cell.box.low));
            for (const ConvexCell& row : slices_of(cell.cell, first, tile_planes_[first], planes))
                for (ConvexCell& tile : slices_of(row, second, tile_planes_[second], planes)) {
                    const Box3 box = tile.box();
                    tiles.push_back({std::move(tile), box, nullptr});
                }
        }
        add_tiles(tiles, [&](const CellTile& tile, SolidPart& part) {
            site.add_matter(tile.cell, those_near(cuts, tile.box), part);
        });
    }
    parts.push_back(std::move(whole));
    return parts;
}

} // namespace rubble::build
