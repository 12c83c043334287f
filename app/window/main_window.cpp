#include "window/main_window.h"
#include "suggest_watch.h"
#include "window/welcome.h"

#include <QCloseEvent>
#include <QDropEvent>
#include <QMessageBox>
#include <QMimeData>
#include <QPushButton>
#include <QVBoxLayout>

#include "claim_names.h"
#include "commands/dressing.h"
#include "commands/editing.h"
#include "commands/kit_watch.h"
#include "commands/kits.h"
#include "commands/layer_scheme.h"
#include "commands/outlines.h"
#include "commands/sheet_watch.h"
#include "commands/sheets.h"
#include "edit/items.h"
#include "finding_walk.h"
#include "level/order.h"
#include "numbers.h"
#include "parcels/parcel_keeper.h"
#include "part_watch.h"
#include "puzzle_watch.h"
#include "sentences.h"
#include "studies/ask_watch.h"
#include "studies/tint_watch.h"
#include "theme.h"
#include "tools/tool_list.h"
#include "window/arrangement.h"
#include "window/new_level_dialog.h"

namespace rubble::app {

namespace {

constexpr int k_cut_steps_per_m = 4;
constexpr int k_storey_m = 3;
/// A finding is looked at with what lies so far over it taken off (metres).
constexpr double k_over_finding_m = 3;

} // namespace

MainWindow::MainWindow(QWidget* parent) : QMainWindow(parent) {
    resize(1280, 800);
    setAcceptDrops(true);
    auto* page = new QWidget;
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    files_ = new Files(session_, *this);
    finding_walk_ = new FindingWalk(session_, *this);
    build_header(column);
    auto* down = new QSplitter(Qt::Vertical);
    auto* across = new QSplitter(Qt::Horizontal);
    down->setObjectName(QStringLiteral("down"));
    across->setObjectName(QStringLiteral("across"));
    build_views(across);
    pace_ = new PaceStrip(session_);
    down->addWidget(across);
    desk_ = new StudyDesk(session_, pace_);
    down->addWidget(desk_);
    down->setStretchFactor(0, 1);
    down->setHandleWidth(2);
    across->setHandleWidth(2);
    column->addWidget(down, 1);
    setCentralWidget(page);
    status_ = new StatusLine(session_);
    setStatusBar(status_);
    walks_ = new Walks(session_, *space_, *status_, *this);
    walks_->set_parts({tray_, facts_, desk_, plan_, cutaway_, header_});
    connect(walks_, &Walks::begun, &run_player_, &RunPlayer::stop);
    build_commands();
    status_->show_switches(*commands_);

    connect_session();
    connect_panels();
    connect(&run_player_, &RunPlayer::moved, this, &MainWindow::play_on);
    connect(&run_player_, &RunPlayer::ended, this, &MainWindow::end_watching);
    use_tool(QStringLiteral("select"));
    new SheetWatch(session_, this);
    new PartWatch(session_, this);
    new PuzzleWatch(session_, this);
    new TintWatch(session_, this);
    new AskWatch(session_, this);
    connect(new ParcelKeeper(session_, this), &ParcelKeeper::made, status_, &StatusLine::tell);
    connect(&session_, &Session::placeAnswered, this, &MainWindow::tell_answer);
    suggest_ = new SuggestWatch(session_, this);
    connect(new KitWatch(session_, this), &KitWatch::doesNotFit, this,
            [this](const QString& file, const QStringList& what) {
                auto* box = new QMessageBox(QMessageBox::Information, tr("%1 no longer fits").arg(file),
                                            what.join('\n'), QMessageBox::Ok, this);
                box->setAttribute(Qt::WA_DeleteOnClose);
                box->setModal(false);
                box->show();
            });
    session_.files().start_new();
}

void MainWindow::connect_session() {
    connect(&checker_, &Checker::ready, this, [this](const Built& built) { session_.set_built(built); });
    connect(&session_, &Session::levelChanged, this, [this] {
        checker_.request(session_.project(), session_.seen_level(), session_.version());
        tell_lengths_in(preferences_.lengths, session_.grid_m());
        update_storeys();
        update_title();
    });
    connect(&session_, &Session::documentOpened, this, [this] {
        show_frame();
        update_cutaway();
        lay_views();
        space_->frame_all();
        plan_->frame_all();
        // Later: what is opened is seen before it is asked about.
        if (isVisible()) QTimer::singleShot(0, this, [this] { offer_layer_scheme(session_, *this); });
    });
    connect(&session_, &Session::savedChanged, this, &MainWindow::update_title);
    connect(&session_, &Session::savedChanged, this, [this] {
        // A picture to know the file by, the next time.
        const QString file = session_.files().file();
        if (session_.documents().saved() && !file.isEmpty() && isVisible() && !space_->walking())
            keep_picture_of_file(file, space_->grabFramebuffer());
    });
    connect(&session_, &Session::planeChanged, this, [this] { space_->update(), plan_->update(); });
    const auto tool_says = [this] { status_->show_hint(tool_ ? tool_->hint() : QString()); };
    connect(&session_, &Session::selectionChanged, this, tool_says);
    connect(&session_, &Session::picksChanged, this, tool_says);
    connect(&session_, &Session::stageChanged, this, [this] { use_tool(QStringLiteral("select")); });
}

void MainWindow::connect_panels() {
    connect(tray_, &Tray::toolWanted, this, &MainWindow::use_tool);
    connect(tray_, &Tray::claimChosen, this, &MainWindow::show_claim);
    connect(tray_, &Tray::findingChosen, this, [this](const Vec3& at, const std::vector<ItemId>& items) {
        session_.select(items);
        space_->fly_to(at);
        plan_->fly_to(at);
    });
    connect(tray_, &Tray::findingWanted, finding_walk_, &FindingWalk::go_to);
    connect(finding_walk_, &FindingWalk::arrived, this, &MainWindow::show_finding);
    connect(finding_walk_, &FindingWalk::says, status_, &StatusLine::tell);
    connect(tray_, &Tray::exportWanted, files_, &Files::export_level);
    connect(tray_, &Tray::commandWanted, this, [this](const QString& id) {
        if (const auto* command = commands_->find(id)) command->action->trigger();
    });
    const auto fly_to = [this](const Vec3& at) { space_->fly_to(at), plan_->fly_to(at); };
    connect(&desk_->span_table(), &SpanTable::spanShown, this, fly_to);
    connect(&desk_->players_page(), &PlayersPage::spanShown, this, fly_to);
    const auto show_place = [this, fly_to](const Vec3& at, const std::vector<ItemId>& items) {
        if (!items.empty()) session_.select(items);
        fly_to(at);
    };
    connect(&desk_->versions_page(), &VersionsPage::placeWanted, this, show_place);
    connect(&desk_->sides_page(), &SidesPage::placeWanted, this, show_place);
    connect(&session_, &Session::studiesChanged, this, [this] { space_->update(), plan_->update(); });
    connect(facts_, &Facts::watchWanted, this, &MainWindow::watch);
    connect(pace_, &PaceStrip::pointedAt, this, &MainWindow::show_figure);
    connect(pace_, &PaceStrip::runChanged, this, [this] {
        const bool shown = session_.stage() == Stage::check;
        for (LevelView* view : {space_, plan_})
            shown ? view->show_route(pace_->route(), pace_->spans()) : view->show_route({}, {});
    });
    connect(&session_, &Session::stageChanged, pace_, &PaceStrip::runChanged);
}

void MainWindow::show_finding(const check::Finding& one) {
    session_.select(one.items);
    // What lies above would hide it.
    if (one.at.z + k_over_finding_m < box_of(session_.level()).high.z)
        set_cutaway(one.at.z + k_over_finding_m);
    space_->fly_to(one.at), plan_->fly_to(one.at);
}

void MainWindow::show_claim(const ClaimId& id) {
    facts_->show_claim(id);
    const auto& result = session_.built().check;
    if (!result) return;
    for (const check::ClaimResult& judged : result->claims)
        if (judged.id == id && judged.witness)
            for (const Claim& claim : session_.level().claims)
                if (claim.id == id)
                    pace_->show_run(&*judged.witness,
                                    QString::fromStdString(claim.name.empty() ? id.value : claim.name));
}

void MainWindow::show_figure(const std::optional<motion::PlayState>& state) {
    space_->show_figure(state);
    plan_->show_figure(state);
}

void MainWindow::play_on(double seconds, double passed) {
    const size_t step = size_t(seconds / motion::step_s);
    if (step >= pace_->states().size()) return run_player_.stop(); // another run is shown by now
    const motion::PlayState state = pace_->play_at(step);
    follow_heading_deg_ = headed(follow_heading_deg_, state.body.velocity, passed);
    pace_->set_moment(seconds);
    space_->watch_figure(state, follow_, follow_heading_deg_);
    plan_->watch_figure(state, Follow::stays, 0);
}

void MainWindow::end_watching() {
    pace_->set_moment({});
    for (LevelView* view : {space_, plan_}) view->end_watching();
    status_->drop_offers();
}

/// Whether a place that was asked about is reached, and what can be done with the answer.
void MainWindow::tell_answer() {
    const std::shared_ptr<const study::Asked> asked = session_.studies().asked;
    if (!asked) return;
    status_->drop_offers();
    if (asked->witness) {
        const QString title = tr("To a place that was asked for");
        pace_->show_run(&*asked->witness, title);
        status_->tell(asked->reached == check::Reached::with_help
                          ? tr("Only with a late jump, in %1 s").arg(asked->witness->seconds(), 0, 'f', 1)
                          : tr("Reached in %1 s").arg(asked->witness->seconds(), 0, 'f', 1));
        status_->offer(tr("Watch it"), [this, asked, title] { watch(*asked->witness, title); });
    } else if (asked->miss) {
        status_->tell(tr("Not reached: %1").arg(missing_in_words(*asked->miss)));
    } else {
        status_->tell(asked->reached == check::Reached::no ? tr("Not reached")
                                                           : tr("It could not be decided"));
    }
    if (asked->miss)
        for (const check::Mend& mend : asked->miss->mends) {
            const QString says = first_in_words(mend.says, session_.level());
            status_->offer(says, [this, mend] {
                session_.apply(check::mended(session_.stored_level(), mend), tr("Mend"));
            });
        }
    status_->offer(tr("Claim it"),
                   [this, asked] { claim_places(session_, asked->from, asked->to, !!asked->witness); });
}

/// How fast it goes and how the view goes along, with what can be done about it.
void MainWindow::tell_watching() {
    const QString how = follow_ == Follow::stays    ? tr("the view stays")
                        : follow_ == Follow::behind ? tr("from behind")
                                                    : tr("from above");
    status_->tell(tr("Watching at %1 times the speed, %2").arg(run_player_.speed()).arg(how));
}

MainWindow::~MainWindow() {
    space_->set_tool(nullptr);
    plan_->set_tool(nullptr);
}

void MainWindow::build_header(QVBoxLayout* column) {
    auto* header = new QWidget;
    header_ = header;
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
    connect(levels_, &QComboBox::activated, this,
            [this](int i) { session_.documents().show_level(size_t(i)); });
    column->addWidget(header);
    auto* line = new QFrame;
    line->setFixedHeight(1);
    line->setProperty("role", "line");
    column->addWidget(line);
}

/// Panels are as wide as their words need: 216 pixels of a tray with the usual text.
void MainWindow::fit_panels() {
    const int word = QFontMetrics(QApplication::font()).horizontalAdvance(QStringLiteral("0000000000"));
    tray_->setMinimumWidth(std::max(216, word * 5 / 2));
    facts_->setMinimumWidth(std::max(220, word * 27 / 10));
}

void MainWindow::build_views(QSplitter* across) {
    tray_ = new Tray(session_);
    facts_ = new Facts(session_);
    fit_panels();
    const int tray_width = tray_->minimumWidth(), facts_width = facts_->minimumWidth();
    space_ = new LevelView(session_, Camera::Kind::free);
    plan_ = new LevelView(session_, Camera::Kind::above);
    views_ = new QSplitter(Qt::Horizontal);
    auto* views = views_;
    views->setObjectName(QStringLiteral("views"));
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
    row->addWidget(cutaway_);
    across->addWidget(tray_);
    across->addWidget(middle);
    across->addWidget(facts_);
    across->setStretchFactor(1, 1);
    across->setSizes({tray_width + 2, width() - tray_width - facts_width - 18, facts_width + 16});
    for (LevelView* view : {space_, plan_}) {
        connect(view, &LevelView::cursorMoved, this, [this, view](const Vec3& at) {
            pointed_ = view;
            status_->show_pointer(at);
        });
        connect(view, &LevelView::hintChanged, this, [this](const QString& hint) {
            status_->show_hint(hint);
            space_->update(), plan_->update(); // what a tool draws is seen in both
        });
        connect(view, &LevelView::materialDropped, this,
                [this](const MaterialId& material, const edit::FaceRef& face) {
                    give_material_to_face(session_, material, face);
                });
        connect(view, &LevelView::noteDropped, this, [this](const Vec3& at) { drop_note(session_, at); });
    }
    connect(cutaway_, &QSlider::valueChanged, this, [this](int value) {
        const bool off = value == cutaway_->maximum();
        const double z = off ? 1e6 : double(value) / k_cut_steps_per_m + 1e-3;
        space_->set_cut(z);
        plan_->set_cut(z);
        if (!off) status_->tell(tr("Cut at %1").arg(metres_text(double(value) / k_cut_steps_per_m)));
    });
}

/// Each frame has its own main view; the other one is beside it in Space, and on demand elsewhere.
void MainWindow::show_frame() {
    const Frame frame = session_.level().frame;
    const bool space = frame == Frame::space;
    space_->set_kind(space                  ? Camera::Kind::free
                     : frame == Frame::side ? Camera::Kind::front
                                            : Camera::Kind::above);
    plan_->set_kind(space ? Camera::Kind::above : Camera::Kind::free);
    if (frame == shown_frame_) return;
    shown_frame_ = frame;
    show_plan(space);
    use_tool(QStringLiteral("select"));
}

/// The view beside lies where both show the level larger: under the main one for a wide level, at its right
/// for a deep one. Where the line between them lies is the user's.
void MainWindow::lay_views() {
    const Box3 box = box_of(session_.level());
    if (box.empty()) return;
    constexpr double k_wide = 1.25;
    const Vec3 size = box.high - box.low;
    const Qt::Orientation way = size.x > k_wide * size.y ? Qt::Vertical : Qt::Horizontal;
    if (way == views_->orientation()) return;
    const QList<int> sizes = views_->sizes();
    views_->setOrientation(way);
    const int whole = way == Qt::Vertical ? views_->height() : views_->width();
    const double part = sizes[0] + sizes[1] > 0 ? double(sizes[0]) / (sizes[0] + sizes[1]) : 0.65;
    views_->setSizes({int(whole * part), int(whole * (1 - part))});
}

void MainWindow::use_tool(const QString& name) {
    const ToolEntry* entry = find_tool(name);
    if (!entry) entry = &all_tools().front();
    const Frame frame = session_.level().frame;
    if (std::find(entry->frames.begin(), entry->frames.end(), frame) == entry->frames.end()) {
        status_->tell(tr("“%1” is of no use in a %2 level").arg(entry->label(), frame_name(frame)));
        entry = &all_tools().front();
    }
    session_.documents().set_gesture(false);
    session_.drop_preview(); // of a tool that was at something
    tool_ = entry->make(session_, {[this](int axis, double from, double to) { show_slice(axis, from, to); }});
    space_->set_tool(tool_.get());
    plan_->set_tool(tool_.get());
    tray_->mark_tool(QString::fromLatin1(entry->id));
}

void MainWindow::choose(const QString& id) {
    for (const Claim& claim : session_.level().claims)
        if (claim.id.value == id.toStdString()) facts_->show_claim(claim.id);
    if (find_item(session_.level(), {id.toStdString()})) session_.select({{id.toStdString()}});
}

void MainWindow::set_cutaway(double z) { cutaway_->setValue(int(std::lround(z * k_cut_steps_per_m))); }

QPixmap MainWindow::picture() {
    QPixmap out = grab();
    QPainter painter(&out);
    for (LevelView* view : {space_, plan_})
        if (view->isVisible() && view->width() > 0)
            painter.drawImage(QRect(view->mapTo(this, QPoint(0, 0)), view->size()), view->grabFramebuffer());
    return out;
}

void MainWindow::show_plan(bool on) { plan_->setVisible(on); }

void MainWindow::update_title() {
    const Level& level = session_.level();
    setWindowTitle(tr("%1%2 · Rubble")
                       .arg(QString::fromStdString(level.name),
                            session_.documents().saved() ? QString() : QStringLiteral(" *")));
    const QSignalBlocker block(levels_);
    levels_->clear();
    for (const OpenLevel& open : session_.document().levels)
        levels_->addItem((!open.piece.empty()      ? tr("%1, a piece")
                          : !open.assembly.empty() ? tr("%1, an assembly")
                                                   : QStringLiteral("%1"))
                             .arg(QString::fromStdString(open.level->name)));
    levels_->setCurrentIndex(int(session_.documents().level_index()));
    subtitle_->setText(tr("%1 · %2%3")
                           .arg(QString::fromStdString(session_.project().name), frame_name(level.frame),
                                session_.documents().saved() ? QString() : tr(" · not saved")));
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
    update_storeys();
}

/// The slider's lines: the ceilings of the level's storeys, or one every three metres where it has none.
void MainWindow::update_storeys() {
    std::vector<int> lines;
    for (const auto& layer : session_.level().layers)
        if (layer->storey)
            lines.push_back(
                int(std::lround((layer->storey->floor_m + layer->storey->clear_m) * k_cut_steps_per_m)));
    if (lines.empty())
        for (int z = 0; z <= cutaway_->maximum(); z += k_storey_m * k_cut_steps_per_m) lines.push_back(z);
    cutaway_->set_lines(std::move(lines));
}

void MainWindow::use(const Preferences& p) {
    const bool looks_otherwise = p.colors != preferences_.colors || p.text_scale != preferences_.text_scale;
    preferences_ = p;
    if (looks_otherwise) apply_theme(*qApp, p.text_scale, scheme_of(p.colors));
    tell_lengths_in(p.lengths, session_.grid_m());
    for (LevelView* view : {space_, plan_}) view->set_mouse(p.mouse), view->update();
    if (recovery_) recovery_->set_delay(p.copy_after_s);
    fit_panels();
    tray_->fill_again(); // its pictures are drawn in the colours there are now
    facts_->fill_again();
    update();
}

void MainWindow::start_walk() { walks_->begin(pointed_ && pointed_->underMouse() ? pointed_ : nullptr); }

void MainWindow::watch(const check::Witness& witness, const QString& title) {
    pace_->show_run(&witness, title);
    const auto& states = pace_->states();
    follow_heading_deg_ = space_->camera().heading_deg;
    if (states.size() > 60) // where it goes first
        for (int i = 0; i < 60; ++i)
            follow_heading_deg_ = headed(follow_heading_deg_, states[size_t(i)].velocity, 1);
    run_player_.begin(pace_->seconds());
    status_->drop_offers();
    const std::pair<const char*, QString> offers[] = {{"watch-slower", tr("Slower")},
                                                      {"watch-faster", tr("Faster")},
                                                      {"watch-follow", tr("Follow")},
                                                      {"watch-stop", tr("Stop")}};
    for (const auto& [id, text] : offers)
        status_->offer(text,
                       [action = commands_->find(QString::fromLatin1(id))->action] { action->trigger(); });
    tell_watching();
}

void MainWindow::keep_recovery_copies(const QString& folder) {
    recovery_ = std::make_unique<Recovery>(session_.documents(), folder);
    recovery_->set_delay(preferences_.copy_after_s);
    for (const Recovery::Copy& copy : recovery_->left_behind()) {
        QMessageBox box(QMessageBox::Question, tr("Unsaved work was found"),
                        tr("Rubble ended without saving “%1”. A copy was kept on %2.")
                            .arg(copy.name, QLocale().toString(copy.when, QLocale::ShortFormat)),
                        QMessageBox::NoButton, this);
        auto* restore = box.addButton(tr("Open the copy"), QMessageBox::AcceptRole);
        auto* discard = box.addButton(tr("Discard it"), QMessageBox::DestructiveRole);
        box.addButton(tr("Ask again later"), QMessageBox::RejectRole);
        box.exec();
        if (box.clickedButton() == discard) Recovery::discard(copy);
        if (box.clickedButton() != restore) continue;
        if (const auto restored = recovery_->restore(copy); !restored)
            status_->tell(QString::fromStdString(restored.error().text()));
        return; // one is open now; others wait for the next start
    }
}

namespace {

bool is_picture(const QString& path) {
    static const QStringList endings{QStringLiteral("png"), QStringLiteral("jpg"), QStringLiteral("jpeg")};
    return endings.contains(QFileInfo(path).suffix().toLower());
}
bool is_drawing(const QString& path) { return QFileInfo(path).suffix().toLower() == QStringLiteral("svg"); }
bool may_hold_models(const QString& path) { return is_model(path) || QFileInfo(path).isDir(); }

} // namespace

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
    const QList<QUrl> urls = event->mimeData()->urls();
    const bool wanted = std::any_of(urls.begin(), urls.end(), [](const QUrl& url) {
        return url.isLocalFile() && (is_picture(url.toLocalFile()) || is_drawing(url.toLocalFile()) ||
                                     may_hold_models(url.toLocalFile()));
    });
    if (wanted) event->acceptProposedAction();
}

