#include "edit/sheet_pictures.h"

#include <algorithm>
#include <tuple>

namespace rubble::edit {

namespace {

using BoxPx = std::array<int, 4>; ///< left, top, width, height

/// Opacity from which a pixel counts as drawn.
constexpr int k_drawn = 8;

BoxPx around(const BoxPx& a, const BoxPx& b) {
    const int left = std::min(a[0], b[0]), top = std::min(a[1], b[1]);
    return {left, top, std::max(a[0] + a[2], b[0] + b[2]) - left, std::max(a[1] + a[3], b[1] + b[3]) - top};
}

/// How many pixels two boxes share, the first grown by some on all sides.
int64_t shared(const BoxPx& a, const BoxPx& b, int grown = 0) {
    const int64_t w = std::min(a[0] + a[2] + grown, b[0] + b[2]) - std::max(a[0] - grown, b[0]),
                  h = std::min(a[1] + a[3] + grown, b[1] + b[3]) - std::max(a[1] - grown, b[1]);
    return w > 0 && h > 0 ? w * h : 0;
}

/// Boxes around what hangs together, pixels touching by their corners too: runs of rows joined as sets
/// (Tarjan 1975).
std::vector<BoxPx> parts_of(const Picture& picture) {
    struct Run {
        int from, to, part;
    };
    std::vector<int> parent;
    const auto root = [&](int part) {
        while (parent[size_t(part)] != part)
            part = parent[size_t(part)] = parent[size_t(parent[size_t(part)])];
        return part;
    };
    std::vector<BoxPx> boxes;
    std::vector<Run> above;
    for (int y = 0; y < picture.height; ++y) {
        std::vector<Run> row;
        for (int x = 0; x < picture.width; ++x) {
            if (picture.alpha(x, y) < k_drawn) continue;
            int to = x;
            while (to < picture.width && picture.alpha(to, y) >= k_drawn) ++to;
            const int part = int(parent.size());
            parent.push_back(part);
            boxes.push_back({x, y, to - x, 1});
            row.push_back({x, to, part});
            x = to;
        }
        for (const Run& run : row)
            for (const Run& over : above)
                if (over.from <= run.to && run.from <= over.to)
                    parent[size_t(root(run.part))] = root(over.part);
        above = std::move(row);
    }
    std::map<int, BoxPx> joined;
    for (int part = 0; part < int(parent.size()); ++part) {
        const auto [at, is_new] = joined.try_emplace(root(part), boxes[size_t(part)]);
        if (!is_new) at->second = around(at->second, boxes[size_t(part)]);
    }
    std::vector<BoxPx> out;
    for (const auto& [part, box] : joined) out.push_back(box);
    return out;
}

/// Parts whose boxes lie nearer to one another than a gap are one picture, again and again.
std::vector<BoxPx> joined(std::vector<BoxPx> boxes, int gap_px) {
    for (bool went = true; went;) {
        went = false;
        std::sort(boxes.begin(), boxes.end());
        for (size_t i = 0; i < boxes.size(); ++i)
            for (size_t k = i + 1; k < boxes.size();) {
                if (boxes[k][0] >= boxes[i][0] + boxes[i][2] + gap_px) break; // sorted by their left sides
                if (shared(boxes[i], boxes[k], gap_px - 1 > 0 ? gap_px - 1 : 0) == 0) {
                    ++k;
                    continue;
                }
                boxes[i] = around(boxes[i], boxes[k]);
                boxes.erase(boxes.begin() + std::ptrdiff_t(k));
                went = true;
            }
    }
    std::sort(boxes.begin(), boxes.end(),
              [](const BoxPx& a, const BoxPx& b) { return std::tie(a[1], a[0]) < std::tie(b[1], b[0]); });
    return boxes;
}

} // namespace

std::map<int, SheetTile> pictures_on(const Picture& picture, int gap_px) {
    std::map<int, SheetTile> out;
    for (const BoxPx& box : joined(parts_of(picture), std::max(gap_px, 1))) {
        SheetTile tile;
        tile.at = {int(out.size()), 0};
        tile.box_px = box;
        tile.name = "Picture " + std::to_string(out.size() + 1);
        out[int(out.size())] = std::move(tile);
    }
    const bool is_all = out.size() == 1 && out[0].box_px == BoxPx{0, 0, picture.width, picture.height};
    return is_all ? std::map<int, SheetTile>{} : out;
}

bool has_unequal_pictures(const Picture& picture) {
    // Of cells the parts are no larger than the cell, and most are of one size.
    const auto pictures = pictures_on(picture, 2);
    constexpr size_t k_few = 2, k_many = 400;
    if (pictures.size() < k_few || pictures.size() > k_many) return false;
    std::map<std::pair<int, int>, int> sizes;
    int most = 0;
    for (const auto& [number, tile] : pictures)
        most = std::max(most, ++sizes[{(*tile.box_px)[2], (*tile.box_px)[3]}]);
    return most * 2 <= int(pictures.size()) && sizes.size() > 2;
}

bool is_of_unequal_pictures(const TileSheet& sheet) {
    return std::any_of(sheet.tiles.begin(), sheet.tiles.end(),
                       [](const auto& one) { return one.second.box_px.has_value(); });
}

Recut pictures_again(const TileSheet& sheet, std::shared_ptr<const Picture> picture, int gap_px) {
    Recut out{sheet, {}};
    out.sheet.picture = picture;
    if (!picture) return out;
    std::map<int, SheetTile> before = sheet.tiles, now;
    int next = next_tile_number(sheet);
    // Each pair by what both share, the most first.
    struct Pair {
        int64_t pixels;
        int number, part;
    };
    const std::map<int, SheetTile> parts = pictures_on(*picture, gap_px);
    std::vector<Pair> pairs;
    for (const auto& [part, tile] : parts)
        for (const auto& [number, was] : before)
            if (const int64_t both = shared(*tile.box_px, pixels_of(sheet, was)); both > 0)
                pairs.push_back({both, number, part});
    std::sort(pairs.begin(), pairs.end(), [](const Pair& a, const Pair& b) {
        return std::tie(b.pixels, a.number, a.part) < std::tie(a.pixels, b.number, b.part);
    });
    std::map<int, int> number_of;
    for (const Pair& pair : pairs) {
        if (number_of.contains(pair.part) || now.contains(pair.number)) continue;
        number_of[pair.part] = pair.number;
        now[pair.number] = before.at(pair.number);
        now[pair.number].box_px = parts.at(pair.part).box_px;
        now[pair.number].at = {pair.number, 0};
    }
    for (const auto& [part, tile] : parts)
        if (!number_of.contains(part)) {
            now[next] = tile;
            now[next].at = {next, 0};
            ++next;
        }
    for (const auto& [number, was] : before)
        if (now.try_emplace(number, was).second) out.lost.push_back(number);
    out.sheet.tiles = std::move(now);
    return out;
}

} // namespace rubble::edit
