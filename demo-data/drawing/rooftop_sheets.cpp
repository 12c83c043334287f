#include "rooftop_sheets.h"

#include <cmath>

namespace rubble::demo {

namespace {

constexpr int k_px = 16; ///< of a rooftop tile

/// Bricks of eight by four pixels, laid so that every tile goes on in the next.
Color brick_at(int x, int y) {
    const int row = (y & 15) / 4, shifted = (x + (row % 2) * 4) & 15;
    if (y % 4 == 3 || shifted % 8 == 7) return paint::mortar;
    const double light = 0.9 + 0.2 * grain(shifted / 8, row, 3);
    return shaded(paint::brick, y % 4 == 0 ? light * 1.07 : light);
}

/// What lies so deep (pixels) under an upper side: clay tiles, then their shadow.
Color coping_at(int along, int deep, Color under) {
    if (deep == 0) return shaded(paint::clay, 1.22);
    if (deep < 5) return shaded(paint::clay, (along & 3) == 3 ? 0.72 : deep == 4 ? 0.85 : 1.0);
    return deep < 7 ? shaded(under, 0.72) : under;
}

/// Lime quoins at upright sides, long and short in turn.
bool is_quoin(int from_side, int y) { return from_side < (y & 8 ? 3 : 5); }

void brickwork(Canvas& canvas, GroundAround around) {
    const auto open = [&](GroundAround::Neighbour one) { return !around.has(one); };
    for (int y = 0; y < k_px; ++y)
        for (int x = 0; x < k_px; ++x) {
            Color color = brick_at(x, y);
            const int right = k_px - 1 - x;
            if ((open(GroundAround::left) && is_quoin(x, y)) ||
                (open(GroundAround::right) && is_quoin(right, y)))
                color = shaded(paint::lime, y % 8 == 7 ? 0.75 : 1.0);
            if (open(GroundAround::left) && x == 0) color = shaded(color, 1.12);
            if (open(GroundAround::right) && right == 0) color = shaded(color, 0.8);
            if (open(GroundAround::below) && y >= k_px - 2) color = shaded(color, 0.66);
            if (open(GroundAround::above)) color = coping_at(x, y, color);
            // Into an inner corner reaches what borders the cells beside it.
            if (!open(GroundAround::above) && !open(GroundAround::left) && open(GroundAround::upper_left) &&
                x + y < 6)
                color = coping_at(x, x + y, color);
            if (!open(GroundAround::above) && !open(GroundAround::right) && open(GroundAround::upper_right) &&
                right + y < 6)
                color = coping_at(x, right + y, color);
            canvas.dot(x, y, color);
        }
}

/// Brickwork under a straight line from `left` to `right` (pixels from the top at both sides), with clay on
/// it.
void roof_slope(Canvas& canvas, double left, double right) {
    for (int y = 0; y < k_px; ++y)
        for (int x = 0; x < k_px; ++x) {
            const double top = left + (right - left) * (x + 0.5) / k_px;
            if (y + 0.5 >= top) canvas.dot(x, y, coping_at(x, int(y + 0.5 - top), brick_at(x, y)));
        }
}

void deck(Canvas& canvas) {
    canvas.boards(0, 0, k_px, 4, 4, paint::timber, false, 5);
    canvas.rect(0, 4, k_px, 3, paint::dark_timber);
    canvas.rect(0, 7, k_px, 1, paint::shade);
}

void water_top(Canvas& canvas) {
    for (int y = 3; y < k_px; ++y)
        for (int x = 0; x < k_px; ++x) {
            const int wave = 4 + int(std::lround(1.4 * std::sin(x * 3.14159265 / 8)));
            if (y < wave) continue;
            canvas.dot(x, y, y == wave ? paint::foam : shaded(paint::tide, y == wave + 1 ? 1.25 : 1.0));
        }
}

void water(Canvas& canvas) {
    for (int y = 0; y < k_px; ++y)
        for (int x = 0; x < k_px; ++x)
            canvas.dot(x, y, shaded(paint::tide, grain(x / 5, y / 2, 9) > 0.88 ? 1.12 : 0.97));
}

/// A lime course between two storeys.
void course(Canvas& canvas) {
    canvas.rect(0, 5, k_px, 6, paint::lime);
    canvas.rect(0, 5, k_px, 1, shaded(paint::lime, 1.12));
    canvas.rect(0, 10, k_px, 1, shaded(paint::lime, 0.75));
    canvas.rect(0, 11, k_px, 2, {0x4A, 0x32, 0x28, 90});
}

/// One by one and a half metres.
void window(Canvas& canvas) {
    canvas.rect(2, 2, 28, 42, paint::lime);
    canvas.rect(2, 2, 28, 1, shaded(paint::lime, 1.12));
    canvas.rect(6, 7, 20, 34, paint::shade);
    for (int y = 8; y < 40; y += 11)
        for (int x = 7; x < 25; x += 10) {
            canvas.rect(x, y, 8, 9, shaded(paint::glass, y > 20 ? 0.8 : 1.0));
            canvas.line(x + 1, y + 7, x + 6, y + 1, shaded(paint::glass, 1.15));
        }
    canvas.rect(0, 44, 32, 3, shaded(paint::lime, 0.9)), canvas.rect(0, 46, 32, 1, shaded(paint::lime, 0.6));
}

/// One by two metres.
void door(Canvas& canvas) {
    canvas.rect(1, 2, 30, 62, paint::lime);
    canvas.rect(1, 2, 30, 1, shaded(paint::lime, 1.12));
    canvas.boards(5, 7, 22, 57, 5, paint::tide, true, 4);
    canvas.rect(5, 18, 22, 2, paint::iron), canvas.rect(5, 50, 22, 2, paint::iron);
    canvas.rect(22, 36, 3, 3, paint::lamp);
}

void crate(Canvas& canvas) {
    canvas.boards(1, 2, 14, 14, 4, paint::timber, false, 8);
    canvas.rect(1, 2, 2, 14, shaded(paint::timber, 0.75));
    canvas.rect(13, 2, 2, 14, shaded(paint::timber, 0.75));
    canvas.line(3, 14, 12, 3, shaded(paint::timber, 0.7));
}

void barrel(Canvas& canvas) {
    canvas.boards(3, 2, 10, 14, 2, paint::dark_timber, true, 2);
    canvas.rect(2, 5, 12, 1, paint::iron), canvas.rect(2, 12, 12, 1, paint::iron);
    canvas.rect(2, 6, 1, 6, shaded(paint::dark_timber, 1.1));
    canvas.rect(13, 6, 1, 6, shaded(paint::dark_timber, 0.7));
}

void post(Canvas& canvas) { canvas.boards(6, 0, 4, k_px, 2, paint::dark_timber, true, 6); }

void net(Canvas& canvas) {
    for (int y = 0; y < k_px; ++y)
        for (int x = 0; x < k_px; ++x)
            if ((x + y) % 8 == 0 || (x - y + 16) % 8 == 0) canvas.dot(x, y, paint::rope);
}

void vent(Canvas& canvas) {
    canvas.block(2, 4, 12, 12, paint::iron);
    for (int y = 7; y < 14; y += 2) canvas.rect(4, y, 8, 1, paint::shade);
}

void chimney(Canvas& canvas) {
    for (int y = 3; y < k_px; ++y)
        for (int x = 3; x < 13; ++x) canvas.dot(x, y, brick_at(x, y));
    canvas.block(2, 0, 12, 4, paint::lime);
}

void lantern(Canvas& canvas) {
    canvas.rect(7, 0, 2, 4, paint::iron);
    canvas.block(4, 4, 8, 9, paint::iron);
    canvas.rect(6, 6, 4, 5, paint::lamp);
}

void laundry(Canvas& canvas) {
    canvas.rect(0, 2, k_px, 1, paint::rope);
    canvas.block(1, 3, 6, 10, paint::foam);
    canvas.block(9, 3, 5, 8, shaded(paint::clay, 1.1));
}

void rail(Canvas& canvas) {
    canvas.rect(0, 4, k_px, 2, paint::iron), canvas.rect(0, 10, k_px, 1, paint::iron);
    canvas.rect(7, 4, 2, 12, shaded(paint::iron, 0.85));
}

/// Far things have lost their colours to the air.
Color hazy(Color color, double air) { return mixed(color, paint::haze, air); }

constexpr int k_metre_px = 32;

Color far_sea_at(int x, int y) {
    constexpr Color k_far_sea{0x8F, 0xB0, 0xB6, 255};
    return shaded(k_far_sea, grain(x / 9, y / 2, 12) > 0.85 ? 1.08 : 1.0);
}

/// The strip of land across the bay, from a height of the canvas on.
void far_bank(Canvas& canvas, int top) {
    canvas.rect(0, top, canvas.width(), 5, hazy(paint::timber, 0.55));
    canvas.rect(0, top + 5, canvas.width(), 1, paint::foam);
}

void far_sheds(Canvas& canvas) {
    for (int shed = 0; shed < 3; ++shed) {
        const int left = shed * 42, wide = 40, top = 34 + 8 * (shed % 2);
        const Color wall = hazy(shed == 1 ? paint::lime : paint::brick, 0.62);
        canvas.rect(left, top, wide, canvas.height() - top, wall);
        for (int x = 0; x < wide; ++x)
            for (int y = 0; y < 14 - std::abs(x - wide / 2) * 14 / (wide / 2); ++y)
                canvas.dot(left + x, top - y, hazy(paint::clay, 0.6));
        for (int x = 5; x < wide - 5; x += 9) canvas.rect(left + x, top + 10, 5, 7, hazy(paint::glass, 0.3));
        canvas.rect(left + wide - 1, top, 1, canvas.height() - top, shaded(wall, 0.9));
    }
}

void far_crane(Canvas& canvas) {
    const Color iron = hazy(paint::iron, 0.55);
    for (int y = 14; y < canvas.height(); y += 16) {
        canvas.line(30, y, 46, y + 16, iron), canvas.line(46, y, 30, y + 16, iron);
    }
    canvas.rect(28, 10, 3, canvas.height(), iron), canvas.rect(45, 10, 3, canvas.height(), iron);
    canvas.rect(2, 8, 90, 4, iron);
    canvas.line(38, 0, 4, 8, iron), canvas.line(38, 0, 90, 8, iron);
    canvas.rect(10, 12, 1, 44, iron), canvas.rect(6, 56, 9, 7, hazy(paint::timber, 0.5));
}

void far_lighthouse(Canvas& canvas) {
    const int middle = canvas.width() / 2;
    for (int y = 26; y < canvas.height(); ++y) {
        const int half = 8 + (y - 26) * 8 / canvas.height();
        const bool red = (y - 26) / 22 % 2 == 1;
        canvas.rect(middle - half, y, 2 * half, 1, hazy(red ? paint::clay : paint::lime, 0.5));
        canvas.rect(middle + half - 3, y, 3, 1, hazy(red ? paint::clay : paint::lime, 0.6));
    }
    canvas.rect(middle - 10, 22, 20, 4, hazy(paint::iron, 0.5));
    canvas.rect(middle - 6, 10, 12, 12, hazy(paint::lamp, 0.2));
    canvas.rect(middle - 1, 10, 2, 12, hazy(paint::iron, 0.4));
    for (int y = 0; y < 8; ++y) canvas.rect(middle - 1 - y, 2 + y, 2 + 2 * y, 1, hazy(paint::clay, 0.4));
}

void far_boat(Canvas& canvas) {
    const int low = canvas.height() - 4;
    for (int y = 2 * k_metre_px; y < canvas.height(); ++y)
        for (int x = 0; x < canvas.width(); ++x) canvas.dot(x, y, far_sea_at(x, y));
    far_bank(canvas, 2 * k_metre_px);
    for (int y = 0; y < 10; ++y)
        canvas.rect(8 + y, low - 10 + y, 76 - 2 * y, 1, hazy(y < 2 ? paint::foam : paint::tide, 0.4));
    canvas.rect(44, 8, 2, low - 18, hazy(paint::dark_timber, 0.5));
    for (int y = 0; y < 36; ++y) canvas.rect(47, 12 + y, y * 2 / 3, 1, hazy(paint::foam, 0.35));
    canvas.block(20, low - 20, 18, 10, hazy(paint::lime, 0.4));
}

void cloud(Canvas& canvas) {
    const Color white{0xF6, 0xF7, 0xF4, 255};
    for (const auto& [x, y, radius] : {std::array{24, 22, 9}, {42, 17, 13}, {64, 20, 11}, {80, 24, 7}})
        canvas.disc(x, y, radius, white);
    canvas.rect(16, 24, 72, 7, white);
}

} // namespace

RooftopSheet rooftop_sheet() {
    SheetMaker maker("rooftops", k_px, 12, 10);
    maker.add_ground("Brickwork", true, brickwork, TileCollision::full);
    const auto slope = [&](const char* name, double left, double right, std::vector<Vec2> outline) {
        maker.add(
            name, [=](Canvas& canvas) { roof_slope(canvas, left, right); }, TileCollision::outline,
            std::move(outline));
    };
    slope("Roof up", 16, 0, {{0, 0}, {1, 0}, {1, 1}});
    slope("Gentle roof up, low", 16, 8, {{0, 0}, {1, 0}, {1, 0.5}});
    slope("Gentle roof up, high", 8, 0, {{0, 0}, {1, 0}, {1, 1}, {0, 0.5}});
    slope("Half a block", 8, 8, {{0, 0}, {1, 0}, {1, 0.5}, {0, 0.5}});
    maker.add("Deck", deck, TileCollision::one_way, {{0, 0.5}, {1, 0.5}, {1, 1}, {0, 1}});
    RooftopSheet out;
    out.water_top = maker.add("Water's edge", water_top, TileCollision::none,
                              {{0, 0}, {1, 0}, {1, 0.75}, {0, 0.75}}, TileActs::deadly);
    out.water = maker.add("Water", water, TileCollision::none, {}, TileActs::deadly);
    out.course = maker.add("Course", course);
    out.crate = maker.add("Crate", crate);
    out.barrel = maker.add("Barrel", barrel);
    out.post = maker.add("Post", post);
    out.net = maker.add("Net", net);
    out.vent = maker.add("Vent", vent);
    out.chimney = maker.add("Chimney", chimney);
    out.lantern = maker.add("Lantern", lantern);
    out.laundry = maker.add("Laundry", laundry);
    out.rail = maker.add("Rail", rail);
    out.window = maker.add_large("Window", 2, 3, window);
    out.door = maker.add_large("Door", 2, 4, door);
    out.sheet = maker.finished();
    return out;
}

HarbourSheet harbour_sheet() {
    SheetMaker maker("harbour", k_metre_px, 8, 12);
    HarbourSheet out;
    const auto sea = [](Canvas& c) {
        for (int y = 0; y < c.height(); ++y)
            for (int x = 0; x < c.width(); ++x) c.dot(x, y, far_sea_at(x, y));
    };
    out.sea = maker.add("Far sea", sea);
    out.shore = maker.add("Far shore", [&](Canvas& c) {
        sea(c);
        far_bank(c, 0);
    });
    out.sheds = maker.add_large("Sheds", 4, 3, far_sheds);
    out.crane = maker.add_large("Crane", 3, 5, far_crane);
    out.lighthouse = maker.add_large("Lighthouse", 2, 5, far_lighthouse);
    out.boat = maker.add_large("Boat", 3, 3, far_boat);
    out.cloud = maker.add_large("Cloud", 3, 1, cloud);
    out.sheet = maker.finished();
    return out;
}

} // namespace rubble::demo
