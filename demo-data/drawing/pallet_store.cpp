#include "demo_levels.h"
#include "drawn_rows.h"
#include "edit/edging.h"

namespace rubble::demo {

namespace {

/// The store in cells of a metre: # walls, P stacks, n a leaning pallet that leaves 0.72 m free, O the open
/// hatch over the water.
const std::vector<std::string>& store() {
    static const std::vector<std::string> k_rows{
        "##############################", "#....P.......P......P........#", "#.PP.P.PPPPP.P.PPPP.P.PPPPPP.#",
        "#.P....P...P...P..P...P....P.#", "#.P.PPPP.P.PPPPP.PPPPPP.PP.P.#", "#.P.P....P..........P....P.P.#",
        "#.P.P.PPPPPPPPPPPPP.P.PPPP.P.#", "#...P.P...........P.P.P....P.#", "#.PPP.P.PPPPPPPPP.P.P.P.PPPPn#",
        "#.....P.P.......P.P...P......#", "#PPPPPP.P.PPPPP.P.PPPPPPPPPP.#", "#.......P.P.OOP.P.P........P.#",
        "#.PPPPPPP.P.OPP.P.P.PPPPPP.P.#", "#.P.......P.PPP.P.P.P....P.P.#", "#.P.PPPPPPP.....P...P.PP.P.P.#",
        "#.P...........PPPPPPP.PP.P.P.#", "#.PPPPPPPPPPP.P.......PP...P.#", "#...........P.P.PPPPPPPPPPPP.#",
        "#.PPPPPPPPP...P..............#", "##############################",
    };
    return k_rows;
}
constexpr double k_top_m = 20;

Vec3 middle_of(int column, int row) { return {column + 0.5, k_top_m - row - 0.5, 0}; }

Layer floor(const StoreSheet& sheet) {
    TileLayer tiles = tiles_at(Frame::plan, {0, k_top_m}, 1, sheet.sheet);
    TileGridMaker maker;
    for_each_letter(store(), [&](CellAt at, char) {
        const double by_chance = grain(at.column, at.row, 21);
        maker.put(at, Tile(by_chance > 0.985 ? sheet.drain
                                             : sheet.floor[by_chance > 0.95 ? 3 : size_t(by_chance * 3.1)]));
    });
    for (const int column : {24, 25, 26}) maker.put({column, 18}, Tile(sheet.arrow));
    tiles.depth = 10;
    tiles.grid = maker.finished();
    return tile_layer("floor", "Floor", std::move(tiles));
}

Layer stacks(const StoreSheet& sheet) {
    TileLayer tiles = tiles_at(Frame::plan, {0, k_top_m}, 1, sheet.sheet);
    TileGridMaker maker;
    std::vector<CellAt> walls;
    for_each_letter(store(), [&](CellAt at, char letter) {
        const size_t kind = size_t(grain(at.column, at.row, 4) * double(sheet.stacks.size()));
        if (letter == '#') walls.push_back(at);
        if (letter == 'P') maker.put(at, Tile(sheet.stacks[kind]));
        if (letter == 'n') maker.put(at, Tile(sheet.leaning));
        if (letter == 'O') maker.put(at, Tile(sheet.pit));
    });
    tiles.solid = true;
    tiles.grid = edit::with_ground(maker.finished(), sheet.sheet.edgings.front(), walls, true);
    return tile_layer("stacks", "Walls and stacks", std::move(tiles));
}

Layer play() {
    Layer layer;
    layer.id = {"play"}, layer.name = "Play";
    layer.items.push_back(element("s1", "start", "Start", middle_of(1, 1), -90));
    layer.items.push_back(element("p1", "place", "Dead end by the hatch", middle_of(11, 11)));
    layer.items.push_back(element("p2", "place", "Behind the leaning pallet", middle_of(28, 9)));
    layer.items.push_back(element("g1", "goal", "Loading ramp", middle_of(28, 18)));
    return layer;
}

} // namespace

Level pallet_store(const StoreSheet& sheet) {
    Level level;
    level.name = "Pallet Store";
    level.frame = Frame::plan;
    level.character = {"courier"};
    for (Layer layer : {floor(sheet), stacks(sheet), play()}) level.layers.push_back(std::move(layer));
    level.claims = {
        {{"c1"}, "Start reaches the loading ramp", Claim::Kind::reaches, {"s1"}, {"g1"}, {}, {}, 0, {}},
        {{"c2"}, "To the hatch and back", Claim::Kind::returns, {"s1"}, {"p1"}, {}, {}, 0, {}},
    };
    return level;
}

} // namespace rubble::demo
