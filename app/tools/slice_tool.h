#pragma once

#include <functional>

#include "tools/tool.h"

namespace rubble::app {

/// Drags a strip across the level, from here to there: what lies in it is looked at alone, from the front or
/// the side.
class SliceTool : public Tool {
public:
    /// `wanted` gets the axis across the strip (0 x, 1 y) and its limits in metres.
    using Wanted = std::function<void(int axis, double from_m, double to_m)>;
    SliceTool(Session& session, Wanted wanted) : Tool(session), wanted_(std::move(wanted)) {}

    void press(const Pointer& pointer) override;
    void move(const Pointer& pointer) override;
    void release(const Pointer& pointer) override;
    void typed(const QString& text) override;
    void confirm() override;
    bool escape() override;
    bool busy() const override { return strip_.has_value(); }
    void paint(QPainter& painter, const Camera& camera) override;
    QString hint() const override;

private:
    struct Strip {
        Vec3 from{0}, to{0};
        /// The way in which it was dragged farther.
        int axis() const { return std::abs(to.x - from.x) >= std::abs(to.y - from.y) ? 0 : 1; }
    };
    Wanted wanted_;
    std::optional<Strip> strip_;
};

} // namespace rubble::app
