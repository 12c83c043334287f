#pragma once

#include <optional>

#include <QString>

namespace rubble::app {

/// What lengths are told and typed in.
enum class LengthUnit { metres, centimetres, grid_steps };
/// From now on, in the whole program, as its language is; `step_m` is how long a grid step is.
void tell_lengths_in(LengthUnit unit, double step_m);
LengthUnit unit_of_lengths();
/// "m", "cm", "steps".
QString name_of_lengths();
/// How long one of it is.
double metres_of_unit();

/// A number from what somebody typed: sums, differences, products, quotients and brackets. Nothing where it
/// is not understood.
std::optional<double> parse_number(const QString& text);
/// Metres from what somebody typed: numbers with the units m, cm and mm, sums, differences, products,
/// quotients and brackets ("4 + 0.5", "6 m / 2", "350 cm"); what has no unit is in that in which lengths are
/// told. Nothing where it is not understood.
std::optional<double> parse_metres(const QString& text);

/// "2.50 m", or in the unit in which lengths are told: "250 cm", "5 steps".
QString metres_text(double metres);
/// "2.5": as short as it can be said to a millimetre.
QString plain_number(double value);
/// "1 span", "3 spans".
QString counted(int count, const QString& one, const QString& many);

/// With its sign, also where it is more than nothing.
QString signed_text(double value, int digits, const QString& unit);

} // namespace rubble::app
