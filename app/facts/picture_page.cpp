#include <QCheckBox>

#include "edit/items.h"
#include "facts/pages.h"
#include "numbers.h"

namespace rubble::app {

void fill_picture(Page& page, const ItemId& id) {
    Session& session = page.session();
    const auto now = [&session, id]() -> PlacedPicture {
        const Item* item = find_item(session.level(), id);
        return item && item->picture() ? *item->picture() : PlacedPicture{};
    };
    const auto change = [&session, id](const QString& what, const std::function<void(PlacedPicture&)>& edit) {
        const Item* item = find_item(session.stored_level(), id);
        if (!item || !item->picture()) return;
        Item copy = *item;
        PlacedPicture picture = *item->picture();
        edit(picture);
        if (!problem_of(picture).empty()) return;
        copy.body = picture;
        session.apply(edit::with_changed(session.stored_level(), copy), what);
    };
    add_title(page, id);
    add_name(page, id);
    page.add_text(Facts::tr("A picture of %1").arg(QString::fromStdString(now().sheet_file)));
    const auto number = [&](const QString& name, const QString& unit, double step,
                            const std::function<double&(PlacedPicture&)>& of, double scale = 1) {
        page.add_number({name, unit, step,
                         [=] {
                             PlacedPicture picture = now();
                             return of(picture) * scale;
                         },
                         [=](double to) { change(name, [&](PlacedPicture& p) { of(p) = to / scale; }); }});
    };
    const bool upright = now().upright;
    const double grid = session.grid_m();
    const QString metres = Facts::tr("m");
    number(Facts::tr("To the right"), metres, grid, [](PlacedPicture& p) -> double& { return p.at.x; });
    number(upright ? Facts::tr("Stands at height") : Facts::tr("Up the screen"), metres, grid,
           [upright](PlacedPicture& p) -> double& { return upright ? p.at.z : p.at.y; });
    page.add_number({Facts::tr("Depth, behind above 0"),
                     {},
                     1,
                     [=] {
                         const PlacedPicture picture = now();
                         return picture.upright ? picture.at.y : -picture.at.z;
                     },
                     [=](double to) {
                         change(Facts::tr("Depth of a picture"), [&](PlacedPicture& p) {
                             (p.upright ? p.at.y : p.at.z) = p.upright ? to : -to;
                         });
                     }});
    number(Facts::tr("Width of the picture"), metres, grid,
           [](PlacedPicture& p) -> double& { return p.size.x; });
    number(Facts::tr("Height of the picture"), metres, grid,
           [](PlacedPicture& p) -> double& { return p.size.y; });
    number(Facts::tr("Turned"), QStringLiteral("°"), 15,
           [](PlacedPicture& p) -> double& { return p.turn_deg; });
    const auto flag = [&](const QString& name, bool PlacedPicture::*member) {
        auto* box = new QCheckBox(name);
        box->setAccessibleName(name);
        page.column().addWidget(box);
        page.on_refresh([=] { box->setChecked(now().*member); });
        QObject::connect(box, &QCheckBox::clicked, &page,
                         [=](bool on) { change(name, [&](PlacedPicture& p) { p.*member = on; }); });
    };
    flag(Facts::tr("Mirrored"), &PlacedPicture::mirrored);
    flag(Facts::tr("Solid for %1, by its outline").arg(session.character_name()), &PlacedPicture::solid);
    page.add_heading(Facts::tr("As a backdrop"));
    flag(Facts::tr("Repeats to both sides"), &PlacedPicture::repeats_right);
    flag(Facts::tr("Repeats up and down"), &PlacedPicture::repeats_up);
    page.add_number({Facts::tr("Opacity"), Facts::tr("%"), 10, [=] { return now().opacity * 100; },
                     [=](double to) {
                         change(Facts::tr("Opacity of a picture"),
                                [&](PlacedPicture& p) { p.opacity = std::clamp(to / 100, 0.0, 1.0); });
                     }});
    if (session.level().frame != Frame::side) return;
    number(
        Facts::tr("Goes along, across"), Facts::tr("%"), 10,
        [](PlacedPicture& p) -> double& { return p.parallax.x; }, 100);
    number(
        Facts::tr("Goes along, upwards"), Facts::tr("%"), 10,
        [](PlacedPicture& p) -> double& { return p.parallax.y; }, 100);
}

} // namespace rubble::app
