#pragma once

#include <array>
#include <string>

namespace rubble {

/// How well somebody plays: standard deviations of what hands do otherwise than was meant.
struct Skill {
    std::string name;
    double press_ms = 0;    ///< the moment of take-off
    double turn_deg = 0;    ///< the direction of a leap
    double stick_pct = 0;   ///< how far the stick is pushed
    double reaction_ms = 0; ///< before each thing that is begun, and before something is corrected in the air
    bool operator==(const Skill&) const = default;
};

/// Those that every project has until it says otherwise.
inline std::array<Skill, 3> usual_skills() {
    return {Skill{"newcomer", 80, 6, 15, 300}, Skill{"regular", 40, 3, 8, 220},
            Skill{"expert", 15, 1, 3, 160}};
}

} // namespace rubble
