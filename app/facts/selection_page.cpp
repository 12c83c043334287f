#include <algorithm>
#include <cmath>
#include <optional>
#include <tuple>

#include "claim_names.h"
#include "commands/editing.h"
#include "edit/items.h"
#include "edit/repeats.h"
#include "facts/pages.h"
#include "level/turning.h"
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

/// Where an item stands: what its place fields show.
Vec3 place_of(const Item& item) {
    if (const auto place = placement_of(item)) return place->at;
    const Box3 box = box_of(item);
    return {box.middle().x, box.middle().y, box.low.z};
}

/// What way an item is turned; groups are not.
double turn_of(const Item& item, Frame frame) {
    const auto place = placement_of(item);
    return place ? shown_turn_deg(*place, frame).value_or(place->turn_deg) : 0;
}

/// A number of all selected items, whatever they are.
struct ItemNumber {
    QString name, unit;
    double step = 0.1;
    std::function<double(const Item&)> get;
    std::function<Item(const Item&, double by)> changed_by;
};

void add_item_number(Page& page, const ItemNumber& number) {
    Session& session = page.session();
    const auto change = [&session, number](const std::function<double(const Item&)>& by) {
        std::vector<Item> items;
        for (const Item* item : chosen_items(session.stored_level(), session.selection()))
            items.push_back(number.changed_by(*item, by(*item)));
        session.apply(edit::with_all_changed(session.stored_level(), items), number.name);
    };
    NumberRow row;
    row.name = number.name, row.unit = number.unit, row.step = number.step;
    row.value = [&session, number] {
        std::vector<double> values;
        for (const Item* item : chosen_items(session.level(), session.selection()))
            values.push_back(number.get(*item));
        return shared_number(values);
    };
    row.change = [change, number](double to) {
        change([&](const Item& item) { return to - number.get(item); });
    };
    row.change_by = [change](double by) { change([by](const Item&) { return by; }); };
    page.add_number(std::move(row));
}

void add_place_fields(Page& page, bool can_turn) {
    const Session& session = page.session();
    const Frame frame = session.level().frame;
    const QStringList axes{Facts::tr("x"), Facts::tr("y"), Facts::tr("z")};
    for (int axis = 0; axis < 3; ++axis) {
        if (!is_asked(frame, axis)) continue;
        add_item_number(page, {Facts::tr("Middle of base, %1").arg(axes[axis]), Facts::tr("m"),
                               session.grid_m(), [axis](const Item& item) { return place_of(item)[axis]; },
                               [axis](const Item& item, double by) {
                                   return transformed(item, Transform::moving(along(axis) * by));
                               }});
    }
    if (can_turn)
        add_item_number(page, {Facts::tr("Turned"), QStringLiteral("°"), session.project().turn_step_deg,
                               [frame](const Item& item) { return turn_of(item, frame); },
                               [frame](const Item& item, double by) {
                                   return transformed(
                                       item, Transform::turning(place_of(item), by, turn_axis(frame)));
                               }});
}

/// Whether one is like the others in what a field is about.
template <class F> bool all_alike(const std::vector<const Item*>& brushes, F get) {
    return std::all_of(brushes.begin(), brushes.end(),
                       [&](const Item* item) { return get(*item->brush()) == get(*brushes[0]->brush()); });
}

/// Sizes, place and turn of all that is selected, and what brushes of one shape have besides.
void add_shared_numbers(Page& page) {
    Session& session = page.session();
    const auto items = chosen_items(session.level(), session.selection());
    const auto is_brush = [](const Item* item) { return item->brush() != nullptr; };
    const auto is_mass = [](const Item* item) { return item->brush()->shape == rubble::Shape::mass; };
    const bool brushes = std::all_of(items.begin(), items.end(), is_brush);
    const bool sized = brushes && std::none_of(items.begin(), items.end(), is_mass);
    const bool groups = std::any_of(items.begin(), items.end(), [](const Item* i) { return i->group(); });
    std::optional<BrushEditing> editing;
    if (sized) editing.emplace(page, session.selection());
    if (sized) add_size_fields(page, *editing);
    add_place_fields(page, !groups);
    if (!sized) return;
    const bool alike = all_alike(items, [](const Brush& b) {
        return std::tuple(b.shape, b.arch, b.effect, std::abs(b.angle_deg) > 360, b.shell_m > 0);
    });
    if (alike) add_shape_fields(page, *editing);
    add_kind_fields(page, *editing);
}

/// Offers to make the others linked copies of the first where they can be.
void add_linking(Page& page) {
    Session& session = page.session();
    if (!edit::linked(session.level(), session.selection())) return;
    const Item* first = find_item(session.level(), session.selection()[0]);
    QPushButton* button =
        page.add_button(Facts::tr("Make linked copies of %1").arg(QString::fromStdString(first->title())),
                        [&session] { link_selection(session); });
    button->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    button->setToolTip(Facts::tr("All take its shape. From then on changing one changes all"));
}

} // namespace

void fill_selection(Page& page) {
    Session& session = page.session();
    const Item* group = session.selected();
    if (group) {
        add_title(page, group->id);
        page.add_text(
            Facts::tr("A group of %1")
                .arg(counted(int(group->group()->items.size()), Facts::tr("item"), Facts::tr("items"))));
        add_name(page, group->id);
    } else {
        page.add_heading(Facts::tr("%n items", nullptr, int(session.selection().size())));
    }
    Box3 box;
    for (const Item* item : chosen_items(session.level(), session.selection())) box.add(box_of(*item));
    const Vec3 size = box.high - box.low;
    page.add_text(
        Facts::tr("Overall %1 × %2 × %3").arg(metres_text(size.x), metres_text(size.y), metres_text(size.z)));
    add_shared_numbers(page);
    add_linking(page);
    if (group) {
        page.add_button(Facts::tr("Ungroup"), [&session] { ungroup_selection(session); });
        return;
    }
    offer_claims(page);
}

} // namespace rubble::app
