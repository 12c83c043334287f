#pragma once

#include <array>

#include <QWidget>

#include "session/session.h"

namespace rubble::app {

/// The six stages as stations on a drawn line, each with its state. Any stage at any time.
class StageLine : public QWidget {
    Q_OBJECT
public:
    explicit StageLine(Session& session, QWidget* parent = nullptr);
    QSize sizeHint() const override { return {640, 52}; }
    QSize minimumSizeHint() const override { return {420, 48}; }

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    /// Blockers and concerns that belong to a stage, and whether there is anything in it yet.
    struct Station {
        int blockers = 0, concerns = 0;
        bool begun = false;
    };
    std::array<Station, 6> stations() const;
    QPointF place(int index) const;
    Session& session_;
};

QString stage_name(Stage stage);

} // namespace rubble::app
