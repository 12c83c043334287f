#include "demo_levels.h"
#include "drawn_rows.h"
#include "level/element_values.h"

namespace rubble::demo {

namespace {

/// A puzzle in cells of a metre: # walls, C crates, k a key, D its door, ~ open hatches, * wet floor, @ where
/// one begins, G the ramp.
using Drawing = std::vector<std::string>;

const Drawing k_first{"############", "#@.#.#.....#", "#.#..#.....#", "#....~...G.#",
                      "#.C..#.....#", "#..#.#.....#", "############"};
const Drawing k_second{"############", "#@....#....#", "#.....#..###", "#..**k~..DG#",
                       "#.C**.#..###", "#.....#..#.#", "############"};
const Drawing k_third{"##############", "#@.C.##......#", "#....#.......#",
                      "##...D...#...#", "#..C.#...#~~~#", "##.###...#~G.#",
                      "#....#...#~~~#", "#........k...#", "##############"};
/// As it was thought of first: a crate can be pushed where nobody gets it out again, and that is noticed only
/// steps later.
const Drawing k_third_first_try{"##############", "#@..###......#", "#.C..#.......#",
                                "#....D...#...#", "#..C.#...#~~~#", "##.###...#~G.#",
                                "#....#...#~~~#", "#........k...#", "##############"};

Item set(Item item, const char* key, const std::string& value) {
    auto& element = std::get<Element>(item.body);
    element = with_value(std::move(element), key, value);
    return item;
}

Item sized(Item item, const Vec3& size) {
    auto& element = std::get<Element>(item.body);
    element = with_value(std::move(element), "size_m", size);
    return item;
}

Level puzzle(const StoreSheet& sheet, const char* name, const Drawing& rows, const char* leads_to = nullptr) {
    const double top = double(rows.size());
    TileLayer floor = tiles_at(Frame::plan, {0, top}, 1, sheet.sheet),
              walls = tiles_at(Frame::plan, {0, top}, 1, sheet.sheet);
    TileGridMaker on_floor, in_walls;
    Layer play;
    play.id = {"play"}, play.name = "Play";
    int count = 0;
    for_each_letter(rows, [&](CellAt at, char letter) {
        on_floor.put(at, Tile(sheet.floor[size_t(grain(at.column, at.row, 21) * 3.1)]));
        const Vec3 middle(at.column + 0.5, top - at.row - 0.5, 0);
        const auto put = [&](Item item) { play.items.push_back(std::move(item)); };
        const std::string number = std::to_string(++count);
        switch (letter) {
        case '#':
            in_walls.put(at, Tile(sheet.stacks[size_t(grain(at.column, at.row, 4) * 4.9)]));
            break;
        case '@':
            put(element("s1", "start", "Start", middle, -90));
            break;
        case 'G':
            put(leads_to ? set(element("g1", "goal", "Loading ramp", middle), "leads_to", leads_to)
                         : element("g1", "goal", "Loading ramp", middle));
            break;
        case 'C': {
            Item crate = element("c" + number, "crate", "Crate " + number, middle);
            auto& body = std::get<Element>(crate.body);
            body = with_value(std::move(body), "size_m", 1.0);
            put(std::move(crate));
            break;
        }
        case 'k':
            put(set(element("k1", "key", "Brass key", middle), "kind", "brass"));
            break;
        case 'D':
            put(sized(set(element("d1", "door", "Cage door", middle, 90), "key", "brass"), {1, 0.2, 2}));
            break;
        case '~':
            in_walls.put(at, Tile(sheet.pit));
            break;
        case '*':
            put(sized(set(element("w" + number, "floor", "Wet floor " + number, middle), "acts", "slippery"),
                      {1, 1, 0.1}));
            break;
        default:
            break;
        }
    });
    floor.depth = 10, floor.grid = on_floor.finished();
    walls.solid = true, walls.grid = in_walls.finished();
    Level level;
    level.name = name;
    level.frame = Frame::plan, level.walked = Walked::by_cells;
    level.character = {"courier"};
    level.about = "push";
    for (Layer layer : {tile_layer("floor", "Floor", std::move(floor)),
                        tile_layer("stacks", "Walls and stacks", std::move(walls)), std::move(play)})
        level.layers.push_back(std::move(layer));
    level.claims = {
        {{"c1"}, "Start reaches the loading ramp", Claim::Kind::reaches, {"s1"}, {"g1"}, {}, {}, 0, {}}};
    return level;
}

} // namespace

std::vector<NamedLevel> pallet_puzzles(const StoreSheet& sheet) {
    return {
        {"pallet-shift-1", puzzle(sheet, "Pallet Store, first shift", k_first, "Pallet Store, second shift")},
        {"pallet-shift-2",
         puzzle(sheet, "Pallet Store, second shift", k_second, "Pallet Store, third shift")},
        {"pallet-shift-3", puzzle(sheet, "Pallet Store, third shift", k_third)},
        {"pallet-shift-3-first-try",
         puzzle(sheet, "Pallet Store, third shift, first try", k_third_first_try)}};
}

} // namespace rubble::demo
