#pragma once

#include <optional>

#include "level/level.h"

namespace rubble::edit {

// An opening is a cut in a wall: a brush whose `host` is the item that the wall belongs to. It is as wide and
// as high as the character needs, follows its host and goes with it.

enum class OpeningKind { door, window, archway };

/// Width along the wall and height of an opening that the character passes at ease, and how far above the
/// ground a window begins; whole tenths of a metre.
struct OpeningSize {
    double width_m, height_m, sill_m;
};
/// What the trade and the character ask of such an opening.
OpeningSize opening_size(OpeningKind kind, const Character& character);

/// A cut right through the wall that is met at a place on a brush's face, `normal` looking out of it;
/// standing on the ground inside a shell, else on the brush's base. Nothing where the face is no
/// upright wall.
/// Doors are as high as is agreed, where the character needs no more.
std::optional<Brush> opening_in(const Item& host, const Vec3& at, const Vec3& normal, OpeningKind kind,
                                const Character& character, const Measures& agreed = {});

/// `after`, which came from `before` by an edit, with the openings of hosts that were moved or turned gone
/// along with them, and those of hosts that are gone gone too. Openings that the edit itself moved stay where
/// it put them.
Level with_openings_following(const Level& before, Level after);

/// The openings whose hosts are among some items, without those that are themselves.
std::vector<ItemId> openings_of(const Level& level, std::span<const ItemId> hosts);

} // namespace rubble::edit
