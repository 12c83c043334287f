#include "tools/tool_pictures.h"

#include <algorithm>

#include "level/brush_shape.h"
#include "theme.h"
#include "view/camera.h"
#include "view/overlay.h"

namespace rubble::app {

namespace {

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

Camera small_camera() {
    Camera camera;
    camera.size = {40, 32};
    camera.heading_deg = 62, camera.tilt_deg = 28, camera.distance_m = 3.3, camera.field_deg = 40;
    camera.target = {0, 0, 0.45};
    return camera;
}

Brush small_block() {
    Brush brush;
    brush.size = {1.5, 1.1, 0.9};
    brush.sides = 9;
    return brush;
}

/// Of faces that may be concave.
Vec3 normal_of(const BrushBody& body, const BrushBody::Face& face) {
    const auto at = [&](size_t i) { return geometry::to_metres(body.points[size_t(face.loop[i])]); };
    Vec3 normal(0);
    for (size_t i = 1; i + 1 < face.loop.size(); ++i) normal += glm::cross(at(i) - at(0), at(i + 1) - at(0));
    return glm::normalize(normal);
}

/// The faces of a brush, far ones first; of one that cuts only the edges.
void draw_small(QPainter& painter, const Brush& brush, bool cut) {
    const Camera camera = small_camera();
    painter.setPen(QPen(color::ink, 1.3, cut ? Qt::DashLine : Qt::SolidLine));
    BrushBody body = body_of(brush);
    const auto middle = [&](const BrushBody::Face& face) {
        Vec3 sum(0);
        for (int i : face.loop) sum += geometry::to_metres(body.points[size_t(i)]);
        return sum / double(face.loop.size());
    };
    const auto depth = [&](const BrushBody::Face& face) { return glm::dot(middle(face), camera.forward()); };
    std::stable_sort(body.faces.begin(), body.faces.end(),
                     [&](const auto& a, const auto& b) { return depth(a) > depth(b); });
    for (const auto& face : body.faces) {
        const Vec3 normal = normal_of(body, face);
        if (!cut && glm::dot(normal, middle(face) - camera.eye()) > 0) continue;
        QPolygonF outline;
        for (int i : face.loop)
            if (const auto s = camera.to_screen(geometry::to_metres(body.points[size_t(i)]))) outline << *s;
        painter.setBrush(cut ? QBrush(Qt::NoBrush)
                             : QBrush(color::stone.lighter(int(100 + 18 * std::max(normal.z, 0.0)))));
        painter.drawPolygon(outline);
    }
}

} // namespace

void picture_shape(QPainter& painter, Shape shape) {
    draw_small(painter, shown(small_block(), shape), false);
}

void picture_cut(QPainter& painter) { draw_small(painter, small_block(), true); }

void picture_opening(QPainter& painter, edit::OpeningKind kind) {
    draw_small(painter, small_wall(), false);
    painter.setBrush(color::ink);
    if (const auto hole = opening_in_small_wall(kind))
        draw_face(painter, small_camera(), *hole, BoxSide::near);
}

void picture_knife(QPainter& painter) {
    draw_small(painter, small_block(), false);
    painter.setPen(QPen(color::accent, 1.6, Qt::DashLine));
    painter.drawLine(QPointF(13, 3), QPointF(27, 30));
}

void picture_element(QPainter& painter, const std::string& kind) {
    draw_element(painter, {20, 28}, kind_of(kind), false);
}

void picture_slice(QPainter& painter) {
    draw_small(painter, small_block(), true);
    painter.setPen(QPen(color::accent, 1.3));
    painter.setBrush(QBrush(color::accent, Qt::BDiagPattern));
    painter.drawPolygon(QPolygonF{{16, 6}, {24, 3}, {24, 25}, {16, 28}});
}

void picture_underlay(QPainter& painter) {
    painter.setPen(QPen(color::ink, 1.3, Qt::DashLine));
    painter.setBrush(Qt::white);
    painter.drawRect(QRectF(5, 6, 30, 20));
    painter.setPen(QPen(color::blue_grey, 1.3));
    painter.drawPolyline(QPolygonF{{8, 22}, {15, 13}, {21, 19}, {26, 11}, {32, 22}});
}

void picture_mirror(QPainter& painter) {
    painter.setPen(QPen(color::ink, 1.3));
    painter.setBrush(color::stone);
    painter.drawPolygon(QPolygonF{{4, 26}, {16, 26}, {16, 8}});
    painter.setBrush(Qt::NoBrush);
    painter.drawPolygon(QPolygonF{{36, 26}, {24, 26}, {24, 8}});
    painter.setPen(QPen(color::plum, 1.3, Qt::DashLine));
    painter.drawLine(QPointF(20, 3), QPointF(20, 30));
}

void picture_piece(QPainter& painter) {
    painter.setPen(QPen(color::line, 1, Qt::DotLine));
    painter.drawPolygon(QPolygonF{{3, 22}, {20, 14}, {37, 22}, {20, 30}});
    painter.setPen(QPen(color::ink, 1.3));
    painter.setBrush(color::stone);
    painter.drawPolygon(QPolygonF{{3, 22}, {20, 14}, {20, 3}, {3, 11}});
    painter.setBrush(color::stone.lighter(118));
    painter.drawPolygon(QPolygonF{{20, 14}, {37, 22}, {37, 11}, {20, 3}});
}

void picture_plane(QPainter& painter) {
    painter.setPen(QPen(color::ink, 1.3));
    painter.setBrush(color::stone.lighter(118));
    painter.drawPolygon(QPolygonF{{4, 20}, {22, 12}, {36, 18}, {18, 27}});
}

void picture_hole(QPainter& painter) {
    painter.setPen(QPen(color::ink, 1.3));
    painter.setBrush(color::stone.lighter(118));
    painter.drawPolygon(QPolygonF{{4, 19}, {22, 9}, {36, 17}, {18, 28}});
    painter.setBrush(color::ink);
    painter.drawPolygon(QPolygonF{{14, 19}, {22, 14.5}, {27, 17.5}, {19, 22.5}});
}

void picture_mass(QPainter& painter) {
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
}

void picture_measure(QPainter& painter) {
    painter.setPen(QPen(color::ink, 1.5));
    painter.drawLine(QPointF(6, 24), QPointF(34, 8));
    painter.drawLine(QPointF(3.5, 19.5), QPointF(8.5, 28.5));
    painter.drawLine(QPointF(31.5, 3.5), QPointF(36.5, 12.5));
}

/// An arc from here to a ring.
void picture_ask(QPainter& painter) {
    painter.setPen(QPen(color::accent, 1.8, Qt::DashLine));
    painter.drawArc(QRectF(7, 8, 24, 34), 20 * 16, 140 * 16);
    painter.setPen(QPen(color::ink, 1.5));
    painter.drawEllipse(QPointF(31, 22), 4, 4);
    painter.setBrush(color::ink);
    painter.drawEllipse(QPointF(7, 23), 2, 2);
    painter.setBrush(Qt::NoBrush);
}

void picture_select(QPainter& painter) {
    painter.setPen(QPen(color::ink, 1.5));
    painter.setBrush(Qt::white);
    painter.drawPolygon(
        QPolygonF{{14, 5}, {14, 24}, {19, 19.5}, {23, 27}, {26, 25.5}, {22.5, 18.5}, {28, 18}});
}

void picture_tiles(QPainter& painter, TileStroke stroke) {
    constexpr int k_px = 8; // a cell of five by four
    const auto cell = [&](int column, int row, const QColor& fill) {
        const QRectF box(column * k_px, row * k_px, k_px, k_px);
        painter.setPen(QPen(color::stone.darker(130), 0.8));
        painter.setBrush(fill);
        painter.drawRect(box.adjusted(0.5, 0.5, -0.5, -0.5));
    };
    const auto cells = [&](std::initializer_list<std::pair<int, int>> at, const QColor& fill) {
        for (const auto& [column, row] : at) cell(column, row, fill);
    };
    switch (stroke) {
    case TileStroke::pencil:
        cells({{0, 3}, {1, 3}, {1, 2}, {2, 2}, {3, 1}}, color::stone);
        cell(4, 0, color::accent);
        break;
    case TileStroke::line:
        cells({{0, 3}, {1, 2}, {2, 2}, {3, 1}, {4, 0}}, color::stone);
        break;
    case TileStroke::rectangle:
        cells({{1, 1}, {2, 1}, {3, 1}, {1, 2}, {2, 2}, {3, 2}}, color::stone);
        break;
    case TileStroke::ellipse:
        cells({{1, 0}, {2, 0}, {3, 0}, {0, 1}, {1, 1}, {2, 1}, {3, 1}, {4, 1}}, color::stone);
        cells({{0, 2}, {1, 2}, {2, 2}, {3, 2}, {4, 2}, {1, 3}, {2, 3}, {3, 3}}, color::stone);
        break;
    case TileStroke::fill:
        cells({{0, 0}, {0, 1}, {0, 2}, {0, 3}, {1, 3}, {2, 3}, {3, 3}, {4, 3}, {4, 2}, {4, 1}, {4, 0}},
              color::stone);
        cells({{1, 1}, {2, 1}, {3, 1}, {1, 2}, {2, 2}, {3, 2}}, color::accent);
        break;
    case TileStroke::replace:
        cells({{0, 0}, {2, 0}, {4, 0}, {1, 1}, {3, 1}}, color::stone);
        cells({{0, 2}, {2, 2}, {4, 2}, {1, 3}, {3, 3}}, color::accent);
        break;
    case TileStroke::erase:
        cells({{0, 1}, {1, 1}, {0, 2}, {1, 2}, {4, 1}, {4, 2}}, color::stone);
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(color::ink, 1.2, Qt::DashLine));
        painter.drawRect(QRectF(16, 8, 15, 15));
        break;
    case TileStroke::pick_up:
        cells({{0, 3}, {1, 3}, {2, 3}, {3, 3}, {4, 3}}, color::stone);
        cells({{1, 1}, {2, 1}, {3, 1}}, color::stone);
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(color::accent, 1.4));
        painter.drawRect(QRectF(6, 6, 28, 12));
        break;
    }
}

} // namespace rubble::app
