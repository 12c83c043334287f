#pragma once

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>
#include <random>

#include <QtTest/QtTest>

namespace rubble::test {

/// How often a random test goes round: a tenth where the build is slow (RUBBLE_QUICK), or as often as
/// RUBBLE_ROUNDS says.
inline int rounds(int usual) {
    if (qEnvironmentVariableIsSet("RUBBLE_ROUNDS")) return qEnvironmentVariableIntValue("RUBBLE_ROUNDS");
    return qEnvironmentVariableIsSet("RUBBLE_QUICK") ? std::max(1, usual / 10) : usual;
}

/// Random numbers whose seed is printed, so that a failure can be run again with RUBBLE_SEED.
class Random {
public:
    explicit Random(uint64_t fallback) {
        const QByteArray given = qgetenv("RUBBLE_SEED");
        seed_ = given.isEmpty() ? fallback : given.toULongLong();
        qInfo("seed %llu", static_cast<unsigned long long>(seed_));
        engine_.seed(seed_);
    }
    double between(double low, double high) {
        return std::uniform_real_distribution<double>(low, high)(engine_);
    }
    /// A whole number, both ends included.
    int whole(int low, int high) { return std::uniform_int_distribution<int>(low, high)(engine_); }
    /// A multiple of `step`.
    double stepped(double low, double high, double step) {
        return low + step * whole(0, int((high - low) / step));
    }
    /// A unit quaternion x, y, z, w.
    std::array<double, 4> rotation() {
        std::array<double, 4> q{between(-1, 1), between(-1, 1), between(-1, 1), between(0.2, 1)};
        double square = 0;
        for (const double v : q) square += v * v;
        for (double& v : q) v /= std::sqrt(square);
        return q;
    }
    bool chance(double p) { return between(0, 1) < p; }

private:
    uint64_t seed_ = 0;
    std::mt19937_64 engine_;
};

} // namespace rubble::test
