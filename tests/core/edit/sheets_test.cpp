#include <QtTest/QtTest>

#include "core/random.h"
#include "core/tile_level.h"
#include "edit/sheet_collision.h"
#include "edit/sheet_cut.h"
#include "edit/sheet_pictures.h"
#include "test_program.h"

using namespace rubble;
using namespace rubble::edit;
using test::Random;

namespace {

struct Paint {
    uint8_t r, g, b, a;
};

void put(Picture& picture, int x, int y, Paint paint) {
    if (x < 0 || y < 0 || x >= picture.width || y >= picture.height) return;
    uint8_t* pixel = &picture.rgba[(size_t(y) * size_t(picture.width) + size_t(x)) * 4];
    pixel[0] = paint.r, pixel[1] = paint.g, pixel[2] = paint.b, pixel[3] = paint.a;
}

Picture blank(int width, int height, Paint paint) {
    Picture out{width, height, std::vector<uint8_t>(size_t(width) * size_t(height) * 4)};
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x) put(out, x, y, paint);
    return out;
}

Paint random_paint(Random& random) {
    return {uint8_t(random.whole(40, 230)), uint8_t(random.whole(40, 230)), uint8_t(random.whole(40, 230)),
            255};
}

/// A tile as sheets have them: a block of some material with grain and a rim, a slope, something standing on
/// the lower side, or a thing in the middle of its cell.
void paint_tile(Picture& picture, Random& random, int left, int top, int w, int h) {
    const Paint fill = random_paint(random), rim = random_paint(random);
    const int kind = random.whole(0, 4), grain = random.whole(0, 24);
    for (int y = 0; y < h; ++y)
        for (int x = 0; x < w; ++x) {
            bool in = true, edge = false;
            if (kind == 0) edge = x == 0 || y == 0 || x == w - 1 || y == h - 1;
            if (kind == 1) in = y * w >= (w - x) * h, edge = y == h - 1;
            if (kind == 2) in = y > h / 3, edge = y == h / 3 + 1;
            if (kind == 3)
                in = (2 * x - w) * (2 * x - w) * h * h + (2 * y - h) * (2 * y - h) * w * w <
                     w * w * h * h * 8 / 10;
            if (kind == 4) edge = y < 2;
            if (!in) continue;
            Paint p = edge ? rim : fill;
            const int by = random.whole(-grain, grain);
            p.r = uint8_t(std::clamp(p.r + by, 0, 255)), p.g = uint8_t(std::clamp(p.g + by, 0, 255)),
            p.b = uint8_t(std::clamp(p.b + by, 0, 255));
            put(picture, left + x, top + y, p);
        }
}

struct Made {
    Picture picture;
    SheetCut cut;
};

Made random_sheet(Random& random) {
    constexpr int k_sizes[] = {8, 12, 16, 18, 20, 24, 32, 40, 48, 64};
    Made made;
    made.cut.cell_px = {k_sizes[random.whole(0, 9)], 0};
    made.cut.cell_px[1] = random.chance(0.8) ? made.cut.cell_px[0] : k_sizes[random.whole(0, 9)];
    made.cut.spacing_px = random.chance(0.5) ? 0 : random.whole(1, 4);
    made.cut.margin_px = random.chance(0.6) ? 0 : random.whole(1, 4);
    const int columns = random.whole(4, 14), rows = random.whole(3, 10);
    const bool clear = random.chance(0.7);
    const bool after = random.chance(0.5); // a margin, or spacing, at the far ends too
    const auto [w, h] = made.cut.cell_px;
    const auto length = [&](int cell, int count) {
        return made.cut.margin_px + count * (cell + made.cut.spacing_px) - made.cut.spacing_px +
               (after ? made.cut.margin_px : 0);
    };
    made.picture =
        blank(length(w, columns), length(h, rows), clear ? Paint{0, 0, 0, 0} : random_paint(random));
    for (int row = 0; row < rows; ++row)
        for (int column = 0; column < columns; ++column)
            if (row < rows - 1 || random.chance(0.7))
                paint_tile(made.picture, random, made.cut.margin_px + column * (w + made.cut.spacing_px),
                           made.cut.margin_px + row * (h + made.cut.spacing_px), w, h);
    return made;
}

} // namespace

