#include "edit/items.h"
#include "facts/pages.h"
#include "numbers.h"

namespace rubble::app {

void add_title(Page& page, const ItemId& id) {
    Session& session = page.session();
    QLabel* heading = page.add_heading({});
    page.on_refresh([&session, heading, id] {
        if (const Item* item = find_item(session.level(), id))
            heading->setText(QString::fromStdString(item->title()));
    });
}

void add_name(Page& page, const ItemId& id) {
    Session& session = page.session();
    page.add_line(
        Facts::tr("Name"),
        [&session, id] {
            const Item* item = find_item(session.level(), id);
            return item ? QString::fromStdString(item->name) : QString();
        },
        [&session, id](const QString& to) {
            const Item* item = find_item(session.stored_level(), id);
            if (!item || item->name == to.toStdString()) return;
            Item copy = *item;
            copy.name = to.toStdString();
            session.apply(edit::with_changed(session.stored_level(), copy), Facts::tr("Name"));
        });
}

void fill_selection(Page& page) {
    Session& session = page.session();
    page.add_heading(Facts::tr("%n items", nullptr, int(session.selection().size())));
    Box3 box;
    for (const ItemId& id : session.selection())
        if (const Item* item = find_item(session.level(), id)) box.add(box_of(*item));
    const Vec3 size = box.high - box.low;
    page.add_text(Facts::tr("Together %1 × %2 × %3")
                      .arg(metres_text(size.x), metres_text(size.y), metres_text(size.z)));
    if (session.selection().size() != 2) return;
    const Item *a = find_item(session.level(), session.selection()[0]),
               *b = find_item(session.level(), session.selection()[1]);
    if (!a || !b || !a->element() || !b->element()) return;
    page.add_text(Facts::tr("Claim one of these; it is checked after every change:"));
    for (const auto kind : {Claim::Kind::reaches, Claim::Kind::not_reaches, Claim::Kind::returns}) {
        const QString from = QString::fromStdString(a->title()), to = QString::fromStdString(b->title());
        const QString text = kind == Claim::Kind::reaches ? Facts::tr("%1 reaches %2").arg(from, to)
                             : kind == Claim::Kind::not_reaches
                                 ? Facts::tr("%1 does not reach %2").arg(from, to)
                                 : Facts::tr("From %1 to %2 and back").arg(from, to);
        const Claim claim{edit::fresh_claim_id(session.level()), text.toStdString(), kind, a->id, b->id, {}};
        QPushButton* button = page.add_button(text, [&session, claim] {
            session.apply(edit::with_claim(session.level(), claim), Facts::tr("Claim"));
        });
        button->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
        button->setToolTip(text);
    }
}

} // namespace rubble::app
