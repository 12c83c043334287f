#include "window/pace_strip.h"

#include <QGuiApplication>
#include <QHelpEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QTimer>
#include <QToolTip>

#include "numbers.h"
#include "sentences.h"
#include "theme.h"
#include "view/overlay.h"

namespace rubble::app {

namespace {

constexpr int k_title_width = 190;
constexpr int k_margin = 14;

/// Why there is no run to show, and what to do about it.
QString missing_for_route(const Session& session) {
    const auto& result = session.built().check;
    if (session.level().part) {
        const PartEffects& effects = session.part_effects();
        const QString places =
            PaceStrip::tr("A change here changes %1 in %2")
                .arg(counted(effects.places, PaceStrip::tr("place"), PaceStrip::tr("places")),
                     counted(effects.levels, PaceStrip::tr("level"), PaceStrip::tr("levels")));
        if (effects.broken.empty()) return places + '.';
        return PaceStrip::tr("%1; %2 would fail.")
            .arg(places,
                 counted(int(effects.broken.size()), PaceStrip::tr("claim"), PaceStrip::tr("claims")));
    }
    if (!result || result->starts.empty() || result->goals.empty())
        return PaceStrip::tr("Place a start and a goal in Populate, or claim in Check that one reaches the "
                             "other.");
    return result->complete ? PaceStrip::tr("The goal is not reached. What is missing stands in Check.")
                            : PaceStrip::tr("The level is being checked.");
}

} // namespace

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
    connect(&session_, &Session::partEffectsChanged, this, qOverload<>(&QWidget::update));
    connect(&session_, &Session::documentOpened, this, [this] {
        run_ = {}, marks_.clear(), title_.clear(), shown_version_ = 0;
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
    run_ = {}, marks_.clear(), title_.clear(), pace_.reset(), request_ = 0;
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
    marks_.clear();
    for (const auto& leg : witness.legs) {
        if (!leg.link || leg.link->kind == check::LinkKind::drop) continue;
        const check::Span span =
            span_of(*result->ground, *result->world, session_.character(), session_.project(), *leg.link);
        size_t begin = size_t(leg.first_step);
        while (begin < run_.bodies.size() && run_.bodies[begin].standing) ++begin;
        size_t end = begin;
        while (end < run_.bodies.size() && !run_.bodies[end].standing) ++end;
        const QString size =
            span.gap_m >= 0.3 ? metres_text(span.gap_m) : tr("%1 up").arg(metres_text(span.rise_m));
        marks_.push_back({double(begin) * motion::step_s, double(end) * motion::step_s, size, span});
    }
    fit();
    update();
    emit runChanged();
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
    const double left = k_title_width, right = width() - k_margin;
    return left + (right - left) * (seconds() > 0 ? s / seconds() : 0);
}

void PaceStrip::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), color::paper);
    painter.setPen(color::line);
    painter.drawLine(0, 0, width(), 0);
    QFont bold = font();
    bold.setBold(true);
    painter.setPen(color::ink);
    painter.setFont(bold);
    if (run_.bodies.size() < 2) { // one line, however high the strip is
        constexpr auto k_in_line = Qt::AlignLeft | Qt::AlignVCenter | Qt::TextSingleLine;
        painter.drawText(QRectF(k_margin, 0, k_title_width - k_margin, height()), k_in_line,
                         session_.level().part ? tr("Part of levels") : tr("No route yet"));
        painter.setFont(font());
        painter.setPen(color::faint_ink);
        const QRectF room(k_title_width, 0, width() - k_title_width - k_margin, height());
        const QString text = missing_for_route(session_);
        painter.drawText(room, k_in_line, fontMetrics().elidedText(text, Qt::ElideRight, int(room.width())));
        return;
    }
    const QRectF head(k_margin, 10, k_title_width - 2 * k_margin, 40);
    painter.drawText(head, Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap, title_);
    painter.setFont(font());
    painter.setPen(color::faint_ink);
    double length = 0;
    for (size_t i = 1; i < run_.bodies.size(); ++i)
        length += glm::length(flat(run_.bodies[i].at - run_.bodies[i - 1].at));
    painter.drawText(QRectF(k_margin, 48, k_title_width - k_margin, 40), Qt::AlignLeft | Qt::AlignTop,
                     tr("%1 s · %2 m\n%3")
                         .arg(seconds(), 0, 'f', 1)
                         .arg(length, 0, 'f', 0)
                         .arg(counted(int(marks_.size()), tr("span"), tr("spans"))));

    double low = run_.bodies[0].at.z, high = low;
    for (const auto& state : run_.bodies) low = std::min(low, state.at.z), high = std::max(high, state.at.z);
    const double top = 22, bottom = height() - 26;
    auto y_of = [&](double z) {
        return bottom - (high > low ? (z - low) / std::max(high - low, 2.0) : 0) * (bottom - top);
    };

    const double step = seconds() > 40 ? 10 : seconds() > 16 ? 5 : seconds() > 6 ? 2 : 1;
    for (double s = 0; s <= seconds(); s += step) {
        painter.setPen(QPen(color::line, 1));
        painter.drawLine(QPointF(x_of(s), 8), QPointF(x_of(s), bottom + 6));
        painter.setPen(color::faint_ink);
        painter.drawText(QRectF(x_of(s) - 24, bottom + 6, 48, 18), Qt::AlignCenter,
                         tr("%1 s").arg(s, 0, 'f', 0));
    }
    if (pace_) paint_pace(painter, top, bottom);
    // Ground: a dark line while standing. Air: the arc in its grade's colour.
    auto state_at = [&](double s) {
        return run_.bodies[std::min(run_.bodies.size() - 1, size_t(s / motion::step_s))];
    };
    QPolygonF ground;
    for (size_t i = 0; i < run_.bodies.size(); i += 2) {
        const double s = double(i) * motion::step_s;
        bool in_span = false;
        for (const Mark& mark : marks_) in_span |= s > mark.begin_s && s < mark.end_s;
        if (in_span) {
            painter.setPen(QPen(color::ink, 2));
            painter.drawPolyline(ground);
            ground.clear();
            continue;
        }
        ground << QPointF(x_of(s), y_of(run_.bodies[i].at.z));
    }
    painter.setPen(QPen(color::ink, 2));
    painter.drawPolyline(ground);
    for (const Mark& mark : marks_) {
        QPolygonF arc;
        for (double s = mark.begin_s - 0.02; s <= mark.end_s + 0.02; s += motion::step_s)
            arc << QPointF(x_of(std::max(s, 0.0)), y_of(state_at(std::max(s, 0.0)).at.z));
        painter.setPen(QPen(grade_color(mark.span.grade), 2.6,
                            mark.span.grade == check::Grade::tight ? Qt::DashLine : Qt::SolidLine));
        painter.drawPolyline(arc);
        painter.setPen(grade_color(mark.span.grade).darker(130));
        const double middle = x_of((mark.begin_s + mark.end_s) / 2);
        painter.drawText(QRectF(middle - 50, 4, 100, 16), Qt::AlignCenter, mark.text);
    }
    if (moment_) {
        const auto s = state_at(*moment_);
        painter.setPen(QPen(color::accent, 1.6));
        painter.drawLine(QPointF(x_of(*moment_), 6), QPointF(x_of(*moment_), bottom + 6));
        painter.setBrush(color::accent);
        painter.drawEllipse(QPointF(x_of(*moment_), y_of(s.at.z)), 4, 4);
    }
}

