#pragma once

#include "newest_job.h"
#include "session/session.h"

namespace rubble::app {

/// Makes, in the background, the tint of the ground that is asked for instead of the usual one, and tells the
/// session.
class TintWatch : public QObject {
    Q_OBJECT
public:
    explicit TintWatch(Session& session, QObject* parent = nullptr);

signals:
    void made(quint64 request, const std::shared_ptr<const rubble::app::TintMesh>& tint);

private:
    struct Job {
        Overlay overlay = Overlay::usual;
        Project project;
        Level without; ///< what is selected
        std::shared_ptr<const check::CheckResult> result;
        std::vector<bool> hidden;
        Vec3 wanted{0}; ///< what is to be seen
    };
    void follow();
    void run(const Job& job, uint64_t number, const Cancel& cancel);

    Session& session_;
    quint64 request_ = 0;
    NewestJob<Job> jobs_; ///< the last: it uses the others
};

} // namespace rubble::app

Q_DECLARE_METATYPE(std::shared_ptr<const rubble::app::TintMesh>)