/// Sheets of tiles: how they are cut, and what their tiles collide with.
class SheetsTest : public QObject {
    Q_OBJECT

private slots:
    void the_cut_is_seen_from_the_picture() {
        Random random(95);
        int right = 0;
        const int count = 100;
        for (int i = 0; i < count; ++i) {
            const Made made = random_sheet(random);
            const SheetCut found = proposed_cut(made.picture);
            right += found == made.cut;
            if (!(found == made.cut))
                qInfo("%d x %d: cell %d x %d margin %d spacing %d was cut as %d x %d margin %d spacing %d",
                      made.picture.width, made.picture.height, made.cut.cell_px[0], made.cut.cell_px[1],
                      made.cut.margin_px, made.cut.spacing_px, found.cell_px[0], found.cell_px[1],
                      found.margin_px, found.spacing_px);
        }
        qInfo("%d of %d cut right", right, count);
        QVERIFY(right >= 95);
    }

    void pictures_of_any_size_have_some_cut() {
        Random random(96);
        for (const auto& [w, h] : {std::pair{1, 1}, {1, 40}, {40, 1}, {3, 3}, {7, 5}, {300, 2}}) {
            const SheetCut cut = proposed_cut(blank(w, h, random_paint(random)));
            QVERIFY(cut.cell_px[0] >= 1 && cut.cell_px[1] >= 1);
        }
        QVERIFY(proposed_cut({}).cell_px[0] >= 1);
    }

    void empty_cells_are_no_tiles() {
        const TileSheet& sheet = *test::grey();
        const std::vector<int> empty = empty_cells(*sheet.picture, sheet.cut);
        QCOMPARE(empty.size() + sheet.tiles.size(), size_t(48));
        QCOMPARE(tiles_of_cut(*sheet.picture, sheet.cut).size(), sheet.tiles.size());
    }

    void outlines_follow_the_picture_with_few_corners() {
        const TileSheet& sheet = *test::grey();
        for (const int number : {0, 1, 5, 6, 8, 9, 12}) {
            const SheetTile& tile = *sheet.tile(number);
            const std::vector<Vec2> truth = tile.collision == TileCollision::full
                                                ? std::vector<Vec2>{{0, 0}, {1, 0}, {1, 1}, {0, 1}}
                                                : tile.outline;
            const auto found = outline_from_picture(sheet, number, 1.5);
            QVERIFY(is_simple(found));
            QVERIFY2(found.size() <= truth.size() + 2,
                     qPrintable(QString("tile %1: %2").arg(number).arg(found.size())));
            // Every corner of the truth has one within two pixels.
            for (Vec2 p : truth) {
                double nearest = 1;
                for (Vec2 q : found) nearest = std::min(nearest, glm::length(q - p));
                QVERIFY2(nearest <= 2.0 / 16 * 1.5, tile.name.c_str());
            }
        }
    }

    void blocks_slopes_and_background_are_guessed() {
        const TileSheet& sheet = *test::grey();
        QVERIFY(guessed(sheet, 0, 2).collision == TileCollision::full);
        QVERIFY(guessed(sheet, 22, 2).collision == TileCollision::full);
        QVERIFY(guessed(sheet, 5, 2).collision == TileCollision::outline);
        QVERIFY(guessed(sheet, 12, 2).collision == TileCollision::outline);
        QVERIFY(guessed(sheet, 2, 2).collision == TileCollision::none); // hangs in the air
    }

    void outlines_that_cross_themselves_are_not_taken() {
        QVERIFY(is_simple({{0, 0}, {1, 0}, {1, 1}}));
        QVERIFY(!is_simple({{0, 0}, {1, 1}, {1, 0}, {0, 1}}));
        QVERIFY(!is_simple({{0, 0}, {1, 0}}));
        QVERIFY(!is_simple({{0, 0}, {0.5, 0}, {1, 0}}));
        const std::array tiles{3};
        const TileSheet before = *test::grey();
        QVERIFY(with_outline(before, tiles, {{0, 0}, {1, 1}, {1, 0}, {0, 1}}).tiles == before.tiles);
        const auto outline = before.tiles.at(9).outline;
        QVERIFY(edit::mirrored(edit::mirrored(outline)) == outline);
        const auto around = edit::turned(outline, 4);
        for (size_t i = 0; i < outline.size(); ++i) QVERIFY(glm::length(around[i] - outline[i]) < 1e-12);
    }

