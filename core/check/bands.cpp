#include "check/bands.h"

#include <algorithm>
#include <map>

#include "base/tolerance.h"
#include "check/reach_queries.h"

namespace rubble::check {

namespace {

using motion::PlayElements;

/// So many bands are told apart.
constexpr int k_most_bands = 12;

/// Freely: one round of taking all that is to be had after the other.
class Rounds {
public:
    explicit Rounds(ReachQueries& queries)
        : queries_(queries),
          elements_(*queries.world().elements()),
          character_(queries.character()),
          ground_(queries.ground()) {
        out_.of_ledge.assign(ground_.ledges.size(), -1);
    }

    Bands run(const std::vector<Vec3>& starts) {
        if (starts.empty()) return out_;
        motion::PuzzleState puzzle = motion::begun_at(queries_.world(), character_, starts[0]).puzzle;
        std::vector<ItemId> after;
        for (int round = 0; round < k_most_bands && !queries_.cancel().requested(); ++round) {
            std::vector<std::unique_ptr<PlayReach>> reaches;
            for (const Vec3& start : starts)
                reaches.push_back(std::make_unique<PlayReach>(queries_.levels(), start, queries_.cancel(),
                                                              PlayReach::Take::nothing, puzzle));
            if (mark(reaches)) {
                out_.after.push_back(std::move(after));
                after.clear();
            }
            const auto fresh = take(reaches, puzzle);
            if (fresh.empty()) break;
            after.insert(after.end(), fresh.begin(), fresh.end());
            puzzle.gone = motion::gone_by(elements_, puzzle);
        }
        out_.last = std::move(puzzle);
        return std::move(out_);
    }

private:
    using Reaches = std::vector<std::unique_ptr<PlayReach>>;

    /// Calls `visit(chapter)` for each chapter.
    void each(const Reaches& reaches, const auto& visit) const {
        for (const auto& reach : reaches)
            for (const PlayReach::Chapter& chapter : reach->chapters()) visit(chapter);
    }

    /// Marks what is got to for the first time; false where nothing is.
    bool mark(const Reaches& reaches) {
        bool any = false;
        const int band = int(out_.after.size());
        const auto set = [&](int ledge) {
            if (ledge >= 0 && out_.of_ledge[size_t(ledge)] < 0)
                out_.of_ledge[size_t(ledge)] = band, any = true;
        };
        each(reaches, [&](const PlayReach::Chapter& chapter) {
            const Ground& then = chapter.open->ground;
            for (int f = 0; f < int(then.fragments.size()); ++f)
                if (chapter.reach.tinted(then.fragments[size_t(f)].ledge))
                    set(ground_.ledge_at(place_of(then, f), tolerance::feet_m));
            for (int f = 0; f < int(ground_.fragments.size()); ++f)
                if (chapter.reach.tinted(then.ledge_at(place_of(ground_, f), tolerance::feet_m)))
                    set(ground_.fragments[size_t(f)].ledge);
        });
        return any;
    }

    bool is_had(const Reaches& reaches, const Vec3& at) const {
        bool had = false;
        each(reaches, [&](const PlayReach::Chapter& chapter) {
            for (const Spot& spot : spots_of(chapter.open->ground, character_, at))
                had = had || chapter.reach.reached(spot.ledge);
        });
        return had;
    }

    /// Whether somebody gets before a door.
    bool is_met(const Reaches& reaches, const PlayElements::Door& door) const {
        const double before_m = character_.radius_m + tolerance::feet_m;
        bool met = false;
        each(reaches, [&](const PlayReach::Chapter& chapter) {
            const Ground& ground = chapter.open->ground;
            const auto sides = corners_of(door.room);
            for (size_t side = 0; side < sides.size(); ++side) {
                const Vec2 a = sides[side], b = sides[(side + 1) % sides.size()];
                const Vec2 way = glm::normalize(b - a), out(way.y, -way.x);
                const Vec3 place = raised((a + b) * 0.5 + out * before_m, door.room.place.at.z);
                const int f = ground.locate(place, character_.step_height_m);
                met = met || (f >= 0 && chapter.reach.reached(ground.fragments[size_t(f)].ledge));
            }
        });
        return met;
    }

    /// Takes, presses and opens all that is to be had; gives what that was.
    std::vector<ItemId> take(const Reaches& reaches, motion::PuzzleState& puzzle) const {
        std::vector<ItemId> fresh;
        for (const PlayElements::Thing& thing : elements_.things)
            if (!puzzle.cells.has(thing.bit) && matters(elements_, thing) && is_had(reaches, thing.at))
                puzzle.cells.set(thing.bit), fresh.push_back(thing.id);
        for (const PlayElements::Press& press : elements_.switches)
            if (press.mode != motion::PressMode::held && !puzzle.cells.has(press.bit) &&
                is_had(reaches, press.at))
                puzzle.cells.set(press.bit), fresh.push_back(press.id);
        for (size_t d = 0; d < elements_.doors.size(); ++d) {
            const PlayElements::Door& door = elements_.doors[d];
            if (door.key < 0 || is_open(elements_, puzzle, int(d)) || !is_met(reaches, door) ||
                held(elements_, puzzle, motion::ThingKind::key, door.key) <= 0)
                continue;
            puzzle.cells.set(door.opened); // which of several a key is used up by is not decided here
            fresh.push_back(door.id);
        }
        return fresh;
    }

    ReachQueries& queries_;
    const PlayElements& elements_;
    const Character& character_;
    const Ground& ground_;
    Bands out_;
};

Bands by_cells(ReachQueries& queries, const std::vector<Vec3>& starts) {
    const Ground& ground = queries.ground();
    Bands out;
    out.of_ledge.assign(ground.ledges.size(), -1);
    std::map<int, int> fewest; // by ledges
    for (const Vec3& start : starts) {
        const std::vector<int> events = queries.by_cells().events_from(start);
        for (size_t cell = 0; cell < events.size(); ++cell) {
            const int f = ground.fragment_of_cell[cell];
            if (f < 0 || events[cell] < 0) continue;
            const auto [known, is_new] = fewest.try_emplace(ground.fragments[size_t(f)].ledge, events[cell]);
            if (!is_new) known->second = std::min(known->second, events[cell]);
        }
    }
    std::vector<int> steps;
    for (const auto& [ledge, count] : fewest) steps.push_back(count);
    std::sort(steps.begin(), steps.end());
    steps.erase(std::unique(steps.begin(), steps.end()), steps.end());
    if (steps.size() > size_t(k_most_bands)) steps.resize(size_t(k_most_bands));
    for (const auto& [ledge, count] : fewest)
        out.of_ledge[size_t(ledge)] = int(std::min<size_t>(
            size_t(std::lower_bound(steps.begin(), steps.end(), count) - steps.begin()), steps.size() - 1));
    out.after.resize(steps.size());
    return out;
}

} // namespace

Bands bands_of(ReachQueries& queries, const std::vector<Vec3>& starts) {
    return queries.world().moving().puzzle ? by_cells(queries, starts) : Rounds(queries).run(starts);
}

} // namespace rubble::check
