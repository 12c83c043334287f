#include "tiles/tile_size.h"

#include <cmath>

#include <QPainter>

#include "theme.h"

namespace rubble::app {

namespace {

constexpr double k_air_px = 6;
/// Smaller tiles are drawn as a stack of as many as the character is tall.
constexpr int k_most_in_stack = 64;

} // namespace

TileSize::TileSize(QWidget* parent) : QWidget(parent) {
    setAccessibleName(tr("The tile beside the character"));
    setMinimumSize(sizeHint());
}

void TileSize::show_sizes(Vec2 tile_m, const Character& character) {
    tile_m_ = tile_m, character_ = character;
    update();
}

QSize TileSize::sizeHint() const { return {fontMetrics().height() * 7, fontMetrics().height() * 8}; }

void TileSize::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const double tall = std::max(tile_m_.y, character_.height_m),
                 wide = tile_m_.x + 3 * character_.radius_m + 2 * character_.radius_m;
    const double scale = std::min((height() - 2 * k_air_px) / tall, (width() - 2 * k_air_px) / wide);
    const double ground = height() - k_air_px, left = k_air_px;
    painter.setPen(QPen(color::ink, 1.5));
    painter.drawLine(QPointF(0, ground), QPointF(width(), ground));
    const int stack = std::min(std::max(1, int(std::ceil(character_.height_m / tile_m_.y))), k_most_in_stack);
    for (int i = 0; i < stack; ++i) {
        const QRectF tile(left, ground - (i + 1) * tile_m_.y * scale, tile_m_.x * scale, tile_m_.y * scale);
        painter.setPen(QPen(i == 0 ? color::ink : color::line, 1));
        painter.setBrush(i == 0 ? QBrush(color::stone) : QBrush(Qt::NoBrush));
        painter.drawRect(tile);
    }
    const double r = character_.radius_m * scale, h = character_.height_m * scale;
    const double x = left + tile_m_.x * scale + r + 2 * r;
    painter.setPen(QPen(color::accent, 1.5));
    painter.setBrush(Qt::NoBrush);
    const double head = std::min(r, h / 6);
    painter.drawEllipse(QPointF(x, ground - h + head), head, head);
    painter.drawRoundedRect(QRectF(x - r, ground - h + 2 * head, 2 * r, h - 2 * head), r / 2, r / 2);
}

} // namespace rubble::app
