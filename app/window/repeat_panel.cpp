#include "window/repeat_panel.h"

#include <cmath>

#include <QKeyEvent>
#include <QPushButton>
#include <QVBoxLayout>

#include "edit/repeats.h"
#include "window/number_field.h"

namespace rubble::app {

namespace {

constexpr double k_most_times = 200;

} // namespace

RepeatPanel::RepeatPanel(Session& session, QWidget& window) : QFrame(&window), session_(session) {
    setProperty("role", "floating");
    setAutoFillBackground(true);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(12, 10, 12, 10);
    auto* heading = new QLabel(tr("Repeat the selection"));
    heading->setProperty("role", "heading");
    column->addWidget(heading);
    const struct {
        QString name, unit;
        double step;
        double* value;
    } rows[] = {{tr("Times"), {}, 1, &times_},
                {tr("Step, x"), tr("m"), 0.5, &step_.x},
                {tr("Step, y"), tr("m"), 0.5, &step_.y},
                {tr("Step, z"), tr("m"), 0.25, &step_.z},
                {tr("Turn each by"), QStringLiteral("°"), 15, &turn_deg_}};
    for (const auto& row : rows) {
        auto* line = new QHBoxLayout;
        auto* field = new NumberField(row.name, row.step, row.unit);
        auto* label = new NumberHandle(row.name, *field);
        label->setBuddy(field);
        line->addWidget(label, 1);
        line->addWidget(field);
        column->addLayout(line);
        connect(field, &NumberField::changedTo, this, [this, value = row.value](double to) {
            *value = to;
            show_preview();
        });
        fields_.push_back(field);
    }
    auto* buttons = new QHBoxLayout;
    auto* keep = new QPushButton(tr("Repeat"));
    keep->setProperty("role", "main");
    auto* leave = new QPushButton(tr("Leave it"));
    buttons->addWidget(leave);
    buttons->addWidget(keep);
    column->addLayout(buttons);
    connect(keep, &QPushButton::clicked, this, [this] { finish(true); });
    connect(leave, &QPushButton::clicked, this, [this] { finish(false); });
    hide();
}

void RepeatPanel::open() {
    if (session_.selection().empty()) {
        emit session_.message(tr("First select what to repeat"));
        return;
    }
    // Beside each other to begin with.
    Box3 box;
    for (const ItemId& id : session_.selection())
        if (const Item* item = find_item(session_.level(), id)) box.add(box_of(*item));
    const double grid = session_.grid_m();
    step_ = {std::ceil((box.high.x - box.low.x) / grid) * grid + grid, 0, 0};
    const double values[] = {times_, step_.x, step_.y, step_.z, turn_deg_};
    for (size_t i = 0; i < fields_.size(); ++i) fields_[i]->show_value(values[i]);
    adjustSize();
    move((parentWidget()->width() - width()) / 2, parentWidget()->height() - height() - 60);
    show();
    raise();
    fields_[0]->setFocus();
    fields_[0]->selectAll();
    show_preview();
}

void RepeatPanel::show_preview() {
    times_ = std::clamp(std::round(times_), 1.0, k_most_times);
    session_.preview(
        edit::repeated(session_.stored_level(), session_.selection(), int(times_), step_, turn_deg_).level);
}

void RepeatPanel::finish(bool keep) {
    hide();
    parentWidget()->setFocus();
    session_.drop_preview();
    if (!keep) return;
    const edit::Copies made =
        edit::repeated(session_.stored_level(), session_.selection(), int(times_), step_, turn_deg_);
    std::vector<ItemId> all = session_.selection();
    all.insert(all.end(), made.ids.begin(), made.ids.end());
    session_.apply(made.level, tr("Repeat"));
    session_.select(all);
}

void RepeatPanel::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape) return finish(false);
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) return finish(true);
    QFrame::keyPressEvent(event);
}

} // namespace rubble::app
