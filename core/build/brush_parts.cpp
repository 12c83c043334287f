#include "build/brush_parts.h"

#include <cmath>

#include "base/parallel.h"

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

MaterialId material_of(const Brush& brush, const FaceName& face) {
    const auto own = brush.looks.find(face);
    return own != brush.looks.end() ? own->second.material : brush.material;
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

/// Whether some part of a polygon lies in a brush or on its surface.
bool reaches(const PreparedBrush& brush, const Polygon& polygon, const Box3& box, const PlaneTable& planes) {
    return brush.box.touches(box) &&
           std::any_of(brush.cells.begin(), brush.cells.end(), [&](const PreparedCell& cell) {
               return cell.box.touches(box) && may_hold(cell, polygon, planes);
           });
}

/// Whether a brush meets a polygon before and after in the very same way: the planes that are new lie wholly
/// outside it. So it is for most of what stands on a floor, or cuts into it, wherever the floor is pushed.
bool meets_as_before(const BrushChange& change, const Polygon& polygon, const PlaneTable& planes) {
    if (!change.only_placed || !change.before || !change.after) return false;
    if (change.before->cells.size() != 1 || change.after->cells.size() != 1) return false;
    const auto &before = change.before->cells[0].faces, &after = change.after->cells[0].faces;
    if (before.size() != after.size()) return false;
    const auto is_behind = [&](geometry::PlaneRef plane) {
        return plane.id != polygon.support.id && !sides_of(polygon, plane, planes).front;
    };
    for (size_t i = 0; i < before.size(); ++i) {
        const auto was = before[i].polygon.support, now = after[i].polygon.support;
        if (!(was == now) && !(is_behind(was) && is_behind(now))) return false;
    }
    return true;
}

bool reaches(const BrushChange& change, const Polygon& polygon, const Box3& box, const PlaneTable& planes) {
    return (change.before && reaches(*change.before, polygon, box, planes)) ||
           (change.after && reaches(*change.after, polygon, box, planes));
}

bool cuts(const PreparedBrush* brush, const Box3& box) {
    return brush && brush->effect == Effect::cut && brush->box.touches(box);
}

/// The material of the matter that a cut opens: the last earlier fill that holds the place.
MaterialId material_behind(const Vec3& at_m, const Neighbours& touching) {
    for (const Neighbour& neighbour : touching) {
        if (neighbour.later || neighbour.prepared->effect != Effect::fill) continue;
        for (const PreparedCell& cell : neighbour.prepared->cells) {
            bool inside = true;
            for (const auto& face : cell.cell->faces) inside &= face.plane.distance(at_m) <= 1e-6;
            if (inside) return neighbour.brush->material;
        }
    }
    return {};
}

/// The part before, where the one now is no other.
std::shared_ptr<const SolidPart> kept(const std::shared_ptr<const SolidPart>& before,
                                      std::shared_ptr<const SolidPart> now) {
    const auto same = [](const auto& a, const auto& b) { return a == b || *a == *b; };
    return before && before->pieces == now->pieces &&
                   std::equal(before->matter.begin(), before->matter.end(), now->matter.begin(),
                              now->matter.end(), same)
               ? before
               : now;
}

/// A brush whose parts are built, with what touches the piece at hand.
struct Site {
    const Brush& brush;
    const PreparedBrush& prepared;
    const PlaneTable& planes;

    /// The cells that decide about a piece of a face of a cell: the brush's own others stand between the
    /// later and the earlier brushes.
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

    void add_pieces(size_t cell, const PreparedCell::Face& face, const Polygon& polygon, const Box3& box,
                    const Neighbours& near, SolidPart& part) const {
        const bool cut = prepared.effect == Effect::cut;
        for (Polygon& piece : clipped_face(polygon, prepared.effect, deciders(cell, near, box), planes)) {
            MaterialId material = face.material ? *face.material : material_of(brush, face.side.name);
            if (cut && material.empty()) material = material_behind(middle_of(piece), near);
            part.box.add(box_of(piece));
            part.pieces.push_back({std::move(piece), face.side, std::move(material), cut});
        }
    }

    /// A cell less the later cuts.
    void add_matter(const std::shared_ptr<const ConvexCell>& cell, const Neighbours& cuts,
                    SolidPart& part) const {
        if (cuts.empty()) return part.matter.push_back(cell);
        std::vector<ConvexCell> pieces{*cell};
        for (const Neighbour& cut : cuts)
            for (const PreparedCell& cutter : cut.prepared->cells) {
                std::vector<ConvexCell> next;
                for (ConvexCell& piece : pieces) {
                    if (!piece.box().touches(cutter.box))
                        next.push_back(std::move(piece));
                    else
                        for (ConvexCell& rest : geometry::subtracted(piece, *cutter.cell))
                            next.push_back(std::move(rest));
                }
                pieces = std::move(next);
            }
        for (ConvexCell& piece : pieces)
            part.matter.push_back(std::make_shared<const ConvexCell>(std::move(piece)));
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
        if (ConvexCell slice = geometry::clipped(rest, below); !slice.empty())
            out.push_back(std::move(slice));
        rest = geometry::clipped(rest, below.opposite());
        if (rest.empty()) break;
    }
    if (!rest.empty()) out.push_back(std::move(rest));
    return out;
}

bool same_shape(const BrushParts::FaceTile& a, const BrushParts::FaceTile& b) {
    return a.polygon == b.polygon;
}
bool same_shape(const BrushParts::CellTile& a, const BrushParts::CellTile& b) { return *a.cell == *b.cell; }

/// Gives new tiles the parts of those that were in their places. `alike`: the brush is no other but for its
/// place; then most tiles of a moved floor are what they were.
template <class Tile> void take_over(std::vector<Tile>& before, std::vector<Tile>& tiles, bool alike) {
    for (Tile& tile : tiles) {
        if (tile.part || before.empty()) continue;
        const auto same = std::find_if(before.begin(), before.end(), [&](const Tile& old) {
            return glm::length(old.box.low - tile.box.low) < 0.1 &&
                   glm::length(old.box.high - tile.box.high) < 0.1;
        });
        if (same == before.end()) continue;
        tile.part = same->part;
        tile.as_before = alike && same->part && same_shape(*same, tile);
    }
    before.clear();
}

/// Who is near each of some tiles. Where many are asked for it is looked up row by row: a floor has hundreds
/// of tiles and thousands of brushes on it. The order of the neighbours is kept.
class Rows {
public:
    template <class Tile>
    Rows(const std::vector<Tile>& tiles, const Neighbours& near, bool many) : all_(near) {
        if (!many) return;
        rows_.resize((tiles.size() + k_row - 1) / k_row);
        parallel_for(rows_.size(), [&](size_t row) {
            Box3 box;
            for (size_t i = row * k_row; i < std::min((row + 1) * k_row, tiles.size()); ++i)
                box.add(tiles[i].box);
            rows_[row] = those_near(near, box);
        });
    }
    Neighbours near(size_t tile, const Box3& box) const {
        return those_near(rows_.empty() ? all_ : rows_[tile / k_row], box);
    }

private:
    static constexpr size_t k_row = 16;

    const Neighbours& all_;
    std::vector<Neighbours> rows_;
};

/// Builds the tiles that are stale, side by side: one floor may be most of the work of an edit. `build` gets
/// a tile and those of `near` that touch it.
template <class Tile, class Stale, class Build>
void build_tiles(std::vector<Tile>& tiles, const Neighbours& near, Stale is_stale, Build build,
                 std::vector<std::shared_ptr<const SolidPart>>& parts) {
    constexpr size_t k_chunk = 8, k_many_tiles = 32;
    std::vector<Tile*> stale;
    for (Tile& tile : tiles)
        if (!tile.part || is_stale(tile)) stale.push_back(&tile);
    const Rows rows(tiles, near, stale.size() >= k_many_tiles);
    parallel_for(
        stale.size(),
        [&](size_t i) {
            auto part = std::make_shared<SolidPart>();
            build(*stale[i], rows.near(size_t(stale[i] - tiles.data()), stale[i]->box), *part);
            stale[i]->part = kept(stale[i]->part, std::move(part));
        },
        k_chunk);
    for (const Tile& tile : tiles) parts.push_back(tile.part);
}

} // namespace

