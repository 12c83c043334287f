#include <iostream>

#include "commands.h"
#include "io/level_file.h"
#include "io/level_merge.h"
#include "io/text_file.h"

namespace rubble::cli {

namespace {

/// A level as JSON, and as a level so that what is merged can be read.
Result<io::Json> level_json(const std::string& file) {
    const auto text = io::read_file(file);
    if (!text) return tl::unexpected(text.error());
    if (const auto level = io::level_from_text(*text, file); !level) return tl::unexpected(level.error());
    return io::parse_json(*text, file);
}

void tell(const io::MergeConflict& conflict) {
    std::cout << (conflict.id.empty() ? "the level" : conflict.id) << ": ";
    if (conflict.keys.empty()) {
        std::cout << (conflict.mine.is_null()     ? "gone in mine, changed in theirs"
                      : conflict.theirs.is_null() ? "changed in mine, gone in theirs"
                                                  : "its group or layer was removed by one side");
    } else {
        for (size_t i = 0; i < conflict.keys.size(); ++i)
            std::cout << (i > 0 ? ", " : "") << conflict.keys[i];
        std::cout << " changed by both";
    }
    std::cout << '\n';
}

} // namespace

int run_merge(const MergeArguments& arguments) {
    const auto base = level_json(arguments.base), mine = level_json(arguments.mine),
               theirs = level_json(arguments.theirs);
    for (const auto* side : {&base, &mine, &theirs})
        if (!*side) return unusable_input(side->error());
    io::MergedLevel merged = io::merged_levels(*base, *mine, *theirs);
    if (!merged.conflicts.empty()) merged.level["conflicts"] = io::to_json(merged.conflicts);
    const auto level = io::level_from_text(io::to_text(merged.level), arguments.target);
    if (!level) return unusable_input(level.error());
    const std::string text = io::text_of(*level); // its keys in the order of every level
    const int code = merged.conflicts.empty() ? all_holds : something_fails;
    const int written = put(arguments.target, text, code);
    if (written == code && arguments.target != "-")
        for (const io::MergeConflict& conflict : merged.conflicts) tell(conflict);
    return written;
}

} // namespace rubble::cli
