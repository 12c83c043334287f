#pragma once

#include <string>
#include <vector>

#include "level/level.h"

namespace rubble::edit {

/// A final model in the place of a grey brush.
struct LaidFinal {
    ItemId grey, final;
    Vec3 size_off_m{0}; ///< by how much the model is larger each way, in its own axes
};
struct LaidFinals {
    Level level;
    std::vector<LaidFinal> laid;
    std::vector<std::string> unknown; ///< pieces that no brush is called like
};
/// The pieces of a kit in the place of the brushes that are called like them, by id or by name (letters and
/// digits alone count): standing as those stand. The grey ones stay and are what is met; they are only seen
/// no more. A final that was laid before is laid anew.
LaidFinals with_finals(const Level& level, const Kit& kit);

/// The brush that an item is the final model of; empty for all others.
ItemId grey_of(const Item& item);
/// Whether finals are shown where there are some, or else the grey ones.
bool shows_finals(const Level& level);
/// Either shown instead of the other.
Level with_finals_shown(const Level& level, bool finals);
/// How many fills have no final model yet, and how many have.
struct GreyCount {
    int grey = 0, finals = 0;
};
GreyCount grey_left(const Level& level);

} // namespace rubble::edit
