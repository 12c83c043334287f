#pragma once

#include <optional>
#include <string>
#include <vector>

#include "level/level.h"

namespace rubble::edit {

/// The box of the cells that a placed piece takes up, in the level.
Box3 cells_box(const Kit& kit, const PlacedPiece& placed);
/// How large a cell lies in the level for a piece that is turned so.
Vec3 module_as_turned(const Kit& kit, const PlacedPiece& placed);

/// The piece moved to where it is meant to stand on its kit's module, or on a part of it (0.5: half modules),
/// near where it stands. Cells lie at whole modules from the level's origin; what sits on an edge or a corner
/// has its thin sides in the middle of a line between them. A free piece stays.
PlacedPiece on_module(const Kit& kit, PlacedPiece placed, double part = 1);
/// How far a piece stands from where it is meant to stand (metres); all zero for one that is there, or free.
Vec3 off_module(const Kit& kit, const PlacedPiece& placed);

/// The module of the first of some items, as it is turned, where all of them are pieces that sit on one;
/// nothing where any is something else.
std::optional<Vec3> module_of(const Project& project, const Level& level, const std::vector<ItemId>& ids);
/// How far such items go when they are moved by about so much: the first of them onto its module, or on a
/// part of it; nothing where any is something else.
std::optional<Vec3> move_on_module(const Project& project, const Level& level, const std::vector<ItemId>& ids,
                                   const Vec3& by, double part = 1);

/// A joint where it is in the level.
struct PlacedJoint {
    ItemId item;
    Vec3 at{0};  ///< the middle of the side
    Vec3 out{0}; ///< which way it looks
    std::string kind;
    bool passage = true;
    Vec3 right{0}, up{0}; ///< as long as the side
};
/// The joints of a piece where it stands, in the order of the piece.
std::vector<PlacedJoint> joints_of(const Kit& kit, const Item& item);
/// All joints of a level's pieces.
std::vector<PlacedJoint> joints_of(const Project& project, const Level& level);

/// Joints found by where they are.
class JointPlaces {
public:
    explicit JointPlaces(std::vector<PlacedJoint> joints);
    const std::vector<PlacedJoint>& all() const { return joints_; }
    /// The joint that looks back at one from the same place; null where none does.
    const PlacedJoint* opposite(const PlacedJoint& joint) const;

private:
    using Key = std::array<int64_t, 6>;
    static Key key_of(const Vec3& at, const Vec3& out);
    std::vector<PlacedJoint> joints_;
    std::map<Key, size_t> places_;
};

/// How well a piece's joints meet those around it: how many fit, less twice those that do not, and those
/// around that it would close.
int fit_of(const Kit& kit, const PlacedPiece& placed, const JointPlaces& around);
/// The quarter turns of a piece under which its joints meet those around it best; as it is turned where no
/// other turn is better.
double turn_that_fits(const Kit& kit, const PlacedPiece& placed, const JointPlaces& around);
/// The pieces of a kit whose joints meet those around it where a piece stands, in the turn that suits each
/// best: those that meet the most first.
std::vector<std::string> pieces_that_fit(const Kit& kit, const PlacedPiece& there, const JointPlaces& around);
/// The same turned by quarters, with its cells about the same middle.
PlacedPiece turned_in_place(const Kit& kit, PlacedPiece placed, int quarters);

/// The places of a row, column or area of one piece from one place to another, both on the module, its cells
/// side by side; at most `most`.
std::vector<PlacedPiece> laid_out(const Kit& kit, const PlacedPiece& first, const Vec3& to,
                                  size_t most = 4096);

/// Some pieces of a level exchanged for another of their kit, each with its cells where they were.
Level with_pieces_exchanged(const Project& project, Level level, const std::vector<ItemId>& ids,
                            const std::string& piece_id);

} // namespace rubble::edit
