#include "suggest_watch.h"

namespace rubble::app {

SuggestWatch::SuggestWatch(Session& session, QObject* parent)
    : QObject(parent),
      session_(session),
      jobs_([this](const Job& job, uint64_t number, const Cancel& cancel) { run(job, number, cancel); }) {
    qRegisterMetaType<Suggestions>();
    connect(this, &SuggestWatch::found, this, [this](quint64 request, const Suggestions& suggestions) {
        if (request != request_) return;
        Suggestions now = suggestions;
        now.thrown = session_.suggestions().thrown;
        session_.set_suggestions(std::move(now));
        emit session_.message(suggestions.open.empty()
                                  ? tr("Nothing to suggest here that was tried and holds")
                                  : tr("Suggestions are in the facts"));
    });
    connect(&session_, &Session::documentOpened, this, [this] {
        jobs_.drop();
        request_ = 0;
        session_.set_suggestions({});
    });
}

void SuggestWatch::ask() {
    const auto& result = session_.built().check;
    if (!result || !session_.up_to_date()) {
        emit session_.message(tr("The level is being checked; ask again in a moment"));
        return;
    }
    Suggestions now;
    now.thrown = session_.suggestions().thrown, now.looking = true;
    session_.set_suggestions(now);
    session_.select({});
    request_ = jobs_.ask({session_.project(), session_.level(), result, now.thrown});
}

void SuggestWatch::run(const Job& job, uint64_t number, const Cancel& cancel) {
    suggest::SuggestOptions options;
    options.not_again = job.not_again, options.cancel = cancel;
    Suggestions out;
    out.open = suggest::suggested(job.project, job.level, job.result, options);
    if (!cancel.requested()) emit found(number, out);
}

} // namespace rubble::app
