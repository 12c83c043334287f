#include "edit/prints.h"

#include <algorithm>
#include <array>
#include <cstdlib>

#include "edit/sheet_pictures.h"

namespace rubble::edit {

namespace {

/// Pixels: nearer than this is one print, and smaller than this every way is dust.
constexpr int k_apart_px = 4, k_least_px = 4;
/// Of 255: below this one sees through, and within this two colours are one.
constexpr int k_see_through = 8, k_alike = 12;

/// The picture with what has the colour of its corner seen through, where that is not already.
Picture without_paper(Picture picture) {
    const std::array<uint8_t, 4> paper{picture.rgba[0], picture.rgba[1], picture.rgba[2], picture.rgba[3]};
    if (paper[3] < k_see_through) return picture;
    for (size_t at = 0; at + 3 < picture.rgba.size(); at += 4) {
        bool alike = true;
        for (size_t i = 0; i < 3; ++i)
            alike = alike && std::abs(int(picture.rgba[at + i]) - int(paper[i])) <= k_alike;
        if (alike) picture.rgba[at + 3] = 0;
    }
    return picture;
}

std::map<std::string, PrintRegion> numbered(const std::vector<PrintRegion>& regions) {
    std::map<std::string, PrintRegion> out;
    const size_t digits = std::to_string(regions.size()).size();
    for (size_t i = 0; i < regions.size(); ++i) {
        std::string number = std::to_string(i + 1);
        number.insert(0, digits - number.size(), '0');
        out["print_" + number] = regions[i];
    }
    return out;
}

} // namespace

std::map<std::string, PrintRegion> prints_by_borders(const Picture& picture) {
    if (picture.width < 1 || picture.height < 1) return {};
    std::vector<PrintRegion> regions;
    for (const auto& [number, tile] : pictures_on(without_paper(picture), k_apart_px)) {
        const auto& [x, y, width, height] = *tile.box_px;
        if (width >= k_least_px || height >= k_least_px) regions.push_back({x, y, width, height});
    }
    return numbered(regions);
}

std::map<std::string, PrintRegion> prints_by_grid(const Picture& picture, int columns, int rows) {
    if (columns < 1 || rows < 1 || picture.width < columns || picture.height < rows) return {};
    const Picture drawn = without_paper(picture);
    std::vector<PrintRegion> out;
    for (int row = 0; row < rows; ++row)
        for (int column = 0; column < columns; ++column) {
            const int x = picture.width * column / columns, y = picture.height * row / rows;
            const PrintRegion cell{x, y, picture.width * (column + 1) / columns - x,
                                   picture.height * (row + 1) / rows - y};
            bool any = false;
            for (int py = cell.y; py < cell.y + cell.height && !any; ++py)
                for (int px = cell.x; px < cell.x + cell.width && !any; ++px)
                    any = drawn.alpha(px, py) >= k_see_through;
            if (any) out.push_back(cell);
        }
    return numbered(out);
}

PrintRegion within(PrintRegion region, int width, int height) {
    const int left = std::clamp(region.x, 0, std::max(width - 1, 0)),
              top = std::clamp(region.y, 0, std::max(height - 1, 0));
    const int right = std::clamp(region.x + region.width, left + 1, std::max(width, left + 1)),
              bottom = std::clamp(region.y + region.height, top + 1, std::max(height, top + 1));
    return {left, top, right - left, bottom - top};
}

} // namespace rubble::edit
