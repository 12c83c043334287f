#include "build/tile_matter.h"

#include <algorithm>
#include <cmath>
#include <unordered_map>

#include "base/tolerance.h"

namespace rubble::build {

namespace {

/// A part of a cell between two upright lines, in cells from its lower left.
struct Slab {
    double left, right, low_left, low_right, high_left, high_right;
};

/// Places and slopes in cells that are one.
constexpr double k_same = 1e-9;

bool same(double a, double b) { return std::abs(a - b) <= k_same; }

/// The inside of a simple closed line as slabs: the plane is parted at all corners, and within a part the
/// inside lies between the first and the second edge from below, the third and the fourth, and so on.
std::vector<Slab> slabs_of(const std::vector<Vec2>& outline) {
    std::vector<double> lines;
    for (Vec2 p : outline) lines.push_back(p.x);
    std::sort(lines.begin(), lines.end());
    lines.erase(std::unique(lines.begin(), lines.end(), same), lines.end());
    std::vector<Slab> out;
    for (size_t k = 0; k + 1 < lines.size(); ++k) {
        struct Edge {
            double at_left, at_right;
        };
        std::vector<Edge> edges;
        const double left = lines[k], right = lines[k + 1], middle = (left + right) / 2;
        for (size_t i = 0; i < outline.size(); ++i) {
            const Vec2 a = outline[i], b = outline[(i + 1) % outline.size()];
            if (std::min(a.x, b.x) > middle || std::max(a.x, b.x) < middle) continue;
            const auto height = [&](double x) { return a.y + (b.y - a.y) * (x - a.x) / (b.x - a.x); };
            edges.push_back({height(left), height(right)});
        }
        std::sort(edges.begin(), edges.end(), [](const Edge& a, const Edge& b) {
            return a.at_left + a.at_right < b.at_left + b.at_right;
        });
        for (size_t e = 0; e + 1 < edges.size(); e += 2)
            out.push_back({left, right, edges[e].at_left, edges[e].at_right, edges[e + 1].at_left,
                           edges[e + 1].at_right});
    }
    return out;
}

/// What a tile of a sheet does to the character.
TileMatterKind kind_of(const TileSheet* sheet, int number) {
    const SheetTile* own = sheet ? sheet->tile(number) : nullptr;
    if (own && own->acts == TileActs::deadly) return TileMatterKind::deadly;
    return own && own->collision == TileCollision::one_way ? TileMatterKind::one_way : TileMatterKind::solid;
}

/// A slab cut at an upright line within it.
std::pair<Slab, Slab> parted(const Slab& slab, double at) {
    const double t = (at - slab.left) / (slab.right - slab.left);
    const double low = slab.low_left + (slab.low_right - slab.low_left) * t,
                 high = slab.high_left + (slab.high_right - slab.high_left) * t;
    return {{slab.left, at, slab.low_left, low, slab.high_left, high},
            {at, slab.right, low, slab.low_right, high, slab.high_right}};
}

/// What a kind of tile, lying as it does, brings; worked out once for each.
class TileShapes {
public:
    explicit TileShapes(const TileSheet* sheet) : sheet_(sheet) {}

    struct Shape {
        TileMatterKind kind = TileMatterKind::solid;
        bool full = false;
        std::vector<Slab> slabs;
    };
    const Shape& of(Tile tile) {
        const int key = tile.number() * 8 + int(tile.mirrored()) * 4 + tile.turns();
        const auto [known, is_new] = shapes_.try_emplace(key);
        if (is_new) known->second = made(tile);
        return known->second;
    }

private:
    Shape made(Tile tile) const {
        Shape shape;
        shape.kind = kind_of(sheet_, tile.number());
        std::vector<Vec2> outline = collision_outline(sheet_, tile.number());
        for (Vec2& p : outline) p = placed(tile, p);
        shape.slabs = slabs_of(outline);
        shape.full = shape.slabs.size() == 1 && same(shape.slabs[0].left, 0) &&
                     same(shape.slabs[0].right, 1) && same(shape.slabs[0].low_left, 0) &&
                     same(shape.slabs[0].low_right, 0) && same(shape.slabs[0].high_left, 1) &&
                     same(shape.slabs[0].high_right, 1);
        return shape;
    }

