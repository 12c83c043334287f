#pragma once

#include "tools/snap.h"
#include "tools/tool.h"

namespace rubble::app {

/// Draws a shape where one looks: drag the base on the surface under the pointer, lift the height, click.
/// A typed number is the height. Escape takes a step back.
class DrawTool : public Tool {
public:
    DrawTool(Session& session, Shape shape, Effect effect) : Tool(session), shape_(shape), effect_(effect) {}

    void press(const Pointer& pointer) override;
    void move(const Pointer& pointer) override;
    void release(const Pointer& pointer) override;
    void typed(const QString& text) override;
    void confirm() override;
    bool escape() override;
    bool busy() const override { return step_ != Step::idle; }
    void paint(QPainter& painter, const Camera& camera) override;
    QString hint() const override;

private:
    enum class Step { idle, base, height };
    Snapped snapped(const Pointer& pointer, const Vec3& at) const;
    Brush brush() const;
    void finish();

    Shape shape_;
    Effect effect_;
    Step step_ = Step::idle;
    Vec3 hover_{0}, first_{0}, second_{0};
    double height_ = 0;
    Snapped guide_;
};

} // namespace rubble::app
