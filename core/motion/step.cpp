#include "motion/step.h"

#include <array>
#include <cmath>
#include <utility>

#include <boost/container/small_vector.hpp>

#include "base/tolerance.h"
#include "motion/cell_step.h"
#include "motion/freely/fixtures.h"
#include "motion/sweep.h"

namespace rubble::motion {

namespace {

/// Longest piece of a walk that is taken at once, so that no tread of a stair is passed over (metres).
constexpr double k_stride_m = 0.06;
constexpr int k_most_contacts = 6;
/// A slide leads away from its face by this part of the way, so that rounding does not make it meet the
/// same round corner again and again.
constexpr double k_part_from_wall = 2e-6;
/// Faces that leave no more than this part of a way down wedge the body.
constexpr double k_wedged_part = 1e-3;
/// Normals closer than this are those of one face.
constexpr double k_one_face_cosine = 0.999;
/// Pulling oneself up takes this long (steps): half a second.
constexpr int k_pull_steps = 60;
/// A face no farther than this is within reach; the middle comes to stand this far inside where it would
/// still find ground (metres).
constexpr double k_grip_m = 0.02, k_onto_m = 0.05;
/// Cosine of the widest angle between the stick and a face that is gripped.
constexpr double k_towards_cosine = 0.5;
/// Whoever leaves a one-way deck downwards begins this far within it (metres).
constexpr double k_through_m = 2e-3;
/// Below all matter by this much is out of the level (metres).
constexpr double k_lost_below_m = 10;

double jump_gravity(const Character& c, const State& s) {
    const double g = c.gravity_up_mps2;
    return s.low_jump ? g * std::max(1.0, c.jump_height_m / std::max(c.low_jump_height_m, 1e-6)) : g;
}

Vec2 limited(Vec2 stick) {
    const double length = glm::length(stick);
    return length > 1 ? stick / length : stick;
}

/// Horizontal motion that goes straight from `velocity` towards `wanted` by at most `acceleration`: the new
/// velocity and the exact way made in `time`.
struct Drive {
    Vec2 velocity, way;
};
Drive driven(Vec2 velocity, Vec2 wanted, double acceleration, double time) {
    const Vec2 change = wanted - velocity;
    const double size = glm::length(change);
    if (size <= 0 || acceleration <= 0) return {size <= 0 ? wanted : velocity, velocity * time};
    const double needed = size / acceleration;
    if (needed >= time) {
        const Vec2 next = velocity + change * (time / needed);
        return {next, (velocity + next) * (time / 2)};
    }
    return {wanted, (velocity + wanted) * (needed / 2) + wanted * (time - needed)};
}

/// One step under way: the state being changed and what it is moved against.
class Mover {
public:
    Mover(const World& world, const Character& character, const State& state, const Input& input)
        : world_(world),
          c_(character),
          s_(state),
          stick_(world.flat_on() ? Vec2(std::clamp(input.stick.x, -1.0, 1.0), 0) : limited(input.stick)),
          given_(input.stick) {}

    State run(const Input& input) {
        if (s_.pull_steps == 0) crouch(input.crouch); // the room was looked at for the posture it has
        bool pressed = input.jump && !s_.jump_held;
        s_.press_age_s = pressed ? 0 : s_.press_age_s + step_s;
        s_.jump_held = input.jump;
        if (s_.rising_by_jump && !input.jump) s_.low_jump = true;
        if (s_.pull_steps > 0) {
            pull();
            account();
            return s_;
        }

        if (world_.fixtures() && climb(pressed)) {
            if (world_.flat_on()) s_.at.y = s_.velocity.y = 0;
            return s_;
        }

        double left = step_s;
        if (s_.standing) left = walk(left);
        if (left > 0) left = fly(left);
        // One who is wedged has no ground to walk on; all he can do is jump.
        if (left > 0 && s_.standing && !wedged_) walk(left);
        account();
        jump(pressed);
        if (s_.pull_steps == 0) grip();
        thrown();
        if (s_.at.z < world_.lowest() - k_lost_below_m || in_deadly(world_, body())) s_.dead = true;
        if (world_.flat_on()) s_.at.y = s_.velocity.y = 0;
        return s_;
    }

private:
    bool walkable(const Column& column) const { return is_ground(c_, column); }
    Body body() const { return body_of(c_, s_); }

