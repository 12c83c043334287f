#include "tiles/sheet_view.h"

#include <algorithm>
#include <cmath>

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>

#include "edit/sheet_pictures.h"
#include "theme.h"
#include "tiles/tile_picture.h"

namespace rubble::app {

namespace {

constexpr int k_usual_width = 190;

/// Squares behind what is transparent.
void fill_checked(QPainter& painter, const QRectF& box) {
    QPixmap squares(16, 16);
    squares.fill(color::paper);
    QPainter own(&squares);
    own.fillRect(0, 0, 8, 8, color::panel);
    own.fillRect(8, 8, 8, 8, color::panel);
    own.end();
    painter.drawTiledPixmap(box, squares);
}

} // namespace

int tile_in_cell(const TileSheet& sheet, CellAt cell) {
    for (const auto& [number, tile] : sheet.tiles)
        if (tile.at[0] == cell.column && tile.at[1] == cell.row) return number;
    return -1;
}

void draw_collision(QPainter& painter, const QRectF& box, const SheetTile& tile, const TileSheet& sheet,
                    int number) {
    const std::vector<Vec2> outline = collision_outline(&sheet, number);
    if (outline.empty()) return;
    QPolygonF polygon;
    for (Vec2 p : outline)
        polygon << QPointF(box.left() + p.x * box.width(), box.bottom() - p.y * box.height());
    const bool deadly = tile.acts == TileActs::deadly;
    const QColor ink = deadly                                     ? color::accent
                       : tile.collision == TileCollision::one_way ? color::blue_grey
                                                                  : color::plum;
    QColor fill = ink;
    fill.setAlphaF(tile.collision == TileCollision::one_way ? 0.15f : 0.35f);
    painter.setPen(QPen(ink, 1.2));
    painter.setBrush(deadly ? QBrush(ink, Qt::DiagCrossPattern) : QBrush(fill));
    painter.drawPolygon(polygon);
    if (tile.collision != TileCollision::one_way) return;
    // The sides that look up are those one stands on.
    painter.setPen(QPen(ink, 3));
    for (int i = 0; i < polygon.size(); ++i) {
        const QPointF a = polygon[i], b = polygon[(i + 1) % polygon.size()];
        if (b.x() < a.x() - 1e-9) painter.drawLine(a, b);
    }
}

SheetView::SheetView(QWidget* parent) : QWidget(parent) {
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Tiles of the sheet"));
    QSizePolicy policy(QSizePolicy::Expanding, QSizePolicy::Preferred);
    policy.setHeightForWidth(true);
    setSizePolicy(policy);
}

void SheetView::set_sheet(std::shared_ptr<const TileSheet> sheet) {
    sheet_ = std::move(sheet);
    fit();
}

void SheetView::set_zoom(int zoom) {
    if (zoom == zoom_) return;
    zoom_ = zoom;
    fit();
}

/// Takes the room that the picture needs at a zoom, else as high as the width makes it.
void SheetView::fit() {
    const bool zoomed = zoom_ > 0 && sheet_ && sheet_->picture;
    setMinimumSize(zoomed ? sizeHint() : QSize(0, heightForWidth(width())));
    updateGeometry();
    update();
}

double SheetView::scale() const {
    if (!sheet_ || !sheet_->picture) return 1;
    if (zoom_ > 0) return zoom_;
    const double fits = double(width()) / std::max(sheet_->picture->width, 1);
    return fits >= 1 && zoom_ == 0 ? std::floor(fits) : fits; // whole pixels where there is room for them
}

QSize SheetView::sizeHint() const {
    if (!sheet_ || !sheet_->picture) return {k_usual_width, 20};
    if (zoom_ > 0) return QSize(sheet_->picture->width, sheet_->picture->height) * zoom_;
    return {k_usual_width, heightForWidth(k_usual_width)};
}

int SheetView::heightForWidth(int width) const {
    if (!sheet_ || !sheet_->picture) return 20;
    if (zoom_ > 0) return sheet_->picture->height * zoom_;
    const double fits = double(width) / std::max(sheet_->picture->width, 1);
    return int(std::ceil(sheet_->picture->height * (fits >= 1 && zoom_ == 0 ? std::floor(fits) : fits)));
}

void SheetView::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    fit();
}

bool SheetView::has_cells() const { return !edit::is_of_unequal_pictures(*sheet_); }

std::array<int, 2> SheetView::counts() const {
    if (!has_cells()) return {next_tile_number(*sheet_), 1};
    return cells_in(sheet_->cut, sheet_->picture->width, sheet_->picture->height);
}

QRectF SheetView::box_of_cell(CellAt cell) const {
    SheetTile tile;
    tile.at = {cell.column, cell.row};
    if (const SheetTile* own = has_cells() ? nullptr : sheet_->tile(cell.column)) tile = *own;
    const auto [left, top, w, h] = pixels_of(*sheet_, tile);
    return QRectF(left * scale(), top * scale(), w * scale(), h * scale());
}

