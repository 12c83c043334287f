#include "window/number_field.h"

#include <cmath>

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QWheelEvent>

#include "numbers.h"
#include "theme.h"

namespace rubble::app {

NumberField::NumberField(const QString& name, double step, const QString& unit, QWidget* parent)
    : QLineEdit(parent),
      step_(step),
      unit_(unit) {
    setAccessibleName(name);
    setAlignment(Qt::AlignRight);
    setFixedWidth(fontMetrics().horizontalAdvance(QStringLiteral("0000.000 m/s²")));
    if (!unit.isEmpty()) setTextMargins(0, 0, fontMetrics().horizontalAdvance(unit) + 4, 0);
    setToolTip(tr("Type a number or a sum such as 4 + 0.5 or 350 cm; the wheel steps"));
    connect(this, &QLineEdit::editingFinished, this, &NumberField::take);
}

void NumberField::show_value(double value) {
    value_ = value;
    if (!hasFocus() || !isModified()) setText(shown());
}

QString NumberField::shown() const { return std::isnan(value_) ? tr("mixed") : plain_number(value_); }

void NumberField::take() {
    if (!isModified()) return;
    setModified(false);
    const QString typed = text().trimmed();
    const bool difference = typed.startsWith('+');
    const auto value = parse_metres(difference ? typed.mid(1) : typed);
    if (!value || (!difference && *value == value_)) {
        setText(shown());
        return;
    }
    if (difference) {
        setText(shown());
        emit changedBy(*value);
        return;
    }
    value_ = *value;
    setText(shown());
    emit changedTo(value_);
}

void NumberField::wheelEvent(QWheelEvent* event) {
    if (!hasFocus()) {
        event->ignore();
        return;
    }
    step_by(event->angleDelta().y() > 0 ? 1 : -1);
    event->accept();
}

void NumberField::step_by(double steps) {
    if (std::isnan(value_)) {
        emit changedBy(steps * step_);
        return;
    }
    value_ += steps * step_;
    setText(shown());
    emit changedTo(value_);
}

void NumberField::paintEvent(QPaintEvent* event) {
    QLineEdit::paintEvent(event);
    if (unit_.isEmpty()) return;
    QPainter painter(this);
    painter.setPen(color::faint_ink);
    painter.drawText(rect().adjusted(0, 0, -7, 0), Qt::AlignRight | Qt::AlignVCenter, unit_);
}

void NumberField::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Up || event->key() == Qt::Key_Down) {
        step_by(event->key() == Qt::Key_Up ? 1 : -1);
        return;
    }
    if (event->key() == Qt::Key_Escape) {
        setModified(false);
        setText(shown());
    }
    QLineEdit::keyPressEvent(event);
}

NumberHandle::NumberHandle(const QString& text, NumberField& field) : QLabel(text), field_(field) {
    setCursor(Qt::SizeHorCursor);
    setToolTip(tr("Drag to change the number"));
}

void NumberHandle::mousePressEvent(QMouseEvent* event) {
    taken_at_ = int(event->position().x());
    steps_ = 0;
}

void NumberHandle::mouseMoveEvent(QMouseEvent* event) {
    constexpr int k_px_per_step = 8;
    const int steps = (int(event->position().x()) - taken_at_) / k_px_per_step;
    if (steps == steps_) return;
    if (!going_on_) emit dragged(true);
    going_on_ = true;
    const int by = steps - steps_;
    steps_ = steps;
    field_.step_by(by);
}

void NumberHandle::mouseReleaseEvent(QMouseEvent*) {
    if (going_on_) emit dragged(false);
    going_on_ = false;
}

} // namespace rubble::app
