#pragma once

#include <vector>

#include <QPainter>
#include <QPainterPath>
#include <QString>

#include "check/spans.h"
#include "level/element_kinds.h"
#include "level/level.h"
#include "view/camera.h"

namespace rubble::app {

/// Drawing over the level in screen coordinates.

/// A line between two places, as far as it lies before the eye.
void draw_line(QPainter& painter, const Camera& camera, const Vec3& a, const Vec3& b);
void draw_path(QPainter& painter, const Camera& camera, const std::vector<Vec3>& points);
/// Adds a line through places to a path; nothing where it is no more than a speck on the screen.
void add_line(QPainterPath& path, const Projection& project, const std::vector<Vec3>& points);
/// The edges of a brush.
void draw_outline(QPainter& painter, const Camera& camera, const Brush& brush);
/// One face of a brush, filled with the painter's brush.
void draw_face(QPainter& painter, const Camera& camera, const Brush& brush, const FaceName& name);
/// While something is moved: how far it is from what stands beside it, and which of its sides are in one
/// plane with sides of others.
void draw_surroundings(QPainter& painter, const Camera& camera, const Level& level,
                       const std::vector<ItemId>& moving, const Box3& box);
void draw_box(QPainter& painter, const Camera& camera, const Box3& box);
/// The edges of a piece where it stands; of one with very many, or without a model, its box.
void draw_piece(QPainter& painter, const Camera& camera, const PlacedPiece& placed);

/// Labels with a paper halo; those that would lie over an earlier one are left out, so the most important
/// one is put first.
class Labels {
public:
    explicit Labels(QPainter& painter) : painter_(painter) {}
    bool put(QPointF at, const QString& text, const QColor& ink, bool framed = false);
    /// A framed one that moves up or down to a free place, with a line to where it belongs.
    bool put_near(QPointF at, const QString& text, const QColor& ink);
    /// No label comes here from now on.
    void keep_free(const QRectF& place) { taken_.push_back(place); }

private:
    QPainter& painter_;
    std::vector<QRectF> taken_;
};

/// The drawn figure of the character standing at a place.
void draw_figure(QPainter& painter, const Camera& camera, const Character& character, const Vec3& feet,
                 bool crouched, const QColor& ink);
/// The sign of an element with its colour by kind.
void draw_element(QPainter& painter, QPointF at, const ElementKind& kind, bool selected);
QColor element_color(const ElementKind& kind);
/// The colour of a span that works, by its grade.
QColor grade_color(check::Grade grade);

} // namespace rubble::app
