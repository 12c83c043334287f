#pragma once

#include <vector>

#include <QString>

#include "base/id.h"

namespace rubble::app {

/// What a change of a part that is open by itself changes in the levels that use it.
struct PartEffects {
    /// A claim that held when the part was opened and does not any more.
    struct Broken {
        size_t level = 0; ///< of the document's
        ClaimId claim;
        QString name; ///< of the claim and its level
    };
    int places = 0, levels = 0;
    std::vector<Broken> broken;
    bool judged = false; ///< the claims of those levels were looked at since the last change
};

} // namespace rubble::app
