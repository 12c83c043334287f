#include "cast/cast.h"

#include <algorithm>
#include <map>

#include "base/random.h"
#include "build/solid_builder.h"
#include "check/reach_queries.h"
#include "check/spans.h"
#include "edit/fresh_ids.h"
#include "edit/items.h"
#include "level/element_kinds.h"
#include "motion/standing.h"

namespace rubble::cast {

namespace {

/// How many layouts of one seed are played before it is given up.
constexpr int k_layouts = 12;
/// Of a run, every so many steps a place is noted.
constexpr size_t k_steps_shown = 12;
/// Floors are looked for at heights no nearer than that (metres).
constexpr double k_least_rise_m = 0.2;

Vec3 low_of(const Parts& parts, const Laid& laid) {
    return parts.module_m * Vec3(laid.at[0], laid.at[1], laid.at[2]);
}

/// Where the figure stands in a part: near the middle of the cell of its first passage, on its floor.
std::optional<Vec3> standing_in(const Parts& parts, const Laid& laid, Frame frame, const motion::World& world,
                                const Character& character) {
    const Part& part = parts.parts[laid.part];
    std::vector<ModuleCell> cells;
    for (const PartJoint& joint : part.joints)
        if (joint.passage) cells.push_back(joint.cell);
    cells.insert(cells.end(), part.cells.begin(), part.cells.end());
    const double within =
        frame == Frame::side ? parts.module_m.x / 2 : std::min(parts.module_m.x, parts.module_m.y) / 2;
    for (const ModuleCell& cell : cells) {
        const Vec3 low = low_of(parts, laid) + parts.module_m * Vec3(cell[0], cell[1], cell[2]);
        const double y = frame == Frame::side ? 0 : low.y + parts.module_m.y / 2;
        // The lowest floor of the cell counts.
        for (double up = 0; up < parts.module_m.z; up += std::max(character.step_height_m, k_least_rise_m)) {
            const Vec3 middle(low.x + parts.module_m.x / 2, y, low.z + up);
            const auto at = motion::standing_place_near(world, character, middle, within);
            if (at && at->z < low.z + parts.module_m.z) return at;
        }
    }
    return {};
}

/// Where the level's element of a role is; one put into a part where it has none.
std::optional<ItemId> with_element(Level& level, Role role, const Parts& parts, const Laid& laid,
                                   const motion::World& world, const Character& character) {
    if (const auto known = elements_of(level, role); !known.empty()) return known[0]->id;
    const auto at = standing_in(parts, laid, level.frame, world, character);
    if (!at) return {};
    const ElementKind& kind = kind_with(role);
    const ItemId id = edit::fresh_id(level, kind.id_prefix);
    level = edit::with_item(level, 0, Item{id, {}, false, Element{kind.key, *at, 0, {}}, {}});
    return id;
}

/// Follows a run: how long its way is, and where it goes.
void follow(const motion::World& world, const Character& character, const motion::Recording& run,
            Cast& cast) {
    const std::vector<motion::State> states = motion::replay(world, character, run);
    for (size_t i = 1; i < states.size(); ++i)
        cast.figures.length_m += glm::length(states[i].at - states[i - 1].at);
    for (size_t i = 0; i < states.size(); i += k_steps_shown) cast.way.push_back(states[i].at);
    cast.way.push_back(states.back().at);
}

/// Plays from start to goal; false where one does not get there.
bool play(const Project& project, const Parts& parts, Cast& cast, const Cancel& cancel) {
    const Character character = character_of(project, cast.level);
    build::SolidBuilder builder;
    const auto world = motion::world_of(builder.build(cast.level, cancel));
    const Layout& layout = cast.layout;
    const auto start = with_element(cast.level, Role::start, parts, layout.laid[0], world, character);
    const auto goal = with_element(cast.level, Role::goal, parts, layout.laid[layout.goal], world, character);
    if (!start || !goal || cancel.requested()) return false;
    const check::Ground ground = check::ground_of(world, character, cancel);
    if (cancel.requested()) return false;
    check::ReachQueries queries(ground, world, character, cancel, false);
    const auto answer = queries.ask(met_at(cast.level, *find_item(cast.level, *start)->element()),
                                    met_at(cast.level, *find_item(cast.level, *goal)->element()));
    if (answer.reached != check::Reached::yes || !answer.witness) return false;
    Claim claim;
    claim.id = edit::fresh_claim_id(cast.level), claim.name = "The goal is reached";
    claim.kind = Claim::Kind::reaches, claim.from = *start, claim.to = *goal;
    cast.level = edit::with_claim(cast.level, std::move(claim));
    Figures& figures = cast.figures;
    figures.time_s = answer.witness->seconds();
    follow(world, character, answer.witness->recording, cast);
    for (const auto& leg : answer.witness->legs) {
        if (!leg.link || leg.link->kind == check::LinkKind::drop) continue;
        const check::Grade grade = check::span_of(ground, world, character, project, *leg.link).grade;
        ++(grade == check::Grade::easy   ? figures.easy
           : grade == check::Grade::fair ? figures.fair
                                         : figures.tight);
    }
    figures.pieces = int(layout.laid.size()), figures.dead_ends = layout.dead_ends;
    figures.loops = layout.loops, figures.open_joints = layout.open_joints;
    figures.pick_ups = int(elements_of(cast.level, Role::thing).size());
    return true;
}

Item item_of(const Project& project, const Rules& rules, const Parts& parts, const Laid& laid, int number) {
    const Part& part = parts.parts[laid.part];
    const Candidate& candidate = rules.candidates[part.candidate];
    Placement place;
    place.at = low_of(parts, laid) - part.low;
    if (rules.frame == Frame::side) place.at.y = 0;
    place.turn_deg = part.quarters == 3 ? -90 : 90.0 * part.quarters;
    Item item;
    item.id = {"cast" + std::to_string(number)};
    if (candidate.source.empty()) {
        PlacedPiece placed;
        placed.kit_file = candidate.kit_file, placed.piece_id = candidate.piece_id;
        if (const auto kit = find_kit(project, candidate.kit_file))
            placed.piece = kit->piece(placed.piece_id);
        placed.place = place, placed.mirrored = part.mirrored;
        item.body = std::move(placed);
    } else {
        PlacedAssembly placed;
        placed.source = candidate.source, placed.assembly = find_assembly(project, candidate.source);
        placed.place = place, placed.mirrored = part.mirrored;
        item.body = with_members_at(item.id, std::move(placed));
    }
    return item;
}

} // namespace

Level level_of(const Project& project, const Rules& rules, const Parts& parts, const Layout& layout) {
    Level level;
    level.name = rules.name, level.frame = rules.frame;
    level.character = {rules.character};
    if (level.character.empty() && !project.characters.empty()) level.character = project.characters[0].id;
    std::vector<ItemPtr> items;
    for (const Laid& laid : layout.laid)
        items.emplace_back(item_of(project, rules, parts, laid, int(items.size()) + 1));
    Layer layer;
    layer.id = {"cast"}, layer.name = "Cast";
    layer.items = ItemList(items);
    level.layers.push_back(Shared<Layer>(std::move(layer)));
    return level;
}

Level taken_over(const Level& level, const Cast& cast, const std::string& layer_name,
                 std::vector<ItemId>& ids) {
    const bool whole = elements_of(level, Role::start).empty();
    edit::FreshIds fresh(level);
    Layer layer;
    layer.id = edit::fresh_layer_id(level), layer.name = layer_name;
    std::map<ItemId, ItemId> now; // by their ids in the cast
    std::vector<ItemPtr> items;
    for (const ItemPtr& item : cast.level.layers[0]->items) {
        if (item->element() && !whole) continue;
        items.emplace_back(fresh.copy_of(*item));
        now[item->id] = items.back()->id;
        ids.push_back(items.back()->id);
    }
    layer.items = ItemList(items);
    // What is within a room is called after it.
    const auto called_now = [&](const ItemId& id) -> ItemId {
        const size_t slash = std::min(id.value.find('/'), id.value.size());
        const auto found = now.find({id.value.substr(0, slash)});
        return found == now.end() ? ItemId{} : ItemId{found->second.value + id.value.substr(slash)};
    };
    Level out = edit::with_layer(level, layer);
    for (Claim claim : cast.level.claims) {
        claim.id = edit::fresh_claim_id(out), claim.from = called_now(claim.from),
        claim.to = called_now(claim.to);
        if (!claim.from.empty() && !claim.to.empty()) out = edit::with_claim(out, std::move(claim));
    }
    return out;
}

Rules proposed_rules(const Project& project, const std::string& kit_file, const ModuleCell& low) {
    constexpr int k_across = 8;
    Rules rules;
    rules.name = "Cast";
    rules.area = {low, 1, std::vector<std::string>(k_across, std::string(k_across, '#'))};
    if (const auto kit = find_kit(project, kit_file)) {
        rules.module_m = kit->module_m;
        for (const auto& piece : kit->pieces) {
            const long passages = std::count_if(piece->joints.begin(), piece->joints.end(),
                                                [](const Joint& joint) { return joint.passage; });
            if (piece->seat != PieceSeat::cell || passages == 0) continue;
            Candidate candidate;
            candidate.kit_file = kit_file, candidate.piece_id = piece->id;
            const auto count = cells_of(*kit, *piece).count;
            const bool storeys = count[2] > 1;
            candidate.weight = storeys || passages > 3 ? 0.5 : passages == 2 ? 3 : 1;
            if (storeys) rules.area.storeys = std::max(rules.area.storeys, count[2]);
            rules.candidates.push_back(std::move(candidate));
        }
    }
    for (const auto& assembly : project.assemblies) {
        Candidate room;
        room.source = assembly->file, room.weight = 0;
        Rules alone;
        alone.module_m = rules.module_m, alone.candidates = {room};
        const auto parts = parts_of(project, alone);
        if (parts && !parts->parts.empty() && parts->parts[0].passages > 0)
            rules.candidates.push_back(std::move(room));
    }
    return rules;
}

Result<Cast> cast_level(const Project& project, const Rules& rules, const Parts& parts, uint64_t seed,
                        const Cancel& cancel) {
    RandomSource seeds(seed);
    bool any = false;
    for (int i = 0; i < k_layouts && !cancel.requested(); ++i) {
        auto layout = laid_out(rules, parts, seeds.next(), cancel);
        if (!layout) break;
        any = true;
        Cast cast{seed, std::move(*layout), {}, {}, {}};
        cast.level = level_of(project, rules, parts, cast.layout);
        if (play(project, parts, cast, cancel)) return cast;
    }
    if (any)
        return fail("cast.unreached", rules.name,
                    "In no layout of this seed does the character get from start to goal. Try another seed, "
                    "or look for pieces that cannot be walked through.");
    return fail("cast.none", rules.name,
                "No layout was found: the pieces do not close what they open, or the area is too small. Add "
                "pieces that end a way, widen the area, or ask for fewer.");
}

} // namespace rubble::cast
