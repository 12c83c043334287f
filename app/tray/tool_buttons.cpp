#include "tray/tool_buttons.h"

#include <algorithm>

#include <QPainter>
#include <QToolButton>

#include "level/brush_shape.h"
#include "shape_list.h"
#include "theme.h"
#include "tools/opening_tool.h"
#include "view/camera.h"
#include "view/overlay.h"

namespace rubble::app {

namespace {

constexpr int k_button_width = 59;

/// A small brush that shows what a shape is like.
Brush shown(Brush brush, Shape shape) {
    brush.shape = shape;
    brush.steps = 4;
    brush.thickness_m = 0.3;
    brush.angle_deg = 150;
    if (shape == Shape::ball) brush.size = {1.2, 1.2, 1.2};
    if (shape == Shape::arch) brush.size = {1.6, 0.6, 1.2}, brush.place.turn_deg = 25;
    if (shape == Shape::stairs) brush.place.turn_deg = 35;
    if (shape == Shape::curved_stairs) brush.size = {1.9, 1.9, 0.9}, brush.place.turn_deg = 20;
    if (shape == Shape::pipe)
        brush.size = {3, 3, 0.8}, brush.thickness_m = 0.15, brush.angle_deg = 100, brush.sides = 8,
        brush.steps = 4, brush.place.at = {-0.7, -0.9, 0};
    if (shape == Shape::outline)
        brush.points = {{-0.8, -0.6}, {0.8, -0.6}, {0.8, 0.1}, {0.1, 0.1}, {0.1, 0.7}, {-0.8, 0.7}},
        brush.size.z = 0.6;
    if (shape == Shape::wall_run)
        brush.points = {{-0.8, 0.5}, {-0.8, -0.5}, {0.4, -0.5}, {0.8, 0.6}}, brush.thickness_m = 0.15,
        brush.size.z = 0.7;
    return measured(brush);
}

/// A wall, and an opening in it that fits a small figure.
Brush small_wall() {
    Brush wall;
    wall.size = {1.7, 0.3, 1.5};
    wall.place.turn_deg = 25;
    return wall;
}

std::optional<Brush> opening_in_small_wall(edit::OpeningKind kind) {
    const Brush wall = small_wall();
    Character small;
    small.height_m = 0.75, small.radius_m = 0.08, small.eye_height_m = 0.7;
    return edit::opening_in({{"wall"}, {}, false, wall, {}}, wall.place.to_level({0, -0.15, 0.5}),
                            wall.place.direction({0, -1, 0}), kind, small);
}

/// The picture of a tool, drawn from what it makes.
QIcon tool_picture(const QString& name) {
    QPixmap pixmap(80, 64);
    pixmap.setDevicePixelRatio(2);
    pixmap.fill(Qt::transparent);
    QPainter painter(&pixmap);
    painter.setRenderHint(QPainter::Antialiasing);
    if (name.startsWith(QStringLiteral("place "))) {
        draw_element(painter, {20, 28}, name.mid(6).toStdString(), false);
    } else if (name == QStringLiteral("mirror")) {
        painter.setPen(QPen(color::ink, 1.3));
        painter.setBrush(color::stone);
        painter.drawPolygon(QPolygonF{{4, 26}, {16, 26}, {16, 8}});
        painter.setBrush(Qt::NoBrush);
        painter.drawPolygon(QPolygonF{{36, 26}, {24, 26}, {24, 8}});
        painter.setPen(QPen(color::plum, 1.3, Qt::DashLine));
        painter.drawLine(QPointF(20, 3), QPointF(20, 30));
    } else if (name == QStringLiteral("plane")) {
        painter.setPen(QPen(color::ink, 1.3));
        painter.setBrush(color::stone.lighter(118));
        painter.drawPolygon(QPolygonF{{4, 20}, {22, 12}, {36, 18}, {18, 27}});
    } else if (name == QStringLiteral("hole")) {
        painter.setPen(QPen(color::ink, 1.3));
        painter.setBrush(color::stone.lighter(118));
        painter.drawPolygon(QPolygonF{{4, 19}, {22, 9}, {36, 17}, {18, 28}});
        painter.setBrush(color::ink);
        painter.drawPolygon(QPolygonF{{14, 19}, {22, 14.5}, {27, 17.5}, {19, 22.5}});
    } else if (name == QStringLiteral("mass")) {
        // Three heights of cells, seen from a corner.
        painter.setPen(QPen(color::ink, 1.2));
        for (const auto& [x, height] : {std::pair{20.0, 16.0}, {12.0, 10.0}, {28.0, 5.0}}) {
            const QPointF top(x, 25 - height), right(x + 8, 29 - height), left(x - 8, 29 - height),
                low(x, 33 - height);
            painter.setBrush(color::stone.lighter(118));
            painter.drawPolygon(QPolygonF{top, right, low, left});
            painter.setBrush(color::stone);
            painter.drawPolygon(QPolygonF{left, low, QPointF(x, 32), QPointF(x - 8, 28)});
            painter.setBrush(color::stone.darker(112));
            painter.drawPolygon(QPolygonF{low, right, QPointF(x + 8, 28), QPointF(x, 32)});
        }
    } else if (name == QStringLiteral("measure")) {
        painter.setPen(QPen(color::ink, 1.5));
        painter.drawLine(QPointF(6, 24), QPointF(34, 8));
        painter.drawLine(QPointF(3.5, 19.5), QPointF(8.5, 28.5));
        painter.drawLine(QPointF(31.5, 3.5), QPointF(36.5, 12.5));
    } else if (name == QStringLiteral("select")) {
        painter.setPen(QPen(color::ink, 1.5));
        painter.setBrush(Qt::white);
        painter.drawPolygon(
            QPolygonF{{14, 5}, {14, 24}, {19, 19.5}, {23, 27}, {26, 25.5}, {22.5, 18.5}, {28, 18}});
    } else {
        Camera camera;
        camera.size = {40, 32};
        camera.heading_deg = 62, camera.tilt_deg = 28, camera.distance_m = 3.3, camera.field_deg = 40;
        camera.target = {0, 0, 0.45};
        Brush brush;
        brush.size = {1.5, 1.1, 0.9};
        brush.sides = 9;
        if (const ShapeEntry* entry = shape_of_tool(name)) brush = shown(brush, entry->shape);
        const auto opening = opening_of_tool(name);
        if (opening) brush = small_wall();
        const bool cut = name == QStringLiteral("cut");
        painter.setPen(QPen(color::ink, 1.3, cut ? Qt::DashLine : Qt::SolidLine));
        BrushBody body = body_of(brush);
        auto depth = [&](const BrushBody::Face& face) {
            Vec3 sum(0);
            for (int i : face.loop) sum += geometry::to_metres(body.points[size_t(i)]);
            return glm::dot(sum / double(face.loop.size()), camera.forward());
        };
        std::stable_sort(body.faces.begin(), body.faces.end(),
                         [&](const auto& a, const auto& b) { return depth(a) > depth(b); });
        for (const auto& face : body.faces) {
            QPolygonF outline;
            Vec3 middle(0);
            for (int i : face.loop) {
                const Vec3 p = geometry::to_metres(body.points[size_t(i)]);
                middle += p / double(face.loop.size());
                if (const auto s = camera.to_screen(p)) outline << *s;
            }
            const Vec3 a = geometry::to_metres(body.points[size_t(face.loop[0])]);
            Vec3 normal(0); // of concave faces too
            for (size_t i = 1; i + 1 < face.loop.size(); ++i)
                normal += glm::cross(geometry::to_metres(body.points[size_t(face.loop[i])]) - a,
                                     geometry::to_metres(body.points[size_t(face.loop[i + 1])]) - a);
            normal = glm::normalize(normal);
            if (!cut && glm::dot(normal, middle - camera.eye()) > 0) continue;
            painter.setBrush(cut ? QBrush(Qt::NoBrush)
                                 : QBrush(color::stone.lighter(int(100 + 18 * std::max(normal.z, 0.0)))));
            painter.drawPolygon(outline);
        }
        if (opening) {
            painter.setBrush(color::ink);
            if (const auto hole = opening_in_small_wall(*opening))
                draw_side(painter, camera, *hole, BoxSide::near);
        }
        if (name == QStringLiteral("knife")) {
            painter.setPen(QPen(color::accent, 1.6, Qt::DashLine));
            painter.drawLine(QPointF(13, 3), QPointF(27, 30));
        }
    }
    return QIcon(pixmap);
}

} // namespace

ToolButtons::ToolButtons(QWidget* parent) : QWidget(parent), grid_(new QGridLayout(this)) {
    grid_->setContentsMargins(0, 0, 0, 0);
    grid_->setHorizontalSpacing(4);
    grid_->setVerticalSpacing(3);
    grid_->setColumnStretch(3, 1);
}

void ToolButtons::add(const QString& name, const QString& label, const QString& key) {
    auto* button = new QToolButton;
    button->setObjectName(name);
    button->setIcon(tool_picture(name));
    button->setIconSize({33, 26});
    // The full name is in the tooltip; on the button there is room for one word.
    button->setText(button->fontMetrics().horizontalAdvance(label) > k_button_width - 6
                        ? label.section(' ', 0, 0)
                        : label);
    button->setToolButtonStyle(Qt::ToolButtonTextUnderIcon);
    button->setCheckable(true);
    button->setFixedSize(k_button_width, 46);
    button->setToolTip(key.isEmpty() ? label : tr("%1 (%2)").arg(label, key));
    button->setAccessibleName(label);
    button->setProperty("role", "tool");
    const int count = grid_->count();
    grid_->addWidget(button, count / 3, count % 3, Qt::AlignLeft);
    connect(button, &QToolButton::clicked, this, [this, name] { emit chosen(name); });
}

void ToolButtons::mark(const QString& name) {
    for (QToolButton* button : findChildren<QToolButton*>()) button->setChecked(button->objectName() == name);
}

} // namespace rubble::app
