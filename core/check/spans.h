#pragma once

#include <map>
#include <memory>
#include <string>
#include <vector>

#include "check/reach.h"
#include "level/level.h"

namespace rubble::check {

enum class Grade { easy, fair, tight };

/// A proven link that needs the air, with what the character has to spare.
struct Span {
    double gap_m = 0;  ///< between the ground edges where the arc crosses them; 0 where they overlap in plan
    double rise_m = 0; ///< landing ground less take-off ground
    double longest_m = 0, highest_m = 0; ///< with the run-up and the headroom found there
    double run_up_m = 0;
    double margin_m = 0, margin_pct = 0;
    double rise_margin_m = 0, rise_margin_pct = 0;
    Grade grade = Grade::easy;
    LinkKind kind = LinkKind::jump;
    Vec3 from{0}, to{0}; ///< the edge points
    int from_ledge = -1, to_ledge = -1;
    std::vector<Vec3> arc;            ///< the feet on the way
    std::shared_ptr<const Link> link; ///< that was measured, in a check
    /// The smaller margin; the rise counts only where it is more than a step.
    double least_pct(double step_height_m) const;
};

/// How far ground at the height of feet goes on from them along a direction, in matter that touches; 4 at
/// most, less than nothing where they reach over its edge (metres).
double ground_ends_at(const motion::World& world, const Character& character, const Vec3& feet,
                      Vec2 direction);
/// How high the feet could be at a place below what is over the head there; infinite where nothing is.
double highest_feet(const motion::World& world, const Character& character, const Vec3& feet);

/// The item that one stands on at a place; empty where that is none.
ItemId item_under(const Ground& ground, const motion::World& world, const Vec3& feet);

/// Measures a proven link.
Span span_of(const Ground& ground, const motion::World& world, const Character& character,
             const Project& project, const Link& link);

/// Spans of links, and the best one of each pair of ledges and kind.
struct MeasuredLinks {
    std::map<std::shared_ptr<const Link>, Span> spans;
    double easy_pct = 0, fair_pct = 0; ///< the margins that the grades were given by
    std::vector<Span> best;            ///< in the order of the links
};

/// In reports.
const char* grade_key(Grade grade);
/// In reports.
const char* kind_key(LinkKind kind);

} // namespace rubble::check
