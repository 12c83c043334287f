#include <cmath>
#include <map>

#include "demo_levels.h"
#include "drawn_rows.h"
#include "edit/edging.h"
#include "level/element_values.h"

namespace rubble::demo {

namespace {

constexpr double k_top_m = 13; ///< where the uppermost row begins; the water's edge is near height 0

/// What collides, in cells of a metre: # whole, / a slope, c d gentle slopes down, - decks, = the upper half
/// of a cell, ] the right half. The lowest row stands under water.
const std::vector<std::string>& buildings() {
    static const std::vector<std::string> k_rows{
        "                                                                ",
        "                                                                ",
        "                                             ###                ",
        "                                             ###                ",
        "                                 --          ###                ",
        "                /##cd          --            ===                ",
        "               /#####cd      --                     /###########",
        "##########  ############    #########    ]######################",
        "##########- ############    #########    ]######################",
        "########################    #########    ]######################",
        "########################    #########    ]######################",
        "########################    #########    ]######################",
        "########################    #########    ]######################",
        "########################    #########    ]######################",
    };
    return k_rows;
}

/// The tiles of the grey sheet that the letters stand for.
const std::map<char, int> k_grey{{'#', 0}, {'=', 2}, {']', 4}, {'/', 5}, {'c', 10}, {'d', 11}, {'-', 14}};

/// The cell of half a metre whose lower left corner lies at a place.
CellAt half_cell(double x_m, double z_m) {
    return {int(std::lround(x_m * 2)), int(std::lround((k_top_m - z_m) * 2)) - 1};
}

Layer collision(const TileSheet& grey) {
    TileLayer tiles = tiles_at(Frame::side, {0, k_top_m}, 1, grey);
    TileGridMaker maker;
    for_each_letter(buildings(), [&](CellAt at, char letter) {
        if (const auto found = k_grey.find(letter); found != k_grey.end()) maker.put(at, Tile(found->second));
    });
    tiles.solid = true;
    tiles.grid = maker.finished();
    Layer layer = tile_layer("collision", "Collision", std::move(tiles));
    layer.hidden = true; // it is clothed
    return layer;
}

Layer roofs_over(const Layer& matter, const RooftopSheet& roofs) {
    TileLayer tiles = tiles_at(Frame::side, {0, k_top_m}, 0.5, roofs.sheet);
    tiles.depth = 2;
    return tile_layer("roofs", "Roofs",
                      edit::clothed(tiles, **matter.tiles, Frame::side, tiles.sheet->edgings.front()));
}

/// Windows, chimneys and what people left on the roofs.
Layer fittings(const RooftopSheet& roofs) {
    TileLayer tiles = tiles_at(Frame::side, {0, k_top_m}, 0.5, roofs.sheet);
    TileGridMaker maker;
    const auto put = [&](double x, double z, int number) { maker.put(half_cell(x, z), Tile(number)); };
    const auto storeys = [&](double from, double to) {
        for (double x = from; x + 2 <= to; x += 3)
            for (const double z : {1.0, 3.5}) lay(maker, half_cell(x + 1, z + 1), roofs.window, 2, 3);
        for (double x = from; x < to; x += 0.5) put(x, 2.75, roofs.course);
    };
    storeys(0, 10), storeys(12, 24), storeys(28, 37), storeys(41.5, 64);
    for (const auto& [x, z] : {std::pair{0.5, 6.0}, {17.0, 8.0}, {35.5, 6.0}, {46.0, 11.0}, {57.0, 7.0}}) {
        put(x, z, roofs.chimney);
    }
    for (const auto& [x, z] : {std::pair{4.5, 6.0}, {5.0, 6.0}, {12.5, 6.0}, {43.0, 6.0}, {63.0, 7.0}})
        put(x, z, roofs.crate);
    for (const auto& [x, z] : {std::pair{5.0, 6.5}, {28.0, 6.0}, {49.5, 6.0}, {50.0, 6.0}})
        put(x, z, roofs.barrel);
    put(44.0, 6, roofs.vent), put(55.0, 7, roofs.vent), put(8.0, 6, roofs.vent);
    for (const double x : {29.0, 30.5, 31.0, 32.5, 33.0, 34.5}) {
        const double top = x < 31 ? 6 : x < 33 ? 7 : 8;
        for (double z = 6; z < top + 0.5; z += 0.5) put(x, z, roofs.post);
    }
    for (double x = 24; x < 28; x += 0.5) put(x, 7.5, roofs.laundry);
    for (double x = 37; x < 41.5; x += 0.5) put(x, 3, roofs.net);
    for (const double x : {45.0, 47.5}) // the stack stands on legs that one walks past
        for (double z = 6; z < 7.5; z += 0.5) put(x, z, roofs.post);
    for (const double x : {9.0, 23.0, 36.0, 50.0}) put(x, 5, roofs.lantern);

    // The head of the stairs, with the door that one is after.
    std::vector<CellAt> hut;
    for (double x = 59; x < 63; x += 0.5)
        for (double z = 7; z < 10; z += 0.5) hut.push_back(half_cell(x, z));
    maker = TileGridMaker(edit::with_ground(maker.finished(), roofs.sheet.edgings.front(), hut, true));
    lay(maker, half_cell(60.5, 8.5), roofs.door, 2, 4);
    tiles.depth = 1;
    tiles.grid = maker.finished();
    return tile_layer("fittings", "Fittings", std::move(tiles));
}

/// The water stands before all else, and kills.
Layer tide(const RooftopSheet& roofs) {
    constexpr double k_left_m = -20, k_right_m = 84;
    TileLayer tiles = tiles_at(Frame::side, {k_left_m, 0.5}, 0.5, roofs.sheet);
    TileGridMaker maker;
    const int columns = int((k_right_m - k_left_m) * 2);
    maker.put_run({0, 0}, columns, Tile(roofs.water_top));
    for (int row = 1; row < 3; ++row) maker.put_run({0, row}, columns, Tile(roofs.water));
    tiles.depth = -2, tiles.opacity = 0.85, tiles.solid = true;
    tiles.grid = maker.finished();
    return tile_layer("tide", "Tide", std::move(tiles));
}

Layer across_the_bay(const HarbourSheet& harbour) {
    TileLayer tiles = tiles_at(Frame::side, {-20, 16}, 1, harbour.sheet);
    TileGridMaker maker;
    constexpr int k_columns = 104, k_shore = 9;
    maker.put_run({0, k_shore}, k_columns, Tile(harbour.shore));
    for (int row = k_shore + 1; row < 17; ++row) maker.put_run({0, row}, k_columns, Tile(harbour.sea));
    for (const int column : {6, 12, 33, 52, 58, 84}) lay(maker, {column, k_shore - 3}, harbour.sheds, 4, 3);
    for (const int column : {18, 64, 92}) lay(maker, {column, k_shore - 5}, harbour.crane, 3, 5);
    lay(maker, {46, k_shore - 5}, harbour.lighthouse, 2, 5);
    for (const int column : {24, 41, 74}) lay(maker, {column, k_shore - 2}, harbour.boat, 3, 3);
    for (const auto& [column, row] : {std::pair{14, 1}, {28, 3}, {39, 0}, {56, 2}, {70, 1}, {88, 3}})
        lay(maker, {column, row}, harbour.cloud, 3, 1);
    tiles.depth = 30, tiles.parallax = {0.4, 0.8};
    tiles.grid = maker.finished();
    return tile_layer("harbour", "Harbour", std::move(tiles));
}

Layer play() {
    Layer layer;
    layer.id = {"play"}, layer.name = "Play";
    layer.items.push_back(element("s1", "start", "Start", {2, 0, 6}, 0));
    layer.items.push_back(element("p1", "place", "Ledge under the first gap", {11.5, 0, 4}));
    layer.items.push_back(element("p2", "place", "Scaffold", {34.2, 0, 9}));
    layer.items.push_back(element("p3", "place", "Chimney stack", {46.5, 0, 11}));
    layer.items.push_back(element("g1", "goal", "Office door", {61, 0, 7}));
    int pearls = 0;
    for (const Vec3& at : {Vec3(7, 0, 6), {17.5, 0, 8}, {28.5, 0, 9}, {34.2, 0, 9}, {57, 0, 7}}) {
        const std::string number = std::to_string(++pearls);
        layer.items.push_back(element("u" + number, "pickup", "Pearl " + number, at));
    }
    const auto with = [&](Item item, const char* key, const auto& value) {
        auto& body = std::get<Element>(item.body);
        body = with_value(std::move(body), key, value);
        return item;
    };
    using Places = std::vector<Vec3>;
    const auto gull = [&](const char* id, const char* name, const Vec3& from, const Vec3& to) {
        Item item = with(element(id, "foe", name, from), "path", Places{from, to});
        item = with(std::move(item), "way", std::string("back_and_forth"));
        layer.items.push_back(with(std::move(item), "size_m", Vec3(0.7, 0.7, 0.7)));
    };
    gull("o1", "Gull", {31, 0, 6}, {36, 0, 6});
    gull("o2", "Cat", {48, 0, 6}, {51, 0, 6});
    // In the second gap a hoist goes up to a plank from which the roofs are seen.
    Item hoist =
        with(element("i1", "lift", "Hoist", {26, 0, 5.8}), "stops", Places{{26, 0, 5.8}, {26, 0, 8.8}});
    layer.items.push_back(with(std::move(hoist), "size_m", Vec3(1.4, 1, 0.2)));
    Item plank = with(element("q1", "deck", "Plank", {28.5, 0, 8.8}), "one_way", true);
    layer.items.push_back(with(std::move(plank), "size_m", Vec3(2, 1, 0.2)));
    layer.items.push_back(element("j1", "checkpoint", "Roof bell", {29, 0, 6}));
    return layer;
}

} // namespace

Level low_tide_rooftops(const TileSheet& grey, const RooftopSheet& roofs, const HarbourSheet& harbour) {
    Level level;
    level.name = "Low-Tide Rooftops";
    level.about = "run_and_jump";
    level.frame = Frame::side;
    level.character = {"courier"};
    const Layer matter = collision(grey);
    for (Layer layer :
         {across_the_bay(harbour), roofs_over(matter, roofs), fittings(roofs), matter, tide(roofs), play()})
        level.layers.push_back(std::move(layer));
    level.claims = {
        {{"c1"}, "Start reaches the office door", Claim::Kind::reaches, {"s1"}, {"g1"}, {}, {}, 0, {}},
        {{"c2"},
         "Who falls into the first gap climbs back",
         Claim::Kind::returns,
         {"s1"},
         {"p1"},
         {},
         {},
         0,
         {}},
        {{"c3"}, "Up the scaffold", Claim::Kind::reaches, {"s1"}, {"p2"}, {}, {}, 0, {}},
        {{"c4"},
         "Nobody gets over the chimney stack",
         Claim::Kind::not_reaches,
         {"s1"},
         {"p3"},
         {},
         {},
         0,
         {}},
        {{"c5"}, "Five pearls at most", Claim::Kind::at_most, {}, {}, {}, "pickup", 5, {}},
        {{"c6"}, "Up the hoist to the third pearl", Claim::Kind::reaches, {"s1"}, {"u3"}, {}, {}, 0, {}},
    };
    return level;
}

} // namespace rubble::demo
