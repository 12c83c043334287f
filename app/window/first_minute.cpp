#include "window/first_minute.h"

#include <QEvent>
#include <QPushButton>
#include <QSettings>
#include <QVBoxLayout>

#include "level/order.h"
#include "theme.h"

namespace rubble::app {

namespace {

const QString k_first_minute = QStringLiteral("first_minute/done");
constexpr int k_from_edge_px = 12;

size_t brushes_of(const Level& level) {
    size_t count = 0;
    for_each_item(level, [&](const Item& item, const Layer&) { count += item.brush() != nullptr; });
    return count;
}

} // namespace

bool FirstMinute::done() { return QSettings().value(k_first_minute).toBool(); }

FirstMinute::FirstMinute(Session& session, LevelView& view)
    : QFrame(&view),
      session_(session),
      view_(view),
      eye_(view.camera().eye()),
      brushes_(brushes_of(session.level())) {
    setObjectName(QStringLiteral("first-minute"));
    setStyleSheet(
        QStringLiteral("#first-minute { background: %1; border: 1px solid %2; border-radius: 6px; }")
            .arg(color::paper.name(), color::line.name()));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(12, 8, 12, 8);
    auto* title = new QLabel(QStringLiteral("<b>%1</b>").arg(tr("The first minute")));
    column->addWidget(title);
    for (QLabel*& line : lines_) column->addWidget(line = new QLabel);
    auto* away = new QPushButton(tr("Put away"));
    column->addWidget(away, 0, Qt::AlignLeft);
    connect(away, &QPushButton::clicked, this, [this] {
        QSettings().setValue(k_first_minute, true);
        deleteLater();
    });
    connect(&session_, &Session::levelChanged, this, &FirstMinute::look_again);
    connect(&session_, &Session::builtChanged, this, &FirstMinute::look_again);
    view_.installEventFilter(this);
    tick(k_steps);
    show();
    place();
}

void FirstMinute::place() {
    adjustSize();
    move(view_.width() - width() - k_from_edge_px, k_from_edge_px);
    raise();
}

bool FirstMinute::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::Resize) place();
    if (event->type() == QEvent::Paint) {
        if (glm::length(view_.camera().eye() - eye_) > 0.5) tick(look);
        if (view_.walking()) tick(walk);
        setVisible(!view_.walking());
    }
    return QFrame::eventFilter(watched, event);
}

void FirstMinute::look_again() {
    if (session_.documents().previews()) return;
    if (brushes_of(session_.level()) > brushes_) tick(draw);
    const auto goals = elements_of(session_.level(), Role::goal);
    if (!goals.empty()) tick(FirstMinute::goal);
    const auto& check = session_.built().check;
    if (!check || !session_.up_to_date()) return;
    for (const check::Place& place : check->places)
        for (const Item* item : goals)
            if (place.item == item->id && place.reached == check::Reached::yes) tick(reached);
}

void FirstMinute::tick(Step step) {
    if (step < k_steps) {
        if (ticked_[step]) return;
        ticked_[step] = true;
    }
    const std::array<QString, k_steps> texts{
        tr("Draw a box: B, drag its base, move up, click"), tr("Look around: drag with the right button"),
        tr("Put a goal on it: Populate, Goal, click"),
        tr("Look whether it is reached: the ground turns green"), tr("Walk there: G")};
    for (size_t i = 0; i < k_steps; ++i) {
        lines_[i]->setText((ticked_[i] ? QStringLiteral("✓ ") : QStringLiteral("○ ")) + texts[i]);
        lines_[i]->setAccessibleName(ticked_[i] ? tr("Done: %1").arg(texts[i]) : texts[i]);
        lines_[i]->setStyleSheet(ticked_[i] ? QStringLiteral("color: %1").arg(color::sea_green.name())
                                            : QString());
    }
    place();
    if (std::all_of(ticked_.begin(), ticked_.end(), [](bool one) { return one; }))
        QSettings().setValue(k_first_minute, true);
}

} // namespace rubble::app
