#include "kits/piece_picture.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <vector>

#include <QPainter>

#include "theme.h"
#include "view/piece_renderer.h"

namespace rubble::app {

namespace {

/// Where a place of a model is seen: to the right, up, and towards whoever looks (metres).
Vec3 seen(const Vec3& p) {
    // Turned by 30° about z, then tipped by 28°.
    constexpr double c = 0.8660254037844387, s = 0.5, ct = 0.882947592858927, st = 0.4694715627858908;
    const double x = p.x * c - p.y * s, y = p.x * s + p.y * c;
    return {x, p.z * ct + y * st, p.z * st - y * ct};
}

Box3 seen_box(const Model& model) {
    Box3 box;
    for (const ModelPart& part : model.parts)
        for (const auto& t : part.triangles)
            for (const uint32_t i : t) box.add(seen(part.points[i]));
    return box;
}

/// Draws triangles with their depths; no graphics card is asked.
class Raster {
public:
    explicit Raster(QSize size)
        : image_(size, QImage::Format_ARGB32),
          depth_(size_t(size.width()) * size_t(size.height()), -1e30) {
        image_.fill(Qt::transparent);
    }

    void draw(const Model& model, const Project& project, double scale, Vec2 shift) {
        for (const ModelPart& part : model.parts) {
            const Vec3 color = shown_color(model, part.material, project);
            const QImage texture = picture_of_part(model, part);
            for (const auto& t : part.triangles) {
                const Vec3 &a = part.points[t[0]], &b = part.points[t[1]], &c = part.points[t[2]];
                const Vec3 area = glm::cross(b - a, c - a);
                const double length = glm::length(area);
                if (!(length > 0)) continue;
                Vec3 own = color;
                if (!texture.isNull()) {
                    const Vec2 uv =
                        (part.picture_places[t[0]] + part.picture_places[t[1]] + part.picture_places[t[2]]) /
                        3.0;
                    const auto at = [](double v, int n) {
                        return std::clamp(int((v - std::floor(v)) * n), 0, n - 1);
                    };
                    const QColor texel =
                        texture.pixelColor(at(uv.x, texture.width()), at(uv.y, texture.height()));
                    own *= Vec3(texel.redF(), texel.greenF(), texel.blueF());
                }
                fill(seen(a), seen(b), seen(c), scale, shift, shade(own, area / length));
            }
        }
    }
    QImage taken() { return std::move(image_); }

private:
    /// A part's picture at the size of a stamp: in so small a picture its colours are what counts.
    static QImage picture_of_part(const Model& model, const ModelPart& part) {
        const int picture = part.material < 0 ? -1 : model.materials[size_t(part.material)].picture;
        if (picture < 0 || part.picture_places.size() != part.points.size()) return {};
        const auto& bytes = model.pictures[size_t(picture)]->bytes;
        const QImage image =
            QImage::fromData(reinterpret_cast<const uchar*>(bytes.data()), int(bytes.size()));
        return image.isNull() ? image : image.scaled(16, 16, Qt::IgnoreAspectRatio, Qt::SmoothTransformation);
    }

    static QRgb shade(const Vec3& color, const Vec3& n) {
        double light = 0.62 + 0.30 * std::max(n.z, 0.0) +
                       0.13 * std::max(glm::dot(n, glm::normalize(Vec3(-0.55, -0.75, 0.3))), 0.0);
        if (n.z < -0.5) light = 0.52;
        const Vec3 lit = glm::clamp(color * light, 0.0, 1.0) * 255.0;
        return qRgb(int(lit.x), int(lit.y), int(lit.z));
    }

    void fill(const Vec3& a, const Vec3& b, const Vec3& c, double scale, Vec2 shift, QRgb color) {
        const auto on_image = [&](const Vec3& p) {
            return Vec3(p.x * scale + shift.x, shift.y - p.y * scale, p.z);
        };
        const Vec3 p = on_image(a), q = on_image(b), r = on_image(c);
        const double area = (q.x - p.x) * (r.y - p.y) - (q.y - p.y) * (r.x - p.x);
        if (area >= -1e-9) return; // seen from behind: down is up here
        const int left = std::max(0, int(std::floor(std::min({p.x, q.x, r.x})))),
                  right = std::min(image_.width() - 1, int(std::ceil(std::max({p.x, q.x, r.x})))),
                  top = std::max(0, int(std::floor(std::min({p.y, q.y, r.y})))),
                  bottom = std::min(image_.height() - 1, int(std::ceil(std::max({p.y, q.y, r.y}))));
        for (int y = top; y <= bottom; ++y)
            for (int x = left; x <= right; ++x) {
                const double u = ((q.x - x - 0.5) * (r.y - y - 0.5) - (q.y - y - 0.5) * (r.x - x - 0.5)) /
                                 area,
                             v = ((r.x - x - 0.5) * (p.y - y - 0.5) - (r.y - y - 0.5) * (p.x - x - 0.5)) /
                                 area,
                             w = 1 - u - v;
                if (u < 0 || v < 0 || w < 0) continue;
                const double z = u * p.z + v * q.z + w * r.z;
                double& known = depth_[size_t(y) * size_t(image_.width()) + size_t(x)];
                if (z <= known) continue;
                known = z;
                image_.setPixel(x, y, color);
            }
    }

