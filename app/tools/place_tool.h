#pragma once

#include "tools/tool.h"

namespace rubble::app {

/// Puts an element onto the surface under the pointer with one click.
class PlaceTool : public Tool {
public:
    PlaceTool(Session& session, std::string kind) : Tool(session), kind_(std::move(kind)) {}

    void press(const Pointer& pointer) override;
    void move(const Pointer& pointer) override;
    void paint(QPainter& painter, const Camera& camera) override;
    QString hint() const override;
    const std::string& kind() const { return kind_; }

private:
    Vec3 snapped(const Pointer& pointer) const;
    std::string kind_;
    Vec3 hover_{0};
};

} // namespace rubble::app
