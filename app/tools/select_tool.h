#pragma once

#include "edit/items.h"
#include "tools/body_grips.h"
#include "tools/item_handles.h"
#include "tools/lay_grips.h"
#include "tools/prop_carry.h"
#include "tools/selection_frame.h"
#include "tools/snap.h"

namespace rubble::app {

/// Picks items and changes them. What stands in a group is picked as the group; a click on that goes into it,
/// and Escape out again. A selection carries all its handles at once. Dragging the item itself moves it in
/// the plane; a dot on a face changes the size from that face, the arrow moves it up and down, the ring turns
/// it. With Ctrl any of these drags a copy, a dot along its own axis. Points, edges and faces of the one
/// selected brush are reshaped by its `BodyGrips`. A frame drawn from where nothing is, or from anywhere with
/// Shift, takes the points of the selected brush that lie in it, else the items that it holds.
class SelectTool : public Tool {
public:
    explicit SelectTool(Session& session) : Tool(session), grips_(session) {}

    void press(const Pointer& pointer) override;
    void move(const Pointer& pointer) override;
    void release(const Pointer& pointer) override;
    bool double_click(const Pointer& pointer) override;
    void typed(const QString& text) override;
    void confirm() override;
    bool escape() override;
    bool busy() const override {
        return drag_ || grips_.busy() || frame_.drawn() || carry_.busy() || lays_.busy();
    }
    bool selects() const override { return true; }
    std::optional<Box3> worked_on() const override;
    void paint(QPainter& painter, const Camera& camera) override;
    QString hint() const override;

    // Of the handles alone, for tools that draw and leave what they drew in the hand:

    /// Begins to drag a handle of the selection; false where none is at the pointer.
    bool press_handle(const Pointer& pointer);
    void hover_handle(const Pointer& pointer);
    bool on_handle() const { return hover_handle_.has_value(); }
    void paint_handles(QPainter& painter, const Camera& camera);

private:
    struct Drag {
        Grip grip = Grip::body;
        BoxSide side = BoxSide::top;
        Level before;
        std::vector<ItemId> ids;
        Vec3 anchor{0};    ///< where the item was taken, or the handle
        Vec3 reference{0}; ///< the corner that is put onto the grid
        Vec3 pivot{0};     ///< what is turned about
        Vec3 axis{0, 0, 1};
        double extent_m = 0; ///< of what is sized, along the axis
        double first = 0;    ///< parameter of the handle on its axis when taken
        double amount = 0;   ///< metres or degrees so far
        Vec3 by{0};
        bool moved = false;
        bool copies = false;
        QPointF begin;
        Snapped guide;
    };

    /// The brush or element under the pointer itself.
    std::optional<ItemId> leaf_under(const Pointer& pointer) const;
    /// What a click there is meant for: that, or a group that holds it.
    std::optional<ItemId> item_under(const Pointer& pointer) const;
    void go_into_group(const Pointer& pointer);
    std::optional<ItemId> element_under(const Pointer& pointer) const;
    void press_item(const Pointer& pointer);
    void press_face(const Pointer& pointer, const edit::FaceRef& face);
    void begin_drag(const Pointer& pointer, const ItemId& item, Drag drag);
    void take_frame(const Pointer& pointer);
    bool slide_opening(const Pointer& pointer, double grid);
    void drag_body(const Pointer& pointer, double grid);
    void show();
    Level result() const;
    edit::Copies copies() const;
    QString what() const;

    BodyGrips grips_;
    PropCarry carry_{session_}; ///< where one dresses
    LayGrips lays_{session_};   ///< likewise
    SelectionFrame frame_;
    bool on_selected_ = false; ///< pressed on the brush that was the only one selected already
    std::optional<Drag> drag_;
    std::optional<ItemId> hover_;
    std::optional<ItemHandle> hover_handle_;
};

} // namespace rubble::app
