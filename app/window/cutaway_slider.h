#pragma once

#include <QPainter>
#include <QSlider>

#include "theme.h"

namespace rubble::app {

/// The height above which everything is taken off, with a line for every storey.
class CutawaySlider : public QSlider {
public:
    explicit CutawaySlider(QWidget* parent = nullptr) : QSlider(Qt::Vertical, parent) {
        setAccessibleName(tr("Cutaway height"));
        setToolTip(tr("Cutaway: takes off all that is above a height. A line is a storey of three metres"));
        setFixedWidth(fontMetrics().height() * 2);
    }

protected:
    void paintEvent(QPaintEvent* event) override {
        QPainter painter(this);
        painter.setPen(QPen(color::line, 1.5));
        const int handle = 8, span = height() - handle, range = maximum() - minimum();
        // The style leaves the ticks of a styled slider out.
        for (int at = 0; range > 0 && at <= maximum(); at += tickInterval()) {
            if (at < minimum()) continue;
            const int y = height() - handle / 2 - span * (at - minimum()) / range;
            painter.drawLine(1, y, width() / 3, y);
        }
        painter.end();
        QSlider::paintEvent(event);
    }
};

} // namespace rubble::app
