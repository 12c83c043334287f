#pragma once

#include <optional>
#include <set>

#include "newest_job.h"
#include "session/session.h"

namespace rubble::app {

/// Judges, in the background, the claims of all levels that use the part which is open by itself, so that
/// what an edit of it would break is said while it is made. Tells the session.
class PartWatch : public QObject {
    Q_OBJECT
public:
    explicit PartWatch(Session& session, QObject* parent = nullptr);

    /// Claims that do not hold, by the level they are of.
    using Failing = std::set<std::pair<size_t, std::string>>;

signals:
    void judged(quint64 request, const rubble::app::PartWatch::Failing& failing);

private:
    struct Job {
        Document document;
        std::vector<size_t> levels;
    };
    void follow();
    void take(quint64 request, const Failing& failing);
    void run(const Job& job, uint64_t number, const Cancel& cancel);

    Session& session_;
    std::string part_; ///< that is shown; empty: none is
    std::optional<Failing> at_first_;
    std::optional<Shared<Project>> of_; ///< that was judged last
    quint64 request_ = 0;
    NewestJob<Job> jobs_;
};

} // namespace rubble::app

Q_DECLARE_METATYPE(rubble::app::PartWatch::Failing)
