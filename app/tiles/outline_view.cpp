#include "tiles/outline_view.h"

#include <algorithm>
#include <cmath>

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

#include "theme.h"
#include "tiles/sheet_view.h"
#include "tiles/tile_picture.h"

namespace rubble::app {

namespace {

constexpr double k_near_px = 9;
/// The part of the widget's side that the tile itself takes; its neighbours have the rest.
constexpr double k_part = 0.5;

} // namespace

OutlineView::OutlineView(QWidget* parent) : QWidget(parent) {
    setAccessibleName(tr("Outline of the tile"));
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(220, 220);
    setMouseTracking(true);
}

void OutlineView::show_tile(std::shared_ptr<const TileSheet> sheet, int number, std::array<int, 9> around) {
    sheet_ = std::move(sheet), number_ = number, around_ = around;
    const SheetTile* tile = sheet_ ? sheet_->tile(number) : nullptr;
    outline_ = tile ? tile->outline : std::vector<Vec2>{};
    if (corner_ >= int(outline_.size())) corner_ = -1;
    update();
}

void OutlineView::set_outline(std::vector<Vec2> outline) {
    outline_ = std::move(outline);
    if (corner_ >= int(outline_.size())) corner_ = -1;
    update();
    emit outlineChanged();
}

/// Of the tile, which may be a picture of its own size.
Vec2 OutlineView::size_px() const {
    const SheetTile* tile = sheet_->tile(number_);
    if (!tile) return {sheet_->cut.cell_px[0], sheet_->cut.cell_px[1]};
    const auto [left, top, width, height] = pixels_of(*sheet_, *tile);
    return {width, height};
}

/// Steps that the tile is parted into both ways; whole pixels where corners are free.
Vec2 OutlineView::steps() const {
    return parts_ < 0 ? Vec2(-parts_) : size_px() * double(std::max(parts_, 1));
}

QRectF OutlineView::box() const {
    double w = 1, h = 1;
    if (sheet_) w = size_px().x, h = size_px().y;
    const double scale = std::min(width() / w, height() / h) * k_part;
    QRectF box(0, 0, w * scale, h * scale);
    box.moveCenter(rect().center());
    return box;
}

QPointF OutlineView::on_screen(Vec2 p) const {
    const QRectF own = box();
    return {own.left() + p.x * own.width(), own.bottom() - p.y * own.height()};
}

Vec2 OutlineView::in_cell(QPointF at) const {
    const QRectF own = box();
    return {(at.x() - own.left()) / own.width(), (own.bottom() - at.y()) / own.height()};
}

/// Onto a corner of a neighbour's outline, else onto the pixels' grid.
Vec2 OutlineView::caught(Vec2 p) const {
    p = glm::clamp(p, Vec2(0), Vec2(1));
    for (int k = 0; k < 9; ++k) {
        if (k == 4 || !sheet_) continue;
        const Vec2 shift(k % 3 - 1, 1 - k / 3);
        for (Vec2 q : collision_outline(sheet_.get(), around_[size_t(k)])) {
            q += shift;
            const bool within = q.x >= 0 && q.x <= 1 && q.y >= 0 && q.y <= 1;
            if (within && QLineF(on_screen(q), on_screen(p)).length() < k_near_px) return q;
        }
    }
    if (parts_ == 0 || !sheet_) return p;
    return glm::round(p * steps()) / steps();
}

void OutlineView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), color::paper);
    if (!sheet_ || number_ < 0) {
        painter.setPen(color::faint_ink);
        painter.drawText(rect(), Qt::AlignCenter | Qt::TextWordWrap, tr("Choose a tile to draw its outline"));
        return;
    }
    const QRectF own = box();
    for (int k = 0; k < 9; ++k) {
        const int number = around_[size_t(k)];
        if (number < 0 && k != 4) continue;
        const QRectF at = own.translated((k % 3 - 1) * own.width(), (k / 3 - 1) * own.height());
        painter.setOpacity(k == 4 ? 1 : 0.45);
        draw_tile(painter, at, sheet_.get(), Tile(k == 4 ? number_ : number));
        if (k == 4) continue;
        painter.setRenderHint(QPainter::Antialiasing);
        if (const SheetTile* tile = sheet_->tile(number)) draw_collision(painter, at, *tile, *sheet_, number);
    }
    painter.setOpacity(1);
    painter.setRenderHint(QPainter::Antialiasing);
    QColor line = color::ink;
    line.setAlphaF(0.5f);
    painter.setPen(QPen(line, 1));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(own);
    QPolygonF polygon;
    for (Vec2 p : outline_) polygon << on_screen(p);
    QColor fill = color::plum;
    fill.setAlphaF(0.3f);
    painter.setPen(QPen(color::plum, 2));
    painter.setBrush(fill);
    painter.drawPolygon(polygon);
    for (int i = 0; i < polygon.size(); ++i) {
        painter.setBrush(i == corner_ ? color::accent : color::paper);
        painter.drawRect(QRectF(polygon[i] - QPointF(4, 4), QSizeF(8, 8)));
    }
}

