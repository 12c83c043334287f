#pragma once

#include <limits>
#include <memory>
#include <optional>
#include <utility>
#include <vector>

#include "check/flight.h"
#include "check/reach.h"
#include "check/stations.h"

namespace rubble::check {

/// How much is tried for one ledge: fragment pairs looked at, leaps simulated.
struct Effort {
    size_t pairs, tries;
};

/// Heights of the feet on some ledges.
struct Heights {
    double low = std::numeric_limits<double>::infinity(), high = -low;
    /// Takes a ledge's heights in.
    void add(const Ledge& ledge) {
        low = std::min(low, ledge.box.low.z), high = std::max(high, ledge.box.high.z);
    }
};

/// Looks for links between a ledge and others, nearest fragments first. `find` may be called from several
/// threads, for different ledges.
class LeapSearch {
public:
    /// The character is taken without its graces: what needs them is not reached. `late_jumps` allows the one
    /// after the edge.
    LeapSearch(const Ground& ground, const motion::World& world, const Character& character,
               bool late_jumps = false);

    const Ground& ground() const { return g_; }
    const motion::World& world() const { return w_; }
    const Character& character() const { return c_; }
    /// Farthest that a way through the air can lead, in plan.
    double range_m() const { return range_.farthest(); }

    /// What was found for a ledge: links with the arrivals that prove them.
    struct Found {
        std::vector<std::pair<std::shared_ptr<const Link>, Arrival>> proofs; ///< the wanted one comes last
        std::vector<std::shared_ptr<const Link>> doubtful; ///< links that could not be played in their place
        std::shared_ptr<const Link> way_out;               ///< where one out of the ledge was looked for
        bool wanted = false;
        size_t tries = 0;
    };

    /// What is reached by now, and where walks of that search set out from.
    struct Known {
        const Reach& reach;
        Stations& stations;
    };
    /// Which ledges are the others: those a link into the ledge may begin on, or one out of it end on.
    using Others = std::vector<bool>; ///< for each ledge

    /// Looks for a link between `ledge` and some other, into the ledge or out of it. `heights` are those of
    /// the others; with `more` also for harder plans.
    Found find(const Known& known, int ledge, bool into, const Others& other, const Heights& heights,
               Effort effort, bool more) const;

private:
    bool try_plan(const Known& known, int ledge, bool into, const Others& other, const LeapPlan& plan,
                  Found& found) const;
    std::optional<Arrival> arrival_from(const Known& known, const std::shared_ptr<const Link>& link) const;
    struct Pair {
        int from, to;
        double apart;
    };
    class NearestPairs;
    /// The fragments of another ledge in range, nearest first; distances in plan from the ledge's box.
    struct Neighbour {
        int ledge;
        std::vector<std::pair<double, int>> fragments;
    };

    std::vector<Pair> near_pairs(int ledge, bool into, const Others& other, size_t most) const;
    /// The nearest few pairs with each of the others, whatever stands nearer: behind a wall there may be very
    /// many.
    std::vector<Pair> pairs_of_each(int ledge, bool into, const Others& other) const;
    const std::vector<Neighbour>& look_around(int ledge) const;
    void add_pair(int own, int near, bool into, NearestPairs& nearest) const;

    const Ground& g_;
    const motion::World& w_;
    const Character c_;
    FlightRange range_;
    mutable std::vector<std::optional<std::vector<Neighbour>>> around_; ///< as far as it was asked for
};

} // namespace rubble::check
