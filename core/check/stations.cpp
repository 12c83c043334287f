#include "check/stations.h"

#include <cmath>

#include "base/tolerance.h"
#include "check/walk.h"

namespace rubble::check {

using motion::Recorder;

namespace {

/// The side of a station's square, and how far one walks without any (metres). A station costs a walk as long
/// as the ledge, and a leap the walk from its station: with squares much smaller there are too many of the
/// first, with much larger ones the second are too long.
constexpr double k_square_m = 8, k_far_m = 16;
/// Whoever walks farther than this from its square's station may as well come from elsewhere (metres).
constexpr double k_detour_m = 24;

/// The roomiest fragment of a ledge near a place that is not low; -1 for none.
int roomy_fragment(const Ground& ground, int ledge, Vec2 middle) {
    int best = -1;
    ground.for_near(Box2{middle, middle}.grown(k_square_m / 4), [&](int i) {
        const Fragment& one = ground.fragments[size_t(i)];
        if (one.ledge != ledge || one.low) return;
        const double area = best < 0 ? 0 : ground.fragments[size_t(best)].area_m2;
        if (one.area_m2 > area || (one.area_m2 == area && i < best)) best = i;
    });
    return best;
}

} // namespace

Recorder Stations::set_out(const Arrival& before, int ledge, const Vec3& to) {
    const Recorder begin(world_, character_, before.rest);
    if (ground_.cells || glm::length(flat(to) - flat(before.rest.body.at)) < k_far_m) return begin;
    const glm::ivec2 square = glm::ivec2(glm::floor(flat(to) / k_square_m));
    std::shared_ptr<Station> station;
    {
        const std::lock_guard lock(guard_);
        auto& known = stations_[{ledge, square.x, square.y}];
        if (!known) known = std::make_shared<Station>();
        station = known;
    }
    std::call_once(station->walked,
                   [&] { walk_to_station(*station, before, ledge, (Vec2(square) + 0.5) * k_square_m); });
    if (!station->walk) return begin;
    const Vec3 at = station->walk->state().at;
    const auto path = find_path(ground_, ground_.locate(at, tolerance::feet_m), flat(at),
                                ground_.locate(to, tolerance::feet_m), flat(to));
    return path && path->length_m < k_detour_m ? *station->walk : begin;
}

void Stations::walk_to_station(Station& station, const Arrival& before, int ledge, Vec2 middle) const {
    const int fragment = roomy_fragment(ground_, ledge, middle);
    if (fragment < 0) return;
    Recorder walk(world_, character_, before.rest);
    const Vec2 place = geometry::middle_of(ground_.fragments[size_t(fragment)].area);
    if (walk_to(walk, ground_, character_, fragment, place)) station.walk = std::move(walk);
}

} // namespace rubble::check
