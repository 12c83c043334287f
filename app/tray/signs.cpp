#include "tray/signs.h"

#include <QPainter>

#include "theme.h"

namespace rubble::app {

QPixmap sign(const QColor& ink, int corners) {
    QPixmap pixmap(28, 28);
    pixmap.setDevicePixelRatio(2);
    pixmap.fill(Qt::transparent);
    QPainter painter(&pixmap);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(Qt::NoPen);
    painter.setBrush(ink);
    if (corners == 3)
        painter.drawPolygon(QPolygonF{{7, 1.5}, {13, 12.5}, {1, 12.5}});
    else if (corners == 4)
        painter.drawPolygon(QPolygonF{{7, 1}, {13, 7}, {7, 13}, {1, 7}});
    else
        painter.drawEllipse(QPointF(7, 7), 5, 5);
    if (corners == 0) {
        painter.setPen(QPen(Qt::white, 1.6));
        painter.drawLine(QPointF(5, 5), QPointF(9, 9));
        painter.drawLine(QPointF(9, 5), QPointF(5, 9));
    }
    return pixmap;
}

QPixmap sign_of(check::Severity severity) {
    return severity == check::Severity::blocker   ? sign(color::plum, 3)
           : severity == check::Severity::concern ? sign(color::ochre, 4)
                                                  : sign(color::blue_grey, 1);
}

} // namespace rubble::app
