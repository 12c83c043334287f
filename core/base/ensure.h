#pragma once

#include <cassert>

#include <spdlog/spdlog.h>

/// For what cannot happen but must be survived: stops in debug; in release writes a log line and takes the
/// trivial safe way given as the second argument (a return statement or a block).
#define RUBBLE_ENSURE(condition, otherwise)                                                                  \
    do {                                                                                                     \
        if (!(condition)) [[unlikely]] {                                                                     \
            assert(!#condition);                                                                             \
            spdlog::error("{}:{}: {} does not hold", __FILE__, __LINE__, #condition);                        \
            otherwise;                                                                                       \
        }                                                                                                    \
    } while (false)
