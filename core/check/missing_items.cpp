#include "check/missing_items.h"

#include <algorithm>

#include "check/reach_queries.h"
#include "level/element_values.h"
#include "solve/cell_reach.h"

namespace rubble::check {

namespace {

using motion::PlayElements;

/// More barriers than this are not told apart.
constexpr size_t k_most_barriers = 12;

class Missing {
public:
    Missing(ReachQueries& queries, const Level& level, const Bands& bands, const Vec3& from)
        : queries_(queries),
          level_(level),
          elements_(*queries.world().elements()),
          puzzle_(bands.last),
          from_(from) {}

    std::optional<Sentences> run(const ItemId& to, const Vec3& to_at) {
        std::vector<motion::SourceId> barriers;
        for (const PlayElements::Door& door : elements_.doors) note(barriers, door.source());
        for (const PlayElements::Hazard& hazard : elements_.hazards)
            if (hazard.without >= 0) note(barriers, hazard.source());
        if (barriers.empty() || barriers.size() > k_most_barriers || !reaches(barriers, to_at)) return {};
        // Those without which it goes too are not in the way.
        for (size_t i = 0; i < barriers.size();) {
            std::vector<motion::SourceId> fewer = barriers;
            fewer.erase(fewer.begin() + std::ptrdiff_t(i));
            if (reaches(fewer, to_at))
                barriers = std::move(fewer);
            else
                ++i;
        }
        Sentences out;
        for (const motion::SourceId& barrier : barriers) tell(out, to, barrier, barriers);
        return out;
    }

private:
    void note(std::vector<motion::SourceId>& barriers, const motion::SourceId& source) const {
        if (std::find(puzzle_.gone.begin(), puzzle_.gone.end(), source) == puzzle_.gone.end())
            barriers.push_back(source);
    }

    bool reaches(const std::vector<motion::SourceId>& open, const Vec3& at) {
        motion::PuzzleState puzzle = puzzle_;
        for (const motion::SourceId& source : open) puzzle = motion::without(std::move(puzzle), source);
        const PlayReach reach(queries_.levels(), from_, queries_.cancel(), PlayReach::Take::nothing, puzzle);
        for (const PlayReach::Chapter& chapter : reach.chapters())
            for (const Spot& spot : spots_of(chapter.open->ground, queries_.character(), at))
                if (chapter.reach.reached(spot.ledge)) return true;
        return false;
    }

    /// Whether something lies where one gets only with barriers out of the way.
    void tell_where(Sentences& out, const motion::PlayElements::Thing& thing,
                    const std::vector<motion::SourceId>& barriers) {
        if (!reaches({}, thing.at) && reaches(barriers, thing.at))
            out.push_back({"%1 lies behind it too.", {thing.id}});
    }

    void tell(Sentences& out, const ItemId& to, const motion::SourceId& barrier,
              const std::vector<motion::SourceId>& barriers) {
        const Item* item = find_item(level_, barrier.item);
        if (!item || !item->element()) return;
        const Element& element = *item->element();
        for (const PlayElements::Hazard& hazard : elements_.hazards) {
            if (hazard.id != barrier.item) continue;
            const std::string& name = elements_.items[size_t(hazard.without)];
            out.push_back({"%1 is behind %2, which wants %3.", {to, item->id, name}});
            for (const PlayElements::Thing& thing : elements_.things)
                if (thing.kind == motion::ThingKind::item && thing.name == hazard.without)
                    tell_where(out, thing, barriers);
        }
        for (const PlayElements::Door& door : elements_.doors) {
            if (door.id != barrier.item) continue;
            if (door.key >= 0) {
                const std::string& name = elements_.keys[size_t(door.key)];
                out.push_back({"%1 is behind %2, which needs a %3 key.", {to, item->id, name}});
                for (const PlayElements::Thing& thing : elements_.things)
                    if (thing.kind != motion::ThingKind::pick_up && thing.kind != motion::ThingKind::item &&
                        thing.name == door.key)
                        tell_where(out, thing, barriers);
            } else if (door.pick_up >= 0) {
                out.push_back({"%1 is behind %2, which opens at %3 of %4.",
                               {to, item->id, std::to_string(door.count), text_of(element, "pickup")}});
            } else {
                out.push_back({"%1 is behind %2, and no switch that opens it is got to.", {to, item->id}});
            }
        }
    }

