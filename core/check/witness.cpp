#include "check/witness.h"

#include "base/tolerance.h"
#include "check/walk.h"

namespace rubble::check {

using motion::Recorder;
using motion::World;

namespace {

/// Feet are looked for within this of a fragment's height (metres).
constexpr double k_feet_m = 0.05;
/// The feet's middle must cover a thing by a little more than rounding (metres).
constexpr double k_cover_m = 1e-3;

using Part = WitnessFault::Part;

/// A link begins upright; after a low passage the figure may still be down.
void stand_up(Recorder& recorder) {
    for (int i = 0; i < 3 && recorder.state().crouched; ++i) recorder.advance({});
}

} // namespace

std::vector<Spot> spots_of(const Ground& ground, const Character& c, const Vec3& at) {
    std::vector<std::pair<double, Spot>> found;
    ground.for_near(Box2{flat(at), flat(at)}.grown(c.radius_m), [&](int f) {
        const Vec2 p = geometry::nearest(ground.fragments[size_t(f)].area, flat(at));
        const double aside = glm::length(p - flat(at)), height = std::abs(ground.feet_at(f, p) - at.z);
        if (aside > c.radius_m - k_cover_m || height > c.step_height_m) return;
        found.push_back({aside + height, {f, p, ground.fragments[size_t(f)].ledge}});
    });
    std::stable_sort(found.begin(), found.end(), [](auto& a, auto& b) { return a.first < b.first; });
    std::vector<Spot> out;
    for (const auto& [score, spot] : found) out.push_back(spot);
    return out;
}

bool has_thing(const motion::State& s, const Character& c, const Vec3& at) {
    return s.standing && !s.dead && glm::length(flat(s.at) - flat(at)) <= c.radius_m + tolerance::limit_m &&
           std::abs(s.at.z - at.z) <= c.step_height_m + tolerance::limit_m;
}

tl::expected<Witness, WitnessFault> make_witness(const Ground& ground, const World& world,
                                                 const Character& character, const Reach& reach,
                                                 const Vec3& start, const Spot& spot) {
    Character plain = character;
    plain.early_press_s = 0;
    if (!reach.helped[size_t(spot.ledge)]) plain.late_jump_grace_s = 0;
    Recorder recorder(world, plain, motion::state_at(world, plain, start));
    auto fault = [&](Part part, const std::shared_ptr<const Link>& link = nullptr) {
        return tl::unexpected(WitnessFault{part, link, recorder.state().at});
    };
    if (!brake(recorder, 120 * 10)) return fault(Part::settling);

    Witness witness;
    for (const auto& link : reach.chain(spot.ledge)) {
        const int fragment = ground.locate(link->start, k_feet_m);
        if (!walk_to(recorder, ground, plain, fragment, flat(link->start))) return fault(Part::walk, link);
        stand_up(recorder);
        witness.legs.push_back({link, recorder.recording().steps()});
        for (const auto& run : link->recording.runs)
            for (int i = 0; i < run.steps; ++i) recorder.advance(run.input);
        if (recorder.state().dead || ground.ledge_at(recorder.state().at, k_feet_m) != link->to)
            return fault(Part::leap, link);
        if (!brake(recorder)) return fault(Part::leap, link);
    }
    witness.legs.push_back({nullptr, recorder.recording().steps()});
    if (!walk_to(recorder, ground, plain, spot.fragment, spot.at)) return fault(Part::walk);
    witness.recording = recorder.recording();
    witness.recording.start = start;
    const motion::State end = motion::replayed(world, character, witness.recording);
    const double off = std::abs(end.at.z - ground.feet_at(spot.fragment, spot.at));
    if (end.dead || !end.standing || glm::length(flat(end.at) - spot.at) > 0.02 || off > plain.step_height_m)
        return fault(Part::end);
    return witness;
}

} // namespace rubble::check
