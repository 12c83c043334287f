#pragma once

#include "level/character.h"
#include "motion/world.h"

namespace rubble::motion {

/// The one motion of the program: walking in the level, proofs of reach and simulated players all call
/// `step`. Deterministic: the same world, character, state and input give the same next state, bit for bit.

inline constexpr double step_s = 1.0 / 120;

/// What the player does during one step.
struct Input {
    Vec2 stick{0}; ///< in the level's axes; longer than 1 counts as 1
    bool jump = false;
    bool crouch = false;
    bool use = false;
    bool operator==(const Input&) const = default;
};

struct State {
    Vec3 at{0};       ///< middle of the bottom
    Vec3 velocity{0}; ///< metres per second
    bool standing = false;
    bool crouched = false;
    bool dead = false; ///< fell too far, or out of the level
    bool jump_held = false;
    bool low_jump = false; ///< the key was let go while rising
    bool rising_by_jump = false;
    bool sliding = false;  ///< on ground that is too steep
    bool climbing = false; ///< on a ladder
    int pull_steps = 0;    ///< steps left until it stands on the edge it pulls itself up onto; 0: it does not
    Vec3 pull_to{0};       ///< where it stands then
    int jumps_left = 0;    ///< further jumps in the air
    double fall_from = 0;  ///< highest the feet have been since standing or a further jump
    double off_ground_s = 1e9; ///< since standing without a jump, for the late-jump grace
    double press_age_s = 1e9;  ///< since the last press that has not been used

    bool operator==(const State&) const = default;
};

/// The character standing still at a place, as far as the ground there lets it: within a step height below
/// it is put onto the ground, else it falls from there.
State state_at(const World& world, const Character& character, const Vec3& at);

/// The next state of a body in a world that stays as it is.
State step(const World& world, const Character& character, const State& state, const Input& input);

/// Vertical speed of a take-off.
double take_off_speed(const Character& character);

/// The body in a state.
Body body_of(const Character& character, const State& state);

/// Whether the top of a column is ground for the character, or too steep.
bool is_ground(const Character& character, const Column& column);

} // namespace rubble::motion
