#include <algorithm>
#include <cmath>

#include <QCheckBox>
#include <QComboBox>

#include "base/angle.h"
#include "check/flight.h"
#include "edit/body.h"
#include "facts/pages.h"
#include "level/brush_shape.h"
#include "level/turning.h"
#include "numbers.h"
#include "shape_list.h"

namespace rubble::app {

namespace {

/// How high a brush is however it is tipped.
double height_in_level(const Brush& brush) {
    Box3 box;
    for (const Vec3& corner : corners_of(brush)) box.add(corner);
    return box.high.z - box.low.z;
}

/// What one walks on of a tipped brush: the slope of the face that covers most ground, in degrees.
double lean_deg(const Brush& brush) {
    const auto body = edit::as_body(brush);
    if (!body) return 90;
    double most = 0, deg = 90;
    for (const auto& face : body->faces) {
        Vec3 area(0); // across the face, as long as it is large (Newell)
        for (size_t i = 0; i < face.size(); ++i)
            area += glm::cross(body->corners[size_t(face[i])],
                               body->corners[size_t(face[(i + 1) % face.size()])]);
        area = body->place.direction(area);
        if (area.z <= most) continue;
        most = area.z;
        deg = degrees(std::acos(std::min(area.z / glm::length(area), 1.0)));
    }
    return deg;
}

/// What a brush's height means for the character.
QString height_meaning(const Session& session, const Brush& brush) {
    const Character c = session.character();
    const QString who = session.character_name();
    const bool tipped = brush.place.rotation.has_value();
    const double height = tipped ? height_in_level(brush) : brush.size.z;
    if (brush.effect == Effect::cut) {
        if (height >= c.height_m)
            return Facts::tr("%1 high: %2 walks through upright (%3 to spare)")
                .arg(metres_text(height), who, metres_text(height - c.height_m));
        if (c.crouched_height_m > 0 && height >= c.crouched_height_m)
            return Facts::tr("%1 high: %2 has to crouch").arg(metres_text(height), who);
        return Facts::tr("%1 high: too low for %2").arg(metres_text(height), who);
    }
    if (const double lean = tipped ? lean_deg(brush) : 0; lean > 0.05 && lean <= c.max_slope_deg + 0.1)
        return Facts::tr("%1 high, leans %2°: %3 walks up it")
            .arg(metres_text(height))
            .arg(lean, 0, 'f', 1)
            .arg(who);
    if (!tipped && (brush.shape == rubble::Shape::ramp || brush.shape == rubble::Shape::cone)) {
        // A cone rises least where its base is widest.
        const double run =
            brush.shape == rubble::Shape::ramp ? brush.size.x : std::max(brush.size.x, brush.size.y) / 2;
        const double deg = degrees(std::atan2(brush.size.z, run));
        const QString angle = QString::number(deg, 'f', 1) + "°";
        return deg <= c.max_slope_deg + 0.1 ? Facts::tr("Rises %1: %2 walks it").arg(angle, who)
                                            : Facts::tr("Rises %1: too steep for %2 (%3°)")
                                                  .arg(angle, who)
                                                  .arg(c.max_slope_deg, 0, 'f', 0);
    }
    if (brush.shape == rubble::Shape::stairs || brush.shape == rubble::Shape::curved_stairs) return {};
    if (height <= c.step_height_m + 1e-3)
        return Facts::tr("%1 high: %2 steps onto it").arg(metres_text(height), who);
    const double apex = check::highest_ledge(c);
    if (height <= apex)
        return Facts::tr("%1 high: too high to step (%2), a jump leaves %3")
            .arg(metres_text(height), metres_text(c.step_height_m), metres_text(apex - height));
    return Facts::tr("%1 high: %2 too high to jump onto")
        .arg(metres_text(height), metres_text(height - apex));
}

/// Where the brush stands in the order of fills and cuts, and what that decides.
void add_order(Page& page, const ItemId& id) {
    Session& session = page.session();
    QLabel* text = page.add_text({}, "meaning");
    text->setToolTip(Facts::tr("Ctrl+Up puts it later, Ctrl+Down earlier in its layer"));
    page.on_refresh([&session, text, id] {
        const auto& solid = session.built().solid;
        if (!solid) return;
        const size_t count = solid->brushes.size();
        size_t own = 0;
        while (own < count && solid->brushes[own]->item != id) ++own;
        if (own == count) return;
        int before = 0, cuts_after = 0;
        for (size_t i = 0; i < count; ++i) {
            const build::BrushSolid& other = *solid->brushes[i];
            if (i == own || !other.box.touches(solid->brushes[own]->box)) continue;
            before += i < own && other.effect == Effect::fill;
            cuts_after += i > own && other.effect == Effect::cut;
        }
        const QString place = Facts::tr("%1 of %2 in order").arg(own + 1).arg(count);
        const bool cut = solid->brushes[own]->effect == Effect::cut;
        const QString deed = cut ? Facts::tr("reaches %1 before it")
                                       .arg(counted(before, Facts::tr("fill"), Facts::tr("fills")))
                                 : Facts::tr("%1 after it reach it")
                                       .arg(counted(cuts_after, Facts::tr("cut"), Facts::tr("cuts")));
        text->setText((cut ? before : cuts_after) > 0 ? place + QStringLiteral(" · ") + deed : place);
    });
}

} // namespace

void fill_brush(Page& page, const ItemId& id) {
    Session& session = page.session();
    const BrushEditing editing(page, {id});
    const Brush now = editing.first();
    const bool mass = now.shape == rubble::Shape::mass;
    add_title(page, id);
    const Item* host = now.host.empty() ? nullptr : find_item(session.level(), now.host);
    page.add_text(
        host ? Facts::tr("An opening in %1: follows it, and slides along its wall")
                   .arg(QString::fromStdString(host->title()))
        : now.effect == Effect::cut
            ? Facts::tr("%1: a cut, takes matter from every fill before it").arg(shape_name(now.shape))
            : shape_name(now.shape));
    add_name(page, id);
    add_order(page, id);
    add_copies(page, id);
    if (mass)
        add_mass(page, editing.first);
    else
        add_size_fields(page, editing, [&session](const Brush& b) { return height_meaning(session, b); });
    const Frame frame = session.level().frame;
    const QStringList axes{Facts::tr("x"), Facts::tr("y"), Facts::tr("z")};
    for (int axis = 0; axis < 3; ++axis) {
        if (!is_asked(frame, axis)) continue;
        add_brush_number(page, editing,
                         {(mass ? Facts::tr("Origin, %1") : Facts::tr("Middle of base, %1")).arg(axes[axis]),
                          Facts::tr("m"), session.grid_m(),
                          [axis](const Brush& b) { return b.place.at[axis]; },
                          [axis](Brush& b, double to) { b.place.at[axis] = to; }});
    }
    add_brush_number(
        page, editing,
        {Facts::tr("Turned"), QStringLiteral("°"), session.project().turn_step_deg,
         [frame](const Brush& b) { return shown_turn_deg(b.place, frame).value_or(b.place.turn_deg); },
         [frame](Brush& b, double to) { b.place = with_shown_turn(b.place, frame, to); }});
    if (!shown_turn_deg(now.place, frame))
        page.add_button(Facts::tr("Put back onto its base"), [editing] {
            editing.change(Facts::tr("Put back onto its base"), [](Brush& b) { b.place.rotation.reset(); });
        });
    add_shape_fields(page, editing);
    add_kind_fields(page, editing);
    if (now.effect != Effect::cut || !now.host.empty()) return;
    auto* within = new QCheckBox(Facts::tr("Cuts only its own group"));
    within->setAccessibleName(within->text());
    within->setToolTip(Facts::tr("Takes matter only from what stands before it in the group it belongs to"));
    page.column().addWidget(within);
    page.on_refresh([=] { within->setChecked(editing.first().within_group); });
    QObject::connect(within, &QCheckBox::clicked, &page, [=](bool on) {
        editing.change(Facts::tr("Cuts only its own group"), [&](Brush& b) { b.within_group = on; });
    });
}

} // namespace rubble::app
