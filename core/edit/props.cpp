#include "edit/props.h"

#include <algorithm>
#include <cmath>
#include <unordered_map>

#include "base/random.h"
#include "edit/items.h"

namespace rubble::edit {

namespace {

/// Something above a face by less than this is the face itself (metres); things are let go from so high.
constexpr double k_same_m = 0.02, k_from_m = 0.5;
/// So many places are drawn for each that is wanted, before what has no room is given up.
constexpr int k_draws = 30;
constexpr uint64_t k_most = 20000;

double between(RandomSource& random, double low, double high) {
    return low + (high - low) * double(random.next() >> 11) / double(uint64_t{1} << 53);
}

/// The triangles of faces, with what all before each cover in plan.
class Area {
public:
    explicit Area(const std::vector<std::vector<Vec3>>& faces) {
        for (const auto& loop : faces)
            for (size_t i = 1; i + 1 < loop.size(); ++i) {
                const Vec2 a = flat(loop[i] - loop[0]), b = flat(loop[i + 1] - loop[0]);
                const double size = (a.x * b.y - a.y * b.x) / 2;
                if (size <= 0) continue; // it looks down, or stands upright
                all_ += size;
                triangles_.push_back({{loop[0], loop[i], loop[i + 1]}, all_});
            }
    }
    double size_m2() const { return all_; }
    /// Anywhere in it, each place as likely as any other in plan (Turk, "Generating random points in
    /// triangles", 1990).
    Vec3 any(RandomSource& random) const {
        const double at = between(random, 0, all_);
        const auto one = std::lower_bound(triangles_.begin(), triangles_.end(), at,
                                          [](const Triangle& t, double value) { return t.end < value; });
        const auto& [corners, end] = one == triangles_.end() ? triangles_.back() : *one;
        const double s = std::sqrt(between(random, 0, 1)), t = between(random, 0, 1);
        return corners[0] * (1 - s) + corners[1] * (s * (1 - t)) + corners[2] * (s * t);
    }

private:
    struct Triangle {
        std::array<Vec3, 3> corners;
        double end;
    };
    std::vector<Triangle> triangles_;
    double all_ = 0;
};

/// Places in plan, none nearer to another than a distance.
class Apart {
public:
    explicit Apart(double least) : least_(least) {}
    bool take(Vec2 at) {
        if (least_ <= 0) return true;
        const glm::i64vec2 cell(glm::floor(at / least_));
        for (int64_t x = cell.x - 1; x <= cell.x + 1; ++x)
            for (int64_t y = cell.y - 1; y <= cell.y + 1; ++y)
                if (const auto there = cells_.find(key(x, y)); there != cells_.end())
                    for (const Vec2& other : there->second)
                        if (glm::length(other - at) < least_) return false;
        cells_[key(cell.x, cell.y)].push_back(at);
        return true;
    }

private:
    static uint64_t key(int64_t x, int64_t y) { return uint64_t(x) * 0x9E3779B97F4A7C15u ^ uint64_t(y); }
    double least_;
    std::unordered_map<uint64_t, std::vector<Vec2>> cells_;
};

Level with_each_prop(Level level, const std::vector<ItemId>& ids,
                     const std::function<std::optional<PlacedPiece>(const PlacedPiece&)>& change) {
    std::vector<Item> changed;
    for (const ItemId& id : ids) {
        const Item* item = find_item(level, id);
        if (!item || !item->piece() || !is_prop(*item->piece())) continue;
        auto now = change(*item->piece());
        if (!now || *now == *item->piece()) continue;
        Item copy = *item;
        copy.body = std::move(*now);
        changed.push_back(std::move(copy));
    }
    return changed.empty() ? level : with_all_changed(level, changed);
}

} // namespace

PlacedPiece stood_on(PlacedPiece prop, const SurfacePlace& place, bool leans) {
    const Vec3 ahead = prop.place.direction({1, 0, 0});
    prop.place.at = place.at;
    const Vec3 up = leans ? place.normal : Vec3(0, 0, 1);
    if (up.z > 1 - 1e-9) {
        // Upright again: by its heading alone, as files tell it.
        if (prop.place.rotation) {
            const Vec2 way = flat(ahead);
            prop.place.turn_deg = glm::length(way) > 1e-9 ? degrees(std::atan2(way.y, way.x)) : 0;
            prop.place.rotation.reset();
        }
        return prop;
    }
    Vec3 x = ahead - up * glm::dot(ahead, up);
    if (glm::length(x) < 1e-6) x = glm::cross(Vec3(0, 1, 0), up);
    x = glm::normalize(x);
    prop.place.rotation = rotation_onto(x, glm::cross(up, x), up);
    prop.place.turn_deg = 0; // is in it
    return prop;
}

PlacedPiece turned_about_itself(PlacedPiece prop, double deg) {
    const Vec3 up = prop.place.direction({0, 0, 1});
    if (!prop.place.rotation) {
        prop.place.turn_deg = std::remainder(prop.place.turn_deg + deg, 360.0);
        return prop;
    }
    const auto [c, s] = cos_sin(deg);
    const Vec3 x = prop.place.direction({1, 0, 0}), y = prop.place.direction({0, 1, 0});
    prop.place.rotation = rotation_onto(x * c + y * s, y * c - x * s, up);
    return prop;
}

Level with_props_set_down(Level level, const std::vector<ItemId>& ids, const Below& below, bool leans) {
    return with_each_prop(std::move(level), ids, [&](const PlacedPiece& prop) -> std::optional<PlacedPiece> {
        // From where its top is: one that is sunk comes up again.
        const Vec3 from(prop.place.at.x, prop.place.at.y, box_of(prop).high.z);
        const auto place = below(from);
        if (!place) return {};
        return stood_on(prop, *place, leans);
    });
}

Level with_props_sized(Level level, const std::vector<ItemId>& ids, double sized) {
    return with_each_prop(std::move(level), ids, [&](PlacedPiece prop) {
        prop.sized = std::clamp(sized, least_sized, most_sized);
        return std::optional(prop);
    });
}

std::vector<PlacedPiece> strewn(const Project& project, const Strewing& how,
                                const std::vector<std::vector<Vec3>>& faces, const Below& below) {
    std::vector<PlacedPiece> kinds, out;
    std::vector<uint64_t> weights;
    for (const Strewing::Kind& kind : how.kinds) {
        const auto kit = find_kit(project, kind.kit_file);
        PlacedPiece one;
        one.piece = kit ? kit->piece(kind.piece_id) : nullptr;
        if (!one.piece || kind.weight == 0) continue;
        one.kit_file = kind.kit_file, one.piece_id = kind.piece_id;
        kinds.push_back(std::move(one)), weights.push_back(kind.weight);
    }
    const Area area(faces);
    if (kinds.empty() || !(area.size_m2() > 0)) return out;
    const auto wanted = uint64_t(std::clamp(std::round(how.per_m2 * area.size_m2()), 0.0, double(k_most)));
    RandomSource random(how.seed);
    Apart apart(how.least_apart_m);
    for (uint64_t draw = 0; draw < wanted * k_draws && out.size() < wanted; ++draw) {
        const Vec3 at = area.any(random);
        const auto place = below(at + Vec3(0, 0, k_from_m));
        if (!place || std::abs(place->at.z - at.z) > k_same_m || !apart.take(flat(at))) continue;
        PlacedPiece one = kinds[random.weighted(weights)];
        one.sized = std::clamp(between(random, how.least_sized, how.most_sized), least_sized, most_sized);
        if (how.turned) one.place.turn_deg = std::round(between(random, -180, 180));
        out.push_back(stood_on(std::move(one), *place, how.leans));
    }
    return out;
}

} // namespace rubble::edit
