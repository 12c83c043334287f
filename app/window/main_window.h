#pragma once

#include <memory>

#include <QComboBox>
#include <QFileSystemWatcher>
#include <QLabel>
#include <QMainWindow>
#include <QSlider>
#include <QSplitter>

#include "checker.h"
#include "view/level_view.h"
#include "window/facts.h"
#include "window/pace_strip.h"
#include "window/stage_line.h"
#include "window/tray.h"

namespace rubble::app {

/// Puts the parts of the window together and holds its commands. Knows nothing of how a level is edited,
/// drawn or checked.
class MainWindow : public QMainWindow {
    Q_OBJECT
public:
    explicit MainWindow(QWidget* parent = nullptr);
    ~MainWindow() override;

    /// Opens what the path names; on an error says so and keeps what is open. False on an error.
    bool open_path(const QString& path);
    Session& session() { return session_; }
    LevelView& space_view() { return *space_; }
    LevelView& plan_view() { return *plan_; }
    void use_tool(const QString& name);
    void start_walk();
    void show_plan(bool on);
    /// Selects the item, or shows the claim, of that id.
    void choose(const QString& id);
    /// The window as it is seen. (A plain grab would put what is painted over the level beneath it.)
    QPixmap picture();

protected:
    void closeEvent(QCloseEvent* event) override;

private:
    void build_header(QVBoxLayout* column);
    void build_views(QSplitter* across);
    void build_status();
    void build_commands();
    QAction* command(const QString& text, const QKeySequence& key, std::function<void()> run);
    void update_title();
    void update_status();
    void update_cutaway();
    void end_walk(bool keep_view);
    void keep_run(const motion::Recording& recording);
    void watch(const check::Witness& witness, const QString& title);
    void save(bool elsewhere);
    void export_level();
    void copy(bool and_remove);
    void paste();
    void duplicate();
    void remove_selection();
    void nudge(const Vec3& by);
    void file_changed(const QString& path);
    /// What differs between a changed file and the level that is open from it, in words.
    QString difference_on_disk(const QString& path);
    /// A button in the status line, for a while.
    void offer(const QString& text, std::function<void()> act);
    void scale_grid(double by);
    void tell(const QString& text);
    bool may_lose_work();

    Session session_;
    Checker checker_;
    LevelView *space_ = nullptr, *plan_ = nullptr;
    LevelView* pointed_ = nullptr; ///< where the pointer was last
    Tray* tray_ = nullptr;
    Facts* facts_ = nullptr;
    PaceStrip* pace_ = nullptr;
    QSlider* cutaway_ = nullptr;
    QLabel *title_ = nullptr, *subtitle_ = nullptr, *cursor_ = nullptr, *checked_ = nullptr, *grid_ = nullptr,
           *hint_ = nullptr;
    QWidget *left_ = nullptr, *right_ = nullptr;
    QComboBox* levels_ = nullptr;
    std::unique_ptr<Tool> tool_;
    QTimer run_clock_;
    double played_s_ = 0;
    QFileSystemWatcher watcher_;
    bool saving_ = false;
};

} // namespace rubble::app
