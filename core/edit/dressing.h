#pragma once

#include <functional>
#include <vector>

#include "level/level.h"

namespace rubble::edit {

/// A face of a brush of a level.
struct FaceRef {
    ItemId item;
    FaceName face;
    auto operator<=>(const FaceRef&) const = default;
};

/// What goes with a face when more than it is meant: all that lie in its plane and look the same way, all of
/// its layer that look the same way, all of its brush, all that look like it, or the ring of upright faces
/// around its brush, in order.
enum class FacesLike { in_plane, of_direction, of_brush, of_material, ring };

/// The faces that go with one, itself among them; cuts, hidden and locked items are left out. Empty where the
/// face is not there.
std::vector<FaceRef> faces_like(const Level& level, const FaceRef& face, FacesLike like);

/// What a face looks like: its own look, or that of its brush.
Look look_of(const Brush& brush, const FaceName& face);

/// The level with the looks of some faces changed, each by `change`; those that are not there are left out.
Level with_looks(const Level& level, const std::vector<FaceRef>& faces,
                 const std::function<Look(const Look&)>& change);

/// The same where it matters which face it is.
Level with_looks_by(const Level& level, const std::vector<FaceRef>& faces,
                    const std::function<Look(const FaceRef&, const Look&)>& change);

/// The same looks for some faces of one ring, on from the first: the picture runs on round each edge to the
/// next. Faces without a common edge with those before keep theirs.
Level with_look_run_on(const Project& project, const Level& level, const std::vector<FaceRef>& faces);

/// A look for faces that lie in one plane, so that a picture is fitted onto all of them as one. The level as
/// it was where they do not.
Level with_look_fitted(const Level& level, const std::vector<FaceRef>& faces, const Look& look);

/// Gives the bare faces of every layer its standard materials by where they look.
Level with_bare_dressed(const Level& level);

/// How much of a level's faces is dressed (square metres of brushes' own faces), by layer in their order.
struct Dressed {
    double dressed_m2 = 0, bare_m2 = 0;
};
std::vector<Dressed> dressed_of(const Level& level);
/// The bare faces of a level, in the order of storing.
std::vector<FaceRef> bare_faces(const Level& level);

/// Whether a picture repeats without a seam: its opposite edges differ no more than neighbouring rows and
/// columns inside it do.
bool edges_meet(const Picture& picture);

/// Materials from the pictures of some files: those that differ in the ends of their names alone, such as
/// brick.png and brick_normal.png, are one. Names, ids and files are such that they are new in the project.
std::vector<Material> materials_from(const Project& project, std::vector<PictureBytes> pictures);

} // namespace rubble::edit