    const TileSheet* sheet_;
    std::unordered_map<int, Shape> shapes_;
};

/// Puts slabs together into prisms, column of cells after column, from the bottom up: what lies on a slab
/// becomes part of it where the line between is the same, and what goes on to the right where both its lines
/// do.
class Joiner {
public:
    /// Adds what lies between two upright lines; `slabs` are sorted upwards and do not overlap.
    void add(const std::vector<Slab>& slabs) {
        for (const Slab& slab : slabs) pile(slab);
    }
    void end_column(double cell_left) {
        // What ended further left is done.
        std::erase_if(open_, [&](const auto& one) { return prisms_[one.second].right < cell_left - k_same; });
        std::sort(piled_.begin(), piled_.end(), [](const Slab& a, const Slab& b) { return a.left < b.left; });
        for (const Slab& slab : piled_) go_on(slab, cell_left);
        piled_.clear();
    }

    std::vector<TilePrism> finished(const std::function<TilePrism(const TilePrism&)>& placed_in_level) {
        std::vector<TilePrism> out;
        out.reserve(prisms_.size());
        for (const TilePrism& prism : prisms_) out.push_back(placed_in_level(prism));
        return out;
    }

private:
    /// On top of what lies there, where the lines meet all along.
    void pile(const Slab& slab) {
        for (auto below = piled_.rbegin(); below != piled_.rend(); ++below) {
            if (!same(below->left, slab.left) || !same(below->right, slab.right)) continue;
            if (!same(below->high_left, slab.low_left) || !same(below->high_right, slab.low_right)) break;
            below->high_left = slab.high_left, below->high_right = slab.high_right;
            return;
        }
        piled_.push_back(slab);
    }

    void go_on(const Slab& slab, double cell_left) {
        const TilePrism prism{cell_left + slab.left, cell_left + slab.right, slab.low_left,
                              slab.low_right,        slab.high_left,         slab.high_right};
        for (auto open = open_.lower_bound(prism.low_left - k_same);
             open != open_.end() && open->first <= prism.low_left + k_same; ++open) {
            TilePrism& left = prisms_[open->second];
            if (!same(left.right, prism.left) || !goes_on(left, prism)) continue;
            left.right = prism.right, left.low_right = prism.low_right, left.high_right = prism.high_right;
            const size_t grown = open->second;
            open_.erase(open);
            open_.emplace(prism.low_right, grown);
            return;
        }
        open_.emplace(prism.low_right, prisms_.size());
        prisms_.push_back(prism);
    }

    /// Whether both lines of a prism go straight on in the next.
    static bool goes_on(const TilePrism& a, const TilePrism& b) {
        if (!same(a.low_right, b.low_left) || !same(a.high_right, b.high_left)) return false;
        const auto slope = [](double from, double to, const TilePrism& over) {
            return (to - from) / (over.right - over.left);
        };
        return same(slope(a.low_left, a.low_right, a), slope(b.low_left, b.low_right, b)) &&
               same(slope(a.high_left, a.high_right, a), slope(b.high_left, b.high_right, b));
    }

