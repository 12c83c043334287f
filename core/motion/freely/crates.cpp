#include <algorithm>
#include <array>
#include <cmath>

#include "base/tolerance.h"
#include "motion/elements.h"

namespace rubble::motion {

namespace {

/// The stick points along the push, no further off than the angle whose
/// cosine this is.
constexpr double k_along = 0.7, k_pushing = 0.5;
/// A body this near to a crate's side pushes it (metres).
constexpr double k_contact_m = 0.02;
/// A crate falls when no more of it rests on ground than this along each edge, at this speed (metres, metres
/// per second).
constexpr double k_rests_m = 0.05, k_fall_mps = 8;
/// How far out of a level crates fall (metres).
constexpr double k_out_m = 50;

using Moved = std::array<int, 3>;

Moved units_of(const Vec3& metres) {
    Moved out{};
    for (int axis = 0; axis < 3; ++axis) out[size_t(axis)] = int(std::lround(metres[axis] / moved_unit_m));
    return out;
}

Moved sum(const Moved& a, const Moved& b) { return {a[0] + b[0], a[1] + b[1], a[2] + b[2]}; }

/// Whether two boxes reach into each other by more than rounding: in height, and along each side of both.
bool meet(const Room& a, const Room& b) {
    const double skin = tolerance::skin_m;
    if (a.place.at.z + a.size.z <= b.place.at.z + skin || b.place.at.z + b.size.z <= a.place.at.z + skin)
        return false;
    const auto corners_a = corners_of(a), corners_b = corners_of(b);
    const auto apart_along = [&](const Vec2& axis) {
        const auto range = [&](const std::vector<Vec2>& corners) {
            double low = glm::dot(corners[0], axis), high = low;
            for (const Vec2& corner : corners)
                low = std::min(low, glm::dot(corner, axis)), high = std::max(high, glm::dot(corner, axis));
            return std::pair(low, high);
        };
        const auto [low_a, high_a] = range(corners_a);
        const auto [low_b, high_b] = range(corners_b);
        return high_a <= low_b + skin || high_b <= low_a + skin;
    };
    for (const Room* room : {&a, &b})
        for (const Vec3 own : {Vec3(1, 0, 0), Vec3(0, 1, 0)})
            if (apart_along(flat(room->place.direction(own)))) return false;
    return true;
}

/// Moves the crates of one level by one step.
class Mover {
public:
    Mover(const World& world, const PlayElements& elements, const Character& c, const PlayState& state,
          std::span<const Vec3> lifts)
        : elements_(elements),
          c_(c),
          state_(state),
          lifts_(lifts),
          falls_(world.moving().frame != Frame::plan),
          puzzle_(state.puzzle),
          body_(state.body) {
        puzzle_.moved.resize(elements.crates.size());
        std::vector<SourceId> gone = state.puzzle.gone;
        for (const auto& lift : elements.lifts) gone.push_back(lift.source());
        for (const auto& crate : elements.crates) gone.push_back(crate.source());
        for (const auto& barrier : elements.barriers) // asked for each crate, see has_room
            if (barrier.one_way) gone.push_back(barrier.source());
        std::sort(gone.begin(), gone.end());
        gone.erase(std::unique(gone.begin(), gone.end()), gone.end());
        still_ = &world.without(gone);
    }

    void carry(std::span<const Vec3> lifts_before) {
        for (size_t i = 0; i < elements_.crates.size(); ++i)
            for (size_t l = 0; l < lifts_.size(); ++l) {
                if (lifts_[l] == lifts_before[l]) continue;
                if (rests_on(room(i), shifted(elements_.lifts[l].room, lifts_before[l])))
                    puzzle_.moved[i] = sum(puzzle_.moved[i], units_of(lifts_[l] - lifts_before[l]));
            }
    }

