#pragma once

#include "newest_job.h"
#include "session/session.h"

namespace rubble::app {

/// Solves, in the background, the level that is shown, where it is a puzzle by cells. Tells the session.
class PuzzleWatch : public QObject {
    Q_OBJECT
public:
    explicit PuzzleWatch(Session& session, QObject* parent = nullptr);

signals:
    void solved(quint64 request, const rubble::app::PuzzleAnswer& answer);

private:
    void follow();
    void run(const Level& level, uint64_t number, const Cancel& cancel);

    Session& session_;
    quint64 request_ = 0;
    std::optional<Level> of_;
    NewestJob<Level> jobs_;
};

} // namespace rubble::app

Q_DECLARE_METATYPE(rubble::app::PuzzleAnswer)
