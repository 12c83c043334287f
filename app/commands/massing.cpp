#include "commands/massing.h"

#include <algorithm>

#include "edit/items.h"
#include "level/brush_shape.h"
#include "numbers.h"

namespace rubble::app {

namespace {

/// Brushes that a mass becomes at most: more are of no use to anybody.
constexpr size_t k_most_brushes = 2000;

const Brush* mass_of(const Session& session) {
    const Item* item = session.selected();
    const Brush* brush = item ? item->brush() : nullptr;
    return brush && brush->shape == Shape::mass ? brush : nullptr;
}

void keep(Session& session, const edit::Massed& change, const QString& what) {
    if (!change.done) {
        emit session.message(
            Session::tr("That cannot be done here: slopes of several sides would meet in one cell, "
                        "or be too steep for the grid"));
        return;
    }
    if (change.grid.empty()) {
        const ItemId id = session.selected()->id;
        session.select({});
        session.apply(edit::without(session.stored_level(), std::vector{id}), what);
        return;
    }
    session.apply(with_cells(session.stored_level(), session.selected()->id, change.grid), what);
    session.selected_items().mark(change.area);
}

} // namespace

int grid_steps(const Brush& mass, int seen) { return mass.effect == Effect::cut ? -seen : seen; }

Level with_cells(const Level& level, const ItemId& id, const MassGrid& cells) {
    Item item = *find_item(level, id);
    Brush& brush = std::get<Brush>(item.body);
    brush.cells = cells;
    brush = measured(std::move(brush));
    return edit::with_changed(level, item);
}

void raise_area(Session& session, int by) {
    const Brush* mass = mass_of(session);
    if (!mass || !session.area()) return;
    keep(session, edit::raised(mass->cells, *session.area(), grid_steps(*mass, by)),
         by > 0 ? Session::tr("Raise") : Session::tr("Sink"));
}

void tilt_area(Session& session, const edit::AreaEdge& edge, int by) {
    const Brush* mass = mass_of(session);
    if (!mass || !session.area()) return;
    keep(session, edit::tilted(mass->cells, *session.area(), edge, grid_steps(*mass, by)),
         Session::tr("Slope"));
}

void smooth_area(Session& session) {
    const Brush* mass = mass_of(session);
    if (!mass || !session.area()) return;
    const edit::Massed change = edit::smoothed(mass->cells, *session.area());
    if (change.done) return keep(session, change, Session::tr("Smooth into a ramp"));
    emit session.message(Session::tr("A ramp needs a rectangle of cells whose rows rise one way"));
}

void dig_area(Session& session) {
    const Brush* mass = mass_of(session);
    if (!mass || !session.area()) return;
    keep(session, edit::dug_through(mass->cells, *session.area()), Session::tr("Dig through"));
}

void mark_alike(Session& session) {
    const Brush* mass = mass_of(session);
    const edit::MassArea* area = session.area();
    if (!mass || !area) return;
    edit::MassArea all = *area;
    for (const auto& [square, line] : area->levels)
        if (all.levels.size() == area->levels.size() || !all.levels.count(square))
            all = edit::joined(std::move(all),
                               edit::area_alike(mass->cells, area->axis, area->way, square, line));
    session.selected_items().mark(all);
}

void mark_top(Session& session) {
    const Brush* mass = mass_of(session);
    if (!mass) return;
    const CellBox extent = mass->cells.extent();
    const auto all = edit::area_between(mass->cells, 2, 1, {extent.low[0], extent.low[1]},
                                        {extent.high[0] - 1, extent.high[1] - 1}, extent.high[2], false);
    const auto top = std::max_element(all.levels.begin(), all.levels.end(),
                                      [](const auto& a, const auto& b) { return a.second < b.second; });
    if (top != all.levels.end())
        session.selected_items().mark(edit::area_alike(mass->cells, 2, 1, top->first, top->second));
}

void finer_cells(Session& session) {
    const Brush* mass = mass_of(session);
    if (!mass) return;
    const auto fine = edit::refined(mass->cells);
    if (!fine) {
        emit session.message(Session::tr("Cells cannot get any finer here"));
        return;
    }
    session.selected_items().mark({});
    session.apply(with_cells(session.stored_level(), session.selected()->id, *fine),
                  Session::tr("Finer cells"));
    emit session.message(Session::tr("Cells of %1, the shape is the same").arg(metres_text(fine->cell_m)));
}

void coarser_cells(Session& session) {
    const Brush* mass = mass_of(session);
    if (!mass) return;
    const auto coarse = edit::coarsened(mass->cells);
    if (!coarse) {
        emit session.message(Session::tr("Cells cannot get any coarser"));
        return;
    }
    if (coarse->changed > 0 && session.selected_items().warns_first(mass->cells)) {
        emit session.message(Session::tr("Cells of %1 would lose the shape of %2. Ask again to do it anyway")
                                 .arg(metres_text(coarse->grid.cell_m),
                                      counted(coarse->changed, Session::tr("cell"), Session::tr("cells"))));
        return;
    }
    session.selected_items().mark({});
    session.apply(with_cells(session.stored_level(), session.selected()->id, coarse->grid),
                  Session::tr("Coarser cells"));
}

void mass_to_brushes(Session& session) {
    const Brush* mass = mass_of(session);
    if (!mass) return;
    const std::vector<Brush> brushes = edit::brushes_of(*mass);
    if (brushes.size() > k_most_brushes) {
        emit session.message(Session::tr("That would make %1 brushes: too many").arg(brushes.size()));
        return;
    }
    const Item& mass_item = *session.selected();
    Group group;
    for (size_t i = 0; i < brushes.size(); ++i)
        group.items.push_back(Item{{"p" + std::to_string(i)}, {}, false, brushes[i], {}});
    Level level = session.stored_level();
    const Item made = edit::with_fresh_ids(level, Item{{"g1"}, mass_item.name, mass_item.hidden, group, {}});
    level = edit::without(edit::with_item_after(level, mass_item.id, made), std::vector{mass_item.id});
    session.apply(level, Session::tr("Mass into brushes"));
    session.select({made.id});
}

} // namespace rubble::app
