#pragma once

#include <QStringList>

#include "edit/dressing.h"
#include "session/session.h"

class QWidget;

namespace rubble::app {

/// Takes pictures into the project as materials. Asks for files where none are named; says which are no
/// pictures. False where nothing came in.
bool add_material_pictures(Session& session, QWidget& window, QStringList paths = {});

/// Picks all faces that go with those that are picked.
void pick_faces_like(Session& session, edit::FacesLike like);
/// Gives the picked faces a material, lying as is usual for it; whole brushes where no faces are picked.
void give_material(Session& session, const MaterialId& material);
/// The same for one face, and for all picked ones where it is among them.
void give_material_to_face(Session& session, const MaterialId& material, const edit::FaceRef& face);
/// The same for the whole of the selected brushes.
void give_material_to_brushes(Session& session, const MaterialId& material);
/// Changes how the pictures of the picked faces lie.
void change_lays(Session& session, const QString& what, const std::function<void(Lay&)>& change);
/// Half a repeat of each picked face's picture, to the right.
void shift_lays_by_half(Session& session);
/// The look of the face picked first runs on round the edges to the others, in the order of picking.
void run_lays_on(Session& session);
/// The picture of the face picked last is fitted onto all of them as one.
void fit_lays(Session& session);

/// Picks the next bare face after those that are picked; the box around it, or nothing where none is bare.
std::optional<Box3> pick_next_bare(Session& session);
/// Gives all bare faces their layers' standard materials.
void dress_bare(Session& session);

} // namespace rubble::app
