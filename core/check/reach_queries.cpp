#include "check/reach_queries.h"

namespace rubble::check {

const Reach& ReachQueries::reach_from(const Vec3& at) {
    auto& known = by_start_[key_of(at)];
    if (!known) {
        ReachOptions options;
        options.cancel = cancel_;
        known = std::make_shared<const Reach>(search_reach(searcher_, {at}, options));
    }
    return *known;
}

const PlayReach& ReachQueries::play_from(const Vec3& at) {
    auto& known = plays_[key_of(at)];
    if (!known) known = std::make_unique<const PlayReach>(levels_, at, cancel_);
    return *known;
}

ReachQueries::Answer ReachQueries::ask_in_play(const Vec3& from, const Vec3& to) {
    Answer answer;
    if (cells_) {
        const std::vector<Spot> spots = spots_of(ground_, character_, to);
        if (!spots.empty()) answer.spot = spots[0];
        const auto reached = cells_->reached(from, to);
        if (reached.value_or(false)) answer.witness = cells_->witness(from, to);
        answer.reached = answer.witness ? Reached::yes : reached == false ? Reached::no : Reached::undecided;
        return answer;
    }
    return answer_of(play_from(from).ask(to));
}

ReachQueries::Answer ReachQueries::answer_of(PlayReach::Answer played) {
    Answer answer;
    answer.reached = played.reached ? Reached::yes : played.decided ? Reached::no : Reached::undecided;
    answer.witness = std::move(played.witness), answer.spot = played.spot;
    return answer;
}

ReachQueries::Answer ReachQueries::ask_back(const Vec3& from, const Vec3& to) {
    if (!elements_act()) return ask(to, from);
    if (cells_) {
        Answer answer;
        answer.witness = cells_->way_back(from, to);
        // Another way there may leave another way back.
        answer.reached = answer.witness ? Reached::yes : Reached::undecided;
        return answer;
    }
    PlayReach::Answer there = play_from(from).ask(to);
    if (!there.reached) return answer_of(std::move(there));
    const PlayReach back(levels_, there.end, *there.witness, cancel_);
    return answer_of(back.ask(from));
}

ReachQueries::Answer ReachQueries::ask(const Vec3& from, const Vec3& to) {
    if (elements_act()) return ask_in_play(from, to);
    Answer answer = ask(reach_from(from), to);
    if (answer.reached != Reached::no || !with_help_) return answer;
    return ask_with_help(reach_from(from), to);
}

ReachQueries::Answer ReachQueries::ask_with_help(const Reach& reach, const Vec3& to) const {
    ReachOptions options;
    options.cancel = cancel_;
    for (const Spot& spot : spots_of(ground_, character_, to)) options.help_for.push_back(spot.ledge);
    return ask(extended(reach, ground_, world_, character_, options), to);
}

ReachQueries::Answer ReachQueries::ask(const Reach& reach, const Vec3& to) const {
    Answer answer;
    const std::vector<Spot> spots = spots_of(ground_, character_, to);
    if (!spots.empty()) answer.spot = spots[0];
    bool failed = false;
    for (const bool help : {false, true}) {
        int tried = 0;
        for (const Spot& spot : spots) {
            if (!(help ? reach.reached_with_help(spot.ledge) : reach.reached(spot.ledge)) || tried >= 3)
                continue;
            ++tried;
            auto witness = make_witness(ground_, world_, character_, reach, spot);
            if (!witness || !has_thing(world_, witness->end, character_, to)) {
                failed = true;
                continue;
            }
            return {help ? Reached::with_help : Reached::yes, std::move(*witness), spot};
        }
    }
    for (const Spot& spot : spots) failed |= reach.doubtful[size_t(spot.ledge)];
    // A search that was stopped, or a proof that did not replay, decides nothing.
    answer.reached = failed || !reach.complete ? Reached::undecided : Reached::no;
    return answer;
}

} // namespace rubble::check
