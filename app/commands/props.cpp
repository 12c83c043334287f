#include "commands/props.h"

#include "build/matter_met.h"
#include "edit/items.h"
#include "edit/props.h"
#include "kits/strew_dialog.h"
#include "level/face_name.h"

namespace rubble::app {

namespace {

/// The picked faces that look upward, in the level's axes.
std::vector<std::vector<Vec3>> picked_ground(const Session& session) {
    constexpr double k_upward = 0.2;
    std::vector<std::vector<Vec3>> out;
    for (const edit::FaceRef& face : session.selected_items().faces()) {
        const Item* item = find_item(session.level(), face.item);
        if (!item || !item->brush()) continue;
        for (const NamedFace& one : named_faces(*item->brush())) {
            if (one.side.name != face.face || one.corners.size() < 3) continue;
            std::vector<Vec3> loop;
            for (const Vec3& p : one.corners) loop.push_back(item->brush()->place.to_level(p));
            const Vec3 normal = glm::cross(loop[1] - loop[0], loop[2] - loop[0]);
            if (normal.z > k_upward * glm::length(normal)) out.push_back(std::move(loop));
        }
    }
    return out;
}

double area_m2(const std::vector<std::vector<Vec3>>& faces) {
    double sum = 0;
    for (const auto& loop : faces)
        for (size_t i = 1; i + 1 < loop.size(); ++i)
            sum += glm::cross(loop[i] - loop[0], loop[i + 1] - loop[0]).z / 2;
    return sum;
}

/// The props as one group at the end of the layer that is worked in.
Level with_strewn(const Session& session, const std::vector<PlacedPiece>& props, ItemId& group_id) {
    Level level = session.stored_level();
    Group group;
    for (const PlacedPiece& prop : props) {
        Item item;
        item.id = {"strewn_" + std::to_string(group.items.size() + 1)};
        item.body = prop;
        group.items.push_back(ItemPtr(std::move(item)));
    }
    Item item;
    item.id = {"strewn"};
    item.name = Session::tr("Strewn props").toStdString();
    item.body = std::move(group);
    item = edit::with_fresh_ids(level, item);
    group_id = item.id;
    return edit::with_item(level, session.layer(), std::move(item));
}

} // namespace

void set_props_down(Session& session) {
    const auto& solid = session.built().solid;
    if (!solid) return;
    const std::vector<ItemId>& ids = session.selection();
    const build::MatterMet ground(*solid, {ids.begin(), ids.end()});
    Level next = edit::with_props_set_down(
        session.stored_level(), ids, [&](const Vec3& from) { return ground.below(from); },
        session.looking().leans());
    if (next == session.stored_level())
        return emit session.message(Session::tr("Select props that hang over something first"));
    session.apply(std::move(next), Session::tr("Set down"));
}

void strew_props(Session& session, QWidget& window) {
    const auto faces = picked_ground(session);
    const auto& solid = session.built().solid;
    if (faces.empty() || !solid)
        return emit session.message(Session::tr("Pick faces to strew over first: in Dress, click floors"));
    const auto& kits = session.project().kits;
    const bool any = std::any_of(kits.begin(), kits.end(), [](const auto& kit) {
        return std::any_of(kit->pieces.begin(), kit->pieces.end(),
                           [](const auto& piece) { return piece->seat == PieceSeat::free; });
    });
    if (!any)
        return emit session.message(
            Session::tr("The project has no props yet: bring models in, and let them sit freely"));
    const build::MatterMet ground(*solid);
    StrewDialog dialog(session.project(), session.looking().kit(), session.looking().piece(), area_m2(faces),
                       &window);
    ItemId group;
    std::vector<PlacedPiece> props;
    const auto show = [&] {
        props = edit::strewn(session.project(), dialog.strewing(), faces,
                             [&](const Vec3& from) { return ground.below(from); });
        dialog.show_count(int(props.size()));
        if (!props.empty())
            session.preview(with_strewn(session, props, group));
        else
            session.drop_preview();
    };
    QObject::connect(&dialog, &StrewDialog::changed, &dialog, show);
    show();
    const bool wanted = dialog.exec() == QDialog::Accepted && !props.empty();
    session.drop_preview();
    if (!wanted) return;
    Level level = with_strewn(session, props, group);
    session.apply(std::move(level), Session::tr("Strew props"));
    session.select({group});
}

} // namespace rubble::app
