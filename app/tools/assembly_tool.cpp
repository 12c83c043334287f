#include "tools/assembly_tool.h"

#include <cmath>

#include "edit/assemblies.h"
#include "edit/brushes.h"
#include "level/assemblies/resolved.h"
#include "text.h"
#include "theme.h"
#include "tools/snap.h"
#include "view/overlay.h"

namespace rubble::app {

Vec3 AssemblyTool::snapped(const Pointer& pointer) const {
    const double grid = snap_grid(session_, pointer);
    Vec3 at = pointer.ground;
    if (session_.level().frame == Frame::side)
        return {edit::snapped(at.x, grid), 0, edit::snapped(at.z, grid)};
    return {edit::snapped(at.x, grid), edit::snapped(at.y, grid), at.z};
}

void AssemblyTool::press(const Pointer& pointer) {
    if (session_.level().frame == Frame::space && seen_from_the_side(session_, pointer)) return;
    hover_ = snapped(pointer);
    const std::string& file = session_.looking().assembly();
    if (!find_assembly(session_.project(), file))
        return session_.documents().show_message(tr("Choose an assembly in the tray first"));
    // Within an assembly that is open by itself it must not come to hold itself.
    const OpenLevel& open = session_.document().levels[session_.documents().level_index()];
    if (!open.assembly.empty())
        if (const auto ring = ring_through(session_.project(), open.assembly, file); !ring.empty()) {
            QStringList chain;
            for (const std::string& name : ring) chain << QString::fromStdString(name);
            return session_.documents().show_message(
                tr("It would be within itself: %1").arg(chain.join(QStringLiteral(" > "))));
        }
    ItemId id;
    Level level = edit::with_placed(session_.project(), session_.stored_level(), session_.layer(), file,
                                    hover_, turn_deg_, id);
    session_.apply(std::move(level), tr("Place an assembly"));
    session_.select({id});
}

void AssemblyTool::move(const Pointer& pointer) { hover_ = snapped(pointer); }

bool AssemblyTool::turn_quarters(int quarters) {
    turn_deg_ = std::remainder(turn_deg_ + 90 * quarters, 360.0);
    return true;
}

void AssemblyTool::paint(QPainter& painter, const Camera& camera) {
    const auto assembly = find_assembly(session_.project(), session_.looking().assembly());
    if (!assembly) return;
    PlacedAssembly placed;
    placed.assembly = assembly;
    placed.place.at = hover_, placed.place.turn_deg = turn_deg_;
    painter.setPen(QPen(color::accent, 1.5));
    draw_box(painter, camera, box_of(with_members_at({"hover"}, std::move(placed))));
}

QString AssemblyTool::hint() const {
    if (session_.project().assemblies.empty())
        return tr("Select items and make an assembly of them: it is used in many places and changed once");
    return tr("Click where it should stand; Space turns it");
}

} // namespace rubble::app
