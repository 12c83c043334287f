#include "check/asking.h"

#include "check/walk.h"

namespace rubble::check {

std::optional<Vec3> Asking::settled(const Vec3& at) const {
    motion::Recorder recorder(world_, character_, motion::state_at(world_, character_, at));
    if (!brake(recorder, 120 * 10)) return {};
    return recorder.state().at;
}

int Asking::start_ledge(const Vec3& at) const {
    const auto feet = settled(at);
    return feet ? ground_.ledge_at(*feet, 0.05) : -1;
}

const Reach& Asking::reach_from(const Vec3& at) {
    const int ledge = start_ledge(at);
    const auto known = by_ledge_.find(ledge);
    if (known != by_ledge_.end()) return known->second;
    ReachOptions options;
    options.cancel = cancel_;
    return by_ledge_[ledge] = search_reach(ground_, world_, character_, {ledge}, options);
}

Asking::Answer Asking::ask(const Vec3& from, const Vec3& to) {
    Answer answer = ask(reach_from(from), from, to);
    if (answer.reached != Reached::no || !with_help_) return answer;
    return ask_with_help(reach_from(from), from, to);
}

Asking::Answer Asking::ask_with_help(const Reach& reach, const Vec3& start, const Vec3& to) const {
    ReachOptions options;
    options.cancel = cancel_;
    for (const Spot& spot : spots_of(ground_, character_, to)) options.help_for.push_back(spot.ledge);
    return ask(extended(reach, ground_, world_, character_, options), start, to);
}

Asking::Answer Asking::ask(const Reach& reach, const Vec3& start, const Vec3& to) const {
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
            auto witness = make_witness(ground_, world_, character_, reach, start, spot);
            if (!witness) {
                failed = true;
                continue;
            }
            return {help ? Reached::with_help : Reached::yes, std::move(*witness), spot};
        }
    }
    // A search that was stopped, or a proof that did not replay, decides nothing.
    answer.reached = failed || !reach.complete ? Reached::undecided : Reached::no;
    return answer;
}

} // namespace rubble::check
