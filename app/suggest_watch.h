#pragma once

#include "newest_job.h"
#include "session/session.h"

namespace rubble::app {

/// Looks, in the background, for what could be added to the shown level next, when it is asked to. Tells the
/// session.
class SuggestWatch : public QObject {
    Q_OBJECT
public:
    explicit SuggestWatch(Session& session, QObject* parent = nullptr);
    /// Begins to look; what was suggested before goes.
    void ask();

signals:
    void found(quint64 request, const rubble::app::Suggestions& suggestions);

private:
    struct Job {
        Project project;
        Level level;
        std::shared_ptr<const check::CheckResult> result;
        std::set<std::string> not_again;
    };
    void run(const Job& job, uint64_t number, const Cancel& cancel);

    Session& session_;
    quint64 request_ = 0;
    NewestJob<Job> jobs_;
};

} // namespace rubble::app

Q_DECLARE_METATYPE(rubble::app::Suggestions)
