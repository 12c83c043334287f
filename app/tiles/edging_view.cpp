#include "tiles/edging_view.h"

#include <algorithm>

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

#include "edit/edging.h"
#include "theme.h"
#include "tiles/tile_picture.h"

namespace rubble::app {

namespace {

constexpr int k_box_px = 38, k_apart_px = 3;

/// What lies around a cell, as nine squares: the same ground dark, all else open.
void draw_case(QPainter& painter, const QRectF& box, GroundAround around) {
    using Around = GroundAround;
    constexpr Around::Neighbour k_order[] = {Around::upper_left, Around::above, Around::upper_right,
                                             Around::left,       Around::right, Around::right,
                                             Around::lower_left, Around::below, Around::lower_right};
    const double side = box.width() / 3;
    for (int k = 0; k < 9; ++k) {
        const QRectF square(box.left() + (k % 3) * side, box.top() + double(k / 3) * side, side, side);
        if (k == 4)
            painter.fillRect(square, color::accent);
        else if (around.has(k_order[k]))
            painter.fillRect(square, color::stone.darker(115));
    }
}

} // namespace

EdgingView::EdgingView(QWidget* parent) : QWidget(parent) {
    setAccessibleName(tr("Cases of the edging"));
    setFocusPolicy(Qt::StrongFocus);
    cases_ = edit::edging_cases(true);
}

const Edging* EdgingView::edging() const {
    return sheet_ && edging_ >= 0 && size_t(edging_) < sheet_->edgings.size()
               ? &sheet_->edgings[size_t(edging_)]
               : nullptr;
}

void EdgingView::show_edging(std::shared_ptr<const TileSheet> sheet, int edging, bool corners) {
    sheet_ = std::move(sheet), edging_ = edging;
    cases_ = edit::edging_cases(corners);
    chosen_ = std::min(chosen_, int(cases_.size()) - 1);
    updateGeometry();
    update();
}

GroundAround EdgingView::chosen() const { return cases_[size_t(chosen_)]; }

void EdgingView::choose(int index) {
    chosen_ = std::clamp(index, 0, int(cases_.size()) - 1);
    update();
    emit caseChosen();
}

void EdgingView::choose_next() {
    const Edging* own = edging();
    for (int step = 1; own && step <= int(cases_.size()); ++step) {
        const int index = (chosen_ + step) % int(cases_.size());
        if (!own->tiles.contains(cases_[size_t(index)])) return choose(index);
    }
}

int EdgingView::columns() const { return std::max(1, width() / (k_box_px + k_apart_px)); }

QSize EdgingView::sizeHint() const {
    constexpr int k_beside = 8;
    const int rows = (int(cases_.size()) + k_beside - 1) / k_beside;
    return {k_beside * (k_box_px + k_apart_px), rows * (k_box_px + k_apart_px)};
}

QRectF EdgingView::box_of(size_t index) const {
    const int column = int(index) % columns(), row = int(index) / columns();
    return QRectF(column * (k_box_px + k_apart_px), row * (k_box_px + k_apart_px), k_box_px, k_box_px);
}

void EdgingView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    const Edging* own = edging();
    for (size_t i = 0; i < cases_.size(); ++i) {
        const QRectF box = box_of(i);
        painter.fillRect(box, color::paper);
        const auto tile = own ? own->tiles.find(cases_[i]) : std::map<GroundAround, int>::const_iterator{};
        const bool has = own && tile != own->tiles.end();
        // The tile, with what lies around it small in its corner.
        if (has) draw_tile(painter, box, sheet_.get(), Tile(tile->second));
        const QRectF small(box.left() + 2, box.top() + 2, 15, 15);
        if (has) painter.fillRect(small, color::paper);
        draw_case(painter, has ? small : box.adjusted(7, 7, -7, -7), cases_[i]);
        painter.setBrush(Qt::NoBrush);
        const bool chosen = int(i) == chosen_;
        painter.setPen(QPen(chosen ? color::accent : color::line, chosen ? 2.5 : 1));
        painter.drawRect(box.adjusted(0.5, 0.5, -0.5, -0.5));
    }
}

void EdgingView::mousePressEvent(QMouseEvent* event) {
    for (size_t i = 0; i < cases_.size(); ++i)
        if (box_of(i).contains(event->position())) return choose(int(i));
}

void EdgingView::keyPressEvent(QKeyEvent* event) {
    const std::pair<int, int> ways[] = {
        {Qt::Key_Left, -1}, {Qt::Key_Right, 1}, {Qt::Key_Up, -columns()}, {Qt::Key_Down, columns()}};
    for (const auto& [key, by] : ways)
        if (event->key() == key) return choose(chosen_ + by);
    QWidget::keyPressEvent(event);
}

} // namespace rubble::app
