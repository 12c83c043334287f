#include <cmath>
#include <limits>

#include <QComboBox>

#include "edit/brushes.h"
#include "edit/item_lists.h"
#include "edit/items.h"
#include "edit/shapes.h"
#include "facts/pages.h"
#include "level/brush_shape.h"
#include "numbers.h"
#include "shape_list.h"
#include "tools/tool_list.h"

namespace rubble::app {

namespace {

/// Why a brush stays as it was.
QString refusal(const std::string& problem) {
    if (problem == "size") return Facts::tr("That does not fit: a size must lie between 0.00001 and 1000 m");
    if (problem == "steps") return Facts::tr("That does not fit: there must be 1 to 200 steps");
    if (problem == "angle_deg") return Facts::tr("That does not fit: each step must turn by 0.5° to 120°");
    if (problem == "thickness_m")
        return Facts::tr("That does not fit: the thickness leaves no opening, or is none");
    if (problem == "shell_m") return Facts::tr("That does not fit: walls this thick leave no hollow");
    if (problem == "cells") return Facts::tr("That does not fit: a mass has at least one cell");
    if (problem == "points") return Facts::tr("That does not fit: the outline would cross itself");
    return Facts::tr("That does not fit");
}

/// False where one or more of them would not be usable and stay as they were.
bool change_brushes(Session& session, const std::vector<ItemId>& ids, const QString& what,
                    const std::function<void(Brush&)>& edit) {
    std::vector<Item> changed;
    int refused = 0;
    std::string problem;
    for (const Item* item : chosen_items(session.stored_level(), ids)) {
        if (!item->brush()) continue;
        Item copy = *item;
        Brush& brush = std::get<Brush>(copy.body);
        edit(brush);
        if (!same_structure(brush, *item->brush())) brush = with_looks_of(std::move(brush), *item->brush());
        if (const std::string own = problem_of(brush); !own.empty()) {
            ++refused, problem = own;
            continue;
        }
        brush = with_own_values(measured(brush));
        changed.push_back(std::move(copy));
    }
    if (!changed.empty()) session.apply(edit::with_all_changed(session.stored_level(), changed), what);
    if (refused == 0) return true;
    emit session.message(ids.size() == 1 ? refusal(problem)
                                         : Facts::tr("%1 stay as they were. %2")
                                               .arg(counted(refused, Facts::tr("item"), Facts::tr("items")))
                                               .arg(refusal(problem)));
    return false;
}

/// A choice among kinds; nothing is chosen where the brushes differ.
QComboBox* new_choice(const QString& name) {
    auto* choice = new QComboBox;
    choice->setAccessibleName(name);
    choice->setPlaceholderText(Facts::tr("mixed"));
    return choice;
}

} // namespace

std::vector<const Item*> chosen_items(const Level& level, std::span<const ItemId> ids) {
    const edit::Chosen chosen(ids);
    std::vector<const Item*> out;
    for_each_item(level, [&](const Item& item, const Layer&) {
        if (chosen.has(item)) out.push_back(&item);
    });
    return out;
}

double shared_number(std::span<const double> values) {
    for (const double value : values)
        if (std::abs(value - values[0]) > 1e-9) return std::numeric_limits<double>::quiet_NaN();
    return values.empty() ? std::numeric_limits<double>::quiet_NaN() : values[0];
}

BrushEditing::BrushEditing(Page& page, std::vector<ItemId> ids) {
    // Looked up once for all fields, in a level that stays as long as it is looked at.
    struct Found {
        Level level;
        std::vector<const Item*> items;
    };
    auto found = std::make_shared<Found>();
    Session& session = page.session();
    const auto look = [found, ids, &session] {
        found->level = session.level();
        found->items = chosen_items(found->level, ids);
        std::erase_if(found->items, [](const Item* item) { return !item->brush(); });
    };
    look();
    page.on_refresh(look);
    one_only = ids.size() == 1;
    first = [found] { return found->items.empty() ? Brush{} : *found->items[0]->brush(); };
    shared = [found](const std::function<double(const Brush&)>& get) {
        std::vector<double> values;
        for (const Item* item : found->items) values.push_back(get(*item->brush()));
        return shared_number(values);
    };
    change = [&page, &session, ids](const QString& what, const std::function<void(Brush&)>& edit) {
        if (!change_brushes(session, ids, what, edit)) page.refresh(); // what was refused reads as before
    };
}

void add_brush_number(Page& page, const BrushEditing& editing, BrushNumber number) {
    NumberRow row;
    row.name = number.name, row.unit = number.unit, row.step = number.step;
    row.value = [editing, get = number.get] { return editing.shared(get); };
    row.change = [editing, number](double to) {
        editing.change(number.name, [&](Brush& brush) { number.set(brush, to); });
    };
    row.change_by = [editing, number](double by) {
        editing.change(number.name, [&](Brush& brush) { number.set(brush, number.get(brush) + by); });
    };
    if (editing.one_only && number.meaning)
        row.meaning = [editing, meaning = number.meaning] { return meaning(editing.first()); };
    page.add_number(std::move(row));
}

void add_size_fields(Page& page, const BrushEditing& editing,
                     std::function<QString(const Brush&)> height_meaning) {
    const QStringList names{Facts::tr("Length"), Facts::tr("Width"), Facts::tr("Height")};
    for (int axis = 0; axis < 3; ++axis) {
        if (!is_asked(page.session().level().frame, axis)) continue;
        add_brush_number(page, editing,
                         {names[axis], Facts::tr("m"), page.session().grid_m(),
                          [axis](const Brush& b) { return b.size[axis]; },
                          [axis](Brush& b, double to) {
                              if (to > 0)
                                  b = edit::with_size(b, axis, to);
                              else
                                  b.size[axis] = to; // which is refused, and said
                          },
                          axis == 2 ? std::move(height_meaning) : std::function<QString(const Brush&)>{}});
    }
}

void add_kind_fields(Page& page, const BrushEditing& editing) {
    Session& session = page.session();
    auto* row = new QHBoxLayout;
    auto* shape = new_choice(Facts::tr("Shape"));
    for (const ToolEntry& tool : all_tools())
        if (tool.shape) shape->addItem(shape_name(*tool.shape), int(*tool.shape));
    shape->addItem(shape_name(rubble::Shape::body), int(rubble::Shape::body));
    if (editing.first().shape == rubble::Shape::mass)
        shape->addItem(shape_name(rubble::Shape::mass), int(rubble::Shape::mass));
    auto* effect = new_choice(Facts::tr("Effect"));
    effect->addItems({Facts::tr("Fill"), Facts::tr("Cut")});
    row->addWidget(shape);
    row->addWidget(effect);
    page.column().addLayout(row);
    page.on_refresh([=] {
        const double kind = editing.shared([](const Brush& b) { return double(b.shape); });
        const double deed = editing.shared([](const Brush& b) { return double(b.effect == Effect::cut); });
        shape->setCurrentIndex(std::isnan(kind) ? -1 : shape->findData(int(kind)));
        effect->setCurrentIndex(std::isnan(deed) ? -1 : int(deed));
    });
    QObject::connect(shape, &QComboBox::activated, &page, [=, &session](int i) {
        const auto wanted = rubble::Shape(shape->itemData(i).toInt());
        int left = 0;
        editing.change(Facts::tr("Shape"), [&](Brush& b) {
            b = edit::with_shape(b, wanted, session.character(), session.project().measures);
            left += b.shape != wanted;
        });
        if (left > 0)
            emit session.message(Facts::tr("This shape cannot become a body: its surface touches itself"));
    });
    QObject::connect(effect, &QComboBox::activated, &page, [=](int i) {
        editing.change(Facts::tr("Effect"),
                       [&](Brush& b) { b.effect = i == 1 ? Effect::cut : Effect::fill; });
    });
}

} // namespace rubble::app
