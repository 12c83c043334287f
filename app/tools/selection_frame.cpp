#include "tools/selection_frame.h"

#include "level/item_search.h"
#include "theme.h"
#include "tools/catch_distance.h"

namespace rubble::app {

namespace {

bool lies_within(const Box3& box, const QRectF& frame, const Camera& camera) {
    for (int i = 0; i < 8; ++i) {
        const auto at = camera.to_screen(
            {i & 1 ? box.high.x : box.low.x, i & 2 ? box.high.y : box.low.y, i & 4 ? box.high.z : box.low.z});
        if (!at || !frame.contains(*at)) return false;
    }
    return true;
}

} // namespace

void SelectionFrame::move(QPointF at) {
    now_ = at;
    drawn_ |= (at - begin_).manhattanLength() >= k_drag_px;
}

bool SelectionFrame::end() {
    open_ = false;
    return drawn_;
}

void SelectionFrame::paint(QPainter& painter) const {
    if (!drawn()) return;
    QColor fill = color::accent;
    fill.setAlphaF(0.08f);
    painter.setPen(QPen(color::accent, 1, Qt::DashLine));
    painter.setBrush(fill);
    painter.drawRect(rectangle());
    painter.setBrush(Qt::NoBrush);
}

std::vector<ItemId> items_within(const Level& level, const QRectF& frame, const Camera& camera) {
    std::vector<ItemId> out;
    for (const auto& layer : level.layers) {
        if (is_hidden(level, *layer) || is_locked(level, *layer)) continue;
        for (const ItemPtr& item : layer->items)
            if (!item->hidden)
                if (const Box3 box = box_of(*item); !box.empty() && lies_within(box, frame, camera))
                    out.push_back(item->id);
    }
    return out;
}

} // namespace rubble::app
