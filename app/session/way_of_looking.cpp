#include "session/way_of_looking.h"

namespace rubble::app {

void WayOfLooking::go_to(Stage stage) {
    if (stage == stage_) return;
    stage_ = stage;
    emit stageChanged();
}

void WayOfLooking::set_snapping(const Snapping& snapping) {
    if (snapping == snapping_) return;
    snapping_ = snapping;
    emit snappingChanged();
}

void WayOfLooking::set_plane(std::optional<edit::WorkingPlane> plane) {
    plane_ = std::move(plane);
    emit planeChanged();
}

} // namespace rubble::app
