#include "check/rules.h"

#include <array>

#include "level/kinds_of_play.h"

namespace rubble::check {

namespace {

using enum RuleId;
using enum Severity;

constexpr std::array k_rules{
    Rule{start_none, "start.none", blocker, Craft::populate, "Populate", false,
         "The level has a place where play begins."},
    Rule{start_in_matter, "start.in_matter", blocker, Craft::populate, "Populate", false,
         "A start stands free."},
    Rule{start_over_nothing, "start.over_nothing", blocker, Craft::populate, "Populate", false,
         "Below a start there is ground to land on alive."},
    Rule{start_not_solid, "start.not_solid", blocker, Craft::build, "Block out", false,
         "What is drawn under a start is solid."},
    Rule{goal_none, "goal.none", concern, Craft::populate, "Populate", false,
         "The level has a place where play ends."},
    Rule{element_unreachable, "element.unreachable", blocker, Craft::check, "Check", true,
         "What is to be had is reached from the start."},
    Rule{element_with_help, "element.with_help", concern, Craft::check, "Check", false,
         "What is to be had needs no late jump."},
    Rule{element_undecided, "element.undecided", concern, Craft::check, "Check", false,
         "Whether something is reached can be decided."},
    Rule{walk_lip, "walk.lip", remark, Craft::build, "Check", false,
         "No edge on the way is a little higher than a step."},
    Rule{walk_slope, "walk.slope", concern, Craft::build, "Check", false,
         "No slope is a little too steep to walk."},
    Rule{walk_narrow, "walk.narrow", concern, Craft::build, "Check", false,
         "No passage is a little too narrow for the body."},
    Rule{walk_headroom, "walk.headroom", concern, Craft::build, "Check", false,
         "No ceiling on the way is a little too low for the body."},
    Rule{walk_low_jump, "walk.low_jump", concern, Craft::build, "Check", false,
         "No ceiling keeps the character from a jump that is wanted."},
    Rule{build_sliver, "build.sliver", remark, Craft::check, "Check", false,
         "Brushes that nearly meet do meet."},
    Rule{seems_solid, "tile.seems_solid", remark, Craft::build, "Block out", false,
         "A tile of a solid layer that looks solid is."},
    Rule{seems_open, "tile.seems_open", concern, Craft::build, "Block out", false,
         "A tile that keeps the character out shows something there."},
    Rule{outline_lip, "tile.lip", concern, Craft::build, "Block out", false,
         "The outlines of tiles on a slope meet."},
    Rule{outline_sliver, "tile.sliver", remark, Craft::build, "Block out", false,
         "Between the outlines of tiles no narrow gap is left."},
    Rule{unknown_tile, "tile.unknown", concern, Craft::build, "Block out", false,
         "Every tile of a level is on its sheet."},
    Rule{sheet_missing, "sheet.missing", concern, Craft::build, "Block out", false,
         "The sheets of a level can be read."},
    Rule{layer_hides, "layer.hides", concern, Craft::build, "Block out", false,
         "No layer hides the character where one can stand."},
    Rule{piece_missing, "piece.missing", concern, Craft::build, "Block out", false,
         "The pieces and assemblies of a level can be read."},
    Rule{piece_off_module, "piece.off_module", remark, Craft::build, "Block out", false,
         "A piece stands on its kit's module."},
    Rule{pieces_in_one_place, "piece.same_place", concern, Craft::build, "Block out", false,
         "No two pieces stand in one place."},
    Rule{joint_open, "joint.open", concern, Craft::build, "Block out", false,
         "What leads out of a piece leads into another."},
    Rule{joint_mismatch, "joint.mismatch", concern, Craft::build, "Block out", false,
         "Joints that meet are of one kind."},
    Rule{joint_gap, "joint.gap", concern, Craft::build, "Block out", false,
         "Pieces meet at their joints without a gap."},
    Rule{joint_step, "joint.step", concern, Craft::build, "Check", false,
         "The floor goes on over a joint without a step that is too high."},
    Rule{opening_closed, "piece.opening_closed", concern, Craft::build, "Block out", false,
         "What a piece is met as leaves its openings open."},
    Rule{rough_corner, "piece.rough_corner", remark, Craft::build, "Block out", false,
         "Where walls meet at a corner stands a corner piece, if the kit has one."},
    Rule{faces_flicker, "piece.flicker", concern, Craft::build, "Block out", false,
         "No two pieces show faces in one plane over each other."},
    Rule{reference_missing, "element.reference", concern, Craft::populate, "Populate", false,
         "What an element refers to is there."},
    Rule{door_never_opens, "element.door_never_opens", concern, Craft::populate, "Populate", false,
         "A closed door has a key or a switch that opens it."},
    Rule{gate_short, "element.gate_short", concern, Craft::populate, "Populate", false,
         "There are as many pick-ups as a gate counts."},
    Rule{switch_unheard, "element.switch_unheard", remark, Craft::populate, "Populate", false,
         "Something listens to a switch."},
    Rule{foe_near_start, "element.foe_near_start", concern, Craft::populate, "Populate", false,
         "No foe comes near where play begins."},
    Rule{foe_in_matter, "element.foe_in_matter", concern, Craft::populate, "Populate", false,
         "The way of a foe is free."},
    Rule{crate_stuck, "element.crate_stuck", remark, Craft::populate, "Populate", false,
         "A crate can be pushed."},
    Rule{lift_crushes, "element.lift_crushes", concern, Craft::populate, "Populate", false,
         "A lift goes through no matter, and who stands on it has room everywhere."},
    Rule{key_behind_door, "element.key_behind_door", blocker, Craft::populate, "Populate", false,
         "A key does not lie behind the door that it opens."},
    Rule{too_many, "element.too_many", concern, Craft::populate, "Populate", false,
         "No more of a kind than the project allows."},
    Rule{too_few, "element.too_few", concern, Craft::populate, "Populate", false,
         "As many of a kind as the project wants."},
    Rule{out_of_time, "element.out_of_time", blocker, Craft::populate, "Populate", false,
         "The goal is reached within the time that the level allows."},
    Rule{unusual_kind, "element.unusual_kind", remark, Craft::populate, "Populate", false,
         "Elements serve the kind of play that the level is about."},
    Rule{no_loops, rule_loops, remark, Craft::populate, "Populate", false,
         "Where one finds the way there is more than one."},
    Rule{not_spread, rule_spread, remark, Craft::populate, "Populate", false,
         "Where one gathers pick-ups lie all over the level."},
    Rule{not_seen_before, rule_seen_before, concern, Craft::populate, "Populate", false,
         "Where one slips past foes their way is seen from before."},
    Rule{door_no_room, "door.no_room", concern, Craft::populate, "Populate", false,
         "Whoever opens a door fits through."},
    Rule{deadly_first, "pace.deadly_first", remark, Craft::check, "Check", false,
         "A kind of span is learned where a miss does not kill."},
    Rule{hardest_early, "pace.hardest_early", remark, Craft::check, "Check", false,
         "The hardest span does not come in the first quarter of the way."},
    Rule{no_rest, "pace.no_rest", remark, Craft::check, "Check", false,
         "There is a rest at least once in a minute."},
    Rule{two_new, "pace.two_new", remark, Craft::check, "Check", false,
         "New things are met one after the other."},
    Rule{dress_picture_missing, "dress.picture_missing", concern, Craft::dress, "Dress", false,
         "The pictures of materials can be read."},
    Rule{dress_density, "dress.density", remark, Craft::dress, "Dress", false,
         "Pictures have about as many dots to the metre as the project wants."},
    Rule{dress_print_repeats, "dress.print_repeats", remark, Craft::dress, "Dress", false,
         "Prints are fitted, and patterns repeat."},
    Rule{dress_lay_jumps, "dress.lay_jumps", remark, Craft::dress, "Dress", false,
         "In one plane a pattern runs on from face to face."},
    Rule{dress_bare, "dress.bare", remark, Craft::dress, "Dress", false,
         "No face of a dressed layer is bare."},
    Rule{dress_light_in_matter, "dress.light_in_matter", concern, Craft::dress, "Dress", false,
         "No lamp is inside matter."},
    Rule{dress_decal_over_nothing, "dress.decal_over_nothing", remark, Craft::dress, "Dress", false,
         "A decal lies over something."},
};

constexpr bool in_order() {
    for (size_t i = 0; i < k_rules.size(); ++i)
        if (k_rules[i].id != RuleId(i)) return false;
    return k_rules.back().id == dress_decal_over_nothing;
}
static_assert(in_order(), "each rule stands where its id says");

} // namespace

std::span<const Rule> rules() { return k_rules; }
const Rule& rule_of(RuleId id) { return k_rules[size_t(id)]; }

} // namespace rubble::check
