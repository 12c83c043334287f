#pragma once

#include <filesystem>
#include <map>
#include <optional>
#include <span>
#include <string>
#include <vector>

#include "base/result.h"
#include "check/check.h"

namespace rubble::parcel {

/// Who goes on with a level, and so what they get.
enum class Receiver { programmer, artist, tester };
struct ReceiverKind {
    Receiver receiver;
    const char* key;   ///< in commands
    const char* about; ///< in English
};
std::span<const ReceiverKind> receivers();
/// Nothing for keys that no receiver has.
std::optional<Receiver> receiver_of(const std::string& key);

/// Files by their paths in the parcel.
using Files = std::map<std::string, std::string>;

/// What of a level is not as it should be when it is handed off.
struct Open {
    std::vector<std::string> blockers, failing_claims; ///< in English
    bool empty() const { return blockers.empty() && failing_claims.empty(); }
};
Open open_in(const Level& level, const check::CheckResult& result);

/// All files of a parcel, with a list of them that says what each holds ("parcel.json"). The same level gives
/// the same bytes. `result` is the level's check. Stops with the error "cancelled" when that is asked for.
Result<Files> parcel_of(const Project& project, const Level& level, const check::CheckResult& result,
                        Receiver receiver, const Cancel& cancel = {}, const Progress& progress = {});

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
