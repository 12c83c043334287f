#pragma once

#include <QWidget>

#include "cast/rules.h"

namespace rubble::app {

/// The cells that a cast may take up, seen from above: drawn with the mouse, or with arrows and space. What
/// is drawn first decides whether a stroke adds or takes away.
class AreaView : public QWidget {
    Q_OBJECT
public:
    explicit AreaView(QWidget* parent = nullptr);

    void set_area(const cast::Area& area);
    const cast::Area& area() const { return area_; }
    /// More or fewer cells at the far and the right side; what is new belongs to it.
    void set_size(int columns, int rows);
    int columns() const;
    int rows() const { return int(area_.rows.size()); }
    QSize sizeHint() const override;
    /// Where a cell is drawn, columns from the left and rows from the farthest.
    QRectF cell_rect(int column, int row) const;

signals:
    void changed();

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    QPoint cell_at(const QPointF& at) const;
    bool has(const QPoint& cell) const;
    void set(const QPoint& cell, bool inside);
    void stroke_to(const QPointF& at);

    cast::Area area_;
    bool adds_ = true, drawing_ = false, any_ = false;
    QPointF last_;
    QPoint cursor_{0, 0};
};

} // namespace rubble::app
