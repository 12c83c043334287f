#include <algorithm>
#include <cmath>

#include <QComboBox>

#include "base/angle.h"
#include "check/flight.h"
#include "facts/pages.h"
#include "numbers.h"

namespace rubble::app {

namespace {

/// Whether the character walks stairs, told from the height of their steps.
QString steps_meaning(const Session& session, const Brush& brush) {
    const Character c = session.character();
    const QString who = session.character_name();
    const double rise = brush.size.z / brush.steps;
    const QString each = Facts::tr("Each %1 high").arg(metres_text(rise));
    if (rise <= c.step_height_m + 1e-3) return Facts::tr("%1: %2 walks them").arg(each, who);
    const double apex = check::highest_rise(c);
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
    const auto brush = editing.now;
    page.add_number({Facts::tr("Shell (0: solid)"), Facts::tr("m"), 0.05, [=] { return brush().shell_m; },
                     [change = editing.change](double to) {
                         change(Facts::tr("Shell"), [&](Brush& b) { b.shell_m = std::max(to, 0.0); });
                     },
                     [&session, brush] { return hollow_meaning(session, brush()); }});
    if (brush().shell_m <= 0) return;
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
        page.on_refresh([=] { button->setChecked(brush().open_sides.contains(side)); });
        QObject::connect(button, &QPushButton::clicked, &page, [side, change = editing.change](bool open) {
            change(Facts::tr("Open sides"), [&](Brush& b) {
                if (open)
                    b.open_sides.insert(side);
                else
                    b.open_sides.erase(side);
            });
        });
    }
    page.column().addLayout(grid);
}

} // namespace

void add_shape_fields(Page& page, const BrushEditing& editing) {
    Session& session = page.session();
    const auto brush = editing.now;
    const Brush now = brush();
    auto number = [&](const QString& name, const QString& unit, double step, auto get, auto set,
                      std::function<QString()> meaning = {}) {
        page.add_number(
            {name, unit, step, [=] { return double(get(brush())); },
             [=, change = editing.change](double to) { change(name, [&](Brush& b) { set(b, to); }); },
             std::move(meaning)});
    };
    const QString metres = Facts::tr("m");
    if (now.shape == rubble::Shape::pipe) {
        number(
            Facts::tr("Straight pieces"), {}, 1, [](const Brush& b) { return b.steps; },
            [](Brush& b, double to) { b.steps = int(std::lround(to)); });
        number(
            Facts::tr("Bend through"), QStringLiteral("°"), 15, [](const Brush& b) { return b.angle_deg; },
            [](Brush& b, double to) { b.angle_deg = to; });
        number(
            Facts::tr("Wall (0: solid)"), metres, 0.05, [](const Brush& b) { return b.thickness_m; },
            [](Brush& b, double to) { b.thickness_m = std::max(to, 0.0); },
            [&session, brush] { return bore_meaning(session, brush()); });
    }
    if (now.shape == rubble::Shape::stairs || now.shape == rubble::Shape::curved_stairs)
        number(
            Facts::tr("Steps"), {}, 1, [](const Brush& b) { return b.steps; },
            [](Brush& b, double to) { b.steps = int(std::lround(to)); },
            [&session, brush] { return steps_meaning(session, brush()); });
    if (now.shape == rubble::Shape::curved_stairs) {
        number(
            Facts::tr("Turn through"), QStringLiteral("°"), 15, [](const Brush& b) { return b.angle_deg; },
            [](Brush& b, double to) { b.angle_deg = to; });
        number(
            Facts::tr("Free middle"), QStringLiteral("%"), 5,
            [](const Brush& b) { return b.inner_part * 100; },
            [](Brush& b, double to) { b.inner_part = to / 100; });
        if (std::abs(now.angle_deg) > 360)
            number(
                Facts::tr("Thickness of treads"), metres, 0.05, [](const Brush& b) { return b.thickness_m; },
                [](Brush& b, double to) { b.thickness_m = to; });
    }
    if (now.shape == rubble::Shape::arch) {
        auto* kind = new QComboBox;
        kind->setAccessibleName(Facts::tr("Kind of arch"));
        kind->addItems({Facts::tr("Round"), Facts::tr("Pointed"), Facts::tr("Flat")});
        page.column().addWidget(kind);
        page.on_refresh([=] { kind->setCurrentIndex(int(brush().arch)); });
        QObject::connect(kind, &QComboBox::activated, &page, [change = editing.change](int i) {
            change(Facts::tr("Kind of arch"), [&](Brush& b) { b.arch = ArchKind(i); });
        });
        number(
            Facts::tr("Thickness of frame"), metres, 0.05, [](const Brush& b) { return b.thickness_m; },
            [](Brush& b, double to) { b.thickness_m = to; },
            [&session, brush] { return opening_meaning(session, brush()); });
    }
    if (now.shape == rubble::Shape::wall_run)
        number(
            Facts::tr("Thickness of walls"), metres, 0.05, [](const Brush& b) { return b.thickness_m; },
            [](Brush& b, double to) { b.thickness_m = to; });
    if (has_sides(now.shape, now.arch))
        number(
            Facts::tr("Sides"), {}, 1, [](const Brush& b) { return b.sides; },
            [](Brush& b, double to) { b.sides = std::clamp(int(std::lround(to)), least_sides, most_sides); });
    // A pipe has a wall of its own, and a mass is dug out.
    if (now.effect == Effect::fill && now.shape != rubble::Shape::mass && now.shape != rubble::Shape::pipe)
        add_shell_fields(page, editing);
}

} // namespace rubble::app
