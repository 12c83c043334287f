#include "session/selection.h"

#include <algorithm>

#include "edit/body.h"

namespace rubble::app {

Selection::Selection(const Documents& documents, QObject* parent) : QObject(parent), documents_(documents) {}

const Item* Selection::item() const {
    return ids_.size() == 1 ? find_item(documents_.level(), ids_[0]) : nullptr;
}

const Brush* Selection::brush() const {
    const Item* one = item();
    return one ? one->brush() : nullptr;
}

void Selection::clear() { ids_.clear(), faces_.clear(); }

void Selection::forget_lost() {
    std::erase_if(ids_, [&](const ItemId& id) { return !find_item(documents_.level(), id); });
    std::erase_if(faces_,
                  [&](const edit::FaceRef& face) { return !find_item(documents_.level(), face.item); });
}

void Selection::pick_faces(std::vector<edit::FaceRef> faces) {
    std::erase_if(faces,
                  [&](const edit::FaceRef& face) { return !find_item(documents_.level(), face.item); });
    if (faces == faces_) return;
    std::vector<ItemId> ids;
    for (const edit::FaceRef& face : faces)
        if (std::find(ids.begin(), ids.end(), face.item) == ids.end()) ids.push_back(face.item);
    ids_ = std::move(ids);
    area_.reset(), picks_ = {};
    faces_ = std::move(faces);
    emit changed();
}

void Selection::select(std::vector<ItemId> ids) {
    std::erase_if(ids, [&](const ItemId& id) { return !find_item(documents_.level(), id); });
    if (ids == ids_) return;
    ids_ = std::move(ids);
    faces_.clear();
    area_.reset();
    picks_ = {};
    emit changed();
}

std::set<int> Picks::all_points(const FaceMesh& mesh) const {
    std::set<int> out = points;
    for (const edit::MeshEdge& edge : edges) out.insert({edge.a, edge.b});
    for (const int face : faces) out.insert(mesh.faces[size_t(face)].begin(), mesh.faces[size_t(face)].end());
    return out;
}

const Brush* Selection::body() const {
    const Brush* brush = this->brush();
    if (!brush) return nullptr;
    if (brush->shape == Shape::mass) return nullptr; // has areas, not points
    if (!body_made_of_ || !(*body_made_of_ == *brush)) body_made_of_ = *brush, body_ = edit::as_body(*brush);
    return body_ ? &*body_ : nullptr;
}

const Picks& Selection::picks() const {
    static const Picks none;
    if (picks_.empty()) return none;
    const Brush* brush = body();
    return brush && edit::mesh_of(*brush) == picked_of_ ? picks_ : none;
}

void Selection::pick(Picks picks) {
    const Brush* brush = body();
    FaceMesh mesh = brush ? edit::mesh_of(*brush) : FaceMesh{};
    if (picks == picks_ && mesh == picked_of_) return;
    picks_ = brush ? std::move(picks) : Picks{};
    picked_of_ = std::move(mesh);
    emit picksChanged();
}

const edit::MassArea* Selection::area() const {
    const Brush* brush = this->brush();
    if (!area_ || !brush || brush->shape != Shape::mass) return nullptr;
    if (!(brush->cells == area_of_)) {
        if (brush->cells.cell_m != area_of_.cell_m)
            area_.reset();
        else
            area_ = edit::refreshed(brush->cells, *area_);
        area_of_ = brush->cells;
    }
    return area_ ? &*area_ : nullptr;
}

void Selection::mark(std::optional<edit::MassArea> area) {
    const Brush* brush = this->brush();
    if (!brush || brush->shape != Shape::mass || (area && area->levels.empty())) area.reset();
    if (area) area_of_ = brush->cells;
    if (area == area_) return;
    area_ = std::move(area);
    emit picksChanged();
}

bool Selection::warns_first(const MassGrid& cells) {
    if (cells == warned_of_) return false;
    warned_of_ = cells;
    return true;
}

} // namespace rubble::app
