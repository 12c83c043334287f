#pragma once

#include <memory>
#include <optional>

#include "study/asked.h"
#include "study/players.h"
#include "study/what_if.h"
#include "view/scene_mesh.h"

namespace rubble::app {

/// What was looked into beyond the check, for the level as it is: shown in the views until it changes.
struct Studies {
    std::optional<check::Span> picked;         ///< the span that is looked at
    std::shared_ptr<const study::Asked> asked; ///< the last answer about a place
    std::shared_ptr<const study::Crowd> crowd;
    double crowd_s = 0;                           ///< the moment of its runs that is shown
    std::shared_ptr<const study::WhatIf> what_if; ///< with other metrics
    std::shared_ptr<const TintMesh> tint;         ///< of that
};

} // namespace rubble::app
