#pragma once

#include <array>
#include <string>
#include <vector>

#include <tiny_gltf.h>

#include "base/result.h"
#include "geometry/vec.h"

namespace rubble::io {

/// What is wrong with a model's references, counts, offsets and sizes; empty where all hold. Nothing else may
/// look at a model before this was asked.
std::string flaw_of(const tinygltf::Model& model);

/// The values of an accessor of a model without a flaw, `components` numbers each, in double precision, as
/// the standard reads them: interleaved, of any component type, normalised, sparse. The first `components` of
/// what has more; those that are missing are `fill`.
std::vector<double> values_of(const tinygltf::Model& model, int accessor, size_t components, double fill = 0);
/// The same as indices.
std::vector<uint32_t> indices_of(const tinygltf::Model& model, int accessor);

} // namespace rubble::io
