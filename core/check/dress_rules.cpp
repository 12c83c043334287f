#include "check/dress_rules.h"

#include <array>
#include <cmath>
#include <map>
#include <set>

#include "build/decal_pieces.h"
#include "build/dressed_face.h"
#include "build/surface_builder.h"
#include "edit/dressing.h"
#include "level/dressing/light.h"
#include "level/order.h"

namespace rubble::check {

namespace {

/// So many times more or fewer dots than wanted are still well.
constexpr double k_dots_apart = 2.0 + 1e-6;

class DressFinder {
public:
    DressFinder(const Project& project, const Level& level, const CheckResult& result)
        : project_(project),
          level_(level),
          result_(result) {
        for (const OrderedBrush& brush : ordered_brushes(level)) brushes_.push_back(brush);
    }

    std::vector<Finding> run() {
        looks();
        jumps();
        bare();
        lights();
        decals();
        return std::move(out_);
    }

private:
    void add(RuleId rule, Sentences says, const Vec3& at, std::vector<ItemId> items) {
        out_.push_back({rule, rule_of(rule).severity, std::move(says), at, std::move(items)});
    }

    static double dots_per_m(const Material& material, const Lay& lay) {
        const auto size = picture_size(material.picture()->bytes);
        const Vec2 metres = lay.metres.value_or(material.metres);
        return size ? std::sqrt(size->first / metres.x * (size->second / metres.y)) : 0;
    }

    /// Every material, and every lay of its own, once.
    void looks() {
        std::set<MaterialId> seen;
        for (const OrderedBrush& brush : brushes_) {
            if (!brush.brush->material.empty()) material(brush.brush->material, brush, seen);
            for (const auto& [face, look] : brush.brush->looks) {
                const Material* known = material(look.material, brush, seen);
                if (!known || !known->picture()) continue;
                const bool fitted = look.lay.kind == LayKind::fitted;
                if (fitted != (known->kind == MaterialKind::prints))
                    add(RuleId::dress_print_repeats,
                        {{known->kind == MaterialKind::prints ? "Print %1 repeats on %2."
                                                              : "Pattern %1 is fitted onto %2.",
                          {known->name, brush.item->id}}},
                        brush.brush->place.at, {brush.item->id});
                if (look.lay.metres && !fitted) dots(*known, look.lay, brush, true);
            }
        }
    }

    const Material* material(const MaterialId& id, const OrderedBrush& user, std::set<MaterialId>& seen) {
        const Material* found = find_material(project_, id);
        if (!found || !seen.insert(id).second) return found;
        for (const auto& [role, file] : found->pictures)
            if (!found->read.contains(role))
                add(RuleId::dress_picture_missing,
                    {{"Picture %1 of %2 cannot be read.", {file, found->name}}}, user.brush->place.at,
                    {user.item->id});
        if (found->picture() && found->kind == MaterialKind::pattern) dots(*found, {}, user, false);
        return found;
    }

    void dots(const Material& material, const Lay& lay, const OrderedBrush& brush, bool own) {
        const double there = dots_per_m(material, lay), apart = there / project_.dots_per_m;
        if (there <= 0 || (apart <= k_dots_apart && apart >= 1 / k_dots_apart)) return;
        const auto whole = [](double value) { return std::to_string(std::lround(value)); };
        Sentence says =
            own ? Sentence{"%1 on %2 has %3 dots to the metre; %4 are wanted.",
                           {material.name, brush.item->id, whole(there), whole(project_.dots_per_m)}}
                : Sentence{"%1 has %2 dots to the metre; %3 are wanted.",
                           {material.name, whole(there), whole(project_.dots_per_m)}};
        add(RuleId::dress_density, {std::move(says)}, brush.brush->place.at, {brush.item->id});
    }

