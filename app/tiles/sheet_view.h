#pragma once

#include <optional>
#include <set>

#include <QWidget>

#include "level/tiles/tile_grid.h"
#include "level/tiles/tile_sheet.h"

namespace rubble::app {

/// A sheet's picture with its cut: lines between cells, what of each tile collides, and which cells are
/// chosen. A drag chooses a block, Ctrl adds to it, the arrow keys go from cell to cell.
class SheetView : public QWidget {
    Q_OBJECT
public:
    explicit SheetView(QWidget* parent = nullptr);

    void set_sheet(std::shared_ptr<const TileSheet> sheet);
    const std::shared_ptr<const TileSheet>& sheet() const { return sheet_; }
    /// Whether what collides is drawn over the tiles.
    void set_collision_shown(bool shown) { shows_collision_ = shown, update(); }
    /// Whole screen pixels that one of the picture takes; 0: as many as fit the width; below 0: all of the
    /// width.
    void set_zoom(int zoom);

    /// The cells that are chosen, as columns and rows of the picture.
    const std::set<CellAt>& chosen() const { return chosen_; }
    void choose(std::set<CellAt> cells);
    /// The box around what is chosen.
    TileBox chosen_box() const;
    /// The numbers of the tiles that are chosen.
    std::vector<int> chosen_tiles() const;

    QSize sizeHint() const override;
    int heightForWidth(int width) const override;

signals:
    void chosenChanged();

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    void fit();
    double scale() const;
    /// Whether the sheet is cut into equal cells; else each picture counts as a cell, in a row by their
    /// numbers.
    bool has_cells() const;
    std::array<int, 2> counts() const;
    QRectF box_of_cell(CellAt cell) const;
    std::optional<CellAt> cell_at(QPointF at) const;
    void paint_collision(QPainter& painter) const;

    std::shared_ptr<const TileSheet> sheet_;
    std::set<CellAt> chosen_, before_drag_;
    CellAt first_{0, 0};
    int zoom_ = 0;
    bool shows_collision_ = false;
};

/// The number of the tile in a cell of the sheet's picture; -1 where there is none.
int tile_in_cell(const TileSheet& sheet, CellAt cell);
/// Draws what of a tile collides into a box of the screen: filled where it is solid, with a thick upper line
/// where it is one-way, crossed where it kills.
void draw_collision(QPainter& painter, const QRectF& box, const SheetTile& tile, const TileSheet& sheet,
                    int number);

} // namespace rubble::app
