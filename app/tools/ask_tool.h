#pragma once

#include "tools/tool.h"

namespace rubble::app {

/// Asks whether one gets to a place: from the start by a click, from another place by a drag.
class AskTool : public Tool {
public:
    using Tool::Tool;

    void press(const Pointer& pointer) override;
    void move(const Pointer& pointer) override;
    void release(const Pointer& pointer) override;
    bool escape() override;
    bool busy() const override { return from_.has_value(); }
    void paint(QPainter& painter, const Camera& camera) override;
    QString hint() const override;

private:
    std::optional<Vec3> from_;
    QPointF pressed_;
    Vec3 at_{0};
    bool dragged_ = false;
};

} // namespace rubble::app
