#include "window/number_field.h"

#include <cmath>
#include <utility>

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
      length_(unit == QStringLiteral("m")),
      unit_(length_ ? name_of_lengths() : unit) {
    setAccessibleName(name);
    setAlignment(Qt::AlignRight);
    setFixedWidth(fontMetrics().horizontalAdvance(QStringLiteral("0000.000 m/s²")));
    if (!unit_.isEmpty()) setTextMargins(0, 0, fontMetrics().horizontalAdvance(unit_) + 4, 0);
    setToolTip(
        tr("Type a number or a sum such as 4 + 0.5 or 350 cm; the wheel steps, and so does dragging its "
           "name or its unit"));
    setMouseTracking(true); // for the pointer's form over the unit
    connect(this, &QLineEdit::editingFinished, this, &NumberField::take);
}

void NumberField::show_value(double value) {
    value_ = value;
    if (!hasFocus() || !isModified()) setText(shown());
}

QString NumberField::shown() const {
    if (std::isnan(value_)) return tr("mixed");
    return plain_number(length_ ? value_ / metres_of_unit() : value_);
}

void NumberField::take() {
    if (!isModified()) return;
    setModified(false);
    const QString typed = text().trimmed();
    const bool difference = typed.startsWith('+');
    const QString number = difference ? typed.mid(1) : typed;
    const auto value = length_ ? parse_metres(number) : parse_number(number);
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

void NumberField::begin_drag(double at_px) { drag_ = Drag{at_px, 0, false}; }

void NumberField::drag_to(double at_px) {
    constexpr int k_px_per_step = 8;
    if (!drag_) return;
    const int steps = int((at_px - drag_->taken_at_px) / k_px_per_step);
    if (steps == drag_->steps) return;
    if (!std::exchange(drag_->going_on, true)) emit dragged(true);
    step_by(steps - std::exchange(drag_->steps, steps));
}

void NumberField::end_drag() {
    if (drag_ && drag_->going_on) emit dragged(false);
    drag_.reset();
}

bool NumberField::on_unit(const QPointF& at) const {
    return !unit_.isEmpty() && at.x() > width() - textMargins().right() - 7;
}

void NumberField::mousePressEvent(QMouseEvent* event) {
    on_unit(event->position()) ? begin_drag(event->position().x()) : QLineEdit::mousePressEvent(event);
}

void NumberField::mouseMoveEvent(QMouseEvent* event) {
    if (drag_) return drag_to(event->position().x());
    setCursor(on_unit(event->position()) ? Qt::SizeHorCursor : Qt::IBeamCursor);
    QLineEdit::mouseMoveEvent(event);
}

void NumberField::mouseReleaseEvent(QMouseEvent* event) {
    drag_ ? end_drag() : QLineEdit::mouseReleaseEvent(event);
}

NumberHandle::NumberHandle(const QString& text, NumberField& field) : QLabel(text), field_(field) {
    setCursor(Qt::SizeHorCursor);
    setToolTip(tr("Drag to change the number"));
}

void NumberHandle::mousePressEvent(QMouseEvent* event) { field_.begin_drag(event->position().x()); }
void NumberHandle::mouseMoveEvent(QMouseEvent* event) { field_.drag_to(event->position().x()); }
void NumberHandle::mouseReleaseEvent(QMouseEvent*) { field_.end_drag(); }

} // namespace rubble::app
