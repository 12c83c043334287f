#include "studies/players_page.h"

#include <cmath>

#include <QBarCategoryAxis>
#include <QBarSeries>
#include <QBarSet>
#include <QChart>
#include <QChartView>
#include <QHBoxLayout>
#include <QVBoxLayout>
#include <QValueAxis>

#include "level/order.h"
#include "numbers.h"
#include "theme.h"

namespace rubble::app {

namespace {

/// So many of the crowd are seen running; how often the picture goes on.
constexpr int k_seen = 200, k_frame_ms = 33;
/// Of a choice that somebody made, and the level does not.
constexpr const char* k_chosen = "chosen";
/// Bars of the times.
constexpr int k_bars = 8;

QString percent(double share) {
    return QStringLiteral("%1 %").arg(share * 100, 0, 'f', share < 0.995 ? 1 : 0);
}

double longest_s(const study::Crowd& crowd) {
    double longest = 0;
    for (const study::PlayerRun& run : crowd.runs)
        longest = std::max(longest, double(run.track.size()) * study::track_s);
    return longest;
}

} // namespace

PlayersPage::PlayersPage(Session& session, QWidget* parent)
    : QWidget(parent),
      session_(session),
      jobs_([this](const Job& job, uint64_t number, const Cancel& cancel) { work(job, number, cancel); }) {
    qRegisterMetaType<std::shared_ptr<const study::Crowd>>();
    qRegisterMetaType<std::shared_ptr<const study::Exploration>>();
    from_ = new QComboBox, to_ = new QComboBox, skill_ = new QComboBox, runs_ = new QSpinBox;
    from_->setAccessibleName(tr("Players begin at"));
    to_->setAccessibleName(tr("Players go to"));
    skill_->setAccessibleName(tr("Skill"));
    runs_->setAccessibleName(tr("How many players"));
    runs_->setRange(1, 100000), runs_->setValue(1000);
    within_ = new QSpinBox;
    within_->setAccessibleName(tr("Give up after"));
    within_->setRange(5, 3600), within_->setValue(180), within_->setSuffix(tr(" s"));
    within_->setToolTip(tr("Who has not found the way by then gives up"));
    heat_ = new QComboBox;
    heat_->setAccessibleName(tr("What spots tell"));
    heat_->addItems({tr("where they fell"), tr("where they lost time"), tr("where they were")});
    run_ = new QPushButton(tr("Let them play"));
    play_ = new QPushButton(tr("Show the runs"));
    play_->setEnabled(false);
    progress_ = new QProgressBar;
    progress_->setTextVisible(false), progress_->setMaximumHeight(6);
    answer_ = new QLabel;
    answer_->setWordWrap(true);
    answer_->setMinimumHeight(fontMetrics().height() * 3);
    auto* left = new QVBoxLayout;
    left->setSpacing(4);
    auto* ends = new QHBoxLayout;
    ends->addWidget(from_, 1), ends->addWidget(new QLabel(QStringLiteral("→"))), ends->addWidget(to_, 1);
    auto* who = new QHBoxLayout;
    who->addWidget(runs_), who->addWidget(skill_, 1), who->addWidget(within_), who->addWidget(run_);
    left->addLayout(ends), left->addLayout(who), left->addWidget(progress_), left->addWidget(answer_);
    left->addStretch();
    moment_ = new QSlider(Qt::Horizontal);
    moment_->setAccessibleName(tr("Moment of the runs"));
    moment_->setEnabled(false);
    auto* watch = new QHBoxLayout;
    watch->addWidget(play_), watch->addWidget(moment_, 1), watch->addWidget(heat_);
    left->addLayout(watch);

    auto* chart = new QChart;
    chart->legend()->hide();
    chart->setMargins({0, 0, 0, 0});
    chart->setBackgroundVisible(false);
    QFont small = font();
    small.setPixelSize(fontInfo().pixelSize() * 9 / 10);
    chart->setTitleFont(small);
    times_ = new QChartView(chart);
    times_->setRenderHint(QPainter::Antialiasing);
    times_->setFrameShape(QFrame::NoFrame);
    times_->setAccessibleName(tr("Times of those who arrive"));
    times_->setMinimumSize(120, 60);
    costs_ = new QListWidget;
    costs_->setAccessibleName(tr("What costs players most"));

    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(14, 4, 14, 4);
    row->setSpacing(12);
    row->addLayout(left, 3), row->addWidget(times_, 4), row->addWidget(costs_, 4);

    connect(run_, &QPushButton::clicked, this, &PlayersPage::run_or_stop);
    connect(this, &PlayersPage::progressed, progress_, &QProgressBar::setValue);
    connect(this, &PlayersPage::found, this,
            [this](quint64 request, const std::shared_ptr<const study::Crowd>& crowd,
                   const std::shared_ptr<const study::Exploration>& exploration, const QString& why_not) {
                if (request == request_) take(crowd, exploration, why_not);
            });
    connect(skill_, &QComboBox::currentIndexChanged, this, [this] { within_->setVisible(exploring()); });
    connect(heat_, &QComboBox::activated, this, [this](int which) {
        Studies studies = session_.studies();
        studies.heat = Heat(which);
        session_.set_studies(std::move(studies));
    });
    connect(moment_, &QSlider::valueChanged, this, [this](int tenths) { set_moment(tenths / 10.0); });
    clock_.setInterval(k_frame_ms);
    connect(play_, &QPushButton::clicked, this, [this] {
        if (clock_.isActive()) return clock_.stop();
        if (moment_->value() >= moment_->maximum()) moment_->setValue(0);
        clock_.start();
    });
    connect(&clock_, &QTimer::timeout, this, [this] {
        const double now = session_.studies().crowd_s + k_frame_ms / 1000.0;
        if (!session_.studies().crowd || now * 10 > moment_->maximum()) return clock_.stop();
        const QSignalBlocker block(moment_);
        moment_->setValue(int(now * 10));
        set_moment(now);
    });
    connect(costs_, &QListWidget::currentRowChanged, this, [this](int at) {
        if (at >= 0 && size_t(at) < places_.size()) emit spanShown(places_[size_t(at)]);
    });
    connect(&session_, &Session::levelChanged, this, &PlayersPage::offer_ends);
    connect(&session_, &Session::levelChanged, this, &PlayersPage::forget);
    connect(&session_, &Session::levelChanged, this, &PlayersPage::offer_skills);
    for (QComboBox* box : {from_, to_})
        connect(box, &QComboBox::activated, this, [box] { box->setProperty(k_chosen, true); });
    connect(&session_, &Session::documentOpened, this, [this] {
        for (QComboBox* box : {from_, to_}) box->setProperty(k_chosen, false);
        offer_ends();
    });
    offer_ends(), offer_skills();
    within_->hide();
}

void PlayersPage::offer_ends() {
    for (QComboBox* box : {from_, to_}) {
        const QString before = box->currentData().toString();
        const Role usual = box == from_ ? Role::start : Role::goal;
        box->clear();
        int at = -1;
        for (const Item* item : elements_of(session_.level())) {
            const Role role = role_of(*item->element());
            if (role == Role::note || role == Role::device) continue;
            const QString id = QString::fromStdString(item->id.value);
            box->addItem(QString::fromStdString(item->title()), id);
            const bool chosen = box->property(k_chosen).toBool();
            if (chosen ? id == before : at < 0 && role == usual) at = box->count() - 1;
        }
        box->setCurrentIndex(at >= 0 ? at : 0);
    }
}

void PlayersPage::offer_skills() {
    const QString before = skill_->currentText();
    skill_->clear();
    for (const Skill& skill : skills_of(session_.project()))
        skill_->addItem(QString::fromStdString(skill.name));
    skill_->addItem(tr("exact"));
    skill_->addItem(tr("not knowing the way"), true);
    if (const int at = skill_->findText(before); at >= 0) skill_->setCurrentIndex(at);
}

bool PlayersPage::exploring() const { return skill_->currentData().toBool(); }

void PlayersPage::forget() {
    clock_.stop();
    if (running_) jobs_.drop();
    running_ = false, request_ = 0;
    run_->setText(tr("Let them play"));
    progress_->setValue(0);
    answer_->clear(), costs_->clear(), places_.clear();
    times_->chart()->removeAllSeries();
    times_->chart()->setTitle({});
    for (QAbstractAxis* axis : times_->chart()->axes()) times_->chart()->removeAxis(axis);
    play_->setEnabled(false), moment_->setEnabled(false);
}

void PlayersPage::run_or_stop() {
    const bool was_running = running_;
    forget();
    if (was_running) return emit session_.message(tr("Stopped"));
    const auto& result = session_.built().check;
    if (!result || !session_.up_to_date())
        return emit session_.message(tr("The level is being checked; ask again in a moment"));
    Job job{session_.project(),
            session_.level(),
            result,
            {from_->currentData().toString().toStdString()},
            {to_->currentData().toString().toStdString()},
            {},
            exploring() ? double(within_->value()) : 0};
    const std::vector<Skill> skills = skills_of(session_.project());
    const int at = skill_->currentIndex();
    job.options.skill = at >= 0 && size_t(at) < skills.size() ? skills[size_t(at)] : Skill{"exact"};
    job.options.runs = runs_->value(), job.options.tracks = k_seen;
    running_ = true;
    run_->setText(tr("Stop"));
    answer_->setText(tr("They play…"));
    request_ = jobs_.ask(std::move(job));
}

void PlayersPage::work(const Job& job, uint64_t number, const Cancel& cancel) {
    study::PlayersOptions options = job.options;
    options.cancel = cancel;
    options.progress = [this](double part) { emit progressed(int(part * 100)); };
    if (job.within_s > 0) {
        study::ExplorersOptions exploring;
        exploring.runs = options.runs, exploring.tracks = options.tracks, exploring.within_s = job.within_s;
        exploring.cancel = cancel, exploring.progress = options.progress;
        auto explored = study::run_explorers(job.project, job.level, job.from, job.to, exploring);
        if (cancel.requested()) return;
        if (!explored)
            return emit found(number, nullptr, nullptr, QString::fromStdString(explored.error().message));
        const auto shared = std::make_shared<const study::Exploration>(std::move(*explored));
        return emit found(number, {shared, &shared->crowd}, shared, {});
    }
    const auto crowd = study::run_players(job.level, *job.result, job.from, job.to, options);
    if (cancel.requested()) return;
    if (!crowd) return emit found(number, nullptr, nullptr, QString::fromStdString(crowd.error().message));
    emit found(number, std::make_shared<const study::Crowd>(std::move(*crowd)), nullptr, {});
}

void PlayersPage::take(const std::shared_ptr<const study::Crowd>& crowd,
                       const std::shared_ptr<const study::Exploration>& exploration, const QString& why_not) {
    running_ = false;
    run_->setText(tr("Let them play"));
    progress_->setValue(100);
    if (!crowd) return answer_->setText(tr("%1 %2.").arg(to_->currentText(), why_not));
    const QString how_many = exploration
                                 ? tr("<b>%1 of %2 find it</b>: %3, between %4 and %5 with 95 % confidence.")
                                 : tr("<b>%1 of %2 arrive</b>: %3, between %4 and %5 with 95 % confidence.");
    answer_->setText(how_many.arg(crowd->arrived)
                         .arg(crowd->runs.size())
                         .arg(percent(crowd->share), percent(crowd->low), percent(crowd->high)) +
                     QLatin1Char(' ') +
                     (exploration ? tr("Doors count as open, lifts as ways.")
                                  : tr("The route takes %1 s.").arg(crowd->route_s, 0, 'f', 1)));
    exploration ? list_areas(*exploration) : list_costs(*crowd);
    heat_->setCurrentIndex(int(exploration ? Heat::visits : Heat::falls));
    show_times(*crowd);
    Studies studies = session_.studies();
    studies.crowd = crowd, studies.crowd_s = 0;
    studies.exploration = exploration, studies.heat = Heat(heat_->currentIndex());
    session_.set_studies(std::move(studies));
    moment_->setRange(0, int(std::ceil(longest_s(*crowd) * 10)));
    moment_->setValue(0);
    play_->setEnabled(true), moment_->setEnabled(true);
}

/// What leaps cost all of them.
void PlayersPage::list_costs(const study::Crowd& crowd) {
    for (const study::Crowd::Cost& cost : crowd.costs) {
        Vec3 at = crowd.runs.empty()                       ? Vec3(0)
                  : session_.built().check->starts.empty() ? Vec3(0)
                                                           : session_.built().check->starts[0];
        QString where = tr("On the way between leaps");
        if (cost.link >= 0) {
            const check::Link& link = *crowd.links[size_t(cost.link)];
            at = (link.take_off + link.landing) * 0.5;
            where = tr("Leap of %1 at %2, %3")
                        .arg(metres_text(glm::length(link.landing - link.take_off)))
                        .arg(link.take_off.x, 0, 'f', 1)
                        .arg(session_.level().frame == Frame::side ? link.take_off.z : link.take_off.y, 0,
                             'f', 1);
        }
        places_.push_back(at);
        costs_->addItem(tr("%1\n%2, %3 · %4 s lost in all")
                            .arg(where, counted(cost.misses, tr("miss"), tr("misses")),
                                 counted(cost.deaths, tr("death"), tr("deaths")))
                            .arg(cost.lost_s, 0, 'f', 0));
    }
    if (crowd.costs.empty()) costs_->addItem(tr("Nobody missed anything"));
}

/// Where one gets lost: what nobody finds, the largest first, and where they go round in circles.
void PlayersPage::list_areas(const study::Exploration& exploration) {
    constexpr size_t k_listed = 6;
    constexpr double k_least_m2 = 1;
    const auto list = [&](std::vector<study::Exploration::Area> areas, const auto& more, const auto& text) {
        std::stable_sort(areas.begin(), areas.end(), more);
        for (size_t i = 0; i < std::min(areas.size(), k_listed); ++i) {
            places_.push_back(areas[i].at);
            costs_->addItem(
                text(areas[i]) +
                tr(" at %1, %2")
                    .arg(areas[i].at.x, 0, 'f', 1)
                    .arg(session_.level().frame == Frame::side ? areas[i].at.z : areas[i].at.y, 0, 'f', 1));
        }
    };
    std::vector<study::Exploration::Area> lost, circled;
    for (const auto& area : exploration.areas) {
        if (area.found_by == 0 && area.area_m2 >= k_least_m2) lost.push_back(area);
        if (area.circles * 10 > int(exploration.crowd.runs.size())) circled.push_back(area);
    }
    list(
        circled, [](const auto& a, const auto& b) { return a.circles > b.circles; },
        [&](const auto& area) { return tr("%1 came three times or more").arg(area.circles); });
    list(
        lost, [](const auto& a, const auto& b) { return a.area_m2 > b.area_m2; },
        [&](const auto& area) { return tr("Nobody finds %1 m²").arg(area.area_m2, 0, 'f', 0); });
    if (places_.empty()) costs_->addItem(tr("Nobody goes in circles, and all ground is found"));
}

void PlayersPage::show_times(const study::Crowd& crowd) {
    if (crowd.times_s.empty()) return;
    const double low = std::floor(crowd.times_s.front()),
                 high = std::max(std::ceil(crowd.times_s.back()), low + 1);
    const double wide = (high - low) / k_bars;
    auto* set = new QBarSet(tr("Players"));
    set->setColor(color::sea_green);
    set->setBorderColor(color::sea_green);
    QStringList names;
    std::vector<int> counts(k_bars, 0);
    for (const double time : crowd.times_s) ++counts[size_t(std::min(int((time - low) / wide), k_bars - 1))];
    for (int i = 0; i < k_bars; ++i) {
        *set << counts[size_t(i)];
        names << QString::number(low + (i + 0.5) * wide, 'f', wide < 2 ? 1 : 0);
    }
    auto* series = new QBarSeries;
    series->setBarWidth(0.9);
    series->append(set);
    QChart* chart = times_->chart();
    chart->addSeries(series);
    auto* x = new QBarCategoryAxis;
    x->append(names);
    auto* y = new QValueAxis;
    y->setRange(0, *std::max_element(counts.begin(), counts.end()));
    y->setLabelFormat(QStringLiteral("%d"));
    y->setTickCount(3);
    for (QAbstractAxis* axis : {static_cast<QAbstractAxis*>(x), static_cast<QAbstractAxis*>(y)}) {
        axis->setLabelsColor(color::faint_ink);
        axis->setGridLineColor(color::line);
        axis->setLabelsFont(chart->titleFont());
    }
    chart->addAxis(x, Qt::AlignBottom), chart->addAxis(y, Qt::AlignLeft);
    series->attachAxis(x), series->attachAxis(y);
    chart->setTitle(tr("How many arrive after so many seconds"));
    chart->setTitleBrush(color::faint_ink);
}

void PlayersPage::set_moment(double seconds) {
    Studies studies = session_.studies();
    if (!studies.crowd) return;
    studies.crowd_s = seconds;
    session_.set_studies(std::move(studies));
}

} // namespace rubble::app
