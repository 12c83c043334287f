#pragma once

#include "check/check.h"
#include "check/span_facts.h"

namespace rubble::check {

/// A run as a player lives through it: what happens when, where one rests, how hard it is.
struct Pace {
    /// A span on the way.
    struct Leap {
        double begin_s = 0, end_s = 0;
        Span span;
        bool deadly = false; ///< a miss kills
    };
    /// Something that is met.
    struct Event {
        double at_s = 0;
        ItemId item;
        std::string kind; ///< of the element
    };
    /// So many seconds of it.
    struct Window {
        double begin_s = 0;
        double climbed_m = 0;
        int spans = 0, dangers = 0, pick_ups = 0;
        double effort = 0;     ///< what is missing to 100 % of margin, of all spans, and 50 for each danger
        double corridor_m = 0; ///< the usual room to both sides; as far as one looks at most
        double view_m = 0;     ///< the usual room ahead at the height of the eyes
    };
    struct Rest {
        double begin_s = 0, end_s = 0;
    };
    /// Something about how it is learned.
    struct Remark {
        RuleId rule;
        double at_s = 0;
        Vec3 at{0};
        Sentences says;
        std::vector<ItemId> items;
    };
    double seconds = 0;
    std::vector<Leap> leaps;
    std::vector<Event> events;
    std::vector<Window> windows;
    std::vector<Rest> rests;
    std::vector<Remark> remarks;
    std::vector<double> lux; ///< at the eyes, each half second; empty where the level has no lights
};

inline constexpr double pace_window_s = 5, pace_look_s = 0.5;

/// Looks at a run of a check's level.
Pace pace_of(const Project& project, const Level& level, const CheckResult& result, const Witness& witness);

/// What the way to the first goal that is reached says about how the level is learned.
std::vector<Finding> find_on_the_way(const Project& project, const Level& level, const CheckResult& result);

} // namespace rubble::check