    void push(const Input& input) {
        if (elements_.nobody_pushes || c_.push_part <= 0) return;
        for (size_t i = 0; i < elements_.crates.size(); ++i) {
            const auto towards = pushed_towards(room(i), c_, state_.body, input);
            const int needs = elements_.crates[i].needs;
            if (!towards || (needs >= 0 && held(elements_, puzzle_, ThingKind::item, needs) == 0)) continue;
            if (falls_ && !rests(i)) continue;
            const double stick = std::min(glm::length(input.stick), 1.0);
            const Moved by =
                units_of(raised(*towards * (c_.run_speed_mps * c_.push_part * stick * step_s), 0));
            if (!try_moving(i, by)) return;
            // Whoever was stopped by the crate goes on as fast as it does.
            const double speed = c_.run_speed_mps * c_.push_part * stick,
                         slower = speed - glm::dot(flat(body_.velocity), *towards);
            if (slower > 0) body_.velocity += raised(*towards * slower, 0);
            return;
        }
    }

    void fall() {
        for (size_t i = 0; falls_ && i < elements_.crates.size(); ++i) {
            const double bottom = room(i).place.at.z, down = k_fall_mps * step_s;
            if (rests(i) || bottom < still_->lowest() - k_out_m) continue;
            const double ground = std::max(ground_below(i, down), bottom - down);
            Moved by = units_of({0, 0, ground - bottom});
            if (by[2] >= 0) continue;
            const Moved before = puzzle_.moved[i];
            puzzle_.moved[i] = sum(before, by);
            // It comes to rest on the head of whoever is below.
            const Body body = body_of(c_, state_.body);
            if (body.at.z < bottom - tolerance::limit_m && apart_m(room(i), body) < -tolerance::limit_m)
                puzzle_.moved[i] = before;
        }
    }

    CratesMoved finished() { return {std::move(puzzle_), body_}; }

private:
    Room room(size_t i) const { return shifted(elements_.crates[i].room, metres_of(puzzle_.moved[i])); }
    Room lift(size_t l) const { return shifted(elements_.lifts[l].room, lifts_[l]); }

    static bool rests_on(const Room& upper, const Room& lower) {
        if (std::abs(upper.place.at.z - lower.place.at.z - lower.size.z) > k_contact_m) return false;
        Room below = upper;
        below.place.at.z = lower.place.at.z, below.size = below.size - Vec3(2 * k_rests_m, 2 * k_rests_m, 0);
        return meet(below, lower);
    }

    /// A body as wide as what has to lose its ground before a crate falls.
    Body middle(size_t i) const {
        const Room crate = room(i);
        const double radius = std::min(crate.size.x, crate.size.y) / 2 - k_rests_m;
        return {crate.place.at, std::max(radius, k_rests_m), 0};
    }

    bool rests(size_t i) const {
        if (support_below(*still_, middle(i), k_contact_m, tolerance::limit_m)) return true;
        for (size_t l = 0; l < elements_.lifts.size(); ++l)
            if (rests_on(room(i), lift(l))) return true;
        for (size_t other = 0; other < elements_.crates.size(); ++other)
            if (other != i && rests_on(room(i), room(other))) return true;
        return std::any_of(elements_.barriers.begin(), elements_.barriers.end(), [&](const auto& barrier) {
            return !barrier.crates && rests_on(room(i), barrier.room);
        });
    }

    /// The highest ground under a crate, no further down than asked; far below where none is.
    double ground_below(size_t i, double down) const {
        double highest = -1e9;
        if (const auto support = support_below(*still_, middle(i), 0, down + tolerance::limit_m))
            highest = support->height;
        Room below = room(i);
        below.place.at.z -= down, below.size = below.size - Vec3(2 * k_rests_m, 2 * k_rests_m, 0);
        const auto note = [&](const Room& other) {
            const double top = other.place.at.z + other.size.z;
            if (top <= room(i).place.at.z + tolerance::limit_m && meet(below, other))
                highest = std::max(highest, top);
        };
        for (size_t l = 0; l < elements_.lifts.size(); ++l) note(lift(l));
        for (size_t other = 0; other < elements_.crates.size(); ++other)
            if (other != i) note(room(other));
        for (const PlayElements::Barrier& barrier : elements_.barriers)
            if (!barrier.crates) note(barrier.room);
        return highest;
    }

