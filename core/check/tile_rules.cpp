#include "check/tile_rules.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

#include "base/tolerance.h"
#include "edit/sheet_collision.h"

namespace rubble::check {

using build::TileMatterKind;
using build::TilePrism;

namespace {

/// As many of one kind are told of a layer.
constexpr int k_most_of_a_kind = 10;
/// Parts of a tile's picture from which it looks solid, or open.
constexpr double k_looks_solid = 0.4, k_looks_open = 0.5;
/// Parts of a cell: steps between slopes and gaps between outlines that nobody drew on purpose.
constexpr double k_lip = 0.3, k_gap = 0.2;
constexpr double k_hiding_opacity = 0.75, k_hiding_part = 0.7;

/// What of a tile's picture is opaque within its outline, and without it as a part of the whole tile.
struct Look {
    double within = 1, without = 0;
};

Look look_of(const TileSheet& sheet, int number) {
    const SheetTile* tile = sheet.tile(number);
    if (!tile || !sheet.picture) return {};
    const std::vector<Vec2> outline = collision_outline(&sheet, number);
    const auto [left, top, width, height] = pixels_of(sheet, *tile);
    int in = 0, opaque_in = 0, opaque_out = 0;
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x) {
            const bool opaque = sheet.picture->alpha(left + x, top + y) >= 128;
            const bool inside = in_outline(outline, {(x + 0.5) / width, 1 - (y + 0.5) / height});
            in += inside, opaque_in += inside && opaque, opaque_out += !inside && opaque;
        }
    const double all = std::max(1.0, double(width) * height);
    return {in > 0 ? double(opaque_in) / in : 1, opaque_out / all};
}

class TileFinder {
public:
    TileFinder(const Project& project, const Level& level, const CheckResult& result)
        : level_(level),
          result_(result),
          layout_(layout_of(level.frame)),
          c_(character_of(project, level)),
          who_(character_name(project, level)) {}

    std::vector<Finding> run() {
        for (const auto& layer : level_.layers) {
            if (!layer->tiles) continue;
            layer_ = layer.get(), tiles_ = layer->tiles->get();
            look_for_sheet();
            if (tiles_->sheet) look_at_tiles();
            if (tiles_->solid && level_.frame == Frame::side) meet();
            if (tiles_->solid) slivers();
            if (tiles_->sheet && tiles_->depth < 0 && tiles_->opacity >= k_hiding_opacity && !layer_->hidden)
                hides();
        }
        return std::move(out_);
    }

private:
    ItemId layer_id() const { return motion::layer_source(layer_->id); }
    void add(RuleId rule, Sentences says, const Vec3& at) {
        out_.push_back({rule, rule_of(rule).severity, std::move(says), at, {layer_id()}});
    }
    Vec3 in_level(Vec2 place) const {
        Vec3 at(0);
        at[layout_.right] = place.x, at[layout_.ahead] = place.y;
        return at;
    }

    void look_for_sheet() {
        if (tiles_->sheet_file.empty()) return; // plain cells
        const Vec3 at = place_of(*tiles_, level_.frame, tiles_->grid.area().low);
        if (!tiles_->sheet)
            add(RuleId::sheet_missing,
                {{"The sheet %1 of layer %2 could not be read: its tiles count as whole cells.",
                  {tiles_->sheet_file, layer_->name}},
                 {"Put the file back, or choose another sheet in the facts of the layer."}},
                at);
        else if (!tiles_->sheet->picture)
            add(RuleId::sheet_missing,
                {{"The picture %1 of sheet %2 could not be read: its tiles are drawn grey.",
                  {tiles_->sheet->image, tiles_->sheet_file}}},
                at);
    }

    std::string name_of(int number) const {
        const SheetTile* tile = tiles_->sheet->tile(number);
        return tile && !tile->name.empty() ? tile->name : std::to_string(number);
    }

