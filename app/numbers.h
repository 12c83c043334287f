#pragma once

#include <optional>

#include <QString>

namespace rubble::app {

/// Metres from what somebody typed: numbers with the units m, cm and mm, sums, differences, products,
/// quotients and brackets ("4 + 0.5", "6 m / 2", "350 cm"). Nothing where it is not understood.
std::optional<double> parse_metres(const QString& text);

/// "2.50 m"
QString metres_text(double metres);
/// "2.5": as short as it can be said to a millimetre.
QString plain_number(double value);
/// "1 span", "3 spans".
QString counted(int count, const QString& one, const QString& many);

/// With its sign, also where it is more than nothing.
QString signed_text(double value, int digits, const QString& unit);

} // namespace rubble::app
