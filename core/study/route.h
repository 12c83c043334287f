#pragma once

#include <memory>
#include <mutex>
#include <optional>
#include <vector>

#include "base/result.h"
#include "check/check.h"
#include "check/hand.h"
#include "check/link_graph.h"
#include "motion/elements.h"

namespace rubble::study {

/// What players know who know the way: the run that proves it, the links of the level, and how each is best
/// leapt. May be asked from several threads.
class Route {
public:
    /// An error where there is none. `checked` outlives it.
    static Result<std::unique_ptr<Route>> between(const Level& level, const check::CheckResult& checked,
                                                  const ItemId& from, const ItemId& to, const Cancel& cancel);

    const motion::World& world() const { return *checked_.world; }
    const check::Ground& ground() const { return *checked_.ground; }
    const Character& character() const { return checked_.character; }
    const Vec3& begin() const { return begin_; }
    const Vec3& goal() const { return goal_; }
    const std::vector<Vec3>& checkpoints() const { return checkpoints_; }
    double seconds() const { return witness_.seconds(); }

    /// What is leapt on the way, and what is played between: from one rest to the next.
    struct Leg {
        std::shared_ptr<const check::Link> link; ///< null for the last one, which has no leap
        motion::PlayState begin;                 ///< at rest
        std::vector<motion::Input> walk;         ///< until the leap
    };
    const std::vector<Leg>& legs() const { return legs_; }
    /// The leg's leap in `links`; -1 for the last one.
    int link_of(size_t leg) const { return leg_links_[leg]; }

    /// Whether elements act, so that the legs have to be gone one after the other.
    bool elements_act() const { return world().elements() != nullptr; }
    const check::LinkGraph& graph() const { return *graph_; }
    const std::vector<std::shared_ptr<const check::Link>>& links() const { return graph_->links(); }
    /// The quickest way to the goal.
    const check::LinkGraph::Towards& towards_goal() const { return towards_goal_; }
    /// How a link is best leapt; null where it is not, from rest.
    const check::Approach* approach(int link) const;

private:
    explicit Route(const check::CheckResult& checked) : checked_(checked) {}
    void read_legs();

    const check::CheckResult& checked_;
    Vec3 begin_{0}, goal_{0};
    std::vector<Vec3> checkpoints_;
    check::Witness witness_;
    std::vector<Leg> legs_;
    std::vector<int> leg_links_;
    std::optional<check::LinkGraph> graph_;
    check::LinkGraph::Towards towards_goal_;
    /// Worked out when somebody first asks; what comes out does not depend on who.
    struct Known {
        std::once_flag once;
        std::optional<check::Approach> approach;
    };
    mutable std::vector<std::unique_ptr<Known>> approaches_;
};

} // namespace rubble::study
