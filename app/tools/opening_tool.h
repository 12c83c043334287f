#pragma once

#include "edit/openings.h"
#include "tools/tool.h"

namespace rubble::app {

/// Puts a door, a window or an archway into the wall under the pointer, seen before the click.
class OpeningTool : public Tool {
public:
    OpeningTool(Session& session, edit::OpeningKind kind) : Tool(session), kind_(kind) {}

    void press(const Pointer& pointer) override;
    void move(const Pointer& pointer) override;
    void paint(QPainter& painter, const Camera& camera) override;
    QString hint() const override;

private:
    std::optional<Brush> opening_at(const Pointer& pointer) const;

    edit::OpeningKind kind_;
    std::optional<Brush> hover_;
};

} // namespace rubble::app
