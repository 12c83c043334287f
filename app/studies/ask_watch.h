#pragma once

#include "build/solid.h"
#include "newest_job.h"
#include "session/session.h"

namespace rubble::app {

/// Answers, in the background, whether one gets from one place to another. Tells the session.
class AskWatch : public QObject {
    Q_OBJECT
public:
    explicit AskWatch(Session& session, QObject* parent = nullptr);

signals:
    void answered(quint64 request, const std::shared_ptr<const rubble::study::Asked>& asked);

private:
    struct Job {
        Project project;
        Level level;
        std::shared_ptr<const check::CheckResult> result;
        Vec3 from{0}, to{0};
    };
    void ask(const Vec3& from, const Vec3& to);
    void run(const Job& job, uint64_t number, const Cancel& cancel);

    Session& session_;
    quint64 request_ = 0;
    build::SolidBuilder trials_; ///< of the thread that answers
    NewestJob<Job> jobs_;        ///< the last: it uses the others
};

} // namespace rubble::app

Q_DECLARE_METATYPE(std::shared_ptr<const rubble::study::Asked>)
