#pragma once

#include <span>
#include <string>
#include <variant>

namespace rubble {

/// The moving body's metrics. The defaults are the program's standard figure.
struct Character {
    double height_m = 1.80;
    double crouched_height_m = 1.00; ///< 0: cannot crouch
    double radius_m = 0.30;
    double step_height_m = 0.40;
    double max_slope_deg = 45;
    double run_speed_mps = 6.0;
    double ground_acceleration_mps2 = 40;
    double air_acceleration_mps2 = 12;
    double terminal_speed_mps = 40;
    double jump_height_m = 1.20;
    double gravity_up_mps2 = 20;
    double gravity_down_mps2 = 20;
    double low_jump_height_m = 0.40;
    double further_jumps = 0; ///< a whole number
    double late_jump_grace_s = 0.10;
    double early_press_s = 0.10;
    double climb_speed_mps = 2.5;
    double push_part = 0.5; ///< how fast it goes pushing a crate, as a part of running; 0: it cannot
    double pull_up_m = 0;
    double survived_fall_m = 4.0;
    double eye_height_m = 1.65;
    double view_angle_deg = 75;
    double follow_distance_m = 3.5;
    double least_support_m = 0;

    bool operator==(const Character&) const = default;
};

/// What of a metric helps to get somewhere.
enum class Helps { more, less, neither };

/// One metric with its key in files, its label, its unit and the range that makes sense.
struct CharacterField {
    const char* key;
    const char* label;
    const char* unit;
    double Character::*member;
    double least;
    double most;
    Helps helps = Helps::neither;
};

/// All metrics in the order in which they are agreed on.
std::span<const CharacterField> character_fields();
/// The metric of a key; null where there is none.
const CharacterField* find_character_field(const std::string& key);

/// A name and the field at fault where a metric is outside its range; empty when all is well.
std::string problem_of(const Character& character);

} // namespace rubble
