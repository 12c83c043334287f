#pragma once

#include <QCheckBox>
#include <QComboBox>
#include <QTableView>

#include "check/span_facts.h"
#include "newest_job.h"
#include "session/session.h"

namespace rubble::app {

class SpanModel;
class SpanFilter;

/// All spans of the level with their numbers, to be sorted and filtered. What takes simulated leaps is found
/// out in the background and comes in row by row.
class SpanTable : public QWidget {
    Q_OBJECT
public:
    explicit SpanTable(Session& session, QWidget* parent = nullptr);
    QTableView& table() { return *table_; }

signals:
    /// A span is looked at: the views go there.
    void spanShown(const rubble::Vec3& at);
    void factsFound(quint64 request, int row, const rubble::check::SpanFacts& facts);

protected:
    void showEvent(QShowEvent*) override;
    void hideEvent(QHideEvent*) override;

private:
    struct Job {
        std::shared_ptr<const check::CheckResult> result;
        std::vector<check::Span> spans;
    };
    void take_result();
    void show_row(const QModelIndex& row);
    /// Selects the row of the span that is picked in a view.
    void follow_pick();
    void pin();
    void run(const Job& job, uint64_t number, const Cancel& cancel);

    Session& session_;
    SpanModel* model_ = nullptr;
    SpanFilter* filter_ = nullptr;
    QTableView* table_ = nullptr;
    QComboBox* grade_ = nullptr;
    QCheckBox *on_route_ = nullptr, *one_way_ = nullptr, *deadly_ = nullptr;
    std::shared_ptr<const check::CheckResult> shown_;
    quint64 request_ = 0;
    NewestJob<Job> jobs_; ///< the last: it uses the others
};

} // namespace rubble::app

Q_DECLARE_METATYPE(rubble::check::SpanFacts)
