#include "motion/cell_step.h"

#include <cmath>

namespace rubble::motion {

namespace {

/// A figure this near to a cell's middle stands in it (metres).
constexpr double k_in_the_middle_m = 1e-9;
/// A stick this far from rest points somewhere.
constexpr double k_pointed = 0.3;

/// The axis-parallel way that a stick points; none near rest.
Vec2 way_of(Vec2 stick) {
    if (glm::length(stick) < k_pointed) return Vec2(0);
    if (std::abs(stick.x) >= std::abs(stick.y)) return {stick.x < 0 ? -1 : 1, 0};
    return {0, stick.y < 0 ? -1 : 1};
}

} // namespace

State cell_step(const build::WalkedCells& cells, const Character& c, State s, const Input& input) {
    double left = step_s;
    const Vec2 wanted = way_of(input.stick);
    while (left > 0) {
        const CellAt here = cells.cell_at(flat(s.at));
        const Vec2 middle = cells.middle_of(here);
        Vec2 way(0);
        const double speed = glm::length(flat(s.velocity));
        if (glm::length(flat(s.at) - middle) <= k_in_the_middle_m) {
            s.at = raised(middle, s.at.z);
            if (cells.deadly(here)) s.dead = true;
            way = wanted;
            const CellAt next{here.column + int(way.x), here.row - int(way.y)};
            if (s.dead || way == Vec2(0) || !cells.enterable(next)) way = Vec2(0);
        } else {
            way = speed > 0 ? flat(s.velocity) / speed : Vec2(0);
        }
        s.velocity = raised(way * c.run_speed_mps, 0);
        if (way == Vec2(0) || c.run_speed_mps <= 0) break;
        // The next middle ahead: of this cell while coming to it, of the next one while leaving it.
        double apart = glm::dot(middle - flat(s.at), way);
        if (apart <= k_in_the_middle_m) apart += cells.cell_m;
        const double taken = std::min(left, apart / c.run_speed_mps);
        if (taken * c.run_speed_mps >= apart - k_in_the_middle_m) {
            const Vec2 there = flat(s.at) + way * apart;
            s.at = raised(cells.middle_of(cells.cell_at(there)), s.at.z);
        } else {
            s.at += raised(way * (c.run_speed_mps * taken), 0);
        }
        left -= taken;
        if (left < 1e-12) break;
    }
    const CellAt here = cells.cell_at(flat(s.at));
    if (cells.deadly(here) && glm::length(flat(s.at) - cells.middle_of(here)) <= k_in_the_middle_m)
        s.dead = true;
    s.standing = true;
    s.fall_from = s.at.z;
    s.off_ground_s = 0;
    s.jump_held = input.jump;
    return s;
}

State state_on_cell(const build::WalkedCells& cells, const Vec3& at) {
    State state;
    const CellAt cell = cells.cell_at(flat(at));
    state.at = raised(cells.middle_of(cell), 0);
    state.standing = cells.free(cell);
    state.off_ground_s = 0;
    return state;
}

} // namespace rubble::motion
