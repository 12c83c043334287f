#include "check/witness.h"

#include <cmath>
#include <numbers>

#include "base/tolerance.h"
#include "check/cell_ground.h"
#include "check/walk.h"

namespace rubble::check {

using motion::Recorder;
using motion::World;

namespace {

/// The place of a fragment nearest to a thing from where it is had. On a slope the feet are at another height
/// beside it: there places around it are looked at too.
std::optional<Vec2> nearest_spot(const Ground& ground, int f, const Character& c, const Vec3& at) {
    const Fragment& fragment = ground.fragments[size_t(f)];
    const double reach = c.radius_m - tolerance::covered_m;
    const auto has = [&](Vec2 p) {
        return glm::length(p - flat(at)) <= reach && std::abs(ground.feet_at(f, p) - at.z) <= c.step_height_m;
    };
    if (const Vec2 p = geometry::nearest(fragment.area, flat(at)); has(p)) return p;
    if (ground.tops[size_t(fragment.top)].level()) return {};
    constexpr int k_circles = 4, k_directions = 16;
    for (int circle = 1; circle <= k_circles; ++circle)
        for (int k = 0; k < k_directions; ++k) {
            const double angle = 2 * std::numbers::pi * k / k_directions;
            Vec2 p = flat(at) + Vec2(std::cos(angle), std::sin(angle)) * (reach * circle / k_circles);
            if (ground.flat_on) p.y = 0;
            if (geometry::contains(fragment.area, p) && has(p)) return p;
        }
    return {};
}

} // namespace

std::vector<Spot> spots_of(const Ground& ground, const Character& c, const Vec3& at) {
    if (ground.cells) { // a thing is had on its cell
        const int f = fragment_of_cell(ground, flat(at));
        if (f < 0) return {};
        const Fragment& cell = ground.fragments[size_t(f)];
        return {{f, (cell.box.low + cell.box.high) * 0.5, cell.ledge}};
    }
    std::vector<std::pair<double, Spot>> found;
    ground.for_near(Box2{flat(at), flat(at)}.grown(c.radius_m), [&](int f) {
        const auto p = nearest_spot(ground, f, c, at);
        if (!p) return;
        const double aside = glm::length(*p - flat(at)), height = std::abs(ground.feet_at(f, *p) - at.z);
        found.push_back({aside + height, {f, *p, ground.fragments[size_t(f)].ledge}});
    });
    std::stable_sort(found.begin(), found.end(), [](auto& a, auto& b) { return a.first < b.first; });
    std::vector<Spot> out;
    for (const auto& [score, spot] : found) out.push_back(spot);
    return out;
}

bool has_thing(const World& world, const motion::State& s, const Character& c, const Vec3& at) {
    if (const auto& cells = world.moving().cells)
        return cells->cell_at(flat(s.at)) == cells->cell_at(flat(at)) && !s.dead;
    return s.standing && !s.dead && glm::length(flat(s.at) - flat(at)) <= c.radius_m + tolerance::limit_m &&
           std::abs(s.at.z - at.z) <= c.step_height_m + tolerance::limit_m;
}

tl::expected<Witness, WitnessFault> make_witness(const Ground& ground, const World& world,
                                                 const Character& character, const Reach& reach,
                                                 const Spot& spot) {
    const auto chain = reach.chain(spot.ledge);
    if (chain.empty()) return tl::unexpected(WitnessFault::not_reached);
    Witness witness;
    witness.recording.start = chain.front()->run.start;
    for (const auto& arrival : chain) {
        if (arrival->link)
            witness.legs.push_back({arrival->link, witness.recording.steps() + arrival->leap_begins});
        witness.recording.append(arrival->run);
    }
    Character plain = character;
    plain.early_press_s = 0;
    if (!chain.back()->helped) plain.late_jump_grace_s = 0;
    witness.legs.push_back({nullptr, witness.recording.steps()});
    Recorder last(world, plain, chain.back()->rest);
    if (!walk_to(last, ground, plain, spot.fragment, spot.at)) return tl::unexpected(WitnessFault::last_walk);
    witness.recording.append(last.recording());

    const motion::State end = motion::replayed(world, character, witness.recording);
    const double off = std::abs(end.at.z - ground.feet_at(spot.fragment, spot.at));
    if (end.dead || !end.standing || glm::length(flat(end.at) - spot.at) > 0.02 || off > plain.step_height_m)
        return tl::unexpected(WitnessFault::replay);
    witness.end = end;
    return witness;
}

} // namespace rubble::check