    void crouch(bool wanted) {
        if (c_.crouched_height_m <= 0) return;
        if (wanted) s_.crouched = true;
        if (!wanted && s_.crouched) {
            Body upright{s_.at, c_.radius_m - 2 * tolerance::skin_m, c_.height_m - tolerance::skin_m};
            if (overlap_m(world_, upright) <= tolerance::same_height_m) s_.crouched = false;
        }
    }

    void jump(bool pressed) {
        const bool remembered = s_.press_age_s <= c_.early_press_s && (pressed || c_.early_press_s > 0);
        if (pressed && s_.crouched && s_.standing && drop_through()) return;
        if (!(pressed || remembered) || s_.crouched || s_.dead || c_.jump_height_m <= 0) return;
        if (s_.pull_steps > 0) return;
        const bool from_ground =
            s_.standing || (c_.late_jump_grace_s > 0 && s_.off_ground_s <= c_.late_jump_grace_s);
        if (!from_ground && !(pressed && s_.jumps_left > 0 && !s_.sliding)) return;
        if (!from_ground) --s_.jumps_left;
        s_.velocity.z = take_off_speed(c_);
        s_.standing = false;
        s_.rising_by_jump = true;
        s_.low_jump = false;
        s_.fall_from = s_.at.z;
        s_.off_ground_s = 1e9;
        s_.press_age_s = 1e9;
    }

    /// Leaves what lets pass from below downwards, where nothing else carries; false where it stays.
    bool drop_through() {
        bool let_through = false, carried = false;
        Body b = body();
        b.radius -= 2 * tolerance::skin_m;
        world_.for_near(Box2{flat(b.at), flat(b.at)}.grown(b.radius), [&](int i) {
            const Column& column = world_.columns()[size_t(i)];
            const auto felt = column.over_disc(flat(b.at), b.radius);
            if (!felt || felt->high > b.at.z + k_through_m || felt->high < b.at.z - k_through_m) return;
            (column.one_way() ? let_through : carried) = true;
        });
        if (!let_through || carried) return false;
        s_.at.z -= k_through_m;
        s_.standing = false;
        s_.off_ground_s = s_.press_age_s = 1e9;
        return true;
    }

    void account() {
        if (s_.standing) {
            s_.fall_from = s_.at.z;
            s_.off_ground_s = 0;
            s_.jumps_left = int(c_.further_jumps);
            s_.rising_by_jump = s_.low_jump = s_.sliding = false;
        } else {
            s_.off_ground_s += step_s;
            s_.fall_from = std::max(s_.fall_from, s_.at.z);
            if (s_.velocity.z <= 0) s_.rising_by_jump = s_.low_jump = false;
        }
    }

    // Pulling up -------------------------------------------------------------------------------------

    /// In the air, no longer rising, with the stick towards a face: whose top is ground within reach gets
    /// pulled up onto, where the whole way up and in is free.
    bool grip() {
        if (c_.pull_up_m <= 0 || s_.standing || s_.dead || s_.velocity.z > 0 || stick_ == Vec2(0))
            return false;
        const Vec2 towards = stick_ / glm::length(stick_);
        const auto face = first_contact(world_, body(), raised(towards * k_grip_m, 0));
        if (!face || face->kind != Contact::Kind::wall) return false;
        const Vec2 across = flat(face->normal);
        const double level = glm::length(across);
        if (level < 1e-6) return false;
        const Vec2 inward = -across / level;
        if (glm::dot(towards, inward) < k_towards_cosine) return false;
        const Vec2 to =
            flat(s_.at) + towards * (k_grip_m * face->part) + inward * (c_.least_support_m + k_onto_m);
        Body upright = body();
        upright.radius -= 2 * tolerance::skin_m;
        Body there = upright;
        there.at = raised(to, s_.at.z);
        const auto top = support_below(world_, there, c_.pull_up_m + tolerance::limit_m, 0);
        if (!top || top->height <= s_.at.z || !walkable(world_.columns()[size_t(top->column)])) return false;
        const double rise = top->height + tolerance::same_height_m - s_.at.z;
        // Up beside the face, then in.
        Body shaft = upright;
        shaft.height += rise;
        if (overlap_m(world_, shaft) > tolerance::same_height_m) return false;
        Body over = upright;
        over.at.z += rise;
        if (first_contact(world_, over, raised(to - flat(s_.at), 0))) return false;
        there.at.z = top->height + tolerance::same_height_m;
        if (overlap_m(world_, there) > tolerance::same_height_m) return false;
        s_.pull_steps = k_pull_steps;
        s_.pull_to = raised(to, top->height);
        s_.velocity = Vec3(0);
        s_.sliding = s_.rising_by_jump = s_.low_jump = false;
        return true;
    }

