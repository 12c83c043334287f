#pragma once

#include "check/check.h"
#include "check/hand.h"
#include "check/link_graph.h"
#include "check/spans.h"

namespace rubble::check {

/// What is known of a span beyond its measures. It takes some hundred simulated leaps, and is made for those
/// that somebody looks at.
struct SpanFacts {
    std::optional<double> forgiven_ms; ///< by how much the press may be off in all; none where one walks off
    double forgiven_deg = 0;           ///< and the direction
    double landing_depth_m = 0;        ///< how far the landing goes on along the way; 8 at most
    std::optional<double> clearance_m; ///< over the head on the way; none where nothing is above
    bool seen = false;                 ///< the landing from the take-off
    enum class Miss { back, fatal, trap };
    Miss miss = Miss::back;
    double miss_s = 0; ///< the quickest way back to the take-off
};

/// What becomes of somebody who misses a span: who falls in its middle, or from the landing's face, whichever
/// is worse.
struct MissedSpan {
    SpanFacts::Miss miss = SpanFacts::Miss::fatal;
    double seconds = 0; ///< the quickest way back
};
MissedSpan miss_of(const Ground& ground, const motion::World& world, const Character& character,
                   const LinkGraph& graph, const Link& link, const Span& span);

/// Looks at a link and its span. `graph` has the links that are known.
SpanFacts facts_of(const Ground& ground, const motion::World& world, const Character& character,
                   const LinkGraph& graph, const Link& link, const Span& span);

/// Of all spans of a check, in their order.
std::vector<SpanFacts> facts_of(const CheckResult& result);

/// In reports.
const char* miss_key(SpanFacts::Miss miss);

} // namespace rubble::check
