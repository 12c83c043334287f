#include "study/asked.h"

#include "check/mends.h"
#include "check/near_miss.h"
#include "check/reach_queries.h"
#include "edit/fresh_ids.h"
#include "edit/items.h"
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

std::vector<check::Mend> mends_of(const Project& project, const Level& level,
                                  const check::CheckResult& checked, const Asked& asked,
                                  build::SolidBuilder& trials, const Cancel& cancel) {
    if (!asked.miss || level.layers.empty()) return {};
    // Mends are tried between elements: two places stand there for as long as that takes.
    Level with_places = level;
    check::NearMiss miss = *asked.miss;
    const auto place = [&](const Vec3& at) {
        const ItemId id = edit::fresh_id(with_places, "asked");
        with_places = edit::with_item(with_places, 0, {id, {}, false, Element{"place", at, 0, {}}, {}});
        return id;
    };
    miss.from = place(asked.from), miss.to = place(asked.to);
    std::vector<check::Mend> mends =
        check::find_mends(project, with_places, *checked.world, trials, miss, cancel);
    for (check::Mend& mend : mends)
        std::erase_if(mend.edits, [&](const check::MendEdit& edit) {
            return edit.item.id == miss.from || edit.item.id == miss.to;
        });
    return mends;
}

} // namespace rubble::study