namespace {

/// How high the bars of effort are at most, and how much effort that is.
constexpr double k_bar_px = 22, k_much_effort = 120;
/// How near to a sign the pointer is at it (pixels).
constexpr double k_at_sign_px = 9;
constexpr double k_signs_y = 28; // below the sizes of spans

} // namespace

/// Rests as light bands, effort as bars that stand on the time line, what is met as signs, and remarks.
void PaceStrip::paint_pace(QPainter& painter, double top, double bottom) {
    painter.setPen(Qt::NoPen);
    for (const check::Pace::Rest& rest : pace_->rests) {
        QColor calm = color::sea_green;
        calm.setAlphaF(0.10f);
        painter.fillRect(QRectF(QPointF(x_of(rest.begin_s), top), QPointF(x_of(rest.end_s), bottom + 6)),
                         calm);
    }
    for (const check::Pace::Window& window : pace_->windows) {
        const double high = std::min(window.effort / k_much_effort, 1.0) * k_bar_px;
        const double end = std::min(window.begin_s + check::pace_window_s, seconds());
        QColor ink = window.dangers > 0 ? color::plum : color::ochre;
        ink.setAlphaF(0.35f);
        painter.fillRect(
            QRectF(QPointF(x_of(window.begin_s) + 1, bottom + 6 - high), QPointF(x_of(end) - 1, bottom + 6)),
            ink);
    }
    for (const check::Pace::Event& event : pace_->events) {
        const Item* item = find_item(session_.level(), event.item);
        if (!item || !item->element()) continue;
        painter.save();
        painter.translate(x_of(event.at_s), k_signs_y);
        painter.scale(0.6, 0.6);
        draw_element(painter, {0, 0}, kind_of(*item->element()), false);
        painter.restore();
    }
    for (const check::Pace::Remark& remark : pace_->remarks) {
        const QPointF at(x_of(remark.at_s), bottom + 2);
        painter.setPen(QPen(color::paper, 1));
        painter.setBrush(color::ochre);
        painter.drawPolygon(QPolygonF{at + QPointF(-6, 6), at + QPointF(6, 6), at + QPointF(0, -6)});
    }
    painter.setBrush(Qt::NoBrush);
}

QString PaceStrip::said_at(QPointF at) const {
    if (!pace_ || run_.bodies.size() < 2) return {};
    const auto is_at = [&](double seconds) { return std::abs(x_of(seconds) - at.x()) < k_at_sign_px; };
    for (const check::Pace::Remark& remark : pace_->remarks)
        if (is_at(remark.at_s)) return in_words(remark.says, session_.level());
    for (const check::Pace::Event& event : pace_->events)
        if (const Item* item = find_item(session_.level(), event.item);
            item && is_at(event.at_s) && at.y() < 2 * k_signs_y)
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
