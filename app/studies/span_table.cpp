#include "studies/span_table.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include "edit/fresh_ids.h"
#include "edit/items.h"
#include "numbers.h"
#include "studies/span_model.h"

namespace rubble::app {

SpanTable::SpanTable(Session& session, QWidget* parent)
    : QWidget(parent),
      session_(session),
      jobs_([this](const Job& job, uint64_t number, const Cancel& cancel) { run(job, number, cancel); }) {
    qRegisterMetaType<check::SpanFacts>();
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 2, 14, 4);
    column->setSpacing(4);
    auto* row = new QHBoxLayout;
    grade_ = new QComboBox;
    grade_->setAccessibleName(tr("Grade of spans"));
    grade_->addItem(tr("All grades"), -1);
    grade_->addItem(tr("Easy"), int(check::Grade::easy));
    grade_->addItem(tr("Fair"), int(check::Grade::fair));
    grade_->addItem(tr("Tight"), int(check::Grade::tight));
    on_route_ = new QCheckBox(tr("On a route"));
    one_way_ = new QCheckBox(tr("One way"));
    deadly_ = new QCheckBox(tr("Deadly"));
    auto* pin = new QPushButton(tr("Claim that it stays so"));
    pin->setToolTip(tr("A claim that the selected span is no harder than it is now"));
    row->addWidget(grade_);
    for (QCheckBox* box : {on_route_, one_way_, deadly_}) row->addWidget(box);
    row->addStretch();
    row->addWidget(pin);
    column->addLayout(row);
    model_ = new SpanModel(this);
    filter_ = new SpanFilter(this);
    filter_->setSourceModel(model_);
    filter_->setSortRole(Qt::UserRole);
    table_ = new QTableView;
    table_->setAccessibleName(tr("Spans"));
    table_->setModel(filter_);
    table_->setSortingEnabled(true);
    table_->sortByColumn(SpanModel::margin, Qt::AscendingOrder);
    table_->setSelectionBehavior(QAbstractItemView::SelectRows);
    table_->setSelectionMode(QAbstractItemView::SingleSelection);
    table_->setTabKeyNavigation(false);
    table_->setShowGrid(false);
    table_->setAlternatingRowColors(true);
    table_->verticalHeader()->hide();
    table_->verticalHeader()->setDefaultSectionSize(fontMetrics().height() + 6);
    table_->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
    table_->horizontalHeader()->setSectionResizeMode(SpanModel::where, QHeaderView::Stretch);
    constexpr int k_least_rows = 6;
    table_->setMinimumHeight(table_->verticalHeader()->defaultSectionSize() * (k_least_rows + 1) + 8);
    column->addWidget(table_, 1);

    const auto filter = [this] {
        filter_->set_wanted({grade_->currentData().toInt(), on_route_->isChecked(), one_way_->isChecked(),
                             deadly_->isChecked()});
    };
    connect(grade_, &QComboBox::currentIndexChanged, this, filter);
    for (QCheckBox* box : {on_route_, one_way_, deadly_}) connect(box, &QCheckBox::toggled, this, filter);
    connect(pin, &QPushButton::clicked, this, &SpanTable::pin);
    connect(table_->selectionModel(), &QItemSelectionModel::currentRowChanged, this, &SpanTable::show_row);
    connect(&session_, &Session::builtChanged, this, &SpanTable::take_result);
    connect(&session_, &Session::studiesChanged, this, &SpanTable::follow_pick);
    connect(this, &SpanTable::factsFound, this,
            [this](quint64 request, int row, const check::SpanFacts& facts) {
                if (request == request_) model_->set_facts(row, facts);
            });
}

void SpanTable::take_result() {
    const auto& result = session_.built().check;
    if (!result || !result->complete || result == shown_ || !session_.up_to_date() || !isVisible()) return;
    shown_ = result;
    model_->set_rows(span_rows(*result, session_.level()));
    Job job{result, {}};
    for (const SpanModel::Row& row : model_->rows()) job.spans.push_back(row.span);
    request_ = jobs_.ask(std::move(job));
    follow_pick();
}

void SpanTable::follow_pick() {
    const auto& picked = session_.studies().picked;
    if (!picked || !isVisible()) return;
    for (size_t i = 0; i < model_->rows().size(); ++i) {
        const check::Span& span = model_->rows()[i].span;
        if (span.link != picked->link || span.from != picked->from) continue;
        const QModelIndex row = filter_->mapFromSource(model_->index(int(i), 0));
        if (!row.isValid() || row.row() == table_->currentIndex().row()) return;
        // The view shows it already where it was picked.
        const QSignalBlocker quiet(table_->selectionModel());
        table_->setCurrentIndex(row);
        table_->viewport()->update();
        table_->scrollTo(row);
        return;
    }
}

void SpanTable::showEvent(QShowEvent*) { take_result(); }

/// What nobody looks at is not found out: leaps of thousands of spans take their time.
void SpanTable::hideEvent(QHideEvent*) {
    jobs_.drop();
    request_ = 0, shown_.reset();
}

void SpanTable::run(const Job& job, uint64_t number, const Cancel& cancel) {
    const check::CheckResult& result = *job.result;
    const check::LinkGraph graph(*result.ground, result.character, result.reach->links);
    for (size_t i = 0; i < job.spans.size() && !cancel.requested(); ++i)
        emit factsFound(number, int(i),
                        check::facts_of(*result.ground, *result.world, result.character, graph,
                                        *job.spans[i].link, job.spans[i]));
}

void SpanTable::show_row(const QModelIndex& row) {
    Studies studies = session_.studies();
    studies.picked.reset();
    if (row.isValid()) studies.picked = model_->rows()[size_t(filter_->mapToSource(row).row())].span;
    const auto picked = studies.picked;
    session_.set_studies(std::move(studies));
    if (picked) emit spanShown((picked->from + picked->to) * 0.5);
}

void SpanTable::pin() {
    const QModelIndex at = table_->currentIndex();
    if (!at.isValid()) return emit session_.message(tr("Select a span first"));
    const SpanModel::Row& row = model_->rows()[size_t(filter_->mapToSource(at).row())];
    if (row.from.empty() || row.to.empty() || !find_item(session_.level(), row.from) ||
        !find_item(session_.level(), row.to))
        return emit session_.message(
            tr("It does not go from one item to another, so that it has no name to be claimed by"));
    Claim claim;
    claim.id = edit::fresh_claim_id(session_.stored_level());
    claim.kind = Claim::Kind::stays;
    claim.from = row.from, claim.to = row.to;
    const Project& project = session_.project();
    claim.value = row.span.grade == check::Grade::easy   ? project.easy_pct
                  : row.span.grade == check::Grade::fair ? project.fair_pct
                                                         : 0;
    claim.name =
        tr("%1 stays %2")
            .arg(row.where, model_
                                ->data(model_->index(int(&row - model_->rows().data()), SpanModel::grade),
                                       Qt::DisplayRole)
                                .toString())
            .toStdString();
    session_.apply(edit::with_claim(session_.stored_level(), claim), tr("Claim"));
    emit session_.message(tr("Claimed: %1").arg(QString::fromStdString(claim.name)));
}

} // namespace rubble::app
