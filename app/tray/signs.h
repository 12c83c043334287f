#pragma once

#include <QPixmap>

#include "check/rules.h"

namespace rubble::app {

/// The sign of a verdict or a severity, told apart by shape as well as by colour: three or four corners, 1
/// for a disc, 0 for a crossed disc.
QPixmap sign(const QColor& ink, int corners);
/// The sign of a severity.
QPixmap sign_of(check::Severity severity);

} // namespace rubble::app