    /// The numbers that are painted, each with a cell in which it lies.
    std::map<int, CellAt> painted() const {
        std::map<int, CellAt> out;
        int last = -1;
        tiles_->grid.for_each_tile(tiles_->grid.area(), [&](CellAt at, Tile tile) {
            if (tile.number() == last) return; // most tiles lie beside their like
            last = tile.number();
            out.try_emplace(last, at);
        });
        return out;
    }

    void look_at_tiles() {
        std::map<RuleId, int> told;
        for (const auto& [number, at] : painted()) {
            const Vec3 place = place_of(*tiles_, level_.frame, at);
            const auto tell = [&, &number = number](RuleId rule, const char* text) {
                if (told[rule]++ < k_most_of_a_kind)
                    add(rule, {{text, {name_of(number), layer_->name}}}, place);
            };
            const SheetTile* tile = tiles_->sheet->tile(number);
            if (!tile) {
                tell(RuleId::unknown_tile,
                     "Tile %1 of layer %2 is not on its sheet: the level is older than the sheet.");
                continue;
            }
            if (!tiles_->solid || tile->acts == TileActs::deadly) continue;
            const Look look = look_of(*tiles_->sheet, number);
            if (tile->collision == TileCollision::none ? look.without >= 0.95 : look.without >= k_looks_solid)
                tell(RuleId::seems_solid,
                     "Tile %1 of layer %2 looks solid where the character goes through it.");
            if (tile->collision != TileCollision::none && look.within < k_looks_open)
                tell(RuleId::seems_open,
                     "Tile %1 of layer %2 keeps the character out where it shows nothing.");
        }
    }

    /// The layer's solid prisms by their left sides.
    std::vector<TilePrism> prisms() const {
        std::vector<TilePrism> out;
        for (const auto& strip : result_.solid->tiles)
            if (strip->layer == layer_->id && strip->item.empty() && strip->kind == TileMatterKind::solid)
                out.insert(out.end(), strip->prisms.begin(), strip->prisms.end());
        std::sort(out.begin(), out.end(),
                  [](const TilePrism& a, const TilePrism& b) { return a.left < b.left; });
        return out;
    }

    bool in_matter(Vec2 place) const {
        for (const auto& strip : result_.solid->tiles) {
            if (strip->kind == TileMatterKind::deadly) continue;
            for (const TilePrism& p : strip->prisms) {
                if (place.x < p.left || place.x > p.right) continue;
                const double part = (place.x - p.left) / std::max(p.right - p.left, 1e-12);
                if (place.y > p.low_left + (p.low_right - p.low_left) * part &&
                    place.y < p.high_left + (p.high_right - p.high_left) * part)
                    return true;
            }
        }
        return false;
    }

    /// Slopes whose neighbours begin a little higher or lower than they end.
    void meet() {
        const std::vector<TilePrism> all = prisms();
        const double near = tolerance::limit_m;
        int told = 0;
        for (const TilePrism& a : all) {
            auto b = std::lower_bound(all.begin(), all.end(), a.right - near,
                                      [](const TilePrism& p, double x) { return p.left < x; });
            for (; b != all.end() && b->left <= a.right + near && told < k_most_of_a_kind; ++b) {
                const double lip = std::abs(a.high_right - b->high_left);
                const bool slopes = std::abs(a.high_left - a.high_right) > near ||
                                    std::abs(b->high_left - b->high_right) > near;
                if (!slopes || lip <= near || lip > k_lip * tiles_->cell_m) continue;
                const double higher = std::max(a.high_right, b->high_left);
                if (in_matter({a.right - near, higher + near}) || in_matter({a.right + near, higher + near}))
                    continue;
                add(RuleId::outline_lip,
                    {{"The outlines in layer %1 leave a lip of %2 within a slope.",
                      {layer_->name, Metres{lip}}},
                     {"Draw them to one point at the edge of the tile."}},
                    in_level({a.right, higher}));
                ++told;
            }
        }
    }

