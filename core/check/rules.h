#pragma once

#include <span>

namespace rubble::check {

enum class Severity { blocker, concern, remark };

/// What the rules look for; each has a row in `rules`.
enum class RuleId {
    start_none,
    start_in_matter,
    start_over_nothing,
    start_not_solid,
    goal_none,
    element_unreachable,
    element_with_help,
    element_undecided,
    walk_lip,
    walk_slope,
    walk_narrow,
    walk_headroom,
    walk_low_jump,
    build_sliver,
    seems_solid,
    seems_open,
    outline_lip,
    outline_sliver,
    unknown_tile,
    sheet_missing,
    layer_hides,
    piece_missing,
    piece_off_module,
    pieces_in_one_place,
    joint_open,
    joint_mismatch,
    joint_gap,
    joint_step,
    opening_closed,
    rough_corner,
    faces_flicker,
    reference_missing,
    door_never_opens,
    gate_short,
    switch_unheard,
    foe_near_start,
    foe_in_matter,
    crate_stuck,
    lift_crushes,
    key_behind_door,
    too_many,
    too_few,
    out_of_time,
    unusual_kind,
    no_loops,
    not_spread,
    not_seen_before,
    door_no_room,
    deadly_first,
    hardest_early,
    no_rest,
    two_new,
    dress_picture_missing,
    dress_density,
    dress_print_repeats,
    dress_lay_jumps,
    dress_bare,
    dress_light_in_matter,
    dress_decal_over_nothing,
    dress_prop_floats,
    dress_prop_sunk,
    dress_ornament_met,
    dress_prop_in_way,
    dress_prop_opens_way,
    dress_dark_route,
    merge_conflict,
    final_misfit
};

/// The part of the work in which a finding is put right.
enum class Craft { build, populate, check, dress };

/// A rule as reports, panels, guide and tests know it.
struct Rule {
    RuleId id;
    const char* key;   ///< in reports
    Severity severity; ///< unless a finding says otherwise
    Craft craft;
    const char* guide; ///< the heading of its page in the guide
    bool mendable;     ///< changes that were tried may be offered
    const char* about; ///< what it looks for, in English
};

/// In the order of `RuleId`.
std::span<const Rule> rules();
/// The row of a rule.
const Rule& rule_of(RuleId id);

} // namespace rubble::check
