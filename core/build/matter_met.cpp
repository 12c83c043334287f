#include "build/matter_met.h"

#include <limits>

#include "base/tolerance.h"

namespace rubble::build {

namespace {

/// Which part of a way a line has gone when it enters a body, and through which face; nothing where it does
/// not, or begins in it. By the body's planes (Cyrus and Beck, "Generalized two- and three-dimensional
/// clipping", 1978).
std::optional<std::pair<double, Vec3>> entry(const geometry::ConvexCell& cell, const Vec3& from,
                                             const Vec3& way) {
    double enters = -1, leaves = 2;
    Vec3 normal(0);
    for (const auto& face : cell.faces) {
        const double apart = face.plane.distance(from), nearer = -glm::dot(face.plane.normal, way);
        if (std::abs(nearer) < 1e-12) {
            if (apart > 0) return {};
            continue;
        }
        const double part = apart / nearer;
        if (nearer < 0)
            leaves = std::min(leaves, part);
        else if (part > enters)
            enters = part, normal = face.plane.normal;
    }
    // What lies on the outside to begin with has met it.
    const double same = tolerance::same_place_m / std::max(glm::length(way), 1e-12);
    if (enters < -same || enters > 1 || enters >= leaves) return {};
    return std::pair{std::max(enters, 0.0), normal};
}

/// Where a line straight up leaves a body; nothing where it does not begin in it.
std::optional<SurfacePlace> way_up(const geometry::ConvexCell& cell, const Vec3& from) {
    double least = std::numeric_limits<double>::infinity();
    Vec3 normal(0, 0, 1);
    for (const auto& face : cell.faces) {
        const double apart = face.plane.distance(from);
        if (apart > -tolerance::same_place_m) return {};
        if (face.plane.normal.z > 1e-9 && -apart / face.plane.normal.z < least)
            least = -apart / face.plane.normal.z, normal = face.plane.normal;
    }
    if (!(least < std::numeric_limits<double>::infinity())) return {};
    return SurfacePlace{from + Vec3(0, 0, least), normal};
}

} // namespace

MatterMet::MatterMet(const Solid& solid, const std::set<ItemId>& without) {
    const auto add = [&](std::shared_ptr<const geometry::ConvexCell> cell) {
        boxes_.push_back(cell->box());
        cells_.push_back(std::move(cell));
    };
    for (const auto& brush : solid.brushes)
        if (!without.contains(brush->item))
            for (const auto& part : brush->parts)
                for (const auto& cell : part->matter) add(cell);
    for (const auto& piece : solid.pieces)
        if (!without.contains(piece->item))
            for_each_matter(*piece, [&](const geometry::ConvexCell& cell) {
                add(std::make_shared<const geometry::ConvexCell>(cell));
            });
    std::vector<Box2> plans;
    for (const Box3& box : boxes_) {
        plans.push_back({flat(box.low), flat(box.high)});
        lowest_ = std::min(lowest_, box.low.z);
    }
    grid_ = geometry::BoxGrid(plans);
}

std::optional<SurfacePlace> MatterMet::first_met(const Vec3& from, const Vec3& way) const {
    Box3 line;
    line.add(from), line.add(from + way);
    std::optional<SurfacePlace> best;
    double nearest = 2;
    grid_.for_near({flat(line.low), flat(line.high)}, [&](int i) {
        if (!boxes_[size_t(i)].touches(line)) return;
        const auto met = entry(*cells_[size_t(i)], from, way);
        if (!met || met->first >= nearest) return;
        nearest = met->first;
        best = SurfacePlace{from + way * met->first, met->second};
    });
    return best;
}

std::optional<SurfacePlace> MatterMet::below(const Vec3& from) const {
    std::optional<SurfacePlace> over;
    grid_.for_near({flat(from), flat(from)}, [&](int i) {
        const auto exit = way_up(*cells_[size_t(i)], from);
        if (exit && (!over || exit->at.z > over->at.z)) over = exit;
    });
    if (over) return over;
    return first_met(from, {0, 0, std::min(lowest_ - 1 - from.z, -1.0)});
}

bool MatterMet::near(const Box3& box) const {
    bool any = false;
    grid_.for_near({flat(box.low), flat(box.high)},
                   [&](int i) { any = any || boxes_[size_t(i)].touches(box); });
    return any;
}

} // namespace rubble::build
