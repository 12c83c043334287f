#include "build/solid.h"

#include "base/parallel.h"
#include "build/face_clipper.h"
#include "build/neighbours.h"

namespace rubble::build {

using geometry::PlaneTable;

namespace {

/// Faces that more brushes touch are built tile by tile, so that an edit does not build all of a floor anew.
constexpr size_t k_many = 48;
/// Edge of a tile, doubled until a face has no more than so many along an edge.
constexpr int64_t k_tile_m = 8;
constexpr double k_most_tiles = 64;

MaterialId material_of(const Brush& brush, BoxSide side) {
    const auto own = brush.side_materials.find(side);
    return own != brush.side_materials.end() ? own->second : brush.material;
}

Vec3 middle_of(const Polygon& polygon) {
    Vec3 sum(0);
    for (const auto& edge : polygon.edges) sum += edge.start.at;
    return sum / (double(polygon.edges.size()) * geometry::ticks_per_metre);
}

std::vector<geometry::ConvexCell> matter_of(const PreparedBrush& fill,
                                            const std::vector<const PreparedBrush*>& later_cuts) {
    std::vector<geometry::ConvexCell> cells{fill.cell};
    for (const PreparedBrush* cut : later_cuts) {
        std::vector<geometry::ConvexCell> next;
        for (const auto& cell : cells) {
            if (!cell.box().touches(cut->box)) {
                next.push_back(cell);
                continue;
            }
            for (auto& piece : geometry::subtracted(cell, cut->cell)) next.push_back(std::move(piece));
        }
        cells = std::move(next);
    }
    return cells;
}

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

} // namespace

/// The parts of a polygon of a face that bound the solid, with their materials.
std::vector<Fragment> SolidBuilder::fragments_of(const Entry& entry, size_t face, const Polygon& polygon,
                                                 std::span<const Neighbour> touching,
                                                 const PlaneTable& planes) {
    std::vector<Touching> others;
    for (const Neighbour& neighbour : touching)
        others.push_back({&neighbour.entry->prepared, neighbour.later});
    const bool cut = entry.brush.effect == Effect::cut;
    const BoxSide side = entry.prepared.faces[face].side;
    std::vector<Fragment> out;
    for (Polygon& part : clipped_face(polygon, entry.brush.effect, others, planes)) {
        MaterialId material = material_of(entry.brush, side);
        if (cut && material.empty()) material = material_behind(middle_of(part), touching);
        out.push_back({std::move(part), side, material, cut});
    }
    return out;
}

/// The material of the matter that a cut opens: the last earlier fill that holds the place.
MaterialId SolidBuilder::material_behind(const Vec3& at_m, std::span<const Neighbour> touching) {
    for (const Neighbour& neighbour : touching) {
        if (neighbour.later || neighbour.entry->brush.effect != Effect::fill) continue;
        bool inside = true;
        for (const auto& face : neighbour.entry->prepared.cell.faces)
            inside &= face.plane.distance(at_m) <= 1e-6;
        if (inside) return neighbour.entry->brush.material;
    }
    return {};
}

/// Builds a face in tiles; those whose brushes are as they were stay as they are.
void SolidBuilder::build_tiles(Entry& entry, size_t face, std::span<const Neighbour> touching,
                               const PlaneTable& planes, BrushSolid& out) {
    const Polygon& whole = entry.prepared.faces[face].polygon;
    const Vec3 normal = glm::abs(planes.normal(whole.support));
    const int across = normal.x >= normal.y && normal.x >= normal.z ? 0 : normal.y >= normal.z ? 1 : 2;
    const int first = across == 0 ? 1 : 0, second = across == 2 ? 1 : 2;
    for (const Strip& row : strips_of(whole, entry.tile_planes[size_t(first)], planes))
        for (const Strip& cell : strips_of(row.polygon, entry.tile_planes[size_t(second)], planes)) {
            const Box3 box = box_of(cell.polygon);
            std::vector<Neighbour> near;
            bool changed = false;
            for (const Neighbour& neighbour : touching)
                if (neighbour.entry->prepared.box.touches(box)) {
                    near.push_back(neighbour);
                    changed |= neighbour.entry->changed;
                }
            Tile& tile = entry.tiles[{face, row.number, cell.number}];
            if (!tile.part || changed || entry.changed || near != tile.touching) {
                auto fragments = fragments_of(entry, face, cell.polygon, near, planes);
                tile.part = std::make_shared<const FacePart>(FacePart{std::move(fragments)});
                tile.touching = std::move(near);
            }
            out.parts.push_back(tile.part);
        }
}

void SolidBuilder::build_brush(Entry& entry, const ItemId& id, const PlaneTable& planes) {
    auto result = std::make_shared<BrushSolid>();
    result->item = id;
    result->effect = entry.brush.effect;
    result->box = entry.prepared.box;
    auto whole = std::make_shared<FacePart>();
    for (size_t face = 0; face < entry.prepared.faces.size(); ++face) {
        const Polygon& polygon = entry.prepared.faces[face].polygon;
        const Box3 box = box_of(polygon);
        std::vector<Neighbour> touching;
        for (const Neighbour& neighbour : entry.touching)
            if (neighbour.entry->prepared.box.touches(box)) touching.push_back(neighbour);
        if (touching.size() > k_many) {
            build_tiles(entry, face, touching, planes, *result);
            continue;
        }
        // Tiles that nobody keeps up would one day be compared with brushes that are gone.
        std::erase_if(entry.tiles, [&](const auto& tile) { return tile.first[0] == face; });
        for (Fragment& fragment : fragments_of(entry, face, polygon, touching, planes))
            whole->fragments.push_back(std::move(fragment));
    }
    result->parts.push_back(std::move(whole));
    if (entry.brush.effect == Effect::fill) {
        std::vector<const PreparedBrush*> later_cuts;
        for (const Neighbour& neighbour : entry.touching)
            if (neighbour.later && neighbour.entry->brush.effect == Effect::cut)
                later_cuts.push_back(&neighbour.entry->prepared);
        result->matter = matter_of(entry.prepared, later_cuts);
    }
    entry.result = std::move(result);
}

Solid SolidBuilder::build(const Level& level, const Cancel& cancel) {
    if (last_.planes && level.layers == last_layers_) return last_; // layers are shared and never change
    const std::vector<OrderedBrush> ordered = ordered_brushes(level);
    // The table is shared with solids handed out before; it only grows, so a copy is made before adding.
    auto planes = std::make_shared<PlaneTable>(*planes_);
    if (planes->size() > 64 * (ordered.size() + 64)) { // mostly planes of brushes long gone
        planes = std::make_shared<PlaneTable>();
        entries_.clear();
    }

    std::vector<std::shared_ptr<Entry>> entries;
    std::vector<Box3> boxes;
    for (const OrderedBrush& brush : ordered) {
        auto& entry = entries_[brush.item->id];
        if (!entry || !(entry->brush == *brush.brush)) {
            entry = std::make_shared<Entry>();
            entry->brush = *brush.brush;
            entry->prepared = prepare(*brush.brush, *planes);
        }
        entries.push_back(entry);
        boxes.push_back(entry->prepared.box.grown(2e-6));
    }
    const std::vector<std::vector<int>> near = touching(boxes);

    std::vector<size_t> stale;
    for (size_t i = 0; i < entries.size(); ++i) {
        std::vector<Neighbour> touching;
        touching.reserve(near[i].size());
        bool changed = entries[i]->changed;
        auto add = [&](int k, bool later) {
            touching.push_back({entries[size_t(k)].get(), later});
            changed |= entries[size_t(k)]->changed;
        };
        for (const int k : near[i])
            if (size_t(k) > i) add(k, true);
        for (size_t n = near[i].size(); n-- > 0;)
            if (size_t(near[i][n]) < i) add(near[i][n], false);
        if (!changed && touching == entries[i]->touching) continue;
        entries[i]->touching = std::move(touching);
        stale.push_back(i);
        // The table of planes grows here, before brushes are built side by side.
        if (near[i].size() > k_many && entries[i]->tile_planes[0].empty())
            for (int axis = 0; axis < 3; ++axis)
                entries[i]->tile_planes[size_t(axis)] =
                    tile_planes_of(entries[i]->prepared.box, axis, *planes);
    }

    parallel_for(stale.size(), [&](size_t s) {
        if (!cancel.requested()) build_brush(*entries[stale[s]], ordered[stale[s]].item->id, *planes);
    });

    Solid solid;
    solid.planes = planes;
    if (cancel.requested()) {
        // Half-built entries must not be taken for finished ones.
        entries_.clear();
        planes_ = std::make_shared<PlaneTable>();
        return {};
    }
    std::unordered_map<ItemId, std::shared_ptr<Entry>> kept;
    for (size_t i = 0; i < entries.size(); ++i) {
        entries[i]->changed = false;
        solid.brushes.push_back(entries[i]->result);
        kept[ordered[i].item->id] = entries[i];
    }
    entries_ = std::move(kept);
    planes_ = planes;
    last_layers_ = level.layers;
    last_ = solid;
    return solid;
}

Solid build_solid(const Level& level) { return SolidBuilder().build(level); }

} // namespace rubble::build
