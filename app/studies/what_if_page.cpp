#include "studies/what_if_page.h"

#include <cmath>

#include <QGridLayout>
#include <QHBoxLayout>
#include <QVBoxLayout>

#include "claim_names.h"
#include "numbers.h"
#include "theme.h"

namespace rubble::app {

namespace {

/// The metrics that have a slider, and how far it goes, as parts of what they are.
constexpr const char* k_metrics[] = {"jump_height_m", "run_speed_mps", "step_height_m", "radius_m",
                                     "height_m",      "further_jumps", "pull_up_m",     "survived_fall_m"};
constexpr int k_stops = 100; ///< of a slider, to each side
/// A slider rests for so long before anything is tried.
constexpr int k_rest_ms = 120;

/// A slider goes to half and to half as much again; where that is nothing, from nothing up to two.
double least_of(const CharacterField& field, double now) {
    return std::max(field.least, now > 0 ? now * 0.5 : 0);
}
double most_of(const CharacterField& field, double now) {
    if (field.member == &Character::further_jumps) return now + 2;
    return std::min(field.most, now > 0 ? now * 1.5 : 2);
}

QString with_unit(const CharacterField& field, double value) {
    return QStringLiteral("%1 %2").arg(plain_number(value), QString::fromUtf8(field.unit)).trimmed();
}

} // namespace

WhatIfPage::WhatIfPage(Session& session, QWidget* parent)
    : QWidget(parent),
      session_(session),
      jobs_([this](const Job& job, uint64_t number, const Cancel& cancel) { work(job, number, cancel); }) {
    qRegisterMetaType<std::shared_ptr<const study::WhatIf>>();
    qRegisterMetaType<study::MetricLimit>();
    auto* grid = new QGridLayout;
    grid->setVerticalSpacing(2);
    for (const char* key : k_metrics) {
        Row row;
        row.field = find_character_field(key);
        row.slider = new QSlider(Qt::Horizontal);
        row.slider->setRange(-k_stops, k_stops);
        row.slider->setAccessibleName(tr("What if: %1").arg(QString::fromUtf8(row.field->label)));
        row.value = new QLabel, row.limit = new QLabel;
        row.limit->setProperty("role", "faint");
        const int at = int(rows_.size());
        // Two columns of four.
        const int line = at % 4, left = at / 4 * 4;
        grid->addWidget(new QLabel(QString::fromUtf8(row.field->label)), line, left);
        grid->addWidget(row.slider, line, left + 1);
        grid->addWidget(row.value, line, left + 2);
        grid->addWidget(row.limit, line, left + 3);
        row.value->setMinimumWidth(fontMetrics().horizontalAdvance(QStringLiteral("00.00 m/s")));
        row.limit->setMinimumWidth(fontMetrics().horizontalAdvance(QStringLiteral("≥ 00.00")));
        connect(row.slider, &QSlider::valueChanged, this, [this] { show_values(), later_.start(); });
        rows_.push_back(row);
    }
    grid->setColumnStretch(1, 1), grid->setColumnStretch(5, 1);
    answer_ = new QLabel;
    answer_->setWordWrap(true);
    limits_ = new QPushButton(tr("How far may they go?"));
    limits_->setToolTip(tr("The least or largest value of each at which all claims hold that hold now"));
    yes_ = new QPushButton(tr("Let it be so"));
    yes_->setToolTip(tr("Makes these the character's metrics in all levels"));
    back_ = new QPushButton(tr("As it is"));
    auto* buttons = new QHBoxLayout;
    buttons->addWidget(limits_), buttons->addStretch(), buttons->addWidget(back_), buttons->addWidget(yes_);
    auto* left = new QVBoxLayout;
    left->addLayout(grid), left->addLayout(buttons), left->addStretch();
    changes_ = new QListWidget;
    changes_->setAccessibleName(tr("What would be otherwise"));
    auto* right = new QVBoxLayout;
    right->addWidget(answer_), right->addWidget(changes_, 1);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(14, 4, 14, 4);
    row->setSpacing(14);
    row->addLayout(left, 3), row->addLayout(right, 2);

    later_.setSingleShot(true), later_.setInterval(k_rest_ms);
    connect(&later_, &QTimer::timeout, this, &WhatIfPage::ask);
    connect(limits_, &QPushButton::clicked, this, &WhatIfPage::look_for_limits);
    connect(yes_, &QPushButton::clicked, this, &WhatIfPage::say_yes);
    connect(back_, &QPushButton::clicked, this, &WhatIfPage::read_character);
    connect(
        this, &WhatIfPage::tried, this,
        [this](quint64 request, const std::shared_ptr<const study::WhatIf>& what_if, const QString& others) {
            if (request == request_) take(what_if, others);
        });
    connect(this, &WhatIfPage::limitFound, this,
            [this](quint64 request, int at, const study::MetricLimit& limit) {
                if (request != request_) return;
                const CharacterField& field = *rows_[size_t(at)].field;
                rows_[size_t(at)].limit->setText(
                    (field.helps == Helps::more ? QStringLiteral("≥ %1") : QStringLiteral("≤ %1"))
                        .arg(plain_number(limit.limit)));
                rows_[size_t(at)].limit->setToolTip(
                    limit.breaks.empty()
                        ? tr("Nothing breaks there")
                        : tr("Beyond that breaks: %1").arg(claim_name(session_.level(), limit.breaks[0])));
            });
    connect(&session_, &Session::levelChanged, this, &WhatIfPage::read_character);
    read_character();
}

double WhatIfPage::value_of(const Row& row) const {
    const double now = session_.character().*row.field->member;
    const int at = row.slider->value();
    if (at == 0) return now;
    const double end = at < 0 ? least_of(*row.field, now) : most_of(*row.field, now);
    const double value = now + (end - now) * std::abs(at) / k_stops;
    return row.field->member == &Character::further_jumps ? std::round(value)
                                                          : std::round(value * 1000) / 1000;
}

std::vector<study::MetricChange> WhatIfPage::changes() const {
    std::vector<study::MetricChange> out;
    for (const Row& row : rows_)
        if (const double value = value_of(row); value != session_.character().*row.field->member)
            out.push_back({session_.level().character, row.field, value});
    return out;
}

void WhatIfPage::show_values() {
    for (const Row& row : rows_) row.value->setText(with_unit(*row.field, value_of(row)));
    const bool any = !changes().empty();
    yes_->setEnabled(any), back_->setEnabled(any);
}

/// The sliders stand in the middle, where nothing is otherwise.
void WhatIfPage::read_character() {
    later_.stop();
    jobs_.drop();
    request_ = 0;
    for (const Row& row : rows_) {
        const QSignalBlocker block(row.slider);
        row.slider->setValue(0);
        row.limit->clear();
    }
    changes_->clear();
    answer_->setText(tr("Move a slider: the view shows what would be otherwise."));
    show_values();
    limits_->setEnabled(!session_.level().claims.empty());
    if (session_.studies().what_if) {
        Studies studies = session_.studies();
        studies.what_if.reset(), studies.tint.reset();
        session_.set_studies(std::move(studies));
    }
}

void WhatIfPage::ask() {
    const auto& result = session_.built().check;
    if (changes().empty()) return read_character();
    if (!result || !session_.up_to_date()) return later_.start(); // it is being checked
    Job job{session_.project(), session_.level(), {}, result, changes(), {}};
    const auto& levels = session_.document().levels;
    for (size_t i = 0; i < levels.size(); ++i)
        if (i != session_.documents().level_index() && !levels[i].level->part)
            job.others.push_back(*levels[i].level);
    answer_->setText(tr("It is being tried…"));
    request_ = jobs_.ask(std::move(job));
}

void WhatIfPage::look_for_limits() {
    const auto& result = session_.built().check;
    if (!result || !session_.up_to_date())
        return emit session_.message(tr("The level is being checked; ask again in a moment"));
    Job job{session_.project(), session_.level(), {}, result, {}, {}};
    for (const Row& row : rows_) {
        job.limits.push_back(row.field);
        row.limit->setText(row.field->helps == Helps::neither ? QString() : QStringLiteral("…"));
    }
    request_ = jobs_.ask(std::move(job));
}

void WhatIfPage::work(const Job& job, uint64_t number, const Cancel& cancel) {
    for (size_t i = 0; i < job.limits.size() && !cancel.requested(); ++i) {
        const auto limit = study::limit_of(job.project, job.level, *job.result, *job.limits[i], cancel);
        if (limit.complete) emit limitFound(number, int(i), limit);
    }
    if (!job.limits.empty()) return;
    auto what_if = std::make_shared<study::WhatIf>(
        study::what_if(job.project, job.level, *job.result, job.changes, cancel));
    if (cancel.requested()) return;
    emit tried(number, what_if, tr("Its other levels are being tried…"));
    // The project's other levels, as they are now and as they would be.
    QStringList broken;
    for (const Level& level : job.others) {
        check::CheckOptions options;
        options.explain = options.mends = false, options.cancel = cancel;
        const check::CheckResult now = check::check_level(job.project, level, options);
        if (cancel.requested() || !now.complete) return;
        const study::WhatIf there = study::what_if(job.project, level, now, job.changes, cancel);
        for (const auto& claim : there.comparison.claims)
            if (claim.was == check::ClaimState::holds)
                broken << tr("%1: %2").arg(QString::fromStdString(level.name), claim_name(level, claim.id));
    }
    if (cancel.requested()) return;
    const QString others = job.others.empty() ? QString()
                           : broken.isEmpty()
                               ? tr("In the project's other levels no claim breaks.")
                               : tr("In other levels break: %1").arg(broken.join(QStringLiteral("; ")));
    emit tried(number, what_if, others);
}

void WhatIfPage::take(const std::shared_ptr<const study::WhatIf>& what_if, const QString& others) {
    const study::Comparison& comparison = what_if->comparison;
    const Level& level = session_.level();
    changes_->clear();
    int broken = 0;
    for (const auto& claim : comparison.claims) {
        const bool breaks = claim.was == check::ClaimState::holds;
        broken += breaks;
        auto* line = new QListWidgetItem(
            (breaks ? tr("Breaks: %1") : tr("Would hold: %1")).arg(claim_name(level, claim.id)));
        line->setForeground(breaks ? color::plum : color::sea_green);
        changes_->addItem(line);
    }
    for (const auto& place : comparison.places) {
        const bool lost = place.was == check::Reached::yes;
        if (!lost && place.now != check::Reached::yes) continue;
        changes_->addItem((lost ? tr("Lost: %1") : tr("Gained: %1")).arg(item_name(level, place.item)));
    }
    int harder = 0, easier = 0, gone = 0, fresh = 0;
    for (const auto& span : comparison.spans)
        ++(!span.now ? gone : !span.was ? fresh : span.now->grade > span.was->grade ? harder : easier);
    const double more = comparison.reached_now_m2 - comparison.reached_was_m2;
    QString text = broken > 0 ? tr("<b>%1 would break.</b>").arg(counted(broken, tr("claim"), tr("claims")))
                              : tr("<b>No claim would break.</b>");
    text += ' ' + tr("Spans: %1 harder, %2 easier, %3 gone, %4 new. Ground: %5 m².")
                      .arg(harder)
                      .arg(easier)
                      .arg(gone)
                      .arg(fresh)
                      .arg((more > 0 ? QStringLiteral("+") : QString()) + QString::number(more, 'f', 0));
    if (!others.isEmpty()) text += QStringLiteral("<br>") + others.toHtmlEscaped();
    answer_->setText(text);
    Studies studies = session_.studies();
    if (studies.what_if != what_if)
        studies.tint = std::make_shared<const TintMesh>(tint_mesh(what_if->now, session_.built().hidden));
    studies.what_if = what_if;
    session_.set_studies(std::move(studies));
}

void WhatIfPage::say_yes() {
    Project project = session_.project();
    const auto wanted = changes();
    for (NamedCharacter& named : project.characters)
        if (named.id == session_.level().character)
            for (const study::MetricChange& change : wanted)
                named.metrics.*change.field->member = change.value;
    const bool known = std::any_of(project.characters.begin(), project.characters.end(),
                                   [&](const auto& one) { return one.id == session_.level().character; });
    // What the level itself says of its character has the last word.
    Level level = session_.stored_level();
    bool own = !known;
    for (const study::MetricChange& change : wanted)
        if (!known || level.characters[level.character].contains(change.field->key))
            level.characters[level.character][change.field->key] = change.value, own = true;
    if (known) session_.apply(std::move(project), tr("Metrics"));
    if (own) session_.apply(std::move(level), tr("Metrics"));
}

} // namespace rubble::app