    /// Gaps beside each other, and over each other, that nothing fits in.
    void slivers() {
        const std::vector<TilePrism> all = prisms();
        const double near = tolerance::limit_m, gap_m = k_gap * tiles_->cell_m;
        int told = 0;
        const auto tell = [&](double gap, Vec2 at) {
            if (told >= k_most_of_a_kind || in_matter(at)) return;
            add(RuleId::outline_sliver,
                {{"The outlines in layer %1 leave a gap of %2.", {layer_->name, Millimetres{gap * 1000}}},
                 {"Draw them so that they meet."}},
                in_level(at));
            ++told;
        };
        for (const TilePrism& a : all) {
            auto b = std::upper_bound(all.begin(), all.end(), a.right + near,
                                      [](double x, const TilePrism& p) { return x < p.left; });
            for (; b != all.end() && b->left < a.right + gap_m; ++b) {
                const double low = std::max(a.low_right, b->low_left),
                             high = std::min(a.high_right, b->high_left);
                if (high - low > gap_m) tell(b->left - a.right, {(a.right + b->left) / 2, (low + high) / 2});
            }
            b = std::lower_bound(all.begin(), all.end(), a.left,
                                 [](const TilePrism& p, double x) { return p.left < x; });
            for (; b != all.end() && b->left < a.right - near; ++b) {
                const double x = (b->left + std::min(a.right, b->right)) / 2,
                             part = (x - a.left) / (a.right - a.left),
                             part_b = (x - b->left) / (b->right - b->left);
                const double top = a.high_left + (a.high_right - a.high_left) * part,
                             bottom = b->low_left + (b->low_right - b->low_left) * part_b;
                const double top_b = b->high_left + (b->high_right - b->high_left) * part_b,
                             bottom_a = a.low_left + (a.low_right - a.low_left) * part;
                for (const auto& [low, high] : {std::pair{top, bottom}, {top_b, bottom_a}})
                    if (high - low > near && high - low < gap_m) tell(high - low, {x, (low + high) / 2});
            }
        }
    }

    /// Places where one can stand, behind what is drawn before the character.
    void hides() {
        if (!tiles_->sheet->picture || !result_.reach) return;
        std::map<int, bool> covers;
        int count = 0;
        Vec3 first{0};
        for (const Fragment& fragment : result_.ground->fragments) {
            if (fragment.ledge < 0 || !result_.reach->tinted({fragment.ledge})) continue;
            const Vec2 middle = geometry::middle_of(fragment.area);
            Vec3 at = raised(middle, fragment.lowest_m);
            if (level_.frame == Frame::side) at.z += c_.height_m / 2;
            const int number = tiles_->grid.at(cell_at(*tiles_, level_.frame, at)).number();
            if (number < 0) continue;
            const auto [known, is_new] = covers.try_emplace(number, false);
            if (is_new) known->second = edit::opaque_part(*tiles_->sheet, number) >= k_hiding_part;
            if (known->second && count++ == 0) first = raised(middle, fragment.lowest_m);
        }
        if (count > 0)
            add(RuleId::layer_hides,
                {{"Layer %1 lies before %2 and hides where one can stand.", {layer_->name, who_}},
                 {"Make it less opaque, or put it behind."}},
                first);
    }

    const Level& level_;
    const CheckResult& result_;
    const FrameLayout layout_;
    const Character c_;
    const std::string who_;
    const Layer* layer_ = nullptr;
    const TileLayer* tiles_ = nullptr;
    std::vector<Finding> out_;
};

} // namespace

const Layer* drawn_below(const Level& level, const Vec3& at) {
    for (const auto& layer : level.layers) {
        if (!layer->tiles || (*layer->tiles)->solid || (*layer->tiles)->grid.bare()) continue;
        const TileLayer& tiles = **layer->tiles;
        if (level.frame == Frame::plan) return layer.get();
        const CellAt from = cell_at(tiles, level.frame, at);
        bool found = false;
        tiles.grid.for_each_tile({from, {from.column + 1, tiles.grid.area().high.row}},
                                 [&](CellAt, Tile) { found = true; });
        if (found) return layer.get();
    }
    return nullptr;
}

std::vector<Finding> find_in_tiles(const Project& project, const Level& level, const CheckResult& result) {
    return TileFinder(project, level, result).run();
}

} // namespace rubble::check
