#pragma once

#include "edit/repeats.h"
#include "tools/tool.h"

namespace rubble::app {

/// Mirrors the selection across an upright plane beside it: the image is seen where the pointer puts the
/// plane, before the click that keeps it.
class MirrorTool : public Tool {
public:
    using Tool::Tool;
    ~MirrorTool() override;

    void press(const Pointer& pointer) override;
    void move(const Pointer& pointer) override;
    bool escape() override;
    bool busy() const override { return plane_.has_value(); }
    void paint(QPainter& painter, const Camera& camera) override;
    QString hint() const override;

private:
    MirrorPlane plane_at(const Pointer& pointer) const;

    std::optional<MirrorPlane> plane_;
};

} // namespace rubble::app
