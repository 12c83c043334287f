#pragma once

#include <map>
#include <memory>
#include <optional>

#include "check/witness.h"
#include "solve/cell_reach.h"

namespace rubble::check {

/// Answers about where one gets to by cells where elements act: every state of play is gone through.
class CellAnswers {
public:
    CellAnswers(const motion::World& world, const Character& character, const Cancel& cancel)
        : world_(world),
          character_(character),
          cancel_(cancel) {}

    /// The cell of a place; -1 outside the level.
    int cell_of(const Vec3& at) const;
    /// Whether one gets from a place to another; nothing where it could not be decided.
    std::optional<bool> reached(const Vec3& from, const Vec3& to);
    /// The run from a place to another that is reached.
    std::optional<Witness> witness(const Vec3& from, const Vec3& to);
    /// The run from a place to another and back, with what was changed on the way there; nothing where that
    /// run leaves no way back.
    std::optional<Witness> way_back(const Vec3& from, const Vec3& to);
    /// The cells that one comes to from a place on, by their numbers.
    std::vector<bool> cells_from(const Vec3& from);

    /// For each cell how many things have to be taken, pressed or opened on the way from a place, the fewest;
    /// -1 where one does not come there.
    std::vector<int> events_from(const Vec3& from);

private:
    solve::CellReach& reach_from(const Vec3& at);

    const motion::World& world_;
    const Character& character_;
    Cancel cancel_;
    std::map<int, std::unique_ptr<solve::CellReach>> by_start_;
};

/// Letters played by a recorder as a hand would; false where the figure dies or does not move.
bool play_letters(motion::Recorder& recorder, const motion::World& world, const std::string& letters);

} // namespace rubble::check