    /// One step of the way up and in, at an even pace.
    void pull() {
        const Vec2 in = flat(s_.pull_to) - flat(s_.at);
        const double up = std::max(s_.pull_to.z - s_.at.z, 0.0), inward = glm::length(in);
        if (--s_.pull_steps == 0) {
            s_.at = s_.pull_to;
            land(s_.pull_to.z);
            return;
        }
        const double pace = (up + inward) / (s_.pull_steps + 1), risen = std::min(pace, up);
        s_.at.z += risen;
        if (inward > 0) s_.at += raised(in * std::min((pace - risen) / inward, 1.0), 0);
    }

    // Ladders and launchers --------------------------------------------------------------------------

    /// Goes up or down a ladder, or holds on to it; false where it does neither. A press of the jump key lets
    /// go, and jumps off where the stick leads away.
    bool climb(bool& pressed) {
        const Ladder* ladder = world_.fixtures()->ladder_at(s_.at, c_.radius_m);
        const bool was = std::exchange(s_.climbing, false);
        if (!ladder || c_.climb_speed_mps <= 0 || s_.crouched) return false;
        const int wish = ladder->wish(given_);
        if (was && pressed) {
            pressed = false, s_.press_age_s = 1e9;
            if (wish > 0 || stick_ == Vec2(0) || c_.jump_height_m <= 0) return false;
            s_.velocity.z = take_off_speed(c_);
            s_.rising_by_jump = true;
            return false;
        }
        const bool at_top = s_.at.z >= ladder->top() - tolerance::limit_m;
        if (wish == 0 && (!was || (ladder->behind && stick_ != Vec2(0)))) return false;
        if (s_.standing && (wish < 0 || at_top)) return false;
        s_.climbing = true;
        s_.standing = s_.rising_by_jump = s_.low_jump = s_.sliding = false;
        s_.velocity = Vec3(0);
        const double pace = c_.climb_speed_mps * step_s;
        if (wish > 0) {
            go(Vec3(0, 0, std::clamp(ladder->top() - s_.at.z, 0.0, pace)));
            if (at_top && !ladder->behind) go(raised(-ladder->front * pace, 0)), stand_on_edge();
        } else if (wish < 0) {
            const auto ground = first_contact(world_, body(), Vec3(0, 0, -pace));
            if (ground && ground->kind == Contact::Kind::top) {
                s_.fall_from = ground->height;
                s_.climbing = !land(ground->height);
            } else {
                go(Vec3(0, 0, -pace));
            }
        }
        s_.fall_from = s_.at.z;
        s_.off_ground_s = s_.press_age_s = 1e9;
        s_.jumps_left = int(c_.further_jumps);
        return true;
    }

    /// Straight on as far as nothing is in the way.
    void go(const Vec3& way) {
        const auto met = first_contact(world_, body(), way);
        s_.at += way * (met ? met->part : 1.0);
    }

    /// Over the upper end of a ladder: the first ground there carries.
    void stand_on_edge() {
        Body under = body();
        under.radius -= 2 * tolerance::skin_m;
        const auto support = support_below(world_, under, tolerance::limit_m, c_.step_height_m);
        if (!support || !walkable(world_.columns()[size_t(support->column)])) return;
        if (c_.least_support_m > 0 && !well_supported(flat(s_.at), support->height)) return;
        s_.fall_from = support->height;
        s_.climbing = !land(support->height);
    }

    /// Who stands in a launcher leaves the ground at its speed.
    void thrown() {
        if (!world_.fixtures() || !s_.standing || s_.dead) return;
        const Launcher* launcher = world_.fixtures()->launcher_at(s_.at);
        if (!launcher) return;
        s_.velocity = launcher->velocity;
        s_.standing = s_.rising_by_jump = s_.low_jump = false;
        s_.fall_from = s_.at.z;
        s_.off_ground_s = s_.press_age_s = 1e9;
    }

