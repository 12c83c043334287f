#include "check/play_reach.h"

#include <algorithm>

#include "base/tolerance.h"
#include "check/walk.h"

namespace rubble::check {

using motion::PlayElements;
using motion::PlayState;
using motion::Recorder;

namespace {

/// So many chapters are looked at.
constexpr size_t k_most_chapters = 64;
/// So near to a door one stands before going against it, and so long one goes (metres, steps).
constexpr double k_before_door_m = 0.03;
constexpr int k_against_steps = 60;
/// How often along each side of a door it is tried.
constexpr int k_places_of_a_side = 3;

/// Whether all that was reached in one chapter is reached in another, as far as it is still there.
bool reaches_as_much(const PlayReach::Chapter& later, const PlayReach::Chapter& before) {
    for (int ledge = 0; ledge < int(before.open->ground.ledges.size()); ++ledge) {
        if (!before.reach.tinted(ledge)) continue;
        const auto& fragments = before.open->ground.ledges[size_t(ledge)].fragments;
        const int f = fragments.empty() ? -1 : fragments[0];
        if (f < 0) continue;
        const Box2& box = before.open->ground.fragments[size_t(f)].box;
        const Vec2 middle =
            geometry::nearest(before.open->ground.fragments[size_t(f)].area, (box.low + box.high) * 0.5);
        const Vec3 at = raised(middle, before.open->ground.feet_at(f, middle));
        const int there = later.open->ground.ledge_at(at, tolerance::feet_m);
        if (there >= 0 && !later.reach.tinted(there)) return false;
    }
    return true;
}

} // namespace

PlayReach::PlayReach(const motion::World& world, const Character& character, const Vec3& start,
                     const Cancel& cancel)
    : world_(world),
      character_(character),
      start_(start),
      cancel_(cancel) {
    Recorder recorder(world, character, motion::begun_at(world, character, start));
    if (!brake(recorder, 120 * 10)) return;
    motion::Recording before = recorder.recording();
    before.start = start;
    add(recorder.play(), std::move(before));
    // What is taken stays taken: where a chapter loses nothing of the one before it, the one before it needs
    // no other way on.
    for (size_t i = 0; i < chapters_.size(); ++i) {
        if (cancel_.requested() || chapters_.size() > k_most_chapters) {
            complete_ = false;
            return;
        }
        go_on_from(i);
    }
}

std::shared_ptr<const PlayReach::Open> PlayReach::open_with(const std::vector<motion::SourceId>& gone) {
    auto& known = opens_[gone];
    if (!known) {
        auto open = std::make_shared<Open>();
        open->world = &world_.without(gone);
        open->ground = ground_of(*open->world, character_, cancel_);
        open->searcher = std::make_unique<LeapSearch>(open->ground, *open->world, character_);
        known = std::move(open);
    }
    return known;
}

void PlayReach::add(PlayState begin, motion::Recording before) {
    if (!known_.try_emplace(begin.puzzle, chapters_.size()).second) return;
    Chapter chapter;
    chapter.open = open_with(begin.puzzle.gone);
    Arrival arrival;
    arrival.run = before;
    arrival.rest = {begin.body, {}, 0};
    ReachOptions options;
    options.cancel = cancel_;
    chapter.reach = search_reach(*chapter.open->searcher, std::move(arrival), options);
    complete_ = complete_ && chapter.reach.complete;
    chapter.begin = std::move(begin), chapter.before = std::move(before);
    chapters_.push_back(std::move(chapter));
}

void PlayReach::go_on_from(size_t index) {
    const PlayElements& elements = *world_.elements();
    const auto lost_nothing = [&](size_t later) {
        for (size_t i = later; i < chapters_.size(); ++i)
            if (reaches_as_much(chapters_[i], chapters_[index])) return true;
        return false;
    };
    const motion::PuzzleState puzzle = chapters_[index].begin.puzzle;
    for (const PlayElements::Thing& thing : elements.things) {
        if (puzzle.cells.has(thing.bit) || cancel_.requested()) continue;
        const size_t before = chapters_.size();
        take_at(index, thing.at);
        if (lost_nothing(before)) return;
    }
    for (const PlayElements::Press& press : elements.switches) {
        if (press.mode == motion::PressMode::held || puzzle.cells.has(press.stood_on)) continue;
        if (press.mode == motion::PressMode::once && puzzle.cells.has(press.bit)) continue;
        const size_t before = chapters_.size();
        take_at(index, press.at);
        // One that goes on and off may close what was open, and is not left behind.
        if (press.mode == motion::PressMode::once && lost_nothing(before)) return;
    }
    for (size_t d = 0; d < elements.doors.size(); ++d) {
        const PlayElements::Door& door = elements.doors[d];
        if (door.key < 0 || is_open(elements, puzzle, int(d)) || cancel_.requested()) continue;
        const int keys = held(elements, puzzle, motion::ThingKind::key, door.key);
        if (keys <= 0) continue;
        const size_t before = chapters_.size();
        open_door(index, door);
        // A key that is used up may be wanted elsewhere.
        const bool spent = chapters_.size() > before && held(elements, chapters_.back().begin.puzzle,
                                                             motion::ThingKind::key, door.key) < keys;
        if (!spent && lost_nothing(before)) return;
    }
}

tl::expected<Witness, WitnessFault> PlayReach::run_to(const Chapter& chapter, const Spot& spot) const {
    return make_witness(chapter.open->ground, *chapter.open->world, character_, chapter.reach, spot, &world_);
}

PlayState PlayReach::played(const motion::Recording& recording) const {
    PlayState state = motion::begun_at(world_, character_, recording.start);
    for (const motion::Recording::Run& run : recording.runs)
        for (int i = 0; i < run.steps; ++i) state = step(world_, character_, state, run.input);
    return state;
}

void PlayReach::take_at(size_t index, const Vec3& at) {
    int tried = 0;
    for (const Spot& spot : spots_of(chapters_[index].open->ground, character_, at)) {
        if (!chapters_[index].reach.reached(spot.ledge) || ++tried > 2) continue;
        const auto witness = run_to(chapters_[index], spot);
        if (!witness) continue;
        PlayState there = played(witness->recording);
        if (there.body.dead || there.puzzle == chapters_[index].begin.puzzle) continue;
        return add(std::move(there), witness->recording);
    }
}

void PlayReach::open_door(size_t index, const PlayElements::Door& door) {
    const auto sides = corners_of(door.room);
    const std::shared_ptr<const Open> open = chapters_[index].open;
    for (size_t side = 0; side < sides.size(); ++side) {
        const Vec2 a = sides[side], b = sides[(side + 1) % sides.size()];
        const Vec2 way = glm::normalize(b - a), out(way.y, -way.x);
        for (int k = 0; k < k_places_of_a_side; ++k) {
            const Vec2 place = a + (b - a) * ((k + 0.5) / k_places_of_a_side) +
                               out * (character_.radius_m + k_before_door_m);
            Spot spot;
            spot.fragment =
                open->ground.locate(raised(place, door.room.place.at.z), character_.step_height_m);
            if (spot.fragment < 0) continue;
            spot.at = place, spot.ledge = open->ground.fragments[size_t(spot.fragment)].ledge;
            if (!chapters_[index].reach.reached(spot.ledge)) continue;
            const auto witness = run_to(chapters_[index], spot);
            if (!witness) continue;
            Recorder recorder(world_, character_, played(witness->recording));
            for (int i = 0; i < k_against_steps && !recorder.play().puzzle.cells.has(door.opened); ++i)
                recorder.advance({-out, false, false, false});
            if (!recorder.play().puzzle.cells.has(door.opened) || !brake(recorder)) continue;
            motion::Recording whole = witness->recording;
            whole.append(recorder.recording());
            return add(recorder.play(), std::move(whole));
        }
    }
}

PlayReach::Answer PlayReach::ask(const Vec3& to) const {
    Answer answer;
    answer.decided = complete_;
    for (const Chapter& chapter : chapters_) {
        const std::vector<Spot> spots = spots_of(chapter.open->ground, character_, to);
        if (!spots.empty() && answer.spot.fragment < 0) answer.spot = spots[0];
        int tried = 0;
        for (const Spot& spot : spots) {
            if (chapter.reach.doubtful[size_t(spot.ledge)]) answer.decided = false;
            if (!chapter.reach.reached(spot.ledge) || ++tried > 3) continue;
            auto witness = run_to(chapter, spot);
            if (!witness || !has_thing(*chapter.open->world, witness->end, character_, to)) {
                answer.decided = false;
                continue;
            }
            answer.reached = answer.decided = true;
            answer.witness = std::move(*witness);
            return answer;
        }
    }
    return answer;
}

} // namespace rubble::check
