#include "window/status_line.h"

#include <array>
#include <cmath>

#include <QPushButton>

#include "numbers.h"

namespace rubble::app {

namespace {

/// What can be snapped to, with the commands that switch it.
constexpr std::array<std::pair<const char*, bool Snapping::*>, 4> k_snap_switches{
    {{"snap-grid", &Snapping::grid},
     {"snap-edges", &Snapping::edges},
     {"snap-corners", &Snapping::corners},
     {"snap-turn", &Snapping::turn}}};

QString hundredths(double value) { return plain_number(std::round(value * 100) / 100); }

} // namespace

StatusLine::StatusLine(Session& session) : session_(session) {
    grid_ = add_label(false);
    pointer_ = add_label(false);
    snap_ = new QToolButton;
    snap_->setProperty("role", "faint");
    snap_->setPopupMode(QToolButton::InstantPopup);
    snap_->setAccessibleName(tr("Snapping"));
    snap_->setToolTip(tr("What places snap to. Shift+G turns snapping off, Alt does for a moment"));
    addWidget(snap_);
    hint_ = add_label(false);
    checked_ = add_label(true);
    setSizeGripEnabled(false);
    // Its words are cut rather than that the window, and with it the views, change their size in the middle
    // of a drag.
    setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    told_.setSingleShot(true);
    connect(&told_, &QTimer::timeout, this, [this] { hint_->setText(tool_hint_); });
    connect(&session_, &Session::message, this, &StatusLine::tell);
    connect(&session_, &Session::levelChanged, this, &StatusLine::show_check);
    connect(&session_, &Session::builtChanged, this, &StatusLine::show_check);
    connect(&session_, &Session::snappingChanged, this, &StatusLine::show_snapping);
    show_snapping();
}

QLabel* StatusLine::add_label(bool right) {
    auto* label = new QLabel;
    label->setProperty("role", "faint");
    label->setContentsMargins(8, 0, 8, 0);
    if (right)
        addPermanentWidget(label);
    else
        addWidget(label);
    return label;
}

void StatusLine::show_pointer(const Vec3& at) {
    const Frame frame = session_.level().frame;
    if (frame == Frame::space)
        pointer_->setText(tr("cursor %1, %2, %3").arg(hundredths(at.x), hundredths(at.y), hundredths(at.z)));
    else
        pointer_->setText(tr("cursor %1, %2").arg(hundredths(at.x), hundredths(at[layout_of(frame).ahead])));
}

void StatusLine::tell(const QString& text) {
    constexpr int k_read_ms = 4000;
    hint_->setText(text);
    told_.start(k_read_ms);
}

void StatusLine::show_hint(const QString& hint) {
    tool_hint_ = hint;
    if (!told_.isActive()) hint_->setText(hint);
}

void StatusLine::offer(const QString& text, std::function<void()> act) {
    constexpr int k_offered_ms = 20'000;
    auto* button = new QPushButton(text);
    button->setProperty("role", "offer");
    addPermanentWidget(button);
    connect(button, &QPushButton::clicked, this, [act = std::move(act), button] {
        act();
        button->deleteLater();
    });
    QTimer::singleShot(k_offered_ms, button, &QObject::deleteLater);
}

void StatusLine::drop_offers() {
    for (QPushButton* button : findChildren<QPushButton*>()) button->deleteLater();
}

void StatusLine::show_switches(const Commands& commands) {
    for (const auto& [id, on] : k_snap_switches) {
        QAction* action = commands.find(QString::fromLatin1(id))->action;
        action->setCheckable(true);
        snap_->addAction(action);
        switches_.push_back(action);
    }
    show_snapping();
}

void StatusLine::show_snapping() {
    const Snapping& snapping = session_.snapping();
    QStringList names;
    if (snapping.grid) names << tr("grid");
    if (snapping.edges) names << tr("edges");
    if (snapping.corners) names << tr("corners");
    if (snapping.turn) names << tr("turn");
    snap_->setText(names.isEmpty()          ? tr("free")
                   : snapping == Snapping{} ? tr("snap: all")
                                            : tr("snap: %1").arg(names.join(QStringLiteral(", "))));
    for (size_t i = 0; i < switches_.size(); ++i)
        switches_[i]->setChecked(snapping.*k_snap_switches[i].second);
}

void StatusLine::show_check() {
    grid_->setText(tr("grid %1 m · turn %2°")
                       .arg(plain_number(session_.grid_m()), plain_number(session_.project().turn_step_deg)));
    const auto& result = session_.built().check;
    if (!result) {
        checked_->setText(tr("checking…"));
        return;
    }
    int blockers = 0, concerns = 0, fails = 0;
    for (const auto& finding : result->findings)
        blockers += finding.severity == check::Severity::blocker,
            concerns += finding.severity == check::Severity::concern;
    for (const auto& claim : result->claims) fails += claim.state == check::ClaimState::fails;
    const QString what =
        QStringList{session_.character_name(), counted(blockers, tr("blocker"), tr("blockers")),
                    counted(concerns, tr("concern"), tr("concerns")),
                    fails == 1 ? tr("1 claim fails") : tr("%1 claims fail").arg(fails)}
            .join(QStringLiteral(" · "));
    checked_->setText(
        session_.up_to_date()
            ? tr("%1 · checked in %2 s").arg(what).arg(result->timing.total_ms / 1000, 0, 'f', 2)
            : tr("%1 · checking…").arg(what));
}

} // namespace rubble::app
