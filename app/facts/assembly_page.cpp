#include <algorithm>

#include <QComboBox>

#include "commands/assemblies.h"
#include "edit/assemblies.h"
#include "edit/chance.h"
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

/// What a derived assembly has otherwise than its original, wherever it stands.
void add_derived_values(Page& page, const Assembly& assembly) {
    Session& session = page.session();
    if (assembly.derived_from.empty()) return;
    page.add_heading(Facts::tr("Own values of %1").arg(QString::fromStdString(assembly.name)));
    if (assembly.own.empty() && assembly.added.empty())
        page.add_text(Facts::tr("None: all is as in its original. Open it to change something."));
    for (const auto& [item, own] : assembly.own) {
        page.add_text(QStringLiteral("%1: %2").arg(QString::fromStdString(item), own_text(own)), "plain");
        const auto give = [&session, file = assembly.file, item = item](bool up) {
            session.apply(edit::with_own_given_back(session.project(), file, item, up),
                          up ? Facts::tr("Pass up to the original") : Facts::tr("Follow the original"));
        };
        page.add_button(Facts::tr("Follow the original"), [give] { give(false); });
        page.add_button(Facts::tr("Pass up to the original"), [give] { give(true); });
    }
    if (!assembly.added.empty())
        page.add_text(Facts::tr("%1 added")
                          .arg(counted(int(assembly.added.size()), Facts::tr("item"), Facts::tr("items"))),
                      "plain");
}

/// What the place may hold by chance, each with its weight.
void add_chance(Page& page, const ItemId& id, const PlacedAssembly& placed) {
    Session& session = page.session();
    const auto set = [&session, id](const std::string& source, double weight) {
        session.apply(edit::with_alternative(session.project(), session.stored_level(), id, source, weight),
                      Facts::tr("What a place may hold"));
    };
    const auto name_of = [&session](const std::string& source) {
        const auto assembly = find_assembly(session.project(), source);
        return QString::fromStdString(assembly ? assembly->name : source);
    };
    page.add_heading(Facts::tr("By chance"));
    page.add_text(placed.one_of.empty()
                      ? Facts::tr("It always holds %1.").arg(name_of(placed.source))
                      : Facts::tr("Drawn anew at each walk; claims are proven for all of them. It shows %1.")
                            .arg(name_of(placed.source)));
    for (const Alternative& one : placed.one_of) {
        const auto weight = [&session, id, source = one.source] {
            const Item* item = find_item(session.level(), id);
            if (item && item->assembly())
                for (const Alternative& now : item->assembly()->one_of)
                    if (now.source == source) return now.weight;
            return 0.0;
        };
        page.add_number({name_of(one.source),
                         {},
                         1,
                         weight,
                         [set, source = one.source](double to) { set(source, std::max(to, 0.0)); },
                         [] { return Facts::tr("0 takes it out"); }});
    }
    auto* more = new QComboBox;
    more->setAccessibleName(Facts::tr("It may hold"));
    more->addItem(Facts::tr("It may hold…"));
    for (const auto& assembly : session.project().assemblies) {
        const auto is_it = [&](const Alternative& one) { return one.source == assembly->file; };
        if (assembly->file == placed.source || !assembly->flaw.empty() ||
            std::any_of(placed.one_of.begin(), placed.one_of.end(), is_it))
            continue;
        more->addItem(QString::fromStdString(assembly->name), QString::fromStdString(assembly->file));
    }
    more->setEnabled(more->count() > 1);
    page.column().addWidget(more);
    QObject::connect(more, &QComboBox::activated, &page, [more, set](int index) {
        if (index > 0) set(more->itemData(index).toString().toStdString(), 1);
    });
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
    if (placed.assembly) {
        add_own_values(page, id, placed);
        add_derived_values(page, *placed.assembly);
        add_chance(page, id, placed);
        add_values(
            page, Facts::tr("For the game, of all its places"),
            [&session, source = placed.source] {
                const auto assembly = find_assembly(session.project(), source);
                return assembly ? assembly->values : Extra{};
            },
            [&session, source = placed.source](Extra values) {
                Assembly changed = *find_assembly(session.project(), source);
                changed.values = std::move(values);
                session.apply(edit::with_assembly(session.project(), std::move(changed)),
                              Facts::tr("Values for the game"));
            });
    }
    add_values(
        page, Facts::tr("For the game, of this place"), [now] { return now().values; },
        [&session, id](Extra values) {
            Item changed = *find_item(session.stored_level(), id);
            std::get<PlacedAssembly>(changed.body).values = std::move(values);
            session.apply(edit::with_changed(session.stored_level(), changed),
                          Facts::tr("Values for the game"));
        });
    if (placed.assembly)
        page.add_button(Facts::tr("Give it an assembly of its own"),
                        [&session] { make_independent(session); });
    page.add_button(Facts::tr("Make it plain items"), [&session] { make_plain_items(session); });
}

} // namespace rubble::app
