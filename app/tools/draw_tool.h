#pragma once

#include <memory>

#include "tools/select_tool.h"
#include "tools/snap.h"
#include "tools/tool.h"

namespace rubble::app {

/// Draws a shape where one looks: drag the base on the surface under the pointer, or on the working plane,
/// lift the height, click. Ramps and stairs rise along the longer side, away from where the drag began; the
/// wheel turns them, and all shapes that have a way to look, by quarters until the height is set. Seen from
/// the front or the side the drag is its width and height, and what follows is how deep it goes. A typed
/// number is that last measure. Escape takes a step back. What was just drawn has its handles at once, while
/// the tool stays for the next one.
class DrawTool : public Tool {
public:
    DrawTool(Session& session, Shape shape, Effect effect)
        : Tool(session),
          shape_(shape),
          effect_(effect),
          handles_(session) {}
    /// Draws boxes of one thickness, done with their base: a plane to stand on or to look at.
    static std::unique_ptr<DrawTool> of_planes(Session& session);

    void press(const Pointer& pointer) override;
    void move(const Pointer& pointer) override;
    void release(const Pointer& pointer) override;
    bool wheel(const Pointer& pointer, int steps) override;
    bool turn_quarters(int by) override;
    void typed(const QString& text) override;
    void confirm() override;
    bool escape() override;
    bool busy() const override { return step_ != Step::idle || handles_.busy(); }
    std::optional<Box3> worked_on() const override;
    void paint(QPainter& painter, const Camera& camera) override;
    QString hint() const override;

private:
    enum class Step { idle, base, height };
    void begin_plane(const Pointer& pointer);
    /// The place under the pointer in the plane that is drawn on.
    std::optional<Vec3> place(const Pointer& pointer) const;
    /// What is drawn so far; one that cannot be built where it has no extent yet.
    Brush brush() const;
    /// Quarters, counter-clockwise, by which a shape drawn over `across` is turned.
    int quarters_over(Vec2 across) const;
    void finish();
    /// Whether what is selected is what was just drawn.
    bool holds_drawn() const;

    Shape shape_;
    Effect effect_;
    std::optional<double> thickness_m_; ///< of planes
    SelectTool handles_;                ///< of what was just drawn, while nothing is being drawn
    ItemId drawn_;                      ///< by this tool, last
    Step step_ = Step::idle;
    edit::WorkingPlane plane_;
    bool elevation_ = false; ///< the plane is that of a view from the front or the side: shapes stay upright
    Vec3 hover_{0}, first_{0}, second_{0};
    double height_ = 0;
    int quarters_ = 0; ///< turned by the user
};

} // namespace rubble::app
