#include "build/decal_pieces.h"

namespace rubble::build {

namespace {

/// So far a decal lies before the face that it is on, so that both can be drawn.
constexpr double k_before_m = 0.003;
/// Faces that turn farther from it than this (cosine) are not covered.
constexpr double k_turned = 0.2;

/// The part of a polygon where dot(way, p) <= most (Sutherland and Hodgman, 1974).
std::vector<Vec3> clipped(const std::vector<Vec3>& polygon, const Vec3& way, double most) {
    std::vector<Vec3> out;
    for (size_t i = 0; i < polygon.size(); ++i) {
        const Vec3 &a = polygon[i], &b = polygon[(i + 1) % polygon.size()];
        const double from = glm::dot(way, a) - most, to = glm::dot(way, b) - most;
        if (from <= 0) out.push_back(a);
        if ((from < 0 && to > 0) || (from > 0 && to < 0)) out.push_back(a + (b - a) * (from / (from - to)));
    }
    return out;
}

/// From a place within the decal, 0 to 1 to the right and down, to one on the picture.
Vec2 on_picture(Vec2 within, const Decal& decal, const Material& material) {
    const auto region = material.prints.find(decal.print);
    const auto size = material.picture() ? picture_size(material.picture()->bytes) : std::nullopt;
    if (region == material.prints.end() || !size) return within;
    const Vec2 whole(size->first, size->second);
    return (Vec2(region->second.x, region->second.y) +
            within * Vec2(region->second.width, region->second.height)) /
           whole;
}

} // namespace

std::vector<DecalPiece> decal_pieces(const Surface& surface, const Decal& decal, const Material& material) {
    std::vector<DecalPiece> out;
    const Vec3 half = glm::abs(decal.right) * (decal.width_m / 2) +
                      glm::abs(decal.up) * (decal.height_m / 2) + glm::abs(decal.way) * decal.depth_m;
    const Box3 around{decal.at - half, decal.at + half};
    const std::pair<Vec3, double> sides[] = {
        {decal.right, decal.width_m / 2}, {-decal.right, decal.width_m / 2}, {decal.up, decal.height_m / 2},
        {-decal.up, decal.height_m / 2},  {decal.way, decal.depth_m},        {-decal.way, decal.depth_m}};
    for (const auto& brush : surface.brushes)
        for (const auto& part : *brush) {
            if (!part->box.touches(around)) continue;
            for (const SurfaceFace& face : part->faces) {
                if (glm::dot(face.normal, decal.way) > -k_turned) continue;
                std::vector<Vec3> polygon;
                for (const SurfaceCorner& corner : part->loop(face))
                    polygon.push_back(part->point_m(corner.point));
                for (const auto& [way, most] : sides)
                    if (polygon.size() >= 3) polygon = clipped(polygon, way, glm::dot(way, decal.at) + most);
                if (polygon.size() < 3) continue;
                DecalPiece piece{{}, {}, face.normal};
                for (const Vec3& p : polygon) {
                    const Vec3 off = p - decal.at;
                    const Vec2 within(glm::dot(off, decal.right) / decal.width_m + 0.5,
                                      0.5 - glm::dot(off, decal.up) / decal.height_m);
                    piece.corners.push_back(p + face.normal * k_before_m);
                    piece.places.push_back(on_picture(within, decal, material));
                }
                out.push_back(std::move(piece));
            }
        }
    return out;
}

} // namespace rubble::build
