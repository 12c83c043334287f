#pragma once

#include <memory>

#include "build/matter_met.h"
#include "tools/tool.h"

namespace rubble::app {

/// Props over the surfaces of a level: where one under the pointer would stand, and one carried there.
class PropCarry {
public:
    explicit PropCarry(Session& session) : session_(session) {}

    /// Takes a prop of the level up; false where the item is none.
    bool take(const Pointer& pointer, const ItemId& prop);
    bool busy() const { return carried_.has_value(); }
    void move(const Pointer& pointer);
    /// Puts it down where it is: one edit, where it went anywhere.
    void put_down();
    void put_back();
    const ItemId& carried() const { return carried_->id; }

    /// The prop where the pointer is, on the matter there; nothing where none is met.
    std::optional<PlacedPiece> under(const Pointer& pointer, PlacedPiece prop);

private:
    const build::MatterMet* ground(const std::set<ItemId>& without);

    struct Carried {
        ItemId id;
        Level before;
        PlacedPiece prop, now;
        QPointF from;
        bool moved = false;
    };
    Session& session_;
    std::optional<Carried> carried_;
    std::unique_ptr<build::MatterMet> ground_;
    std::shared_ptr<const build::Solid> of_;
    std::set<ItemId> without_;
};

} // namespace rubble::app
