#pragma once

#include <map>
#include <memory>
#include <mutex>
#include <tuple>

#include "check/arrival.h"

namespace rubble::check {

/// Where walks on wide ledges set out from. Leaps of a wide ledge begin all over it, and each of them would
/// be walked to from where the ledge was arrived at: with n boxes on a floor n walks as long as the floor. So
/// the way to each square of a ledge is walked once, to a station there, and all leaps of that square are
/// walked to from its station. For one search: a ledge is arrived at in one way. May be asked from several
/// threads.
class Stations {
public:
    Stations(const Ground& ground, const motion::World& world, const Character& character)
        : ground_(ground),
          world_(world),
          character_(character) {}

    /// The walk from where a ledge was arrived at as far as the station of the square of `to`, or no more
    /// than its begin where `to` is near, or no station is there.
    motion::Recorder set_out(const Arrival& before, int ledge, const Vec3& to);

private:
    struct Station {
        std::once_flag walked;
        std::optional<motion::Recorder> walk; ///< none where nobody can get there
    };
    void walk_to_station(Station& station, const Arrival& before, int ledge, Vec2 middle) const;

    const Ground& ground_;
    const motion::World& world_;
    const Character& character_;
    std::mutex guard_;
    std::map<std::tuple<int, int, int>, std::shared_ptr<Station>> stations_; ///< by ledge and square
};

} // namespace rubble::check