    // Walking ----------------------------------------------------------------------------------------

    /// Walks for `time`; gives the time that is left when the ground ends.
    double walk(double time) {
        const double speed = c_.run_speed_mps * (s_.crouched ? 0.5 : 1.0);
        const ActingFloor* floor = world_.fixtures() ? world_.fixtures()->floor_at(s_.at) : nullptr;
        const double grip = floor && floor->acts == FloorAct::slippery ? slippery_part : 1.0;
        const Drive drive =
            driven(flat(s_.velocity), stick_ * speed, c_.ground_acceleration_mps2 * grip, time);
        s_.velocity = raised(drive.velocity, 0);
        Vec2 way = drive.way;
        if (floor) way += floor->carries * time;
        if (world_.flat_on()) way.y = 0;
        const double length = glm::length(way);
        const int strides = std::max(1, int(std::ceil(length / k_stride_m)));
        for (int i = 0; i < strides; ++i) {
            const double taken = stride(way / double(strides - i));
            if (taken < 1) {
                s_.standing = false;
                return time * (1 - (i + taken) / strides);
            }
            // Walls turn what is left of the way as they turned the velocity.
            way = turned_by_walls(way * (double(strides - i - 1) / (strides - i)));
        }
        return 0;
    }

    Vec2 turned_by_walls(Vec2 way) const {
        for (Vec2 normal : walls_)
            if (const double into = glm::dot(way, normal); into < 0) way -= normal * into;
        return way;
    }

    /// One stride: sideways among what cannot be stepped onto, then up or down to the ground there. Gives 1,
    /// or the part of the stride after which there is no ground.
    double stride(Vec2 way) {
        const Vec3 from = s_.at;
        const Vec2 to = slid(way, true);
        if (settle(to, from.z)) return 1;
        if (blocked_above_) {
            // What one would step onto has no room for the head: it is a wall then.
            s_.at = from;
            const Vec2 lower = slid(way, false);
            if (settle(lower, from.z)) return 1;
            if (blocked_above_) { // a slope that runs up under a ceiling: here it ends
                s_.at = from;
                s_.velocity = Vec3(0);
                return 1;
            }
            return edge_of_ground(from, lower);
        }
        return edge_of_ground(from, to);
    }

    /// Moves to the last place between `from` and `to` that has ground.
    double edge_of_ground(const Vec3& from, Vec2 to) {
        double with = 0, without = 1;
        for (int i = 0; i < 24; ++i) {
            const double middle = (with + without) / 2;
            s_.at = from;
            (settle(flat(from) + (to - flat(from)) * middle, from.z) ? with : without) = middle;
        }
        s_.at = from;
        settle(flat(from) + (to - flat(from)) * with, from.z);
        s_.at = raised(flat(from) + (to - flat(from)) * without, s_.at.z);
        return with;
    }

    /// How much higher than the feet a column may be and still be walked onto.
    double lift_onto(const Column& column, double feet, bool may_step) const {
        const double slope_rise = k_stride_m * 1.5 * column.steep + tolerance::limit_m;
        if (column.one_way()) return slope_rise;
        const double step = may_step ? c_.step_height_m + tolerance::limit_m : tolerance::same_height_m;
        if (walkable(column)) return column.steep > 0 ? std::max(step, slope_rise) : step;
        const bool curb = may_step && column.high <= feet + c_.step_height_m + tolerance::limit_m;
        return curb && leads_up(column) ? step : tolerance::same_height_m;
    }

    /// Whether ground begins where a steep column is highest: then it is the face of a riser. A ridge that no
    /// ground leads on from carries nobody.
    bool leads_up(const Column& riser) const {
        return riser.leads_to_deg <= c_.max_slope_deg + tolerance::limit_deg;
    }

