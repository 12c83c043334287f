#include "view/overlay.h"

#include "level/brush_shape.h"
#include "level/element_kinds.h"
#include "level/face_mesh.h"
#include "level/neighbours.h"
#include "numbers.h"
#include "theme.h"

namespace rubble::app {

void draw_line(QPainter& painter, const Camera& camera, const Vec3& a, const Vec3& b) {
    const double da = glm::dot(a - camera.eye(), camera.forward()),
                 db = glm::dot(b - camera.eye(), camera.forward());
    constexpr double near = 0.06;
    if (da < near && db < near) return;
    Vec3 p = a, q = b;
    if (da < near) p = a + (b - a) * ((near - da) / (db - da));
    if (db < near) q = b + (a - b) * ((near - db) / (da - db));
    const auto sp = camera.to_screen(p), sq = camera.to_screen(q);
    if (sp && sq) painter.drawLine(*sp, *sq);
}

void draw_path(QPainter& painter, const Camera& camera, const std::vector<Vec3>& points) {
    QPainterPath path;
    add_line(path, camera.projection(), points);
    painter.strokePath(path, painter.pen());
}

void add_line(QPainterPath& path, const Projection& project, const std::vector<Vec3>& points) {
    // Places closer than a few pixels to the last one are left out.
    constexpr double k_apart_px = 3;
    QPolygonF line;
    for (size_t i = 0; i < points.size(); ++i) {
        const auto at = project(points[i]);
        if (!at) continue;
        const bool last = i + 1 == points.size();
        if (!line.isEmpty() && !last && (*at - line.back()).manhattanLength() < k_apart_px) continue;
        line << *at;
    }
    const bool speck =
        line.size() <= 2 && (line.isEmpty() || (line.back() - line.front()).manhattanLength() < k_apart_px);
    if (!speck) path.addPolygon(line);
}

void draw_outline(QPainter& painter, const Camera& camera, const Brush& brush) {
    if (brush.shape == Shape::body) { // its own faces: in those of a hull, rounding leaves more edges
        for (const auto& [edge, face] : edge_faces({brush.corners, brush.faces}))
            if (edge.first < edge.second)
                draw_line(painter, camera, brush.place.to_level(brush.corners[size_t(edge.first)]),
                          brush.place.to_level(brush.corners[size_t(edge.second)]));
        return;
    }
    if (brush.shape == Shape::mass) { // the box of its grid: it may have very many edges of its own
        const std::vector<Vec3> corners = corners_of(brush);
        for (size_t i = 0; i < 8; ++i)
            for (const size_t bit : {1, 2, 4})
                if (!(i & bit)) draw_line(painter, camera, corners[i], corners[i | bit]);
        return;
    }
    const BrushBody body = body_of(brush);
    for (const auto& face : body.faces)
        for (size_t i = 0; i < face.loop.size(); ++i) {
            const int a = face.loop[i], b = face.loop[(i + 1) % face.loop.size()];
            if (a < b)
                draw_line(painter, camera, geometry::to_metres(body.points[size_t(a)]),
                          geometry::to_metres(body.points[size_t(b)]));
        }
}

void draw_face(QPainter& painter, const Camera& camera, const Brush& brush, const FaceName& name) {
    const BrushBody body = body_of(brush);
    for (const auto& face : body.faces) {
        if (face.side.name != name) continue;
        QPolygonF outline;
        for (int i : face.loop)
            if (const auto at = camera.to_screen(geometry::to_metres(body.points[size_t(i)]))) outline << *at;
        if (size_t(outline.size()) == face.loop.size()) painter.drawPolygon(outline);
    }
}

void draw_surroundings(QPainter& painter, const Camera& camera, const Level& level,
                       const std::vector<ItemId>& moving, const Box3& box) {
    constexpr double k_near_m = 12;
    painter.setPen(QPen(color::blue_grey, 1, Qt::DashLine));
    for (const EqualEdge& edge : equal_edges(level, moving, box, k_near_m)) {
        // Along the side, over both boxes; along the level's plane where the side is upright.
        const int along = edge.axis == 0 ? 1 : 0;
        Vec3 a(0), b(0);
        for (int axis = 0; axis < 3; ++axis)
            a[axis] = b[axis] = edge.axis == 2 || axis != 2 ? box.middle()[axis] : box.low.z;
        a[edge.axis] = b[edge.axis] = edge.at_m;
        a[along] = std::min(box.low[along], edge.other.low[along]);
        b[along] = std::max(box.high[along], edge.other.high[along]);
        draw_line(painter, camera, a, b);
    }
    Labels labels(painter);
    for (const Neighbour& beside : neighbours_of(level, moving, box, k_near_m)) {
        painter.setPen(QPen(color::accent, 1.2));
        draw_line(painter, camera, beside.from, beside.to);
        if (const auto at = camera.to_screen((beside.from + beside.to) / 2.0))
            labels.put(*at, metres_text(beside.gap_m), color::accent);
    }
}

void draw_box(QPainter& painter, const Camera& camera, const Box3& box) {
    Brush brush;
    brush.place.at = {box.middle().x, box.middle().y, box.low.z};
    brush.size = glm::max(box.high - box.low, Vec3(1e-4));
    draw_outline(painter, camera, brush);
}

void draw_piece(QPainter& painter, const Camera& camera, const PlacedPiece& placed) {
    constexpr size_t k_most_edges = 3000;
    const PieceBody* body = placed.piece ? placed.piece->body.get() : nullptr;
    if (!body || body->edges.size() > 2 * k_most_edges) return draw_box(painter, camera, box_of(placed));
    for (size_t i = 0; i + 1 < body->edges.size(); i += 2)
        draw_line(painter, camera, to_level(placed, body->edges[i]), to_level(placed, body->edges[i + 1]));
}

bool Labels::put_near(QPointF at, const QString& text, const QColor& ink) {
    const double line = QFontMetricsF(painter_.font()).height() + 10;
    for (const double rows : {0.0, -1.0, 1.0, -2.0, 2.0}) {
        const QPointF aside = at + QPointF(0, rows * line);
        if (!put(aside, text, ink, true)) continue;
        if (rows != 0) {
            painter_.setPen(QPen(ink, 1));
            painter_.drawLine(at, aside - QPointF(0, (rows > 0 ? 0.5 : -0.5) * (line - 4)));
        }
        return true;
    }
    return false;
}

bool Labels::put(QPointF at, const QString& text, const QColor& ink, bool framed) {
    const QFontMetricsF metrics(painter_.font());
    const QSizeF size = metrics.boundingRect(text).size() + QSizeF(12, 6);
    QRectF box(QPointF(at.x() - size.width() / 2, at.y() - size.height() / 2), size);
    // What stands at the rim of the view is moved in; what lies outside it has no label.
    const QRectF view = painter_.window();
    if (!view.contains(at)) return false;
    box.moveLeft(std::clamp(box.left(), view.left(), std::max(view.left(), view.right() - size.width())));
    box.moveTop(std::clamp(box.top(), view.top(), std::max(view.top(), view.bottom() - size.height())));
    for (const QRectF& other : taken_)
        if (other.intersects(box)) return false;
    taken_.push_back(box);
    painter_.save();
    painter_.setRenderHint(QPainter::Antialiasing);
    QColor paper = color::paper;
    paper.setAlphaF(framed ? 1.0f : 0.82f);
    painter_.setBrush(paper);
    painter_.setPen(framed ? QPen(ink, 1.2) : QPen(Qt::NoPen));
    painter_.drawRoundedRect(box, 4, 4);
    painter_.setPen(ink);
    painter_.drawText(box, Qt::AlignCenter, text);
    painter_.restore();
    return true;
}

void draw_figure(QPainter& painter, const Camera& camera, const Character& c, const Vec3& feet, bool crouched,
                 const QColor& ink) {
    const double height = crouched ? c.crouched_height_m : c.height_m;
    const auto low = camera.to_screen(feet), high = camera.to_screen(feet + Vec3(0, 0, height));
    if (!low || !high) return;
    const double scale = camera.metres_per_pixel(feet);
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(ink, 1.6));
    painter.setBrush(Qt::white);
    if (camera.kind == Camera::Kind::above) {
        const double r = c.radius_m / scale;
        painter.drawEllipse(*low, r, r);
    } else {
        const double width = std::max(2 * c.radius_m / scale, 3.0),
                     full = std::max(low->y() - high->y(), 4.0);
        const double head = std::min(width * 0.72, full * 0.3);
        const double middle = (low->x() + high->x()) / 2;
        // The foot's ring shows where it stands.
        painter.drawEllipse(*low, width / 2, width / 6);
        painter.drawRoundedRect(QRectF(middle - width * 0.34, high->y() + head, width * 0.68, full - head),
                                width * 0.25, width * 0.25);
        painter.drawEllipse(QPointF(middle, high->y() + head / 2), head / 2, head / 2);
    }
    painter.restore();
}

