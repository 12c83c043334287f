#pragma once

#include <array>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "geometry/convex_cell.h"
#include "level/extra.h"
#include "level/item_list.h"
#include "level/kits/model.h"

namespace rubble {

/// How a piece keeps the character out.
enum class PieceCollisionKind {
    none,    ///< not at all
    box,     ///< the box around it
    hull,    ///< its convex hull
    faces,   ///< its faces: closed ones as solid matter, open ones as slabs
    brushes, ///< brushes drawn by hand, in the piece's axes
    node     ///< an object of its file that stands for it
};

/// What a piece keeps the character out of.
struct PieceCollision {
    PieceCollisionKind kind = PieceCollisionKind::faces;
    double thickness_m = 0.1; ///< of the slabs behind open faces
    ItemList items;           ///< of `brushes`
    std::string node;         ///< of `node`
    bool operator==(const PieceCollision&) const = default;
};

/// A side of a module's cell. Pieces are seen as they lie in their kit: near is towards whoever looks (−y).
enum class ModuleSide { left, right, near, away, bottom, top };

/// Where a piece meets another: a side of one of its cells, and of what kind the opening or face there is.
struct Joint {
    std::array<int, 3> cell{0, 0, 0};
    ModuleSide side = ModuleSide::left;
    std::string kind;
    bool passage = true; ///< something goes through it, so that it should not stay open
    bool operator==(const Joint&) const = default;
};
/// Whether joints of two kinds fit: kinds are the same, or end in + and −, which are each other's mirror
/// image.
bool joints_fit(const std::string& a, const std::string& b);

/// Where on the module's grid a piece is meant to stand.
enum class PieceSeat { cell, edge, corner, free };

/// What is made of a piece once and placed many times: what is drawn and what is collided with, in the
/// piece's own axes (metres, z up, its origin at 0).
struct PieceBody {
    Model model;
    std::vector<ModelPart>
        collision_parts; ///< of the objects that stand for its collision, which are not drawn
    std::vector<geometry::ConvexCell> matter;
    double matter_m3 = 0;    ///< of all cells, which may overlap where they come from slabs
    Box3 box;                ///< of what is drawn
    std::vector<Vec3> edges; ///< of what is drawn, as pairs of places
    std::string remark;      ///< what could not be made as it was asked for; empty: all was
};

/// A part of a kit.
struct Piece {
    std::string id, name;
    std::string file; ///< of its model, beside the kit's file; empty: made of `items`
    std::string node; ///< the object of the file that it is; empty: all of them
    double scale = 1;
    bool y_up = true; ///< which axis of the file is up: y, else z
    Vec3 origin_m{0};
    Vec3 size_m{1};
    PieceCollision collision;
    std::vector<Joint> joints;
    bool joints_by_hand = false; ///< they were put right, and are not found anew
    PieceSeat seat = PieceSeat::cell;
    double overlap_m = 0; ///< how far it reaches into its neighbours on purpose
    bool covers = false;  ///< it stands over others on purpose, as a pillar over a rough corner
    ItemList items;       ///< brushes that it is made of
    Extra values;         ///< tags and values for the game, as JSON text
    Extra extra;
    std::shared_ptr<const PieceBody> body; ///< null where its file could not be read
};

/// Modular pieces that fit together.
struct Kit {
    std::string file; ///< as levels name it
    std::string name;
    Vec3 module_m{5, 5, 4};
    std::vector<std::shared_ptr<const Piece>> pieces;
    Extra extra;

    /// Null for ids that no piece has.
    std::shared_ptr<const Piece> piece(const std::string& id) const;
};

/// A point of a piece's file in the piece's axes: scaled, put upright, and seen from its origin.
Vec3 in_piece(const Piece& piece, const Vec3& in_file);
/// How many modules a size takes up, at least one each way.
std::array<int, 3> modules_of(const Kit& kit, const Vec3& size_m);
/// The box that a piece takes up: of its body, else of its size as it would stand on the middle of its base.
Box3 own_box(const Piece& piece);
/// How a piece lies on its kit's module, in its own axes: the low corner of its cell (0, 0, 0), and how many
/// cells it takes up. Along a side that is shorter than half a module it has one, with the origin in its
/// middle.
struct PieceCells {
    Vec3 low{0};
    std::array<int, 3> count{1, 1, 1};
};
/// See PieceCells.
PieceCells cells_of(const Kit& kit, const Piece& piece);
/// The side of a cell of a piece, in its own axes: its middle, which way it looks, and what is to the right
/// and up as it is seen from outside, as long as the side is.
struct CellSide {
    Vec3 middle{0}, out{0}, right{0}, up{0};
    double depth_m = 0; ///< how deep the cell is behind it
};
/// See CellSide.
CellSide side_of(const Kit& kit, const PieceCells& cells, const std::array<int, 3>& cell, ModuleSide side);
/// Which way a side looks.
Vec3 direction_of(ModuleSide side);

} // namespace rubble
