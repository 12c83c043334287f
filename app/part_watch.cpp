#include "part_watch.h"

#include <algorithm>

#include "check/check.h"
#include "edit/part_uses.h"

namespace rubble::app {

PartWatch::PartWatch(Session& session, QObject* parent)
    : QObject(parent),
      session_(session),
      jobs_([this](const Job& job, uint64_t number, const Cancel& cancel) { run(job, number, cancel); }) {
    qRegisterMetaType<Failing>();
    connect(this, &PartWatch::judged, this, &PartWatch::take);
    connect(&session_, &Session::levelChanged, this, &PartWatch::follow);
    connect(&session_, &Session::documentOpened, this, &PartWatch::follow);
}

void PartWatch::follow() {
    const Document& document = session_.document();
    const OpenLevel& shown = document.levels[session_.documents().level_index()];
    const std::string part = shown.assembly + shown.kit + "/" + shown.piece;
    if (!shown.is_part()) {
        jobs_.drop();
        part_.clear();
        return;
    }
    if (part != part_)
        part_ = part, at_first_.reset();
    else if (of_ && of_->is(document.project))
        return; // something is being dragged, or a level was looked at
    of_ = document.project;
    PartEffects effects;
    Job job{document, {}};
    const std::vector<int> uses = edit::uses_of_part(document, shown);
    for (size_t i = 0; i < uses.size(); ++i) {
        effects.places += uses[i], effects.levels += uses[i] > 0;
        if (uses[i] > 0) job.levels.push_back(i);
    }
    effects.broken = session_.part_effects().broken; // until it is known better
    session_.set_part_effects(std::move(effects));
    request_ = jobs_.ask(std::move(job));
}

void PartWatch::take(quint64 request, const Failing& failing) {
    if (request != request_ || part_.empty()) return;
    if (!at_first_) at_first_ = failing;
    PartEffects effects = session_.part_effects();
    effects.broken.clear(), effects.judged = true;
    for (const auto& [level, id] : failing) {
        if (at_first_->contains({level, id}) || level >= session_.document().levels.size()) continue;
        const Level& of = *session_.document().levels[level].level;
        const auto claim = std::find_if(of.claims.begin(), of.claims.end(),
                                        [&, id = id](const Claim& one) { return one.id.value == id; });
        if (claim == of.claims.end()) continue;
        const std::string& name = claim->name.empty() ? id : claim->name;
        effects.broken.push_back(
            {level, claim->id,
             tr("%1, in %2").arg(QString::fromStdString(name), QString::fromStdString(of.name))});
    }
    session_.set_part_effects(std::move(effects));
}

void PartWatch::run(const Job& job, uint64_t number, const Cancel& cancel) {
    Failing failing;
    for (const size_t i : job.levels) {
        check::CheckOptions options;
        options.explain = options.mends = false;
        options.cancel = cancel;
        const auto result = check::check_level(*job.document.project, *job.document.levels[i].level, options);
        if (!result.complete) return;
        for (const auto& claim : result.claims)
            if (claim.state != check::ClaimState::holds) failing.emplace(i, claim.id.value);
    }
    emit judged(number, failing);
}

} // namespace rubble::app
