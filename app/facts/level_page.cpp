#include <algorithm>

#include <QCheckBox>
#include <QFileInfo>

#include "check/flight.h"
#include "commands/assemblies.h"
#include "edit/dimensions.h"
#include "edit/items.h"
#include "edit/underlays.h"
#include "facts/jump_envelope.h"
#include "facts/pages.h"
#include "numbers.h"
#include "tools/measure_tool.h"

namespace rubble::app {

namespace {

/// The kept dimensions, each with what it means, and a button that takes it away.
void add_dimensions(Page& page) {
    Session& session = page.session();
    if (session.level().dimensions.empty()) return;
    page.add_heading(Facts::tr("Dimensions"));
    for (const Dimension& one : session.level().dimensions) {
        QLabel* text = page.add_text({});
        page.on_refresh([&session, text, one] {
            Vec3 from, to;
            if (place_of(session.level(), one.from, from) && place_of(session.level(), one.to, to))
                text->setText(Facts::tr("%1: %2").arg(metres_text(glm::length(to - from)),
                                                      meaning_of_distance(session, from, to)));
        });
        page.add_button(Facts::tr("Remove this dimension"), [&session, id = one.id] {
            session.apply(edit::without_dimension(session.stored_level(), id),
                          Facts::tr("Remove a dimension"));
        });
    }
}

/// The pictures under the level, each with what can be changed of it.
void add_underlays(Page& page) {
    Session& session = page.session();
    if (session.level().underlays.empty()) return;
    page.add_heading(Facts::tr("Pictures under the level"));
    page.add_text(Facts::tr("Ctrl+Shift+L moves and scales the last one"));
    for (const Underlay& one : session.level().underlays) {
        const auto now = [&session, id = one.id]() -> Underlay {
            for (const Underlay& other : session.level().underlays)
                if (other.id == id) return other;
            return {};
        };
        const auto change = [&session, now](const QString& what, const std::function<void(Underlay&)>& edit) {
            Underlay changed = now();
            edit(changed);
            session.apply(edit::with_underlay(session.stored_level(), changed), what);
        };
        page.add_text(QFileInfo(QString::fromStdString(one.file)).fileName(), "plain");
        page.add_number({Facts::tr("Width of %1").arg(QString::fromStdString(one.id.value)), Facts::tr("m"),
                         0.5, [=] { return now().width_m; },
                         [=](double to) {
                             change(Facts::tr("Scale the picture"), [&](Underlay& u) {
                                 u.width_m = std::clamp(to, narrowest_underlay_m, widest_underlay_m);
                             });
                         }});
        page.add_number({Facts::tr("Seen by"), Facts::tr("%"), 10, [=] { return now().opacity * 100; },
                         [=](double to) {
                             change(Facts::tr("Fade the picture"),
                                    [&](Underlay& u) { u.opacity = std::clamp(to / 100, 0.0, 1.0); });
                         }});
        page.add_number({one.axis == 2 ? Facts::tr("Lies at height") : Facts::tr("Stands at"), Facts::tr("m"),
                         0.5, [=] { return now().at[now().axis]; },
                         [=](double to) {
                             change(Facts::tr("Move the picture"), [&](Underlay& u) { u.at[u.axis] = to; });
                         }});
        for (const auto& [name, flag] : {std::pair{Facts::tr("Hidden"), &Underlay::hidden},
                                         std::pair{Facts::tr("Locked"), &Underlay::locked}}) {
            auto* box = new QCheckBox(name);
            box->setAccessibleName(name);
            page.column().addWidget(box);
            page.on_refresh([=, flag = flag] { box->setChecked(now().*flag); });
            QObject::connect(box, &QCheckBox::clicked, &page, [=, flag = flag, name = name](bool on) {
                change(name, [&](Underlay& u) { u.*flag = on; });
            });
        }
        page.add_button(Facts::tr("Remove this picture"), [&session, id = one.id] {
            session.apply(edit::without_underlay(session.stored_level(), id), Facts::tr("Remove a picture"));
        });
    }
}

/// Whether a Plan level is walked freely or from cell to cell.
void add_way_of_walking(Page& page) {
    Session& session = page.session();
    auto* by_cells = new QCheckBox(Facts::tr("Walked from cell to cell"));
    by_cells->setAccessibleName(by_cells->text());
    by_cells->setToolTip(
        Facts::tr("The cells are those of the first solid layer; outside its rows nothing is walked"));
    page.column().addWidget(by_cells);
    page.on_refresh(
        [&session, by_cells] { by_cells->setChecked(session.level().walked == Walked::by_cells); });
    QObject::connect(by_cells, &QCheckBox::clicked, &page, [&session](bool on) {
        Level level = session.stored_level();
        level.walked = on ? Walked::by_cells : Walked::freely;
        session.apply(std::move(level), Facts::tr("Way of walking"));
    });
}

} // namespace

namespace {

/// What a change here changes elsewhere, with a click to look at what would fail.
void add_part(Page& page) {
    Session& session = page.session();
    const PartEffects& effects = session.part_effects();
    page.add_text(Facts::tr("A change here changes %1 in %2.")
                      .arg(counted(effects.places, Facts::tr("place"), Facts::tr("places")),
                           counted(effects.levels, Facts::tr("level"), Facts::tr("levels"))),
                  "plain");
    if (effects.levels > 0)
        page.add_text(!effects.judged          ? Facts::tr("The claims of those levels are being judged.")
                      : effects.broken.empty() ? Facts::tr("All their claims hold as before.")
                                               : Facts::tr("%1 would fail:")
                                                     .arg(counted(int(effects.broken.size()),
                                                                  Facts::tr("claim"), Facts::tr("claims"))),
                      "meaning");
    for (const PartEffects::Broken& broken : effects.broken)
        page.add_button(broken.name, [&session, broken] {
            session.documents().show_level(broken.level);
            session.go_to(Stage::check);
        });
    page.add_button(Facts::tr("Back to the level"), [&session] { leave_assembly(session); });
}

} // namespace

void fill_level(Page& page, Facts& facts) {
    Session& session = page.session();
    page.add_heading(QString::fromStdString(session.level().name));
    if (session.level().part) add_part(page);
    page.add_line(
        Facts::tr("Name"), [&session] { return QString::fromStdString(session.level().name); },
        [&session](const QString& to) {
            Level level = session.stored_level();
            level.name = to.toStdString();
            session.apply(std::move(level), Facts::tr("Name"));
        });
    QLabel* text = page.add_text({});
    page.on_refresh([&session, text] {
        int brushes = 0, elements = 0, pieces = 0, assemblies = 0;
        for_each_item(session.level(), [&](const Item& item, const Layer&) {
            brushes += item.brush() != nullptr, elements += item.element() != nullptr;
            pieces += item.piece() != nullptr, assemblies += item.assembly() != nullptr;
        });
        // From what is built: to ask ten thousand brushes for their corners takes longer than a frame.
        Box3 box;
        if (const auto& solid = session.built().solid)
            for (size_t i = 0; i < solid->brushes.size(); ++i)
                if (solid->brushes[i]->effect == Effect::fill) box.add(solid->brushes[i]->box);
        if (const auto& solid = session.built().solid)
            for (const auto& piece : solid->pieces) box.add(box_of(piece->placed));
        for (const auto& layer : session.level().layers)
            if (layer->tiles)
                box.add(box_of(**layer->tiles, session.level().frame, (*layer->tiles)->grid.area()));
        const Vec3 size = box.empty() ? Vec3(0) : box.high - box.low;
        QString counts =
            Facts::tr("%1, %2").arg(counted(brushes, Facts::tr("brush"), Facts::tr("brushes")),
                                    counted(elements, Facts::tr("element"), Facts::tr("elements")));
        if (pieces + assemblies > 0)
            counts += '\n' + Facts::tr("%1, %2").arg(
                                 counted(pieces, Facts::tr("piece"), Facts::tr("pieces")),
                                 counted(assemblies, Facts::tr("assembly"), Facts::tr("assemblies")));
        const Frame frame = session.level().frame;
        text->setText(
            counts + "\n" +
            (frame == Frame::space
                 ? Facts::tr("%1 × %2 × %3")
                       .arg(metres_text(size.x), metres_text(size.y), metres_text(size.z))
                 : Facts::tr("%1 × %2").arg(metres_text(size.x), metres_text(size[layout_of(frame).ahead]))));
    });
    add_suggestions(page);
    add_play(page);
    if (session.level().frame == Frame::plan) {
        add_way_of_walking(page);
        if (session.stage() == Stage::check || session.stage() == Stage::populate)
            add_puzzle(page, facts), add_cards(page);
        if (session.stage() == Stage::check) add_maze(page);
    }
    add_tile_layer(page);
    const Character c = session.character();
    page.add_heading(Facts::tr("%1's numbers").arg(session.character_name()));
    if (session.level().frame == Frame::plan) {
        page.add_text(Facts::tr("Runs %1 m/s · %2 wide")
                          .arg(plain_number(c.run_speed_mps), metres_text(2 * c.radius_m)));
        add_dimensions(page);
        add_underlays(page);
        return;
    }
    page.add_text(
        Facts::tr("Steps %1 · slopes %2°\nJumps %3 high, %4 far\nSurvives a fall of %5%6")
            .arg(metres_text(c.step_height_m))
            .arg(c.max_slope_deg, 0, 'f', 0)
            .arg(metres_text(check::highest_rise(c)), metres_text(check::longest_gap(c, 0).value_or(0)),
                 metres_text(c.survived_fall_m),
                 c.pull_up_m > 0
                     ? Facts::tr("\nPulls up onto ledges of %1").arg(metres_text(check::highest_ledge(c)))
                     : QString()));
    page.column().addWidget(new JumpEnvelope(session.documents()));
    add_dimensions(page);
    add_underlays(page);
    if (session.stage() == Stage::check)
        page.add_text(Facts::tr(
            "To make a claim select two elements: the first with a click, the second with Shift and "
            "a click."));
}

} // namespace rubble::app
