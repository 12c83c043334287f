#include <cmath>

#include <QPainter>

#include "numbers.h"
#include "theme.h"
#include "view/overlay.h"
#include "window/pace_strip.h"

namespace rubble::app {

namespace {

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

/// What the run is, how long, and how long it was.
void PaceStrip::paint_head(QPainter& painter) const {
    const double wide = pace_title_px - 2 * pace_margin_px, line = fontMetrics().height();
    constexpr double k_top_px = 8, k_gap_px = 3;
    QRectF title;
    painter.drawText(QRectF(pace_margin_px, k_top_px, wide, 2 * line), Qt::AlignLeft | Qt::TextWordWrap,
                     title_, &title);
    double length = 0;
    for (size_t i = 1; i < run_.bodies.size(); ++i)
        length += glm::length(flat(run_.bodies[i].at - run_.bodies[i - 1].at));
    painter.setFont(font());
    double y = std::min(title.bottom(), k_top_px + 2 * line) + k_gap_px;
    const auto put = [&](const QString& text, const QColor& ink) {
        painter.setPen(ink);
        painter.drawText(QRectF(pace_margin_px, y, pace_title_px - pace_margin_px, line), Qt::AlignLeft,
                         text);
        y += line;
    };
    put(tr("%1 s · %2 m").arg(seconds(), 0, 'f', 1).arg(length, 0, 'f', 0), color::faint_ink);
    put(counted(int(marks_.size()), tr("span"), tr("spans")), color::faint_ink);
    if (!laid_over_) return;
    const double was = earlier_ ? double(earlier_->run.bodies.size() - 1) * motion::step_s : 0;
    put(earlier_ ? tr("before: %1 s, %2")
                       .arg(was, 0, 'f', 1)
                       .arg(counted(int(earlier_->marks.size()), tr("span"), tr("spans")))
                 : tr("before: no such route"),
        color::blue_grey);
}

/// Ground: a dark line while standing. Air: the arc in its grade's colour. An earlier run is faint and
/// broken.
void PaceStrip::paint_run(QPainter& painter, const motion::PlayedRun& run, const std::vector<Mark>& marks,
                          const Heights& heights, bool earlier) const {
    const auto state_at = [&](double s) -> const motion::State& {
        return run.bodies[std::min(run.bodies.size() - 1, size_t(s / motion::step_s))];
    };
    const QPen on_ground(earlier ? color::blue_grey : color::ink, earlier ? 1.4 : 2,
                         earlier ? Qt::DashLine : Qt::SolidLine);
    QPolygonF ground;
    for (size_t i = 0; i < run.bodies.size(); i += 2) {
        const double s = double(i) * motion::step_s;
        bool in_span = false;
        for (const Mark& mark : marks) in_span |= s > mark.begin_s && s < mark.end_s;
        if (in_span) {
            painter.setPen(on_ground);
            painter.drawPolyline(ground);
            ground.clear();
            continue;
        }
        ground << QPointF(x_of(s), heights.y_of(run.bodies[i].at.z));
    }
    painter.setPen(on_ground);
    painter.drawPolyline(ground);
    for (const Mark& mark : marks) {
        QPolygonF arc;
        for (double s = mark.begin_s - 0.02; s <= mark.end_s + 0.02; s += motion::step_s)
            arc << QPointF(x_of(std::max(s, 0.0)), heights.y_of(state_at(std::max(s, 0.0)).at.z));
        QColor ink = grade_color(mark.span.grade);
        if (earlier) ink.setAlphaF(0.45f);
        painter.setPen(
            QPen(ink, earlier ? 1.6 : 2.6,
                 earlier || mark.span.grade == check::Grade::tight ? Qt::DashLine : Qt::SolidLine));
        painter.drawPolyline(arc);
        if (earlier) continue;
        painter.setPen(grade_color(mark.span.grade).darker(130));
        const double middle = x_of((mark.begin_s + mark.end_s) / 2);
        painter.drawText(QRectF(middle - 50, 4, 100, 16), Qt::AlignCenter, mark.text);
    }
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
        painter.drawText(QRectF(pace_margin_px, 0, pace_title_px - pace_margin_px, height()), k_in_line,
                         session_.level().part ? tr("Part of levels") : tr("No route yet"));
        painter.setFont(font());
        painter.setPen(color::faint_ink);
        const QRectF room(pace_title_px, 0, width() - pace_title_px - pace_margin_px, height());
        const QString text = missing_for_route(session_);
        painter.drawText(room, k_in_line, fontMetrics().elidedText(text, Qt::ElideRight, int(room.width())));
        return;
    }
    paint_head(painter);
    double low = run_.bodies[0].at.z, high = low;
    const auto take_in = [&](const motion::PlayedRun& run) {
        for (const auto& state : run.bodies)
            low = std::min(low, state.at.z), high = std::max(high, state.at.z);
    };
    take_in(run_);
    if (earlier_) take_in(earlier_->run);
    const double top = 22, bottom = height() - 26;
    const Heights heights{low, high, top, bottom};
    const double all = longest_s(), step = all > 40 ? 10 : all > 16 ? 5 : all > 6 ? 2 : 1;
    for (double s = 0; s <= all; s += step) {
        painter.setPen(QPen(color::line, 1));
        painter.drawLine(QPointF(x_of(s), 8), QPointF(x_of(s), bottom + 6));
        painter.setPen(color::faint_ink);
        painter.drawText(QRectF(x_of(s) - 24, bottom + 6, 48, 18), Qt::AlignCenter,
                         tr("%1 s").arg(s, 0, 'f', 0));
    }
    if (pace_) paint_pace(painter, top, bottom);
    if (earlier_) paint_run(painter, earlier_->run, earlier_->marks, heights, true);
    paint_run(painter, run_, marks_, heights, false);
    if (moment_) {
        const auto& s = run_.bodies[std::min(run_.bodies.size() - 1, size_t(*moment_ / motion::step_s))];
        painter.setPen(QPen(color::accent, 1.6));
        painter.drawLine(QPointF(x_of(*moment_), 6), QPointF(x_of(*moment_), bottom + 6));
        painter.setBrush(color::accent);
        painter.drawEllipse(QPointF(x_of(*moment_), heights.y_of(s.at.z)), 4, 4);
    }
}

namespace {

/// How high the bars of effort are at most, and how much effort that is.
constexpr double k_bar_px = 22, k_much_effort = 120;

} // namespace

/// How much light comes to the eyes, ten times as much each step up; where it is too dark, thick. Nothing
/// where the level has no lights.
void PaceStrip::paint_light(QPainter& painter, double top, double bottom) const {
    constexpr double k_least_decade = -1, k_most_decade = 4; // 0.1 to 10,000 lux
    const std::vector<double>& lux = pace_->lux;
    const double least = session_.project().least_lux;
    const auto y_of = [&](double of) {
        const double decade = std::clamp(std::log10(std::max(of, 1e-3)), k_least_decade, k_most_decade);
        return bottom - (decade - k_least_decade) / (k_most_decade - k_least_decade) * (bottom - top);
    };
    for (size_t i = 0; i + 1 < lux.size(); ++i) {
        const bool dark = lux[i] < least && lux[i + 1] < least;
        painter.setPen(dark ? QPen(color::plum, 3) : QPen(color::ochre.lighter(115), 1.3, Qt::DotLine));
        const double from = double(i) * check::pace_look_s;
        painter.drawLine(QPointF(x_of(from), y_of(lux[i])),
                         QPointF(x_of(from + check::pace_look_s), y_of(lux[i + 1])));
    }
    painter.setPen(Qt::NoPen);
}

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
    const Stage stage = session_.stage();
    if (stage == Stage::dress || stage == Stage::check) paint_light(painter, top, bottom);
    for (const check::Pace::Event& event : pace_->events) {
        const Item* item = find_item(session_.level(), event.item);
        if (!item || !item->element()) continue;
        painter.save();
        painter.translate(x_of(event.at_s), pace_signs_px);
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

} // namespace rubble::app
