#include "check/arrival.h"

#include "base/tolerance.h"
#include "check/walk.h"

namespace rubble::check {

using motion::Recorder;
using motion::World;

namespace {

/// Longest fall from a start to the ground (steps).
constexpr int k_settling_steps = 120 * 10;

/// A link begins upright; after a low passage the figure may still be down.
void stand_up(Recorder& recorder) {
    for (int i = 0; i < 3 && recorder.state().crouched; ++i) recorder.advance({});
}

} // namespace

std::optional<Arrival> arrival_at_start(const World& world, const Character& c, const Vec3& start) {
    Recorder recorder(world, c, motion::state_at(world, c, start));
    if (!brake(recorder, k_settling_steps)) return {};
    Arrival arrival;
    arrival.run = recorder.recording();
    arrival.run.start = start;
    arrival.rest = recorder.play();
    arrival.visited = recorder.visited();
    return arrival;
}

std::optional<Arrival> arrival_by(const Ground& ground, const Character& c, Recorder recorder,
                                  const Arrival& before, const std::shared_ptr<const Link>& link) {
    const int fragment = ground.locate(link->start, tolerance::feet_m);
    if (!walk_to(recorder, ground, c, fragment, flat(link->start))) return {};
    stand_up(recorder);
    Arrival arrival;
    arrival.leap_begins = recorder.recording().steps();
    for (const auto& run : link->recording.runs)
        for (int i = 0; i < run.steps; ++i) recorder.advance(run.input);
    if (recorder.state().dead || !brake(recorder)) return {};
    if (ground.ledge_at(recorder.state().at, tolerance::feet_m) != link->to) return {};
    arrival.link = link;
    arrival.from = link->from;
    arrival.helped = before.helped;
    arrival.run = recorder.recording();
    arrival.rest = recorder.play();
    arrival.visited = recorder.visited();
    return arrival;
}

} // namespace rubble::check
