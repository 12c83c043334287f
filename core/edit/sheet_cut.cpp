#include "edit/sheet_cut.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <map>

namespace rubble::edit {

namespace {

constexpr int k_smallest_px = 4, k_largest_px = 256, k_widest_gap_px = 8;
/// Differences of bytes below this are noise of painting.
constexpr double k_part_of_full = 1.0 / 255;

/// What the lines across one axis of a picture look like.
struct Profile {
    std::vector<double> edge; ///< how much a line differs from the one before it
    std::vector<bool> plain;  ///< whether all of it is empty
    double mean = 0, spread = 0;
};

class Pixels {
public:
    explicit Pixels(const Picture& picture) : p_(picture) {
        for (size_t i = 3; i < p_.rgba.size() && !clear_; i += 4) clear_ = p_.rgba[i] == 0;
        if (!clear_ && p_.width > 0 && p_.height > 0) find_ground();
    }
    const uint8_t* at(int x, int y) const { return &p_.rgba[(size_t(y) * size_t(p_.width) + size_t(x)) * 4]; }
    /// Nothing is to be seen there: it is transparent, or, in a picture without transparency, of the colour
    /// that most lines of one colour have, else of its upper left corner.
    bool empty(int x, int y) const {
        const uint8_t* pixel = at(x, y);
        return clear_ ? pixel[3] == 0 : std::memcmp(pixel, ground_.data(), 4) == 0;
    }
    double apart(const uint8_t* a, const uint8_t* b) const {
        if (a[3] == 0 && b[3] == 0) return 0;
        double sum = std::abs(a[3] - b[3]);
        for (int i = 0; i < 3; ++i) sum += std::abs(a[i] * a[3] - b[i] * b[3]) / 255.0;
        return sum * k_part_of_full;
    }
    int width() const { return p_.width; }
    int height() const { return p_.height; }

private:
    /// The colour between tiles, where lines between them are all of it.
    void find_ground() {
        std::copy_n(at(0, 0), 4, ground_.begin());
        std::map<std::array<uint8_t, 4>, int> lines;
        const auto look = [&](int count, int length, auto pixel) {
            for (int line = 0; line < count; ++line) {
                const uint8_t* first = pixel(line, 0);
                bool one = true;
                for (int k = 1; k < length && one; ++k) one = std::memcmp(pixel(line, k), first, 4) == 0;
                if (one) ++lines[{first[0], first[1], first[2], first[3]}];
            }
        };
        look(p_.width, p_.height, [&](int line, int k) { return at(line, k); });
        look(p_.height, p_.width, [&](int line, int k) { return at(k, line); });
        int most = 0;
        for (const auto& [color, count] : lines)
            if (count > most) most = count, ground_ = color;
    }

