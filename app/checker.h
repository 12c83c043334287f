#pragma once

#include <condition_variable>
#include <mutex>
#include <optional>
#include <thread>

#include <QObject>

#include "build/surface_builder.h"
#include "session.h"

namespace rubble::app {

/// Builds and checks the newest level in the background, on a copy. A newer level stops the check of an
/// older one; results say which version they belong to.
class Checker : public QObject {
    Q_OBJECT
public:
    explicit Checker(QObject* parent = nullptr);
    ~Checker() override;

    void request(const Project& project, const Level& level, uint64_t version);

signals:
    void progressed(double part);
    void ready(const rubble::app::Built& built);

private:
    struct Job {
        Project project;
        Level level;
        uint64_t version;
        Cancel cancel;
    };
    void work(std::stop_token stop);
    void run(const Job& job);

    std::mutex mutex_;
    std::condition_variable_any wake_;
    std::optional<Job> next_;
    Cancel running_;
    // Used by the worker alone:
    build::SolidBuilder builder_;
    build::SurfaceBuilder surfaces_;
    std::shared_ptr<const check::CheckResult> last_; ///< of which the next one takes over what it can
    std::jthread worker_;
};

} // namespace rubble::app

Q_DECLARE_METATYPE(rubble::app::Built)
