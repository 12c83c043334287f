#include "study/layout.h"

#include <algorithm>
#include <cmath>

#include "base/parallel.h"
#include "base/tolerance.h"
#include "motion/sweep.h"

namespace rubble::study {

using check::Fragment;
using check::Ground;

namespace {

/// Parts are squares of this side, larger where there would be more than so many (metres).
constexpr double k_side_m = 3, k_most_parts = 500;
/// One sees as far as this; of a part at breast height, by a look this thick (metres).
constexpr double k_far_m = 60, k_breast_m = 1, k_look_m = 0.01;

} // namespace

Layout::Layout(const motion::World& world, const Ground& ground, const check::Reach& reach,
               const Character& character, const std::vector<Ride>& rides)
    : world_(world),
      ground_(ground),
      reach_(reach),
      c_(character) {
    part_ground();
    add_ways(rides);
    look_around();
}

/// Fragments of one ledge and one square that are walked into each other are one part.
void Layout::part_ground() {
    const Ground& ground = ground_;
    double area = 0;
    for (const Fragment& one : ground.fragments)
        if (reach_.tinted(one.ledge)) area += one.area_m2;
    side_m_ = std::max(k_side_m, std::sqrt(area / k_most_parts));
    const auto square_of = [&](int f) { return glm::ivec2(glm::floor(flat(place_of(ground, f)) / side_m_)); };
    part_of_.assign(ground.fragments.size(), -1);
    for (int first = 0; first < int(ground.fragments.size()); ++first) {
        if (part_of_[size_t(first)] >= 0 || !reach_.tinted(ground.fragments[size_t(first)].ledge)) continue;
        const int number = int(parts_.size());
        const glm::ivec2 square = square_of(first);
        std::vector<int> members{first};
        part_of_[size_t(first)] = number;
        for (size_t i = 0; i < members.size(); ++i)
            for (const check::Portal& portal : ground.fragments[size_t(members[i])].portals) {
                if (!portal.walked || part_of_[size_t(portal.to)] >= 0 || square_of(portal.to) != square ||
                    !reach_.tinted(ground.fragments[size_t(portal.to)].ledge))
                    continue;
                part_of_[size_t(portal.to)] = number;
                members.push_back(portal.to);
            }
        Part part;
        Vec3 middle(0);
        for (const int f : members) {
            const Fragment& one = ground.fragments[size_t(f)];
            part.area_m2 += one.area_m2, middle += place_of(ground, f) * one.area_m2;
        }
        middle /= std::max(part.area_m2, 1e-9);
        // To stand there: in the fragment that is nearest to the middle.
        double least = std::numeric_limits<double>::infinity();
        for (const int f : members) {
            const Vec2 p = geometry::nearest(ground.fragments[size_t(f)].area, flat(middle));
            const Vec3 at = raised(p, ground.feet_at(f, p));
            if (glm::length(at - middle) < least) least = glm::length(at - middle), part.at = at;
        }
        parts_.push_back(std::move(part));
    }
}

void Layout::add_ways(const std::vector<Ride>& rides) {
    const Ground& ground = ground_;
    const auto add = [&](int from, int to, double seconds) {
        if (from < 0 || to < 0 || from == to) return;
        auto& ways = parts_[size_t(from)].ways;
        const auto known =
            std::find_if(ways.begin(), ways.end(), [&](const Way& way) { return way.to == to; });
        if (known == ways.end())
            ways.push_back({to, seconds});
        else
            known->seconds = std::min(known->seconds, seconds);
    };
    const double speed = c_.run_speed_mps;
    for (int f = 0; f < int(ground.fragments.size()); ++f)
        for (const check::Portal& portal : ground.fragments[size_t(f)].portals) {
            const int from = part_of_[size_t(f)], to = part_of_[size_t(portal.to)];
            if (portal.walked && from >= 0 && to >= 0)
                add(from, to, glm::length(parts_[size_t(to)].at - parts_[size_t(from)].at) / speed);
        }
    for (const auto& link : reach_.links) {
        const int from = ground.locate(link->start, tolerance::feet_m),
                  to = ground.locate(link->rest, tolerance::feet_m);
        if (from >= 0 && to >= 0)
            add(part_of_[size_t(from)], part_of_[size_t(to)], link->recording.seconds());
    }
    for (const Ride& ride : rides) {
        const int from = near(ride.from, beside_lift_m), to = near(ride.to, beside_lift_m);
        add(from, to, ride.seconds), add(to, from, ride.seconds);
    }
}

void Layout::look_around() {
    const double eye = c_.eye_height_m;
    parallel_for(parts_.size(), [&](size_t i) {
        const Vec3 from = parts_[i].at + Vec3(0, 0, eye);
        for (size_t k = 0; k < parts_.size(); ++k) {
            const Vec3 look = parts_[k].at + Vec3(0, 0, k_breast_m) - from;
            if (k == i || glm::length(look) > k_far_m) continue;
            if (!motion::first_contact(world_, {from, k_look_m, k_look_m}, look))
                parts_[i].seen.push_back(int(k));
        }
    });
}

/// The part whose ground is nearest to a place, about as high and no farther away.
int Layout::near(const Vec3& feet, double within_m) const {
    int best = -1;
    ground_.for_near(Box2{flat(feet), flat(feet)}.grown(within_m), [&](int f) {
        const Fragment& one = ground_.fragments[size_t(f)];
        const Vec2 p = geometry::nearest(one.area, flat(feet));
        const double apart = glm::length(p - flat(feet));
        if (part_of_[size_t(f)] < 0 || apart > within_m) return;
        if (std::abs(ground_.feet_at(f, p) - feet.z) > over_lift_m) return;
        within_m = apart, best = part_of_[size_t(f)];
    });
    return best;
}

int Layout::part_at(const Vec3& feet) const {
    if (const int f = ground_.locate(feet, over_lift_m); f >= 0 && part_of_[size_t(f)] >= 0)
        return part_of_[size_t(f)];
    int best = -1;
    double least = std::numeric_limits<double>::infinity();
    for (int i = 0; i < int(parts_.size()); ++i)
        if (const double apart = glm::length(parts_[size_t(i)].at - feet); apart < least)
            least = apart, best = i;
    return best;
}

} // namespace rubble::study
