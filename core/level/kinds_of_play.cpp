#include "level/kinds_of_play.h"

#include <algorithm>

namespace rubble {

namespace {

std::vector<KindOfPlay> usual_kinds() {
    return {
        {"gather", "Gather", {"pickup", "gate", "item", "checkpoint"}, {"crate", "dispenser"}, {rule_spread}},
        {"outlast", "Outlast", {"foe", "hazard", "time_limit", "item", "checkpoint"}, {"crate", "key"}, {}},
        {"find_the_way",
         "Find the way",
         {"key", "door", "switch", "sign", "place"},
         {"foe", "time_limit", "launcher"},
         {rule_loops}},
        {"slip_past",
         "Slip past",
         {"foe", "zone", "switch", "checkpoint"},
         {"launcher", "crate"},
         {rule_seen_before}},
        {"trade", "Trade", {"pickup", "gate", "item", "key", "door"}, {"foe", "hazard", "launcher"}, {}},
        {"push", "Push", {"crate", "switch", "barrier", "dispenser", "floor", "door"}, {"time_limit"}, {}},
        {"run_and_jump",
         "Run and jump",
         {"deck", "lift", "launcher", "hazard", "pickup", "checkpoint", "ladder"},
         {"crate", "dispenser"},
         {}},
    };
}

} // namespace

std::vector<KindOfPlay> kinds_of_play(const Project& project) {
    std::vector<KindOfPlay> out = usual_kinds();
    for (const KindOfPlay& own : project.kinds_of_play) {
        const auto same =
            std::find_if(out.begin(), out.end(), [&](const auto& one) { return one.key == own.key; });
        if (same == out.end())
            out.push_back(own);
        else
            *same = own;
    }
    return out;
}

std::optional<KindOfPlay> kind_of_play(const Project& project, const Level& level) {
    if (level.about.empty()) return {};
    for (KindOfPlay& kind : kinds_of_play(project))
        if (kind.key == level.about) return std::move(kind);
    return {};
}

} // namespace rubble