    /// The place to which the body slides along walls when it goes `way`; changes the velocity likewise.
    Vec2 slid(Vec2 way, bool may_step) {
        const Body b = body();
        Vec2 at = flat(b.at);
        const Box2 swept = Box2{at, at}.grown(b.radius + glm::length(way) + tolerance::limit_m);
        boost::container::small_vector<const geometry::ConvexArea*, 16> walls;
        boost::container::small_vector<geometry::ConvexArea, 4> parts; // of columns that slope
        world_.for_near(swept, [&](int i) {
            const Column& column = world_.columns()[size_t(i)];
            if (column.one_way()) return;
            const double above = b.at.z + lift_onto(column, b.at.z, may_step);
            const double below = b.at.z + b.height - tolerance::same_height_m;
            if (column.high <= above || column.low >= below) return;
            if (column.simple())
                walls.push_back(&column.area);
            else if (auto area = column.between(above, below); !area.empty())
                parts.push_back(std::move(area));
        });
        for (const auto& part : parts) walls.push_back(&part);
        walls_.clear();
        if (walls.empty()) return at + way;
        for (int contact = 0; contact < k_most_contacts; ++contact) {
            const double length = glm::length(way);
            if (length < 1e-12) break;
            double first = 1;
            Vec2 normal(0);
            bool hit = false;
            for (const geometry::ConvexArea* wall : walls) {
                const auto passage = geometry::disc_passage(*wall, at, way, b.radius - tolerance::skin_m);
                if (!passage || passage->leave <= 0 || passage->enter >= first) continue;
                Vec2 n = passage->normal;
                if (passage->enter < 0) {
                    // In touch already: deep means it began inside and may leave.
                    const Vec2 near = geometry::nearest(*wall, at);
                    const double gap = glm::length(at - near);
                    if (gap < b.radius - tolerance::same_height_m * 10) continue;
                    n = (at - near) / gap;
                }
                if (glm::dot(way, n) > -1e-9 * length) continue;
                first = std::max(passage->enter, 0.0), normal = n, hit = true;
            }
            at += way * first;
            if (!hit) break;
            way *= 1 - first;
            walls_.push_back(normal);
            way = slid_off(way, normal);
            if (walls_.size() == 1) way += normal * (k_part_from_wall * glm::length(way));
            const Vec2 v = slid_off(flat(s_.velocity), normal);
            s_.velocity = raised(v, s_.velocity.z);
        }
        return at;
    }

    /// `v` without what goes into the walls met so far; nothing where two of them close a corner.
    Vec2 slid_off(Vec2 v, Vec2 normal) const {
        if (const double into = glm::dot(v, normal); into < 0) v -= normal * into;
        for (Vec2 other : walls_)
            if (glm::dot(v, other) < -1e-9) return Vec2(0);
        return v;
    }

    /// Puts the body onto the ground at `place`; false where there is none within a step, or no room above
    /// it (`blocked_above_`).
    bool settle(Vec2 place, double feet) {
        blocked_above_ = false;
        Body b = body();
        b.at = raised(place, feet);
        b.radius -= 2 * tolerance::skin_m;
        std::optional<Support> best;
        // The highest ground within a step, though a riser's face may lie higher.
        double tread = -std::numeric_limits<double>::infinity();
        world_.for_near(Box2{place, place}.grown(b.radius), [&](int i) {
            const Column& column = world_.columns()[size_t(i)];
            const double reach = std::max(c_.step_height_m, k_stride_m * 1.5 * column.steep);
            if (column.low > feet + reach + tolerance::limit_m ||
                column.high < feet - reach - tolerance::limit_m)
                return;
            // A look at the plane of the top tells most of what need not be looked at closely.
            const double most = column.most_under_disc(place, b.radius);
            if (most < feet - reach - tolerance::limit_m) return;
            if (best && most < std::min(best->height, tread) - tolerance::same_height_m) return;
            const auto range = column.over_disc(place, b.radius);
            if (!range) return;
            const double lift = lift_onto(column, feet, true);
            if (range->high > feet + lift + tolerance::skin_m) return;
            if (column.one_way() && was_below(column)) return;
            if (walkable(column) && range->high >= feet - c_.step_height_m - tolerance::limit_m)
                tread = std::max(tread, range->high);
            const bool level_with = best && std::abs(range->high - best->height) <= tolerance::same_height_m;
            const bool gentler = level_with && column.steep < world_.columns()[size_t(best->column)].steep;
            if (!best || gentler || (!level_with && range->high > best->height))
                best = Support{range->high, i};
        });
        if (!best || best->height < feet - drop_within(best->column) - tolerance::limit_m) return false;
        const Column& ground = world_.columns()[size_t(best->column)];
        const bool rising = best->height > feet + tolerance::same_height_m;
        const bool riser = ground.high <= (rising ? feet : tread) + c_.step_height_m + tolerance::limit_m;
        if (!walkable(ground) && !(riser && leads_up(ground))) return false;
        if (c_.least_support_m > 0 && !well_supported(place, best->height)) return false;
        if (rising) {
            b.at.z = best->height + tolerance::same_height_m;
            b.height -= 2 * tolerance::same_height_m;
            blocked_above_ = overlap_m(world_, b) > tolerance::same_height_m;
            if (blocked_above_) return false;
        }
        s_.at = raised(place, best->height);
        return true;
    }

