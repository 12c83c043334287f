#include "play/walker.h"

#include <algorithm>
#include <cmath>

#include <Qt>

#include "base/angle.h"
#include "motion/freely/fixtures.h"
#include "play/follow_camera.h"

namespace rubble::app {

namespace {

/// Longest time that is made up for after a hitch (seconds).
constexpr double k_most_owed_s = 0.1;
/// How fast the eye follows a change of the feet's height (1/s).
constexpr double k_ease_rate = 14;

} // namespace

Walker::Walker(std::shared_ptr<const motion::World> world, const Character& character, const Vec3& at,
               double heading_deg)
    : world_(std::move(world)),
      character_(character),
      start_(at),
      recorder_(*world_, character_, motion::state_at(*world_, character_, at)),
      heading_deg_(heading_deg),
      eased_z_(recorder_.state().at.z) {}

void Walker::look(double heading_by, double tilt_by) {
    heading_deg_ = std::remainder(heading_deg_ + heading_by, 360.0);
    tilt_deg_ = std::clamp(tilt_deg_ + tilt_by, -80.0, 85.0);
}

/// A moment after it died the figure is back at the last checkpoint, else where the walk began.
void Walker::put_back_when_dead(double seconds) {
    constexpr double k_seen_dead_s = 0.8;
    for (const Vec3& place : checkpoints_)
        if (motion::is_at(*world_, character_, state(), place)) back_to_ = place;
    const bool acts = world_->moving().puzzle || world_->elements() || !checkpoints_.empty();
    dead_s_ = state().dead && acts ? dead_s_ + seconds : 0;
    if (dead_s_ < k_seen_dead_s) return;
    recorder_ = motion::Recorder(*world_, character_,
                                 motion::put_back(*world_, character_, play(), back_to_.value_or(start_)));
    whole_ = false, dead_s_ = 0;
    eased_z_ = state().at.z;
}

bool Walker::at_goal() const {
    return std::any_of(goals_.begin(), goals_.end(),
                       [&](const Vec3& goal) { return motion::is_at(*world_, character_, state(), goal); });
}

std::optional<double> Walker::seconds_left() const {
    return limit_s_ > 0 ? std::optional(std::max(limit_s_ - spent_s_, 0.0)) : std::nullopt;
}

std::optional<int> Walker::steps_left() const {
    return limit_steps_ > 0 ? std::optional(std::max(limit_steps_ - spent_steps_, 0)) : std::nullopt;
}

/// A moment after the time was up the walk begins again.
void Walker::begin_anew_when_out_of_time(double seconds) {
    constexpr double k_seen_late_s = 0.8;
    arrived_ = arrived_ || at_goal();
    const bool late = !arrived_ && (seconds_left().value_or(1) <= 0 || steps_left().value_or(1) <= 0);
    out_of_time_s_ = late ? out_of_time_s_ + seconds : 0;
    if (out_of_time_s_ >= k_seen_late_s) restart();
}

void Walker::restart() {
    spent_s_ = out_of_time_s_ = 0, spent_steps_ = 0, arrived_ = false;
    back_to_.reset(), whole_ = true, dead_s_ = 0;
    recorder_ = motion::Recorder(*world_, character_, motion::state_at(*world_, character_, start_));
    eased_z_ = recorder_.state().at.z;
}

void Walker::go_back(double seconds) {
    const motion::Recording whole = recording();
    if (!whole_) return restart(); // what was before is not kept
    int left = std::max(0, whole.steps() - int(std::lround(seconds / motion::step_s)));
    restart();
    for (const motion::Recording::Run& run : whole.runs)
        for (int i = 0; i < run.steps && left > 0; ++i, --left) make_step(run.input);
    eased_z_ = state().at.z;
}

motion::Input Walker::input() const {
    auto held = [&](std::initializer_list<int> keys) {
        for (int key : keys)
            if (keys_.contains(key)) return true;
        return false;
    };
    const Frame frame = world_->moving().frame;
    const auto [c, s] =
        cos_sin(frame == Frame::space ? heading_deg_ : 90); // flat on, up is up in the picture
    const auto& fixtures = world_->fixtures();
    const bool on_ladder = fixtures && fixtures->ladder_at(state().at, character_.radius_m);
    const Vec2 ahead = frame == Frame::side && !on_ladder ? Vec2(0) : Vec2(c, s), right(s, -c);
    motion::Input input;
    if (held({Qt::Key_W, Qt::Key_Up})) input.stick += ahead;
    if (held({Qt::Key_S, Qt::Key_Down})) input.stick -= ahead;
    if (held({Qt::Key_D, Qt::Key_Right})) input.stick += right;
    if (held({Qt::Key_A, Qt::Key_Left})) input.stick -= right;
    if (const double size = glm::length(input.stick); size > 1) input.stick /= size;
    // In a Side level up is for jumping and down for ducking, but on a ladder.
    const bool also = frame == Frame::side && !on_ladder;
    input.jump = held({Qt::Key_Space}) || (also && held({Qt::Key_W, Qt::Key_Up}));
    input.crouch = held({Qt::Key_C, Qt::Key_Control}) || (also && held({Qt::Key_S, Qt::Key_Down}));
    input.use = held({Qt::Key_E});
    return input;
}

/// One step, which counts against the limits of the level.
void Walker::make_step(const motion::Input& input) {
    const motion::CellState before = play().puzzle.cells;
    recorder_.advance(input);
    spent_s_ += motion::step_s;
    if (world_->moving().puzzle && before != play().puzzle.cells) ++spent_steps_;
}

void Walker::advance(double seconds) {
    put_back_when_dead(seconds);
    begin_anew_when_out_of_time(seconds);
    owed_s_ = std::min(owed_s_ + seconds, k_most_owed_s);
    while (owed_s_ >= motion::step_s) {
        make_step(input());
        owed_s_ -= motion::step_s;
        const double z = state().at.z;
        eased_z_ =
            state().standing ? eased_z_ + (z - eased_z_) * std::min(1.0, k_ease_rate * motion::step_s) : z;
        if (std::abs(eased_z_ - z) > 0.6) eased_z_ = z;
    }
}

Camera Walker::camera(QSizeF size) const {
    const double crouch = state().crouched ? character_.crouched_height_m / character_.height_m : 1;
    const Vec3 eye =
        Vec3(state().at.x, state().at.y, eased_z_) + Vec3(0, 0, character_.eye_height_m * crouch);
    if (const Frame frame = world_->moving().frame; frame != Frame::space) {
        Camera camera;
        camera.kind = frame == Frame::side ? Camera::Kind::front : Camera::Kind::above;
        camera.size = size;
        camera.target = eye;
        // As much of the level as ten figures are tall.
        camera.distance_m *=
            10 * character_.height_m / std::max(size.height(), 1.0) / camera.metres_per_pixel(eye);
        return camera;
    }
    if (first_person_)
        return Camera::first_person(eye, heading_deg_, tilt_deg_, character_.view_angle_deg, size);
    return camera_behind(*world_, character_, eye, heading_deg_, tilt_deg_, size);
}

} // namespace rubble::app
