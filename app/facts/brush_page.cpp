#include <algorithm>
#include <cmath>

#include <QCheckBox>
#include <QComboBox>

#include "check/flight.h"
#include "edit/brushes.h"
#include "edit/items.h"
#include "edit/shapes.h"
#include "facts/pages.h"
#include "level/brush_shape.h"
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
    const double apex = check::highest_rise(c);
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

/// Why a brush stays as it was.
QString refusal(const std::string& problem) {
    if (problem == "size") return Facts::tr("That does not fit: a size must lie between 0.00001 and 1000 m");
    if (problem == "steps") return Facts::tr("That does not fit: there must be 1 to 200 steps");
    if (problem == "angle_deg") return Facts::tr("That does not fit: each step must turn by 0.5° to 120°");
    if (problem == "thickness_m")
        return Facts::tr("That does not fit: the thickness leaves no opening, or is none");
    if (problem == "shell_m") return Facts::tr("That does not fit: such walls leave no hollow in this shape");
    if (problem == "cells") return Facts::tr("That does not fit: a mass has at least one cell");
    if (problem == "points") return Facts::tr("That does not fit: the outline would cross itself");
    return Facts::tr("That does not fit");
}

} // namespace

void fill_brush(Page& page, const ItemId& id) {
    Session& session = page.session();
    const std::function<Brush()> brush = [&session, id]() -> Brush {
        const Item* item = find_item(session.level(), id);
        return item && item->brush() ? *item->brush() : Brush{};
    };
    const auto change = [&page, &session, id](const QString& what, const std::function<void(Brush&)>& edit) {
        const Item* item = find_item(session.stored_level(), id);
        if (!item || !item->brush()) return;
        Item copy = *item;
        Brush& changed = std::get<Brush>(copy.body);
        edit(changed);
        if (const std::string problem = problem_of(changed); !problem.empty()) {
            emit session.message(refusal(problem));
            page.refresh();
            return;
        }
        changed = measured(changed);
        session.apply(edit::with_changed(session.stored_level(), copy), what);
    };
    const Brush now = brush();
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
    const double grid = session.grid_m();
    const QStringList axes{Facts::tr("x"), Facts::tr("y"), Facts::tr("z")};
    const QStringList sizes{Facts::tr("Length"), Facts::tr("Width"), Facts::tr("Height")};
    if (now.shape == rubble::Shape::mass) add_mass(page, brush);
    for (int axis = 0; axis < 3 && now.shape != rubble::Shape::mass; ++axis)
        page.add_number(
            {sizes[axis], Facts::tr("m"), grid, [=] { return brush().size[axis]; },
             [=](double to) {
                 change(Facts::tr("Size"), [&](Brush& b) { b = to > 0 ? edit::with_size(b, axis, to) : b; });
             },
             axis == 2
                 ? std::function<QString()>([&session, brush] { return height_meaning(session, brush()); })
                 : std::function<QString()>{}});
    for (int axis = 0; axis < 3; ++axis)
        page.add_number(
            {(now.shape == rubble::Shape::mass ? Facts::tr("Origin, %1") : Facts::tr("Middle of base, %1"))
                 .arg(axes[axis]),
             Facts::tr("m"), grid, [=] { return brush().place.at[axis]; },
             [=](double to) { change(Facts::tr("Move"), [&](Brush& b) { b.place.at[axis] = to; }); }});
    page.add_number({Facts::tr("Turned"), QStringLiteral("°"), session.project().turn_step_deg,
                     [=] { return brush().place.turn_deg; },
                     [=](double to) {
                         change(Facts::tr("Turn"),
                                [&](Brush& b) { b.place.turn_deg = to, b.place.rotation.reset(); });
                     }});
    if (now.place.rotation)
        page.add_button(Facts::tr("Set upright"), [=] {
            change(Facts::tr("Set upright"), [](Brush& b) { b.place.rotation.reset(); });
        });

    add_shape_fields(page, {brush, change});
    auto* row = new QHBoxLayout;
    auto* shape = new QComboBox;
    shape->setAccessibleName(Facts::tr("Shape"));
    for (const ShapeEntry& entry : all_shapes()) shape->addItem(shape_name(entry.shape), int(entry.shape));
    shape->addItem(shape_name(rubble::Shape::body), int(rubble::Shape::body));
    if (now.shape == rubble::Shape::mass)
        shape->addItem(shape_name(rubble::Shape::mass), int(rubble::Shape::mass));
    auto* effect = new QComboBox;
    effect->setAccessibleName(Facts::tr("Effect"));
    effect->addItems({Facts::tr("Fill"), Facts::tr("Cut")});
    row->addWidget(shape);
    row->addWidget(effect);
    page.column().addLayout(row);
    page.on_refresh([=] {
        shape->setCurrentIndex(shape->findData(int(brush().shape)));
        effect->setCurrentIndex(brush().effect == Effect::cut ? 1 : 0);
    });
    QObject::connect(shape, &QComboBox::activated, &page, [=, &session](int i) {
        const auto wanted = rubble::Shape(shape->itemData(i).toInt());
        change(Facts::tr("Shape"), [&](Brush& b) { b = edit::with_shape(b, wanted, session.character()); });
        if (brush().shape != wanted)
            emit session.message(Facts::tr("This shape cannot become a body: its surface touches itself"));
    });
    QObject::connect(effect, &QComboBox::activated, &page, [=](int i) {
        change(Facts::tr("Effect"), [&](Brush& b) { b.effect = i == 1 ? Effect::cut : Effect::fill; });
    });
    if (now.effect == Effect::cut && now.host.empty()) {
        auto* within = new QCheckBox(Facts::tr("Cuts only its own group"));
        within->setAccessibleName(within->text());
        within->setToolTip(
            Facts::tr("Takes matter only from what stands before it in the group it belongs to"));
        page.column().addWidget(within);
        page.on_refresh([=] { within->setChecked(brush().within_group); });
        QObject::connect(within, &QCheckBox::clicked, &page, [=](bool on) {
            change(Facts::tr("Cuts only its own group"), [&](Brush& b) { b.within_group = on; });
        });
    }
}

} // namespace rubble::app
