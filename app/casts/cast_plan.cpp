#include "casts/cast_plan.h"

#include <algorithm>
#include <climits>

#include <QPainter>
#include <QPainterPath>

#include "theme.h"

namespace rubble::app {

namespace {

/// Free room around the plan, and how much narrower a cell is drawn than it is, as parts of a cell.
constexpr double k_around = 0.4, k_inset = 0.12;
/// How far each storey is drawn up and to the right of the one below, in cells.
constexpr double k_storey_shift = 0.16;

class PlanPainter {
public:
    PlanPainter(const cast::Parts& parts, const cast::Cast& cast, QSize size)
        : parts_(parts),
          cast_(cast),
          image_(size, QImage::Format_ARGB32_Premultiplied) {
        image_.fill(color::paper);
        cast::ModuleCell low{INT_MAX, INT_MAX, INT_MAX}, high{INT_MIN, INT_MIN, INT_MIN};
        for_each_cell([&](const cast::ModuleCell& cell, const cast::Part&) {
            for (size_t axis = 0; axis < 3; ++axis)
                low[axis] = std::min(low[axis], cell[axis]), high[axis] = std::max(high[axis], cell[axis]);
        });
        low_ = low, high_ = high;
        const Vec3& module = parts_.module_m;
        const bool side = cast.level.frame == Frame::side;
        const Vec2 across = side ? Vec2(module.x, module.z) : Vec2(module.x, module.y);
        const int rows = side ? high[2] - low[2] + 1 : high[1] - low[1] + 1;
        const Vec2 whole = across * (Vec2(high[0] - low[0] + 1, rows) + Vec2(2 * k_around));
        px_per_m_ = std::min(size.width() / whole.x, size.height() / whole.y);
        const Vec2 first = side ? Vec2(low[0], low[2]) : Vec2(low[0], low[1]);
        middle_ = across * (first + Vec2(high[0] - low[0] + 1, rows) * 0.5);
        side_ = side;
    }

    QImage run() {
        QPainter painter(&image_);
        painter.setRenderHint(QPainter::Antialiasing);
        for (int storey = low_[2]; storey <= high_[2]; ++storey) draw_storey(painter, storey);
        draw_way(painter);
        return image_;
    }

private:
    template <class F> void for_each_cell(const F& visit) const {
        for (const cast::Laid& laid : cast_.layout.laid)
            for (const cast::ModuleCell& own : parts_.parts[laid.part].cells)
                visit({laid.at[0] + own[0], laid.at[1] + own[1], laid.at[2] + own[2]},
                      parts_.parts[laid.part]);
    }

    /// A place in the level where it is drawn.
    QPointF drawn(const Vec3& at) const {
        const Vec3& module = parts_.module_m;
        const double storey = side_ ? 0 : std::floor(at.z / module.z + 1e-6) - low_[2];
        const Vec2 shift = Vec2(module.x, module.y) * (k_storey_shift * storey);
        const Vec2 p = (side_ ? Vec2(at.x, at.z) : Vec2(at.x, at.y) + shift) - middle_;
        return {image_.width() / 2.0 + p.x * px_per_m_, image_.height() / 2.0 - p.y * px_per_m_};
    }
    Vec3 low_of(const cast::ModuleCell& cell) const {
        return parts_.module_m * Vec3(cell[0], cell[1], cell[2]);
    }
    QRectF rect(const Vec3& low, const Vec3& high) const {
        const Vec3 top(high.x, high.y, side_ ? high.z : low.z);
        return QRectF(drawn(low), drawn(top)).normalized();
    }

    void draw_storey(QPainter& painter, int storey) const {
        const Vec3& module = parts_.module_m;
        QPainterPath path;
        path.setFillRule(Qt::WindingFill);
        for_each_cell([&](const cast::ModuleCell& cell, const cast::Part&) {
            if (cell[2] != storey) return;
            path.addRect(rect(low_of(cell) + module * k_inset, low_of(cell) + module * (1 - k_inset)));
        });
        for (const cast::Laid& laid : cast_.layout.laid)
            for (const cast::PartJoint& joint : parts_.parts[laid.part].joints)
                if (joint.passage && laid.at[2] + joint.cell[2] == storey) add_passage(path, laid, joint);
        painter.setPen(QPen(color::faint_ink, 1));
        const QColor floor = color::stone;
        painter.setBrush(storey == low_[2] || side_ ? floor : floor.lighter(118));
        painter.drawPath(path.simplified());
    }

    /// The half of a passage that lies in a cell.
    void add_passage(QPainterPath& path, const cast::Laid& laid, const cast::PartJoint& joint) const {
        const Vec3 out = direction_of(joint.side), module = parts_.module_m;
        if (!side_ && std::abs(out.z) > 0.5) return;
        const cast::ModuleCell cell{laid.at[0] + joint.cell[0], laid.at[1] + joint.cell[1],
                                    laid.at[2] + joint.cell[2]};
        const Vec3 middle = low_of(cell) + module * 0.5, end = middle + module * out * 0.5;
        const Vec3 wide = module * 0.18 * (Vec3(1) - glm::abs(out));
        Vec3 low = glm::min(middle, end) - wide, high = glm::max(middle, end) + wide;
        low.z = low_of(cell).z;
        path.addRect(rect(low, high));
    }

    void draw_way(QPainter& painter) const {
        if (cast_.way.empty()) return;
        QPainterPath path(drawn(cast_.way[0]));
        for (const Vec3& at : cast_.way) path.lineTo(drawn(at));
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(color::accent, 1.6, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        painter.drawPath(path);
        painter.setPen(QPen(color::paper, 1));
        painter.setBrush(color::accent);
        painter.drawEllipse(drawn(cast_.way.front()), 4.5, 4.5);
        painter.setBrush(color::sea_green);
        painter.drawRect(QRectF(drawn(cast_.way.back()) - QPointF(4.5, 4.5), QSizeF(9, 9)));
    }

    const cast::Parts& parts_;
    const cast::Cast& cast_;
    QImage image_;
    cast::ModuleCell low_{}, high_{};
    Vec2 middle_{0};
    double px_per_m_ = 1;
    bool side_ = false;
};

} // namespace

QImage plan_of(const cast::Parts& parts, const cast::Cast& cast, QSize size) {
    return PlanPainter(parts, cast, size).run();
}

} // namespace rubble::app
