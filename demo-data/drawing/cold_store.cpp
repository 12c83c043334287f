#include "cold_store_kit.h"
#include "edit/items.h"
#include "edit/pieces.h"
#include "level/element_values.h"

namespace rubble::demo {

namespace {

/// Lays pieces by the cells that they stand in.
class Laying {
public:
    Laying(const Kit& kit, Level& level) : kit_(kit), level_(level) {}

    /// A piece of cells with the low corner of its first cell at whole modules, turned by quarters.
    void cell(const char* id, int x, int y, int storey = 0, int quarters = 0) {
        PlacedPiece placed = piece(id, quarters);
        const Vec3 low = edit::cells_box(kit_, placed).low;
        placed.place.at = Vec3(x, y, storey) * kit_.module_m - Vec3(low.x, low.y, 0);
        add(placed);
    }
    /// A piece on a line of the module: from a corner along x, or along y where it is turned.
    void line(const char* id, int x, int y, bool along_y = false) {
        PlacedPiece placed = piece(id, along_y ? 1 : 0);
        placed.place.at = Vec3(x, y, 0) * kit_.module_m;
        add(placed);
    }
    void element(const char* kind, const char* id, const char* name, const Vec3& at, double facing_deg = 0) {
        level_ = edit::with_item(level_, 0, Item{{id}, name, false, Element{kind, at, facing_deg, {}}, {}});
    }
    /// A lamp under the ceiling of a cell.
    void lamp(int x, int y, int storey = 0) {
        const std::string id = "lamp" + std::to_string(++lamps_);
        Element lamp{
            "lamp", (Vec3(x, y, storey) + Vec3(0.5, 0.5, 0)) * kit_.module_m + Vec3(0, 0, 3.3), 0, {}};
        lamp = with_value(with_value(lamp, "lumens", 1100.0), "reach_m", 8.0);
        lamp = with_value(lamp, "color", std::string("#DCEBFF"));
        level_ = edit::with_item(level_, 1, Item{{id}, {}, false, std::move(lamp), {}});
    }
    /// Something of another kit that stands about.
    void prop(const Kit& kit, const char* id, const Vec3& at, double turn_deg) {
        PlacedPiece placed;
        placed.kit_file = kit.file, placed.piece_id = id, placed.piece = kit.piece(id);
        placed.place.at = at, placed.place.turn_deg = turn_deg;
        level_ = edit::with_item(level_, 1,
                                 Item{{"prop" + std::to_string(++props_)}, {}, false, std::move(placed), {}});
    }

private:
    PlacedPiece piece(const char* id, int quarters) const {
        PlacedPiece placed;
        placed.kit_file = kit_.file, placed.piece_id = id, placed.piece = kit_.piece(id);
        placed.place.turn_deg = quarters == 3 ? -90 : 90.0 * quarters;
        return placed;
    }
    void add(PlacedPiece placed) {
        level_ = edit::with_item(level_, 0,
                                 Item{{"p" + std::to_string(++count_)}, {}, false, std::move(placed), {}});
    }

    const Kit& kit_;
    Level& level_;
    int count_ = 0, lamps_ = 0, props_ = 0;
};

} // namespace

Level cold_store(const Kit& kit, const Kit& fittings) {
    Level level;
    level.name = "Cold Store";
    level.character = {"courier"};
    Layer layer;
    layer.id = {"store"}, layer.name = "Store";
    level.layers.push_back(std::move(layer));
    Layer dressing;
    dressing.id = {"dressing"}, dressing.name = "Dressing";
    level.layers.push_back(std::move(dressing));
    Laying lay(kit, level);
    // In by the dead end on the left, past a branch, round the corner and up the stairs.
    lay.cell("dead_end", 0, 0, 0, 2);
    lay.cell("straight", 1, 0);
    lay.cell("t", 2, 0);
    lay.cell("dead_end", 2, -1, 0, 3);
    lay.cell("straight", 3, 0);
    lay.cell("crossing", 4, 0);
    lay.cell("dead_end", 5, 0);
    lay.cell("straight", 4, 1, 0, 1);
    lay.cell("dead_end", 4, -1, 0, 3);
    lay.cell("turn", 4, 2, 0, 0);
    lay.cell("stairs", 3, 2, 0, 2);
    lay.cell("straight", 2, 2, 1);
    lay.cell("dead_end", 1, 2, 1, 2);
    lay.element("start", "start", "Start", {2.5, 2.5, 0});
    lay.element("goal", "goal", "Goal", {7.5, 12.5, 4});
    lay.element("place", "branch", "Packing branch", {12.5, -2.5, 0});
    lay.element("place", "end", "Far end", {27.5, 2.5, 0});
    for (const auto& [x, y] : {std::pair{0, 0}, {2, 0}, {4, 0}, {2, -1}, {4, 2}}) lay.lamp(x, y);
    lay.lamp(2, 2, 1), lay.lamp(1, 2, 1);
    Element dusk{"sun", {-4, -6, 6}, 205, {}};
    dusk = with_value(with_value(with_value(dusk, "lux", 90.0), "height_deg", 28.0), "color",
                      std::string("#C9D6FF"));
    level = edit::with_item(level, 1, Item{{"dusk"}, "Dusk", false, dusk, {}});
    for (const double high : {0.0, 0.34, 0.68})
        lay.prop(fittings, "fish_crate", {11.2, -3.9, high}, 4 * high);
    lay.prop(fittings, "pallet", {13.6, -3.8, 0}, 85);
    lay.prop(fittings, "trolley", {14.3, -1.2, 0}, 120);
    lay.prop(fittings, "barrel", {29.3, 4.2, 0}, 0), lay.prop(fittings, "barrel", {28.5, 4.3, 0}, 50);
    lay.prop(fittings, "bucket", {21.1, 4.2, 0}, 0), lay.prop(fittings, "tub", {23.8, -4.0, 0}, 20);
    Claim claim;
    claim.id = {"c1"}, claim.name = "The upper store is reached", claim.kind = Claim::Kind::reaches;
    claim.from = {"start"}, claim.to = {"goal"};
    level.claims.push_back(claim);
    return level;
}

cast::Rules cold_store_rules(const Kit& kit) {
    cast::Rules rules;
    rules.name = "Cold Store, cast", rules.character = "courier";
    rules.area = {{0, 0, 0}, 2, std::vector<std::string>(8, "########")};
    rules.count = 24, rules.goal_away = 6;
    for (const auto& [id, weight] : {std::pair{"straight", 3.0},
                                     {"turn", 3.0},
                                     {"t", 1.0},
                                     {"crossing", 0.5},
                                     {"stairs", 0.5},
                                     {"dead_end", 1.0}}) {
        cast::Candidate candidate;
        candidate.kit_file = kit.file, candidate.piece_id = id, candidate.weight = weight;
        rules.candidates.push_back(candidate);
    }
    rules.candidates[4].at_least = 1;
    rules.apart.emplace_back("crossing", "crossing");
    return rules;
}

} // namespace rubble::demo
