#pragma once

#include <memory>
#include <string>
#include <vector>

#include "level/kits/kit.h"

namespace rubble::build {

/// Where the origin of pieces is put.
enum class OriginRule { as_it_is, corner, middle_of_base };

/// Something about a file that whoever brings it in should look at.
enum class Oddity {
    scaled,       ///< its size is a whole number of modules only when scaled, or with another axis up
    off_module,   ///< its size is no whole number of modules in any direction
    other_origin, ///< its origin lies otherwise than those of the others
    many_objects, ///< it holds more than one object
    inside_out,   ///< closed parts whose faces look inwards
    other_name,   ///< its name does not follow the others'
    open_faces,   ///< faces that close nothing, met as slabs
    hull_only,    ///< its faces meet each other or are too many: what is closed of it is met as its hull
    stairs        ///< stairs, for which a ramp can be met instead
};

/// A file that is to become a piece.
struct BroughtPiece {
    std::string path;
    std::shared_ptr<const Model> model;
    Piece piece; ///< as proposed, with its body; `file` is the name without folders
    std::vector<Oddity> oddities;
};

/// What is said of all files at once, to be changed.
struct BringIn {
    Vec3 module_m{5, 5, 4};
    double scale = 1;
    bool y_up = true;
    OriginRule origin = OriginRule::as_it_is;
    bool own_pieces = false; ///< each object of a file a piece of its own
};

/// The scale, upright axis and origin that make most of some models fit a module: those in which the most
/// sizes are whole numbers of it, the plainest where several do.
BringIn proposed(const std::vector<BroughtPiece>& files, const Vec3& module_m);

/// The height that most of some models have which are taller than the character, for a module of a new kit; 0
/// where they have none in common.
double usual_height(const std::vector<BroughtPiece>& files, const BringIn& how);

/// The pieces that some files become, each with its collision by what it is: nothing for what is small, a box
/// or hull where that is its very body, else its faces; with what is odd about it.
std::vector<BroughtPiece> pieces_of(const std::vector<BroughtPiece>& files, const BringIn& how);

/// The collision that suits a piece by its body.
PieceCollision proposed_collision(const Piece& piece);
/// The same piece with another kind of collision.
BroughtPiece with_collision(BroughtPiece piece, PieceCollisionKind kind);
/// A ramp, as brushes, for a piece of stairs; none where it is no stairs.
ItemList ramp_for_stairs(const Piece& piece);

/// A file's model, as the first of what is to be brought in.
BroughtPiece brought(const std::string& path, Model model);

/// The id and name of a piece by the name of its file, or of its object: letters, digits and underscores.
std::string piece_id_from(const std::string& name);

} // namespace rubble::build
