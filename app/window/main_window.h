#pragma once

#include <memory>

#include <QComboBox>
#include <QLabel>
#include <QMainWindow>
#include <QSlider>
#include <QSplitter>
#include <QTimer>

#include "checker.h"
#include "commands/commands.h"
#include "commands/files.h"
#include "facts/facts.h"
#include "parcel/test_report.h"
#include "play/run_player.h"
#include "recovery.h"
#include "settings/preferences.h"
#include "studies/study_desk.h"
#include "tray/tray.h"
#include "view/level_view.h"
#include "window/command_finder.h"
#include "window/cutaway_slider.h"
#include "window/guide.h"
#include "window/item_finder.h"
#include "window/pace_strip.h"
#include "window/repeat_panel.h"
#include "window/stage_line.h"
#include "window/walks.h"

namespace rubble::app {

/// Puts the parts of the window together and holds its commands. Knows nothing of how a level is edited,
/// drawn or checked.
class FindingWalk;
class HistoryList;
class SuggestWatch;

class MainWindow : public QMainWindow {
    Q_OBJECT
public:
    explicit MainWindow(QWidget* parent = nullptr);
    ~MainWindow() override;

    bool open_path(const QString& path) { return files_->open(path); }
    Session& session() { return session_; }
    const Commands& commands() const { return *commands_; }
    /// Offers what to begin with, and the first minute to who is new.
    void welcome();
    /// Keeps copies of unsaved work in a folder from now on, and offers those that were left behind there.
    void keep_recovery_copies(const QString& folder);
    LevelView& space_view() { return *space_; }
    LevelView& plan_view() { return *plan_; }
    void use_tool(const QString& name);
    /// Puts what the user has settled in force.
    void use(const Preferences& preferences);
    void start_walk();
    void show_plan(bool on);
    /// Selects the item, or shows the claim, of that id.
    void choose(const QString& id);
    /// Takes off all that lies above a height.
    void set_cutaway(double z);
    /// The window as it is seen. (A plain grab would put what is painted over the level beneath it.)
    QPixmap picture();

protected:
    void closeEvent(QCloseEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;

private:
    void build_header(QVBoxLayout* column);
    void build_views(QSplitter* across);
    void fit_panels();
    void build_commands();
    void add_command(const char* id, const QString& name, const QKeySequence& key, std::function<void()> run);
    void build_file_commands();
    void add_recent_files();
    void save_version();
    void build_edit_commands();
    void build_view_commands();
    void build_tool_commands();
    void build_check_commands();
    void build_help_commands();
    void open_settings();
    void open_project_page();
    QString what_one_is_at() const;
    void go_to_panel(int by);
    parcel::Pictures pictures_of_places();
    void build_nudges();
    void build_snapping();
    void build_reshaping();
    bool raise_mass(int by);
    void show_slice(int axis, double from_m, double to_m);
    void show_beside(Camera::Kind kind);
    void update_title();
    void update_cutaway();
    void show_frame();
    void lay_views();
    void update_storeys();
    void watch(const check::Witness& witness, const QString& title);
    void connect_session();
    void connect_panels();
    void show_finding(const check::Finding& one);
    void show_claim(const ClaimId& id);
    void show_figure(const std::optional<motion::PlayState>& state);
    void play_on(double seconds, double passed);
    void end_watching();
    void tell_watching();
    void tell_answer();

    Session session_;
    Checker checker_;
    LevelView *space_ = nullptr, *plan_ = nullptr;
    QSplitter* views_ = nullptr;
    Frame shown_frame_ = Frame::space;
    QWidget* header_ = nullptr;
    LevelView* pointed_ = nullptr; ///< where the pointer was last
    Tray* tray_ = nullptr;
    Facts* facts_ = nullptr;
    PaceStrip* pace_ = nullptr;
    StudyDesk* desk_ = nullptr;
    CutawaySlider* cutaway_ = nullptr;
    StatusLine* status_ = nullptr;
    Walks* walks_ = nullptr;
    SuggestWatch* suggest_ = nullptr;
    QLabel* subtitle_ = nullptr;
    QComboBox* levels_ = nullptr;
    std::unique_ptr<Tool> tool_;
    RunPlayer run_player_;
    Follow follow_ = Follow::stays;
    double follow_heading_deg_ = 0;
    FindingWalk* finding_walk_ = nullptr;
    Files* files_ = nullptr;
    Commands* commands_ = nullptr;
    CommandFinder* finder_ = nullptr;
    Guide* guide_ = nullptr;
    HistoryList* history_ = nullptr;
    ItemFinder* items_ = nullptr;
    RepeatPanel* repeat_ = nullptr;
    std::unique_ptr<Recovery> recovery_;
    Preferences preferences_;
};

} // namespace rubble::app
