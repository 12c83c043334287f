#pragma once

#include <memory>

#include "build/mesh_matter.h"
#include "level/kits/kit.h"

namespace rubble::build {

/// What is drawn of a piece and what it keeps the character out of, in the piece's axes, made from the model
/// of its file. A piece of brushes is made of those, and `file` is not looked at.
PieceBody piece_body(const Piece& piece, const Model& file);

/// The triangles of parts of a model as one mesh.
TriangleMesh mesh_of(const std::vector<ModelPart>& parts);

/// What a piece would keep the character out of by another kind of collision than its own.
std::vector<geometry::ConvexCell> matter_by(const Piece& piece, PieceCollisionKind kind);

/// A piece's body with what it is met as made anew by its collision, from what is drawn of it. Objects that
/// stand for collision are those that did when the body was made from its file.
PieceBody with_matter_anew(const Piece& piece);

/// The kit with the bodies made of those of its pieces that consist of brushes and have none yet.
Kit with_brush_bodies(Kit kit);

} // namespace rubble::build
