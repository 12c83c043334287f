#include "studies/sides_page.h"

#include <cmath>

#include <QHBoxLayout>
#include <QHeaderView>

#include "claim_names.h"
#include "numbers.h"
#include "theme.h"

namespace rubble::app {

namespace {

QString grade_text(const std::optional<check::Grade>& grade) {
    if (!grade) return {};
    const QString words[] = {SidesPage::tr("easy"), SidesPage::tr("fair"), SidesPage::tr("tight")};
    return QStringLiteral(", ") + words[size_t(*grade)];
}

QString run_text(const study::Sides::Run& run) {
    if (!run.seconds) return SidesPage::tr("not reached");
    return SidesPage::tr("%1 s · %2%3")
        .arg(*run.seconds, 0, 'f', 1)
        .arg(counted(run.spans, SidesPage::tr("span"), SidesPage::tr("spans")), grade_text(run.hardest));
}

QString symmetry_text(const study::Symmetry& symmetry) {
    using Kind = study::Symmetry::Kind;
    const double x = symmetry.middle.x, y = symmetry.middle.y;
    return symmetry.kind == Kind::across_x ? SidesPage::tr("mirrored at x %1").arg(x, 0, 'f', 2)
           : symmetry.kind == Kind::across_y
               ? SidesPage::tr("mirrored at y %1").arg(y, 0, 'f', 2)
               : SidesPage::tr("turned about %1, %2").arg(x, 0, 'f', 2).arg(y, 0, 'f', 2);
}

} // namespace

SidesPage::SidesPage(Session& session, QWidget* parent)
    : QWidget(parent),
      session_(session),
      jobs_([this](const Job& job, uint64_t number, const Cancel& cancel) {
          const auto sides = study::sides_of(job.project, job.level, *job.result, cancel);
          if (cancel.requested()) return;
          if (!sides) return emit found(number, nullptr, QString::fromStdString(sides.error().message));
          emit found(number, std::make_shared<const study::Sides>(*sides), {});
      }) {
    qRegisterMetaType<std::shared_ptr<const study::Sides>>();
    answer_ = new QLabel;
    answer_->setWordWrap(true);
    answer_->setAlignment(Qt::AlignTop);
    table_ = new QTableWidget(0, 4);
    table_->setAccessibleName(tr("The two sides"));
    table_->setHorizontalHeaderLabels({tr("What"), tr("On this side"), tr("On the other"), tr("Difference")});
    table_->verticalHeader()->hide();
    table_->setMinimumHeight(fontMetrics().height() * 9);
    table_->setSelectionBehavior(QAbstractItemView::SelectRows);
    table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    table_->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
    for (int column = 1; column < 4; ++column)
        table_->horizontalHeader()->setSectionResizeMode(column, QHeaderView::ResizeToContents);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(14, 4, 14, 4);
    row->setSpacing(12);
    row->addWidget(answer_, 2), row->addWidget(table_, 5);
    connect(&session_, &Session::builtChanged, this, &SidesPage::ask);
    connect(
        this, &SidesPage::found, this,
        [this](quint64 request, const std::shared_ptr<const study::Sides>& sides, const QString& why_not) {
            if (request == request_) take(sides, why_not);
        });
    connect(table_, &QTableWidget::currentCellChanged, this, [this](int at) {
        if (at < 0 || size_t(at) >= rows_.size() || rows_[size_t(at)].empty()) return;
        const Item* item = find_item(session_.level(), rows_[size_t(at)].front());
        if (item) emit placeWanted(box_of(*item).middle(), rows_[size_t(at)]);
    });
}

void SidesPage::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    asked_version_ = 0;
    ask();
}

void SidesPage::hideEvent(QHideEvent* event) {
    QWidget::hideEvent(event);
    show_in_views(nullptr);
}

void SidesPage::ask() {
    const auto& result = session_.built().check;
    if (!isVisible() || !result || !result->complete || !session_.up_to_date() ||
        asked_version_ == session_.version())
        return;
    asked_version_ = session_.version();
    answer_->setText(tr("Both sides are being looked at…"));
    request_ = jobs_.ask({session_.project(), session_.level(), result});
}

void SidesPage::show_in_views(std::shared_ptr<const study::Sides> sides) {
    if (session_.studies().sides == sides) return;
    Studies studies = session_.studies();
    studies.sides = std::move(sides);
    session_.set_studies(std::move(studies));
}

void SidesPage::add_row(const QString& what, const QString& here, const QString& there,
                        const QString& difference, const QColor& ink, std::vector<ItemId> items) {
    const int row = table_->rowCount();
    table_->insertRow(row);
    const QString texts[] = {what, here, there, difference};
    for (int column = 0; column < 4; ++column) {
        auto* cell = new QTableWidgetItem(texts[column]);
        cell->setForeground(ink);
        table_->setItem(row, column, cell);
    }
    rows_.push_back(std::move(items));
}

void SidesPage::take(const std::shared_ptr<const study::Sides>& sides, const QString& why_not) {
    const QSignalBlocker still(table_);
    table_->setRowCount(0), rows_.clear();
    show_in_views(sides);
    if (!sides) return answer_->setText(tr("The level %1.").arg(why_not));
    const Level& level = session_.level();
    const auto name = [&](const ItemId& id) { return item_name(level, id); };
    int unfair = 0;
    for (const study::Sides::Way& way : sides->ways) {
        unfair += !way.fair();
        const auto more = way.more_s();
        add_row(tr("%1 → %2").arg(name(way.here.from), name(way.here.to)), run_text(way.here),
                run_text(way.there),
                more         ? signed_text(*more, 1, tr(" s"))
                : way.fair() ? tr("neither")
                             : tr("only one"),
                way.fair() ? color::ink : color::plum,
                {way.here.from, way.here.to, way.there.from, way.there.to});
    }
    for (const study::Sides::View& view : sides->views) {
        const double more = view.there_m2 - view.here_m2;
        const bool fair = std::abs(more) < 0.05 * std::max(view.here_m2, 1.0);
        add_row(tr("Seen from %1, and from %2").arg(name(view.here), name(view.there)),
                tr("%1 m²").arg(view.here_m2, 0, 'f', 0), tr("%1 m²").arg(view.there_m2, 0, 'f', 0),
                signed_text(more, 0, tr(" m²")), fair ? color::ink : color::plum, {view.here, view.there});
    }
    for (const ItemId& id : sides->odd)
        add_row(tr("%1 has no counterpart").arg(name(id)), {}, {}, {}, color::ochre, {id});
    answer_->setText((unfair == 0 ? tr("<b>Both sides are alike</b> in all ways.")
                                  : tr("<b>%1</b> from side to side.")
                                        .arg(counted(unfair, tr("way differs"), tr("ways differ")))) +
                     QLatin1Char(' ') +
                     tr("The level is %1; %2 % of its items have a counterpart.")
                         .arg(symmetry_text(sides->symmetry))
                         .arg(sides->alike * 100, 0, 'f', 0));
}

} // namespace rubble::app
