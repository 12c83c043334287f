#include "commands/assemblies.h"

#include <algorithm>

#include <QInputDialog>

#include "edit/assemblies.h"
#include "edit/project.h"
#include "numbers.h"

namespace rubble::app {

namespace {

/// The selected place of an assembly; null where none is.
const Item* selected_place(const Session& session) {
    const Item* item = session.selected();
    return item && item->assembly() ? item : nullptr;
}

QString asked_name(QWidget& window, const QString& title, const QString& proposed) {
    bool agreed = false;
    const QString name =
        QInputDialog::getText(&window, title, Session::tr("Name"), QLineEdit::Normal, proposed, &agreed);
    return agreed ? name.trimmed() : QString();
}

/// A document with a project and one of its levels changed, all others drawn from that project.
Document with_both(Session& session, Project project, Level level) {
    Document next = edit::with_project(session.document(), std::move(project));
    return edit::with_level(next, session.documents().level_index(),
                            with_files_of(*next.project, std::move(level)));
}

} // namespace

void make_assembly(Session& session, QWidget& window, QString name) {
    const auto& area = session.looking().picked_area();
    const size_t layers = area ? edit::tiles_within(session.stored_level(), *area).size() : 0;
    if (session.selection().empty() && layers == 0)
        return session.documents().show_message(
            Session::tr("Select what it should hold, or pick up an area of tiles"));
    if (name.isEmpty()) name = asked_name(window, Session::tr("Make an assembly"), Session::tr("Assembly"));
    if (name.isEmpty()) return;
    const auto made = edit::made_assembly(
        session.project(), session.stored_level(), session.selection(), name.toStdString(),
        edit::fresh_assembly_file(session.project(), name.toStdString()), layers > 0 ? area : std::nullopt);
    if (made.id.empty()) return;
    session.looking().set_picked_area({});
    if (layers > 0)
        session.documents().show_message(
            Session::tr("With the tiles of %1 in the area that was picked up")
                .arg(counted(int(layers), Session::tr("layer"), Session::tr("layers"))));
    session.documents().add(with_both(session, made.project, made.level), Session::tr("Make an assembly"));
    session.select({made.id});
}

void open_assembly(Session& session) {
    const Item* place = selected_place(session);
    const auto assembly = place ? place->assembly()->assembly : nullptr;
    if (!assembly) return session.documents().show_message(Session::tr("Select a place of an assembly"));
    session.looking().set_around({session.documents().level_index(), place->id});
    const auto& levels = session.document().levels;
    const auto known = std::find_if(levels.begin(), levels.end(),
                                    [&](const OpenLevel& open) { return open.assembly == assembly->file; });
    const size_t index = size_t(known - levels.begin());
    if (known == levels.end()) {
        Document next = session.document();
        Level level = with_files_of(*next.project, edit::level_of(*assembly, session.stored_level()));
        next.levels.push_back({{}, Shared<Level>(std::move(level)), assembly->file});
        session.documents().add(std::move(next), Session::tr("Open an assembly"));
    }
    session.documents().show_level(index);
    session.documents().show_message(uses_text(session, assembly->file));
}

void leave_assembly(Session& session) {
    const size_t index = session.documents().level_index();
    if (!session.document().levels[index].is_part()) return;
    size_t before = 0;
    for (size_t i = 0; i < session.document().levels.size(); ++i)
        if (!session.document().levels[i].is_part()) before = i;
    session.documents().show_level(before);
}

void derive_assembly(Session& session, QWidget& window, QString name) {
    const Item* place = selected_place(session);
    const auto original = place ? place->assembly()->assembly : nullptr;
    if (!original) return session.documents().show_message(Session::tr("Select a place of an assembly"));
    if (name.isEmpty())
        name = asked_name(window, Session::tr("Derive an assembly"),
                          Session::tr("%1, derived").arg(QString::fromStdString(original->name)));
    if (name.isEmpty()) return;
    const std::string file = edit::fresh_assembly_file(session.project(), name.toStdString());
    Project project = edit::with_assembly(
        session.project(), edit::derived(*original, name.toStdString(), file, place->assembly()->own));
    Level level = edit::with_own(session.stored_level(), place->id, {});
    level = edit::with_source(project, level, place->id, file);
    session.documents().add(with_both(session, std::move(project), std::move(level)),
                            Session::tr("Derive an assembly"));
}

void make_independent(Session& session) {
    const Item* place = selected_place(session);
    const auto original = place ? place->assembly()->assembly : nullptr;
    if (!original) return session.documents().show_message(Session::tr("Select a place of an assembly"));
    const std::string name =
        Session::tr("%1, apart").arg(QString::fromStdString(original->name)).toStdString();
    const auto made = edit::made_independent(session.project(), session.stored_level(), place->id, name,
                                             edit::fresh_assembly_file(session.project(), name));
    session.documents().add(with_both(session, made.project, made.level),
                            Session::tr("An assembly of its own"));
}

void make_plain_items(Session& session) {
    session.apply(edit::as_plain_items(session.stored_level(), session.selection()),
                  Session::tr("Plain items"));
}

void pass_up(Session& session, const ItemId& place, const std::string& item) {
    session.documents().add(
        edit::passed_up(session.document(), session.documents().level_index(), place, item),
        Session::tr("Pass up to the original"));
}

void give_back(Session& session, const ItemId& place, const std::string& item) {
    const Item* at = find_item(session.stored_level(), place);
    if (!at || !at->assembly()) return;
    OwnById own = at->assembly()->own;
    own.erase(item);
    session.apply(edit::with_own(session.stored_level(), place, std::move(own)),
                  Session::tr("Follow the original"));
}

QString uses_text(const Session& session, const std::string& file) {
    int places = 0, levels = 0;
    for (const int count : edit::uses_of(session.document(), file)) places += count, levels += count > 0;
    return Session::tr("A change here changes %1 in %2")
        .arg(counted(places, Session::tr("place"), Session::tr("places")),
             counted(levels, Session::tr("level"), Session::tr("levels")));
}

} // namespace rubble::app