void BrushParts::plan_tiles(const PreparedBrush& prepared, size_t touching, PlaneTable& planes) {
    if (touching <= k_many) return;
    for (int axis = 0; axis < 3; ++axis)
        tile_planes_[size_t(axis)] = tile_planes_of(prepared.box, axis, planes);
}

/// One build of a brush's parts.
struct BrushParts::Job {
    Site site;
    const Neighbours& touching;
    const std::vector<BrushChange>& changes;
    bool changed;
    bool only_placed; ///< and that in no more than its place and size, of one cell

    bool is_stale(const Polygon& polygon, const Box3& box, bool as_before = false) const {
        return (changed && !as_before) ||
               std::any_of(changes.begin(), changes.end(), [&](const BrushChange& change) {
                   return !meets_as_before(change, polygon, site.planes) &&
                          reaches(change, polygon, box, site.planes);
               });
    }
    bool is_cut_anew(const Box3& box, bool as_before = false) const {
        return (changed && !as_before) ||
               std::any_of(changes.begin(), changes.end(), [&](const BrushChange& change) {
                   return cuts(change.before, box) || cuts(change.after, box);
               });
    }
    Neighbours cuts_of(const PreparedCell& cell) const {
        Neighbours out;
        for (const Neighbour& n : touching)
            if (n.later && cuts(n.prepared, cell.box)) out.push_back(n);
        return out;
    }
};

