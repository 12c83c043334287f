#include <cmath>
#include <limits>

#include "edit/brushes.h"
#include "edit/items.h"
#include "facts/pages.h"
#include "level/brush_shape.h"
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

namespace {

constexpr double k_mixed = std::numeric_limits<double>::quiet_NaN();

/// What number of a brush a field shows, and how it is set.
struct SharedNumber {
    std::function<double(const Brush&)> get;
    std::function<void(Brush&, double)> set;
};

std::vector<const Item*> chosen_brushes(const Session& session, const Level& level) {
    std::vector<const Item*> out;
    for (const ItemId& id : session.selection())
        if (const Item* item = find_item(level, id); item && item->brush()) out.push_back(item);
    return out;
}

/// The number that all chosen brushes have, or "mixed".
double shared(const Session& session, const SharedNumber& number) {
    const auto brushes = chosen_brushes(session, session.level());
    if (brushes.empty()) return k_mixed;
    const double first = number.get(*brushes[0]->brush());
    for (const Item* item : brushes)
        if (std::abs(number.get(*item->brush()) - first) > 1e-9) return k_mixed;
    return first;
}

/// Changes all chosen brushes; those that it would make unusable stay as they are, which is said.
void change_all(Session& session, const QString& what, const std::function<void(Brush&)>& edit) {
    Level level = session.stored_level();
    int refused = 0;
    for (const Item* item : chosen_brushes(session, session.stored_level())) {
        Item copy = *item;
        Brush& brush = std::get<Brush>(copy.body);
        edit(brush);
        if (!problem_of(brush).empty()) {
            ++refused;
            continue;
        }
        brush = measured(brush);
        level = edit::with_changed(level, copy);
    }
    session.apply(std::move(level), what);
    if (refused > 0)
        emit session.message(Facts::tr("%1 stay as they were: it does not fit them")
                                 .arg(counted(refused, Facts::tr("item"), Facts::tr("items"))));
}

void add_shared_number(Page& page, const QString& name, const QString& unit, double step,
                       SharedNumber number) {
    Session& session = page.session();
    NumberRow row{name, unit, step, [&session, number] { return shared(session, number); },
                  [&session, name, number](double to) {
                      change_all(session, name, [&](Brush& brush) { number.set(brush, to); });
                  }};
    row.change_by = [&session, name, number](double by) {
        change_all(session, name, [&](Brush& brush) { number.set(brush, number.get(brush) + by); });
    };
    page.add_number(std::move(row));
}

void add_shared_numbers(Page& page) {
    Session& session = page.session();
    if (chosen_brushes(session, session.level()).size() < 2) return;
    const double grid = session.grid_m();
    const QString metres = Facts::tr("m");
    const QStringList sizes{Facts::tr("Length"), Facts::tr("Width"), Facts::tr("Height")};
    const QStringList axes{Facts::tr("x"), Facts::tr("y"), Facts::tr("z")};
    for (int axis = 0; axis < 3; ++axis)
        add_shared_number(page, sizes[axis], metres, grid,
                          {[axis](const Brush& b) { return b.size[axis]; },
                           [axis](Brush& b, double to) { b = to > 0 ? edit::with_size(b, axis, to) : b; }});
    for (int axis = 0; axis < 3; ++axis)
        add_shared_number(page, Facts::tr("Middle of base, %1").arg(axes[axis]), metres, grid,
                          {[axis](const Brush& b) { return b.place.at[axis]; },
                           [axis](Brush& b, double to) { b.place.at[axis] = to; }});
    add_shared_number(page, Facts::tr("Turned"), QStringLiteral("°"), session.project().turn_step_deg,
                      {[](const Brush& b) { return b.place.turn_deg; },
                       [](Brush& b, double to) { b.place.turn_deg = to, b.place.rotation.reset(); }});
}

} // namespace

void fill_selection(Page& page) {
    Session& session = page.session();
    page.add_heading(Facts::tr("%n items", nullptr, int(session.selection().size())));
    Box3 box;
    for (const ItemId& id : session.selection())
        if (const Item* item = find_item(session.level(), id)) box.add(box_of(*item));
    const Vec3 size = box.high - box.low;
    page.add_text(Facts::tr("Together %1 × %2 × %3")
                      .arg(metres_text(size.x), metres_text(size.y), metres_text(size.z)));
    add_shared_numbers(page);
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
