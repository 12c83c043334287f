#pragma once

#include "modelling.h"

namespace rubble::demo {

/// What stands about in a cannery: props that sit on no module, with the bytes of their files.
Result<ModelledKit> fittings_kit();

} // namespace rubble::demo