    ReachQueries& queries_;
    const Level& level_;
    const PlayElements& elements_;
    const motion::PuzzleState& puzzle_;
    const Vec3 from_;
};

} // namespace

std::optional<Sentences> missing_items(ReachQueries& queries, const Level& level, const Bands& bands,
                                       const Vec3& from, const ItemId& to, const Vec3& to_at) {
    if (!queries.world().elements()) return {};
    return Missing(queries, level, bands, from).run(to, to_at);
}

namespace {

/// States that each question goes through at most.
constexpr size_t k_most_asked_states = 20'000;

/// A door, or a kind of item without which floors and hazards are deadly.
struct CellBarrier {
    int door = -1, item = -1;
};

/// Barriers by cells are taken out of the way one after the other.
class MissingByCells {
public:
    MissingByCells(const motion::CellPuzzle& puzzle, int from, int cell)
        : puzzle_(puzzle),
          from_(from),
          cell_(cell) {}

    std::optional<Sentences> run(const ItemId& to) {
        std::vector<CellBarrier> barriers;
        for (size_t i = 0; i < puzzle_.doors.size(); ++i) barriers.push_back({int(i), -1});
        for (size_t i = 0; i < puzzle_.items.size(); ++i) barriers.push_back({-1, int(i)});
        if (barriers.empty() || barriers.size() > k_most_barriers || !reaches(barriers, cell_)) return {};
        for (size_t i = 0; i < barriers.size();) {
            std::vector<CellBarrier> fewer = barriers;
            fewer.erase(fewer.begin() + std::ptrdiff_t(i));
            if (reaches(fewer, cell_))
                barriers = std::move(fewer);
            else
                ++i;
        }
        if (barriers.empty()) return {};
        Sentences out;
        for (const CellBarrier& barrier : barriers) tell(out, to, barrier, barriers);
        return out;
    }

private:
    bool reaches(const std::vector<CellBarrier>& gone, int cell) const {
        motion::CellPuzzle open = puzzle_;
        open.start.figure = uint16_t(from_);
        for (const CellBarrier& barrier : gone) {
            if (barrier.door >= 0) {
                for (const int c : open.doors[size_t(barrier.door)].cells) open.floor[size_t(c)].door = -1;
                continue;
            }
            for (auto& floor : open.floor) {
                if (floor.deadly && floor.deadly_without == barrier.item) floor.deadly = false;
                if (floor.hazard && floor.hazard_without == barrier.item) floor.hazard = false;
            }
        }
        return solve::CellReach(open, open.start, k_most_asked_states).reached(cell);
    }

    void tell_where(Sentences& out, const motion::CellPuzzle::Thing& thing,
                    const std::vector<CellBarrier>& barriers) const {
        if (!reaches({}, thing.cell) && reaches(barriers, thing.cell))
            out.push_back({"%1 lies behind it too.", {thing.id}});
    }

    void tell(Sentences& out, const ItemId& to, const CellBarrier& barrier,
              const std::vector<CellBarrier>& barriers) const {
        if (barrier.item >= 0) {
            out.push_back({"%1 is behind ground that wants %2.", {to, puzzle_.items[size_t(barrier.item)]}});
            for (const auto& thing : puzzle_.things)
                if (thing.kind == motion::ThingKind::item && thing.name == barrier.item)
                    tell_where(out, thing, barriers);
            return;
        }
        const motion::CellPuzzle::Door& door = puzzle_.doors[size_t(barrier.door)];
        if (door.key >= 0) {
            out.push_back(
                {"%1 is behind %2, which needs a %3 key.", {to, door.id, puzzle_.keys[size_t(door.key)]}});
            for (const auto& thing : puzzle_.things)
                if ((thing.kind == motion::ThingKind::key || thing.kind == motion::ThingKind::kept_key) &&
                    thing.name == door.key)
                    tell_where(out, thing, barriers);
        } else if (door.pick_up >= 0) {
            out.push_back(
                {"%1 is behind %2, which opens at %3 of %4.",
                 {to, door.id, std::to_string(door.count), puzzle_.pick_ups[size_t(door.pick_up)]}});
        } else {
            out.push_back({"%1 is behind %2, and no switch that opens it is got to.", {to, door.id}});
        }
    }

    const motion::CellPuzzle& puzzle_;
    const int from_, cell_;
};

} // namespace

std::optional<Sentences> missing_items_by_cells(const motion::CellPuzzle& puzzle, int from, const ItemId& to,
                                                int cell) {
    if (from < 0 || cell < 0) return {};
    return MissingByCells(puzzle, from, cell).run(to);
}

} // namespace rubble::check
