#include "facts/jump_envelope.h"

#include <QPainter>

#include "check/flight.h"
#include "numbers.h"
#include "theme.h"

namespace rubble::app {

JumpEnvelope::JumpEnvelope(const Documents& documents, QWidget* parent)
    : QWidget(parent),
      documents_(documents) {
    setMinimumHeight(150);
    setAccessibleName(tr("Jump: height against distance"));
    connect(&documents_, &Documents::changed, this, qOverload<>(&QWidget::update));
}

void JumpEnvelope::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const Character c = character_of(documents_.project(), documents_.level());
    painter.setPen(QPen(color::line));
    painter.setBrush(color::paper);
    painter.drawRoundedRect(rect().adjusted(0, 0, -1, -1), 4, 4);
    const double apex = check::highest_rise(c), deepest = std::min(2.0, c.survived_fall_m);
    const double widest = check::longest_gap(c, -deepest).value_or(1), top = std::max(apex, c.height_m);
    constexpr double k_stand_m = 0.7; ///< of ground left of the gap, for the figure
    const int line = fontMetrics().height();
    const QRectF area(12, line + 10, width() - 24, height() - 2 * line - 16);
    const double scale = std::min(area.width() / (widest + k_stand_m), area.height() / (top + deepest));
    auto at = [&](double x, double z) {
        return QPointF(area.left() + (x + k_stand_m) * scale, area.top() + (top - z) * scale);
    };
    painter.setPen(color::ink);
    painter.drawText(QRectF(10, 5, width() - 20, line), Qt::AlignLeft, tr("Widest gap for each rise"));

    // The ground one stands on, and a measure below: metres from its edge.
    painter.setPen(QPen(color::line, 1));
    for (int m = 1; m <= int(widest); ++m) painter.drawLine(at(m, -deepest), at(m, apex));
    painter.setPen(color::faint_ink);
    for (int m = 0; m <= int(widest); ++m)
        painter.drawText(QRectF(at(m, -deepest) + QPointF(-12, 1), QSizeF(24, line)), Qt::AlignCenter,
                         m == 0 ? tr("0 m") : QString::number(m));
    painter.setPen(QPen(color::ink, 1.4));
    painter.drawPolyline(QPolygonF{at(-k_stand_m, 0), at(0, 0), at(0, -deepest)});
    painter.setBrush(Qt::white);
    painter.drawRoundedRect(QRectF(at(-0.55, c.height_m - 0.32), at(-0.18, 0)), 3, 3);
    painter.drawEllipse(at(-0.365, c.height_m - 0.16), 0.15 * scale, 0.15 * scale);

    QPolygonF curve;
    for (double rise = apex; rise >= -deepest; rise -= 0.02)
        if (const auto gap = check::longest_gap(c, rise)) curve << at(*gap, rise);
    painter.setPen(QPen(color::sea_green, 2.2));
    painter.setBrush(Qt::NoBrush);
    painter.drawPolyline(curve);

    // What is said lies left of the curve, where one lands.
    const double flat_gap = check::longest_gap(c, 0).value_or(0),
                 high_gap = check::longest_gap(c, apex).value_or(0);
    painter.setPen(QPen(color::sea_green, 1, Qt::DotLine));
    painter.drawLine(at(0, 0), at(flat_gap, 0));
    painter.drawLine(at(0, apex), at(high_gap, apex));
    painter.setBrush(color::sea_green);
    painter.drawEllipse(at(flat_gap, 0), 3, 3);
    painter.setPen(color::ink);
    painter.drawText(QRectF(at(0, 0) + QPointF(4, 1), QSizeF(160, line)), Qt::AlignLeft,
                     tr("%1 wide").arg(metres_text(flat_gap)));
    painter.drawText(QRectF(at(0, apex) + QPointF(4, 1), QSizeF(100, line)), Qt::AlignLeft,
                     tr("%1 up").arg(metres_text(apex)));
}

} // namespace rubble::app
