#pragma once

#include <list>

#include "check/reach_queries.h"

namespace rubble::check {

/// Answers what a level's character would reach if its metrics were others. Several questions about the same
/// metrics share their ground and searches.
class OtherMetrics {
public:
    OtherMetrics(const motion::World& world, const Cancel& cancel) : world_(world), cancel_(cancel) {}

    /// Whether the thing at `to` is reached from `from`; the witness leads along the way that the true
    /// character lacks.
    Reached ask(const Character& character, const Vec3& from, const Vec3& to,
                std::optional<Witness>* witness = nullptr);

private:
    struct Level {
        Character character;
        Ground ground;
        std::optional<ReachQueries> queries;
    };
    Level& level_for(const Character& character);

    const motion::World& world_;
    const Cancel cancel_;
    std::list<Level> known_; ///< the last one asked first
};

} // namespace rubble::check
