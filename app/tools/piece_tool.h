#pragma once

#include "edit/pieces.h"
#include "tools/tool.h"

namespace rubble::app {

/// Puts the piece in the hand onto the module: with a click one, with a drag a row or an area of them. Where
/// joints are open nearby it turns itself so that its own meet them.
class PieceTool : public Tool {
public:
    explicit PieceTool(Session& session) : Tool(session) {}

    void press(const Pointer& pointer) override;
    void move(const Pointer& pointer) override;
    void release(const Pointer& pointer) override;
    bool wheel(const Pointer& pointer, int steps) override;
    bool turn_quarters(int quarters) override;
    bool step(int right, int up) override;
    bool next_fitting() override;
    void confirm() override;
    bool escape() override;
    bool busy() const override { return first_.has_value(); }
    bool turns() const override { return hover_ && !first_; }
    void paint(QPainter& painter, const Camera& camera) override;
    QString hint() const override;

private:
    std::shared_ptr<const Kit> kit() const;
    std::optional<PlacedPiece> in_hand(const Vec3& at) const;
    void hover_at(const Vec3& at);
    void show_fitting();
    const edit::JointPlaces& joints();
    Level with_laid(std::vector<ItemId>& ids) const;
    void put_down();

    std::optional<PlacedPiece> hover_; ///< where it would stand
    std::optional<PlacedPiece> first_; ///< of a drag that goes on
    std::vector<PlacedPiece> laid_;
    double turn_deg_ = 0;
    Vec3 turned_at_{1e9}; ///< where it was last turned by hand: there it does not turn itself
    std::optional<edit::JointPlaces> joints_;
    uint64_t joints_of_ = 0; ///< the version of the level that they are of
    Vec3 fitting_at_{1e9};   ///< the cell that fitting pieces were looked for in, and of which version
    uint64_t fitting_of_ = 0;
};

} // namespace rubble::app
