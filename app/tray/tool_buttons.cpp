#include "tray/tool_buttons.h"

#include <algorithm>

#include <QPainter>
#include <QToolButton>

#include "level/brush_shape.h"
#include "shape_list.h"
#include "theme.h"
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
    if (shape == Shape::outline)
        brush.points = {{-0.8, -0.6}, {0.8, -0.6}, {0.8, 0.1}, {0.1, 0.1}, {0.1, 0.7}, {-0.8, 0.7}},
        brush.size.z = 0.6;
    if (shape == Shape::wall_run)
        brush.points = {{-0.8, 0.5}, {-0.8, -0.5}, {0.4, -0.5}, {0.8, 0.6}}, brush.thickness_m = 0.15,
        brush.size.z = 0.7;
    return measured(brush);
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
    }
    return QIcon(pixmap);
}

} // namespace

ToolButtons::ToolButtons(QWidget* parent) : QWidget(parent), grid_(new QGridLayout(this)) {
    grid_->setContentsMargins(0, 0, 0, 0);
    grid_->setSpacing(4);
    grid_->setColumnStretch(3, 1);
}

void ToolButtons::add(const QString& name, const QString& label, const QString& key) {
    auto* button = new QToolButton;
    button->setObjectName(name);
    button->setIcon(tool_picture(name));
    button->setIconSize({36, 29});
    // The full name is in the tooltip; on the button there is room for one word.
    button->setText(button->fontMetrics().horizontalAdvance(label) > k_button_width - 6
                        ? label.section(' ', 0, 0)
                        : label);
    button->setToolButtonStyle(Qt::ToolButtonTextUnderIcon);
    button->setCheckable(true);
    button->setFixedSize(k_button_width, 52);
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
