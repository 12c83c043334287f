#pragma once

#include <QComboBox>
#include <QLabel>
#include <QListWidget>
#include <QProgressBar>
#include <QPushButton>
#include <QSlider>
#include <QSpinBox>
#include <QTimer>

#include "newest_job.h"
#include "session/session.h"

class QChartView;

namespace rubble::app {

/// Lets simulated players go from one element to another, and shows what became of them: how many arrive, how
/// long they take, and what costs them most. They run as a crowd in the views.
class PlayersPage : public QWidget {
    Q_OBJECT
public:
    explicit PlayersPage(Session& session, QWidget* parent = nullptr);
    /// Begins, or stops what is under way.
    void run_or_stop();

signals:
    void found(quint64 request, const std::shared_ptr<const rubble::study::Crowd>& crowd,
               const std::shared_ptr<const rubble::study::Exploration>& exploration, const QString& why_not);
    void progressed(int percent);
    void spanShown(const rubble::Vec3& at);

private:
    struct Job {
        Project project;
        Level level;
        std::shared_ptr<const check::CheckResult> result;
        ItemId from, to;
        study::PlayersOptions options;
        double within_s = 0; ///< of those who do not know the way; 0: they do
    };
    void offer_ends();
    void offer_skills();
    void work(const Job& job, uint64_t number, const Cancel& cancel);
    void take(const std::shared_ptr<const study::Crowd>& crowd,
              const std::shared_ptr<const study::Exploration>& exploration, const QString& why_not);
    void list_costs(const study::Crowd& crowd);
    void list_areas(const study::Exploration& exploration);
    bool exploring() const;
    void show_times(const study::Crowd& crowd);
    void set_moment(double seconds);
    void forget();

    Session& session_;
    QComboBox *from_ = nullptr, *to_ = nullptr, *skill_ = nullptr, *heat_ = nullptr;
    QSpinBox *runs_ = nullptr, *within_ = nullptr;
    std::vector<Vec3> places_; ///< of the rows of `costs_`
    QPushButton *run_ = nullptr, *play_ = nullptr;
    QProgressBar* progress_ = nullptr;
    QLabel* answer_ = nullptr;
    QChartView* times_ = nullptr;
    QListWidget* costs_ = nullptr;
    QSlider* moment_ = nullptr;
    QTimer clock_;
    bool running_ = false;
    quint64 request_ = 0;
    NewestJob<Job> jobs_; ///< the last: it uses the others
};

} // namespace rubble::app

Q_DECLARE_METATYPE(std::shared_ptr<const rubble::study::Crowd>)
Q_DECLARE_METATYPE(std::shared_ptr<const rubble::study::Exploration>)
