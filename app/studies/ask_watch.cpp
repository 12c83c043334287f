#include "studies/ask_watch.h"

namespace rubble::app {

AskWatch::AskWatch(Session& session, QObject* parent)
    : QObject(parent),
      session_(session),
      jobs_([this](const Job& job, uint64_t number, const Cancel& cancel) { run(job, number, cancel); }) {
    qRegisterMetaType<std::shared_ptr<const study::Asked>>();
    connect(&session_, &Session::placeAsked, this, &AskWatch::ask);
    connect(&session_, &Session::levelChanged, this, [this] { jobs_.drop(), request_ = 0; });
    connect(this, &AskWatch::answered, this,
            [this](quint64 request, const std::shared_ptr<const study::Asked>& asked) {
                if (request != request_) return;
                if (!asked) return emit session_.message(tr("There is nothing to stand on there"));
                Studies studies = session_.studies();
                studies.asked = asked;
                session_.set_studies(std::move(studies));
                emit session_.placeAnswered();
            });
}

void AskWatch::ask(const Vec3& from, const Vec3& to) {
    const auto& result = session_.built().check;
    if (!result || !result->complete || !session_.up_to_date())
        return emit session_.message(tr("The level is being checked; ask again in a moment"));
    emit session_.message(tr("It is being looked for…"));
    request_ = jobs_.ask({session_.project(), session_.level(), result, from, to});
}

void AskWatch::run(const Job& job, uint64_t number, const Cancel& cancel) {
    auto asked = study::asked(*job.result, job.from, job.to, cancel);
    if (cancel.requested()) return;
    emit answered(number, asked ? std::make_shared<const study::Asked>(*asked) : nullptr);
    if (!asked || !asked->miss) return;
    // What would help takes longer to find than what is missing.
    asked->miss->mends = study::mends_of(job.project, job.level, *job.result, *asked, trials_, cancel);
    if (cancel.requested() || asked->miss->mends.empty()) return;
    emit answered(number, std::make_shared<const study::Asked>(std::move(*asked)));
}

} // namespace rubble::app
