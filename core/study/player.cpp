#include "study/player.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/random.h"
#include "base/tolerance.h"
#include "check/timed_run.h"
#include "check/walk.h"

namespace rubble::study {

using check::Approach;
using check::Hand;
using motion::PlayState;
using motion::Recorder;
using motion::step_s;

namespace {

/// One gives up after so many misses of one leap, or so many times as long as the route takes.
constexpr int k_most_misses = 5;
constexpr double k_most_times = 4;
/// A death is seen for so long before one is back (seconds).
constexpr double k_dead_s = 0.8;
/// The stick is pushed at least so far of what was meant.
constexpr double k_least_stick = 0.2;
/// Played on by the recording where one is no further than this from where it begins (metres).
constexpr double k_same_place_m = 0.05;
/// While one waits for what moves one looks again so often (steps).
constexpr int k_look_steps = 30;

/// Draws from the normal distribution (G. E. P. Box and M. E. Muller, 1958).
class Normal {
public:
    explicit Normal(uint64_t seed) : random_(seed) {}
    double draw(double deviation) {
        const double u = (double(random_.next() >> 11) + 1) * 0x1p-53,
                     v = double(random_.next() >> 11) * 0x1p-53;
        return deviation * std::sqrt(-2 * std::log(u)) * std::cos(2 * std::numbers::pi * v);
    }

private:
    RandomSource random_;
};

class Player {
public:
    Player(const Route& route, const Skill& skill, uint64_t seed, bool with_track)
        : route_(route),
          skill_(skill),
          normal_(seed),
          with_track_(with_track),
          play_(motion::begun_at(route.world(), route.character(), route.begin())),
          back_to_(route.begin()),
          misses_of_(route.links().size(), 0),
          given_up_(route.links().size(), false) {}

    PlayerRun run(const Cancel& cancel) {
        Recorder recorder = here();
        check::brake(recorder);
        take(recorder);
        const double most_s = k_most_times * std::max(route_.seconds(), 1.0);
        while (!cancel.requested() && out_.seconds <= most_s) {
            if (play_.body.dead) {
                put_back();
            } else if (has_goal()) {
                out_.arrived = true;
                break;
            } else if (!(route_.elements_act() || keeps_to_run() ? go_on_along_legs()
                                                                 : go_on_by_quickest())) {
                break;
            }
        }
        end_lost();
        return std::move(out_);
    }

private:
    const check::Ground& ground() const { return route_.ground(); }
    Recorder here() const { return {route_.world(), route_.character(), play_}; }
    int ledge() const { return ground().ledge_at(play_.body.at, tolerance::feet_m); }
    bool has_goal() const {
        return check::has_thing(route_.world(), play_.body, route_.character(), route_.goal());
    }

    /// What was played becomes part of the run.
    void take(const Recorder& recorder) {
        if (with_track_) keep_track(recorder.recording());
        out_.seconds += recorder.recording().seconds();
        play_ = recorder.play();
        for (const Vec3& place : route_.checkpoints())
            if (motion::is_at(route_.world(), route_.character(), play_.body, place)) back_to_ = place;
    }

    void keep_track(const motion::Recording& recording) {
        const int every = int(std::lround(track_s / step_s));
        PlayState state = play_;
        for (const auto& run : recording.runs)
            for (int i = 0; i < run.steps; ++i, ++tracked_) {
                if (tracked_ % every == 0) out_.track.push_back(state.body.at);
                state = motion::step(route_.world(), route_.character(), state, run.input);
            }
    }

    void put_back() {
        out_.seconds += k_dead_s;
        play_ = motion::put_back(route_.world(), route_.character(), play_, back_to_);
        leg_ = 0, lost_way_ = true;
        Recorder recorder = here();
        check::brake(recorder);
        take(recorder);
    }

    void wait(Recorder& recorder, double seconds) const {
        for (int i = int(std::lround(seconds / step_s)); i > 0 && !recorder.state().dead; --i)
            recorder.advance({});
    }
    double reaction() { return std::abs(normal_.draw(skill_.reaction_ms)) / 1000; }
    /// Whoever makes no mistake keeps to the run that is known, in which nothing comes too late.
    bool keeps_to_run() const { return Skill{skill_.name} == skill_; }
    Hand drawn_hand() {
        Hand hand;
        hand.later_steps = int(std::lround(normal_.draw(skill_.press_ms) / 1000 / step_s));
        hand.turn_deg = normal_.draw(skill_.turn_deg);
        hand.stick = std::clamp(1 + normal_.draw(skill_.stick_pct) / 100, k_least_stick, 1.0);
        hand.reaction_steps = std::max(int(std::lround(reaction() / step_s)), 1);
        return hand;
    }

    /// False, and nothing was done, where there is no way over the own ledge.
    bool walk_to(Recorder& recorder, const Vec3& place) const {
        const int fragment = ground().locate(place, route_.character().step_height_m);
        Recorder walked = recorder;
        if (fragment < 0 || !check::walk_to(walked, ground(), route_.character(), fragment, flat(place)))
            return false;
        recorder = std::move(walked);
        return true;
    }

