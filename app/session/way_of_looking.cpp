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
    if (sheet != sheet_) weights_.clear();
    stamp_ = std::move(stamp), sheet_ = sheet, ground_ = -1;
    emit stampChanged();
}

void WayOfLooking::set_strews(bool on) {
    strews_ = on;
    emit stampChanged();
}

double WayOfLooking::weight_of(int tile) const {
    const auto found = weights_.find(tile);
    return found == weights_.end() ? 1 : found->second;
}

void WayOfLooking::set_weight(int tile, double weight) { weights_[tile] = std::max(weight, 0.0); }

edit::TileMix WayOfLooking::mix() const {
    edit::TileMix mix;
    for (const Tile& tile : stamp_.tiles)
        if (!tile.empty()) mix.parts.push_back({tile, weight_of(tile.number())});
    return mix;
}

void WayOfLooking::set_piece(const std::string& kit, const std::string& piece) {
    if (kit == kit_ && piece == piece_) return;
    kit_ = kit, piece_ = piece;
    emit pieceChanged();
}

void WayOfLooking::set_fitting(std::vector<std::string> pieces) {
    if (pieces == fitting_) return;
    fitting_ = std::move(pieces);
    emit fittingChanged();
}

void WayOfLooking::set_assembly(const std::string& file) {
    if (file == assembly_) return;
    assembly_ = file;
    emit pieceChanged();
}

void WayOfLooking::set_module_part(double part) {
    if (part == module_part_) return;
    module_part_ = part;
    emit pieceChanged();
}

} // namespace rubble::app
