#pragma once

#include "level/element_kinds.h"
#include "tools/tool.h"

namespace rubble::app {

/// Puts an element onto the surface under the pointer with one click.
class PlaceTool : public Tool {
public:
    /// Of a kind that every project has; with none, of the project's own kind that was chosen last.
    PlaceTool(Session& session, std::string kind) : Tool(session), usual_(std::move(kind)) {}

    void press(const Pointer& pointer) override;
    void move(const Pointer& pointer) override;
    void release(const Pointer& pointer) override;
    bool escape() override;
    bool busy() const override { return pressed_.has_value(); }
    void paint(QPainter& painter, const Camera& camera) override;
    QString hint() const override;
    /// What it places.
    std::shared_ptr<const ElementKind> kind() const;

private:
    Vec3 snapped(const Pointer& pointer) const;
    /// What is put down at a place; dragged to another, what has a way goes to there and back.
    bool refer_to(const Vec3& at);
    Vec3 next_place(const Element& element, const Vec3& last, const Vec3& to) const;
    Element made(const Vec3& at, const Vec3& to) const;
    /// Lengthens the way of the selected element; false where it has none.
    bool lengthen_way(const Vec3& to);
    void put_down(const Vec3& at, const Vec3& to);

    std::string usual_;
    Vec3 hover_{0};
    std::optional<Vec3> pressed_;
    std::optional<double> wall_deg_; ///< which way the wall looks that it is put onto
};

} // namespace rubble::app
