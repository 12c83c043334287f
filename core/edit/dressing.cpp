#include "edit/dressing.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>
#include <set>

#include "edit/items.h"
#include "edit/project.h"
#include "level/face_name.h"
#include "level/item_search.h"
#include "level/order.h"

namespace rubble::edit {

namespace {

constexpr double k_one_way = 1e-6; ///< of what two directions that are one differ in
constexpr double k_one_plane_m = 1e-5;

/// A face of a brush as it lies in the level.
struct LyingFace {
    FaceRef ref;
    LayerId layer;
    Vec3 normal{0};
    double along = 0; ///< of its plane
    double area_m2 = 0;
    std::vector<Vec3> corners;
    Look look;
};

Vec3 area_of(const std::vector<Vec3>& corners) {
    Vec3 twice(0);
    for (size_t i = 1; i + 1 < corners.size(); ++i)
        twice += glm::cross(corners[i] - corners[0], corners[i + 1] - corners[0]);
    return twice * 0.5;
}

std::vector<LyingFace> faces_of(const Item& item, const LayerId& layer) {
    std::vector<LyingFace> out;
    const Brush& brush = *item.brush();
    for (const NamedFace& face : named_faces(brush)) {
        LyingFace one{{item.id, face.side.name}, layer, {}, 0, 0, {}, look_of(brush, face.side.name)};
        for (const Vec3& p : face.corners) one.corners.push_back(brush.place.to_level(p));
        const Vec3 area = area_of(one.corners);
        one.area_m2 = glm::length(area);
        if (one.area_m2 < 1e-9) continue;
        one.normal = area / one.area_m2;
        one.along = glm::dot(one.normal, one.corners[0]);
        out.push_back(std::move(one));
    }
    return out;
}

/// The faces of all brushes that fill, but for what is hidden or locked.
std::vector<LyingFace> faces_of(const Level& level) {
    std::vector<LyingFace> out;
    for (const OrderedBrush& brush : ordered_brushes(level)) {
        const Layer& layer = *level.layers[size_t(brush.layer)];
        if (brush.brush->effect != Effect::fill || brush.item->hidden || is_hidden(level, layer) ||
            is_locked(level, brush.item->id))
            continue;
        for (LyingFace& face : faces_of(*brush.item, layer.id)) out.push_back(std::move(face));
    }
    return out;
}

std::vector<LyingFace> faces_of(const Level& level, const ItemId& item) {
    const Item* found = find_item(level, item);
    return found && found->brush() ? faces_of(*found, {}) : std::vector<LyingFace>{};
}

bool one_way(const Vec3& a, const Vec3& b) { return glm::dot(a, b) > 1 - k_one_way; }
bool upright(const LyingFace& face) { return std::abs(face.normal.z) < 0.5; }

/// Walls, floors and ceilings of a brush count as alike in direction, whatever way walls look.
bool alike_in_direction(const LyingFace& a, const LyingFace& b) {
    if (upright(a) || upright(b)) return upright(a) && upright(b) && one_way(a.normal, b.normal);
    return a.normal.z * b.normal.z > 0;
}

/// Two corners that both faces have.
std::optional<std::pair<Vec3, Vec3>> common_edge(const LyingFace& a, const LyingFace& b) {
    std::vector<Vec3> both;
    for (const Vec3& p : a.corners)
        for (const Vec3& q : b.corners)
            if (glm::length(p - q) < k_one_plane_m &&
                std::none_of(both.begin(), both.end(),
                             [&](const Vec3& r) { return glm::length(r - p) < k_one_plane_m; }))
                both.push_back(p);
    if (both.size() < 2) return {};
    return {{both[0], both[1]}};
}

/// The upright faces of a brush, each beside the one before, from a first one on.
std::vector<FaceRef> ring_from(const std::vector<LyingFace>& faces, const LyingFace& first) {
    std::vector<FaceRef> out{first.ref};
    std::set<FaceName> seen{first.ref.face};
    const LyingFace* last = &first;
    for (bool found = true; found;) {
        found = false;
        for (const LyingFace& next : faces) {
            if (!upright(next) || seen.contains(next.ref.face) || !common_edge(*last, next)) continue;
            // Seen from before, on to the right.
            if (out.size() == 1 && glm::cross(last->normal, next.normal).z < 0) continue;
            out.push_back(next.ref), seen.insert(next.ref.face);
            last = &next, found = true;
            break;
        }
    }
    return out;
}

void erase_double(std::vector<FaceRef>& faces) {
    std::set<FaceRef> seen;
    std::erase_if(faces, [&](const FaceRef& face) { return !seen.insert(face).second; });
}

} // namespace

Look look_of(const Brush& brush, const FaceName& face) {
    const auto own = brush.looks.find(face);
    return own != brush.looks.end() ? own->second : Look{brush.material, {}};
}

std::vector<FaceRef> faces_like(const Level& level, const FaceRef& face, FacesLike like) {
    const std::vector<LyingFace> own = faces_of(level, face.item);
    const auto first =
        std::find_if(own.begin(), own.end(), [&](const LyingFace& f) { return f.ref == face; });
    if (first == own.end()) return {};
    std::vector<FaceRef> out{face};
    if (like == FacesLike::ring) return upright(*first) ? ring_from(own, *first) : out;
    if (like == FacesLike::of_brush) {
        for (const LyingFace& other : own) out.push_back(other.ref);
    } else {
        const std::vector<LyingFace> all = faces_of(level);
        const auto self =
            std::find_if(all.begin(), all.end(), [&](const LyingFace& f) { return f.ref == face; });
        for (const LyingFace& other : all) {
            const bool goes =
                like == FacesLike::of_material ? other.look.material == first->look.material
                : like == FacesLike::in_plane
                    ? one_way(other.normal, first->normal) &&
                          std::abs(other.along - first->along) < k_one_plane_m
                    : self != all.end() && other.layer == self->layer && alike_in_direction(other, *first);
            if (goes) out.push_back(other.ref);
        }
    }
    erase_double(out);
    return out;
}

Level with_looks(const Level& level, const std::vector<FaceRef>& faces,
                 const std::function<Look(const Look&)>& change) {
    return with_looks_by(level, faces, [&](const FaceRef&, const Look& look) { return change(look); });
}

Level with_looks_by(const Level& level, const std::vector<FaceRef>& faces,
                    const std::function<Look(const FaceRef&, const Look&)>& change) {
    std::map<ItemId, std::vector<FaceName>> by_item;
    for (const FaceRef& face : faces) by_item[face.item].push_back(face.face);
    std::vector<Item> changed;
    for (const auto& [id, names] : by_item) {
        const Item* item = find_item(level, id);
        if (!item || !item->brush()) continue;
        Item copy = *item;
        Brush& brush = std::get<Brush>(copy.body);
        std::set<FaceName> known;
        for (const NamedFace& face : named_faces(brush)) known.insert(face.side.name);
        for (const FaceName& name : names) {
            if (!known.contains(name)) continue;
            Look look = change({id, name}, look_of(brush, name));
            if (look == Look{brush.material, {}})
                brush.looks.erase(name);
            else
                brush.looks[name] = std::move(look);
        }
        changed.push_back(std::move(copy));
    }
    return with_all_changed(level, changed);
}

Level with_look_run_on(const Project& project, const Level& level, const std::vector<FaceRef>& faces) {
    Level out = level;
    for (size_t i = 1; i < faces.size(); ++i) {
        const Item* item = find_item(out, faces[i].item);
        if (!item || !item->brush() || faces[i - 1].item != faces[i].item) continue;
        const std::vector<LyingFace> own = faces_of(out, faces[i].item);
        const auto find = [&](const FaceRef& ref) {
            return std::find_if(own.begin(), own.end(), [&](const LyingFace& f) { return f.ref == ref; });
        };
        const auto before = find(faces[i - 1]), here = find(faces[i]);
        if (before == own.end() || here == own.end()) continue;
        const Material* material = find_material(project, before->look.material);
        const auto edge = common_edge(*before, *here);
        if (!material || !edge) continue;
        const Look look{before->look.material,
                        run_on(*material, before->look.lay, *item->brush(), before->normal, here->normal,
                               edge->first, edge->second)};
        out = with_looks(out, {faces[i]}, [&](const Look&) { return look; });
    }
    return out;
}

Level with_look_fitted(const Level& level, const std::vector<FaceRef>& faces, const Look& look) {
    std::vector<LyingFace> lying;
    for (const FaceRef& ref : faces)
        for (LyingFace& face : faces_of(level, ref.item))
            if (face.ref == ref) lying.push_back(std::move(face));
    if (lying.empty()) return level;
    for (const LyingFace& face : lying)
        if (!one_way(face.normal, lying[0].normal) || std::abs(face.along - lying[0].along) > k_one_plane_m)
            return level;
    if (lying.size() == 1)
        return with_looks(level, faces, [&](const Look&) {
            Look own = look;
            own.lay.kind = LayKind::fitted, own.lay.metres.reset(), own.lay.shift = Vec2(0);
            return own;
        });
    // All as one, in the axes of each: seen from before, how far they reach together.
    Level out = level;
    for (const LyingFace& face : lying) {
        const Brush& brush = *find_item(level, face.ref.item)->brush();
        Look own = look;
        own.lay.kind = LayKind::fitted, own.lay.metres = Vec2(1), own.lay.shift = Vec2(0),
        own.lay.print.clear();
        Material unit;
        unit.metres = Vec2(1);
        const PicturePlace place = picture_place(unit, own.lay, face.normal, &brush, &face.ref.face);
        Box2 reach;
        for (const LyingFace& other : lying)
            for (const Vec3& p : other.corners) {
                const Vec2 at = place.of(p);
                reach.low = glm::min(reach.low, at), reach.high = glm::max(reach.high, at);
            }
        own.lay.metres = reach.high - reach.low;
        // The picture's lower left corner lies where they begin.
        own.lay.shift = Vec2(reach.low.x, 1 - reach.high.y);
        own.lay.print = look.lay.print;
        out = with_looks(out, {face.ref}, [&](const Look&) { return own; });
    }
    return out;
}

Level with_bare_dressed(const Level& level) {
    std::map<MaterialId, std::vector<FaceRef>> given;
    for (const LyingFace& face : faces_of(level)) {
        if (!face.look.material.empty()) continue;
        const auto layer = std::find_if(level.layers.begin(), level.layers.end(),
                                        [&](const auto& one) { return one->id == face.layer; });
        const StandardMaterials& standard = (*layer)->standard;
        const MaterialId& material = upright(face)       ? standard.wall
                                     : face.normal.z > 0 ? standard.floor
                                                         : standard.ceiling;
        if (!material.empty()) given[material].push_back(face.ref);
    }
    Level out = level;
    for (const auto& [material, faces] : given)
        out = with_looks(out, faces, [&](const Look&) { return Look{material, {}}; });
    return out;
}

std::vector<Dressed> dressed_of(const Level& level) {
    std::vector<Dressed> out(level.layers.size());
    for (const LyingFace& face : faces_of(level))
        for (size_t i = 0; i < out.size(); ++i)
            if (level.layers[i]->id == face.layer)
                (face.look.material.empty() ? out[i].bare_m2 : out[i].dressed_m2) += face.area_m2;
    return out;
}

std::vector<FaceRef> bare_faces(const Level& level) {
    std::vector<FaceRef> out;
    for (const LyingFace& face : faces_of(level))
        if (face.look.material.empty()) out.push_back(face.ref);
    erase_double(out);
    return out;
}

bool edges_meet(const Picture& picture) {
    const int w = picture.width, h = picture.height;
    if (w < 4 || h < 4) return true;
    const auto apart = [&](int x0, int y0, int x1, int y1) {
        double sum = 0;
        for (int c = 0; c < 3; ++c)
            sum += std::abs(int(picture.rgba[(size_t(y0) * size_t(w) + size_t(x0)) * 4 + size_t(c)]) -
                            int(picture.rgba[(size_t(y1) * size_t(w) + size_t(x1)) * 4 + size_t(c)]));
        return sum;
    };
    double across = 0, across_inside = 0, down = 0, down_inside = 0;
    for (int y = 0; y < h; ++y) {
        across += apart(w - 1, y, 0, y);
        for (int x = 0; x + 1 < w; ++x) across_inside += apart(x, y, x + 1, y) / (w - 1);
    }
    for (int x = 0; x < w; ++x) {
        down += apart(x, h - 1, x, 0);
        for (int y = 0; y + 1 < h; ++y) down_inside += apart(x, y, x, y + 1) / (h - 1);
    }
    constexpr double k_more = 2.0, k_grain = 4.0; // of a seam; of what nobody sees, for each pixel
    return across <= across_inside * k_more + k_grain * h && down <= down_inside * k_more + k_grain * w;
}

namespace {

struct RoleEnding {
    const char* ending;
    PictureRole role;
};
constexpr std::array k_endings{
    RoleEnding{"normal", PictureRole::normal},       RoleEnding{"nrm", PictureRole::normal},
    RoleEnding{"roughness", PictureRole::roughness}, RoleEnding{"rough", PictureRole::roughness},
    RoleEnding{"metallic", PictureRole::metal},      RoleEnding{"metalness", PictureRole::metal},
    RoleEnding{"metal", PictureRole::metal},         RoleEnding{"emissive", PictureRole::glow},
    RoleEnding{"emission", PictureRole::glow},       RoleEnding{"glow", PictureRole::glow},
    RoleEnding{"basecolor", PictureRole::color},     RoleEnding{"albedo", PictureRole::color},
    RoleEnding{"diffuse", PictureRole::color},       RoleEnding{"color", PictureRole::color},
    RoleEnding{"colour", PictureRole::color}};

/// A file's name without its ending, and what the picture tells as far as the name says so.
std::pair<std::string, PictureRole> named(const std::string& file) {
    const std::string stem = file.substr(0, file.rfind('.'));
    const size_t parted = stem.find_last_of("_- ");
    if (parted != std::string::npos && parted > 0) {
        std::string last = stem.substr(parted + 1);
        std::transform(last.begin(), last.end(), last.begin(),
                       [](unsigned char c) { return char(std::tolower(c)); });
        for (const RoleEnding& ending : k_endings)
            if (last == ending.ending) return {stem.substr(0, parted), ending.role};
    }
    return {stem, PictureRole::color};
}

std::string in_words(std::string stem) {
    std::replace(stem.begin(), stem.end(), '_', ' ');
    if (!stem.empty()) stem[0] = char(std::toupper(uint8_t(stem[0])));
    return stem;
}

} // namespace

std::vector<Material> materials_from(const Project& project, std::vector<PictureBytes> pictures) {
    std::map<std::string, Material> found;
    Project grown = project;
    std::set<std::string> files;
    for (const Material& material : project.materials)
        for (const auto& [role, file] : material.pictures) files.insert(file);
    for (PictureBytes& picture : pictures) {
        const auto [stem, role] = named(picture.name);
        Material& material = found[stem];
        material.name = in_words(stem);
        std::string file = "materials/" + picture.name;
        for (int n = 2; !files.insert(file).second; ++n) {
            const size_t dot = picture.name.rfind('.');
            file = "materials/" + picture.name.substr(0, dot) + "-" + std::to_string(n) +
                   (dot == std::string::npos ? "" : picture.name.substr(dot));
        }
        material.pictures[role] = file;
        material.read[role] = std::move(picture);
    }
    std::vector<Material> out;
    for (auto& [stem, material] : found) {
        material.id = fresh_material_id(grown);
        grown.materials.push_back(material);
        out.push_back(std::move(material));
    }
    return out;
}

} // namespace rubble::edit
