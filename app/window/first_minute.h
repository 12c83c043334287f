#pragma once

#include <array>

#include <QFrame>
#include <QLabel>

#include "session/session.h"
#include "view/level_view.h"

namespace rubble::app {

/// The first minute as a few lines over the view that tick themselves off while one does them.
class FirstMinute : public QFrame {
    Q_OBJECT
public:
    FirstMinute(Session& session, LevelView& view);

    /// Whether it was done, or put away.
    static bool done();

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    enum Step { draw, look, goal, reached, walk, k_steps };
    void tick(Step step);
    void look_again();
    void place();

    Session& session_;
    LevelView& view_;
    std::array<QLabel*, k_steps> lines_{};
    std::array<bool, k_steps> ticked_{};
    Vec3 eye_{0};
    size_t brushes_ = 0;
};

} // namespace rubble::app
