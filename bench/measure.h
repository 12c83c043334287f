#pragma once

#include <chrono>
#include <fstream>

namespace rubble::bench {

inline double now_ms() {
    using namespace std::chrono;
    return duration<double, std::milli>(steady_clock::now().time_since_epoch()).count();
}

/// Resident memory in megabytes.
inline double memory_mb() {
    std::ifstream in("/proc/self/statm");
    double total = 0, resident = 0;
    in >> total >> resident;
    return resident * 4096 / 1e6;
}

} // namespace rubble::bench
