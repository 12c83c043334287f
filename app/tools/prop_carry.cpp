#include "tools/prop_carry.h"

#include "edit/items.h"
#include "edit/props.h"
#include "tools/catch_distance.h"

namespace rubble::app {

namespace {

/// One looks as far as this for something to stand on (metres).
constexpr double k_far_m = 2000;
/// Steeper than this is a wall: what is put there stands upright at its foot (the upward part of its normal).
constexpr double k_wall = 0.2;

} // namespace

const build::MatterMet* PropCarry::ground(const std::set<ItemId>& without) {
    const auto& solid = session_.built().solid;
    if (!solid) return nullptr;
    // While one is carried the level is built anew at each step; what it is carried over stays.
    const bool same = ground_ && without == without_ && (of_ == solid || carried_);
    if (!same) {
        ground_ = std::make_unique<build::MatterMet>(*solid, without);
        of_ = solid, without_ = without;
    }
    return ground_.get();
}

std::optional<PlacedPiece> PropCarry::under(const Pointer& pointer, PlacedPiece prop) {
    std::set<ItemId> without;
    if (carried_) without.insert(carried_->id);
    const build::MatterMet* ground = this->ground(without);
    if (!ground) return {};
    auto place = ground->first_met(pointer.ray.from, pointer.ray.direction * k_far_m);
    if (place && place->at.z > pointer.cut_z) {
        const Vec3 lower = meet_plane(pointer.ray, {0, 0, pointer.cut_z}, {0, 0, 1}).value_or(place->at);
        place = ground->first_met(lower, pointer.ray.direction * k_far_m);
    }
    if (place && place->normal.z < k_wall) {
        const Box3 box = box_of(prop);
        const Vec2 size = flat(box.high - box.low);
        place = ground->below(place->at + place->normal * (std::max(size.x, size.y) / 2));
    }
    if (!place) return {};
    return edit::stood_on(std::move(prop), *place, session_.looking().leans());
}

bool PropCarry::take(const Pointer& pointer, const ItemId& prop) {
    const Item* item = find_item(session_.stored_level(), prop);
    if (!item || !item->piece() || !is_prop(*item->piece())) return false;
    ground_.reset();
    carried_ = Carried{prop, session_.stored_level(), *item->piece(), *item->piece(), pointer.screen};
    return true;
}

void PropCarry::move(const Pointer& pointer) {
    if (!carried_) return;
    if (!carried_->moved && distance(carried_->from, pointer.screen) < k_drag_px) return;
    auto now = under(pointer, carried_->prop);
    if (!now) return;
    carried_->moved = true, carried_->now = std::move(*now);
    Item item = *find_item(carried_->before, carried_->id);
    item.body = carried_->now;
    session_.preview(edit::with_changed(carried_->before, item));
}

void PropCarry::put_down() {
    if (!carried_) return;
    const Carried done = *std::exchange(carried_, std::nullopt);
    ground_.reset();
    if (!done.moved) return;
    Item item = *find_item(done.before, done.id);
    item.body = done.now;
    session_.drop_preview();
    session_.apply(edit::with_changed(done.before, item), Session::tr("Move"));
}

void PropCarry::put_back() {
    if (!std::exchange(carried_, std::nullopt)) return;
    ground_.reset();
    session_.drop_preview();
}

} // namespace rubble::app
