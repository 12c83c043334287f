#pragma once

#include <span>
#include <utility>

#include "build/prepared_brush.h"

namespace rubble::build {

/// A piece of room: a convex polyhedron by its faces.
using Room = std::vector<Polygon>;

/// The room between six planes, which it lies behind: left, right, near, away, below, above.
Room room_within(std::span<const geometry::PlaneRef> around, const geometry::PlaneTable& planes);

/// A room parted by a plane: what lies before it and what lies behind; one is empty where the plane does not
/// cross it. The new face is the last of each.
std::pair<Room, Room> halves_of(const Room& room, geometry::PlaneRef by, const geometry::PlaneTable& planes);

/// A cell by its faces.
PreparedCell cell_of(std::vector<PreparedCell::Face> faces, const geometry::PlaneTable& planes);

/// A cell less another, exactly, as pieces that share no inner point. Faces that the other makes are of its
/// sides and of `material`.
std::vector<PreparedCell> less(const PreparedCell& cell, const PreparedCell& cutter,
                               const std::shared_ptr<const MaterialId>& material,
                               const geometry::PlaneTable& planes);

} // namespace rubble::build
