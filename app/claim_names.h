#pragma once

#include <QString>

#include "check/check.h"
#include "level/claim.h"
#include "session/session.h"

namespace rubble::app {

/// A claim about one, two or three things, as it is offered and called: "Start reaches Goal".
QString claim_text(Claim::Kind kind, const QString& from, const QString& to = {}, const QString& item = {});

/// How much is missing to a place: "0.54 m too wide".
QString missing_in_words(const check::NearMiss& miss);

/// Claims that one gets from a place to another, or does not: elements that stand there are its ends, else
/// places are put there. One step back takes all of it.
void claim_places(Session& session, const Vec3& from, const Vec3& to, bool reached);

/// What a level calls an item, and a claim; their ids where it calls them nothing. @{
QString item_name(const Level& level, const ItemId& id);
QString claim_name(const Level& level, const ClaimId& id);
/// @}

} // namespace rubble::app
