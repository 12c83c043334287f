#include "commands/editing.h"

#include <algorithm>

#include "clipboard_text.h"
#include "edit/brushes.h"
#include "edit/items.h"
#include "edit/pieces.h"
#include "edit/repeats.h"
#include "level/order.h"
#include "numbers.h"

namespace rubble::app {

namespace {

/// Makes a change that brings new items, and selects them.
void apply_made(Session& session, edit::Copies made, const QString& what) {
    if (made.ids.empty()) return;
    session.apply(std::move(made.level), what);
    session.select(made.ids);
}

} // namespace

void copy_selection(Session& session) {
    if (session.selection().empty()) return;
    put_on_clipboard(edit::copied(session.level(), session.selection()));
    emit session.message(Session::tr("Copied"));
}

void cut_selection(Session& session) {
    copy_selection(session);
    delete_selection(session);
}

void paste_at(Session& session, const Vec3& place) {
    const auto clip = clip_from_clipboard();
    if (!clip) {
        emit session.message(Session::tr("There is nothing on the clipboard that can be pasted here"));
        return;
    }
    const Vec3 at = edit::snapped(place, session.grid_m());
    apply_made(session, edit::pasted(session.level(), session.layer(), *clip, {at.x, at.y, place.z}),
               Session::tr("Paste"));
}

void duplicate_selection(Session& session) {
    const double step = session.grid_m();
    apply_made(session, edit::duplicated(session.level(), session.selection(), {step, step, 0}),
               Session::tr("Duplicate"));
}

void duplicate_linked(Session& session) {
    const double step = session.grid_m();
    apply_made(session, edit::linked_copies(session.stored_level(), session.selection(), {step, step, 0}),
               Session::tr("Duplicate, linked"));
}

void link_selection(Session& session) {
    const auto after = edit::linked(session.stored_level(), session.selection());
    if (after)
        session.apply(*after, Session::tr("Make linked copies"));
    else
        emit session.message(Session::tr("Select brushes, or groups that hold as many: the others become "
                                         "linked copies of the first. What is linked already stays so"));
}

void unlink_selection(Session& session) {
    session.apply(edit::unlinked(session.stored_level(), session.selection()),
                  Session::tr("Make independent"));
}

void select_linked(Session& session) {
    std::vector<ItemId> all = session.selection();
    for (const ItemId& id : session.selection())
        for (const ItemId& other : edit::linked_to(session.level(), id))
            if (std::find(all.begin(), all.end(), other) == all.end()) all.push_back(other);
    session.select(all);
}

void delete_selection(Session& session) {
    if (session.selection().empty()) return;
    const std::vector<ItemId> ids = session.selection();
    session.select({});
    session.apply(edit::without(session.level(), ids), Session::tr("Delete"));
}

void group_selection(Session& session) {
    apply_made(session, edit::grouped(session.level(), session.selection()), Session::tr("Group"));
}

void ungroup_selection(Session& session) {
    apply_made(session, edit::ungrouped(session.level(), session.selection()), Session::tr("Ungroup"));
}

void move_in_order(Session& session, bool later) {
    const Level after = edit::moved_in_order(session.stored_level(), session.selection(), later);
    if (after == session.stored_level()) {
        emit session.message(later ? Session::tr("It is already the last in its layer")
                                   : Session::tr("It is already the first in its layer"));
        return;
    }
    session.apply(after, later ? Session::tr("Later in order") : Session::tr("Earlier in order"));
}

void select_all(Session& session) {
    std::vector<ItemId> ids;
    for (const auto& layer : session.level().layers)
        for (const ItemPtr& item : layer->items) ids.push_back(item->id);
    session.select(ids);
}

void nudge_selection(Session& session, const Vec3& steps) {
    if (session.selection().empty()) return;
    // Pieces go by their module, all else by the grid.
    const auto module = edit::module_of(session.project(), session.level(), session.selection());
    const Vec3 step = module ? *module * session.looking().module_part() : Vec3(session.grid_m());
    session.apply(edit::moved(session.level(), session.selection(), steps * step), Session::tr("Nudge"));
}

void scale_grid(Session& session, double by) {
    constexpr double k_finest_m = 1.0 / 16, k_coarsest_m = 8;
    Project project = session.project();
    project.grid_m = std::clamp(project.grid_m * by, k_finest_m, k_coarsest_m);
    if (project.grid_m == session.grid_m()) return;
    session.apply(std::move(project), Session::tr("Grid"));
    emit session.message(Session::tr("Grid %1 m").arg(plain_number(session.grid_m())));
}

void drop_note(Session& session, const Vec3& at) {
    const Level& level = session.stored_level();
    const Item note{edit::fresh_id(level, kind_with(Role::note).id_prefix),
                    Session::tr("Note %1").arg(elements_of(level, Role::note).size() + 1).toStdString(),
                    false,
                    Element{kind_with(Role::note).key, at, 0, {}},
                    {}};
    session.apply(edit::with_item(level, session.layer(), note), Session::tr("Note"));
}

} // namespace rubble::app
