#pragma once

#include <optional>
#include <span>

#include "check/check.h"
#include "motion/play_state.h"
#include "view/overlay.h"

namespace rubble::app {

/// The bodies of elements that have a size, such as doors, crates and floors, the ways of foes, and lines to
/// what an element refers to. While one plays they are shown as they are by then: open, taken, elsewhere.
class ElementOverlay {
public:
    ElementOverlay(QPainter& painter, const Camera& camera, const Level& level)
        : painter_(painter),
          camera_(camera),
          level_(level) {}

    /// As the level is built; what is selected has its lines.
    void draw(const std::vector<ItemId>& selected);
    /// As it is in play, with the signs of what is left to be taken.
    void draw(const motion::World& world, const motion::PlayState& state);

    /// Items that are only suggested.
    void draw_ghosts(std::span<const Item> items);
    /// Cells that are only suggested.
    void draw_ghosts(std::span<const check::MendCells> cells);

private:
    struct Look {
        bool open = false;
        double opacity = 1;
    };
    void draw_body(const Element& element, const Look& look);
    void draw_ghost(const Box3& box);
    /// Along the own x axis of a placement, as far to both sides of it.
    void draw_arrow(const Placement& towards, double half);
    void draw_way(const Element& element);
    void draw_references(const Item& item);
    void draw_in_cells(const motion::World& world, const motion::PlayState& state);
    void draw_freely(const motion::World& world, const motion::PlayState& state);
    void draw_ladder(const Element& element);
    void draw_sign(const Element& element);
    /// The element of an item, elsewhere; nothing where it is none.
    std::optional<Element> element_of(const ItemId& id, const Vec3& shift = Vec3(0)) const;

    QPainter& painter_;
    const Camera& camera_;
    const Level& level_;
};

/// What is held and counted in play, in one line: "brass key, 2 pearls". Empty where nothing is.
QString held_text(const motion::World& world, const motion::PlayState& state);

} // namespace rubble::app
