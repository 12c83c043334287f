#pragma once

#include "tools/tool.h"

namespace rubble::app {

/// Cuts the selected brushes along a line drawn across them: new edges on their faces, with Ctrl apart into
/// two.
class KnifeTool : public Tool {
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
    struct End {
        QPointF screen;
        Vec3 place{0};
        Ray ray;
    };
    End end_at(const Pointer& pointer) const;

    std::optional<End> from_;
    End to_;
};

} // namespace rubble::app
