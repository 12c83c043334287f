#include "check/play_reach.h"

#include <algorithm>
#include <cmath>

#include "base/tolerance.h"
#include "check/timed_run.h"
#include "check/walk.h"

namespace rubble::check {

using motion::PlayElements;
using motion::PlayState;
using motion::Recorder;

namespace {

/// So many chapters are looked at.
constexpr size_t k_most_chapters = 96;
/// So near to a door one stands before going against it, and so long one goes (metres, steps).
constexpr double k_before_door_m = 0.03;
constexpr int k_against_steps = 60;
/// How often along each side of a door it is tried.
constexpr int k_places_of_a_side = 3;
/// How long one waits for a deck to be gone, beyond its own time (steps).
constexpr int k_falling_steps = 600;
/// Crates this near to where they were are not told apart (metres).
constexpr double k_same_crate_m = 0.25;

/// Whether all that was reached in one chapter is reached in another, as far as it is still there.
bool reaches_as_much(const PlayReach::Chapter& later, const PlayReach::Chapter& before) {
    const auto lost = [&](const Ground& of, int f) {
        const Vec3 at = place_of(of, f);
        const int then = before.open->ground.ledge_at(at, tolerance::feet_m);
        if (then < 0 || !before.reach.tinted(then)) return false;
        const int now = later.open->ground.ledge_at(at, tolerance::feet_m);
        return now >= 0 && !later.reach.tinted(now);
    };
    // What is one in the one may be several in the other.
    for (const Ground* ground : {&before.open->ground, &later.open->ground}) {
        for (int f = 0; f < int(ground->fragments.size()); ++f)
            if (lost(*ground, f)) return false;
        if (later.open == before.open) break;
    }
    return true;
}

} // namespace

bool PlayReach::rode(size_t lift) const {
    const ItemId& id = world_.elements()->lifts[lift].id;
    return std::any_of(used_.begin(), used_.end(), [&](const auto& use) { return std::get<1>(use) == id; });
}

PlayReach::PlayReach(OpenLevels& levels, const Vec3& start, const Cancel& cancel, Take take,
                     const motion::PuzzleState& puzzle)
    : PlayReach(levels, cancel, take, puzzle) {
    PlayState begin = motion::begun_at(world_, character_, start);
    if (take_ == Take::nothing) begin.puzzle = puzzle_;
    Recorder recorder(world_, character_, begin);
    if (!brake(recorder, 120 * 10)) return;
    Way before{recorder.recording(), {}};
    before.recording.start = start;
    begin_with(recorder.play(), std::move(before));
}

PlayReach::PlayReach(OpenLevels& levels, const motion::PlayState& begin, const Witness& before,
                     const Cancel& cancel)
    : PlayReach(levels, cancel, Take::what_matters, {}) {
    begin_with(begin, {before.recording, before.legs});
}

PlayReach::Way PlayReach::Way::with(const motion::Recording& more) const {
    Way out = *this;
    out.recording.append(more);
    return out;
}

PlayReach::PlayReach(OpenLevels& levels, const Cancel& cancel, Take take, const motion::PuzzleState& puzzle)
    : levels_(levels),
      world_(levels.world()),
      character_(levels.character()),
      cancel_(cancel),
      take_(take),
      puzzle_(puzzle) {}

void PlayReach::begin_with(PlayState begin, Way before) {
    add(std::move(begin), std::move(before));
    // What is taken stays taken: where a chapter loses nothing of the one before it, the one before it needs
    // no other way on. The newest goes first, so that the one in which the most is open is looked at before
    // those that it makes needless.
    while (!open_chapters_.empty()) {
        if (cancel_.requested() || chapters_.size() > k_most_chapters) {
            complete_ = false;
            return;
        }
        const size_t next = open_chapters_.back();
        open_chapters_.pop_back();
        if (!is_needless(next)) go_on_from(next);
    }
    for (const auto& [key, what, way] : missed_)
        complete_ =
            complete_ && std::any_of(used_.begin(), used_.end(), [&](const auto& use) {
                return std::get<1>(use) == what && std::get<2>(use) == way && covers(std::get<0>(use), key);
            });
}

bool PlayReach::covers(const Key& more, const Key& less) const {
    const PlayElements& elements = *world_.elements();
    const auto &gone = more.puzzle.gone, &wanted = less.puzzle.gone;
    if (more.waits != less.waits || more.puzzle.moved != less.puzzle.moved ||
        !std::includes(gone.begin(), gone.end(), wanted.begin(), wanted.end()))
        return false;
    for (const PlayElements::Thing& thing : elements.things)
        if (less.puzzle.cells.has(thing.bit) && !more.puzzle.cells.has(thing.bit)) return false;
    for (size_t name = 0; name < elements.keys.size(); ++name)
        if (held(elements, more.puzzle, motion::ThingKind::key, int(name)) <
            held(elements, less.puzzle, motion::ThingKind::key, int(name)))
            return false;
    for (const PlayElements::Press& press : elements.switches) {
        const bool was = less.puzzle.cells.has(press.bit), is = more.puzzle.cells.has(press.bit);
        if (press.mode == motion::PressMode::toggle ? was != is : was && !is) return false;
    }
    return true;
}

bool PlayReach::is_needless(size_t index) const {
    const Key key = key_of(chapters_[index].begin);
    for (size_t other = 0; other < chapters_.size(); ++other) {
        if (other == index) continue;
        const Key more = key_of(chapters_[other].begin);
        if (more != key && covers(more, key) && reaches_as_much(chapters_[other], chapters_[index]))
            return true;
    }
    return false;
}

bool matters(const PlayElements& elements, const PlayElements::Thing& thing) {
    switch (thing.kind) {
    case motion::ThingKind::key:
    case motion::ThingKind::kept_key:
        return std::any_of(elements.doors.begin(), elements.doors.end(),
                           [&](const auto& door) { return door.key == thing.name; });
    case motion::ThingKind::pick_up:
        return std::any_of(elements.doors.begin(), elements.doors.end(),
                           [&](const auto& door) { return door.pick_up == thing.name; });
    case motion::ThingKind::item:
        break;
    }
    return thing.skill ||
           std::any_of(elements.hazards.begin(), elements.hazards.end(),
                       [&](const auto& hazard) { return hazard.without == thing.name; }) ||
           std::any_of(elements.crates.begin(), elements.crates.end(),
                       [&](const auto& crate) { return crate.needs == thing.name; });
}

PlayReach::Key PlayReach::key_of(const PlayState& state) const {
    const PlayElements& elements = *world_.elements();
    Key key{wherever_one_is(elements, state.puzzle), {}};
    for (const PlayElements::Thing& thing : elements.things)
        if (take_ != Take::everything && !matters(elements, thing) && key.puzzle.cells.has(thing.bit))
            key.puzzle.cells.flip(thing.bit);
    for (const PlayElements::Press& press : elements.switches) // where one stands is not what one changed
        if (key.puzzle.cells.has(press.stood_on)) key.puzzle.cells.flip(press.stood_on);
    for (auto& moved : key.puzzle.moved) // pushed to nearly the same place it does not count as elsewhere
        for (int& along : moved) along = int(std::lround(along * motion::moved_unit_m / k_same_crate_m));
    for (size_t i = 0; i < elements.lifts.size(); ++i)
        if (elements.lifts[i].called) key.waits.push_back(elements.lifts[i].course.waits_at(state.clocks[i]));
    return key;
}

int PlayReach::lift_under(const PlayState& state) const {
    const PlayElements& elements = *world_.elements();
    for (size_t i = 0; i < elements.lifts.size(); ++i) {
        motion::Room room = elements.lifts[i].room;
        room.place.at = elements.lifts[i].course.at(state.clocks[i]);
        if (stands_on(room, character_, state.body)) return int(i);
    }
    return -1;
}

bool PlayReach::first_use(size_t chapter, const ItemId& what, int way) {
    return used_.insert({key_of(chapters_[chapter].begin), what, way}).second;
}

bool PlayReach::is_known(const PlayState& now) {
    PlayState state = now;
    if (take_ == Take::nothing) state.puzzle = puzzle_;
    const Key key = key_of(state);
    const int ledge = levels_.like(state.puzzle)->ground.ledge_at(state.body.at, tolerance::feet_m);
    if (ledge < 0) {
        const int lift = lift_under(state);
        return lift < 0 || used_.contains({key, world_.elements()->lifts[size_t(lift)].id, 0});
    }
    const auto same = known_.find(key);
    return same != known_.end() && std::any_of(same->second.begin(), same->second.end(), [&](size_t chapter) {
               return chapters_[chapter].reach.tinted(ledge);
           });
}

void PlayReach::add(PlayState begin, Way before) {
    if (take_ == Take::nothing) begin.puzzle = puzzle_;
    if (!chapters_.empty() && is_known(begin)) return;
    Chapter chapter;
    chapter.open = levels_.like(begin.puzzle);
    chapter.reach = levels_.search(*chapter.open, begin, before.recording);
    complete_ = complete_ && chapter.reach.complete;
    known_[key_of(begin)].push_back(chapters_.size());
    chapter.begin = std::move(begin), chapter.before = std::move(before);
    open_chapters_.push_back(chapters_.size());
    chapters_.push_back(std::move(chapter));
}

void PlayReach::ride_on(size_t index) {
    const PlayElements& elements = *world_.elements();
    for (const motion::Ladder& ladder : elements.fixtures.ladders) climb(index, ladder);
    for (const motion::Launcher& launcher : elements.fixtures.launchers) launch(index, launcher);
    for (size_t i = 0; i < elements.lifts.size(); ++i) ride(index, i);
    for (const PlayElements::Barrier& barrier : elements.barriers)
        if (barrier.one_way) pass(index, barrier);
    for (size_t i = 0; take_ != Take::nothing && i < elements.crates.size(); ++i) push(index, i);
}

void PlayReach::go_on_from(size_t index) {
    const PlayElements& elements = *world_.elements();
    const auto lost_nothing = [&](size_t later) {
        for (size_t i = later; i < chapters_.size(); ++i)
            if (reaches_as_much(chapters_[i], chapters_[index])) return true;
        return false;
    };
    const motion::PuzzleState puzzle = chapters_[index].begin.puzzle;
    if (const int lift = lift_under(chapters_[index].begin); lift >= 0) {
        const PlayState on = chapters_[index].begin;
        const Way way = chapters_[index].before;
        if (first_use(index, elements.lifts[size_t(lift)].id, 0)) leave(on, way, size_t(lift));
    }
    if (take_ == Take::nothing) return ride_on(index);
    for (const PlayElements::Thing& thing : elements.things) {
        if (puzzle.cells.has(thing.bit) || cancel_.requested()) continue;
        if (take_ != Take::everything && !matters(elements, thing)) continue;
        const size_t before = chapters_.size();
        take_at(index, thing.id, thing.at);
        if (lost_nothing(before)) return;
    }
    for (const PlayElements::Press& press : elements.switches) {
        if (press.mode == motion::PressMode::held || puzzle.cells.has(press.stood_on)) continue;
        if (press.mode == motion::PressMode::once && puzzle.cells.has(press.bit)) continue;
        const size_t before = chapters_.size();
        take_at(index, press.id, press.at);
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
    ride_on(index);
    for (const PlayElements::Deck& deck : elements.decks)
        if (deck.gone >= 0 && !puzzle.cells.has(deck.gone)) crumble(index, deck);
    for (const PlayElements::Press& press : elements.switches)
        if (press.mode == motion::PressMode::held) hold(index, press);
}

std::optional<PlayReach::Run> PlayReach::run_to(const From& from, const Spot& spot) const {
    auto chain = levels_.played(*from.open, *from.reach, spot.ledge);
    if (chain.empty() && from.reach->reached(spot.ledge)) {
        // A link is not played from here as it was from elsewhere: what this place reaches is searched anew.
        const Reach anew = levels_.search_anew(*from.open, from.begin, from.before.recording);
        chain = levels_.played(*from.open, anew, spot.ledge);
    }
    if (chain.empty()) return {};
    std::vector<TimedLeg> legs;
    for (size_t i = 1; i < chain.size(); ++i)
        legs.push_back({chain[i]->run, chain[i]->rest.body.at, chain[i]->link, chain[i]->leap_begins});
    Character plain = from.open->character;
    plain.early_press_s = 0;
    if (!chain.back()->helped) plain.late_jump_grace_s = 0;
    Recorder last(*from.open->world, plain, chain.back()->rest);
    if (!walk_to(last, from.open->ground, plain, spot.fragment, spot.at)) return {};
    legs.push_back({last.recording(), last.state().at});
    auto timed = timed_run(world_, character_, from.begin, legs);
    if (!timed) return detour(from, legs, spot);
    Run run;
    run.witness.recording = from.before.recording, run.witness.legs = from.before.legs;
    std::erase_if(run.witness.legs, [](const Witness::Leg& leg) { return !leg.link; });
    const int before = from.before.recording.steps();
    for (size_t i = 1; i < chain.size(); ++i)
        run.witness.legs.push_back({chain[i]->link, before + timed->begins[i - 1] + chain[i]->leap_begins});
    run.witness.recording.append(timed->recording);
    run.witness.legs.push_back({nullptr, before + timed->begins.back()});
    run.witness.end = timed->end.body;
    run.end = std::move(timed->end);
    return run;
}

std::optional<PlayReach::Run> PlayReach::run_to(const Chapter& chapter, const Spot& spot) const {
    return run_to(From{chapter.begin, chapter.before, chapter.open.get(), &chapter.reach}, spot);
}

std::optional<PlayReach::Run> PlayReach::run_to(const Chapter& chapter, const Vec3& place) const {
    Spot spot;
    spot.fragment = chapter.open->ground.locate(place, character_.step_height_m);
    if (spot.fragment < 0) return {};
    spot.at = flat(place), spot.ledge = chapter.open->ground.fragments[size_t(spot.fragment)].ledge;
    if (!chapter.reach.reached(spot.ledge)) return {};
    return run_to(chapter, spot);
}

void PlayReach::take_at(size_t index, const ItemId& id, const Vec3& at) {
    const auto use = std::tuple(key_of(chapters_[index].begin), id, 0);
    int tried = 0;
    for (const Spot& spot : spots_of(chapters_[index].open->ground, character_, at)) {
        if (!chapters_[index].reach.reached(spot.ledge) || ++tried > 2) continue;
        auto run = run_to(chapters_[index], spot);
        if (run && key_of(run->end) == key_of(chapters_[index].begin)) { // a switch that is used
            Recorder using_it(world_, character_, run->end);
            using_it.advance({Vec2(0), false, false, true});
            using_it.advance({});
            run->witness.recording.append(using_it.recording());
            run->end = using_it.play();
        }
        if (!run || key_of(run->end) == key_of(chapters_[index].begin)) continue;
        used_.insert(use);
        return add(run->end, run->way());
    }
    if (tried > 0) missed_.insert(use); // it is there to be had, and no run was found
}

void PlayReach::open_door(size_t index, const PlayElements::Door& door) {
    const auto sides = corners_of(door.room);
    for (size_t side = 0; side < sides.size(); ++side) {
        const Vec2 a = sides[side], b = sides[(side + 1) % sides.size()];
        const Vec2 way = glm::normalize(b - a), out(way.y, -way.x);
        for (int k = 0; k < k_places_of_a_side; ++k) {
            const Vec2 place = a + (b - a) * ((k + 0.5) / k_places_of_a_side) +
                               out * (character_.radius_m + k_before_door_m);
            const auto run = run_to(chapters_[index], raised(place, door.room.place.at.z));
            if (!run) continue;
            Recorder recorder(world_, character_, run->end);
            for (int i = 0; i < k_against_steps && !recorder.play().puzzle.cells.has(door.opened); ++i)
                recorder.advance({-out, false, false, false});
            if (!recorder.play().puzzle.cells.has(door.opened) || !brake(recorder)) continue;
            return add(recorder.play(), run->way().with(recorder.recording()));
        }
    }
}

void PlayReach::crumble(size_t index, const PlayElements::Deck& deck) {
    const Vec3 top = deck.room.place.to_level({0, 0, deck.room.size.z});
    const auto run = run_to(chapters_[index], top);
    if (!run) return;
    try_out(run->end, run->way(), [&](const PlayState& now, int step) -> std::optional<motion::Input> {
        const bool fallen = now.puzzle.cells.has(deck.gone) && now.body.standing;
        if (fallen || step > deck.crumbles_steps + k_falling_steps) return {};
        return motion::Input{};
    });
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
            auto run = run_to(chapter, spot);
            if (!run || !has_thing(*chapter.open->world, run->end.body, character_, to)) {
                answer.decided = false;
                continue;
            }
            answer.reached = answer.decided = true;
            answer.witness = std::move(run->witness), answer.end = std::move(run->end);
            return answer;
        }
    }
    return answer;
}

} // namespace rubble::check
