#pragma once

#include "tools/snap.h"
#include "tools/tool.h"

namespace rubble::app {

/// Draws an outline or a wall along clicked points: a click sets a point, a press that is dragged bends the
/// way to it into an arc through where it is let go. The first point again closes the ring; a wall run also
/// ends with Enter or the last point again. Then the height is lifted, as with any shape. A typed number is
/// the length of the next piece, then the height. Escape takes a point back.
class PathTool : public Tool {
public:
    /// `holes`: rings that are closed become holes of the selected outline.
    PathTool(Session& session, Shape shape, bool holes = false)
        : Tool(session),
          shape_(shape),
          holes_(holes) {}

    void press(const Pointer& pointer) override;
    void move(const Pointer& pointer) override;
    void release(const Pointer& pointer) override;
    void typed(const QString& text) override;
    void confirm() override;
    bool escape() override;
    bool busy() const override { return !points_.empty(); }
    void paint(QPainter& painter, const Camera& camera) override;
    QString hint() const override;

private:
    enum class Step { points, height };
    void begin_plane(const Pointer& pointer);
    /// The place under the pointer in the plane of the first point, on the grid or caught by an edge.
    Vec3 place(const Pointer& pointer) const;
    /// The corners that a new piece adds, its end last.
    std::vector<Vec3> piece_to(const Vec3& end) const;
    bool is_closing(const Vec3& at) const;
    bool is_ending(const Vec3& at) const;
    void add_piece(const Vec3& end);
    void end_path(bool closed);
    Brush brush() const;
    void finish();

    bool finish_as_hole();
    void start_again();

    Shape shape_;
    bool holes_ = false;
    edit::WorkingPlane plane_;
    std::optional<double> depth_; ///< of what is drawn from the front or the side, where nothing is lifted
    Step step_ = Step::points;
    std::vector<Vec3> points_;
    std::vector<size_t> pieces_; ///< how many points there were before each piece
    Vec3 hover_{0};
    bool hovering_ = false, closed_ = false;
    std::optional<Vec3> end_;     ///< of the piece whose press is still held
    std::optional<Vec3> through_; ///< where it is dragged: the arc passes there
    double height_ = 0;
    std::optional<double> length_; ///< typed, of the next piece
};

} // namespace rubble::app
