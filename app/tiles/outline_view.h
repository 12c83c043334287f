#pragma once

#include <array>
#include <optional>

#include <QWidget>

#include "level/tiles/tile_sheet.h"

namespace rubble::app {

/// A tile drawn large, among its neighbours, with the outline within which it keeps the character out.
/// Corners are dragged, an edge is clicked to get a new one, Delete takes one away; they catch the picture's
/// pixels (or parts of them) and the corners of the neighbours' outlines, so that a slope goes on unbroken.
class OutlineView : public QWidget {
    Q_OBJECT
public:
    explicit OutlineView(QWidget* parent = nullptr);

    /// The tile, and the numbers of those around it, row by row from the upper left (-1: none).
    void show_tile(std::shared_ptr<const TileSheet> sheet, int number, std::array<int, 9> around);
    /// How fine the corners are caught, in parts of a pixel; 0: free; below 0: in parts of the cell.
    void set_parts(int parts) { parts_ = parts; }
    const std::vector<Vec2>& outline() const { return outline_; }
    /// The corner that is chosen, -1: none; and the number of the tile.
    int corner() const { return corner_; }
    int number() const { return number_; }
    void set_outline(std::vector<Vec2> outline);

    QSize sizeHint() const override { return {300, 300}; }

signals:
    /// While it is dragged too.
    void outlineChanged();
    void cornerChosen();

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    Vec2 size_px() const;
    Vec2 steps() const;
    QRectF box() const; ///< of the tile itself
    QPointF on_screen(Vec2 p) const;
    Vec2 in_cell(QPointF at) const;
    Vec2 caught(Vec2 p) const;
    void choose(int corner);
    void remove_corner();

    std::shared_ptr<const TileSheet> sheet_;
    int number_ = -1;
    std::array<int, 9> around_{};
    std::vector<Vec2> outline_;
    int parts_ = 1, corner_ = -1;
    bool dragging_ = false;
};

} // namespace rubble::app
