#include "level/element_kinds.h"

#include <algorithm>
#include <array>

#include "base/ensure.h"
#include "level/element_values.h"
#include "level/item.h"

namespace rubble {

namespace {

ElementField number(const char* key, const char* unit, double least, double most, double usual) {
    return {key, FieldType::number, unit, least, most, usual, {}, Vec3(0), ""};
}
ElementField flag(const char* key) { return {key, FieldType::flag, "", 0, 1, 0, {}, Vec3(0), ""}; }
ElementField velocity(const Vec3& usual) {
    return {"velocity_mps", FieldType::velocity, "m/s", -100, 100, 0, {}, usual, ""};
}
ElementField choice(const char* key, std::vector<std::string> choices) {
    return {key, FieldType::choice, "", 0, 0, 0, std::move(choices), Vec3(0), ""};
}
ElementField text(const char* key, const char* usual) {
    return {key, FieldType::text, "", 0, 0, 0, {}, Vec3(0), usual};
}
ElementField color(const char* usual) { return {"color", FieldType::color, "", 0, 0, 0, {}, Vec3(0), usual}; }
ElementField size(const Vec3& usual) { return {"size_m", FieldType::size, "m", 0.05, 100, 0, {}, usual, ""}; }
ElementField places(const char* key) { return {key, FieldType::places, "m", 0, 0, 0, {}, Vec3(0), ""}; }
ElementField items(const char* key) { return {key, FieldType::items, "", 0, 0, 0, {}, Vec3(0), ""}; }

/// What an item can give besides a name: more of one of a character's metrics.
std::vector<std::string> skills() {
    std::vector<std::string> out{""};
    for (const char* key :
         {"further_jumps", "jump_height_m", "run_speed_mps", "pull_up_m", "climb_speed_mps", "push_part"})
        out.push_back(key);
    return out;
}

std::vector<ElementKind> made_kinds() {
    const Vec3 door(1, 0.2, 2), barrier(0.2, 1, 2), ground(1, 1, 0.1), volume(1, 1, 1), plate(2, 2, 0.2),
        figure(0.8, 0.8, 1.6);
    return {
        {"start", Role::start, Sign::pennant, "s"},
        {"goal", Role::goal, Sign::ring, "g", {text("leads_to", ""), text("one_of", "")}},
        {"place", Role::place, Sign::lozenge, "e"},
        {"note", Role::note, Sign::sheet, "n"},
        {"checkpoint", Role::device, Sign::pennant, "j"},
        {"pickup", Role::thing, Sign::pearl, "u", {text("kind", "pearl"), text("one_of", "")}},
        {"key", Role::thing, Sign::key, "k", {text("kind", "brass"), flag("kept"), text("one_of", "")}},
        {"item",
         Role::thing,
         Sign::boots,
         "w",
         {text("gives", "oilskins"), choice("skill", skills()), number("adds", "", -100, 100, 1),
          text("one_of", "")}},
        {"door",
         Role::device,
         Sign::door,
         "d",
         {text("key", ""), flag("open"), items("open_by"), size(door)}},
        {"gate",
         Role::device,
         Sign::bars,
         "y",
         {text("pickup", "pearl"), number("count", "", 1, 1000, 1), size(door)}},
        {"switch",
         Role::device,
         Sign::disc,
         "x",
         {choice("mode", {"once", "toggle", "held"}), choice("by", {"any", "foot", "crate", "use"})}},
        {"crate", Role::device, Sign::crate, "c", {number("size_m", "m", 0.1, 10, 1), text("needs", "")}},
        {"dispenser",
         Role::device,
         Sign::crate,
         "dp",
         {number("count", "", 1, 16, 3), items("called_by")},
         Acting::by_cells},
        {"barrier", Role::device, Sign::bars, "f", {flag("one_way"), flag("crates"), size(barrier)}},
        {"floor",
         Role::device,
         Sign::waves,
         "h",
         {choice("acts", {"slippery", "carries", "crumbles", "deadly"}),
          number("towards_deg", "°", -360, 360, 0), number("speed_mps", "m/s", 0.1, 20, 2),
          number("crumbles_s", "s", 0.1, 60, 1), text("without", ""), size(ground)}},
        {"hazard", Role::device, Sign::spikes, "z", {text("without", ""), size(volume)}},
        {"foe",
         Role::device,
         Sign::eye,
         "o",
         {places("path"),
          choice("way", {"loop", "back_and_forth", "turns", "follows_left", "follows_right", "wanders",
                         "comes_nearer"}),
          number("speed_mps", "m/s", 0.1, 20, 2), number("sight_m", "m", 0.5, 100, 8),
          number("seed", "", 0, 1e6, 1), text("one_of", ""), size(figure)}},
        {"lift",
         Role::device,
         Sign::platform,
         "i",
         {places("stops"), number("speed_mps", "m/s", 0.1, 20, 2), number("wait_s", "s", 0, 60, 1),
          choice("runs", {"always", "called"}), items("called_by"), size(plate)},
         Acting::upright},
        {"deck",
         Role::device,
         Sign::plank,
         "q",
         {flag("one_way"), number("crumbles_s", "s", 0, 60, 0), size(plate)},
         Acting::upright},
        {"ladder", Role::device, Sign::rungs, "r", {number("height_m", "m", 0.2, 100, 3)}, Acting::upright},
        {"launcher", Role::device, Sign::arrow, "v", {velocity({0, 0, 8}), size(ground)}, Acting::upright},
        {"time_limit",
         Role::device,
         Sign::clock,
         "tl",
         {number("seconds", "s", 1, 86400, 60), number("steps", "", 0, 1e6, 0)}},
        {"sign", Role::note, Sign::board, "t", {text("says", "")}},
        {"zone", Role::place, Sign::lozenge, "p", {text("name", ""), size(volume)}},
        {"lamp",
         Role::note,
         Sign::lamp,
         "la",
         {color("#FFE2B0"), number("lumens", "lm", 1, 1e6, 1500), number("reach_m", "m", 0.2, 500, 10),
          number("opening_deg", "°", 5, 360, 360), number("tilt_deg", "°", -90, 90, -90),
          number("length_m", "m", 0, 50, 0)}},
        {"decal",
         Role::note,
         Sign::sheet,
         "de",
         {text("material", ""), text("print", ""), number("width_m", "m", 0.05, 100, 1),
          number("height_m", "m", 0.05, 100, 1), number("depth_m", "m", 0.01, 10, 0.5),
          number("tilt_deg", "°", -90, 90, -90)}},
        {"sun",
         Role::note,
         Sign::lamp,
         "su",
         {color("#FFF4E0"), number("lux", "lx", 0, 150000, 20000), number("height_deg", "°", 0, 90, 45)}},
    };
}

} // namespace

const ElementField* ElementKind::field(const std::string& wanted) const {
    const auto found =
        std::find_if(fields.begin(), fields.end(), [&](const auto& one) { return one.key == wanted; });
    return found == fields.end() ? nullptr : &*found;
}

const ElementField* ElementKind::way() const {
    const auto found = std::find_if(fields.begin(), fields.end(),
                                    [](const auto& one) { return one.type == FieldType::places; });
    return found == fields.end() ? nullptr : &*found;
}

std::span<const ElementKind> element_kinds() {
    static const std::vector<ElementKind> k_kinds = made_kinds();
    return k_kinds;
}

const ElementKind& kind_of(const std::string& key) {
    static const ElementKind k_unknown{"", Role::thing, Sign::lozenge, "e"};
    for (const ElementKind& kind : element_kinds())
        if (kind.key == key) return kind;
    return k_unknown;
}

const ElementKind& kind_of(const Element& element) {
    return element.own ? *element.own : kind_of(element.kind);
}

const std::string& acts_as(const Element& element) {
    return element.own && !element.own->acts_as.empty() ? element.own->acts_as : element.kind;
}

Element element_of(const std::shared_ptr<const ElementKind>& kind, const Vec3& at, double facing_deg) {
    return {kind->key, at, facing_deg, {}, kind->name.empty() ? nullptr : kind};
}

std::span<const char* const> sign_keys() {
    static constexpr std::array k_keys{"pennant", "ring",  "lozenge",  "sheet", "key",   "door",  "bars",
                                       "disc",    "crate", "pearl",    "eye",   "boots", "waves", "spikes",
                                       "rungs",   "arrow", "platform", "plank", "board", "clock", "lamp"};
    static_assert(k_keys.size() == size_t(Sign::lamp) + 1);
    return k_keys;
}

const ElementKind& kind_with(Role role) {
    const auto kinds = element_kinds();
    const auto found =
        std::find_if(kinds.begin(), kinds.end(), [&](auto& kind) { return kind.role == role; });
    RUBBLE_ENSURE(found != kinds.end(), return kinds.front());
    return *found;
}

Vec3 size_of(const Element& element) {
    const ElementField* field = kind_of(element).field("size_m");
    if (!field) return Vec3(0);
    if (field->type == FieldType::number) return Vec3(number_of(element, *field));
    const Vec3 size = point_value(element, field->key, field->usual_size);
    return glm::clamp(size, Vec3(field->least), Vec3(field->most));
}

double number_of(const Element& element, const ElementField& field) {
    const double value = number_value(element, field.key, field.usual);
    return value >= field.least && value <= field.most ? value : field.usual;
}

Element with_number(Element element, const ElementField& field, double value) {
    return with_value(std::move(element), field.key, std::clamp(value, field.least, field.most));
}

} // namespace rubble
