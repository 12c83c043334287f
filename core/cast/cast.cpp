#include "cast/cast.h"

#include <algorithm>

#include "base/random.h"
#include "build/solid_builder.h"
#include "check/reach_queries.h"
#include "check/spans.h"
#include "edit/items.h"
#include "level/element_kinds.h"
#include "motion/standing.h"

namespace rubble::cast {

namespace {

/// How many layouts of one seed are played before it is given up.
constexpr int k_layouts = 12;
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

double length_of(const motion::World& world, const Character& character, const motion::Recording& run) {
    const std::vector<motion::State> states = motion::replay(world, character, run);
    double length = 0;
    for (size_t i = 1; i < states.size(); ++i) length += glm::length(states[i].at - states[i - 1].at);
    return length;
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
    figures.length_m = length_of(world, character, answer.witness->recording);
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
        if (const auto kit = find_kit(project, candidate.kit_file)) placed.piece = kit->piece(placed.piece_id);
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

Result<Cast> cast_level(const Project& project, const Rules& rules, const Parts& parts, uint64_t seed,
                        const Cancel& cancel) {
    RandomSource seeds(seed);
    bool any = false;
    for (int i = 0; i < k_layouts && !cancel.requested(); ++i) {
        auto layout = laid_out(rules, parts, seeds.next(), cancel);
        if (!layout) break;
        any = true;
        Cast cast{seed, std::move(*layout), {}, {}};
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