    QImage image_;
    std::vector<double> depth_;
};

} // namespace

double seen_width(const Model& model) {
    const Box3 box = seen_box(model);
    return box.empty() ? 0 : box.high.x - box.low.x;
}

double seen_height(const Model& model) {
    const Box3 box = seen_box(model);
    return box.empty() ? 0 : box.high.y - box.low.y;
}

QImage picture_of(const Model& model, const Project& project, QSize size) {
    constexpr int k_twice = 2; // drawn larger and made smaller, so that edges are even
    const Box3 box = seen_box(model);
    const QSize large = size * k_twice;
    Raster raster(large);
    if (!box.empty()) {
        const Vec3 span = glm::max(box.high - box.low, Vec3(1e-6));
        const double scale = 0.92 * std::min(large.width() / span.x, large.height() / span.y);
        const Vec3 middle = box.middle();
        raster.draw(model, project, scale,
                    {large.width() / 2.0 - middle.x * scale, large.height() / 2.0 + middle.y * scale});
    }
    return raster.taken().scaled(size, Qt::IgnoreAspectRatio, Qt::SmoothTransformation);
}

namespace {

/// Where a joint's number stands, and which way it looks.
void draw_joints(QPainter& painter, const Kit& kit, const Piece& piece,
                 const std::function<QPointF(const Vec3&)>& at) {
    const PieceCells cells = cells_of(kit, piece);
    for (size_t i = 0; i < piece.joints.size(); ++i) {
        const Joint& joint = piece.joints[i];
        const CellSide side = side_of(kit, cells, joint.cell, joint.side);
        const QColor own = joint.passage ? color::sea_green : color::faint_ink;
        painter.setPen(QPen(own, 2));
        const double reach = 0.12 * glm::length(kit.module_m);
        painter.drawLine(at(side.middle), at(side.middle + side.out * reach));
        const QPointF middle = at(side.middle);
        const double r = painter.fontMetrics().height() * 0.62;
        painter.setPen(Qt::NoPen);
        painter.setBrush(own);
        painter.drawEllipse(middle, r, r);
        painter.setPen(color::paper);
        painter.drawText(QRectF(middle - QPointF(r, r), QSizeF(2 * r, 2 * r)), Qt::AlignCenter,
                         QString::number(i + 1));
    }
}

} // namespace

QImage picture_with_matter(const Kit& kit, const Piece& piece, const Project& project, QSize size) {
    if (!piece.body) return QImage(size, QImage::Format_ARGB32_Premultiplied);
    Box3 box = seen_box(piece.body->model);
    for (const auto& cell : piece.body->matter)
        for (const auto& face : cell.faces)
            for (const Vec3& corner : face.loop) box.add(seen(corner));
    const PieceCells cells = cells_of(kit, piece);
    for (const Joint& joint : piece.joints) box.add(seen(side_of(kit, cells, joint.cell, joint.side).middle));
    if (box.empty()) return QImage(size, QImage::Format_ARGB32_Premultiplied);
    const Vec3 span = glm::max(box.high - box.low, Vec3(1e-6)), middle = box.middle();
    const double scale = 0.86 * std::min(size.width() / span.x, size.height() / span.y);
    const Vec2 shift(size.width() / 2.0 - middle.x * scale, size.height() / 2.0 + middle.y * scale);
    Raster raster(size);
    raster.draw(piece.body->model, project, scale, shift);
    QImage image = raster.taken();
    QPainter painter(&image);
    painter.setRenderHint(QPainter::Antialiasing);
    const auto at = [&](const Vec3& p) {
        const Vec3 to = seen(p);
        return QPointF(to.x * scale + shift.x, shift.y - to.y * scale);
    };
    QColor line = color::accent;
    line.setAlphaF(0.75);
    painter.setPen(QPen(line, 1.3));
    for (const auto& cell : piece.body->matter)
        for (const auto& face : cell.faces) {
            QPolygonF loop;
            for (const Vec3& corner : face.loop) loop << at(corner);
            painter.drawPolygon(loop);
        }
    draw_joints(painter, kit, piece, at);
    return image;
}

QImage side_by_side(std::span<const Shown> models, const Project& project, QSize size, double metres_wide) {
    constexpr int k_twice = 2;
    const QSize large = size * k_twice;
    const double scale = large.width() / std::max(metres_wide, 1e-6);
    Raster raster(large);
    for (const Shown& shown : models) {
        const Box3 box = seen_box(*shown.model);
        if (box.empty()) continue;
        raster.draw(*shown.model, project, scale,
                    {(shown.at_m - box.middle().x) * scale, large.height() - 8 + box.low.y * scale});
    }
    return raster.taken().scaled(size, Qt::IgnoreAspectRatio, Qt::SmoothTransformation);
}

} // namespace rubble::app
