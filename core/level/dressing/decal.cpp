#include "level/dressing/decal.h"

#include "base/angle.h"
#include "level/element_values.h"
#include "level/order.h"

namespace rubble {

std::vector<Decal> decals_of(const Level& level) {
    std::vector<Decal> out;
    for (const Item* item : seen_elements_of(level)) {
        const Element& element = *item->element();
        if (acts_as(element) != "decal") continue;
        Decal decal;
        decal.item = item->id, decal.at = element.at;
        decal.material = {text_of(element, "material")}, decal.print = text_of(element, "print");
        decal.width_m = number_of(element, "width_m"), decal.height_m = number_of(element, "height_m");
        decal.depth_m = number_of(element, "depth_m");
        const auto [c, s] = cos_sin(element.facing_deg);
        const auto [level_part, raised] = cos_sin(number_of(element, "tilt_deg"));
        decal.way = {c * level_part, s * level_part, raised};
        decal.up = {-c * raised, -s * raised, level_part};
        decal.right = glm::cross(decal.way, decal.up);
        out.push_back(std::move(decal));
    }
    return out;
}

} // namespace rubble