    /// Where two faces that are one to the eye meet, a picture goes on; up to whole repeats.
    void jumps() {
        const bool own_lays = std::any_of(brushes_.begin(), brushes_.end(), [](const OrderedBrush& brush) {
            return std::any_of(brush.brush->looks.begin(), brush.brush->looks.end(),
                               [](const auto& look) { return !(look.second.lay == Lay{}); });
        });
        if (!own_lays || !result_.solid) return;
        const build::Surface surface = build::surface_of(*result_.solid);
        struct Side {
            PicturePlace place;
            int brush;
        };
        using Edge = std::pair<geometry::TickPoint, geometry::TickPoint>;
        std::map<Edge, Side> sides;
        std::set<std::pair<int, int>> seen;
        for_each_face(surface, [&](int b, const build::SurfacePart& part, const build::SurfaceFace& face) {
            const Material* material = find_material(project_, face.material);
            if (!material || !material->picture() || material->kind == MaterialKind::prints) return;
            const PicturePlace place = build::picture_place_of(*material, *brushes_[size_t(b)].brush, face);
            const auto loop = part.loop(face);
            for (size_t i = 0; i < loop.size(); ++i) {
                if (!loop[i].inner) continue;
                const auto from = part.points[size_t(loop[i].point)],
                           to = part.points[size_t(loop[(i + 1) % loop.size()].point)];
                sides.emplace(Edge{from, to}, Side{place, b});
                const auto beyond = sides.find({to, from});
                if (beyond == sides.end() || beyond->second.brush == b) continue;
                const Vec3 p = geometry::to_metres(from), q = geometry::to_metres(to);
                if (alike(place, beyond->second.place, p) && alike(place, beyond->second.place, q)) continue;
                const int first = std::min(b, beyond->second.brush),
                          second = std::max(b, beyond->second.brush);
                if (!seen.insert({first, second}).second) continue;
                const ItemId &one = brushes_[size_t(first)].item->id,
                             &other = brushes_[size_t(second)].item->id;
                add(RuleId::dress_lay_jumps, {{"%1 jumps between %2 and %3.", {material->name, one, other}}},
                    (p + q) * 0.5, {one, other});
            }
        });
    }

    static bool alike(const PicturePlace& a, const PicturePlace& b, const Vec3& at) {
        constexpr double k_seen = 0.01; // of a repeat
        const Vec2 off = a.of(at) - b.of(at);
        return std::abs(off.x - std::round(off.x)) < k_seen && std::abs(off.y - std::round(off.y)) < k_seen;
    }

    /// A layer that is dressed for the most part has forgotten faces.
    void bare() {
        const std::vector<edit::Dressed> layers = edit::dressed_of(level_);
        std::vector<edit::FaceRef> faces;
        for (size_t i = 0; i < layers.size(); ++i) {
            if (layers[i].bare_m2 <= 0 || layers[i].dressed_m2 < layers[i].bare_m2) continue;
            if (faces.empty()) faces = edit::bare_faces(level_);
            const auto first = std::find_if(faces.begin(), faces.end(), [&](const edit::FaceRef& face) {
                const auto brush = std::find_if(brushes_.begin(), brushes_.end(), [&](const OrderedBrush& b) {
                    return b.item->id == face.item;
                });
                return brush != brushes_.end() && brush->layer == int(i);
            });
            if (first == faces.end()) continue;
            const Item* item = find_item(level_, first->item);
            add(RuleId::dress_bare,
                {{"%1 m² of layer %2 are bare.",
                  {std::to_string(std::lround(std::max(layers[i].bare_m2, 1.0))), level_.layers[i]->name}}},
                item->brush()->place.at, {first->item});
        }
    }

    void decals() {
        const std::vector<Decal> all = decals_of(level_);
        if (all.empty() || !result_.solid) return;
        const build::Surface surface = build::surface_of(*result_.solid);
        for (const Decal& decal : all)
            if (build::decal_pieces(surface, decal, {}).empty())
                add(RuleId::dress_decal_over_nothing, {{"%1 lies over nothing.", {decal.item}}}, decal.at,
                    {decal.item});
    }

    void lights() {
        std::set<ItemId> seen;
        for (const Light& light : lights_of(level_)) {
            if (light.kind != Light::Kind::lamp || !result_.world || !seen.insert(light.item).second)
                continue;
            constexpr double k_lamp_m = 0.01;
            if (motion::overlap_m(*result_.world, {light.at, k_lamp_m, k_lamp_m}) > 0)
                add(RuleId::dress_light_in_matter, {{"%1 is inside matter.", {light.item}}}, light.at,
                    {light.item});
        }
    }

    const Project& project_;
    const Level& level_;
    const CheckResult& result_;
    std::vector<OrderedBrush> brushes_;
    std::vector<Finding> out_;
};

} // namespace

std::vector<Finding> find_in_dress(const Project& project, const Level& level, const CheckResult& result) {
    return DressFinder(project, level, result).run();
}

} // namespace rubble::check