    void many_tiles_are_set_at_once() {
        std::vector<int> all;
        for (const auto& [number, tile] : test::grey()->tiles) all.push_back(number);
        TileSheet sheet = with_collision(*test::grey(), all, TileCollision::none);
        for (const auto& [number, tile] : sheet.tiles) QVERIFY(tile.collision == TileCollision::none);
        sheet = with_collision(sheet, all, TileCollision::outline);
        for (const auto& [number, tile] : sheet.tiles) QVERIFY(is_simple(tile.outline));
    }

    void a_sheet_that_grows_or_moves_keeps_its_tiles() {
        const TileSheet& sheet = *test::grey();
        // A row more above, so that everything moves down; what is new gets numbers that nobody had.
        Picture taller = blank(sheet.picture->width, sheet.picture->height + 16, {0, 0, 0, 0});
        std::copy(sheet.picture->rgba.begin(), sheet.picture->rgba.end(),
                  taller.rgba.begin() + std::ptrdiff_t(size_t(16) * size_t(taller.width) * 4));
        for (int x = 0; x < 16; ++x)
            for (int y = 0; y < 16; ++y) put(taller, x, y, {9, 9, uint8_t(x * 9), 255});
        const Recut grown = recut(sheet, std::make_shared<const Picture>(taller), sheet.cut);
        QVERIFY(grown.lost.empty());
        for (const auto& [number, tile] : sheet.tiles) {
            const SheetTile& now = grown.sheet.tiles.at(number);
            QVERIFY(now.name == tile.name && now.collision == tile.collision && now.outline == tile.outline);
            // Whole and blank block look alike: either may be found again in either's place.
            if (number != 0 && number != 22) QVERIFY(now.at[0] == tile.at[0] && now.at[1] == tile.at[1] + 1);
        }
        QVERIFY(grown.sheet.tiles.contains(24) && grown.sheet.tiles.at(24).at == (std::array{0, 0}));
        // Repainted in place they stay too.
        Picture repainted = *sheet.picture;
        for (size_t i = 0; i < repainted.rgba.size(); i += 4)
            repainted.rgba[i] = uint8_t(255 - repainted.rgba[i]);
        const Recut again = recut(sheet, std::make_shared<const Picture>(repainted), sheet.cut);
        QVERIFY(again.lost.empty() && again.sheet.tiles == sheet.tiles);
        // What is gone from the picture is listed and kept.
        Picture shorter = blank(sheet.picture->width, 16, {0, 0, 0, 0});
        std::copy_n(sheet.picture->rgba.begin(), shorter.rgba.size(), shorter.rgba.begin());
        const Recut cut_off = recut(sheet, std::make_shared<const Picture>(shorter), sheet.cut);
        QCOMPARE(cut_off.lost.size(), size_t(16));
        QCOMPARE(cut_off.sheet.tiles.size(), sheet.tiles.size());
    }

    void unequal_pictures_are_found_as_they_were_laid() {
        Random random(8831);
        for (int round = 0; round < test::rounds(60); ++round) {
            // Boxes in a coarse grid, so that empty borders of three pixels and more part them.
            Picture picture = blank(400, 300, {0, 0, 0, 0});
            std::set<std::array<int, 4>> laid;
            for (int row = 0; row < 5; ++row)
                for (int column = 0; column < 6; ++column) {
                    if (random.whole(0, 3) == 0) continue;
                    const int w = random.whole(3, 60), h = random.whole(3, 50);
                    const int left = column * 65 + random.whole(1, 62 - w),
                              top = row * 58 + random.whole(1, 54 - h);
                    // A cross fills the box without filling all of it; a dot apart belongs to it.
                    for (int y = 0; y < h; ++y)
                        for (int x = 0; x < w; ++x)
                            if (y == h / 2 || x == w / 2 || (x == 0 && y == h / 2))
                                picture.rgba[(size_t(top + y) * 400 + size_t(left + x)) * 4 + 3] = 255;
                    laid.insert({left, top, w, h});
                }
            std::set<std::array<int, 4>> found;
            for (const auto& [number, tile] : pictures_on(picture, 1)) found.insert(tile.box_px.value());
            QVERIFY(found == laid);
        }
        QVERIFY(pictures_on(blank(20, 20, {0, 0, 0, 0}), 1).empty());
        QVERIFY(pictures_on(blank(20, 20, {9, 9, 9, 255}), 1).empty());
    }

