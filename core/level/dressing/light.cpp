#include "level/dressing/light.h"

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <numbers>

#include "base/angle.h"
#include "level/element_values.h"
#include "level/order.h"

namespace rubble {

namespace {

double linear_of(unsigned srgb) {
    const double v = srgb / 255.0;
    return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4);
}

Vec3 color_of(const std::string& text) {
    unsigned r = 255, g = 255, b = 255;
    if (text.size() == 7) std::sscanf(text.c_str(), "#%2x%2x%2x", &r, &g, &b);
    return {linear_of(r), linear_of(g), linear_of(b)};
}

/// The way something looks that faces one way in plan and is raised by an angle.
Vec3 way_of(double facing_deg, double raised_deg) {
    const auto [c, s] = cos_sin(facing_deg);
    const auto [level, up] = cos_sin(raised_deg);
    return {c * level, s * level, up};
}

/// A strip is seen as lamps so far apart.
constexpr double k_apart_m = 1;

} // namespace

bool is_dressing(const std::string& kind) { return kind == "lamp" || kind == "sun" || kind == "decal"; }

bool belongs_to_dressing(const Item& item) {
    if (item.element()) return is_dressing(acts_as(*item.element()));
    if (item.piece()) return is_prop(*item.piece());
    const ItemList* members = item.group() ? members_of(item) : nullptr;
    return members && std::all_of(members->begin(), members->end(),
                                  [](const ItemPtr& member) { return belongs_to_dressing(*member); });
}

double Light::candela() const {
    const double half = std::clamp(opening_deg, 1.0, 360.0) / 2;
    return strength / (2 * std::numbers::pi * (1 - std::cos(radians(half))));
}

std::vector<Light> lights_of(const Level& level) {
    std::vector<Light> out;
    for (const Item* item : seen_elements_of(level)) {
        const Element& element = *item->element();
        if (acts_as(element) != "lamp" && acts_as(element) != "sun") continue;
        Light light;
        light.item = item->id, light.at = element.at;
        light.color = color_of(text_of(element, "color"));
        if (acts_as(element) == "sun") {
            light.kind = Light::Kind::sun;
            light.strength = number_of(element, "lux");
            light.way = -way_of(element.facing_deg, number_of(element, "height_deg"));
            out.push_back(light);
            continue;
        }
        light.way = way_of(element.facing_deg, number_of(element, "tilt_deg"));
        light.reach_m = number_of(element, "reach_m"), light.opening_deg = number_of(element, "opening_deg");
        const double length = number_of(element, "length_m");
        const int count = std::max(1, int(std::lround(length / k_apart_m)));
        light.strength = number_of(element, "lumens") / count;
        // A strip lies across the way that it faces.
        const auto [c, s] = cos_sin(element.facing_deg);
        for (int i = 0; i < count; ++i) {
            light.at = element.at + Vec3(-s, c, 0) * (length * ((i + 0.5) / count - 0.5));
            out.push_back(light);
        }
    }
    return out;
}

double lux_at(const Light& light, const Vec3& at, const Vec3& normal) {
    if (light.kind == Light::Kind::sun) return light.strength * std::max(0.0, -glm::dot(normal, light.way));
    const Vec3 to = light.at - at;
    const double far = glm::length(to);
    if (far >= light.reach_m || far < 1e-6) return 0;
    const Vec3 toward = to / far;
    const double part = far / light.reach_m, fades = 1 - part * part * part * part;
    const double off_deg = degrees(std::acos(std::clamp(-glm::dot(toward, light.way), -1.0, 1.0)));
    if (light.opening_deg < 360 && off_deg > light.opening_deg / 2) return 0;
    constexpr double k_least_m2 = 0.01; // lamps are no points
    return light.candela() / std::max(far * far, k_least_m2) * std::max(0.0, glm::dot(normal, toward)) *
           fades * fades;
}

} // namespace rubble
