#include "tools/place_tool.h"

#include <QCoreApplication>

#include "edit/brushes.h"
#include "edit/items.h"
#include "level/order.h"
#include "tools/snap.h"
#include "view/overlay.h"

namespace rubble::app {

Vec3 PlaceTool::snapped(const Pointer& pointer) const {
    if (session_.level().frame == Frame::side) {
        // Near the ground it stands on it; higher up it hangs in the air.
        constexpr double k_near_ground_m = 1;
        const double grid = snap_grid(session_, pointer) / 2;
        const Vec3 at{edit::snapped(pointer.ground.x, grid), 0, edit::snapped(pointer.ground.z, grid)};
        const Vec3 below = ground_below(session_, {at.x, 0, pointer.ground.z});
        return pointer.ground.z - below.z <= k_near_ground_m ? below : at;
    }
    if (pointer.hit)
        if (const auto foot = foot_of_wall(session_, *pointer.hit)) return *foot;
    Vec3 at = pointer.ground;
    const double grid = snap_grid(session_, pointer) / 2;
    at = {edit::snapped(at.x, grid), edit::snapped(at.y, grid), at.z};
    return at;
}

void PlaceTool::press(const Pointer& pointer) {
    if (seen_from_the_side(session_, pointer)) return;
    const Level& level = session_.level();
    Item item{edit::fresh_id(level, kind_of(kind_).id_prefix),
              {},
              false,
              Element{kind_, snapped(pointer), 0, {}},
              {}};
    size_t count = 1;
    for (const Item* other : elements_of(level)) count += other->element()->kind == kind_;
    item.name = kind_;
    item.name[0] = char(std::toupper(static_cast<unsigned char>(kind_[0])));
    if (count > 1) item.name += " " + std::to_string(count);
    session_.apply(edit::with_item(level, session_.layer(), item),
                   QCoreApplication::translate("PlaceTool", "Place"));
    session_.select({item.id});
}

void PlaceTool::move(const Pointer& pointer) { hover_ = snapped(pointer); }

void PlaceTool::paint(QPainter& painter, const Camera& camera) {
    if (const auto at = camera.to_screen(hover_)) draw_element(painter, *at, kind_, true);
}

QString PlaceTool::hint() const {
    return QCoreApplication::translate("PlaceTool", "Click where it should stand");
}

} // namespace rubble::app
