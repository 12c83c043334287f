#pragma once

#include <memory>
#include <optional>
#include <span>
#include <vector>

#include "check/leap.h"

namespace rubble::check {

/// Quickest ways over ledges and proven links. Between two links one walks; how long that takes is told by
/// the straight way at full speed, so that times are a little short where a ledge bends.
class LinkGraph {
public:
    /// Of all links of a search.
    LinkGraph(const Ground& ground, const Character& character,
              std::vector<std::shared_ptr<const Link>> links);

    const std::vector<std::shared_ptr<const Link>>& links() const { return links_; }

    /// How long it takes to a place, from the beginning of each link on; infinite where there is no way.
    /// Dijkstra's algorithm over the links, backwards.
    struct Towards {
        int ledge = -1;
        Vec2 at{0};
        std::vector<double> seconds; ///< for each link
    };
    Towards towards(int ledge, Vec2 at) const;

    /// What is next on the quickest way from a place on a ledge.
    struct Next {
        int link = -1; ///< -1: one walks there
        double seconds = 0;
    };
    /// Nothing where there is no way. Links of `avoided`, one for each link, are not taken.
    std::optional<Next> next(const Towards& to, int ledge, Vec2 at,
                             const std::vector<bool>* avoided = nullptr) const;

private:
    double walk_s(Vec2 from, Vec2 to) const { return glm::length(to - from) / speed_mps_; }

    double speed_mps_;
    std::vector<std::shared_ptr<const Link>> links_;
    std::vector<std::vector<int>> from_, into_; ///< links, for each ledge
};

} // namespace rubble::check
