#include "check/tile_mends.h"

#include <algorithm>
#include <cmath>
#include <set>

#include "base/tolerance.h"
#include "check/flight.h"
#include "edit/tiles.h"
#include "motion/matter.h"

namespace rubble::check {

namespace {

constexpr int k_most_cells_more = 4;
constexpr size_t k_most_cleared = 16;

/// The cells of one layer around a near miss.
class CellMender {
public:
    CellMender(const Level& level, const Layer& layer, const NearMiss& miss, const Character& c)
        : layer_(layer),
          tiles_(**layer.tiles),
          frame_(level.frame),
          miss_(miss),
          c_(c) {
        const double way = miss.landing.x - miss.take_off.x;
        ahead_ = way < 0 ? -1 : 1;
    }

    std::vector<std::vector<Mend>> run() const {
        std::vector<std::vector<Mend>> out;
        if (miss_.limit == Limit::gap) {
            out.push_back(led_on(miss_.landing, -ahead_, "Lead the landing in %1 on by %2."));
            out.push_back(led_on(miss_.take_off, ahead_, "Lead the take-off in %1 on by %2."));
            out.push_back(deck_half_way());
        }
        if (miss_.limit == Limit::height || miss_.limit == Limit::step) out.push_back(step_before());
        if (miss_.limit == Limit::fall) out.push_back(deck_half_way());
        return out;
    }

private:
    bool is_solid(CellAt at) const {
        return !collision_outline(tiles_.sheet.get(), tiles_.grid.at(at).number()).empty();
    }
    /// What is painted where there is nothing like it beside: a whole cell.
    Tile whole() const {
        if (!tiles_.sheet) return Tile(0);
        for (const auto& [number, tile] : tiles_.sheet->tiles)
            if (tile.collision == TileCollision::full && tile.acts == TileActs::nothing) return Tile(number);
        return Tile();
    }
    Tile deck() const {
        if (tiles_.sheet)
            for (const auto& [number, tile] : tiles_.sheet->tiles)
                if (tile.collision == TileCollision::one_way) return Tile(number);
        return whole();
    }
    CellAt under(const Vec3& feet) const {
        return cell_at(tiles_, frame_, feet - Vec3(0, 0, tolerance::limit_m * 10));
    }
    /// A mend that paints cells which are all empty yet; without any where one is not.
    Mend painted(std::vector<TileGrid::Change> cells, const char* text, double length_m) const {
        Mend mend;
        for (const auto& change : cells)
            if (change.tile.empty() || is_solid(change.at)) return mend;
        mend.says = {{text, {motion::layer_source(layer_.id), Metres{length_m}}}};
        mend.cells.push_back({layer_.id, std::move(cells)});
        return mend;
    }
    static void keep(std::vector<Mend>& mends, Mend mend) {
        if (!mend.cells.empty()) mends.push_back(std::move(mend));
    }

    /// The ground under some feet goes on by one cell more each time.
    std::vector<Mend> led_on(const Vec3& feet, int towards, const char* text) const {
        std::vector<Mend> out;
        // The feet may reach over the edge: the ground begins further back.
        CellAt edge = under(feet);
        for (int back = 0; back < 2 && !is_solid(edge); ++back) edge.column -= towards;
        if (!is_solid(edge)) return out;
        while (is_solid({edge.column + towards, edge.row})) edge.column += towards;
        const Tile own = tiles_.grid.at(edge);
        const SheetTile* tile = tiles_.sheet ? tiles_.sheet->tile(own.number()) : nullptr;
        const bool goes_on =
            !tile || tile->collision == TileCollision::full || tile->collision == TileCollision::one_way;
        const int least = std::max(1, int(std::ceil(miss_.missing_m / tiles_.cell_m)));
        for (int more = least; more < least + k_most_cells_more; ++more) {
            std::vector<TileGrid::Change> cells;
            for (int i = 1; i <= more; ++i)
                cells.push_back(
                    {{edge.column + i * towards, edge.row}, goes_on ? Tile(own.number()) : whole()});
            keep(out, painted(std::move(cells), text, more * tiles_.cell_m));
        }
        return out;
    }

