#pragma once

#include "check/check.h"
#include "view/overlay.h"

namespace rubble::app {

/// Says at the largest ground of each band in which a level opens up which one it is, and after what.
void label_bands(Labels& labels, const Camera& camera, const Level& level, const check::CheckResult& result);

} // namespace rubble::app
