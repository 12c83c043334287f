#include "study/asked.h"

#include "check/near_miss.h"
#include "check/reach_queries.h"
#include "motion/standing.h"

namespace rubble::study {

using check::Reached;

std::optional<Asked> asked(const check::CheckResult& checked, const Vec3& from, const Vec3& to,
                           const Cancel& cancel) {
    const auto begin = motion::standing_place_near(*checked.world, checked.character, from);
    const auto end = motion::standing_place_near(*checked.world, checked.character, to);
    if (!begin || !end) return {};
    Asked out{*begin, *end, Reached::undecided, {}, {}};
    check::ReachQueries queries(*checked.ground, *checked.world, checked.character, cancel);
    const bool from_start = checked.starts.size() == 1 && glm::length(checked.starts[0] - *begin) < 1e-9;
    if (from_start && !queries.elements_act()) queries.know(*begin, checked.reach);
    auto answer = queries.ask(*begin, *end);
    out.reached = answer.reached, out.witness = std::move(answer.witness);
    if (out.reached != Reached::no || queries.elements_act() || cancel.requested()) return out;
    check::OtherMetrics others(*checked.world, cancel);
    out.miss = check::near_miss(others, *checked.world, *checked.ground, queries.reach_from(*begin),
                                checked.character, *begin, *end, cancel);
    return out;
}

} // namespace rubble::study
