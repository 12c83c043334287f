#pragma once

#include "motion/recording.h"
#include "view/level_view.h"
#include "window/status_line.h"

namespace rubble::app {

/// Walks in the level: where they begin, the room they take of the window, and what is offered after them.
class Walks : public QObject {
    Q_OBJECT
public:
    /// `view` shows them; `parts` are the parts of the window that make room for them.
    Walks(Session& session, LevelView& view, StatusLine& status, QWidget& window);

    void set_parts(std::vector<QWidget*> parts) { parts_ = std::move(parts); }
    /// From what the pointer points at in a view, or near it; from the start where that is null or it points
    /// at nothing to stand on.
    void begin(const LevelView* pointed);
    bool fill_window() const { return fill_window_; }
    void set_fill_window(bool on) { fill_window_ = on; }

signals:
    void begun();

private:
    void end(bool keep_view);
    /// From a goal to the level that it leads to, and walks there.
    void go_on();
    void make_room(bool walking);
    void keep_run(const motion::Recording& recording);

    Session& session_;
    LevelView& view_;
    StatusLine& status_;
    QWidget& window_;
    std::optional<size_t> next_level_; ///< that a goal leads to
    std::vector<QWidget*> parts_, hidden_;
    bool fill_window_ = true;
};

} // namespace rubble::app
