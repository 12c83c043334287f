#pragma once

#include <set>

#include "tools/tool.h"

namespace rubble::app {

/// Reshaping of the selected brush: its points, edges and faces are caught without switching anything.
/// Whichever is near is shown before a click takes it; what is picked is dragged, or moved along an axis by
/// its arrows.
class BodyGrips {
public:
    explicit BodyGrips(Session& session) : session_(session) {}

    /// Takes hold of what is under the pointer; false where there is nothing to reshape.
    bool press(const Pointer& pointer);
    /// A click on the selected brush that moved nothing picks the face there; false where there is none.
    bool click(const Pointer& pointer);
    /// Picks the ring of edges or the row of faces that what is under the pointer is part of: of a face the
    /// row across its edge nearest to the pointer. False where nothing of the brush is picked.
    bool pick_row(const Pointer& pointer);
    void move(const Pointer& pointer);
    void release(const Pointer& pointer);
    void typed(double value_m);
    void confirm();
    /// Takes back what is going on, or the picks.
    bool escape();
    bool busy() const { return drag_.has_value(); }
    bool dragging() const { return drag_ && drag_->moved; }
    /// Shows what a click would take.
    void hover(const Pointer& pointer);
    void paint(QPainter& painter, const Camera& camera);
    QString hint() const;

    /// The points of the selected brush within a rectangle of the screen.
    std::set<int> points_within(const QRectF& frame, const Camera& camera) const;

private:
    struct Caught {
        enum class Kind { point, edge, face, arrow };
        Kind kind = Kind::point;
        int number = 0; ///< of the point, the face or the axis
        edit::MeshEdge edge{0, 0};
        Vec3 place{0};    ///< in the level
        bool seen = true; ///< not behind a face of the brush
    };
    struct Drag {
        Caught caught;
        Level before;
        ItemId id;
        Brush body; ///< as it was
        Picks picks;
        Vec3 normal{0};   ///< of the plane in which it is dragged
        Vec3 axis{0};     ///< along which it is dragged, or 0
        double first = 0; ///< place on the axis where it was taken
        QPointF begin;
        Vec3 by{0};
        bool pushes = false; ///< a face into new matter
        bool moved = false;
        bool was_picked = false, adds = false;
        edit::Reshaped result;
        std::optional<Vec3> onto; ///< what it snapped to
    };

    bool is_on() const;
    std::optional<Caught> caught_at(const Pointer& pointer) const;
    std::optional<Caught> face_at(const Pointer& pointer) const;
    std::optional<Caught> arrow_at(QPointF screen, const Camera& camera) const;
    std::vector<std::pair<int, QLineF>> arrows(const Camera& camera) const;
    void pick(const Caught& caught, bool adds);
    bool is_picked(const Caught& caught) const;
    Vec3 snapped_by(const Pointer& pointer, const Vec3& raw);
    void show();

    Session& session_;
    std::optional<Drag> drag_;
    std::optional<Caught> hover_;
};

} // namespace rubble::app
