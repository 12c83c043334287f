#pragma once

#include <span>

#include "check/check.h"

namespace rubble::check {

/// Changes of a solid layer's cells that may mend a near miss of a flight, a step or a fall, the smallest of
/// each kind first; none was tried. The ground is led on from both sides, a deck put half-way, a step before
/// what is too high. Empty where `layer` is no layer of tiles, and for what only clearing helps.
std::vector<std::vector<Mend>> cell_mends(const Level& level, const LayerId& layer, const NearMiss& miss,
                                          const Character& character);

/// The cells of solid layers that a body is in the way of at some places of its feet (their middle), cleared:
/// one mend for each layer. Empty for a layer of which very much would have to go.
std::vector<Mend> clearing_mends(const Level& level, std::span<const Vec3> feet, const Character& character,
                                 bool crouched);

} // namespace rubble::check
