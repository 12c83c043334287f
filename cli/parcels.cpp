#include <iostream>

#include "commands.h"
#include "io/project_file.h"
#include "parcel/parcel.h"

namespace rubble::cli {

int run_parcel(const ParcelArguments& arguments, const Cancel& cancel) {
    const auto loaded = io::load_level_with_project(arguments.level);
    if (!loaded) return unusable_input(loaded.error());
    const auto kind = parcel::parcel_kind(loaded->project, arguments.receiver);
    if (!kind) {
        std::string known;
        for (const parcel::ParcelKind& one : parcel::parcel_kinds(loaded->project))
            known += (known.empty() ? "" : ", ") + one.key;
        return unusable_input(
            fail("usage", arguments.receiver, "is nobody who gets a parcel; there are " + known + ".")
                .value());
    }
    check::CheckOptions options;
    options.cancel = cancel;
    const check::CheckResult result = check::check_level(loaded->project, loaded->level, options);
    if (!result.complete || cancel.requested()) return interrupted;
    const parcel::Open open = parcel::open_in(loaded->level, result);
    for (const std::string& blocker : open.blockers) std::cerr << "blocker: " << blocker << '\n';
    for (const std::string& claim : open.failing_claims) std::cerr << "does not hold: " << claim << '\n';
    if (arguments.must_hold && !open.empty()) return something_fails;
    const auto files = parcel::parcel_of(loaded->project, loaded->level, result, *kind, cancel);
    if (!files) return cancel.requested() ? int(interrupted) : unusable_input(files.error());
    const auto changes = parcel::changes_since(*files, arguments.target);
    if (const auto written = parcel::write_parcel(*files, arguments.target); !written)
        return unusable_input(written.error());
    if (!changes) {
        for (const auto& [path, bytes] : *files) std::cout << path << '\n';
        return all_holds;
    }
    for (const std::string& path : changes->added) std::cout << "added    " << path << '\n';
    for (const std::string& path : changes->changed) std::cout << "changed  " << path << '\n';
    for (const std::string& path : changes->gone) std::cout << "gone     " << path << '\n';
    if (changes->empty()) std::cout << "as before\n";
    return all_holds;
}

} // namespace rubble::cli
