#pragma once

#include <QLabel>
#include <QTableWidget>

#include "newest_job.h"
#include "session/session.h"

namespace rubble::app {

/// The two sides of a mirrored level beside each other: ways, times, spans and what is seen, the least fair
/// first; items without a counterpart are marked in the views. Made anew while it is seen.
class SidesPage : public QWidget {
    Q_OBJECT
public:
    explicit SidesPage(Session& session, QWidget* parent = nullptr);

signals:
    void found(quint64 request, const std::shared_ptr<const rubble::study::Sides>& sides,
               const QString& why_not);
    void placeWanted(const rubble::Vec3& at, const std::vector<rubble::ItemId>& items);

protected:
    void showEvent(QShowEvent* event) override;
    void hideEvent(QHideEvent* event) override;

private:
    struct Job {
        Project project;
        Level level;
        std::shared_ptr<const check::CheckResult> result;
    };
    void ask();
    void show_in_views(std::shared_ptr<const study::Sides> sides);
    void take(const std::shared_ptr<const study::Sides>& sides, const QString& why_not);
    void add_row(const QString& what, const QString& here, const QString& there, const QString& difference,
                 const QColor& ink, std::vector<ItemId> items);

    Session& session_;
    QLabel* answer_ = nullptr;
    QTableWidget* table_ = nullptr;
    std::vector<std::vector<ItemId>> rows_; ///< what each is about
    uint64_t asked_version_ = 0;
    quint64 request_ = 0;
    NewestJob<Job> jobs_; ///< the last: it uses the others
};

} // namespace rubble::app

Q_DECLARE_METATYPE(std::shared_ptr<const rubble::study::Sides>)
