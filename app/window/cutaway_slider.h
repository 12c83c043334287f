#pragma once

#include <vector>

#include <QPainter>
#include <QSlider>

#include "theme.h"

namespace rubble::app {

/// The height above which everything is taken off, with a line for every storey.
class CutawaySlider : public QSlider {
public:
    explicit CutawaySlider(QWidget* parent = nullptr) : QSlider(Qt::Vertical, parent) {
        setAccessibleName(tr("Cutaway height"));
        setToolTip(tr("Cutaway: takes off all that is above a height. A line is the ceiling of a storey"));
        setFixedWidth(fontMetrics().height() * 2);
    }

    /// The heights of the lines, in the slider's own steps.
    void set_lines(std::vector<int> lines) { lines_ = std::move(lines), update(); }

protected:
    void paintEvent(QPaintEvent* event) override {
        QPainter painter(this);
        painter.setPen(QPen(color::line, 1.5));
        const int handle = 8, span = height() - handle, range = maximum() - minimum();
        // The style leaves the ticks of a styled slider out.
        for (const int at : lines_) {
            if (range <= 0 || at < minimum() || at > maximum()) continue;
            const int y = height() - handle / 2 - span * (at - minimum()) / range;
            painter.drawLine(1, y, width() / 3, y);
        }
        painter.end();
        QSlider::paintEvent(event);
    }

private:
    std::vector<int> lines_;
};

} // namespace rubble::app