    /// Whether a crate has room where it is, to where it was moved: matter is felt for by a disc in its
    /// middle, and by one in each corner.
    bool has_room(size_t i, Vec2 by) const {
        const Room crate = room(i);
        const double half = std::min(crate.size.x, crate.size.y) / 2, corner = half / 4;
        const auto free = [&](const Vec2& own, double radius) {
            const Vec3 at = crate.place.to_level({own.x, own.y, k_contact_m});
            return overlap_m(*still_, {at, radius - tolerance::skin_m, crate.size.z - 2 * k_contact_m}) <=
                   tolerance::skin_m;
        };
        if (!free(Vec2(0), half)) return false;
        for (const double x : {-1.0, 1.0})
            for (const double y : {-1.0, 1.0}) {
                if (still_->flat_on() && y > 0) continue;
                const double wide = still_->flat_on() ? 0 : y * (crate.size.y / 2 - corner);
                if (!free({x * (crate.size.x / 2 - corner), wide}, corner)) return false;
            }
        for (size_t other = 0; other < elements_.crates.size(); ++other)
            if (other != i && meet(crate, room(other))) return false;
        for (size_t l = 0; l < elements_.lifts.size(); ++l)
            if (meet(crate, lift(l))) return false;
        return std::none_of(elements_.barriers.begin(), elements_.barriers.end(), [&](const auto& barrier) {
            return !barrier.lets_crate(by) && meet(crate, barrier.room);
        });
    }

    bool try_moving(size_t i, const Moved& by) {
        const Moved before = puzzle_.moved[i];
        puzzle_.moved[i] = sum(before, by);
        if (has_room(i, flat(metres_of(by)))) return true;
        puzzle_.moved[i] = before;
        return false;
    }

    const PlayElements& elements_;
    const Character& c_;
    const PlayState& state_;
    const std::span<const Vec3> lifts_;
    const bool falls_;
    PuzzleState puzzle_;
    State body_;
    const World* still_ = nullptr; ///< without what moves
};

} // namespace

std::optional<Vec2> pushed_towards(const Room& crate, const Character& c, const State& body,
                                   const Input& input) {
    const double size = glm::length(input.stick);
    if (!body.standing || body.dead || body.crouched || size < k_pushing) return {};
    const double top = crate.place.at.z + crate.size.z;
    if (top - body.at.z <= c.step_height_m || body.at.z + c.height_m <= crate.place.at.z) return {};
    const Vec3 own = crate.place.to_own(body.at);
    const double beside_x = std::abs(own.x) - crate.size.x / 2, beside_y = std::abs(own.y) - crate.size.y / 2;
    const bool along_x = beside_x > beside_y;
    if (std::min(beside_x, beside_y) > 0 || std::max(beside_x, beside_y) > c.radius_m + k_contact_m)
        return {};
    const Vec3 inwards = along_x ? Vec3(own.x > 0 ? -1 : 1, 0, 0) : Vec3(0, own.y > 0 ? -1 : 1, 0);
    const Vec2 towards = flat(crate.place.direction(inwards));
    if (glm::dot(input.stick / size, towards) < k_along) return {};
    return towards;
}

CratesMoved crates_moved(const World& world, const PlayElements& elements, const Character& character,
                         const PlayState& state, const Input& input, std::span<const Vec3> lifts_before,
                         std::span<const Vec3> lifts_now) {
    Mover mover(world, elements, character, state, lifts_now);
    mover.carry(lifts_before);
    mover.push(input);
    mover.fall();
    return mover.finished();
}

} // namespace rubble::motion
