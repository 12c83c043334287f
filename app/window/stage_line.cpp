#include "window/stage_line.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

#include "level/order.h"
#include "theme.h"

namespace rubble::app {

QString stage_name(Stage stage) {
    switch (stage) {
    case Stage::metrics:
        return StageLine::tr("Metrics");
    case Stage::block_out:
        return StageLine::tr("Block out");
    case Stage::populate:
        return StageLine::tr("Populate");
    case Stage::dress:
        return StageLine::tr("Dress");
    case Stage::check:
        return StageLine::tr("Check");
    case Stage::hand_off:
        return StageLine::tr("Hand off");
    }
    return {};
}

namespace {

/// Where a finding is put right.
Stage stage_of(check::Craft craft) {
    switch (craft) {
    case check::Craft::build:
        return Stage::block_out;
    case check::Craft::populate:
        return Stage::populate;
    case check::Craft::dress:
        return Stage::dress;
    case check::Craft::check:
        return Stage::check;
    }
    return Stage::check;
}

} // namespace

StageLine::StageLine(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setFocusPolicy(Qt::TabFocus);
    setAccessibleName(tr("Stages"));
    setToolTip(tr("Stages of the work (F1 to F6)"));
    for (auto signal : {&Session::levelChanged, &Session::stageChanged, &Session::builtChanged})
        connect(&session_, signal, this, qOverload<>(&QWidget::update));
}

std::array<StageLine::Station, 6> StageLine::stations() const {
    std::array<Station, 6> out;
    out[size_t(Stage::metrics)].begun = true;
    out[size_t(Stage::block_out)].begun = ordered_brushes(session_.level()).size() > 1;
    out[size_t(Stage::populate)].begun = elements_of(session_.level()).size() > 1;
    for (const OrderedBrush& brush : ordered_brushes(session_.level()))
        out[size_t(Stage::dress)].begun |= !brush.brush->material.empty() || !brush.brush->looks.empty();
    const auto& result = session_.built().check;
    if (!result) return out;
    Station& check = out[size_t(Stage::check)];
    check.begun = !result->claims.empty();
    for (const auto& claim : result->claims) check.blockers += claim.state == check::ClaimState::fails;
    for (const auto& finding : result->findings) {
        Station& station = out[size_t(stage_of(check::rule_of(finding.rule).craft))];
        station.blockers += finding.severity == check::Severity::blocker;
        station.concerns += finding.severity == check::Severity::concern;
    }
    return out;
}

QPointF StageLine::place(int index) const {
    const double step = std::min(120.0, width() / 6.0);
    return {width() / 2.0 + (index - 2.5) * step, height() * 0.33};
}

void StageLine::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const auto all = stations();
    painter.setPen(QPen(color::line, 3));
    painter.drawLine(place(0), place(5));
    for (int i = 0; i < 6; ++i) {
        const Station& station = all[size_t(i)];
        const bool here = int(session_.stage()) == i;
        const QPointF at = place(i);
        const QColor ink = station.blockers   ? color::accent
                           : station.concerns ? color::ochre
                           : station.begun    ? color::sea_green
                                              : color::faint_ink;
        const double r = here ? 10 : 7;
        painter.setPen(QPen(ink, 2));
        painter.setBrush(station.blockers || (station.begun && !station.concerns) || here ? ink
                                                                                          : color::panel);
        painter.drawEllipse(at, r, r);
        QFont font = this->font();
        if (station.blockers) {
            if (font.pixelSize() > 0) font.setPixelSize(int(font.pixelSize() * 0.85));
            font.setBold(true);
            painter.setFont(font);
            painter.setPen(Qt::white);
            painter.drawText(QRectF(at.x() - r, at.y() - r, 2 * r, 2 * r), Qt::AlignCenter,
                             QString::number(station.blockers));
        } else if (station.concerns) {
            painter.setPen(QPen(here ? Qt::white : ink, 2));
            painter.drawLine(at - QPointF(0, 3.5), at + QPointF(0, 0.5));
            painter.drawPoint(at + QPointF(0, 3.5));
        } else if (station.begun) {
            painter.setPen(QPen(Qt::white, 1.8));
            painter.drawPolyline(
                QPolygonF{at + QPointF(-3.2, 0), at + QPointF(-0.8, 2.6), at + QPointF(3.4, -2.6)});
        }
        font = this->font();
        font.setBold(here);
        painter.setFont(font);
        painter.setPen(here ? color::accent.darker(115) : color::ink);
        painter.drawText(QRectF(at.x() - 60, height() * 0.33 + 11, 120, height() * 0.6 - 8),
                         Qt::AlignHCenter | Qt::AlignTop, stage_name(Stage(i)));
    }
    if (hasFocus()) {
        painter.setPen(QPen(color::accent, 1, Qt::DotLine));
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(rect().adjusted(1, 1, -2, -2));
    }
}

void StageLine::mousePressEvent(QMouseEvent* event) {
    for (int i = 0; i < 6; ++i)
        if (std::abs(event->position().x() - place(i).x()) < std::min(60.0, width() / 12.0))
            session_.go_to(Stage(i));
}

void StageLine::keyPressEvent(QKeyEvent* event) {
    const int at = int(session_.stage());
    if (event->key() == Qt::Key_Right)
        session_.go_to(Stage(std::min(at + 1, 5)));
    else if (event->key() == Qt::Key_Left)
        session_.go_to(Stage(std::max(at - 1, 0)));
    else
        QWidget::keyPressEvent(event);
}

} // namespace rubble::app
