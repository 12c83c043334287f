#pragma once

#include "tools/tool.h"

namespace rubble::app {

/// Puts the assembly in the hand where one clicks, on the grid.
class AssemblyTool : public Tool {
public:
    explicit AssemblyTool(Session& session) : Tool(session) {}

    void press(const Pointer& pointer) override;
    void move(const Pointer& pointer) override;
    bool turns() const override { return true; }
    bool turn_quarters(int quarters) override;
    void paint(QPainter& painter, const Camera& camera) override;
    QString hint() const override;

private:
    Vec3 snapped(const Pointer& pointer) const;
    Vec3 hover_{0};
    double turn_deg_ = 0;
};

} // namespace rubble::app