    /// Whether the feet were below a column's top before this stride.
    bool was_below(const Column& column) const {
        const auto felt = column.over_disc(flat(s_.at), c_.radius_m - 2 * tolerance::skin_m);
        return felt && felt->high > s_.at.z + tolerance::limit_m;
    }

    double drop_within(int column) const {
        const double slope = k_stride_m * 1.5 * world_.columns()[size_t(column)].steep;
        return std::max(c_.step_height_m, slope);
    }

    /// Whether enough of the bottom rests on ground: its disc less the least support still finds some.
    bool well_supported(Vec2 place, double feet) const {
        Body inner{raised(place, feet), c_.radius_m - c_.least_support_m, 0};
        const auto support =
            support_below(world_, inner, tolerance::same_height_m, c_.step_height_m + tolerance::limit_m);
        return support && walkable(world_.columns()[size_t(support->column)]);
    }

    // Flight -----------------------------------------------------------------------------------------

    /// Flies for `time`; gives the time that is left after landing.
    double fly(double time) {
        const Drive drive =
            stick_ == Vec2(0) || s_.sliding
                ? Drive{flat(s_.velocity), flat(s_.velocity) * time}
                : driven(flat(s_.velocity), stick_ * (c_.run_speed_mps * (s_.crouched ? 0.5 : 1.0)),
                         c_.air_acceleration_mps2, time);
        const Vec2 mean = time > 0 ? drive.way / time : Vec2(0);
        s_.velocity = raised(drive.velocity, s_.velocity.z);
        s_.sliding = false;
        Vec2 pace = mean;
        double left = time;
        // Up to the apex, then down: each part has one gravity.
        if (s_.velocity.z > 0) {
            const double g = jump_gravity(c_, s_);
            const double part = std::min(left, s_.velocity.z / g);
            const double rise = s_.velocity.z * part - g * part * part / 2;
            s_.velocity.z = std::max(0.0, s_.velocity.z - g * part);
            if (part < left) s_.velocity.z = 0;
            left -= part - glide(pace, rise, part);
            if (s_.standing) return left;
        }
        if (left <= 0) return 0;
        const double g = c_.gravity_down_mps2, terminal = c_.terminal_speed_mps;
        const double v = -s_.velocity.z;
        const double until = std::max(0.0, (terminal - v) / g);
        const double falling = std::min(left, until);
        const double drop = v * falling + g * falling * falling / 2 +
                            std::min(v + g * falling, std::max(terminal, v)) * (left - falling);
        if (s_.velocity.z <= 0) s_.velocity.z = -std::max(v, std::min(v + g * left, terminal));
        return glide(pace, -drop, left);
    }

    /// Moves along a straight piece of flight, sliding off what is met. Gives the time left after landing.
    double glide(Vec2& pace, double rise, double time) {
        Vec3 way = raised(pace * time, rise);
        double left = time;
        bool wedged = false;
        boost::container::small_vector<Vec3, k_most_contacts> met_before;
        for (int contact = 0; contact < k_most_contacts; ++contact) {
            const std::optional<Contact> met = first_contact(world_, body(), way);
            if (!met) {
                s_.at += way;
                break;
            }
            s_.at += way * met->part;
            left *= 1 - met->part;
            way *= 1 - met->part;
            const Column& column = world_.columns()[size_t(met->column)];
            if (met->kind == Contact::Kind::top && walkable(column) && (way.z <= 0 || s_.velocity.z <= 0)) {
                return land(met->height) ? left : 0;
            }
            if (met->kind == Contact::Kind::wall && rise <= 0 && grip()) return 0;
            if (met->kind == Contact::Kind::bottom && s_.velocity.z > 0) s_.velocity.z = 0;
            const double sinks = -way.z;
            const bool second_face = std::any_of(met_before.begin(), met_before.end(), [&](const Vec3& n) {
                return glm::dot(n, met->normal) < k_one_face_cosine;
            });
            way = slid(way, met->normal, met_before);
            if (met_before.empty()) way += met->normal * (k_part_from_wall * glm::length(way));
            s_.velocity = slid(s_.velocity, met->normal, met_before);
            // Between a steep face and another there is no way down left.
            wedged = s_.sliding && second_face && sinks > 0 && -way.z < k_wedged_part * sinks;
            s_.sliding |= met->kind == Contact::Kind::top;
            met_before.push_back(met->normal);
        }
        if (!met_before.empty()) pace = flat(s_.velocity);
        wedged_ = wedged;
        return wedged && land(s_.at.z) ? left : 0;
    }

