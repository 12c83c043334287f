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

void WayOfLooking::set_layer(int layer) {
    if (layer == layer_) return;
    layer_ = layer;
    emit layerChanged();
}

void WayOfLooking::set_ground(int ground) {
    ground_ = ground;
    emit stampChanged();
}

void WayOfLooking::set_stamp(edit::Stamp stamp, const std::string& sheet) {
    stamp_ = std::move(stamp), sheet_ = sheet, ground_ = -1;
    emit stampChanged();
}

} // namespace rubble::app
