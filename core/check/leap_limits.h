#pragma once

namespace rubble::check {

/// Leaps are proposed and tried up to this much beyond the closed form; the motion decides (metres).
inline constexpr double leap_benefit_m = 0.03;

} // namespace rubble::check
