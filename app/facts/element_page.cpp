#include "edit/items.h"
#include "element_names.h"
#include "facts/pages.h"
#include "level/element_kinds.h"

namespace rubble::app {

void fill_element(Page& page, Facts& facts, const ItemId& id) {
    Session& session = page.session();
    auto element = [&session, id]() -> Element {
        const Item* item = find_item(session.level(), id);
        return item && item->element() ? *item->element() : Element{};
    };
    auto change = [&session, id](const QString& what, auto edit) {
        const Item* item = find_item(session.stored_level(), id);
        if (!item || !item->element()) return;
        Item copy = *item;
        edit(std::get<Element>(copy.body));
        session.apply(edit::with_changed(session.stored_level(), copy), what);
    };
    add_title(page, id);
    add_name(page, id);
    const auto& result = session.built().check;
    const check::Place* place = nullptr;
    if (result)
        for (const auto& one : result->places)
            if (one.item == id) place = &one;
    if (place && role_of(element()) != Role::start) {
        const QString who = session.character_name();
        switch (place->reached) {
        case check::Reached::yes:
            page.add_text(Facts::tr("%1 gets there in %2 s").arg(who).arg(place->time_s, 0, 'f', 1));
            break;
        case check::Reached::with_help:
            page.add_text(Facts::tr("%1 gets there only with a late jump").arg(who));
            break;
        case check::Reached::no:
            page.add_text(Facts::tr("%1 does not get there from the start").arg(who));
            break;
        case check::Reached::undecided:
            page.add_text(Facts::tr("Whether %1 gets there could not be decided").arg(who));
            break;
        }
        if (place->witness)
            add_watch(page, facts, *place->witness,
                      QString::fromStdString(find_item(session.level(), id)->title()));
        for (const auto& miss : result->near_misses)
            if (miss.to == id) add_near_miss(page, miss);
    }
    const QStringList axes{Facts::tr("x"), Facts::tr("y"), Facts::tr("z")};
    const Frame frame = session.level().frame;
    for (int axis = 0; axis < 3; ++axis) {
        if (frame != Frame::space && axis == layout_of(frame).out) continue; // nothing is asked of it there
        page.add_number(
            {axes[axis], Facts::tr("m"), session.grid_m(), [=] { return element().at[axis]; },
             [=](double to) { change(Facts::tr("Move"), [&](Element& e) { e.at[axis] = to; }); }});
    }
    page.add_number({Facts::tr("Facing"), QStringLiteral("°"), 15, [=] { return element().facing_deg; },
                     [=](double to) { change(Facts::tr("Turn"), [&](Element& e) { e.facing_deg = to; }); }});
    for (const ElementField& field : kind_of(element()).fields)
        page.add_number({element_field_name(field.key), QString::fromUtf8(field.unit),
                         (field.most - field.least) / 100, [=] { return number_of(element(), field); },
                         [=](double to) {
                             change(element_field_name(field.key),
                                    [&](Element& e) { e = with_number(e, field, to); });
                         }});
}

} // namespace rubble::app
