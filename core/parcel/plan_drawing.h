#pragma once

#include "base/result.h"
#include "parcel/plan.h"

namespace rubble::parcel {

/// Plans drawn with one hand in every form. The text of a file; an error where the drawing cannot be made. @{
Result<std::string> svg_of(const Plan& plan);
/// All on sheets of their own, A3 across, each as large as fits.
Result<std::string> pdf_of(const std::vector<Plan>& plans);
Result<std::string> png_of(const Plan& plan);
/// @}

} // namespace rubble::parcel
