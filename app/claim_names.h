#pragma once

#include <QString>

#include "level/claim.h"

namespace rubble::app {

/// A claim about one, two or three things, as it is offered and called: "Start reaches Goal".
QString claim_text(Claim::Kind kind, const QString& from, const QString& to = {}, const QString& item = {});

} // namespace rubble::app