std::optional<CellAt> SheetView::cell_at(QPointF at) const {
    if (!sheet_ || !sheet_->picture) return {};
    const auto [columns, rows] = counts();
    if (columns < 1 || rows < 1) return {};
    if (!has_cells()) {
        for (const auto& [number, tile] : sheet_->tiles)
            if (box_of_cell({number, 0}).contains(at)) return CellAt{number, 0};
        return {};
    }
    const auto index = [&](double px, int cell, int count) {
        const int pitch = cell + sheet_->cut.spacing_px;
        return std::clamp(int(std::floor((px / scale() - sheet_->cut.margin_px) / pitch)), 0, count - 1);
    };
    return CellAt{index(at.x(), sheet_->cut.cell_px[0], columns),
                  index(at.y(), sheet_->cut.cell_px[1], rows)};
}

void SheetView::choose(std::set<CellAt> cells) {
    chosen_ = std::move(cells);
    update();
    emit chosenChanged();
}

TileBox SheetView::chosen_box() const {
    TileBox box;
    for (const CellAt& cell : chosen_) box.add(rubble::box_of(cell));
    return box;
}

std::vector<int> SheetView::chosen_tiles() const {
    std::vector<int> out;
    if (sheet_)
        for (const auto& [number, tile] : sheet_->tiles)
            if (chosen_.contains({tile.at[0], tile.at[1]})) out.push_back(number);
    return out;
}

void SheetView::paint_collision(QPainter& painter) const {
    for (const auto& [number, tile] : sheet_->tiles)
        draw_collision(painter, box_of_cell({tile.at[0], tile.at[1]}), tile, *sheet_, number);
}

void SheetView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    if (!sheet_ || !sheet_->picture) {
        painter.setPen(color::faint_ink);
        painter.drawText(rect(), Qt::AlignCenter, tr("No picture"));
        return;
    }
    const QRectF all(0, 0, sheet_->picture->width * scale(), sheet_->picture->height * scale());
    fill_checked(painter, all);
    painter.drawImage(all, image_of(*sheet_));
    QColor ink = color::ink;
    ink.setAlphaF(0.35f);
    painter.setPen(QPen(ink, 1));
    painter.setBrush(Qt::NoBrush);
    constexpr double k_least_px = 5; // smaller cells would be all line
    const auto [columns, rows] = counts();
    if (!has_cells())
        for (const auto& [number, tile] : sheet_->tiles)
            painter.drawRect(box_of_cell({number, 0}).adjusted(-0.5, -0.5, 0.5, 0.5));
    else if (box_of_cell({0, 0}).width() >= k_least_px)
        for (int row = 0; row < rows; ++row)
            for (int column = 0; column < columns; ++column)
                painter.drawRect(box_of_cell({column, row}).adjusted(0.5, 0.5, -0.5, -0.5));
    painter.setRenderHint(QPainter::Antialiasing);
    if (shows_collision_) paint_collision(painter);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(color::accent, 2));
    for (const CellAt& cell : chosen_) painter.drawRect(box_of_cell(cell));
    if (hasFocus() && chosen_.empty()) painter.drawRect(all.adjusted(1, 1, -1, -1));
}

void SheetView::mousePressEvent(QMouseEvent* event) {
    const auto cell = cell_at(event->position());
    if (!cell || event->button() != Qt::LeftButton) return;
    before_drag_ = event->modifiers() & Qt::ControlModifier ? chosen_ : std::set<CellAt>{};
    if (event->modifiers() & Qt::ShiftModifier && !chosen_.empty()) {
        before_drag_.clear();
    } else {
        first_ = *cell;
    }
    mouseMoveEvent(event);
}

void SheetView::mouseMoveEvent(QMouseEvent* event) {
    const auto cell = cell_at(event->position());
    if (!cell || !(event->buttons() & Qt::LeftButton)) return;
    std::set<CellAt> cells = before_drag_;
    TileBox box = rubble::box_of(first_);
    box.add(rubble::box_of(*cell));
    if (!has_cells()) box = rubble::box_of(*cell), before_drag_.insert(first_);
    for (int row = box.low.row; row < box.high.row; ++row)
        for (int column = box.low.column; column < box.high.column; ++column) cells.insert({column, row});
    if (cells != chosen_) choose(std::move(cells));
}

void SheetView::keyPressEvent(QKeyEvent* event) {
    const std::pair<int, CellAt> ways[] = {
        {Qt::Key_Left, {-1, 0}}, {Qt::Key_Right, {1, 0}}, {Qt::Key_Up, {0, -1}}, {Qt::Key_Down, {0, 1}}};
    for (const auto& [key, by] : ways) {
        if (event->key() != key || !sheet_ || !sheet_->picture) continue;
        const auto [columns, rows] = counts();
        if (columns < 1 || rows < 1) return;
        const CellAt at = chosen_.empty() ? CellAt{-by.column, -by.row} : chosen_box().low;
        first_ = {std::clamp(at.column + by.column, 0, columns - 1),
                  std::clamp(at.row + by.row, 0, rows - 1)};
        choose({first_});
        return;
    }
    QWidget::keyPressEvent(event);
}

} // namespace rubble::app
