#pragma once

#include <condition_variable>
#include <map>
#include <mutex>
#include <optional>
#include <set>
#include <thread>

#include "session/session.h"

namespace rubble::app {

/// Judges, in the background, the claims of all levels that use the part which is open by itself, so that
/// what an edit of it would break is said while it is made. Tells the session.
class PartWatch : public QObject {
    Q_OBJECT
public:
    explicit PartWatch(Session& session, QObject* parent = nullptr);
    ~PartWatch() override;

    /// Claims that do not hold, by the level they are of.
    using Failing = std::set<std::pair<size_t, std::string>>;

signals:
    void judged(quint64 request, const rubble::app::PartWatch::Failing& failing);

private:
    struct Job {
        Document document;
        std::vector<size_t> levels;
        quint64 number = 0;
        Cancel cancel;
    };
    void follow();
    void take(quint64 request, const Failing& failing);
    void work(std::stop_token stop);
    void run(const Job& job);

    Session& session_;
    std::string part_; ///< that is shown; empty: none is
    std::optional<Failing> at_first_;
    quint64 request_ = 0;
    std::mutex mutex_;
    std::condition_variable_any wake_;
    std::optional<Job> next_;
    Cancel running_;
    std::jthread thread_;
};

} // namespace rubble::app

Q_DECLARE_METATYPE(rubble::app::PartWatch::Failing)
