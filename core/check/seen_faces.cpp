#include "check/seen_faces.h"

#include <algorithm>
#include <cmath>

#include "geometry/convex_area.h"

namespace rubble::check {

namespace {

/// Faces no farther apart lie in one plane (metres).
constexpr double k_one_plane_m = 5e-4;
/// An area over each other that nobody sees (square metres).
constexpr double k_unseen_m2 = 0.005;
/// Directions no farther apart are one.
constexpr double k_one_way = 1 - 1e-6;

/// What tells how a material looks: its name, colour and picture.
std::string look_of(const Model& model, int material) {
    if (material < 0) return {};
    const ModelMaterial& m = model.materials[size_t(material)];
    std::string out = m.name + ' ' + std::to_string(m.picture);
    for (const auto channel : m.color) out += ' ' + std::to_string(double(channel));
    return out;
}

Box3 box_in_level(const PlacedPiece& placed, const Box3& own) {
    Box3 box;
    for (int corner = 0; corner < 8; ++corner)
        box.add(to_level(placed, {(corner & 1 ? own.high : own.low).x, (corner & 2 ? own.high : own.low).y,
                                  (corner & 4 ? own.high : own.low).z}));
    return box;
}

/// Two directions in a plane, at right angles.
std::pair<Vec3, Vec3> along(const Vec3& normal) {
    const Vec3 other = std::abs(normal.z) < 0.9 ? Vec3(0, 0, 1) : Vec3(1, 0, 0);
    const Vec3 right = glm::normalize(glm::cross(other, normal));
    return {right, glm::cross(normal, right)};
}

} // namespace

std::vector<SeenFaces::Sheet> SeenFaces::made(const Model& model) {
    std::map<std::tuple<long, long, long, long, std::string>, Sheet> sheets;
    for (const ModelPart& part : model.parts) {
        const std::string look = look_of(model, part.material);
        for (const auto& t : part.triangles) {
            const std::array<Vec3, 3> corners{part.points[t[0]], part.points[t[1]], part.points[t[2]]};
            const Vec3 area = glm::cross(corners[1] - corners[0], corners[2] - corners[0]);
            const double length = glm::length(area);
            if (!(length > 1e-9)) continue;
            const Vec3 normal = area / length;
            const double offset = glm::dot(normal, corners[0]);
            Sheet& sheet = sheets[{std::lround(normal.x * 1e4), std::lround(normal.y * 1e4),
                                   std::lround(normal.z * 1e4), std::lround(offset * 2000), look}];
            sheet.normal = normal, sheet.look = look;
            sheet.triangles.push_back(corners);
            for (const Vec3& corner : corners) sheet.box.add(corner);
        }
    }
    std::vector<Sheet> out;
    for (auto& [key, sheet] : sheets) out.push_back(std::move(sheet));
    return out;
}

const std::vector<SeenFaces::Sheet>& SeenFaces::sheets_of(const std::shared_ptr<const rubble::Piece>& piece) {
    const auto [found, fresh] = known_.try_emplace(piece);
    if (fresh && piece && piece->body) found->second = made(piece->body->model);
    return found->second;
}

std::optional<Vec3> SeenFaces::over_each_other(const PlacedPiece& a, const PlacedPiece& b) {
    const Box3 box_a = box_of(a), box_b = box_of(b);
    const Vec3 low = glm::max(box_a.low, box_b.low) - Vec3(k_one_plane_m),
               high = glm::min(box_a.high, box_b.high) + Vec3(k_one_plane_m);
    const Box3 common{low, high};
    const double declared = (a.piece ? a.piece->overlap_m : 0) + (b.piece ? b.piece->overlap_m : 0);
    // Pieces that touch along an edge or at a corner have no faces over each other.
    int wide = 0;
    for (int axis = 0; axis < 3; ++axis) wide += high[axis] - low[axis] > 10 * k_one_plane_m;
    if (wide < 2) return {};
    struct Placed {
        const Sheet* sheet;
        Vec3 normal;
    };
    const auto near_common = [&](const PlacedPiece& placed) {
        std::vector<Placed> out;
        for (const Sheet& sheet : sheets_of(placed.piece))
            if (box_in_level(placed, sheet.box).touches(common))
                out.push_back({&sheet, direction_in_level(placed, sheet.normal)});
        return out;
    };
    const std::vector<Placed> of_a = near_common(a);
    if (of_a.empty()) return {};
    for (const Placed& other : near_common(b))
        for (const Placed& one : of_a) {
            if (one.sheet->look == other.sheet->look || glm::dot(one.normal, other.normal) < k_one_way)
                continue;
            const Vec3 at = to_level(a, one.sheet->triangles[0][0]);
            if (std::abs(glm::dot(one.normal, to_level(b, other.sheet->triangles[0][0]) - at)) >
                k_one_plane_m)
                continue;
            const auto [right, up] = along(one.normal);
            const auto flat = [&](const PlacedPiece& placed, const std::array<Vec3, 3>& triangle) {
                std::vector<Vec2> corners;
                for (const Vec3& corner : triangle) {
                    const Vec3 from = to_level(placed, corner) - at;
                    corners.push_back({glm::dot(from, right), glm::dot(from, up)});
                }
                return geometry::hull(corners);
            };
            double area = 0;
            Box2 box;
            for (const auto& p : one.sheet->triangles)
                for (const auto& q : other.sheet->triangles) {
                    const geometry::ConvexArea over = geometry::common(flat(a, p), flat(b, q));
                    area += geometry::area_of(over);
                    for (const Vec2& corner : over) box.add(corner);
                }
            if (area < k_unseen_m2) continue;
            const Vec2 size = box.high - box.low;
            if (declared > 0 && std::min(size.x, size.y) <= declared + 1e-3) continue;
            const Vec2 middle = (box.low + box.high) * 0.5;
            return at + right * middle.x + up * middle.y;
        }
    return {};
}

} // namespace rubble::check