/// A picture that is dropped comes in as a material or as a sheet of tiles, models as pieces of a kit. Later:
/// the drop is over first.
void MainWindow::dropEvent(QDropEvent* event) {
    QStringList pictures, models, drawings;
    for (const QUrl& url : event->mimeData()->urls()) {
        if (is_picture(url.toLocalFile())) pictures << url.toLocalFile();
        if (is_drawing(url.toLocalFile()))
            drawings << url.toLocalFile();
        else if (may_hold_models(url.toLocalFile()))
            models << url.toLocalFile();
    }
    event->acceptProposedAction();
    QMetaObject::invokeMethod(
        this,
        [this, pictures, models, drawings] {
            // Where one dresses they are materials; where one builds, tiles.
            if (session_.stage() == Stage::dress && !pictures.isEmpty())
                add_material_pictures(session_, *this, pictures);
            else
                for (const QString& file : pictures) bring_in_sheet(session_, *this, file);
            for (const QString& file : drawings) bring_in_outlines(session_, *this, file);
            if (!models.isEmpty() && bring_in_pieces(session_, *this, models)) tray_->offer_pieces(true);
        },
        Qt::QueuedConnection);
}

void MainWindow::closeEvent(QCloseEvent* event) {
    if (!files_->may_lose_work()) return event->ignore();
    remember_arrangement(*this);
    recovery_.reset();
    event->accept();
}

} // namespace rubble::app
