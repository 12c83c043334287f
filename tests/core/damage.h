#pragma once

#include <string>

#include "core/random.h"

namespace rubble::test {

/// A text of JSON as a careless hand or a bad disk leaves it: a few letters are others, or gone.
inline std::string damaged(std::string text, Random& random) {
    constexpr char k_letters[] = "0123456789-.,\"{}[]e#";
    for (int i = random.whole(1, 4); i > 0 && !text.empty(); --i) {
        const size_t at = size_t(random.whole(0, int(text.size()) - 1));
        if (random.chance(0.5))
            text[at] = k_letters[random.whole(0, int(sizeof k_letters) - 2)];
        else
            text.erase(at, size_t(random.whole(1, 8)));
    }
    return text;
}

} // namespace rubble::test
