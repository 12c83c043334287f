#pragma once

#include "level/document.h"

namespace rubble::edit {

/// How many places a part that is open by itself has, an assembly or a piece, also within assemblies, in each
/// open level; parts that are open by themselves have none.
std::vector<int> uses_of_part(const Document& document, const OpenLevel& part);

} // namespace rubble::edit