/// All of a brush in one part. What nothing reached into is taken from the part before.
std::shared_ptr<const SolidPart> BrushParts::whole(const Job& job) const {
    const SolidPart* before = whole_.get();
    const Job now{job.site, job.touching, job.changes, job.changed || !before, false};
    const auto& cells = job.site.prepared.cells;
    // Most often nothing is stale: no part is made then.
    const bool any = std::any_of(cells.begin(), cells.end(), [&](const PreparedCell& cell) {
        return now.is_cut_anew(cell.box) ||
               std::any_of(cell.faces.begin(), cell.faces.end(),
                           [&](const auto& face) { return now.is_stale(face.polygon, face.box); });
    });
    if (!any) return whole_;
    auto part = std::make_shared<SolidPart>();
    size_t face_index = 0;
    for (size_t c = 0; c < cells.size(); ++c) {
        const PreparedCell& cell = cells[c];
        for (const PreparedCell::Face& face : cell.faces) {
            if (now.is_stale(face.polygon, face.box)) {
                job.site.add_pieces(c, face, face.polygon, face.box, those_near(job.touching, face.box),
                                    *part);
            } else {
                const int first = face_index == 0 ? 0 : before->face_ends[face_index - 1];
                for (int i = first; i < before->face_ends[face_index]; ++i) {
                    part->pieces.push_back(before->pieces[size_t(i)]);
                    part->box.add(box_of(part->pieces.back().polygon));
                }
            }
            part->face_ends.push_back(int(part->pieces.size()));
            ++face_index;
        }
        if (job.site.prepared.effect == Effect::fill) {
            if (now.is_cut_anew(cell.box)) {
                job.site.add_matter(cell.cell, job.cuts_of(cell), *part);
            } else {
                const int first = c == 0 ? 0 : before->cell_ends[c - 1];
                for (int i = first; i < before->cell_ends[c]; ++i)
                    part->matter.push_back(before->matter[size_t(i)]);
            }
        }
        part->cell_ends.push_back(int(part->matter.size()));
    }
    part->pieces.shrink_to_fit();
    return kept(whole_, std::move(part));
}

