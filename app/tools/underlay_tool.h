#pragma once

#include "tools/tool.h"

namespace rubble::app {

/// Moves and scales a picture under the level: a drag moves it, two clicks and a typed number scale it so
/// that the places clicked are that far apart.
class UnderlayTool : public Tool {
public:
    explicit UnderlayTool(Session& session) : Tool(session) {}

    void press(const Pointer& pointer) override;
    void move(const Pointer& pointer) override;
    void release(const Pointer& pointer) override;
    void typed(const QString& text) override;
    void confirm() override;
    bool escape() override;
    bool busy() const override { return !points_.empty() || drag_; }
    void paint(QPainter& painter, const Camera& camera) override;
    QString hint() const override;

private:
    struct Drag {
        Vec3 from{0}, by{0};
        QPointF begin;
        bool moved = false;
    };
    /// The one that is worked on: the last that is neither hidden nor locked; null without one.
    const Underlay* underlay() const;
    std::optional<Vec3> place(const Pointer& pointer) const;

    std::vector<Vec3> points_; ///< up to two
    Vec3 hover_{0};
    std::optional<double> distance_m_;
    std::optional<Drag> drag_;
};

} // namespace rubble::app
