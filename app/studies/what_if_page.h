#pragma once

#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QSlider>
#include <QTimer>

#include "newest_job.h"
#include "session/session.h"

namespace rubble::app {

/// Changes the character's metrics by sliders without saying yes yet: the views show which spans change their
/// grade and what is lost and gained, the page which claims break, here and in the project's other levels.
class WhatIfPage : public QWidget {
    Q_OBJECT
public:
    explicit WhatIfPage(Session& session, QWidget* parent = nullptr);

signals:
    void tried(quint64 request, const std::shared_ptr<const rubble::study::WhatIf>& what_if,
               const QString& others);
    void limitFound(quint64 request, int row, const rubble::study::MetricLimit& limit);

private:
    struct Row {
        const CharacterField* field = nullptr;
        QSlider* slider = nullptr;
        QLabel *value = nullptr, *limit = nullptr;
    };
    struct Job {
        Project project;
        Level level;
        std::vector<Level> others;
        std::shared_ptr<const check::CheckResult> result;
        std::vector<study::MetricChange> changes;
        std::vector<const CharacterField*> limits; ///< are looked for instead
    };
    double value_of(const Row& row) const;
    std::vector<study::MetricChange> changes() const;
    void show_values();
    void read_character();
    void ask();
    void look_for_limits();
    void take(const std::shared_ptr<const study::WhatIf>& what_if, const QString& others);
    void say_yes();
    void work(const Job& job, uint64_t number, const Cancel& cancel);

    Session& session_;
    std::vector<Row> rows_;
    QLabel* answer_ = nullptr;
    QListWidget* changes_ = nullptr;
    QPushButton *limits_ = nullptr, *yes_ = nullptr, *back_ = nullptr;
    QTimer later_;
    quint64 request_ = 0;
    NewestJob<Job> jobs_; ///< the last: it uses the others
};

} // namespace rubble::app

Q_DECLARE_METATYPE(std::shared_ptr<const rubble::study::WhatIf>)
Q_DECLARE_METATYPE(rubble::study::MetricLimit)
