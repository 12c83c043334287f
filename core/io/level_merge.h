#pragma once

#include "io/json_text.h"
#include "level/level.h"

namespace rubble::io {

/// Something that both sides changed since the version that both come from, each otherwise.
struct MergeConflict {
    std::string id;                ///< of the item, layer or claim; empty: of the level itself
    std::vector<std::string> keys; ///< what of it; empty: one side removed it and the other changed it
    Json base, mine, theirs;       ///< it as each has it; null where it is not there
};

/// What comes of two versions of a level. Where they do not agree, mine stands in it.
struct MergedLevel {
    Json level;
    std::vector<MergeConflict> conflicts; ///< in the order in which they are in the level
};

/// Puts together what two sides changed of a level since a version that both come from (levels as JSON, all
/// of one format). Items, layers and claims are told by their ids, wherever they lie; of one that both
/// changed each key is taken from who changed it. Keys that only mean something together, such as those of a
/// shape or of a place, are one. Cells of tile layers are taken one by one. What one side removed is gone
/// where the other left it alone. (Three-way merging: Mens, "A state-of-the-art survey on software merging",
/// 2002.)
MergedLevel merged_levels(const Json& base, const Json& mine, const Json& theirs);

/// The conflicts that a level was merged with and nobody decided yet.
std::vector<MergeConflict> conflicts_of(const Level& level);
/// One of them decided: it is as theirs has it, or stays as mine has it. An error where the level cannot be
/// with it.
Result<Level> with_conflict_decided(const Level& level, size_t which, bool theirs);

/// The conflicts as a level's file keeps them, under "conflicts", until somebody decides.
Json to_json(const std::vector<MergeConflict>& conflicts);

} // namespace rubble::io
