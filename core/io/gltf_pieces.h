#pragma once

#include <nlohmann/json.hpp>

#include "io/gltf_maker.h"

namespace rubble::io {

/// Adds the pieces of kits that stand in a level: a node for each, all places of one piece sharing its mesh
/// and the mesh of its collision, with what it is to the game as extras.
void add_pieces(GltfMaker& maker, const Level& level);

/// Adds a node where each assembly stands, with what it is to the game as extras; what is in it is exported
/// as what it is.
void add_assemblies(GltfMaker& maker, const Level& level);

/// Values as the standard's extras.
tinygltf::Value value_of(const nlohmann::json& json);

} // namespace rubble::io
