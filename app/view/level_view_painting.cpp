#include "view/level_view.h"

#include <algorithm>
#include <map>

#include <QTimer>

#include "base/tolerance.h"
#include "check/flight.h"
#include "claim_names.h"
#include "edit/brushes.h"
#include "level/order.h"
#include "numbers.h"
#include "theme.h"
#include "tools/catch_distance.h"
#include "tools/item_handles.h"
#include "tools/measure_tool.h"
#include "tools/snap.h"
#include "view/band_overlay.h"
#include "view/crowd_overlay.h"
#include "view/element_overlay.h"
#include "view/maze_overlay.h"
#include "view/met_overlay.h"
#include "view/overlay.h"
#include "view/puzzle_overlay.h"
#include "view/surroundings.h"
#include "view/version_overlay.h"

namespace rubble::app {

// What is painted over the drawn level: signs, arcs, words, and what the views show at a glance.

namespace {

bool of_gap_or_height(const check::NearMiss& miss) {
    return miss.limit == check::Limit::gap || miss.limit == check::Limit::height ||
           miss.limit == check::Limit::step;
}

/// What the character would have to do for a near miss: an arc over the gap.
std::vector<Vec3> wanted_arc(const check::NearMiss& miss) {
    std::vector<Vec3> arc;
    for (int i = 0; i <= 12; ++i) {
        const double t = i / 12.0;
        Vec3 p = miss.take_off + (miss.landing - miss.take_off) * t;
        p.z += 4 * t * (1 - t) * 0.8;
        arc.push_back(p);
    }
    return arc;
}

} // namespace

/// How the colours of what is shown are read.
QString LevelView::mode_legend() const {
    const QString who = session_.character_name();
    const double steepest = session_.character().max_slope_deg;
    if (mode_ == ViewMode::wire) return tr("Wire");
    if (mode_ == ViewMode::grey) return tr("Grey");
    if (mode_ == ViewMode::day) return tr("By day, without the level's lights");
    if (mode_ == ViewMode::density)
        return tr("Pictures: green %1 dots to the metre, ochre half, plum a quarter, blue twice as many")
            .arg(session_.project().dots_per_m, 0, 'f', 0);
    if (mode_ == ViewMode::collision)
        return tr("Plum: what %1 collides with. Broken: seen, not met").arg(who);
    if (mode_ == ViewMode::size)
        return tr("Walls: green %1 steps up, ochre with bars jumps, hatched is higher than %2. Hatched "
                  "floors: only crouched")
            .arg(who, metres_text(check::highest_ledge(session_.character())));
    if (mode_ == ViewMode::slope)
        return tr("Slopes: green to ochre %1 walks, hatched is over %2°").arg(who).arg(steepest, 0, 'f', 0);
    if (mode_ == ViewMode::plain && session_.looking().overlay() == Overlay::seconds)
        return tr("Ground: green within 5 s from the start, bluer and lined the longer, plum over 25 s");
    if (mode_ == ViewMode::plain && session_.looking().overlay() == Overlay::lost)
        return session_.selection().empty()
                   ? tr("Ground: select something to see what would be lost without it")
                   : tr("Ground: plum lines are lost without what is selected");
    if (mode_ == ViewMode::plain && session_.looking().overlay() == Overlay::headroom)
        return tr(
            "Ground: green where a full jump has room, bluer and lined the less there is, plum where none");
    if (mode_ == ViewMode::plain && session_.looking().overlay() == Overlay::seen)
        return session_.selection().empty()
                   ? tr("Ground: select something to see where it is seen from")
                   : tr("Ground: green where what is selected is seen from, plum lines "
                        "where not");
    return {};
}

/// What view this is, and how what it shows is to be read.
void LevelView::paint_legend(QPainter& painter) {
    QString text = camera_.flat() ? view_name(camera_.kind) : mode_legend(); // the same beside
    if (camera_.slice)
        text += tr(", a slice of %1").arg(metres_text(camera_.slice->to - camera_.slice->from));
    if (text.isEmpty()) return;
    const QRectF room(14, 10, width() - 28, 60);
    const int flags = int(Qt::AlignLeft) | int(Qt::TextWordWrap);
    QColor halo = color::paper;
    halo.setAlphaF(0.85f);
    painter.fillRect(painter.boundingRect(room, flags, text).adjusted(-4, -2, 4, 2), halo);
    painter.setPen(color::ink);
    painter.drawText(room, flags, text);
}

/// A ring that closes in on what was looked for.
void LevelView::paint_where(QPainter& painter) {
    constexpr double k_ring_ms = 1400, k_widest_px = 260;
    if (!shown_where_) return;
    const double part = double(shown_since_.elapsed()) / k_ring_ms;
    const auto at = camera_.to_screen(shown_where_->middle());
    if (part >= 1 || !at) {
        shown_where_.reset();
        return;
    }
    const double around = glm::length(shown_where_->high - shown_where_->low) / 2 /
                          camera_.metres_per_pixel(shown_where_->middle());
    const double radius = around + 8 + (1 - part) * k_widest_px;
    painter.setPen(QPen(color::accent, 3));
    painter.setBrush(Qt::NoBrush);
    painter.drawEllipse(*at, radius, radius);
    QTimer::singleShot(16, this, qOverload<>(&QWidget::update));
}

/// A piece of the working plane about its place, with its grid.
void LevelView::paint_plane(QPainter& painter) {
    if (!session_.plane() || session_.stage() != Stage::block_out) return;
    const edit::WorkingPlane& plane = *session_.plane();
    constexpr int k_lines = 8; // each way from the middle
    const double step = std::max(session_.grid_m(), 0.25), far = k_lines * step;
    QColor ink = color::blue_grey;
    ink.setAlphaF(0.45f);
    painter.setPen(QPen(ink, 1));
    const Vec3 middle = edit::snapped(plane.to_own({0, 0, 0}), step); // lines where the level's own are
    Vec3 at = plane.to_own(plane.at) - middle;
    at = edit::snapped(at, step) + middle;
    for (int i = -k_lines; i <= k_lines; ++i) {
        const double off = i * step;
        draw_line(painter, camera_, plane.to_level({at.x + off, at.y - far, 0}),
                  plane.to_level({at.x + off, at.y + far, 0}));
        draw_line(painter, camera_, plane.to_level({at.x - far, at.y + off, 0}),
                  plane.to_level({at.x + far, at.y + off, 0}));
    }
}

std::vector<const check::Span*> LevelView::spans_of_selection() const {
    std::vector<const check::Span*> out;
    Box3 box;
    for (const ItemId& id : session_.selection())
        if (const Item* item = find_item(session_.level(), id); item && !item->element())
            box.add(box_of(*item));
    if (box.empty()) return out;
    constexpr double k_beside_m = 0.02;
    const Box3 near = box.grown(k_beside_m);
    for (const check::Span* span : shown_spans())
        if (near.touches({span->from, span->from}) || near.touches({span->to, span->to})) out.push_back(span);
    return out;
}

/// Dimensions that were kept, each along its line.
void LevelView::paint_dimensions(QPainter& painter, Labels& labels) {
    if (session_.stage() != Stage::block_out) return; // later the spans have the word
    const Level& level = session_.level();
    for (const Dimension& dimension : level.dimensions) {
        Vec3 from, to;
        if (!place_of(level, dimension.from, from) || !place_of(level, dimension.to, to)) continue;
        draw_measure(painter, labels, camera_, from, to, color::blue_grey,
                     metres_text(glm::length(to - from)));
    }
}

/// What stands around the part that is open by itself, faintly.
void LevelView::paint_around(QPainter& painter) {
    const auto& around = session_.looking().around();
    if (!session_.level().part || around.place.empty() || !session_.looking().shows_around()) return;
    if (around.level >= session_.document().levels.size()) return;
    const Shared<Level>& level = session_.document().levels[around.level].level;
    if (!around_of_ || !around_of_->is(level) || around_place_ != around.place)
        around_lines_ = lines_around(*level, around.place), around_of_ = level, around_place_ = around.place;
    const Projection project = camera_.projection();
    QPainterPath path;
    for (size_t i = 0; i + 1 < around_lines_.size(); i += 2)
        add_line(path, project, {around_lines_[i], around_lines_[i + 1]});
    QColor ink = color::faint_ink;
    ink.setAlphaF(0.35f);
    painter.setPen(QPen(ink, 1));
    painter.drawPath(path);
}

void LevelView::paint_over(QPainter& painter) {
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setBrush(Qt::NoBrush);
    paint_around(painter);
    Labels labels(painter);
    if (!route_.empty()) {
        painter.setPen(QPen(color::accent, 1.6, Qt::DashLine));
        draw_path(painter, camera_, route_);
    }
    if (session_.level().frame == Frame::side) paint_ground_lines(painter);
    // Lines first, then signs, then words: names and margins stay readable over the arcs.
    const bool spans = session_.stage() == Stage::check || session_.stage() == Stage::block_out ||
                       session_.stage() == Stage::populate;
    if (spans) paint_arcs(painter);
    paint_elements(painter);
    keep_free_what_is_worked_on(labels);
    if (watching_) { // words step back
        draw_figure(painter, camera_, session_.character(), figure_->body.at, figure_->body.crouched,
                    color::accent);
        return;
    }
    if (spans) label_near_misses(labels);
    for (const check::Span& span : route_spans_) label_span(labels, span, true);
    // What is selected has the word before what merely stands there.
    if (spans && session_.stage() != Stage::check)
        for (const check::Span* span : spans_of_selection()) label_span(labels, *span, true);
    paint_dimensions(painter, labels);
    if (const Built& built = session_.built(); mode_ == ViewMode::collision && built.solid)
        draw_met(painter, labels, camera_, *built.solid,
                 built.check ? std::span<const check::Finding>(built.check->findings)
                             : std::span<const check::Finding>());
    if (const auto& result = session_.built().check;
        session_.stage() == Stage::check && result && result->maze)
        draw_maze(painter, labels, camera_, *result->maze);
    if (session_.stage() == Stage::check || session_.stage() == Stage::populate)
        draw_ruins(painter, labels, camera_, session_.puzzle_answer(), session_.stage() == Stage::check);
    label_names(labels);
    const auto& suggested = session_.suggestions().open;
    for (size_t i = 0; i < suggested.size(); ++i) { // by the numbers that the facts give them
        const Vec3 at = suggest::place_of(session_.level(), suggested[i]);
        if (const auto seen = camera_.to_screen(at); seen && camera_.holds(at))
            labels.put(*seen + QPointF(0, 12), QString::number(i + 1), color::accent, true);
    }
    if (const auto& result = session_.built().check;
        result && (session_.stage() == Stage::check || session_.stage() == Stage::populate))
        label_bands(labels, camera_, session_.level(), *result);
    // What is looked into has the word before what the check says of all.
    const Studies& studies = session_.studies();
    if (session_.stage() == Stage::check && !studies.crowd && !studies.what_if && !studies.picked)
        for (const check::Span* span : shown_spans()) label_span(labels, *span, false);
    paint_studies(painter, labels);
    if (figure_)
        draw_figure(painter, camera_, session_.character(), figure_->body.at, figure_->body.crouched,
                    color::accent);
    else
        paint_scale_figure(painter);
    paint_plane(painter);
    if (tool_) tool_->paint(painter, camera_);
    paint_where(painter);
    paint_legend(painter);
    if (!typed_.isEmpty()) Labels(painter).put(last_pointer_ + QPointF(0, 26), typed_, color::accent, true);
}

/// What is looked into in Check: the span that is picked, players, and what other metrics would change.
void LevelView::paint_studies(QPainter& painter, Labels& labels) {
    if (session_.stage() != Stage::check) return;
    const Studies& studies = session_.studies();
    if (studies.what_if) {
        for (const auto& change : studies.what_if->comparison.spans) {
            const check::Span& span = change.now ? *change.now : *change.was;
            const QColor ink = change.now ? grade_color(change.now->grade) : color::plum;
            painter.setPen(QPen(ink, change.now ? 4 : 2, change.now ? Qt::SolidLine : Qt::DotLine));
            draw_path(painter, camera_, span.arc);
        }
        for (const auto& change : studies.what_if->comparison.places) {
            const Item* item = find_item(session_.level(), change.item);
            const auto at = item ? camera_.to_screen(item->element()->at) : std::nullopt;
            if (!at) continue;
            const bool lost = change.was == check::Reached::yes;
            painter.setPen(QPen(lost ? color::plum : color::sea_green, 2.4));
            painter.drawEllipse(*at, 17, 17);
            labels.put_near(*at - QPointF(0, 20), lost ? tr("lost") : tr("gained"),
                            lost ? color::plum : color::sea_green);
        }
    }
    if (const auto& asked = studies.asked) {
        painter.setPen(QPen(color::accent, 2));
        for (const Vec3& end : {asked->from, asked->to})
            if (const auto at = camera_.to_screen(end)) painter.drawEllipse(*at, 6, 6);
        if (asked->miss && of_gap_or_height(*asked->miss)) {
            painter.setPen(QPen(color::plum, 2.4, Qt::DotLine));
            draw_path(painter, camera_, wanted_arc(*asked->miss));
            if (const auto at = camera_.to_screen(wanted_arc(*asked->miss)[6]))
                labels.put_near(*at, missing_in_words(*asked->miss), color::plum);
        }
    }
    if (studies.sides) {
        painter.setPen(QPen(color::ochre, 2, Qt::DashDotLine));
        for (const ItemId& id : studies.sides->odd)
            if (const Item* item = find_item(session_.level(), id)) draw_box(painter, camera_, box_of(*item));
    }
    if (studies.version) draw_version(painter, labels, camera_, session_.level(), *studies.version);
    if (studies.crowd) draw_crowd(painter, camera_, studies);
    if (studies.picked) {
        painter.setPen(QPen(color::accent, 5));
        draw_path(painter, camera_, studies.picked->arc);
        painter.setPen(QPen(color::paper, 1.6));
        draw_path(painter, camera_, studies.picked->arc);
        label_span(labels, *studies.picked, true);
    }
    painter.setBrush(Qt::NoBrush);
}

/// Where one can stand in a Side level, as lines along the ground: whole where one gets there, broken where
/// not.
void LevelView::paint_ground_lines(QPainter& painter) {
    const auto& result = session_.built().check;
    const bool shown = session_.stage() == Stage::check || session_.stage() == Stage::block_out ||
                       session_.stage() == Stage::populate;
    if (!shown || !result || !result->ground || !result->reach) return;
    constexpr double k_wide_px = 4;
    const Projection project = camera_.projection();
    const check::Ground& ground = *result->ground;
    QPainterPath reached, helped, not_reached;
    for (size_t f = 0; f < ground.fragments.size(); ++f) {
        const check::Fragment& fragment = ground.fragments[f];
        QPainterPath& path = result->reach->reached(fragment.ledge)             ? reached
                             : result->reach->reached_with_help(fragment.ledge) ? helped
                                                                                : not_reached;
        // Along the matter itself: the middle of a body stands a little beyond its edge.
        const motion::Column& column =
            result->world->columns()[size_t(ground.tops[size_t(fragment.top)].column)];
        // Where level ground goes on in other matter, the line does too.
        const auto goes_on = [&](double x) {
            return column.top.level() &&
                   std::any_of(fragment.portals.begin(), fragment.portals.end(), [&](const check::Portal& p) {
                       return p.walked && std::abs(p.middle().x - x) < tolerance::touching_m;
                   });
        };
        const double low = fragment.box.low.x, high = fragment.box.high.x;
        const double from = goes_on(low) ? low : std::max(low, column.box.low.x),
                     to = goes_on(high) ? high : std::min(high, column.box.high.x);
        if (from >= to) continue;
        const std::vector<Vec3> line{{from, 0, column.top.at({from, 0})}, {to, 0, column.top.at({to, 0})}};
        add_line(path, project, line);
    }
    const auto draw = [&](const QPainterPath& path, const QColor& ink, Qt::PenStyle style) {
        painter.strokePath(path, QPen(ink, k_wide_px, style, Qt::FlatCap));
    };
    draw(not_reached, color::plum, Qt::DotLine);
    draw(helped, color::ochre, Qt::DashLine);
    draw(reached, color::sea_green, Qt::SolidLine);
}

std::vector<std::pair<const Item*, QPointF>> LevelView::seen_elements() const {
    std::vector<std::pair<const Item*, QPointF>> out;
    for (const Item* item : session_.shown_elements())
        if (item->element()->at.z <= cut_z_ + 0.01 && camera_.holds(item->element()->at))
            if (const auto at = camera_.to_screen(item->element()->at)) out.emplace_back(item, *at);
    return out;
}

void LevelView::paint_elements(QPainter& painter) {
    const auto& chosen = session_.selection();
    ElementOverlay overlay(painter, camera_, session_.level());
    // While a run is watched they are as they are by then.
    if (const auto& check = session_.built().check; figure_ && check && check->world) {
        if (check->world->moving().puzzle || check->world->elements())
            return overlay.draw(*check->world, *figure_);
    }
    if (session_.stage() != Stage::dress) overlay.draw(chosen);
    for (const suggest::Suggestion& one : session_.suggestions().open)
        overlay.draw_ghosts(one.items), overlay.draw_ghosts(one.cells);
    for (const auto& [item, at] : seen_elements()) {
        const bool selected = std::find(chosen.begin(), chosen.end(), item->id) != chosen.end();
        draw_element(painter, at, kind_of(*item->element()), selected);
    }
    painter.setBrush(Qt::NoBrush);
}

/// Labels give way to the handles of what is selected and to what is pointed at, whose own name comes first.
void LevelView::keep_free_what_is_worked_on(Labels& labels) {
    constexpr double k_handle_px = 9, k_pointer_px = 7, k_near_px = 16;
    if (pointer_inside_)
        for (const auto& [item, at] : seen_elements())
            if (QLineF(at - QPointF(0, 10), last_pointer_).length() < k_near_px) {
                labels.put(at + QPointF(0, 10), QString::fromStdString(item->title()),
                           element_color(kind_of(*item->element())).darker(130));
                break;
            }
    const auto around = [](QPointF p, double px) { return QRectF(p.x() - px, p.y() - px, 2 * px, 2 * px); };
    for (const ItemHandle& handle : handles_of(session_, camera_))
        labels.keep_free(around(handle.at, k_handle_px));
    if (pointer_inside_) labels.keep_free(around(last_pointer_, k_pointer_px));
}

void LevelView::label_names(Labels& labels) {
    // From afar only the ends of the way are named.
    constexpr double k_far_m = 0.08; // that a pixel spans
    const bool far = camera_.metres_per_pixel(camera_.target) > k_far_m;
    const auto& chosen = session_.selection();
    auto seen = seen_elements();
    const auto is_chosen = [&](const auto& one) {
        return std::find(chosen.begin(), chosen.end(), one.first->id) != chosen.end();
    };
    std::stable_partition(seen.begin(), seen.end(), is_chosen);
    const auto is_end = [](const Item& item) {
        const Role role = role_of(*item.element());
        return role == Role::start || role == Role::goal;
    };
    for (const auto& [item, at] : seen)
        if (!far || is_end(*item) || is_chosen(std::pair(item, at)))
            labels.put(at + QPointF(0, 10), QString::fromStdString(item->title()),
                       element_color(kind_of(*item->element())).darker(130));
}

namespace {

Qt::PenStyle grade_line(check::Grade grade) {
    return grade == check::Grade::tight  ? Qt::DashLine
           : grade == check::Grade::fair ? Qt::DashDotLine
                                         : Qt::SolidLine;
}

QString grade_name(check::Grade grade) {
    return grade == check::Grade::easy   ? LevelView::tr("easy")
           : grade == check::Grade::fair ? LevelView::tr("fair")
                                         : LevelView::tr("tight");
}

} // namespace

/// Spans below the cut, tight ones first.
std::vector<const check::Span*> LevelView::shown_spans() const {
    std::vector<const check::Span*> spans;
    if (const auto& result = session_.built().check)
        for (const check::Span& span : result->spans)
            if (std::max(span.from.z, span.to.z) <= cut_z_ + 0.01 &&
                (camera_.holds(span.from) || camera_.holds(span.to)))
                spans.push_back(&span);
    std::sort(spans.begin(), spans.end(), [](auto* a, auto* b) { return a->margin_pct < b->margin_pct; });
    return spans;
}

void LevelView::paint_arcs(QPainter& painter) {
    const auto& result = session_.built().check;
    if (!result) return;
    painter.setPen(QPen(color::plum, 2.2, Qt::DotLine));
    painter.setBrush(Qt::NoBrush);
    for (const check::NearMiss& miss : result->near_misses)
        if (of_gap_or_height(miss) && camera_.holds(wanted_arc(miss)[6]))
            draw_path(painter, camera_, wanted_arc(miss));
    // All arcs of a grade are one path: a thousand of them are still one call. Tight ones come last, on top.
    struct Arcs {
        QPainterPath lines;
        QPolygonF ends;
    };
    std::map<check::Grade, Arcs> by_grade;
    const Projection project = camera_.projection();
    const QRectF seen = QRectF(QPointF(0, 0), camera_.size).marginsAdded({40, 40, 40, 40});
    for (const check::Span* span : shown_spans()) {
        if (span->arc.empty()) continue;
        const auto first = project(span->arc.front()), last = project(span->arc.back());
        if (!first || !last || !(seen.contains(*first) || seen.contains(*last))) continue;
        Arcs& arcs = by_grade[span->grade];
        add_line(arcs.lines, project, span->arc);
        arcs.ends << *last;
    }
    const double width = session_.stage() == Stage::check ? 2.2 : 1.4;
    for (const auto& [grade, arcs] : by_grade) {
        painter.setPen(QPen(grade_color(grade), width, grade_line(grade)));
        painter.strokePath(arcs.lines, painter.pen());
        painter.setPen(QPen(grade_color(grade), 6, Qt::SolidLine, Qt::RoundCap));
        painter.drawPoints(arcs.ends);
    }
}

const check::Span* LevelView::arc_at(QPointF screen) const {
    if (session_.stage() != Stage::check || !tool_ || !tool_->selects() || tool_->busy()) return nullptr;
    constexpr double k_at_px = 5, k_hand_px = 8;
    // Handles of what is selected have the hand first.
    for (const check::Span* span : spans_of_selection())
        for (const Vec3& end : {span->from, span->to})
            if (const auto at = camera_.to_screen(end); at && QLineF(*at, screen).length() < k_hand_px)
                return nullptr;
    const check::Span* best = nullptr;
    double least = k_at_px;
    const Projection project = camera_.projection();
    for (const check::Span* span : shown_spans()) {
        std::optional<QPointF> before;
        for (const Vec3& p : span->arc) {
            const auto at = project(p);
            if (at && before)
                if (const double away = distance(QLineF(*before, *at), screen); away < least)
                    least = away, best = span;
            before = at;
        }
    }
    return best;
}

void LevelView::label_near_misses(Labels& labels) {
    const auto& result = session_.built().check;
    if (!result) return;
    for (const check::NearMiss& miss : result->near_misses) {
        if (!of_gap_or_height(miss) || !camera_.holds(wanted_arc(miss)[6])) continue;
        const auto middle = camera_.to_screen(wanted_arc(miss)[6] + Vec3(0, 0, 0.3));
        const QString text =
            miss.limit == check::Limit::gap
                ? tr("%1 · %2 too wide").arg(metres_text(miss.gap_m), metres_text(miss.missing_m))
                : tr("%1 up · %2 too high").arg(metres_text(miss.rise_m), metres_text(miss.missing_m));
        if (middle) labels.put(*middle, text, color::plum, true);
    }
}

void LevelView::label_span(Labels& labels, const check::Span& span, bool of_route) {
    const double step_m = session_.character().step_height_m;
    const bool air = span.kind != check::LinkKind::drop && span.kind != check::LinkKind::step_off;
    if (!air || span.arc.empty() || (span.gap_m < 0.5 && span.rise_m < step_m)) return;
    const auto top = camera_.to_screen(span.arc[span.arc.size() / 2] + Vec3(0, 0, 0.3));
    if (!top) return;
    const QString size =
        span.gap_m >= 0.5 ? metres_text(span.gap_m) : tr("%1 up").arg(metres_text(span.rise_m));
    // From afar labels of full length would hide what they are about; colour and line tell the grade.
    constexpr double k_long_px = 60;
    const auto first = camera_.to_screen(span.arc.front()), last = camera_.to_screen(span.arc.back());
    const bool small = first && last && QLineF(*first, *last).length() < k_long_px;
    const QString text =
        small && !of_route
            ? size
            : tr("%1 · %2 %3 %").arg(size, grade_name(span.grade)).arg(span.least_pct(step_m), 0, 'f', 0);
    const QColor ink = grade_color(span.grade).darker(140);
    of_route ? labels.put_near(*top, text, ink) : labels.put(*top, text, ink, true);
}

void LevelView::paint_scale_figure(QPainter& painter) {
    if (!pointer_inside_ || session_.stage() != Stage::block_out || !session_.built().check) return;
    const Character c = session_.character();
    const motion::World& world = *session_.built().check->world;
    const motion::State s = motion::state_at(world, c, pointer_stand_);
    const bool fits =
        s.standing && motion::overlap_m(world, {s.at, c.radius_m - 1e-3, c.height_m - 1e-3}) < 2e-3;
    painter.setOpacity(0.55);
    draw_figure(painter, camera_, c, s.at, false, fits ? color::ink : color::plum);
    painter.setOpacity(1);
}

void LevelView::paint_walk(QPainter& painter) {
    painter.setRenderHint(QPainter::Antialiasing);
    const Camera camera = walker_->camera(size());
    ElementOverlay(painter, camera, session_.level()).draw(walker_->world(), walker_->play());
    if (!walker_->first_person())
        draw_figure(painter, camera, session_.character(), walker_->state().at, walker_->state().crouched,
                    walker_->state().dead ? color::plum : color::ink);
    painter.setPen(QPen(color::paper, 3));
    const QPointF middle(width() / 2.0, height() / 2.0);
    painter.drawPoint(middle);
    Labels labels(painter);
    if (const QString held = held_text(walker_->world(), walker_->play()); !held.isEmpty())
        labels.put(QPointF(width() / 2.0, 22), held, color::ink, true);
    if (const auto left = walker_->seconds_left())
        labels.put(QPointF(width() / 2.0, 44),
                   *left > 0 ? tr("%1 s left").arg(*left, 0, 'f', 1) : tr("Time is up"),
                   *left > 5 ? color::ink : color::plum);
    if (const auto left = walker_->steps_left())
        labels.put(QPointF(width() / 2.0, 44),
                   *left > 0 ? tr("%1 steps left").arg(*left) : tr("No step is left"),
                   *left > 3 ? color::ink : color::plum);
    if (walker_->at_goal())
        labels.put(QPointF(width() / 2.0, 66), tr("The goal is reached. Return goes on, where it leads on"),
                   color::sea_green, true);
    const QString text =
        walker_->state().dead ? tr("The fall was too deep, or this kills. Backspace goes "
                                   "back a second, R to where the walk began")
        : session_.level().frame == Frame::side
            ? tr("A D run · Space jump · E use · S crouch, with Space down "
                 "through a deck · Backspace back a second · R restart · N note · Esc end")
        : session_.level().frame == Frame::plan
            ? tr("W A S D walk · E use · Backspace back a second · R restart · N note · Esc end")
            : tr("W A S D walk · Space jump · E use · C crouch · V view · Backspace back a second · "
                 "R restart · N note · Esc end");
    labels.put(QPointF(width() / 2.0, height() - 22), text, walker_->state().dead ? color::plum : color::ink);
}

} // namespace rubble::app
