#pragma once

#include <optional>

#include <QObject>
#include <QString>

#include "newest_job.h"
#include "parcel/parcel.h"
#include "session/session.h"

namespace rubble::app {

/// Makes the parcels again that the user wants after each save of a level, in the background, as soon as the
/// level is checked.
class ParcelKeeper : public QObject {
    Q_OBJECT
public:
    explicit ParcelKeeper(Session& session, QObject* parent = nullptr);
    ~ParcelKeeper() override;

    /// What is made after each save of a level's file.
    struct Kept {
        QString kind, target;
        bool must_hold = false; ///< not while something is open
    };
    static void keep(const QString& file, const std::optional<Kept>& what);
    static std::optional<Kept> kept(const QString& file);
    static bool keeps(const QString& file) { return kept(file).has_value(); }

signals:
    void made(const QString& says);

private:
    struct Job {
        Project project;
        Level level;
        std::shared_ptr<const check::CheckResult> result;
        Kept kept;
    };
    void make();

    Session& session_;
    bool wanted_ = false; ///< since a save, until the check is there
    NewestJob<Job> jobs_; ///< the last: it uses the others
};

} // namespace rubble::app
