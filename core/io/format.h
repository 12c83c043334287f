#pragma once

#include <optional>
#include <string>

#include "io/json_text.h"

namespace rubble::io {

/// Reads which format a file is of. An error where it is newer than what this version knows; one that is none
/// is noted by the reader.
inline std::optional<Error> newer_format(Reader& in, int known, const char* code) {
    const double format = in.number("format", 0);
    if (format > known)
        return Error{code, in.place(), "Made by a newer version of Rubble. Update Rubble to open it."};
    if (format < 1) in.fail("format", "the number 1");
    return {};
}

} // namespace rubble::io