    void unequal_pictures_keep_their_numbers_when_brought_in_again() {
        Picture picture = blank(100, 40, {0, 0, 0, 0});
        const auto fill = [&](Picture& onto, int left, int w) {
            for (int y = 5; y < 30; ++y)
                for (int x = left; x < left + w; ++x) onto.rgba[(size_t(y) * 100 + size_t(x)) * 4 + 3] = 255;
        };
        fill(picture, 5, 20), fill(picture, 60, 25);
        TileSheet sheet;
        sheet.picture = std::make_shared<const Picture>(picture);
        sheet.tiles = pictures_on(picture, 1);
        sheet.tiles[0].name = "Lamp", sheet.tiles[1].name = "Bench";
        // One more between them, and both a little elsewhere.
        Picture after = blank(100, 40, {0, 0, 0, 0});
        fill(after, 8, 20), fill(after, 34, 10), fill(after, 62, 25);
        const Recut again = pictures_again(sheet, std::make_shared<const Picture>(after));
        QVERIFY(again.lost.empty());
        QCOMPARE(again.sheet.tiles.size(), size_t(3));
        QCOMPARE(again.sheet.tiles.at(0).name, std::string("Lamp"));
        QCOMPARE(again.sheet.tiles.at(0).box_px.value()[0], 8);
        QCOMPARE(again.sheet.tiles.at(1).name, std::string("Bench"));
        QCOMPARE(again.sheet.tiles.at(2).box_px.value()[0], 34);
        // What is gone is kept and listed.
        Picture one = blank(100, 40, {0, 0, 0, 0});
        fill(one, 5, 20);
        const Recut less = pictures_again(sheet, std::make_shared<const Picture>(one));
        QCOMPARE(less.lost, std::vector<int>{1});
        QCOMPARE(less.sheet.tiles.size(), size_t(2));
    }

    void stairs_become_ramps_and_nothing_else_does() {
        const std::vector<Vec2> stairs{{0, 0}, {1, 0}, {1, 1}, {0.5, 1}, {0.5, 0.5}, {0, 0.5}};
        const auto ramp = ramps_for_stairs(stairs);
        QVERIFY(ramp);
        QCOMPARE(ramp->size(), size_t(3));
        for (const Vec2& corner : {Vec2(0, 0), Vec2(1, 0), Vec2(1, 1)})
            QVERIFY(std::find(ramp->begin(), ramp->end(), corner) != ramp->end());
        // Stairs down, in any number of steps, wherever the line begins.
        for (int steps = 2; steps < 9; ++steps)
            for (int first = 0; first < steps * 2 + 2; ++first) {
                std::vector<Vec2> down{{1, 0}};
                for (int i = 0; i < steps; ++i) {
                    down.push_back({1 - double(i) / steps, double(i + 1) / steps});
                    down.push_back({1 - double(i + 1) / steps, double(i + 1) / steps});
                }
                down.push_back({0, 0});
                std::rotate(down.begin(), down.begin() + first % int(down.size()), down.end());
                const auto slope = ramps_for_stairs(down);
                QVERIFY(slope && slope->size() <= 4);
                QVERIFY(!ramps_for_stairs(*slope));
            }
        QVERIFY(!ramps_for_stairs({{0, 0}, {1, 0}, {1, 1}, {0, 1}}));
    }

    void grey_pieces_are_drawn_on_until_the_sheet_is_full() {
        TileSheet sheet = *test::grey();
        const std::vector<Vec2> piece{{0, 0}, {1, 0}, {1, 0.25}, {0, 0.75}};
        for (int i = 0; i < 24; ++i) {
            const TileSheet next = with_grey_piece(sheet, piece, "Piece");
            QCOMPARE(next.tiles.size(), sheet.tiles.size() + 1);
            QVERIFY(opaque_part(next, next.tiles.rbegin()->first) > 0.4);
            sheet = next;
        }
        QVERIFY(with_grey_piece(sheet, piece, "Piece").tiles == sheet.tiles);
        QVERIFY(with_grey_piece(*test::grey(), {{0, 0}, {1, 1}, {1, 0}, {0, 1}}, "Crossed").tiles ==
                test::grey()->tiles);
    }
};

RUBBLE_TEST(SheetsTest)
#include "sheets_test.moc"
