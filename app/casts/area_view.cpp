#include "casts/area_view.h"

#include <algorithm>
#include <cmath>

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

#include "theme.h"

namespace rubble::app {

AreaView::AreaView(QWidget* parent) : QWidget(parent) {
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Area"));
    setToolTip(tr("Drag to add cells, or to take them away; with keys: arrows and space"));
    setMinimumSize(fontMetrics().height() * 6, fontMetrics().height() * 6);
}

void AreaView::set_area(const cast::Area& area) {
    area_ = area;
    const size_t wide = size_t(std::max(columns(), 1));
    for (std::string& row : area_.rows) row.resize(wide, '.');
    update();
}

int AreaView::columns() const {
    size_t most = 0;
    for (const std::string& row : area_.rows) most = std::max(most, row.size());
    return int(most);
}

void AreaView::set_size(int columns, int rows) {
    for (std::string& row : area_.rows) row.resize(size_t(columns), '#');
    while (this->rows() > rows) area_.rows.erase(area_.rows.begin());
    while (this->rows() < rows) area_.rows.insert(area_.rows.begin(), std::string(size_t(columns), '#'));
    cursor_ = {std::min(cursor_.x(), columns - 1), std::min(cursor_.y(), rows - 1)};
    update();
    emit changed();
}

QSize AreaView::sizeHint() const { return QSize(fontMetrics().height() * 12, fontMetrics().height() * 12); }

QRectF AreaView::cell_rect(int column, int row) const {
    const double size =
        std::min(width() / double(std::max(columns(), 1)), height() / double(std::max(rows(), 1)));
    const QPointF low((width() - size * columns()) / 2, (height() - size * rows()) / 2);
    return {low + QPointF(column * size, row * size), QSizeF(size, size)};
}

void AreaView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    for (int row = 0; row < rows(); ++row)
        for (int column = 0; column < columns(); ++column) {
            const QRectF cell = cell_rect(column, row).adjusted(1, 1, -1, -1);
            painter.setPen(QPen(color::line, 1));
            painter.setBrush(has({column, row}) ? color::stone : color::paper);
            painter.drawRect(cell);
        }
    if (!hasFocus()) return;
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(color::accent, 2));
    painter.drawRect(cell_rect(cursor_.x(), cursor_.y()).adjusted(1, 1, -1, -1));
}

QPoint AreaView::cell_at(const QPointF& at) const {
    const QRectF first = cell_rect(0, 0);
    return {int(std::floor((at.x() - first.left()) / first.width())),
            int(std::floor((at.y() - first.top()) / first.height()))};
}

bool AreaView::has(const QPoint& cell) const {
    return cell.y() >= 0 && cell.y() < rows() && cell.x() >= 0 &&
           cell.x() < int(area_.rows[size_t(cell.y())].size()) &&
           area_.rows[size_t(cell.y())][size_t(cell.x())] == '#';
}

void AreaView::set(const QPoint& cell, bool inside) {
    if (cell.y() < 0 || cell.y() >= rows() || cell.x() < 0 || cell.x() >= columns()) return;
    char& at = area_.rows[size_t(cell.y())][size_t(cell.x())];
    const char now = inside ? '#' : '.';
    if (at == now) return;
    at = now, any_ = true;
    update();
}

void AreaView::stroke_to(const QPointF& at) {
    const double size = cell_rect(0, 0).width();
    const int steps =
        std::max(1, int(std::ceil(std::hypot(at.x() - last_.x(), at.y() - last_.y()) / (size / 3))));
    for (int i = 0; i <= steps; ++i) set(cell_at(last_ + (at - last_) * (double(i) / steps)), adds_);
    last_ = at;
}

void AreaView::mousePressEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton) return;
    drawing_ = true, any_ = false;
    last_ = event->position();
    adds_ = !has(cell_at(last_));
    stroke_to(last_);
}

void AreaView::mouseMoveEvent(QMouseEvent* event) {
    if (drawing_) stroke_to(event->position());
}

void AreaView::mouseReleaseEvent(QMouseEvent*) {
    if (!drawing_) return;
    drawing_ = false;
    if (any_) emit changed();
}

void AreaView::keyPressEvent(QKeyEvent* event) {
    QPoint step;
    switch (event->key()) {
    case Qt::Key_Left:
        step = {-1, 0};
        break;
    case Qt::Key_Right:
        step = {1, 0};
        break;
    case Qt::Key_Up:
        step = {0, -1};
        break;
    case Qt::Key_Down:
        step = {0, 1};
        break;
    case Qt::Key_Space:
        set(cursor_, !has(cursor_));
        emit changed();
        return;
    default:
        QWidget::keyPressEvent(event);
        return;
    }
    cursor_ = {std::clamp(cursor_.x() + step.x(), 0, std::max(columns() - 1, 0)),
               std::clamp(cursor_.y() + step.y(), 0, std::max(rows() - 1, 0))};
    update();
}

} // namespace rubble::app
