#include "window/main_window.h"

#include <cmath>

#include <QShortcut>

#include "commands/editing.h"
#include "commands/massing.h"
#include "commands/reshaping.h"
#include "numbers.h"
#include "shape_list.h"
#include "tools/item_handles.h"
#include "tools/mass_tool.h"
#include "window/arrangement.h"

namespace rubble::app {

// The commands of the window and their keys: what `MainWindow` can be asked for by name.

void MainWindow::build_commands() {
    commands_ = new Commands(*this, [this] { return space_->walking(); });
    auto add = [this](const char* id, const QString& name, const QKeySequence& key, auto run) {
        commands_->add(QString::fromLatin1(id), name, key, run);
    };
    add("new", tr("New level"), QKeySequence::New, [this] { files_->start_new(); });
    add("open", tr("Open"), QKeySequence::Open, [this] { files_->ask_and_open(); });
    add("save", tr("Save"), QKeySequence::Save, [this] { files_->save(); });
    add("save-as", tr("Save as"), Qt::CTRL | Qt::SHIFT | Qt::Key_S, [this] { files_->save_elsewhere(); });
    add("export", tr("Export"), Qt::CTRL | Qt::Key_E, [this] { files_->export_level(); });
    add("undo", tr("Undo"), QKeySequence::Undo, [this] {
        tell(session_.undo_text().isEmpty() ? tr("Nothing to undo")
                                            : tr("Undone: %1").arg(session_.undo_text()));
        session_.undo();
    });
    add("redo", tr("Redo"), Qt::CTRL | Qt::SHIFT | Qt::Key_Z, [this] {
        tell(session_.redo_text().isEmpty() ? tr("Nothing to redo")
                                            : tr("Done again: %1").arg(session_.redo_text()));
        session_.redo();
    });
    add("cut", tr("Cut to the clipboard"), QKeySequence::Cut, [this] { cut_selection(session_); });
    add("copy", tr("Copy"), QKeySequence::Copy, [this] { copy_selection(session_); });
    add("paste", tr("Paste"), QKeySequence::Paste,
        [this] { paste_at(session_, pointed_ ? pointed_->pointer_ground() : Vec3(0)); });
    add("duplicate", tr("Duplicate"), Qt::CTRL | Qt::Key_D, [this] { duplicate_selection(session_); });
    add("duplicate-linked", tr("Duplicate, linked"), Qt::CTRL | Qt::SHIFT | Qt::Key_D,
        [this] { duplicate_linked(session_); });
    add("later", tr("Later in the order of fills and cuts"), Qt::CTRL | Qt::Key_Up,
        [this] { move_in_order(session_, true); });
    add("earlier", tr("Earlier in the order of fills and cuts"), Qt::CTRL | Qt::Key_Down,
        [this] { move_in_order(session_, false); });
    add("link", tr("Make linked copies of the first selected"), Qt::CTRL | Qt::Key_L,
        [this] { link_selection(session_); });
    add("unlink", tr("Make independent of linked copies"), {}, [this] { unlink_selection(session_); });
    add("select-linked", tr("Select all linked copies"), {}, [this] { select_linked(session_); });
    add("repeat", tr("Repeat the selection"), Qt::CTRL | Qt::Key_R, [this] { repeat_->open(); });
    add("delete", tr("Delete"), QKeySequence::Delete, [this] {
        // Nobody who picked an edge means the whole brush; a body without a face would have a hole.
        session_.picks().empty() ? delete_selection(session_) : join_faces(session_);
    });
    add("select-all", tr("Select all"), QKeySequence::SelectAll, [this] { select_all(session_); });
    add("group", tr("Group"), Qt::CTRL | Qt::Key_G, [this] { group_selection(session_); });
    add("ungroup", tr("Ungroup"), Qt::CTRL | Qt::SHIFT | Qt::Key_G, [this] { ungroup_selection(session_); });
    add("grid-finer", tr("Finer grid"), Qt::CTRL | Qt::Key_Comma, [this] { scale_grid(session_, 0.5); });
    add("grid-coarser", tr("Coarser grid"), Qt::CTRL | Qt::Key_Period, [this] { scale_grid(session_, 2); });
    std::vector<std::tuple<const char*, QString, int>> tools{
        {"select", tr("Select"), Qt::Key_Q},
        {"cut", tr("Draw: cut"), Qt::Key_X},
        {"knife", tr("Knife"), Qt::SHIFT | Qt::Key_X},
        {"door", tr("Put in: door"), Qt::Key_E},
        {"window", tr("Put in: window"), Qt::Key_F},
        {"archway", tr("Put in: archway"), Qt::SHIFT | Qt::Key_H},
        {"mass", tr("Massing"), Qt::SHIFT | Qt::Key_B},
        {"plane", tr("Draw: plane"), Qt::SHIFT | Qt::Key_T},
        {"hole", tr("Draw: hole in the selected outline"), Qt::SHIFT | Qt::Key_J},
        {"underlay", tr("Move and scale a picture under the level"), Qt::SHIFT | Qt::Key_L | Qt::CTRL},
        {"measure", tr("Measure"), Qt::Key_M},
        {"slice", tr("Slice: from here to there"), Qt::SHIFT | Qt::Key_Y},
        {"mirror", tr("Mirror"), Qt::SHIFT | Qt::Key_M}};
    for (const ShapeEntry& entry : all_shapes())
        tools.push_back({entry.tool, draw_text(entry.shape), entry.key});
    for (const auto& [tool, name, key] : tools) {
        const QString tool_name = QString::fromLatin1(tool);
        commands_->add(QStringLiteral("tool-") + tool_name, name, key,
                       [this, tool_name] { use_tool(tool_name); });
    }
    add("walk", tr("Walk from here"), Qt::Key_G, [this] { start_walk(); });
    add("frame-all", tr("Frame all"), Qt::Key_Home, [this] { space_->frame_all(), plan_->frame_all(); });
    add("plan", tr("Plan beside"), Qt::Key_P, [this] { show_plan(!plan_->isVisible()); });
    add("beside-plan", tr("Beside: plan"), Qt::SHIFT | Qt::Key_P,
        [this] { show_beside(Camera::Kind::plan); });
    add("beside-front", tr("Beside: front"), Qt::SHIFT | Qt::Key_F,
        [this] { show_beside(Camera::Kind::front); });
    add("beside-side", tr("Beside: right side"), Qt::SHIFT | Qt::Key_E,
        [this] { show_beside(Camera::Kind::side); });
    add("underlay", tr("Lay a picture under the level"), {}, [this] {
        const Camera& camera = plan_->isVisible() ? plan_->camera() : space_->camera();
        const int axis = camera.kind == Camera::Kind::front ? 1 : camera.kind == Camera::Kind::side ? 0 : 2;
        if (files_->add_underlay(axis, {camera.target.x, camera.target.y, axis == 2 ? 0 : camera.target.z}))
            use_tool(QStringLiteral("underlay"));
    });
    const std::pair<ViewMode, std::pair<const char*, QString>> modes[] = {
        {ViewMode::plain, {"mode-plain", tr("Show: plain")}},
        {ViewMode::wire, {"mode-wire", tr("Show: wire")}},
        {ViewMode::slope, {"mode-slope", tr("Show: slopes")}},
        {ViewMode::collision, {"mode-collision", tr("Show: collision")}},
        {ViewMode::size, {"mode-size", tr("Show: heights against the character")}}};
    const int mode_keys[] = {Qt::Key_1, Qt::Key_2, Qt::Key_3, Qt::Key_4, Qt::Key_6};
    for (size_t i = 0; i < 5; ++i)
        add(modes[i].second.first, modes[i].second.second, QKeySequence(mode_keys[i]),
            [this, mode = modes[i].first] { space_->set_mode(mode), plan_->set_mode(mode); });
    add("slice", tr("Slice: only the depth of the selection beside"), Qt::Key_5, [this] {
        show_plan(true);
        plan_->set_slice(plan_->camera().slice ? Box3{} : selection_box(session_));
    });
    build_snapping();
    build_reshaping();
    add("panels", tr("Hide the panels"), Qt::Key_Tab, [this] {
        const bool show = !tray_->isVisible();
        tray_->setVisible(show), facts_->setVisible(show), pace_->setVisible(show);
    });
    for (int i = 0; i < 6; ++i)
        commands_->add(QStringLiteral("stage-%1").arg(i + 1), tr("Stage: %1").arg(stage_name(Stage(i))),
                       QKeySequence(Qt::Key_F1 + i), [this, i] { session_.go_to(Stage(i)); });
    const auto set_keys = [this] {
        tray_->set_keys([this](const QString& tool) {
            const auto* command = commands_->find(QStringLiteral("tool-") + tool);
            return command ? command->action->shortcut().toString(QKeySequence::NativeText) : QString();
        });
    };
    connect(commands_, &Commands::keysChanged, this, set_keys);
    set_keys();
    finder_ = new CommandFinder(*commands_, *this);
    add("find-command", tr("Find a command"), Qt::CTRL | Qt::Key_J, [this] { finder_->open(); });
    repeat_ = new RepeatPanel(session_, *this);
    items_ = new ItemFinder(session_, *this);
    connect(items_, &ItemFinder::wanted, this, [this](const Box3& box) {
        space_->show_where(box);
        plan_->show_where(box);
    });
    add("find-item", tr("Find an item"), QKeySequence::Find, [this] { items_->open(); });
    add("lost-items", tr("Find lost items"), {}, [this] { items_->open(QStringLiteral("lost")); });
    add("where", tr("Where is the selection"), Qt::Key_Z, [this] {
        const Box3 box = selection_box(session_);
        if (!box.empty()) space_->show_where(box), plan_->show_where(box);
    });
    add("isolate", tr("Isolate the selection, or show all again"), Qt::CTRL | Qt::Key_I, [this] {
        session_.isolate(session_.isolates() ? std::vector<ItemId>{} : session_.selection());
        tell(session_.isolates() ? tr("Only the selection is shown. Ctrl+I shows all again")
                                 : tr("All is shown"));
    });
    build_nudges();
}

/// What is snapped to, and the plane that is drawn on.
void MainWindow::build_snapping() {
    const std::tuple<const char*, QString, bool Snapping::*> kinds[] = {
        {"snap-grid", tr("Snap to the grid"), &Snapping::grid},
        {"snap-edges", tr("Snap to edges of others"), &Snapping::edges},
        {"snap-corners", tr("Snap to corners of others"), &Snapping::corners},
        {"snap-turn", tr("Snap to the turn step"), &Snapping::turn}};
    for (const auto& [id, name, kind] : kinds)
        commands_->add(QString::fromLatin1(id), name, {}, [this, kind = kind] {
            Snapping snapping = session_.snapping();
            snapping.*kind = !(snapping.*kind);
            session_.set_snapping(snapping);
        });
    commands_->add(QStringLiteral("snap"), tr("Snap, or leave everything free"), Qt::SHIFT | Qt::Key_G,
                   [this] {
                       const bool any = !(session_.snapping() == Snapping{false, false, false, false});
                       session_.set_snapping(any ? Snapping{false, false, false, false} : Snapping{});
                   });
    session_.set_snapping(remembered_snapping());
    connect(&session_, &Session::snappingChanged, this, [this] { remember_snapping(session_.snapping()); });
    commands_->add(QStringLiteral("working-plane"), tr("Working plane: the face pointed at, or none"),
                   Qt::Key_Y, [this] {
                       const auto face = pointed_ ? pointed_->pointed_face() : std::nullopt;
                       const bool clears = !face || (session_.plane() && session_.plane()->n == face->n &&
                                                     std::abs(session_.plane()->to_own(face->at).z) < 1e-6);
                       session_.set_plane(clears ? std::nullopt : face);
                       tell(session_.plane() ? tr("What is drawn now lies on this plane. Y on it lets it go")
                                             : tr("What is drawn lies on the surface pointed at"));
                   });
}

/// Raises what is marked of a mass; false where nothing is.
bool MainWindow::raise_mass(int by) {
    auto* massing = dynamic_cast<MassTool*>(tool_.get());
    return massing && massing->raise(by);
}

/// What is done with the points, edges and faces that are picked, by grid steps.
void MainWindow::build_reshaping() {
    auto add = [this](const char* id, const QString& name, const QKeySequence& key, auto run) {
        commands_->add(QString::fromLatin1(id), name, key, run);
    };
    add("push-out", tr("Push the face out"), Qt::Key_Plus, [this] {
        if (!raise_mass(1)) push_faces(session_, session_.grid_m());
    });
    add("push-in", tr("Push the face in"), Qt::Key_Minus, [this] {
        if (!raise_mass(-1)) push_faces(session_, -session_.grid_m());
    });
    add("dig-through", tr("Dig through the marked area"), {}, [this] { dig_area(session_); });
    add("smooth", tr("Smooth the marked cells into a ramp"), {}, [this] { smooth_area(session_); });
    add("mark-top", tr("Mark the top of the selected mass"), {}, [this] { mark_top(session_); });
    add("mark-alike", tr("Mark all cells of this level or slope"), {}, [this] { mark_alike(session_); });
    add("finer-cells", tr("Finer cells"), {}, [this] { finer_cells(session_); });
    add("coarser-cells", tr("Coarser cells"), {}, [this] { coarser_cells(session_); });
    add("mass-to-brushes", tr("Turn the mass into brushes"), {}, [this] { mass_to_brushes(session_); });
    add("inset", tr("Inset the face"), Qt::SHIFT | Qt::Key_Minus,
        [this] { inset_faces(session_, session_.grid_m() / 2); });
    add("split-ring", tr("Split the edge ring in the middle"), Qt::Key_U,
        [this] { split_rings(session_, {0.5}); });
    add("round-edges", tr("Round the edges"), Qt::SHIFT | Qt::Key_U,
        [this] { round_edges(session_, session_.grid_m() / 2, 6); });
    add("chamfer-edges", tr("Chamfer the edges"), {},
        [this] { round_edges(session_, session_.grid_m() / 2, 1); });
    add("join-faces", tr("Join faces in one plane"), Qt::Key_J, [this] { join_faces(session_); });
    add("straighten", tr("Straighten faces into one"), {}, [this] { straighten_faces(session_); });
    add("weld", tr("Weld points that lie on each other"), {}, [this] { weld_points(session_, 0.01); });
}

void MainWindow::show_beside(Camera::Kind kind) {
    const bool same = plan_->camera().kind == kind;
    show_plan(!same || !plan_->isVisible());
    plan_->set_kind(kind);
}

/// A strip of the level alone, seen from the front or from the side.
void MainWindow::show_slice(int axis, double from_m, double to_m) {
    show_plan(true);
    plan_->set_kind(axis == 0 ? Camera::Kind::side : Camera::Kind::front);
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
    const std::pair<Qt::Key, Vec3> nudges[] = {{Qt::Key_Left, {-1, 0, 0}},  {Qt::Key_Right, {1, 0, 0}},
                                               {Qt::Key_Up, {0, 1, 0}},     {Qt::Key_Down, {0, -1, 0}},
                                               {Qt::Key_PageUp, {0, 0, 1}}, {Qt::Key_PageDown, {0, 0, -1}}};
    for (LevelView* view : {space_, plan_})
        for (const auto& [key, by] : nudges) {
            auto* shortcut = new QShortcut(QKeySequence(key), view, nullptr, nullptr, Qt::WidgetShortcut);
            connect(shortcut, &QShortcut::activated, this, [this, by = by] {
                if (space_->walking() || (by.z != 0 && raise_mass(by.z > 0 ? 1 : -1))) return;
                session_.picks().empty() ? nudge_selection(session_, by)
                                         : move_picks(session_, by * session_.grid_m());
            });
        }
}

} // namespace rubble::app
