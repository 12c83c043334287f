#pragma once

#include <condition_variable>
#include <mutex>
#include <optional>
#include <thread>

#include <QObject>

#include "build/surface_builder.h"
#include "session/session.h"

namespace rubble::app {

/// Builds and checks the newest level in the background, on a copy: one thread makes what is drawn, another
/// checks it, so that a picture never waits for a check to stop. A newer level stops the check of an older
/// one; results say which version they belong to.
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
    void draw_on(std::stop_token stop);
    void check_on(std::stop_token stop);
    Built drawn(const Job& job);
    void check(const Job& job, Built built);

    std::mutex mutex_;
    std::condition_variable_any wake_;
    std::optional<Job> to_draw_;
    std::optional<std::pair<Job, Built>> to_check_;
    Cancel running_; ///< what is checked, or waits for it
    // Used by the drawing thread alone:
    build::SolidBuilder builder_;
    build::SurfaceBuilder surfaces_;
    SceneMesher mesher_;
    std::shared_ptr<const PickBoxes> boxes_;
    // Used by the checking thread alone:
    std::shared_ptr<const check::CheckResult> last_; ///< of which the next one takes over what it can
    std::jthread drawing_, checking_;
};

} // namespace rubble::app

Q_DECLARE_METATYPE(rubble::app::Built)