    std::vector<Slab> piled_;
    std::vector<TilePrism> prisms_;
    std::multimap<double, size_t> open_; ///< prisms that may go on, by the lower line's right end
};

/// The cells of one column of chunks.
class StripCells {
public:
    StripCells(const TileGrid& grid, int strip) : strip_(strip) {
        grid.for_each_chunk([&](int column, int row, const Shared<TileGrid::Chunk>& chunk) {
            if (column == strip) chunks_[row] = chunk.get();
        });
    }
    /// Calls `visit(row, tile)` for the tiles of a column, from the bottom up.
    template <class F> void upwards(int column_in_chunk, F visit) const {
        for (auto chunk = chunks_.rbegin(); chunk != chunks_.rend(); ++chunk)
            for (int r = chunk_cells; r-- > 0;)
                if (const Tile tile = (*chunk->second)[size_t(r * chunk_cells + column_in_chunk)];
                    !tile.empty())
                    visit(chunk->first * chunk_cells + r, tile);
    }
    int first_column() const { return strip_ * chunk_cells; }

private:
    int strip_;
    std::map<int, const TileGrid::Chunk*> chunks_;
};

/// The prisms of one kind of matter in some columns.
std::vector<TilePrism> joined(const StripCells& cells, TileShapes& shapes, TileMatterKind kind,
                              const std::function<TilePrism(const TilePrism&)>& placed_in_level) {
    Joiner joiner;
    std::vector<std::pair<int, const TileShapes::Shape*>> stack; // rows from the bottom up
    for (int c = 0; c < chunk_cells; ++c) {
        stack.clear();
        cells.upwards(c, [&](int row, Tile tile) {
            const auto& shape = shapes.of(tile);
            if (shape.kind == kind && !shape.slabs.empty()) stack.emplace_back(row, &shape);
        });
        for (size_t first = 0; first < stack.size();) {
            size_t last = first + 1;
            while (last < stack.size() && stack[last].first == stack[last - 1].first - 1) ++last;
            // All that lies on each other is parted at the same lines, so that it can become one.
            std::vector<double> lines;
            for (size_t i = first; i < last; ++i)
                if (!stack[i].second->full)
                    for (const Slab& slab : stack[i].second->slabs)
                        lines.push_back(slab.left), lines.push_back(slab.right);
            std::sort(lines.begin(), lines.end());
            lines.erase(std::unique(lines.begin(), lines.end(), same), lines.end());
            for (size_t i = first; i < last; ++i) {
                std::vector<Slab> slabs = stack[i].second->slabs;
                for (const double line : lines)
                    for (size_t s = 0, n = slabs.size(); s < n; ++s)
                        if (line > slabs[s].left + k_same && line < slabs[s].right - k_same) {
                            const auto [left, right] = parted(slabs[s], line);
                            slabs[s] = left;
                            slabs.push_back(right);
                        }
                for (Slab& slab : slabs) { // upwards from row 0's lower side
                    const double up = -stack[i].first;
                    slab.low_left += up, slab.low_right += up, slab.high_left += up, slab.high_right += up;
                }
                std::sort(slabs.begin(), slabs.end(), [](const Slab& a, const Slab& b) {
                    return std::pair(a.low_left + a.low_right, a.left) <
                           std::pair(b.low_left + b.low_right, b.left);
                });
                joiner.add(slabs);
            }
            first = last;
        }
        joiner.end_column(cells.first_column() + c);
    }
    return joiner.finished(placed_in_level);
}

TileMatterBuilder::Strips strips_of(const LayerId& id, const TileLayer& layer, Frame frame, int strip) {
    const FrameLayout layout = layout_of(frame);
    const double right = layer.origin[layout.right], up = layer.origin[layout.ahead];
    const auto placed_in_level = [&](const TilePrism& p) {
        const auto x = [&](double v) { return right + v * layer.cell_m; };
        // Row 0's lower side lies a cell below the origin.
        const auto y = [&](double v) { return up + (v - 1) * layer.cell_m; };
        return TilePrism{x(p.left),      x(p.right),     y(p.low_left),
                         y(p.low_right), y(p.high_left), y(p.high_right)};
    };
    const StripCells cells(layer.grid, strip);
    TileShapes shapes(layer.sheet.get());
    TileMatterBuilder::Strips out;
    for (const auto kind : {TileMatterKind::solid, TileMatterKind::one_way, TileMatterKind::deadly}) {
        TileStrip made{id, strip, kind, joined(cells, shapes, kind, placed_in_level), {}};
        if (!made.prisms.empty()) out.push_back(std::make_shared<const TileStrip>(std::move(made)));
    }
    return out;
}

/// The matter of a picture that is placed freely; null where it has none.
std::shared_ptr<const TileStrip> strip_of(const PlacedPicture& picture, const ItemId& item,
                                          const LayerId& layer) {
    const std::vector<Vec2> outline = matter_outline(picture);
    if (outline.size() < 3) return {};
    TileStrip made{layer, 0, kind_of(picture.sheet.get(), picture.number), {}, item};
    for (const Slab& slab : slabs_of(outline))
        made.prisms.push_back(
            {slab.left, slab.right, slab.low_left, slab.low_right, slab.high_left, slab.high_right});
    if (made.prisms.empty()) return {};
    return std::make_shared<const TileStrip>(std::move(made));
}

} // namespace

TileMatterBuilder::Strips TileMatterBuilder::build(const Level& level) {
    Strips out;
    std::map<std::pair<LayerId, int>, Known> now;
    for (const auto& layer : level.layers) {
        if (!layer->tiles || !(*layer->tiles)->solid) continue;
        const TileLayer& tiles = **layer->tiles;
        std::map<int, Known> strips;
        tiles.grid.for_each_chunk([&](int column, int row, const Shared<TileGrid::Chunk>& chunk) {
            Known& strip = strips[column];
            strip.key.chunks.push_back(chunk.get()), strip.key.rows.push_back(row);
            strip.held.push_back(chunk);
        });
        for (auto& [column, strip] : strips) {
            strip.key.cell_m = tiles.cell_m, strip.key.origin = tiles.origin;
            strip.key.sheet = tiles.sheet.get(), strip.key.frame = level.frame;
            strip.sheet = tiles.sheet;
            const auto before = known_.find({layer->id, column});
            strip.strips = before != known_.end() && before->second.key == strip.key
                               ? before->second.strips
                               : strips_of(layer->id, tiles, level.frame, column);
            out.insert(out.end(), strip.strips.begin(), strip.strips.end());
            now[{layer->id, column}] = std::move(strip);
        }
    }
    known_ = std::move(now);
    add_pictures(level, out);
    return out;
}

void TileMatterBuilder::add_pictures(const Level& level, Strips& strips) {
    std::map<ItemId, std::pair<PlacedPicture, std::shared_ptr<const TileStrip>>> now;
    for_each_item(level, [&](const Item& item, const Layer& layer) {
        const PlacedPicture* picture = item.picture();
        // What stands in the other plane is no part of this one.
        if (!picture || !picture->solid || picture->upright != (level.frame == Frame::side)) return;
        if (level.frame == Frame::space) return;
        auto& [of, strip] = now[item.id];
        if (const auto before = pictures_.find(item.id);
            before != pictures_.end() && before->second.first == *picture)
            strip = before->second.second;
        else
            strip = strip_of(*picture, item.id, layer.id);
        of = *picture;
        if (strip) strips.push_back(strip);
    });
    pictures_ = std::move(now);
}

std::shared_ptr<const WalkedCells> walked_cells(const Level& level) {
    for (const auto& layer : level.layers) {
        if (!layer->tiles || !(*layer->tiles)->solid) continue;
        const TileLayer& tiles = **layer->tiles;
        const TileBox& area = tiles.grid.area();
        WalkedCells cells;
        cells.layer = layer->id;
        cells.cell_m = tiles.cell_m;
        cells.corner = flat(place_of(tiles, Frame::plan, area.low, {0, 1}));
        cells.columns = area.columns(), cells.rows = area.rows();
        cells.kinds.assign(size_t(std::max(0, cells.columns)) * size_t(std::max(0, cells.rows)),
                           WalkedCells::Kind::free);
        tiles.grid.for_each_tile(area, [&](CellAt at, Tile tile) {
            if (collision_outline(tiles.sheet.get(), tile.number()).empty()) return;
            const SheetTile* own = tiles.sheet ? tiles.sheet->tile(tile.number()) : nullptr;
            const bool deadly = own && own->acts == TileActs::deadly;
            cells.kinds[size_t(at.row - area.low.row) * size_t(cells.columns) +
                        size_t(at.column - area.low.column)] =
                deadly ? WalkedCells::Kind::deadly : WalkedCells::Kind::wall;
        });
        return std::make_shared<const WalkedCells>(std::move(cells));
    }
    return {};
}

} // namespace rubble::build
