#include <algorithm>
#include <cmath>

#include <QComboBox>

#include "base/angle.h"
#include "check/flight.h"
#include "facts/pages.h"
#include "numbers.h"
#include "shape_list.h"

namespace rubble::app {

namespace {

/// Whether the character walks stairs, told from the height of their steps.
QString steps_meaning(const Session& session, const Brush& brush) {
    const Character c = session.character();
    const QString who = session.character_name();
    const double rise = brush.size.z / brush.steps;
    const QString each = Facts::tr("Each %1 high").arg(metres_text(rise));
    if (rise <= c.step_height_m + 1e-3) return Facts::tr("%1: %2 walks them").arg(each, who);
    const double apex = check::highest_ledge(c);
    return rise <= apex ? Facts::tr("%1: too high to step (%2), %3 has to jump")
                              .arg(each, metres_text(c.step_height_m), who)
                        : Facts::tr("%1: too high for %2").arg(each, who);
}

/// Whether the character gets through an arch.
QString opening_meaning(const Session& session, const Brush& brush) {
    const Character c = session.character();
    const QString who = session.character_name();
    const double width = brush.size.x - 2 * brush.thickness_m, height = brush.size.z - brush.thickness_m;
    const QString size = Facts::tr("Opening %1 × %2").arg(metres_text(width), metres_text(height));
    if (width < 2 * c.radius_m) return Facts::tr("%1: too narrow for %2").arg(size, who);
    if (height >= c.height_m) return Facts::tr("%1: %2 walks through upright").arg(size, who);
    if (c.crouched_height_m > 0 && height >= c.crouched_height_m)
        return Facts::tr("%1: %2 has to crouch").arg(size, who);
    return Facts::tr("%1: too low for %2").arg(size, who);
}

/// Whether somebody gets through a pipe.
QString bore_meaning(const Session& session, const Brush& brush) {
    if (brush.thickness_m <= 0) return {};
    const Character c = session.character();
    const double bore = brush.size.z - 2 * brush.thickness_m;
    const QString who = session.character_name(), text = Facts::tr("Bore %1 wide").arg(metres_text(bore));
    if (bore >= c.height_m) return Facts::tr("%1: %2 walks through upright").arg(text, who);
    if (c.crouched_height_m > 0 && bore >= c.crouched_height_m)
        return Facts::tr("%1: %2 has to crouch").arg(text, who);
    return Facts::tr("%1: too low for %2").arg(text, who);
}

/// Whether somebody stands in a shell.
QString hollow_meaning(const Session& session, const Brush& brush) {
    if (brush.shell_m <= 0) return {};
    const Character c = session.character();
    double inside = brush.size.z;
    for (const BoxSide side : {BoxSide::bottom, BoxSide::top})
        if (!brush.open_sides.contains(side)) inside -= brush.shell_m;
    const QString who = session.character_name(), room = Facts::tr("Inside %1 high").arg(metres_text(inside));
    if (inside >= c.height_m)
        return Facts::tr("%1: %2 stands, %3 to spare").arg(room, who, metres_text(inside - c.height_m));
    if (c.crouched_height_m > 0 && inside >= c.crouched_height_m)
        return Facts::tr("%1: %2 has to crouch").arg(room, who);
    return Facts::tr("%1: too low for %2").arg(room, who);
}

/// The thickness of a shell's walls, and which of its sides are open.
void add_shell_fields(Page& page, const BrushEditing& editing) {
    Session& session = page.session();
    add_brush_number(page, editing,
                     {Facts::tr("Shell (0: solid)"), Facts::tr("m"),
                      editing.first().shell_m > 0 ? 0.05 : session.project().measures.wall_m,
                      [](const Brush& b) { return b.shell_m; },
                      [](Brush& b, double to) { b.shell_m = std::max(to, 0.0); },
                      [&session](const Brush& b) { return hollow_meaning(session, b); }});
    if (editing.first().shell_m <= 0) return;
    page.add_text(Facts::tr("Open sides"));
    auto* grid = new QGridLayout;
    grid->setSpacing(4);
    const QStringList names{Facts::tr("Left"), Facts::tr("Right"),  Facts::tr("Near"),
                            Facts::tr("Away"), Facts::tr("Bottom"), Facts::tr("Top")};
    for (int i = 0; i < box_sides; ++i) {
        auto* button = new QPushButton(names[i]);
        button->setCheckable(true);
        button->setAccessibleName(Facts::tr("Open: %1").arg(names[i]));
        grid->addWidget(button, i / 3, i % 3);
        const BoxSide side = BoxSide(i);
        page.on_refresh([=] { button->setChecked(editing.first().open_sides.contains(side)); });
        QObject::connect(button, &QPushButton::clicked, &page, [side, editing](bool open) {
            editing.change(Facts::tr("Open sides"), [&](Brush& b) {
                if (open)
                    b.open_sides.insert(side);
                else
                    b.open_sides.erase(side);
            });
        });
    }
    page.column().addLayout(grid);
}

void add_arch_kind(Page& page, const BrushEditing& editing) {
    auto* kind = new QComboBox;
    kind->setAccessibleName(Facts::tr("Kind of arch"));
    kind->addItems({Facts::tr("Round"), Facts::tr("Pointed"), Facts::tr("Flat")});
    page.column().addWidget(kind);
    page.on_refresh([=] { kind->setCurrentIndex(int(editing.first().arch)); });
    QObject::connect(kind, &QComboBox::activated, &page, [editing](int i) {
        editing.change(Facts::tr("Kind of arch"), [&](Brush& b) { b.arch = ArchKind(i); });
    });
}

using Meaning = QString (*)(const Session&, const Brush&);

/// What a number means for the character; null where nothing is to be said.
Meaning meaning_of(const Brush& brush, const ShapeNumber& number) {
    const bool stairs = brush.shape == rubble::Shape::stairs || brush.shape == rubble::Shape::curved_stairs;
    if (number.count == &Brush::steps && stairs) return steps_meaning;
    if (number.measure != &Brush::thickness_m) return nullptr;
    if (brush.shape == rubble::Shape::arch) return opening_meaning;
    return brush.shape == rubble::Shape::pipe ? bore_meaning : nullptr;
}

void add_shape_number(Page& page, const BrushEditing& editing, const ShapeNumber& number) {
    const Session& session = page.session();
    const Brush now = editing.first();
    const ShapeNumberText text = shape_number_text(now.shape, number);
    BrushNumber field;
    field.name = text.name, field.unit = text.unit, field.step = text.step;
    if (const auto count = number.count) {
        field.get = [count](const Brush& b) { return double(b.*count); };
        field.set = [count, clamped = count == &Brush::sides](Brush& b, double to) {
            b.*count = int(std::lround(clamped ? std::clamp<double>(to, least_sides, most_sides) : to));
        };
    } else {
        const auto measure = number.measure;
        field.get = [measure, scale = text.scale](const Brush& b) { return b.*measure * scale; };
        field.set = [measure, scale = text.scale](Brush& b, double to) {
            b.*measure = measure == &Brush::thickness_m ? std::max(to, 0.0) : to / scale;
        };
    }
    if (const Meaning meaning = meaning_of(now, number))
        field.meaning = [&session, meaning](const Brush& brush) { return meaning(session, brush); };
    add_brush_number(page, editing, std::move(field));
}

} // namespace

void add_shape_fields(Page& page, const BrushEditing& editing) {
    const Brush now = editing.first();
    if (now.shape == rubble::Shape::arch) add_arch_kind(page, editing);
    // What makes it finer comes last.
    for (const bool finer : {false, true})
        for (const ShapeNumber& number : kind_of(now.shape).numbers) {
            if ((number.count == &Brush::sides) != finer || (number.used && !number.used(now))) continue;
            const bool treads =
                now.shape == rubble::Shape::curved_stairs && number.measure == &Brush::thickness_m;
            if (treads && std::abs(now.angle_deg) <= 360) continue;
            add_shape_number(page, editing, number);
        }
    // A pipe has a wall of its own, and a mass is dug out.
    if (now.effect == Effect::fill && now.shape != rubble::Shape::mass && now.shape != rubble::Shape::pipe)
        add_shell_fields(page, editing);
}

} // namespace rubble::app
