#pragma once

#include "tools/tool.h"

namespace rubble::app {

/// A rectangle drawn on the screen to take what lies in it.
class SelectionFrame {
public:
    void begin(QPointF at) { begin_ = now_ = at, drawn_ = false, open_ = true; }
    void move(QPointF at);
    /// Closes it: true where it was drawn, not only clicked.
    bool end();
    bool open() const { return open_; }
    bool drawn() const { return open_ && drawn_; }
    QRectF rectangle() const { return QRectF(begin_, now_).normalized(); }
    void paint(QPainter& painter) const;

private:
    QPointF begin_, now_;
    bool open_ = false, drawn_ = false;
};

/// The items that lie wholly within a rectangle of the screen; none that is hidden.
std::vector<ItemId> items_within(const Level& level, const QRectF& frame, const Camera& camera);

} // namespace rubble::app