QColor element_color(const ElementKind& kind) {
    switch (kind.role) {
    case Role::start:
        return color::sea_green;
    case Role::goal:
        return color::accent;
    case Role::note:
        return color::ochre;
    case Role::thing:
        return color::ochre.darker(115);
    case Role::device:
    case Role::place:
        break;
    }
    const Sign sign = kind.sign;
    return sign == Sign::spikes || sign == Sign::eye ? color::plum : color::blue_grey;
}

void draw_element(QPainter& painter, QPointF at, const ElementKind& kind, bool selected) {
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    const QColor ink = element_color(kind);
    painter.setPen(QPen(selected ? color::accent : ink, selected ? 2.6 : 1.8));
    painter.setBrush(QColor(255, 255, 255, 230));
    switch (kind.sign) {
    case Sign::pennant:
        painter.drawLine(at, at - QPointF(0, 22));
        painter.setBrush(ink);
        painter.drawPolygon(QPolygonF{at - QPointF(0, 22), at + QPointF(15, -17), at - QPointF(0, 11)});
        break;
    case Sign::ring: // on a post
        painter.drawLine(at, at - QPointF(0, 10));
        painter.drawEllipse(at - QPointF(0, 16), 7, 7);
        painter.setBrush(ink);
        painter.drawEllipse(at - QPointF(0, 16), 2.5, 2.5);
        break;
    case Sign::sheet:
        painter.drawRect(QRectF(at.x() - 6, at.y() - 16, 12, 12));
        painter.drawLine(at - QPointF(3, 12), at + QPointF(3, -12));
        painter.drawLine(at - QPointF(3, 8), at + QPointF(1, -8));
        break;
    case Sign::key:
        painter.drawEllipse(at - QPointF(5, 10), 4.5, 4.5);
        painter.drawLine(at - QPointF(0.5, 10), at + QPointF(9, -10));
        painter.drawLine(at + QPointF(6, -10), at + QPointF(6, -5));
        painter.drawLine(at + QPointF(9, -10), at + QPointF(9, -6));
        break;
    case Sign::pearl:
        painter.drawEllipse(at - QPointF(0, 9), 6, 6);
        painter.setBrush(ink);
        painter.drawEllipse(at - QPointF(2, 11), 1.5, 1.5);
        break;
    case Sign::boots:
        painter.drawPolygon(QPolygonF{at + QPointF(-5, -17), at + QPointF(1, -17), at + QPointF(1, -7),
                                      at + QPointF(8, -5), at + QPointF(8, -1), at + QPointF(-5, -1)});
        break;
    case Sign::door:
        painter.drawRect(QRectF(at.x() - 6, at.y() - 20, 12, 20));
        painter.drawEllipse(at + QPointF(3, -9), 1.2, 1.2);
        break;
    case Sign::bars:
        painter.drawRect(QRectF(at.x() - 7, at.y() - 16, 14, 16));
        for (const double x : {-3.5, 0.0, 3.5}) painter.drawLine(at + QPointF(x, -16), at + QPointF(x, 0));
        break;
    case Sign::disc:
        painter.drawEllipse(at - QPointF(0, 3), 9, 4);
        painter.setBrush(ink);
        painter.drawEllipse(at - QPointF(0, 5), 5, 2.2);
        break;
    case Sign::clock:
        painter.drawEllipse(at - QPointF(0, 9), 8, 8);
        painter.drawLine(at - QPointF(0, 9), at - QPointF(0, 14));
        painter.drawLine(at - QPointF(0, 9), at + QPointF(4, -7));
        break;
    case Sign::lamp:
        painter.drawEllipse(at - QPointF(0, 9), 4.5, 4.5);
        for (int i = 0; i < 8; ++i) {
            const QPointF ray = QLineF::fromPolar(1, 45 * i).p2();
            painter.drawLine(at - QPointF(0, 9) + ray * 6.5, at - QPointF(0, 9) + ray * 9.5);
        }
        break;
    case Sign::crate:
        painter.drawRect(QRectF(at.x() - 7, at.y() - 14, 14, 14));
        painter.drawLine(at + QPointF(-7, -14), at + QPointF(7, 0));
        painter.drawLine(at + QPointF(7, -14), at + QPointF(-7, 0));
        break;
    case Sign::eye:
        painter.drawEllipse(at - QPointF(0, 9), 9, 6);
        painter.setBrush(ink);
        painter.drawEllipse(at - QPointF(0, 9), 3, 3);
        break;
    case Sign::waves:
        for (const double y : {-12.0, -7.0, -2.0})
            painter.drawPolyline(QPolygonF{at + QPointF(-9, y), at + QPointF(-4, y - 3), at + QPointF(1, y),
                                           at + QPointF(6, y - 3), at + QPointF(10, y)});
        break;
    case Sign::spikes:
        for (const double x : {-7.0, 0.0, 7.0})
            painter.drawPolygon(
                QPolygonF{at + QPointF(x - 3.5, 0), at + QPointF(x, -13), at + QPointF(x + 3.5, 0)});
        break;
    case Sign::rungs:
        for (const double x : {-4.5, 4.5}) painter.drawLine(at + QPointF(x, -20), at + QPointF(x, 0));
        for (const double y : {-17.0, -12.0, -7.0, -2.0})
            painter.drawLine(at + QPointF(-4.5, y), at + QPointF(4.5, y));
        break;
    case Sign::arrow:
        painter.drawLine(at + QPointF(-7, 0), at + QPointF(7, 0));
        painter.drawLine(at, at - QPointF(0, 19));
        painter.drawPolyline(QPolygonF{at + QPointF(-5, -13), at - QPointF(0, 19), at + QPointF(5, -13)});
        break;
    case Sign::platform:
        painter.drawRect(QRectF(at.x() - 9, at.y() - 5, 18, 5));
        painter.drawPolyline(QPolygonF{at + QPointF(-4, -11), at - QPointF(0, 16), at + QPointF(4, -11)});
        break;
    case Sign::plank:
        painter.drawRect(QRectF(at.x() - 10, at.y() - 6, 20, 4));
        for (const double x : {-5.0, 0.0, 5.0}) painter.drawLine(at + QPointF(x, -6), at + QPointF(x, -2));
        break;
    case Sign::board:
        painter.drawLine(at, at - QPointF(0, 10));
        painter.drawRect(QRectF(at.x() - 9, at.y() - 20, 18, 10));
        break;
    case Sign::lozenge:
        painter.drawPolygon(QPolygonF{at - QPointF(0, 18), at + QPointF(8, -9), at, at - QPointF(8, 9)});
        break;
    }
    painter.restore();
}

QColor grade_color(check::Grade grade) {
    return grade == check::Grade::easy   ? color::sea_green
           : grade == check::Grade::fair ? color::blue_grey
                                         : color::ochre;
}

} // namespace rubble::app
