#pragma once

#include <memory>
#include <optional>
#include <set>

#include "motion/recording.h"
#include "view/camera.h"

namespace rubble::app {

/// The character walking in a level by hand: keys to inputs, time to steps, and what was done as a
/// recording. Knows no widget.
class Walker {
public:
    Walker(std::shared_ptr<const motion::World> world, const Character& character, const Vec3& at,
           double heading_deg);

    void press(int key) { keys_.insert(key); }
    void release(int key) { keys_.erase(key); }
    void look(double heading_by_deg, double tilt_by_deg);
    void advance(double seconds);
    /// Where the figure is put back to when it dies, if it was there; without any it stays where it died.
    void set_checkpoints(std::vector<Vec3> places) { checkpoints_ = std::move(places); }
    /// Within what time, and by cells in how many steps, a goal has to be reached (0: any); else the walk
    /// begins anew.
    void set_limits(std::vector<Vec3> goals, double seconds, int steps) {
        goals_ = std::move(goals), limit_s_ = seconds, limit_steps_ = steps;
    }
    bool at_goal() const;
    /// What is left of the time, and of the steps; nothing where there is no limit.
    std::optional<double> seconds_left() const;
    std::optional<int> steps_left() const;
    void restart();
    /// As it was some time before.
    void go_back(double seconds);
    void toggle_first_person() { first_person_ = !first_person_; }
    bool first_person() const { return first_person_; }

    const motion::World& world() const { return *world_; }
    const motion::PlayState& play() const { return recorder_.play(); }
    const motion::State& state() const { return recorder_.state(); }
    /// Whether the recording is all of the walk: else the figure was put back meanwhile.
    bool is_whole() const { return whole_; }
    const motion::Recording& recording() const { return recorder_.recording(); }
    const Vec3& start() const { return start_; }
    double heading_deg() const { return heading_deg_; }
    Camera camera(QSizeF size) const;

private:
    motion::Input input() const;
    void make_step(const motion::Input& input);
    std::shared_ptr<const motion::World> world_;
    Character character_;
    Vec3 start_;
    motion::Recorder recorder_;
    void put_back_when_dead(double seconds);

    void begin_anew_when_out_of_time(double seconds);

    std::vector<Vec3> goals_;
    double limit_s_ = 0, spent_s_ = 0, out_of_time_s_ = 0;
    int limit_steps_ = 0, spent_steps_ = 0;
    bool arrived_ = false; ///< it was at a goal in time
    std::vector<Vec3> checkpoints_;
    std::optional<Vec3> back_to_; ///< the last one that it was at
    double dead_s_ = 0;
    bool whole_ = true;
    std::set<int> keys_;
    double heading_deg_, tilt_deg_ = 8;
    double owed_s_ = 0;
    double eased_z_; ///< the eye follows steps and treads softly; the body does not
    bool first_person_ = false;
};

} // namespace rubble::app
