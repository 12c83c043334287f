#include "level/character.h"

#include <array>
#include <cmath>

namespace rubble {

std::span<const CharacterField> character_fields() {
    using C = Character;
    static constexpr std::array fields{
        CharacterField{"height_m", "Height", "m", &C::height_m, 0.1, 20, Helps::less},
        CharacterField{"crouched_height_m", "Crouched height", "m", &C::crouched_height_m, 0, 20,
                       Helps::less},
        CharacterField{"radius_m", "Radius", "m", &C::radius_m, 0.02, 5, Helps::less},
        CharacterField{"step_height_m", "Step height", "m", &C::step_height_m, 0, 5, Helps::more},
        CharacterField{"max_slope_deg", "Steepest slope", "°", &C::max_slope_deg, 0, 89, Helps::more},
        CharacterField{"run_speed_mps", "Run speed", "m/s", &C::run_speed_mps, 0.1, 50, Helps::more},
        CharacterField{"ground_acceleration_mps2", "Ground acceleration", "m/s²",
                       &C::ground_acceleration_mps2, 0.1, 10000, Helps::more},
        CharacterField{"air_acceleration_mps2", "Air acceleration", "m/s²", &C::air_acceleration_mps2, 0,
                       10000, Helps::more},
        CharacterField{"terminal_speed_mps", "Fastest fall", "m/s", &C::terminal_speed_mps, 0.1, 500},
        CharacterField{"jump_height_m", "Jump height", "m", &C::jump_height_m, 0, 50, Helps::more},
        CharacterField{"gravity_up_mps2", "Gravity going up", "m/s²", &C::gravity_up_mps2, 0.1, 1000,
                       Helps::less},
        CharacterField{"gravity_down_mps2", "Gravity coming down", "m/s²", &C::gravity_down_mps2, 0.1, 1000,
                       Helps::less},
        CharacterField{"low_jump_height_m", "Lowest jump", "m", &C::low_jump_height_m, 0, 50},
        CharacterField{"further_jumps", "Further jumps in the air", "", &C::further_jumps, 0, 8, Helps::more},
        CharacterField{"late_jump_grace_s", "Late-jump grace", "s", &C::late_jump_grace_s, 0, 2},
        CharacterField{"early_press_s", "Early press remembered", "s", &C::early_press_s, 0, 2},
        CharacterField{"climb_speed_mps", "Climb speed", "m/s", &C::climb_speed_mps, 0, 50, Helps::more},
        CharacterField{"push_part", "Pushes crates, of its speed", "", &C::push_part, 0, 1, Helps::more},
        CharacterField{"pull_up_m", "Ledge pulled up onto", "m", &C::pull_up_m, 0, 20, Helps::more},
        CharacterField{"survived_fall_m", "Fall survived", "m", &C::survived_fall_m, 0, 10000, Helps::more},
        CharacterField{"eye_height_m", "Eye height", "m", &C::eye_height_m, 0, 20},
        CharacterField{"view_angle_deg", "View angle", "°", &C::view_angle_deg, 20, 150},
        CharacterField{"follow_distance_m", "Follow distance", "m", &C::follow_distance_m, 0.2, 50},
        CharacterField{"least_support_m", "Least support", "m", &C::least_support_m, 0, 5, Helps::less},
    };
    return fields;
}

const CharacterField* find_character_field(const std::string& key) {
    for (const CharacterField& field : character_fields())
        if (key == field.key) return &field;
    return nullptr;
}

std::string problem_of(const Character& character) {
    for (const CharacterField& field : character_fields()) {
        const double value = character.*field.member;
        if (!std::isfinite(value) || value < field.least || value > field.most) return field.key;
    }
    if (character.further_jumps != std::floor(character.further_jumps)) return "further_jumps";
    if (character.crouched_height_m > character.height_m) return "crouched_height_m";
    if (character.low_jump_height_m > character.jump_height_m && character.jump_height_m > 0)
        return "low_jump_height_m";
    if (character.least_support_m >= character.radius_m) return "least_support_m";
    return {};
}

} // namespace rubble
