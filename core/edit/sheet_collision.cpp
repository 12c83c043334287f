#include "edit/sheet_collision.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <map>
#include <set>

#include "edit/sheet_cut.h"

namespace rubble::edit {

namespace {

/// Opacity from which a pixel counts as drawn.
constexpr int k_opaque = 128;

/// Which pixels of a tile are opaque, as rows from the top; outside it none.
class Mask {
public:
    Mask(const TileSheet& sheet, const SheetTile& tile) {
        const auto [left, top, w, h] = pixels_of(sheet, tile);
        width = w, height = h;
        bits_.resize(size_t(w) * size_t(h));
        for (int y = 0; y < h; ++y)
            for (int x = 0; x < w; ++x)
                bits_[size_t(y) * size_t(w) + size_t(x)] =
                    sheet.picture->alpha(left + x, top + y) >= k_opaque;
    }
    bool at(int x, int y) const {
        return x >= 0 && y >= 0 && x < width && y < height && bits_[size_t(y) * size_t(width) + size_t(x)];
    }
    int width = 0, height = 0;

private:
    std::vector<bool> bits_;
};

struct Corner {
    int x, y;
    auto operator<=>(const Corner&) const = default;
};

/// Walks along the edges between opaque and other pixels, what is opaque to the left, and gives the loop with
/// the largest area.
std::vector<Corner> largest_loop(const Mask& mask) {
    std::map<Corner, std::vector<Corner>> next; // in pixels from the upper left; y down
    for (int y = 0; y < mask.height; ++y)
        for (int x = 0; x < mask.width; ++x) {
            if (!mask.at(x, y)) continue;
            if (!mask.at(x, y + 1)) next[{x, y + 1}].push_back({x + 1, y + 1});
            if (!mask.at(x + 1, y)) next[{x + 1, y + 1}].push_back({x + 1, y});
            if (!mask.at(x, y - 1)) next[{x + 1, y}].push_back({x, y});
            if (!mask.at(x - 1, y)) next[{x, y}].push_back({x, y + 1});
        }
    std::vector<Corner> best;
    double best_area = 0;
    while (!next.empty()) {
        std::vector<Corner> loop;
        Corner at = next.begin()->first;
        const Corner first = at;
        Corner came{at.x, at.y};
        do {
            loop.push_back(at);
            auto& ways = next[at];
            // Where two parts touch in a corner, the sharper turn keeps to one of them.
            size_t chosen = 0;
            if (ways.size() > 1) {
                const auto turn = [&](const Corner& to) {
                    return (at.x - came.x) * (to.y - at.y) - (at.y - came.y) * (to.x - at.x);
                };
                if (turn(ways[1]) < turn(ways[0])) chosen = 1;
            }
            const Corner to = ways[chosen];
            ways.erase(ways.begin() + std::ptrdiff_t(chosen));
            if (ways.empty()) next.erase(at);
            came = at, at = to;
        } while (at != first);
        double area = 0;
        for (size_t i = 0; i < loop.size(); ++i) {
            const Corner &a = loop[i], &b = loop[(i + 1) % loop.size()];
            area += double(a.x) * -b.y + double(b.x) * a.y; // y up
        }
        if (area > best_area) best_area = area, best = std::move(loop);
    }
    return best;
}

double apart(Vec2 p, Vec2 a, Vec2 b) {
    const Vec2 along = b - a;
    const double size = glm::dot(along, along);
    const double t = size > 0 ? std::clamp(glm::dot(p - a, along) / size, 0.0, 1.0) : 0;
    return glm::length(a + along * t - p);
}

/// Keeps of the points from `first` to `last` those that the straight line strays from too far.
void keep(const std::vector<Vec2>& points, size_t first, size_t last, double tolerance,
          std::vector<bool>& kept) {
    double farthest = tolerance;
    size_t at = 0;
    for (size_t i = first + 1; i < last; ++i)
        if (const double d = apart(points[i], points[first], points[last % points.size()]); d > farthest)
            farthest = d, at = i;
    if (at == 0) return;
    kept[at] = true;
    keep(points, first, at, tolerance, kept);
    keep(points, at, last, tolerance, kept);
}

std::vector<Vec2> simplified(const std::vector<Vec2>& points, double tolerance) {
    if (points.size() < 4) return points;
    // Begins at two corners that stay whatever the tolerance: the first, and the one farthest from it.
    size_t far = 0;
    for (size_t i = 1; i < points.size(); ++i)
        if (glm::length(points[i] - points[0]) > glm::length(points[far] - points[0])) far = i;
    std::vector<bool> kept(points.size() + 1, false);
    kept[0] = kept[far] = true;
    keep(points, 0, far, tolerance, kept);
    keep(points, far, points.size(), tolerance, kept);
    std::vector<Vec2> out;
    for (size_t i = 0; i < points.size(); ++i)
        if (kept[i]) out.push_back(points[i]);
    return out;
}

template <class Change> TileSheet changed(TileSheet sheet, std::span<const int> tiles, Change change) {
    for (const int number : tiles)
        if (const auto tile = sheet.tiles.find(number); tile != sheet.tiles.end()) change(tile->second);
    return sheet;
}

const std::vector<Vec2> k_whole{{0, 0}, {1, 0}, {1, 1}, {0, 1}};

} // namespace

double opaque_part(const TileSheet& sheet, int number) {
    const SheetTile* tile = sheet.tile(number);
    if (!tile || !sheet.picture) return 0;
    const Mask mask(sheet, *tile);
    int count = 0;
    for (int y = 0; y < mask.height; ++y)
        for (int x = 0; x < mask.width; ++x) count += mask.at(x, y);
    return double(count) / std::max(1, mask.width * mask.height);
}

std::vector<Vec2> outline_from_picture(const TileSheet& sheet, int number, double tolerance) {
    const SheetTile* tile = sheet.tile(number);
    if (!tile || !sheet.picture) return {};
    const Mask mask(sheet, *tile);
    std::vector<Vec2> points;
    for (const Corner& corner : largest_loop(mask)) points.push_back(Vec2(corner.x, mask.height - corner.y));
    std::vector<Vec2> out = simplified(points, tolerance);
    if (out.size() < 3) out = points;
    // What ends a little before the cell's rim is meant to reach it.
    const Vec2 size(mask.width, mask.height), near(std::max(tolerance, 1.0));
    for (Vec2& p : out)
        for (int axis : {0, 1}) {
            if (p[axis] <= near[axis] && 4 * near[axis] <= size[axis]) p[axis] = 0;
            if (size[axis] - p[axis] <= near[axis] && 4 * near[axis] <= size[axis]) p[axis] = size[axis];
        }
    out.erase(std::unique(out.begin(), out.end()), out.end());
    while (out.size() > 1 && out.front() == out.back()) out.pop_back();
    for (Vec2& p : out) p /= size;
    if (is_simple(out)) return out;
    for (Vec2& p : points) p /= size;
    return is_simple(points) ? points : std::vector<Vec2>{};
}

SheetTile guessed(const TileSheet& sheet, int number, double tolerance) {
    const SheetTile* known = sheet.tile(number);
    SheetTile tile = known ? *known : SheetTile{};
    tile.collision = TileCollision::none;
    tile.outline.clear();
    constexpr double k_full = 0.97, k_least = 0.15;
    const double part = opaque_part(sheet, number);
    if (part >= k_full) {
        tile.collision = TileCollision::full;
        return tile;
    }
    if (part < k_least) return tile;
    const std::vector<Vec2> outline = outline_from_picture(sheet, number, tolerance);
    // What stands on its cell's lower side over half its width, or fills a whole side, carries somebody; what
    // hangs in the air is taken for background.
    const Mask mask(sheet, tile);
    int at_bottom = 0;
    for (int x = 0; x < mask.width; ++x) at_bottom += mask.at(x, mask.height - 1);
    if (2 * at_bottom < mask.width || outline.empty()) return tile;
    tile.collision = TileCollision::outline;
    tile.outline = outline;
    return tile;
}

TileSheet with_collision(TileSheet sheet, std::span<const int> tiles, TileCollision collision) {
    return changed(std::move(sheet), tiles, [&](SheetTile& tile) {
        tile.collision = collision;
        if (collision == TileCollision::outline && tile.outline.size() < 3) tile.outline = k_whole;
        if (collision == TileCollision::full || collision == TileCollision::none) tile.outline.clear();
    });
}

TileSheet with_outline(TileSheet sheet, std::span<const int> tiles, const std::vector<Vec2>& outline) {
    if (!is_simple(outline)) return sheet;
    return changed(std::move(sheet), tiles, [&](SheetTile& tile) {
        if (tile.collision != TileCollision::one_way && tile.acts == TileActs::nothing)
            tile.collision = TileCollision::outline;
        tile.outline = outline;
    });
}

TileSheet with_acts(TileSheet sheet, std::span<const int> tiles, TileActs acts) {
    return changed(std::move(sheet), tiles, [&](SheetTile& tile) { tile.acts = acts; });
}

std::vector<Vec2> mirrored(std::vector<Vec2> outline) {
    for (Vec2& p : outline) p.x = 1 - p.x;
    std::reverse(outline.begin(), outline.end());
    return outline;
}

std::vector<Vec2> turned(std::vector<Vec2> outline, int quarters) {
    for (int i = 0; i < (quarters & 3); ++i)
        for (Vec2& p : outline) p = {1 - p.y, p.x};
    return outline;
}

std::optional<std::vector<Vec2>> ramps_for_stairs(const std::vector<Vec2>& outline) {
    const size_t n = outline.size();
    const auto edge = [&](size_t i) { return outline[(i + 1) % n] - outline[i % n]; };
    const auto upright = [&](size_t i) { return std::abs(edge(i).x) < 1e-9; };
    const auto lying = [&](size_t i) { return std::abs(edge(i).y) < 1e-9; };
    /// Whether an edge and the one after the next go the same way, with a step between.
    const auto steps = [&](size_t i) {
        const bool turns =
            (upright(i) && lying(i + 1) && upright(i + 2)) || (lying(i) && upright(i + 1) && lying(i + 2));
        return turns && glm::dot(edge(i), edge(i + 2)) > 0;
    };
    if (n < 6) return {};
    // From a corner that is in no stairs, so that a run is met from its beginning.
    size_t first = 0;
    while (first < n && (steps(first + n - 1) || steps(first + n - 2))) ++first;
    if (first == n) return {};
    std::vector<Vec2> out;
    bool found = false;
    for (size_t i = first; i < first + n;) {
        out.push_back(outline[i % n]);
        size_t last = i;
        while (last < first + n - 2 && steps(last)) ++last;
        // From the first corner of the run to its last; a single step is none.
        if (last >= i + 2)
            found = true, i = last + 2;
        else
            ++i;
    }
    if (!found || !is_simple(out)) return {};
    return out;
}

bool is_simple(const std::vector<Vec2>& outline) {
    const size_t n = outline.size();
    if (n < 3) return false;
    double area = 0;
    for (size_t i = 0; i < n; ++i) area += cross(outline[i], outline[(i + 1) % n]);
    if (std::abs(area) < 1e-9) return false;
    const auto side = [](Vec2 a, Vec2 b, Vec2 p) { return cross(b - a, p - a); };
    for (size_t i = 0; i < n; ++i)
        for (size_t k = i + 1; k < n; ++k) {
            if (k == i + 1 || (i == 0 && k == n - 1)) continue;
            const Vec2 a = outline[i], b = outline[(i + 1) % n], c = outline[k], d = outline[(k + 1) % n];
            const double s = side(a, b, c) * side(a, b, d), t = side(c, d, a) * side(c, d, b);
            const bool boxes =
                std::min(a.x, b.x) <= std::max(c.x, d.x) && std::min(c.x, d.x) <= std::max(a.x, b.x) &&
                std::min(a.y, b.y) <= std::max(c.y, d.y) && std::min(c.y, d.y) <= std::max(a.y, b.y);
            if (s <= 0 && t <= 0 && boxes) return false;
        }
    return true;
}

Recut recut(const TileSheet& sheet, std::shared_ptr<const Picture> picture, const SheetCut& cut) {
    Recut out{sheet, {}};
    out.sheet.picture = std::move(picture);
    out.sheet.cut = cut;
    if (!out.sheet.picture) return out;
    const auto before_by_place = [&] {
        std::map<std::array<int, 4>, int> places;
        for (const auto& [number, tile] : sheet.tiles) places[pixels_of(sheet, tile)] = number;
        return places;
    }();
    // A picture is known again by its pixels where its place is not.
    const auto bytes_of = [](const TileSheet& of, const SheetTile& tile) {
        std::string bytes;
        if (!of.picture) return bytes;
        const auto [left, top, w, h] = pixels_of(of, tile);
        if (left + w > of.picture->width || top + h > of.picture->height) return bytes;
        for (int y = top; y < top + h; ++y)
            bytes.append(reinterpret_cast<const char*>(
                             &of.picture->rgba[(size_t(y) * size_t(of.picture->width) + size_t(left)) * 4]),
                         size_t(w) * 4);
        return bytes;
    };
    std::map<std::string, std::vector<int>> before_by_look;
    for (const auto& [number, tile] : sheet.tiles)
        if (std::string look = bytes_of(sheet, tile); !look.empty()) before_by_look[look].push_back(number);
    const std::map<int, SheetTile> cells = tiles_of_cut(*out.sheet.picture, cut);
    std::map<int, SheetTile> now;
    std::vector<SheetTile> unknown;
    std::set<int> taken;
    const auto is_free = [&](int number) { return !taken.contains(number); };
    const auto take = [&](int number, const SheetTile& cell) {
        SheetTile tile = sheet.tiles.at(number);
        tile.at = cell.at;
        now[number] = std::move(tile);
        taken.insert(number);
    };
    // First those that look as before and lie where they lay, then those that moved, then those repainted.
    std::vector<const SheetTile*> open;
    for (const auto& [index, cell] : cells) open.push_back(&cell);
    const auto pass = [&](auto find) {
        std::erase_if(open, [&](const SheetTile* cell) {
            const int number = find(*cell);
            if (number < 0 || !is_free(number)) return false;
            take(number, *cell);
            return true;
        });
    };
    const auto at_place = [&](const SheetTile& cell) {
        const auto found = before_by_place.find(pixels_of(out.sheet, cell));
        return found == before_by_place.end() ? -1 : found->second;
    };
    pass([&](const SheetTile& cell) {
        const int number = at_place(cell);
        return number >= 0 && bytes_of(sheet, sheet.tiles.at(number)) == bytes_of(out.sheet, cell) ? number
                                                                                                   : -1;
    });
    pass([&](const SheetTile& cell) {
        const auto found = before_by_look.find(bytes_of(out.sheet, cell));
        if (found == before_by_look.end()) return -1;
        for (const int number : found->second)
            if (is_free(number)) return number;
        return -1;
    });
    pass(at_place);
    int next = next_tile_number(sheet);
    for (const SheetTile* cell : open) now[next++] = *cell;
    for (const auto& [number, tile] : sheet.tiles)
        if (is_free(number)) {
            out.lost.push_back(number);
            SheetTile kept = tile;
            now.emplace(number, kept);
        }
    out.sheet.tiles = std::move(now);
    return out;
}

} // namespace rubble::edit
