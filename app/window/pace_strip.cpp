#include "window/pace_strip.h"

#include <QGuiApplication>
#include <QHelpEvent>
#include <QMouseEvent>
#include <QTimer>
#include <QToolTip>

#include "numbers.h"
#include "sentences.h"

namespace rubble::app {

PaceStrip::PaceStrip(Session& session, QWidget* parent)
    : QWidget(parent),
      session_(session),
      jobs_([this](const Job& job, uint64_t number, const Cancel& cancel) {
          const check::Pace pace = check::pace_of(job.project, job.level, *job.result, job.witness);
          if (!cancel.requested()) emit paceFound(number, pace);
      }) {
    qRegisterMetaType<check::Pace>();
    connect(this, &PaceStrip::paceFound, this, [this](quint64 request, const check::Pace& pace) {
        if (request != request_) return;
        pace_ = pace;
        update();
    });
    setMouseTracking(true);
    setAccessibleName(tr("Pace strip"));
    connect(&session_, &Session::builtChanged, this, &PaceStrip::take_result);
    connect(&session_, &Session::studiesChanged, this, [this] {
        if (session_.studies().version != laid_over_) lay_earlier_over(), update();
    });
    connect(&session_, &Session::partEffectsChanged, this, qOverload<>(&QWidget::update));
    connect(&session_, &Session::stageChanged, this, qOverload<>(&QWidget::update));
    connect(&session_, &Session::documentOpened, this, [this] {
        run_ = {}, marks_.clear(), title_.clear(), shown_version_ = 0, earlier_.reset();
        fit();
    });
    fit();
}

QSize PaceStrip::minimumSizeHint() const {
    return {200, run_.bodies.empty() ? fontMetrics().height() + 10 : fontMetrics().height() * 6};
}

QSize PaceStrip::sizeHint() const {
    return {600, run_.bodies.empty() ? minimumSizeHint().height() : fontMetrics().height() * 8};
}

/// As high as what there is to say.
void PaceStrip::fit() {
    constexpr int k_later_ms = 150;
    if (QGuiApplication::mouseButtons() != Qt::NoButton) { // nothing moves under a hand that drags
        QTimer::singleShot(k_later_ms, this, &PaceStrip::fit);
        return;
    }
    setMaximumHeight(run_.bodies.empty() ? minimumSizeHint().height() : QWIDGETSIZE_MAX);
    updateGeometry();
    emit heightChanged();
}

void PaceStrip::take_result() {
    const Built& built = session_.built();
    if (!built.check || built.version == shown_version_ || built.check->timing.total_ms == 0) return;
    if (!session_.up_to_date()) return;
    shown_version_ = built.version;
    show_run(nullptr, {});
}

void PaceStrip::show_run(const check::Witness* witness, const QString& title) {
    const auto& result = session_.built().check;
    if (!result) return;
    if (witness) {
        take(*witness, title);
        return;
    }
    run_ = {}, marks_.clear(), title_.clear(), pace_.reset(), request_ = 0, earlier_.reset();
    for (size_t i = 0; i < result->claims.size() && i < session_.level().claims.size() && run_.bodies.empty();
         ++i) {
        const Claim& claim = session_.level().claims[i];
        const auto& judged = result->claims[i];
        if (claim.kind != Claim::Kind::reaches || judged.state != check::ClaimState::holds || !judged.witness)
            continue;
        const Item *from = find_item(session_.level(), claim.from),
                   *to = find_item(session_.level(), claim.to);
        if (from && to) take(*judged.witness, QString::fromStdString(from->title() + " → " + to->title()));
    }
    for (const auto& place : result->places) {
        const Item* item = find_item(session_.level(), place.item);
        if (!run_.bodies.empty() || !place.witness || !item) continue;
        const Role role = role_of(*item->element());
        if (role == Role::start || role == Role::device) continue; // nobody wants to get there
        take(*place.witness, tr("Start → %1").arg(QString::fromStdString(item->title())));
    }
    fit();
    update();
    emit runChanged();
}

void PaceStrip::take(const check::Witness& witness, const QString& title) {
    const auto& result = session_.built().check;
    title_ = title;
    pace_.reset();
    request_ = jobs_.ask({session_.project(), session_.level(), result, witness});
    run_ = motion::played(*result->world, session_.character(), witness.recording);
    witness_ = witness;
    marks_ = marks_of(session_.project(), *result, witness, run_);
    lay_earlier_over();
    fit();
    update();
    emit runChanged();
}

std::vector<PaceStrip::Mark> PaceStrip::marks_of(const Project& project, const check::CheckResult& result,
                                                 const check::Witness& witness,
                                                 const motion::PlayedRun& run) {
    std::vector<Mark> out;
    for (const auto& leg : witness.legs) {
        if (!leg.link || leg.link->kind == check::LinkKind::drop) continue;
        const check::Span span = span_of(*result.ground, *result.world, result.character, project, *leg.link);
        size_t begin = size_t(leg.first_step);
        while (begin < run.bodies.size() && run.bodies[begin].standing) ++begin;
        size_t end = begin;
        while (end < run.bodies.size() && !run.bodies[end].standing) ++end;
        const QString size =
            span.gap_m >= 0.3 ? metres_text(span.gap_m) : tr("%1 up").arg(metres_text(span.rise_m));
        out.push_back({double(begin) * motion::step_s, double(end) * motion::step_s, size, span});
    }
    return out;
}

void PaceStrip::lay_earlier_over() {
    laid_over_ = session_.studies().version;
    earlier_.reset();
    const auto& now = session_.built().check;
    if (!laid_over_ || run_.bodies.empty() || !now) return;
    const check::CheckResult& was = *laid_over_->check;
    const check::Witness* run = study::same_run(was, *now, witness_);
    if (!run) return;
    Earlier earlier{motion::played(*was.world, was.character, run->recording), {}};
    earlier.marks = marks_of(session_.project(), was, *run, earlier.run);
    earlier_ = std::move(earlier);
}

std::vector<check::Span> PaceStrip::spans() const {
    std::vector<check::Span> out;
    for (const Mark& mark : marks_) out.push_back(mark.span);
    return out;
}

double PaceStrip::seconds() const {
    return run_.bodies.empty() ? 0 : double(run_.bodies.size() - 1) * motion::step_s;
}

std::vector<Vec3> PaceStrip::route() const {
    std::vector<Vec3> out;
    for (size_t i = 0; i < run_.bodies.size(); i += 6) out.push_back(run_.bodies[i].at);
    if (!run_.bodies.empty()) out.push_back(run_.bodies.back().at);
    return out;
}

void PaceStrip::set_moment(std::optional<double> seconds) {
    moment_ = seconds;
    update();
}

double PaceStrip::x_of(double s) const {
    const double left = pace_title_px, right = width() - pace_margin_px;
    return left + (right - left) * (longest_s() > 0 ? s / longest_s() : 0);
}

/// Of what is shown.
double PaceStrip::longest_s() const {
    const size_t earlier = earlier_ ? earlier_->run.bodies.size() : 0;
    return std::max(seconds(), earlier > 0 ? double(earlier - 1) * motion::step_s : 0);
}

namespace {

/// How near to a sign the pointer is at it (pixels).
constexpr double k_at_sign_px = 9;

} // namespace

QString PaceStrip::said_at(QPointF at) const {
    if (!pace_ || run_.bodies.size() < 2) return {};
    const auto is_at = [&](double seconds) { return std::abs(x_of(seconds) - at.x()) < k_at_sign_px; };
    for (const check::Pace::Remark& remark : pace_->remarks)
        if (is_at(remark.at_s)) return in_words(remark.says, session_.level());
    for (const check::Pace::Event& event : pace_->events)
        if (const Item* item = find_item(session_.level(), event.item);
            item && is_at(event.at_s) && at.y() < 2 * pace_signs_px)
            return tr("%1 after %2 s").arg(QString::fromStdString(item->title())).arg(event.at_s, 0, 'f', 1);
    for (const check::Pace::Window& window : pace_->windows) {
        const double end = window.begin_s + check::pace_window_s;
        if (at.x() < x_of(window.begin_s) || at.x() >= x_of(end)) continue;
        QString text = tr("%1 to %2 s: %3 climbed, %4, effort %5")
                           .arg(window.begin_s, 0, 'f', 0)
                           .arg(std::min(end, seconds()), 0, 'f', 0)
                           .arg(metres_text(window.climbed_m), counted(window.spans, tr("span"), tr("spans")))
                           .arg(window.effort, 0, 'f', 0);
        if (window.dangers > 0)
            text += tr(", %1 near").arg(counted(window.dangers, tr("danger"), tr("dangers")));
        if (window.corridor_m > 0) text += tr(", %1 wide").arg(metres_text(window.corridor_m));
        return text + tr(", one sees %1 ahead").arg(metres_text(window.view_m));
    }
    return {};
}

bool PaceStrip::event(QEvent* event) {
    if (event->type() != QEvent::ToolTip) return QWidget::event(event);
    const auto* help = static_cast<QHelpEvent*>(event);
    const QString text = said_at(help->pos());
    text.isEmpty() ? QToolTip::hideText() : QToolTip::showText(help->globalPos(), text, this);
    return true;
}

motion::PlayState PaceStrip::play_at(size_t step) const { return run_.at(step); }

void PaceStrip::mouseMoveEvent(QMouseEvent* event) {
    const double left = x_of(0), right = x_of(seconds());
    if (run_.bodies.size() < 2 || event->position().x() < left || event->position().x() > right) return;
    const double s = (event->position().x() - left) / (right - left) * seconds();
    set_moment(s);
    emit pointedAt(play_at(size_t(s / motion::step_s)));
}

void PaceStrip::leaveEvent(QEvent*) {
    set_moment({});
    emit pointedAt({});
}

} // namespace rubble::app
