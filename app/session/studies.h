#pragma once

#include <memory>
#include <optional>

#include <QString>

#include "study/asked.h"
#include "study/beginnings.h"
#include "study/explorers.h"
#include "study/players.h"
#include "study/sides.h"
#include "study/versions.h"
#include "study/what_if.h"
#include "view/scene_mesh.h"

namespace rubble::app {

/// An earlier version of the level beside what it is now.
struct Beside {
    QString title;
    Level level; ///< as it was
    std::shared_ptr<const check::CheckResult> check;
    study::VersionDifference difference;
    study::Likeness likeness;
};

/// What spots tell of players: where they fell, where they lost time, where they were.
enum class Heat { falls, lost_time, visits };

/// What was looked into beyond the check, for the level as it is: shown in the views until it changes.
struct Studies {
    std::optional<check::Span> picked;         ///< the span that is looked at
    std::shared_ptr<const study::Asked> asked; ///< the last answer about a place
    std::shared_ptr<const study::Crowd> crowd;
    std::shared_ptr<const study::Exploration> exploration; ///< that the crowd is of, where it explores
    Heat heat = Heat::falls;
    double crowd_s = 0;                           ///< the moment of its runs that is shown
    std::shared_ptr<const study::WhatIf> what_if; ///< with other metrics
    std::shared_ptr<const TintMesh> tint;         ///< of that
    std::shared_ptr<const study::Sides> sides;    ///< while they are looked at
    std::shared_ptr<const Beside> version;        ///< stays while the level changes
};

} // namespace rubble::app
