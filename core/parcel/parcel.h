#pragma once

#include <filesystem>
#include <map>
#include <optional>
#include <span>
#include <string>
#include <vector>

#include "base/result.h"
#include "check/check.h"
#include "parcel/test_report.h"

namespace rubble::parcel {

/// What a parcel may hold.
enum class Part {
    geometry,  ///< all of it as one GLB, what is met apart
    layers,    ///< each layer alone, as GLB
    materials, ///< a table of those in use, with their pictures
    tables,    ///< elements with their values, and names
    tiles,     ///< rows of tiles
    level,     ///< the level itself
    schemas,   ///< what the JSON files in it are made like
    grey,      ///< what waits for its final model
    plans,     ///< by storeys
    check,     ///< all that was found, for machines
    players,   ///< how simulated players fare on the way to the goal
    page,      ///< what was checked, for people to read
};
struct PartKind {
    Part part;
    const char* key;   ///< in files
    const char* about; ///< in English
};
std::span<const PartKind> part_kinds();

/// What one who goes on with a level gets.
struct ParcelKind {
    std::string key;         ///< in commands
    std::string name, about; ///< in English, or as the project calls it
    std::vector<Part> parts;
};
/// Those that every project has (for a programmer, an artist, a tester), as the project changed them, and its
/// own. Keys of parts that nobody knows are left out.
std::vector<ParcelKind> parcel_kinds(const Project& project);
/// Nothing for keys that none has.
std::optional<ParcelKind> parcel_kind(const Project& project, const std::string& key);

/// Files by their paths in the parcel.
using Files = std::map<std::string, std::string>;

/// What of a level is not as it should be when it is handed off.
struct Open {
    std::vector<std::string> blockers, failing_claims; ///< in English
    bool empty() const { return blockers.empty() && failing_claims.empty(); }
};
Open open_in(const Level& level, const check::CheckResult& result);

/// All files of a parcel, with a list of them that says what each holds ("parcel.json"). The same level gives
/// the same bytes. `result` is the level's check; `pictures` are PNGs of places by what they show, for the
/// page. Stops with the error "cancelled" when that is asked for.
Result<Files> parcel_of(const Project& project, const Level& level, const check::CheckResult& result,
                        const ParcelKind& kind, const Cancel& cancel = {}, const Progress& progress = {},
                        const Pictures& pictures = {});

/// What differs between a parcel and one that was made before.
struct Changes {
    std::vector<std::string> added, changed, gone;
    bool empty() const { return added.empty() && changed.empty() && gone.empty(); }
};
/// `target` is the folder or the zip of the one before; nothing where none is there.
std::optional<Changes> changes_since(const Files& files, const std::filesystem::path& target);

/// Writes a parcel: into a zip where the target ends in .zip, else into a folder, which keeps what else is in
/// it but the files of a parcel that was there before. Whole or not at all.
Result<void> write_parcel(const Files& files, const std::filesystem::path& target);

} // namespace rubble::parcel
