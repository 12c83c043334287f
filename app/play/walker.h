#pragma once

#include <memory>
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
    void restart();
    void toggle_first_person() { first_person_ = !first_person_; }
    bool first_person() const { return first_person_; }

    const motion::State& state() const { return recorder_.state(); }
    const motion::Recording& recording() const { return recorder_.recording(); }
    const Vec3& start() const { return start_; }
    double heading_deg() const { return heading_deg_; }
    Camera camera(QSizeF size) const;

private:
    motion::Input input() const;
    std::shared_ptr<const motion::World> world_;
    Character character_;
    Vec3 start_;
    motion::Recorder recorder_;
    std::set<int> keys_;
    double heading_deg_, tilt_deg_ = 8;
    double owed_s_ = 0;
    double eased_z_; ///< the eye follows steps and treads softly; the body does not
    bool first_person_ = false;
};

} // namespace rubble::app