    std::vector<Mend> deck_half_way() const {
        std::vector<Mend> out;
        const double low = std::min(miss_.take_off.z, miss_.landing.z);
        for (const double part : {0.5, 0.65, 0.35}) {
            Vec3 at = miss_.take_off + (miss_.landing - miss_.take_off) * part;
            at.z = miss_.limit == Limit::fall ? (miss_.take_off.z + miss_.landing.z) / 2 : low;
            keep(out, painted({{under(at), deck()}}, "Put a deck of %2 half-way, in %1.", tiles_.cell_m));
        }
        return out;
    }

    /// Cells on one another, beside the foot of what is too high.
    std::vector<Mend> step_before() const {
        std::vector<Mend> out;
        CellAt foot = cell_at(tiles_, frame_, miss_.take_off + Vec3(0, 0, tolerance::limit_m * 10));
        for (int near = 0; near < 3 && is_solid(foot); ++near) foot.column -= ahead_;
        const double highest = std::max(highest_ledge(c_), c_.step_height_m);
        for (int high = 1; high * tiles_.cell_m <= highest; ++high)
            for (int aside = 0; aside < 2; ++aside) {
                std::vector<TileGrid::Change> cells;
                for (int i = 0; i < high; ++i)
                    cells.push_back({{foot.column - aside * ahead_, foot.row - i}, whole()});
                keep(out,
                     painted(std::move(cells), "Put a step %2 high in %1 before it.", high * tiles_.cell_m));
            }
        return out;
    }

    const Layer& layer_;
    const TileLayer& tiles_;
    Frame frame_;
    const NearMiss& miss_;
    const Character& c_;
    int ahead_ = 1;
};

} // namespace

std::vector<std::vector<Mend>> cell_mends(const Level& level, const LayerId& layer, const NearMiss& miss,
                                          const Character& character) {
    for (const auto& one : level.layers)
        if (one->id == layer && one->tiles && level.frame == Frame::side)
            return CellMender(level, *one, miss, character).run();
    return {};
}

std::vector<Mend> clearing_mends(const Level& level, std::span<const Vec3> feet, const Character& c,
                                 bool crouched) {
    std::vector<Mend> out;
    const bool side = level.frame == Frame::side;
    const double near = tolerance::limit_m * 10, r = c.radius_m - near;
    const double high = (crouched ? c.crouched_height_m : c.height_m) - near;
    for (const auto& layer : level.layers) {
        if (!layer->tiles || !(*layer->tiles)->solid) continue;
        const TileLayer& tiles = **layer->tiles;
        std::set<CellAt> in_the_way;
        for (const Vec3& at : feet) {
            const Vec3 low = side ? at + Vec3(-r, 0, c.step_height_m) : at - Vec3(r, r, 0);
            const Vec3 top = side ? at + Vec3(r, 0, high) : at + Vec3(r, r, 0);
            const CellAt a = cell_at(tiles, level.frame, low), b = cell_at(tiles, level.frame, top);
            for (int row = std::min(a.row, b.row); row <= std::max(a.row, b.row); ++row)
                for (int column = a.column; column <= b.column; ++column)
                    if (!collision_outline(tiles.sheet.get(), tiles.grid.at({column, row}).number()).empty())
                        in_the_way.insert({column, row});
            if (in_the_way.size() > k_most_cleared) break;
        }
        if (in_the_way.empty() || in_the_way.size() > k_most_cleared) continue;
        Mend mend;
        MendCells cells{layer->id, {}};
        for (const CellAt& at : in_the_way) cells.cells.push_back({at, Tile()});
        mend.says = {{"Clear %2 cells of %1 that are in the way.",
                      {motion::layer_source(layer->id), std::to_string(in_the_way.size())}}};
        mend.cells.push_back(std::move(cells));
        out.push_back(std::move(mend));
    }
    return out;
}

} // namespace rubble::check
