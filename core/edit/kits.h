#pragma once

#include <functional>
#include <optional>

#include "level/document.h"

namespace rubble::edit {

/// A kit more, or changed.
Project with_kit(const Project& project, Kit kit);
/// The kit with one piece changed, the one of its id; without a body where that has to be made anew.
Kit with_piece(Kit kit, Piece piece);
/// An id that no piece of the kit has: `wanted`, or that with a number.
std::string fresh_piece_id(const Kit& kit, const std::string& wanted);

/// Brushes of a level as a piece, without a body, and where it stands in their stead: its origin is the
/// middle of the base of the cells that they take up, and it sits on an edge or a corner where they are
/// thinner than half a module. Nothing where no brush is among the items.
struct PieceOfBrushes {
    Piece piece;
    Placement place;
    std::vector<ItemId> brushes; ///< that went into it
};
std::optional<PieceOfBrushes> piece_of_brushes(const Kit& kit, const Level& level,
                                               const std::vector<ItemId>& ids, const std::string& name);

/// The level that a piece is shown as when it is opened by itself: the brushes that it is made of; of a piece
/// from a file those that it is met as, over the piece, which is locked.
Level level_of(const Kit& kit, const Piece& piece, const Level& like);
/// What follows from an edit of a document: a piece that is open by itself is changed as its level was, in
/// all levels, and shown as it was changed elsewhere. `made` makes bodies and joints of a kit's pieces that
/// have none.
Document with_pieces_followed(const Document& before, Document document, const std::function<Kit(Kit)>& made);

} // namespace rubble::edit
