#pragma once

#include "cast/rules.h"
#include "modelling.h"

namespace rubble::demo {

/// Passages of insulated panels on a module of 5 × 5 × 4 m, and what stands in the open hall beside them.
Result<ModelledKit> cold_store_kit();

/// A level laid from the kit by hand: through the passages, over the stairs, to the loading bay. The kit's
/// bodies need not be there.
Level cold_store(const Kit& kit, const Kit& fittings);

/// What the passages of the kit are cast by: two storeys of a square, with a few branches and a round way.
cast::Rules cold_store_rules(const Kit& kit);

} // namespace rubble::demo