    /// `v` without what goes into a face; along the crease where that would go into one met before, and
    /// nothing where a third face closes the crease.
    template <class Normals> static Vec3 slid(Vec3 v, const Vec3& normal, const Normals& before) {
        if (const double into = glm::dot(v, normal); into < 0) v -= normal * into;
        for (const Vec3& other : before) {
            if (glm::dot(v, other) >= -1e-9 * glm::length(v)) continue;
            const Vec3 crease = glm::cross(other, normal);
            const double size = glm::length(crease);
            if (size < 1e-6) return Vec3(0);
            v = crease * (glm::dot(v, crease) / (size * size));
            for (const Vec3& third : before)
                if (glm::dot(v, third) < -1e-6 * glm::length(v)) return Vec3(0);
        }
        return v;
    }

    bool land(double height) {
        if (c_.least_support_m > 0 && !well_supported(flat(s_.at), height)) {
            slip(height);
            return false;
        }
        s_.at.z = height;
        if (s_.fall_from - height > c_.survived_fall_m + tolerance::limit_m) s_.dead = true;
        s_.fall_from = height;
        s_.velocity.z = 0;
        s_.standing = true;
        return true;
    }

    /// Too little of the bottom rests on the ground: it slips off the edge, away from what carries it.
    void slip(double height) {
        s_.at.z = height;
        s_.velocity.z = 0;
        const auto support =
            support_below(world_, body(), tolerance::same_height_m, tolerance::same_height_m);
        if (!support) return;
        const Vec2 near = geometry::nearest(world_.columns()[size_t(support->column)].area, flat(s_.at));
        const Vec2 out = flat(s_.at) - near;
        const double length = glm::length(out);
        if (length > 0) s_.velocity += raised(out * (c_.gravity_down_mps2 * step_s / length), 0);
    }

    const World& world_;
    const Character& c_;
    State s_;
    Vec2 stick_;
    Vec2 given_; ///< the stick as it was given: on ladders of a Side level both axes count
    bool blocked_above_ = false;
    bool wedged_ = false;                           ///< landed between steep faces in this step
    boost::container::small_vector<Vec2, 4> walls_; ///< outward directions met in this stride
};

} // namespace

double take_off_speed(const Character& c) { return std::sqrt(2 * c.gravity_up_mps2 * c.jump_height_m); }

Body body_of(const Character& c, const State& s) {
    return {s.at, c.radius_m, s.crouched ? c.crouched_height_m : c.height_m};
}

bool is_ground(const Character& c, const Column& column) {
    return !column.tags.has(MatterTag::deadly) && column.slope_deg <= c.max_slope_deg + tolerance::limit_deg;
}

State state_at(const World& world, const Character& character, const Vec3& at) {
    if (const auto& cells = world.moving().cells) return state_on_cell(*cells, at);
    State state;
    state.at = at;
    state.fall_from = at.z;
    state.jumps_left = int(character.further_jumps);
    const Body body{at, character.radius_m - 2 * tolerance::skin_m, character.height_m};
    const auto support = support_below(world, body, character.step_height_m + tolerance::limit_m,
                                       character.step_height_m + tolerance::limit_m);
    if (support && is_ground(character, world.columns()[size_t(support->column)])) {
        state.at.z = state.fall_from = support->height;
        state.standing = true;
        state.off_ground_s = 0;
    }
    return state;
}

State step(const World& world, const Character& character, const State& state, const Input& input) {
    if (state.dead) return state;
    if (const auto& cells = world.moving().cells) return cell_step(*cells, character, state, input);
    return Mover(world, character, state, input).run(input);
}

} // namespace rubble::motion
