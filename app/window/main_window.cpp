#include "window/main_window.h"

#include <QApplication>
#include <QClipboard>
#include <QCloseEvent>
#include <QComboBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QMessageBox>
#include <QMimeData>
#include <QPushButton>
#include <QShortcut>
#include <QStatusBar>
#include <QVBoxLayout>

#include "clipboard_text.h"
#include "difference_text.h"
#include "edit/brushes.h"
#include "edit/items.h"
#include "io/gltf_export.h"
#include "io/level_file.h"
#include "io/recording_file.h"
#include "level/diff.h"
#include "level/order.h"
#include "numbers.h"
#include "theme.h"
#include "tools/draw_tool.h"
#include "tools/place_tool.h"
#include "tools/select_tool.h"
#include "window/cutaway_slider.h"

namespace rubble::app {

namespace {

constexpr int k_cut_steps_per_m = 4;
constexpr int k_storey_m = 3;
constexpr int k_play_ms = 16;

} // namespace

MainWindow::MainWindow(QWidget* parent) : QMainWindow(parent) {
    resize(1280, 800);
    auto* page = new QWidget;
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    build_header(column);
    auto* down = new QSplitter(Qt::Vertical);
    auto* across = new QSplitter(Qt::Horizontal);
    build_views(across);
    pace_ = new PaceStrip(session_);
    down->addWidget(across);
    down->addWidget(pace_);
    down->setStretchFactor(0, 1);
    down->setHandleWidth(2);
    across->setHandleWidth(2);
    column->addWidget(down, 1);
    setCentralWidget(page);
    build_status();
    build_commands();

    connect(&checker_, &Checker::ready, this, [this](const Built& built) { session_.set_built(built); });
    connect(&session_, &Session::levelChanged, this, [this] {
        checker_.request(session_.project(), session_.level(), session_.version());
        update_title();
        update_status();
    });
    connect(&session_, &Session::builtChanged, this, &MainWindow::update_status);
    connect(&session_, &Session::documentOpened, this, [this] {
        update_cutaway();
        space_->frame_all();
        plan_->frame_all();
        if (!watcher_.files().isEmpty()) watcher_.removePaths(watcher_.files());
        for (const OpenLevel& open : session_.document().levels)
            if (!open.file.empty()) watcher_.addPath(QString::fromStdString(open.file));
    });
    connect(&session_, &Session::message, this, &MainWindow::tell);
    connect(&session_, &Session::stageChanged, this, [this] {
        show_plan(session_.stage() == Stage::block_out || session_.stage() == Stage::check);
        use_tool(QStringLiteral("select"));
    });
    connect(tray_, &Tray::toolWanted, this, &MainWindow::use_tool);
    connect(tray_, &Tray::claimChosen, this, [this](const ClaimId& id) {
        facts_->show_claim(id);
        for (const auto& judged :
             session_.built().check ? session_.built().check->claims : std::vector<check::ClaimResult>{})
            if (judged.id == id && judged.witness)
                for (const Claim& claim : session_.level().claims)
                    if (claim.id == id)
                        pace_->show_run(&*judged.witness,
                                        QString::fromStdString(claim.name.empty() ? id.value : claim.name));
    });
    connect(tray_, &Tray::findingChosen, this, [this](const Vec3& at, const std::vector<ItemId>& items) {
        session_.select(items);
        space_->fly_to(at);
        plan_->fly_to(at);
    });
    connect(tray_, &Tray::exportWanted, this, &MainWindow::export_level);
    connect(facts_, &Facts::watchWanted, this, &MainWindow::watch);
    connect(pace_, &PaceStrip::pointedAt, this, [this](const std::optional<motion::State>& state) {
        space_->show_figure(state);
        plan_->show_figure(state);
    });
    connect(pace_, &PaceStrip::runChanged, this, [this] {
        const bool shown = session_.stage() == Stage::check;
        space_->show_route(shown ? pace_->route() : std::vector<Vec3>{});
        plan_->show_route(shown ? pace_->route() : std::vector<Vec3>{});
    });
    connect(&session_, &Session::stageChanged, pace_, &PaceStrip::runChanged);
    connect(&watcher_, &QFileSystemWatcher::fileChanged, this, &MainWindow::file_changed);
    connect(&run_clock_, &QTimer::timeout, this, [this] {
        played_s_ += k_play_ms / 1000.0;
        const auto& states = pace_->states();
        const size_t step = size_t(played_s_ / motion::step_s);
        if (step >= states.size()) {
            run_clock_.stop();
            pace_->set_moment({});
            space_->show_figure({});
            plan_->show_figure({});
            return;
        }
        pace_->set_moment(played_s_);
        space_->show_figure(states[step]);
        plan_->show_figure(states[step]);
    });
    use_tool(QStringLiteral("select"));
    session_.start_new();
}

MainWindow::~MainWindow() {
    space_->set_tool(nullptr);
    plan_->set_tool(nullptr);
}

void MainWindow::build_header(QVBoxLayout* column) {
    auto* header = new QWidget;
    auto* row = new QHBoxLayout(header);
    row->setContentsMargins(14, 4, 14, 4);
    auto* names = new QVBoxLayout;
    names->setSpacing(0);
    levels_ = new QComboBox;
    levels_->setAccessibleName(tr("Level"));
    levels_->setMinimumWidth(190);
    levels_->setToolTip(tr("Levels of this project"));
    subtitle_ = new QLabel;
    subtitle_->setProperty("role", "faint");
    names->addWidget(levels_);
    names->addWidget(subtitle_);
    row->addLayout(names);
    row->addWidget(new StageLine(session_), 1);
    auto* walk = new QPushButton(tr("Walk from here"));
    walk->setProperty("role", "main");
    walk->setToolTip(tr("Walk from the start, or from where the pointer is with G"));
    walk->setFocusPolicy(Qt::TabFocus);
    row->addWidget(walk);
    connect(walk, &QPushButton::clicked, this, &MainWindow::start_walk);
    connect(levels_, &QComboBox::activated, this, [this](int i) { session_.show_level(size_t(i)); });
    column->addWidget(header);
    auto* line = new QFrame;
    line->setFixedHeight(1);
    line->setStyleSheet(QStringLiteral("background: %1").arg(color::line.name()));
    column->addWidget(line);
}

void MainWindow::build_views(QSplitter* across) {
    tray_ = new Tray(session_);
    facts_ = new Facts(session_);
    left_ = tray_, right_ = facts_;
    tray_->setMinimumWidth(186);
    facts_->setMinimumWidth(220);
    space_ = new LevelView(session_, Camera::Kind::space);
    plan_ = new LevelView(session_, Camera::Kind::plan);
    auto* views = new QSplitter(Qt::Horizontal);
    views->setHandleWidth(2);
    views->addWidget(space_);
    views->addWidget(plan_);
    views->setStretchFactor(0, 3);
    views->setStretchFactor(1, 2);
    views->setSizes({600, 280});
    auto* middle = new QWidget;
    auto* row = new QHBoxLayout(middle);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(0);
    row->addWidget(views, 1);
    cutaway_ = new CutawaySlider;
    cutaway_->setTickInterval(k_storey_m * k_cut_steps_per_m);
    row->addWidget(cutaway_);
    across->addWidget(tray_);
    across->addWidget(middle);
    across->addWidget(facts_);
    across->setStretchFactor(1, 1);
    across->setSizes({196, 850, 234});
    for (LevelView* view : {space_, plan_}) {
        connect(view, &LevelView::cursorMoved, this, [this, view](const Vec3& at) {
            pointed_ = view;
            cursor_->setText(tr("cursor %1, %2, %3")
                                 .arg(plain_number(std::round(at.x * 100) / 100),
                                      plain_number(std::round(at.y * 100) / 100),
                                      plain_number(std::round(at.z * 100) / 100)));
        });
        connect(view, &LevelView::hintChanged, this, [this](const QString& hint) { hint_->setText(hint); });
        connect(view, &LevelView::walkEnded, this, &MainWindow::end_walk);
        connect(view, &LevelView::noteDropped, this, [this](const Vec3& at) {
            const Level& level = session_.stored_level();
            const Item note{edit::fresh_id(level, "n"),
                            tr("Note %1").arg(elements_of(level, "note").size() + 1).toStdString(),
                            false,
                            Element{"note", at, 0, {}},
                            {}};
            session_.apply(edit::with_item(level, session_.layer(), note), tr("Note"));
        });
    }
    connect(cutaway_, &QSlider::valueChanged, this, [this](int value) {
        const bool off = value == cutaway_->maximum();
        const double z = off ? 1e6 : double(value) / k_cut_steps_per_m + 1e-3;
        space_->set_cut(z);
        plan_->set_cut(z);
        if (!off) tell(tr("Cut at %1").arg(metres_text(double(value) / k_cut_steps_per_m)));
    });
}

void MainWindow::build_status() {
    auto add = [this](bool right) {
        auto* label = new QLabel;
        label->setProperty("role", "faint");
        label->setContentsMargins(8, 0, 8, 0);
        if (right)
            statusBar()->addPermanentWidget(label);
        else
            statusBar()->addWidget(label);
        return label;
    };
    grid_ = add(false);
    cursor_ = add(false);
    hint_ = add(false);
    checked_ = add(true);
    statusBar()->setSizeGripEnabled(false);
}

QAction* MainWindow::command(const QString& text, const QKeySequence& key, std::function<void()> run) {
    auto* action = new QAction(text, this);
    action->setShortcut(key);
    action->setShortcutContext(Qt::WindowShortcut);
    connect(action, &QAction::triggered, this, [this, run = std::move(run)] {
        // While walking every key belongs to the figure.
        if (!space_->walking()) run();
    });
    addAction(action);
    return action;
}

void MainWindow::build_commands() {
    command(tr("New level"), QKeySequence::New, [this] {
        if (may_lose_work()) session_.start_new();
    });
    command(tr("Open"), QKeySequence::Open, [this] {
        const QString path =
            QFileDialog::getOpenFileName(this, tr("Open a project or a level"), {}, tr("Rubble (*.json)"));
        if (!path.isEmpty() && may_lose_work()) open_path(path);
    });
    command(tr("Save"), QKeySequence::Save, [this] { save(false); });
    command(tr("Save as"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_S), [this] { save(true); });
    command(tr("Export"), QKeySequence(Qt::CTRL | Qt::Key_E), [this] { export_level(); });
    command(tr("Undo"), QKeySequence::Undo, [this] {
        tell(session_.undo_text().isEmpty() ? tr("Nothing to undo")
                                            : tr("Undone: %1").arg(session_.undo_text()));
        session_.undo();
    });
    command(tr("Redo"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Z), [this] {
        tell(session_.redo_text().isEmpty() ? tr("Nothing to redo")
                                            : tr("Done again: %1").arg(session_.redo_text()));
        session_.redo();
    });
    command(tr("Cut to the clipboard"), QKeySequence::Cut, [this] { copy(true); });
    command(tr("Copy"), QKeySequence::Copy, [this] { copy(false); });
    command(tr("Paste"), QKeySequence::Paste, [this] { paste(); });
    command(tr("Duplicate"), QKeySequence(Qt::CTRL | Qt::Key_D), [this] { duplicate(); });
    command(tr("Delete"), QKeySequence::Delete, [this] { remove_selection(); });
    command(tr("Select all"), QKeySequence::SelectAll, [this] {
        std::vector<ItemId> ids;
        for (const auto& layer : session_.level().layers)
            for (const ItemPtr& item : layer->items) ids.push_back(item->id);
        session_.select(ids);
    });
    command(tr("Group"), QKeySequence(Qt::CTRL | Qt::Key_G), [this] {
        auto made = edit::grouped(session_.level(), session_.selection());
        if (made.ids.empty()) return;
        session_.apply(std::move(made.level), tr("Group"));
        session_.select(made.ids);
    });
    command(tr("Ungroup"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_G), [this] {
        auto made = edit::ungrouped(session_.level(), session_.selection());
        if (made.ids.empty()) return;
        session_.apply(std::move(made.level), tr("Ungroup"));
        session_.select(made.ids);
    });
    const std::pair<const char*, Qt::Key> tools[] = {
        {"select", Qt::Key_Q}, {"box", Qt::Key_B}, {"ramp", Qt::Key_T}, {"cut", Qt::Key_X}};
    for (const auto& [name, key] : tools)
        command(QString::fromLatin1(name), QKeySequence(key),
                [this, name = QString::fromLatin1(name)] { use_tool(name); });
    command(tr("Finer grid"), QKeySequence(Qt::CTRL | Qt::Key_Comma), [this] { scale_grid(0.5); });
    command(tr("Coarser grid"), QKeySequence(Qt::CTRL | Qt::Key_Period), [this] { scale_grid(2); });
    command(tr("Walk from here"), QKeySequence(Qt::Key_G), [this] { start_walk(); });
    command(tr("Frame all"), QKeySequence(Qt::Key_Home), [this] { space_->frame_all(), plan_->frame_all(); });
    command(tr("Plan beside"), QKeySequence(Qt::Key_P), [this] { show_plan(!plan_->isVisible()); });
    command(tr("Hide the panels"), QKeySequence(Qt::Key_Tab), [this] {
        const bool show = !left_->isVisible();
        left_->setVisible(show), right_->setVisible(show), pace_->setVisible(show);
    });
    for (int i = 0; i < 6; ++i)
        command(stage_name(Stage(i)), QKeySequence(Qt::Key_F1 + i), [this, i] { session_.go_to(Stage(i)); });
    const std::pair<Qt::Key, Vec3> nudges[] = {{Qt::Key_Left, {-1, 0, 0}},  {Qt::Key_Right, {1, 0, 0}},
                                               {Qt::Key_Up, {0, 1, 0}},     {Qt::Key_Down, {0, -1, 0}},
                                               {Qt::Key_PageUp, {0, 0, 1}}, {Qt::Key_PageDown, {0, 0, -1}}};
    for (LevelView* view : {space_, plan_})
        for (const auto& [key, by] : nudges) {
            auto* shortcut = new QShortcut(QKeySequence(key), view, nullptr, nullptr, Qt::WidgetShortcut);
            connect(shortcut, &QShortcut::activated, this,
                    [this, by = by] { nudge(by * session_.grid_m()); });
        }
}

bool MainWindow::open_path(const QString& path) {
    const auto opened = session_.open(path);
    if (opened) return true;
    QMessageBox box(QMessageBox::Warning, tr("Could not open"), QString::fromStdString(opened.error().text()),
                    QMessageBox::Ok, this);
    if (isVisible())
        box.exec();
    else
        fprintf(stderr, "%s\n", opened.error().text().c_str());
    return false;
}

void MainWindow::use_tool(const QString& name) {
    if (name == QStringLiteral("box"))
        tool_ = std::make_unique<DrawTool>(session_, Shape::box, Effect::fill);
    else if (name == QStringLiteral("ramp"))
        tool_ = std::make_unique<DrawTool>(session_, Shape::ramp, Effect::fill);
    else if (name == QStringLiteral("cut"))
        tool_ = std::make_unique<DrawTool>(session_, Shape::box, Effect::cut);
    else if (name.startsWith(QStringLiteral("place ")))
        tool_ = std::make_unique<PlaceTool>(session_, name.mid(6).toStdString());
    else
        tool_ = std::make_unique<SelectTool>(session_);
    space_->set_tool(tool_.get());
    plan_->set_tool(tool_.get());
    tray_->mark_tool(name);
}

void MainWindow::choose(const QString& id) {
    for (const Claim& claim : session_.level().claims)
        if (claim.id.value == id.toStdString()) facts_->show_claim(claim.id);
    if (find_item(session_.level(), {id.toStdString()})) session_.select({{id.toStdString()}});
}

QPixmap MainWindow::picture() {
    QPixmap out = grab();
    QPainter painter(&out);
    for (LevelView* view : {space_, plan_})
        if (view->isVisible())
            painter.drawImage(QRect(view->mapTo(this, QPoint(0, 0)), view->size()), view->grabFramebuffer());
    return out;
}

void MainWindow::show_plan(bool on) { plan_->setVisible(on); }

void MainWindow::update_title() {
    const Level& level = session_.level();
    setWindowTitle(
        tr("%1%2 · Rubble")
            .arg(QString::fromStdString(level.name), session_.saved() ? QString() : QStringLiteral(" *")));
    const QSignalBlocker block(levels_);
    levels_->clear();
    for (const OpenLevel& open : session_.document().levels)
        levels_->addItem(QString::fromStdString(open.level->name));
    levels_->setCurrentIndex(int(session_.level_index()));
    subtitle_->setText(tr("%1 · Space%2")
                           .arg(QString::fromStdString(session_.project().name),
                                session_.saved() ? QString() : tr(" · not saved")));
}

void MainWindow::update_status() {
    grid_->setText(tr("grid %1 m · turn %2°")
                       .arg(plain_number(session_.grid_m()), plain_number(session_.project().turn_step_deg)));
    const auto& result = session_.built().check;
    if (!result) {
        checked_->setText(tr("checking…"));
        return;
    }
    int blockers = 0, concerns = 0, fails = 0;
    for (const auto& finding : result->findings)
        blockers += finding.severity == check::Severity::blocker,
            concerns += finding.severity == check::Severity::concern;
    for (const auto& claim : result->claims) fails += claim.state == check::ClaimState::fails;
    const QString what =
        QStringList{session_.character_name(), counted(blockers, tr("blocker"), tr("blockers")),
                    counted(concerns, tr("concern"), tr("concerns")),
                    fails == 1 ? tr("1 claim fails") : tr("%1 claims fail").arg(fails)}
            .join(QStringLiteral(" · "));
    checked_->setText(
        session_.up_to_date()
            ? tr("%1 · checked in %2 s").arg(what).arg(result->timing.total_ms / 1000, 0, 'f', 2)
            : tr("%1 · checking…").arg(what));
}

void MainWindow::update_cutaway() {
    const Box3 box = box_of(session_.level());
    const QSignalBlocker block(cutaway_);
    if (box.empty()) return;
    cutaway_->setRange(int(std::floor(box.low.z * k_cut_steps_per_m)),
                       int(std::ceil(box.high.z * k_cut_steps_per_m)) + 1);
    cutaway_->setPageStep(k_storey_m * k_cut_steps_per_m);
    cutaway_->setValue(cutaway_->maximum());
    space_->set_cut(1e6);
    plan_->set_cut(1e6);
}

void MainWindow::start_walk() {
    if (space_->walking()) return;
    for (QPushButton* button : statusBar()->findChildren<QPushButton*>()) button->deleteLater();
    // The check's world may be that of an older level: build the newest, which takes milliseconds.
    auto world = std::make_shared<motion::World>(motion::world_of(
        session_.built().solid ? *session_.built().solid : build::build_solid(session_.level())));
    Vec3 at(0);
    double heading = space_->camera().heading_deg;
    const auto starts = elements_of(session_.level(), "start");
    // From where the pointer is, or from the start when it is not over the level.
    if (pointed_ && pointed_->underMouse())
        at = pointed_->pointer_ground();
    else if (!starts.empty())
        at = starts[0]->element()->at, heading = starts[0]->element()->facing_deg;
    run_clock_.stop();
    space_->begin_walk(std::make_unique<Walker>(world, session_.character(), at, heading));
}

void MainWindow::end_walk(bool keep_view) {
    const auto walker = space_->end_walk();
    if (!walker) return;
    const Vec3 here = walker->state().at;
    if (keep_view) space_->fly_to(here);
    tell(keep_view ? tr("Walk ended where the figure stood") : tr("Walk ended; the view is as before"));
    if (!keep_view) offer(tr("View from here"), [this, here] { space_->fly_to(here); });
    if (walker->recording().steps() > 60)
        offer(tr("Keep this run"), [this, recording = walker->recording()] { keep_run(recording); });
    space_->setFocus();
}

void MainWindow::offer(const QString& text, std::function<void()> act) {
    constexpr int k_offered_ms = 20'000;
    auto* button = new QPushButton(text);
    button->setProperty("role", "offer");
    statusBar()->addPermanentWidget(button);
    connect(button, &QPushButton::clicked, this, [act = std::move(act), button] {
        act();
        button->deleteLater();
    });
    QTimer::singleShot(k_offered_ms, button, &QObject::deleteLater);
}

void MainWindow::keep_run(const motion::Recording& recording) {
    const auto& result = session_.built().check;
    if (!result) return;
    const Character c = session_.character();
    const motion::State end = motion::replayed(*result->world, c, recording);
    // A run by hand that gets where the check says nobody does is a mistake of the check, and is said so.
    for (const auto& place : result->places) {
        const Item* item = find_item(session_.level(), place.item);
        if (item && place.reached == check::Reached::no && check::has_thing(end, c, item->element()->at))
            QMessageBox::warning(this, tr("The check is wrong here"),
                                 tr("This run reaches %1, which the check says is not reached. Please report "
                                    "the level with the kept run.")
                                     .arg(QString::fromStdString(item->title())));
    }
    QString folder = QString::fromStdString(session_.document().folder);
    QString path =
        folder.isEmpty()
            ? QFileDialog::getSaveFileName(this, tr("Keep this run"), {}, tr("Runs (*.run.json)"))
            : folder + QStringLiteral("/runs/") +
                  QString::fromStdString(session_.level().name).simplified().replace(' ', '-').toLower() +
                  QStringLiteral("-%1.run.json")
                      .arg(QDateTime::currentDateTime().toString(QStringLiteral("yyyyMMdd-hhmmss")));
    if (path.isEmpty()) return;
    const auto saved = io::save_recording(recording, path.toStdString());
    tell(saved ? tr("Kept as %1").arg(path) : QString::fromStdString(saved.error().text()));
}

void MainWindow::watch(const check::Witness& witness, const QString& title) {
    pace_->show_run(&witness, title);
    played_s_ = 0;
    run_clock_.start(k_play_ms);
}

void MainWindow::save(bool elsewhere) {
    QString file;
    if (elsewhere || session_.file().isEmpty()) {
        file = QFileDialog::getSaveFileName(this, tr("Save the level"), session_.file(),
                                            tr("Levels (*.level.json)"));
        if (file.isEmpty()) return;
        if (!file.endsWith(QStringLiteral(".level.json"))) file += QStringLiteral(".level.json");
    }
    saving_ = true;
    const auto saved = session_.save(file);
    if (!saved)
        QMessageBox::warning(this, tr("Could not save"), QString::fromStdString(saved.error().text()));
    else
        tell(tr("Saved"));
    QTimer::singleShot(500, this, [this] { saving_ = false; });
    if (!file.isEmpty()) watcher_.addPath(file);
    update_title();
}

void MainWindow::export_level() {
    const QString path = QFileDialog::getSaveFileName(
        this, tr("Export"), QString::fromStdString(session_.level().name) + QStringLiteral(".glb"),
        tr("Models (*.glb *.gltf *.obj)"));
    if (path.isEmpty()) return;
    const auto written = io::export_level(session_.project(), session_.level(), path.toStdString());
    tell(written ? tr("Exported to %1").arg(path) : QString::fromStdString(written.error().text()));
}

void MainWindow::copy(bool and_remove) {
    if (session_.selection().empty()) return;
    put_on_clipboard(edit::copied(session_.level(), session_.selection()));
    if (and_remove)
        remove_selection();
    else
        tell(tr("Copied"));
}

void MainWindow::paste() {
    const auto clip = clip_from_clipboard();
    if (!clip) {
        tell(tr("There is nothing of a level on the clipboard"));
        return;
    }
    const Vec3 place = pointed_ ? pointed_->pointer_ground() : Vec3(0);
    const Vec3 at = edit::snapped(place, session_.grid_m());
    auto pasted = edit::pasted(session_.level(), session_.layer(), *clip, {at.x, at.y, place.z});
    session_.apply(std::move(pasted.level), tr("Paste"));
    session_.select(pasted.ids);
}

void MainWindow::duplicate() {
    if (session_.selection().empty()) return;
    auto copies =
        edit::duplicated(session_.level(), session_.selection(), {session_.grid_m(), session_.grid_m(), 0});
    session_.apply(std::move(copies.level), tr("Duplicate"));
    session_.select(copies.ids);
}

void MainWindow::remove_selection() {
    if (session_.selection().empty()) return;
    const std::vector<ItemId> ids = session_.selection();
    session_.select({});
    session_.apply(edit::without(session_.level(), ids), tr("Delete"));
}

void MainWindow::nudge(const Vec3& by) {
    if (!session_.selection().empty() && !space_->walking())
        session_.apply(edit::moved(session_.level(), session_.selection(), by), tr("Nudge"));
}

void MainWindow::file_changed(const QString& path) {
    if (saving_ || !QFileInfo::exists(path)) return;
    watcher_.addPath(path); // a file that was replaced is no longer watched
    QMessageBox box(QMessageBox::Question, tr("Changed on disk"),
                    tr("%1 was changed by another program. Reload it, or keep what is open here?")
                        .arg(QFileInfo(path).fileName()),
                    QMessageBox::NoButton, this);
    auto* reload = box.addButton(tr("Reload"), QMessageBox::AcceptRole);
    box.addButton(tr("Keep mine"), QMessageBox::RejectRole);
    auto* compare = box.addButton(tr("Compare"), QMessageBox::ActionRole);
    box.exec();
    if (box.clickedButton() == compare) {
        box.setText(box.text() + "\n\n" + difference_on_disk(path));
        box.removeButton(compare);
        box.exec();
    }
    if (box.clickedButton() == reload) open_path(session_.file());
}

QString MainWindow::difference_on_disk(const QString& path) {
    const OpenLevel* mine = nullptr;
    for (const OpenLevel& open : session_.document().levels)
        if (QString::fromStdString(open.file) == path) mine = &open;
    const auto theirs = io::load_level(path.toStdString());
    if (!theirs) return QString::fromStdString(theirs.error().text());
    if (!mine) return {};
    const Diff diff = difference(*mine->level, *theirs);
    // What differs is shown in the view behind the question.
    std::vector<ItemId> here(diff.changed.begin(), diff.changed.end());
    here.insert(here.end(), diff.removed.begin(), diff.removed.end());
    session_.select(std::move(here));
    return difference_text(*mine->level, *theirs);
}

void MainWindow::scale_grid(double by) {
    constexpr double k_finest_m = 1.0 / 16, k_coarsest_m = 8;
    Project project = session_.project();
    project.grid_m = std::clamp(project.grid_m * by, k_finest_m, k_coarsest_m);
    if (project.grid_m == session_.grid_m()) return;
    session_.apply(std::move(project), tr("Grid"));
    tell(tr("Grid %1 m").arg(plain_number(session_.grid_m())));
}

void MainWindow::tell(const QString& text) { hint_->setText(text); }

bool MainWindow::may_lose_work() {
    if (session_.saved()) return true;
    const auto answer = QMessageBox::question(this, tr("Not saved"), tr("Save the changes first?"),
                                              QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel);
    if (answer == QMessageBox::Save) save(false);
    return answer == QMessageBox::Discard || (answer == QMessageBox::Save && session_.saved());
}

void MainWindow::closeEvent(QCloseEvent* event) {
    if (may_lose_work())
        event->accept();
    else
        event->ignore();
}

} // namespace rubble::app