void OutlineView::choose(int corner) {
    corner_ = corner;
    update();
    emit cornerChosen();
}

void OutlineView::mousePressEvent(QMouseEvent* event) {
    if (!sheet_ || number_ < 0 || event->button() != Qt::LeftButton) return;
    const QPointF at = event->position();
    dragging_ = true;
    for (int i = 0; i < int(outline_.size()); ++i)
        if (QLineF(on_screen(outline_[size_t(i)]), at).length() < k_near_px) return choose(i);
    const Vec2 p = caught(in_cell(at));
    if (outline_.size() < 3) {
        outline_.push_back(p);
        choose(int(outline_.size()) - 1);
        if (outline_.size() >= 3) emit outlineChanged();
        return;
    }
    // A new corner goes into the edge it lies nearest to.
    size_t best = 0;
    double least = std::numeric_limits<double>::infinity();
    for (size_t i = 0; i < outline_.size(); ++i) {
        const Vec2 a = outline_[i], along = outline_[(i + 1) % outline_.size()] - a;
        const double size = glm::dot(along, along);
        const double t = size > 0 ? std::clamp(glm::dot(p - a, along) / size, 0.0, 1.0) : 0;
        if (const double apart = glm::length(a + along * t - p); apart < least) least = apart, best = i;
    }
    outline_.insert(outline_.begin() + std::ptrdiff_t(best) + 1, p);
    choose(int(best) + 1);
    emit outlineChanged();
}

void OutlineView::mouseMoveEvent(QMouseEvent* event) {
    if (!dragging_ || corner_ < 0 || !(event->buttons() & Qt::LeftButton)) return;
    const Vec2 p = caught(in_cell(event->position()));
    if (p == outline_[size_t(corner_)]) return;
    outline_[size_t(corner_)] = p;
    update();
    if (outline_.size() >= 3) emit outlineChanged();
}

void OutlineView::mouseReleaseEvent(QMouseEvent*) { dragging_ = false; }

void OutlineView::remove_corner() {
    if (corner_ < 0 || outline_.size() <= 3) return;
    outline_.erase(outline_.begin() + corner_);
    choose(-1);
    emit outlineChanged();
}

void OutlineView::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Delete || event->key() == Qt::Key_Backspace) return remove_corner();
    const std::pair<int, Vec2> ways[] = {
        {Qt::Key_Left, {-1, 0}}, {Qt::Key_Right, {1, 0}}, {Qt::Key_Up, {0, 1}}, {Qt::Key_Down, {0, -1}}};
    for (const auto& [key, by] : ways)
        if (event->key() == key && corner_ >= 0 && sheet_) {
            Vec2& p = outline_[size_t(corner_)];
            p = glm::clamp(p + by / steps(), Vec2(0), Vec2(1));
            update();
            if (outline_.size() >= 3) emit outlineChanged();
            return;
        }
    QWidget::keyPressEvent(event);
}

} // namespace rubble::app