    /// Goes to a link's beginning and leaps, with what hands do; false where one cannot even begin.
    bool leap(int link) {
        const check::Link& one = *route_.links()[size_t(link)];
        Recorder recorder = here();
        wait(recorder, reaction());
        const Approach* best = route_.approach(link);
        std::optional<Approach> approach;
        if (best && !keeps_to_run() && walk_to(recorder, best->begin))
            approach = *best;
        else if (glm::length(play_.body.at - one.start) < k_same_place_m || walk_to(recorder, one.start))
            approach = check::as_recorded(one);
        if (!approach) return false;
        end_lost();
        check::leap(recorder, route_.character(), one, *approach, drawn_hand());
        take(recorder);
        if (!play_.body.dead && ledge() == one.to) return true;
        out_.misses.push_back({link, play_.body.at, play_.body.dead, 0});
        missed_at_s_ = out_.seconds, missed_ = true;
        return ++misses_of_[size_t(link)] < k_most_misses;
    }

    /// What the last miss cost is known as soon as the next leap is tried, or by the end.
    void end_lost() {
        if (!missed_) return;
        out_.misses.back().lost_s = out_.seconds - missed_at_s_;
        missed_ = false;
    }

    /// Where elements do not act: the quickest way to the goal from wherever one is.
    bool go_on_by_quickest() {
        const auto next =
            route_.graph().next(route_.towards_goal(), ledge(), flat(play_.body.at), &given_up_);
        if (!next) return false;
        if (next->link >= 0) {
            const size_t misses = out_.misses.size();
            const bool went = leap(next->link);
            if (!went && out_.misses.size() == misses) { // one cannot begin it from here: another way
                given_up_[size_t(next->link)] = true;
                return true;
            }
            return went;
        }
        Recorder recorder = here();
        wait(recorder, reaction());
        const auto spots = check::spots_of(ground(), route_.character(), route_.goal());
        for (const check::Spot& spot : spots) {
            Recorder walked = recorder;
            if (spot.ledge != ledge() ||
                !check::walk_to(walked, ground(), route_.character(), spot.fragment, spot.at))
                continue;
            take(walked);
            return has_goal();
        }
        return false;
    }

    /// Where elements act: the legs of the run that is known, one after the other; whoever fell off it looks
    /// for the latest leg that begins on the ledge where one is, else for the quickest way to the one that
    /// was missed.
    bool go_on_along_legs() {
        if (lost_way_ && !find_way_again()) return false;
        const Route::Leg& leg = route_.legs()[leg_];
        Recorder recorder = here();
        if (!is_at_begin(leg) && !walk_to(recorder, leg.begin.body.at)) return false;
        take(walked_in_time(recorder, leg));
        if (play_.body.dead) {
            out_.misses.push_back({route_.link_of(leg_), play_.body.at, true, 0});
            missed_at_s_ = out_.seconds, missed_ = true;
            return ++deaths_ < k_most_misses;
        }
        if (leg_ + 1 == route_.legs().size()) return has_goal();
        const int link = route_.link_of(leg_);
        const size_t misses = out_.misses.size();
        const bool went = link >= 0 && leap(link);
        if (went && out_.misses.size() == misses)
            ++leg_;
        else
            lost_way_ = true;
        furthest_ = std::max(furthest_, leg_);
        return went;
    }

    bool is_at_begin(const Route::Leg& leg) const {
        return play_.body.at == leg.begin.body.at && play_.puzzle == leg.begin.puzzle &&
               play_.clocks == leg.begin.clocks;
    }

    /// The leg's walk, after waiting for what moves until it leads there, as somebody does who looks; where
    /// it never does, without waiting.
    Recorder walked_in_time(const Recorder& from, const Route::Leg& leg) const {
        const auto gone = [&](Recorder recorder) {
            for (const motion::Input& input : leg.walk) recorder.advance(input);
            return recorder;
        };
        const auto is_there = [&](const motion::State& s) {
            return !s.dead && s.standing &&
                   (!leg.link || glm::length(s.at - leg.link->start) < k_same_place_m);
        };
        const Recorder at_once = gone(from);
        Recorder waiting = from;
        const auto& elements = route_.world().elements();
        const int most = elements && elements->timed() ? check::longest_course(route_.world()) : 0;
        for (int waited = 0; waited <= most; waited += k_look_steps) {
            Recorder walked = waited == 0 ? at_once : gone(waiting);
            if (is_there(walked.state())) return walked;
            for (int i = 0; i < k_look_steps; ++i) waiting.advance({});
        }
        return at_once;
    }

    bool find_way_again() {
        lost_way_ = false;
        for (int tries = 0; tries < k_most_misses * 4; ++tries) {
            const int own = ledge();
            for (size_t leg = furthest_ + 1; leg-- > 0;)
                if (own >= 0 &&
                    ground().ledge_at(route_.legs()[leg].begin.body.at, tolerance::feet_m) == own) {
                    leg_ = leg;
                    return true;
                }
            const Vec3& wanted = route_.legs()[leg_].begin.body.at;
            const auto towards =
                route_.graph().towards(ground().ledge_at(wanted, tolerance::feet_m), flat(wanted));
            const auto next = route_.graph().next(towards, own, flat(play_.body.at));
            if (!next || next->link < 0 || !leap(next->link) || play_.body.dead) return false;
        }
        return false;
    }

    const Route& route_;
    const Skill& skill_;
    Normal normal_;
    const bool with_track_;
    PlayState play_;
    Vec3 back_to_;
    PlayerRun out_;
    std::vector<int> misses_of_;
    std::vector<bool> given_up_;
    size_t leg_ = 0, furthest_ = 0;
    int tracked_ = 0, deaths_ = 0;
    double missed_at_s_ = 0;
    bool missed_ = false, lost_way_ = false;
};

} // namespace

PlayerRun player_run(const Route& route, const Skill& skill, uint64_t seed, bool with_track,
                     const Cancel& cancel) {
    return Player(route, skill, seed, with_track).run(cancel);
}

} // namespace rubble::study
