#pragma once

#include <functional>
#include <optional>

#include "session/session.h"

namespace rubble::app {

/// Changes of the selected brush's shape. Each is one step of the history and says where it could not be
/// done, or not as far as asked.

/// The level with the selected brush reshaped.
Level with_reshaped(const Level& level, const ItemId& id, const edit::Reshaped& change);
/// The selected brush as a body, and what is picked of it.
void reshape(Session& session, const QString& what,
             const std::function<edit::Reshaped(const FaceMesh&, const Picks&)>& change);
/// Says what became of a change that went less far than asked.
void tell_limit(Session& session, const edit::Reshaped& change);

void move_picks(Session& session, const Vec3& by);
/// Puts one coordinate of all picked points, in the level, to a value.
void align_picks(Session& session, int axis, double to_m);
/// About an axis of the level through the middle of what is picked.
void turn_picks(Session& session, int axis, double deg);
/// The one picked edge as a hinge, about which all else that is picked is turned.
void turn_on_hinge(Session& session, double deg);
bool has_hinge(const Picks& picks);
/// The whole brush about the one thing picked: upright through a point, or about an edge.
void turn_about_pick(Session& session, double deg);
bool has_pivot(const Picks& picks);
/// Every picked edge with its whole ring, every picked face with its row: first across one pair of its edges,
/// asked again across the other.
void pick_rows(Session& session);
void split_rings(Session& session, const std::vector<double>& places);
void round_edges(Session& session, double width_m, int segments);
void push_faces(Session& session, double by_m);
void inset_faces(Session& session, double by_m);
/// The faces on either side of picked edges, or the picked faces.
void join_faces(Session& session);
void straighten_faces(Session& session);
void weld_points(Session& session, double within_m);
/// The selected brushes cut along a plane of the level; `apart` leaves two of each.
void cut_with_knife(Session& session, const geometry::HalfSpace& plane, bool apart);

/// The places of the picked points in the level.
std::vector<Vec3> picked_places(const Session& session);

} // namespace rubble::app
