#include <QCheckBox>

#include "commands/assemblies.h"
#include "edit/items.h"
#include "facts/pages.h"
#include "level/turning.h"
#include "numbers.h"

namespace rubble::app {

namespace {

/// What an item has of its own, in words.
QString own_text(const OwnValues& own) {
    if (own.left_out) return Facts::tr("left out");
    QStringList parts;
    const auto size = [](const Vec3& v) {
        return QStringLiteral("%1 × %2 × %3").arg(plain_number(v.x), plain_number(v.y), plain_number(v.z));
    };
    if (own.size) parts << Facts::tr("size %1").arg(size(*own.size));
    if (own.at) parts << Facts::tr("place");
    if (own.turn_deg) parts << Facts::tr("turned %1°").arg(plain_number(*own.turn_deg));
    if (own.material) parts << Facts::tr("material %1").arg(QString::fromStdString(*own.material));
    for (const auto& [key, value] : own.values) parts << QString::fromStdString(key + " " + value);
    return parts.join(QStringLiteral(", "));
}

void add_own_values(Page& page, const ItemId& id, const PlacedAssembly& placed) {
    Session& session = page.session();
    page.add_heading(Facts::tr("Own values of this place"));
    if (placed.own.empty())
        page.add_text(Facts::tr(
            "None: all is as in the original. Click again to go into it and change something here."));
    for (const auto& [item, own] : placed.own) {
        const Item* inner = find_item(session.level(), {id.value + "/" + item});
        page.add_text(QStringLiteral("%1: %2").arg(QString::fromStdString(inner ? inner->title() : item),
                                                   own_text(own)),
                      "plain");
        page.add_button(Facts::tr("Follow the original"),
                        [&session, id, item = item] { give_back(session, id, item); });
        page.add_button(Facts::tr("Pass up to the original"),
                        [&session, id, item = item] { pass_up(session, id, item); });
    }
}

} // namespace

void fill_assembly(Page& page, const ItemId& id) {
    Session& session = page.session();
    const Frame frame = session.level().frame;
    const auto now = [&session, id]() -> PlacedAssembly {
        const Item* item = find_item(session.level(), id);
        return item && item->assembly() ? *item->assembly() : PlacedAssembly{};
    };
    const auto move = [&session, id](const QString& what, const Transform& transform) {
        const std::array ids{id};
        session.apply(edit::transformed(session.stored_level(), ids, transform), what);
    };
    const PlacedAssembly placed = now();
    add_title(page, id);
    add_name(page, id);
    if (!placed.assembly) {
        page.add_text(
            Facts::tr("%1 could not be read. Its place is kept.").arg(QString::fromStdString(placed.source)));
    } else {
        QString about = counted(int(placed.members.size()), Facts::tr("item"), Facts::tr("items"));
        if (!placed.assembly->derived_from.empty())
            about += '\n' +
                     Facts::tr("Derived from %1").arg(QString::fromStdString(placed.assembly->derived_from));
        if (!placed.assembly->flaw.empty()) about += '\n' + QString::fromStdString(placed.assembly->flaw);
        page.add_text(about);
        page.add_text(uses_text(session, placed.source));
        page.add_button(Facts::tr("Open it"), [&session] { open_assembly(session); });
    }
    const QStringList axes{Facts::tr("x"), Facts::tr("y"), Facts::tr("z")};
    for (int axis = 0; axis < 3; ++axis) {
        if (!is_asked(frame, axis)) continue;
        page.add_number({Facts::tr("Origin, %1").arg(axes[axis]), Facts::tr("m"), session.grid_m(),
                         [=] { return now().place.at[axis]; },
                         [=](double to) {
                             move(Facts::tr("Move"),
                                  Transform::moving(along(axis) * (to - now().place.at[axis])));
                         }});
    }
    page.add_number({Facts::tr("Turned"), QStringLiteral("°"), 90,
                     [=] { return shown_turn_deg(now().place, frame).value_or(0); },
                     [=](double to) {
                         const PlacedAssembly place = now();
                         move(Facts::tr("Turn"),
                              Transform::turning(place.place.at,
                                                 to - shown_turn_deg(place.place, frame).value_or(0),
                                                 turn_axis(frame)));
                     }});
    if (placed.assembly) add_own_values(page, id, placed);
    page.add_button(Facts::tr("Make it plain items"), [&session] { make_plain_items(session); });
}

} // namespace rubble::app
