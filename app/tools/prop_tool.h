#pragma once

#include "tools/prop_carry.h"

namespace rubble::app {

/// Puts the prop in the hand onto what is under the pointer: a click puts one down, a drag turns it towards
/// the pointer.
class PropTool : public Tool {
public:
    explicit PropTool(Session& session) : Tool(session) {}

    void press(const Pointer& pointer) override;
    void move(const Pointer& pointer) override;
    void release(const Pointer& pointer) override;
    bool wheel(const Pointer& pointer, int steps) override;
    bool turn_quarters(int quarters) override;
    void confirm() override;
    bool escape() override;
    bool busy() const override { return put_.has_value(); }
    bool turns() const override { return hover_ || put_; }
    void paint(QPainter& painter, const Camera& camera) override;
    QString hint() const override;

private:
    std::optional<PlacedPiece> in_hand() const;
    Level with_put(ItemId& id) const;
    void put_down();
    void turn_by(double deg);

    PropCarry carry_{session_};
    std::optional<PlacedPiece> hover_, put_;
    QPointF from_;
    double turn_deg_ = 0;
};

} // namespace rubble::app