void BrushParts::add_face_tiles(const Job& job, std::vector<std::shared_ptr<const SolidPart>>& parts) {
    const PlaneTable& planes = job.site.planes;
    std::vector<FaceTile> before;
    size_t index = 0;
    for (size_t c = 0; c < job.site.prepared.cells.size(); ++c)
        for (const PreparedCell::Face& face : job.site.prepared.cells[c].faces) {
            const Neighbours near = those_near(job.touching, face.box);
            if (face_tiles_.size() <= index) face_tiles_.emplace_back();
            auto& [cut_up, tiles] = face_tiles_[index++];
            if (const bool many = near.size() > k_many; tiles.empty() || cut_up != many || job.changed) {
                cut_up = many;
                before = std::move(tiles);
                tiles.clear();
                if (!many) tiles.push_back({face.polygon, face.box, nullptr, false});
                const auto [first, second] =
                    axes_but(largest_axis(glm::abs(planes.normal(face.polygon.support))));
                if (many)
                    for (const Strip& row : strips_of(face.polygon, tile_planes_[first], planes))
                        for (Strip& tile : strips_of(row.polygon, tile_planes_[second], planes)) {
                            const Box3 box = box_of(tile.polygon);
                            tiles.push_back({std::move(tile.polygon), box, nullptr, false});
                        }
            }
            take_over(before, tiles, job.only_placed);
            build_tiles(
                tiles, near,
                [&](const FaceTile& tile) { return job.is_stale(tile.polygon, tile.box, tile.as_before); },
                [&](const FaceTile& tile, const Neighbours& near_tile, SolidPart& part) {
                    job.site.add_pieces(c, face, tile.polygon, tile.box, near_tile, part);
                },
                parts);
        }
}

void BrushParts::add_cell_tiles(const Job& job, std::vector<std::shared_ptr<const SolidPart>>& parts) {
    std::vector<CellTile> before;
    for (size_t c = 0; c < job.site.prepared.cells.size(); ++c) {
        const PreparedCell& cell = job.site.prepared.cells[c];
        const Neighbours cuts = job.cuts_of(cell);
        if (cell_tiles_.size() <= c) cell_tiles_.emplace_back();
        auto& [cut_up, tiles] = cell_tiles_[c];
        if (const bool many = cuts.size() > k_many; tiles.empty() || cut_up != many || job.changed) {
            cut_up = many;
            before = std::move(tiles);
            tiles.clear();
            if (!many) tiles.push_back({cell.cell, cell.box, nullptr, false});
            const auto [first, second] = axes_but(least_axis(cell.box.high - cell.box.low));
            if (many)
                for (const ConvexCell& row :
                     slices_of(*cell.cell, first, tile_planes_[first], job.site.planes))
                    for (ConvexCell& tile : slices_of(row, second, tile_planes_[second], job.site.planes)) {
                        const Box3 box = tile.box();
                        tiles.push_back(
                            {std::make_shared<const ConvexCell>(std::move(tile)), box, nullptr, false});
                    }
        }
        take_over(before, tiles, job.only_placed);
        build_tiles(
            tiles, cuts, [&](const CellTile& tile) { return job.is_cut_anew(tile.box, tile.as_before); },
            [&](const CellTile& tile, const Neighbours& near_tile, SolidPart& part) {
                job.site.add_matter(tile.cell, near_tile, part);
            },
            parts);
    }
}

std::vector<std::shared_ptr<const SolidPart>>
BrushParts::build(const Brush& brush, const PreparedBrush& prepared, const Neighbours& touching,
                  const std::vector<BrushChange>& changes, OwnChange own, const PlaneTable& planes) {
    const bool only_placed = own == OwnChange::placed && prepared.cells.size() == 1;
    const Job job{{brush, prepared, planes}, touching, changes, own != OwnChange::none, only_placed};
    if (touching.size() <= k_many) {
        face_tiles_.clear(), cell_tiles_.clear();
        whole_ = whole(job);
        return {whole_};
    }
    whole_.reset();
    std::vector<std::shared_ptr<const SolidPart>> parts;
    add_face_tiles(job, parts);
    if (prepared.effect == Effect::fill) add_cell_tiles(job, parts);
    return parts;
}

} // namespace rubble::build
