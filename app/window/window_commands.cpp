#include "finding_walk.h"
#include "suggest_watch.h"
#include "window/main_window.h"

#include <cmath>

#include "commands/assemblies.h"
#include "commands/beginnings.h"
#include "commands/casts.h"
#include "commands/dressing.h"
#include "commands/editing.h"
#include "commands/finals.h"
#include "commands/kits.h"
#include "commands/layer_scheme.h"
#include "commands/massing.h"
#include "commands/outlines.h"
#include "commands/pieces.h"
#include "commands/props.h"
#include "commands/reshaping.h"
#include "commands/sheets.h"
#include "kinds/element_kinds_dialog.h"
#include "numbers.h"
#include "parcels/parcel_dialog.h"
#include "tools/item_handles.h"
#include "tools/tool_list.h"
#include "window/arrangement.h"
#include "window/first_minute.h"
#include "window/history_list.h"
#include "window/welcome.h"

namespace rubble::app {

// The commands of the window and their keys: what `MainWindow` can be asked for by name.

void MainWindow::build_commands() {
    commands_ = new Commands(*this, [this] { return space_->walking(); });
    history_ = new HistoryList(
        session_, [this] { return space_->isVisible() ? space_->grabFramebuffer() : QImage(); }, this);
    repeat_ = new RepeatPanel(session_, *this);
    items_ = new ItemFinder(session_, *this);
    connect(items_, &ItemFinder::wanted, this, [this](const Box3& box) {
        space_->show_where(box);
        plan_->show_where(box);
    });
    build_file_commands();
    build_edit_commands();
    build_view_commands();
    build_tool_commands();
    build_snapping();
    build_reshaping();
    build_check_commands();
    build_help_commands();
    commands_->fill(*menuBar());
    add_recent_files();
}

void MainWindow::add_command(const char* id, const QString& name, const QKeySequence& key,
                             std::function<void()> run) {
    commands_->add(QString::fromLatin1(id), name, key, std::move(run));
}

void MainWindow::build_file_commands() {
    commands_->begin(Menu::file);
    add_command("new", tr("New level"), QKeySequence::New, [this] { files_->start_new(); });
    add_command("new-side", tr("New Side level"), {}, [this] { files_->start_new(Frame::side); });
    add_command("new-plan", tr("New Plan level"), {}, [this] { files_->start_new(Frame::plan); });
    add_command("open", tr("Open"), QKeySequence::Open, [this] { files_->ask_and_open(); });
    commands_->begin(Menu::file);
    add_command("save", tr("Save"), QKeySequence::Save, [this] { files_->save(); });
    add_command("save-as", tr("Save as"), Qt::CTRL | Qt::SHIFT | Qt::Key_S,
                [this] { files_->save_elsewhere(); });
    commands_->begin(Menu::file);
    add_command("export", tr("Export"), Qt::CTRL | Qt::Key_E, [this] { files_->export_level(); });
    add_command("lay-finals", tr("Lay finals in the place of the grey ones"),
                Qt::CTRL | Qt::ALT | Qt::SHIFT | Qt::Key_F, [this] { lay_finals(session_); });
    add_command("show-finals", tr("Show finals, or the grey ones"),
                Qt::CTRL | Qt::ALT | Qt::SHIFT | Qt::Key_G, [this] { toggle_finals(session_); });
    add_command("save-version", tr("Save a version…"), Qt::CTRL | Qt::ALT | Qt::SHIFT | Qt::Key_S,
                [this] { save_version(); });
    add_command("begin-from", tr("Begin from another level…"), Qt::CTRL | Qt::ALT | Qt::SHIFT | Qt::Key_N,
                [this] {
                    if (files_->may_lose_work()) begin_from_level(session_, *this);
                });
    add_command("bring-outlines", tr("Bring in outlines from a drawing…"), Qt::CTRL | Qt::Key_F9,
                [this] { bring_in_outlines(session_, *this); });
    add_command("begin", tr("What to begin with…"), Qt::CTRL | Qt::ALT | Qt::Key_L, [this] { welcome(); });
    add_command("parcel", tr("Make a parcel…"), Qt::CTRL | Qt::SHIFT | Qt::Key_E, [this] {
        ParcelDialog dialog(
            session_, [this] { return pictures_of_places(); }, this);
        if (dialog.exec() == QDialog::Accepted)
            status_->tell(tr("The parcel is in %1").arg(dialog.written()));
    });
    commands_->begin(Menu::file);
    add_command("project", tr("Project and its levels…"), Qt::CTRL | Qt::Key_F11,
                [this] { open_project_page(); });
    add_command("settings", tr("Settings…"), Qt::CTRL | Qt::Key_F12, [this] { open_settings(); });
    commands_->begin(Menu::file);
    add_command("quit", tr("Quit"), Qt::CTRL | Qt::Key_Q, [this] { close(); });
}

/// Levels and projects that were open before, in the file menu.
void MainWindow::welcome() {
    Welcome dialog(this);
    connect(&dialog, &Welcome::fileChosen, this, [this](const QString& path) {
        const QString demo = QStringLiteral("demo:");
        if (!path.startsWith(demo)) return files_->ask_and_open(path);
        const QString folder = own_demo();
        if (folder.isEmpty())
            return status_->tell(tr("The demo project cannot be copied into your documents"));
        files_->ask_and_open(folder + path.mid(demo.size()));
    });
    connect(&dialog, &Welcome::newChosen, this, [this](Frame frame) { files_->start_new(frame); });
    dialog.exec();
    if (!FirstMinute::done() && session_.level().frame == Frame::space && !space_->findChild<FirstMinute*>())
        new FirstMinute(session_, *space_);
}

void MainWindow::add_recent_files() {
    QMenu* file = menuBar()->actions().first()->menu();
    auto* recent = new QMenu(tr("Open recent"), this);
    file->insertMenu(commands_->find(QStringLiteral("save"))->action, recent);
    connect(recent, &QMenu::aboutToShow, this, [this, recent] {
        recent->clear();
        for (const QString& path : recent_files())
            connect(recent->addAction(QDir::toNativeSeparators(path)), &QAction::triggered, this,
                    [this, path] { files_->ask_and_open(path); });
        if (recent->isEmpty()) recent->addAction(tr("Nothing yet"))->setEnabled(false);
    });
}

void MainWindow::build_edit_commands() {
    commands_->begin(Menu::edit);
    add_command("history", tr("History…"), Qt::CTRL | Qt::SHIFT | Qt::Key_H, [this] { history_->show(); });
    add_command("undo", tr("Undo"), QKeySequence::Undo, [this] {
        status_->tell(session_.documents().undo_text().isEmpty()
                          ? tr("Nothing to undo")
                          : tr("Undone: %1").arg(session_.documents().undo_text()));
        session_.documents().undo();
    });
    add_command("redo", tr("Redo"), Qt::CTRL | Qt::SHIFT | Qt::Key_Z, [this] {
        status_->tell(session_.documents().redo_text().isEmpty()
                          ? tr("Nothing to redo")
                          : tr("Done again: %1").arg(session_.documents().redo_text()));
        session_.documents().redo();
    });
    commands_->begin(Menu::edit);
    add_command("cut", tr("Cut to the clipboard"), QKeySequence::Cut, [this] { cut_selection(session_); });
    add_command("copy", tr("Copy"), QKeySequence::Copy, [this] { copy_selection(session_); });
    add_command("paste", tr("Paste"), QKeySequence::Paste,
                [this] { paste_at(session_, pointed_ ? pointed_->pointer_ground() : Vec3(0)); });
    add_command("delete", tr("Delete"), QKeySequence::Delete, [this] {
        // Nobody who picked an edge means the whole brush; a body without a face would have a hole.
        session_.picks().empty() ? delete_selection(session_) : join_faces(session_);
    });
    commands_->begin(Menu::edit);
    add_command("duplicate", tr("Duplicate"), Qt::CTRL | Qt::Key_D,
                [this] { duplicate_selection(session_); });
    add_command("duplicate-linked", tr("Duplicate, linked"), Qt::CTRL | Qt::SHIFT | Qt::Key_D,
                [this] { duplicate_linked(session_); });
    add_command("repeat", tr("Repeat the selection"), Qt::CTRL | Qt::Key_R, [this] { repeat_->open(); });
    add_command("link", tr("Make linked copies of the first selected"), Qt::CTRL | Qt::Key_L,
                [this] { link_selection(session_); });
    add_command("unlink", tr("Make independent of linked copies"), {},
                [this] { unlink_selection(session_); });
    commands_->begin(Menu::edit);
    add_command("group", tr("Group"), Qt::CTRL | Qt::Key_G, [this] { group_selection(session_); });
    add_command("ungroup", tr("Ungroup"), Qt::CTRL | Qt::SHIFT | Qt::Key_G,
                [this] { ungroup_selection(session_); });
    add_command("later", tr("Later in the order of fills and cuts"), Qt::CTRL | Qt::Key_Up,
                [this] { move_in_order(session_, true); });
    add_command("earlier", tr("Earlier in the order of fills and cuts"), Qt::CTRL | Qt::Key_Down,
                [this] { move_in_order(session_, false); });
    commands_->begin(Menu::edit);
    add_command("select-all", tr("Select all"), QKeySequence::SelectAll, [this] { select_all(session_); });
    add_command("select-linked", tr("Select all linked copies"), {}, [this] { select_linked(session_); });
    add_command("find-item", tr("Find an item"), QKeySequence::Find, [this] { items_->open(); });
    add_command("lost-items", tr("Find lost items"), {}, [this] { items_->open(QStringLiteral("lost")); });
    build_nudges();
}

void MainWindow::build_view_commands() {
    commands_->begin(Menu::view);
    add_command("frame-all", tr("Frame all"), Qt::Key_Home,
                [this] { space_->frame_all(), plan_->frame_all(); });
    add_command("where", tr("Where is the selection"), Qt::SHIFT | Qt::Key_Home, [this] {
        const Box3 box = selection_box(session_);
        if (!box.empty()) space_->show_where(box), plan_->show_where(box);
    });
    add_command("isolate", tr("Isolate the selection, or show all again"), Qt::CTRL | Qt::Key_I, [this] {
        session_.isolate(!session_.looking().isolated().empty() ? std::vector<ItemId>{}
                                                                : session_.selection());
        status_->tell(!session_.looking().isolated().empty()
                          ? tr("Only the selection is shown. Ctrl+I shows all again")
                          : tr("All is shown"));
    });
    commands_->begin(Menu::view);
    add_command("plan", tr("View beside"), Qt::Key_P, [this] { show_plan(!plan_->isVisible()); });
    add_command("beside-plan", tr("Beside: plan"), Qt::SHIFT | Qt::Key_P,
                [this] { show_beside(Camera::Kind::above); });
    add_command("beside-front", tr("Beside: front"), Qt::SHIFT | Qt::Key_F,
                [this] { show_beside(Camera::Kind::front); });
    add_command("beside-side", tr("Beside: right side"), Qt::SHIFT | Qt::Key_E,
                [this] { show_beside(Camera::Kind::right); });
    add_command("slice", tr("Slice: only the depth of the selection beside"), Qt::Key_5, [this] {
        show_plan(true);
        plan_->set_slice(plan_->camera().slice ? Box3{} : selection_box(session_));
    });
    commands_->begin(Menu::view);
    const std::tuple<ViewMode, const char*, QString, QKeySequence> modes[] = {
        {ViewMode::plain, "mode-plain", tr("Show: plain"), Qt::Key_1},
        {ViewMode::wire, "mode-wire", tr("Show: wire"), Qt::Key_2},
        {ViewMode::slope, "mode-slope", tr("Show: slopes"), Qt::Key_3},
        {ViewMode::collision, "mode-collision", tr("Show: collision"), Qt::Key_4},
        {ViewMode::size, "mode-size", tr("Show: heights against the character"), Qt::Key_6},
        {ViewMode::grey, "mode-grey", tr("Show: grey"), Qt::Key_9},
        {ViewMode::day, "mode-day", tr("Show: dressed, by day"), Qt::ALT | Qt::Key_9},
        {ViewMode::density, "mode-density", tr("Show: dots to the metre of pictures"),
         Qt::SHIFT | Qt::Key_9}};
    for (const auto& [mode, id, name, key] : modes)
        add_command(id, name, key, [this, mode = mode] { space_->set_mode(mode), plan_->set_mode(mode); });
    commands_->begin(Menu::view);
    const auto overlay = [this](Overlay wanted) {
        const bool again = session_.looking().overlay() == wanted;
        session_.looking().set_overlay(again ? Overlay::usual : wanted);
        space_->update(), plan_->update();
    };
    add_command("ground-seconds", tr("Ground: seconds from the start"), Qt::SHIFT | Qt::Key_1,
                [overlay] { overlay(Overlay::seconds); });
    add_command("ground-lost", tr("Ground: what is lost without the selection"), Qt::SHIFT | Qt::Key_2,
                [overlay] { overlay(Overlay::lost); });
    add_command("ground-headroom", tr("Ground: room over the head"), Qt::SHIFT | Qt::Key_3,
                [overlay] { overlay(Overlay::headroom); });
    add_command("ground-seen", tr("Ground: where the selection is seen from"), Qt::SHIFT | Qt::Key_4,
                [overlay] { overlay(Overlay::seen); });
    commands_->begin(Menu::view);
    // In the panels themselves the key goes from one field to the next.
    commands_->add_within({space_, plan_}, QStringLiteral("panels"), tr("Hide the panels"), Qt::Key_Tab,
                          [this] {
                              const bool show = !tray_->isVisible();
                              tray_->setVisible(show), facts_->setVisible(show), desk_->setVisible(show);
                          });
    add_command("next-panel", tr("To the next panel"), Qt::CTRL | Qt::Key_Tab, [this] { go_to_panel(1); });
    add_command("previous-panel", tr("To the panel before"), Qt::CTRL | Qt::SHIFT | Qt::Key_Tab,
                [this] { go_to_panel(-1); });
    commands_->begin(Menu::view, tr("Stage"));
    for (int i = 0; i < 6; ++i)
        commands_->add(QStringLiteral("stage-%1").arg(i + 1), tr("Stage: %1").arg(stage_name(Stage(i))),
                       QKeySequence(Qt::Key_F1 + i), [this, i] { session_.go_to(Stage(i)); });
}

/// Every tool of the list is a command.
void MainWindow::build_tool_commands() {
    commands_->begin(Menu::level, tr("Tools"));
    for (const ToolEntry& tool : all_tools()) {
        const QString id = QString::fromLatin1(tool.id);
        commands_->add(QStringLiteral("tool-") + id, tool.command(),
                       tool.key == k_no_key ? QKeySequence() : QKeySequence(tool.key),
                       [this, id] { use_tool(id); });
    }
    const auto set_keys = [this] {
        tray_->set_keys([this](const QString& tool) {
            const auto* command = commands_->find(QStringLiteral("tool-") + tool);
            return command ? command->action->shortcut().toString(QKeySequence::NativeText) : QString();
        });
    };
    connect(commands_, &Commands::keysChanged, this, set_keys);
    set_keys();
    commands_->begin(Menu::level);
    add_command("underlay", tr("Lay a picture under the level"), {}, [this] {
        const Camera& camera = plan_->isVisible() ? plan_->camera() : space_->camera();
        const int axis = camera.kind == Camera::Kind::front ? 1 : camera.kind == Camera::Kind::right ? 0 : 2;
        if (files_->add_underlay(axis, {camera.target.x, camera.target.y, axis == 2 ? 0 : camera.target.z}))
            use_tool(QStringLiteral("underlay"));
    });
    add_command("element-kinds", tr("Kinds of elements of this project"), Qt::CTRL | Qt::ALT | Qt::Key_K,
                [this] {
                    ElementKindsDialog dialog(session_.project(), this);
                    if (dialog.exec() != QDialog::Accepted) return;
                    Project project = session_.project();
                    project.element_kinds = dialog.kinds();
                    session_.apply(std::move(project), tr("Kinds of elements"));
                });
    commands_->begin(Menu::level, tr("Pieces"));
    add_command("bring-pieces", tr("Bring pieces in"), {}, [this] {
        if (bring_in_pieces(session_, *this)) tray_->offer_pieces(true);
    });
    add_command("cast", tr("Cast a level by chance"), Qt::CTRL | Qt::ALT | Qt::Key_C, [this] {
        if (cast_level(session_, *this)) space_->frame_all(), plan_->frame_all();
    });
    add_command("make-assembly", tr("Make an assembly of the selection"), Qt::CTRL | Qt::ALT | Qt::Key_G,
                [this] { make_assembly(session_, *this); });
    add_command("next-fitting", tr("Take the next piece that fits here"), Qt::Key_Semicolon, [this] {
        for (LevelView* view : {space_, plan_})
            if (view->tool() && view->tool()->next_fitting()) return view->update();
        status_->tell(tr("Point at an open joint with a piece in the hand"));
    });
    add_command("make-piece", tr("Make a piece of the selected brushes"), Qt::CTRL | Qt::ALT | Qt::Key_P,
                [this] { make_piece(session_, *this); });
    add_command("copy-piece", tr("Copy the piece under another name"), {},
                [this] { copy_piece(session_, *this); });
    add_command("edit-pieces", tr("What the kit says of its pieces"), Qt::CTRL | Qt::ALT | Qt::Key_E,
                [this] { edit_pieces(session_, *this); });
    add_command("open-assembly", tr("Open the selected assembly or piece"), Qt::ALT | Qt::Key_Return, [this] {
        const Item* item = session_.selected();
        if (item && item->assembly())
            open_assembly(session_);
        else
            open_piece(session_);
    });
    add_command("around", tr("Show the level around what is open by itself, or not"), Qt::ALT | Qt::Key_A,
                [this] {
                    session_.looking().set_shows_around(!session_.looking().shows_around());
                    space_->update(), plan_->update();
                });
    add_command("leave-assembly", tr("Back to the level"), Qt::ALT | Qt::Key_Backspace,
                [this] { leave_assembly(session_); });
    add_command("derive-assembly", tr("Derive from the selected assembly"), {},
                [this] { derive_assembly(session_, *this); });
    add_command("independent-assembly", tr("Give the selected place an assembly of its own"), {},
                [this] { make_independent(session_); });
    add_command("plain-items", tr("Make the selected assemblies plain items"), {},
                [this] { make_plain_items(session_); });
    commands_->begin(Menu::level, tr("Tiles"));
    add_command("bring-sheet", tr("Bring in a sheet of tiles"), {},
                [this] { bring_in_sheet(session_, *this); });
    add_command("grey-sheet", tr("Begin with a grey sheet of tiles"), {},
                [this] { add_grey_sheet(session_, *this); });
    add_command("edit-sheet", tr("Cut and collision of the sheet"), {},
                [this] { edit_sheet(session_, *this); });
    add_command("tile-layer", tr("Add a layer of tiles"), {}, [this] { add_tile_layer(session_); });
    add_command("clothe", tr("Clothe the solid layer with the ground"), {}, [this] { clothe(session_); });
    add_command("layers-to-project", tr("Make these the layers of all levels"), {},
                [this] { make_layer_scheme(session_); });
    add_command("layers-from-project", tr("Take over the project's layers"), {},
                [this] { offer_layer_scheme(session_, *this); });
    add_command("edge-anew", tr("Edge the ground anew"), {}, [this] { edge_anew(session_); });
    add_command("stamp-mirror", tr("Mirror the tile in the hand"), Qt::Key_Comma,
                [this] { mirror_stamp(session_), space_->update(); });
    add_command("stamp-turn", tr("Turn the tile in the hand"), Qt::Key_Period,
                [this] { turn_stamp(session_), space_->update(); });
    commands_->begin(Menu::level);
    add_command("grid-finer", tr("Finer grid"), Qt::CTRL | Qt::Key_Comma,
                [this] { scale_grid(session_, 0.5); });
    add_command("grid-coarser", tr("Coarser grid"), Qt::CTRL | Qt::Key_Period,
                [this] { scale_grid(session_, 2); });
}

void MainWindow::build_check_commands() {
    commands_->begin(Menu::check);
    add_command("walk", tr("Walk from here"), Qt::Key_G, [this] { start_walk(); });
    add_command("walk-fills", tr("Walk in the whole window, or beside the panels"), {}, [this] {
        walks_->set_fill_window(!walks_->fill_window());
        status_->tell(walks_->fill_window() ? tr("Walks fill the window")
                                            : tr("Walks leave the panels where they are"));
    });
    commands_->begin(Menu::check);
    add_command("suggest", tr("Suggest what to add"), Qt::CTRL | Qt::Key_Space, [this] { suggest_->ask(); });
    commands_->begin(Menu::check, tr("Watch"));
    const auto watching = [this](const std::function<void()>& act) {
        if (!run_player_.playing())
            return status_->tell(tr("Nothing is being watched: choose a claim, then “Watch the run”"));
        act();
    };
    add_command("watch-slower", tr("Watch slower"), Qt::ALT | Qt::Key_Comma,
                [this, watching] { watching([this] { run_player_.change_speed(false), tell_watching(); }); });
    add_command("watch-faster", tr("Watch faster"), Qt::ALT | Qt::Key_Period,
                [this, watching] { watching([this] { run_player_.change_speed(true), tell_watching(); }); });
    add_command("watch-pause", tr("Hold the run, go on"), Qt::ALT | Qt::Key_Space,
                [this, watching] { watching([this] { run_player_.pause_or_go_on(); }); });
    add_command("watch-follow", tr("Watch from behind, from above, or staying"), Qt::ALT | Qt::Key_V, [this] {
        follow_ = follow_ == Follow::stays    ? Follow::behind
                  : follow_ == Follow::behind ? Follow::above
                                              : Follow::stays;
        tell_watching();
    });
    add_command("watch-stop", tr("Stop watching"), Qt::ALT | Qt::Key_W,
                [this, watching] { watching([this] { run_player_.stop(); }); });
    commands_->begin(Menu::edit, tr("Dress"));
    const std::tuple<const char*, QString, edit::FacesLike, int> alike[] = {
        {"faces-plane", tr("Faces: all in its plane"), edit::FacesLike::in_plane, Qt::Key_F},
        {"faces-direction", tr("Faces: all of the layer that look this way"), edit::FacesLike::of_direction,
         Qt::Key_D},
        {"faces-brush", tr("Faces: all of the brush"), edit::FacesLike::of_brush, Qt::Key_B},
        {"faces-material", tr("Faces: all of its material"), edit::FacesLike::of_material, Qt::Key_M},
        {"faces-ring", tr("Faces: the ring around the brush"), edit::FacesLike::ring, Qt::Key_R}};
    for (const auto& [id, name, like, key] : alike)
        add_command(id, name, QKeySequence(Qt::CTRL | Qt::ALT | Qt::Key(key)),
                    [this, like = like] { pick_faces_like(session_, like); });
    add_command("lay-quarter", tr("Picture: a quarter turn"), Qt::CTRL | Qt::ALT | Qt::Key_Q, [this] {
        change_lays(session_, tr("A quarter turn"),
                    [](Lay& lay) { lay.turn_deg = std::remainder(lay.turn_deg + 90, 360); });
    });
    add_command("lay-half", tr("Picture: half a repeat aside"), Qt::CTRL | Qt::ALT | Qt::Key_H,
                [this] { shift_lays_by_half(session_); });
    add_command("lay-run-on", tr("Picture: run on round the corner"), Qt::CTRL | Qt::ALT | Qt::Key_O,
                [this] { run_lays_on(session_); });
    add_command("lay-fit", tr("Picture: fit onto the faces as one"), Qt::CTRL | Qt::ALT | Qt::Key_T,
                [this] { fit_lays(session_); });
    add_command("bare-next", tr("Next bare face"), Qt::CTRL | Qt::ALT | Qt::Key_N, [this] {
        session_.go_to(Stage::dress);
        const auto box = pick_next_bare(session_);
        if (!box) return;
        for (LevelView* view : {space_, plan_}) view->fly_to(box->middle()), view->show_where(*box);
    });
    add_command("bare-dress", tr("Dress what is bare"), Qt::CTRL | Qt::ALT | Qt::Key_A,
                [this] { dress_bare(session_); });
    add_command("prop-set-down", tr("Props: set down"), Qt::CTRL | Qt::ALT | Qt::Key_J,
                [this] { set_props_down(session_); });
    add_command("strew", tr("Props: strew over the faces…"), Qt::CTRL | Qt::ALT | Qt::Key_S,
                [this] { strew_props(session_, *this); });
    add_command("material-pictures", tr("Add pictures of materials…"), Qt::CTRL | Qt::ALT | Qt::Key_I,
                [this] { add_material_pictures(session_, *this); });
    commands_->begin(Menu::check);
    add_command("show-pace", tr("Pace of the route"), Qt::ALT | Qt::Key_1,
                [this] { desk_->show_page(StudyDesk::pace); });
    add_command("show-spans", tr("Table of spans"), Qt::ALT | Qt::Key_2,
                [this] { desk_->show_page(StudyDesk::spans); });
    add_command("show-players", tr("Simulated players"), Qt::ALT | Qt::Key_3,
                [this] { desk_->show_page(StudyDesk::players); });
    add_command("show-what-if", tr("What if the metrics were others"), Qt::ALT | Qt::Key_4,
                [this] { desk_->show_page(StudyDesk::what_if); });
    add_command("show-versions", tr("What changed since an earlier version"), Qt::ALT | Qt::Key_5,
                [this] { desk_->show_page(StudyDesk::versions); });
    add_command("show-sides", tr("Whether both sides are fair"), Qt::ALT | Qt::Key_6,
                [this] { desk_->show_page(StudyDesk::sides); });
    add_command("keep-version", tr("Keep this state to compare with"), Qt::ALT | Qt::SHIFT | Qt::Key_K,
                [this] {
                    desk_->versions_page().keep_state();
                    status_->tell(tr("This state is kept until the level is closed"));
                });
    add_command("change-next", tr("Next change since then"), Qt::ALT | Qt::SHIFT | Qt::Key_Down,
                [this] { desk_->versions_page().go(1); });
    add_command("change-previous", tr("Change before"), Qt::ALT | Qt::SHIFT | Qt::Key_Up,
                [this] { desk_->versions_page().go(-1); });
    commands_->begin(Menu::check);
    add_command("finding-next", tr("Next finding"), Qt::ALT | Qt::Key_Down, [this] { finding_walk_->go(1); });
    add_command("finding-previous", tr("Finding before"), Qt::ALT | Qt::Key_Up,
                [this] { finding_walk_->go(-1); });
    add_command("finding-excuse", tr("Excuse this finding …"), Qt::ALT | Qt::Key_X,
                [this] { finding_walk_->excuse(); });
    add_command("rule-off", tr("Never look for what this finding is of"), {},
                [this] { finding_walk_->leave_rule_out(); });
    add_command("rules-on", tr("Look for all kinds of findings again"), {},
                [this] { finding_walk_->look_for_all_again(); });
    add_command("show-check", tr("What was found"), {}, [this] { session_.go_to(Stage::check); });
}

void MainWindow::build_help_commands() {
    guide_ = new Guide(*commands_, *this);
    finder_ = new CommandFinder(*commands_, *this);
    commands_->begin(Menu::help);
    add_command("guide", tr("Guide"), Qt::SHIFT | Qt::Key_F1,
                [this] { guide_->open_at(stage_name(session_.stage())); });
    add_command("guide-here", tr("Guide: about the field or finding one is at"), Qt::CTRL | Qt::Key_F1,
                [this] {
                    const QString what = what_one_is_at();
                    if (!guide_->open_about(what)) guide_->open_at(stage_name(session_.stage()));
                });
    add_command("keys", tr("Keys"), {}, [this] { guide_->open_at(Guide::keys_heading()); });
    commands_->begin(Menu::help);
    add_command("find-command", tr("Find a command"), Qt::CTRL | Qt::Key_J, [this] { finder_->open(); });
}

/// What is snapped to, and the plane that is drawn on.
void MainWindow::build_snapping() {
    commands_->begin(Menu::level, tr("Snapping"));
    const std::tuple<const char*, QString, bool Snapping::*> kinds[] = {
        {"snap-grid", tr("Snap to the grid"), &Snapping::grid},
        {"snap-edges", tr("Snap to edges of others"), &Snapping::edges},
        {"snap-corners", tr("Snap to corners of others"), &Snapping::corners},
        {"snap-turn", tr("Snap to the turn step"), &Snapping::turn}};
    for (const auto& [id, name, kind] : kinds)
        commands_->add(QString::fromLatin1(id), name, {}, [this, kind = kind] {
            Snapping snapping = session_.snapping();
            snapping.*kind = !(snapping.*kind);
            session_.looking().set_snapping(snapping);
        });
    commands_->add(QStringLiteral("snap"), tr("Snapping on or off"), Qt::SHIFT | Qt::Key_G, [this] {
        const bool any = !(session_.snapping() == Snapping{false, false, false, false});
        session_.looking().set_snapping(any ? Snapping{false, false, false, false} : Snapping{});
    });
    session_.looking().set_snapping(remembered_snapping());
    connect(&session_, &Session::snappingChanged, this, [this] { remember_snapping(session_.snapping()); });
    commands_->begin(Menu::level);
    commands_->add(QStringLiteral("working-plane"), tr("Working plane: the face pointed at, or none"),
                   Qt::Key_Y, [this] {
                       const auto face = pointed_ ? pointed_->pointed_face() : std::nullopt;
                       const bool clears = !face || (session_.plane() && session_.plane()->n == face->n &&
                                                     std::abs(session_.plane()->to_own(face->at).z) < 1e-6);
                       session_.looking().set_plane(clears ? std::nullopt : face);
                       status_->tell(session_.plane()
                                         ? tr("Drawing on this plane now. Press Y on it again to leave it")
                                         : tr("Drawing on the surface pointed at"));
                   });
}

/// Raises what is marked of a mass; false where nothing is.
bool MainWindow::raise_mass(int by) { return tool_ && tool_->raise(by); }

/// What is done with the points, edges and faces that are picked, by grid steps.
void MainWindow::build_reshaping() {
    commands_->begin(Menu::level, tr("Reshape"));
    add_command("push-out", tr("Push the face out"), Qt::Key_Plus, [this] {
        if (!raise_mass(1)) push_faces(session_, session_.grid_m());
    });
    add_command("push-in", tr("Push the face in"), Qt::Key_Minus, [this] {
        if (!raise_mass(-1)) push_faces(session_, -session_.grid_m());
    });
    add_command("inset", tr("Inset the face"), Qt::SHIFT | Qt::Key_Minus,
                [this] { inset_faces(session_, session_.grid_m() / 2); });
    add_command("pick-row", tr("Pick the whole ring or row"), Qt::SHIFT | Qt::Key_W,
                [this] { pick_rows(session_); });
    add_command("split-ring", tr("Split the edge ring in the middle"), Qt::SHIFT | Qt::Key_S,
                [this] { split_rings(session_, {0.5}); });
    add_command("round-edges", tr("Round the edges"), Qt::SHIFT | Qt::Key_R,
                [this] { round_edges(session_, session_.grid_m() / 2, 6); });
    add_command("chamfer-edges", tr("Chamfer the edges"), {},
                [this] { round_edges(session_, session_.grid_m() / 2, 1); });
    add_command("join-faces", tr("Join faces in one plane"), Qt::SHIFT | Qt::Key_V,
                [this] { join_faces(session_); });
    add_command("straighten", tr("Straighten faces into one"), {}, [this] { straighten_faces(session_); });
    add_command("weld", tr("Weld points that lie on each other"), {},
                [this] { weld_points(session_, 0.01); });
    commands_->begin(Menu::level, tr("Massing"));
    add_command("mark-top", tr("Mark the top of the selected mass"), {}, [this] { mark_top(session_); });
    add_command("mark-alike", tr("Mark all cells of this level or slope"), {},
                [this] { mark_alike(session_); });
    add_command("dig-through", tr("Dig through the marked area"), {}, [this] { dig_area(session_); });
    add_command("smooth", tr("Smooth the marked cells into a ramp"), {}, [this] { smooth_area(session_); });
    add_command("finer-cells", tr("Finer cells"), {}, [this] { finer_cells(session_); });
    add_command("coarser-cells", tr("Coarser cells"), {}, [this] { coarser_cells(session_); });
    add_command("mass-to-brushes", tr("Turn the mass into brushes"), {},
                [this] { mass_to_brushes(session_); });
}

void MainWindow::show_beside(Camera::Kind kind) {
    const bool same = plan_->camera().kind == kind;
    show_plan(!same || !plan_->isVisible());
    plan_->set_kind(kind);
}

/// A strip of the level alone, seen from the front or from the side.
void MainWindow::show_slice(int axis, double from_m, double to_m) {
    show_plan(true);
    plan_->set_kind(axis == 0 ? Camera::Kind::right : Camera::Kind::front);
    plan_->frame_all();
    Vec3 low(0), high(0);
    low[axis] = from_m, high[axis] = to_m;
    Box3 box;
    box.add(low), box.add(high);
    plan_->set_slice(box);
    // The tool has done its work; it calls this itself, so it must not be taken away under it.
    QMetaObject::invokeMethod(
        this, [this] { use_tool(QStringLiteral("select")); }, Qt::QueuedConnection);
}

/// The arrow keys move what is selected while a view has the focus; elsewhere they are the panels' own.
void MainWindow::build_nudges() {
    commands_->begin(Menu::edit, tr("Nudge by a grid step"));
    using Axis = int FrameLayout::*;
    const std::tuple<const char*, QString, Qt::Key, Axis, int> nudges[] = {
        {"nudge-left", tr("Nudge to the left"), Qt::Key_Left, &FrameLayout::right, -1},
        {"nudge-right", tr("Nudge to the right"), Qt::Key_Right, &FrameLayout::right, 1},
        {"nudge-away", tr("Nudge away"), Qt::Key_Up, &FrameLayout::ahead, 1},
        {"nudge-near", tr("Nudge nearer"), Qt::Key_Down, &FrameLayout::ahead, -1},
        {"nudge-up", tr("Nudge up"), Qt::Key_PageUp, &FrameLayout::out, 1},
        {"nudge-down", tr("Nudge down"), Qt::Key_PageDown, &FrameLayout::out, -1}};
    for (const auto& [id, name, key, axis, steps] : nudges)
        commands_->add_within(
            {space_, plan_}, QString::fromLatin1(id), name, key, [this, axis = axis, steps = steps] {
                if (axis != &FrameLayout::out && tool_ &&
                    tool_->step(axis == &FrameLayout::right ? steps : 0,
                                axis == &FrameLayout::ahead ? steps : 0)) {
                    for (LevelView* view : {space_, plan_}) view->update();
                    return;
                }
                const Vec3 by = along(layout_of(session_.level().frame).*axis) * double(steps);
                if (by.z != 0 && raise_mass(by.z > 0 ? 1 : -1)) return;
                session_.picks().empty() ? nudge_selection(session_, by)
                                         : move_picks(session_, by * session_.grid_m());
            });
}

} // namespace rubble::app