    const Picture& p_;
    bool clear_ = false;              ///< it has transparent places
    std::array<uint8_t, 4> ground_{}; ///< of a picture that has none
};

Profile profile_of(const Pixels& pixels, bool across) {
    const int lines = across ? pixels.width() : pixels.height(),
              length = across ? pixels.height() : pixels.width();
    Profile out;
    out.edge.assign(size_t(lines) + 1, 0), out.plain.assign(size_t(lines), true);
    const auto at = [&](int line, int k) { return across ? pixels.at(line, k) : pixels.at(k, line); };
    for (int line = 0; line < lines; ++line) {
        double sum = 0;
        bool plain = true;
        for (int k = 0; k < length; ++k) {
            if (line > 0) sum += std::min(1.0, pixels.apart(at(line, k), at(line - 1, k)));
            plain = plain && (across ? pixels.empty(line, k) : pixels.empty(k, line));
        }
        out.edge[size_t(line)] = sum / length, out.plain[size_t(line)] = plain;
    }
    double square = 0;
    for (int line = 1; line < lines; ++line)
        out.mean += out.edge[size_t(line)], square += out.edge[size_t(line)] * out.edge[size_t(line)];
    const double count = std::max(1, lines - 1);
    out.mean /= count;
    out.spread = std::sqrt(std::max(0.0, square / count - out.mean * out.mean)) + 1e-6;
    return out;
}

/// How well one axis goes with cells of a size; below 0: not at all.
double score_of(const Profile& profile, int cell, int margin, int spacing) {
    const int lines = int(profile.plain.size()), pitch = cell + spacing;
    const int count = (lines - margin + spacing) / pitch;
    if (count < 1) return -1;
    // What lies between cells, and before the first, is empty.
    for (int x = 0; x < margin; ++x)
        if (!profile.plain[size_t(x)]) return -1;
    int explained = margin;
    double border = 0, all = 0;
    int borders = 0, edges = lines - 1;
    for (int x = 1; x < lines; ++x) all += profile.edge[size_t(x)];
    for (int k = 0; k < count; ++k) {
        const int begin = margin + k * pitch, end = begin + cell;
        for (int x = end; x < std::min(end + spacing, lines); ++x, ++explained)
            if (!profile.plain[size_t(x)]) return -1;
        if (begin > 0) border += profile.edge[size_t(begin)], ++borders;
        if (spacing > 0 && end < lines) border += profile.edge[size_t(end)], ++borders;
    }
    const int rest = lines - margin - (count * pitch - spacing);
    // A sheet ends with its last cell, or a margin after it.
    const double fit = rest == 0 || rest == margin || rest == spacing ? 1 : rest < cell ? 0.8 : 0.5;
    if (borders == 0) return fit * 0.1;
    const double in = border / borders,
                 out = edges > borders ? (all - border) / (edges - borders) : profile.mean;
    // Empty lines that a cut accounts for speak for it.
    constexpr double k_for_empty_lines = 0.7;
    const auto empty = std::count(profile.plain.begin(), profile.plain.end(), true);
    const double accounted = empty > 0 ? std::min(1.0, double(explained) / double(empty)) : 0;
    return fit * std::max(0.01, (in - out) / profile.spread) * std::sqrt(double(borders)) *
           (1 + k_for_empty_lines * accounted);
}

} // namespace

SheetCut proposed_cut(const Picture& picture) {
    SheetCut best;
    if (picture.width < 1 || picture.height < 1) return best;
    const Pixels pixels(picture);
    const std::array<Profile, 2> profiles{profile_of(pixels, true), profile_of(pixels, false)};
    double best_score = -1;
    for (int spacing = 0; spacing <= k_widest_gap_px; ++spacing)
        for (int margin = 0; margin <= k_widest_gap_px; ++margin) {
            // Of each axis the best few sizes; cells are square more often than not.
            std::array<std::vector<std::pair<double, int>>, 2> sizes;
            for (size_t axis = 0; axis < 2; ++axis) {
                const int most = std::min(k_largest_px, int(profiles[axis].plain.size()));
                for (int cell = k_smallest_px; cell <= most; ++cell)
                    if (const double score = score_of(profiles[axis], cell, margin, spacing); score > 0)
                        sizes[axis].emplace_back(score, cell);
                std::sort(sizes[axis].rbegin(), sizes[axis].rend());
            }
            constexpr size_t k_few = 12;
            for (size_t i = 0; i < std::min(k_few, sizes[0].size()); ++i)
                for (size_t k = 0; k < std::min(k_few, sizes[1].size()); ++k) {
                    const bool square = sizes[0][i].second == sizes[1][k].second;
                    const double score = (sizes[0][i].first + sizes[1][k].first) * (square ? 1.15 : 1);
                    if (score <= best_score + 1e-9) continue;
                    best_score = score;
                    best = {{sizes[0][i].second, sizes[1][k].second}, margin, spacing};
                }
        }
    if (best_score < 0) best.cell_px = {std::min(16, picture.width), std::min(16, picture.height)};
    return best;
}

std::vector<int> empty_cells(const Picture& picture, const SheetCut& cut) {
    const auto [columns, rows] = cells_in(cut, picture.width, picture.height);
    const Pixels pixels(picture);
    const auto is_empty = [&](int left, int top) {
        for (int y = top; y < std::min(top + cut.cell_px[1], picture.height); ++y)
            for (int x = left; x < std::min(left + cut.cell_px[0], picture.width); ++x)
                if (!pixels.empty(x, y)) return false;
        return true;
    };
    std::vector<int> out;
    for (int row = 0; row < rows; ++row)
        for (int column = 0; column < columns; ++column)
            if (is_empty(cut.margin_px + column * (cut.cell_px[0] + cut.spacing_px),
                         cut.margin_px + row * (cut.cell_px[1] + cut.spacing_px)))
                out.push_back(row * columns + column);
    return out;
}

std::map<int, SheetTile> tiles_of_cut(const Picture& picture, const SheetCut& cut) {
    const auto [columns, rows] = cells_in(cut, picture.width, picture.height);
    std::map<int, SheetTile> out;
    const std::vector<int> empty = empty_cells(picture, cut);
    for (int row = 0; row < rows; ++row)
        for (int column = 0; column < columns; ++column) {
            if (std::binary_search(empty.begin(), empty.end(), row * columns + column)) continue;
            SheetTile tile;
            tile.at = {column, row};
            out[int(out.size())] = tile;
        }
    return out;
}

} // namespace rubble::edit
