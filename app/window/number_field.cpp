#include "window/number_field.h"

#include <QKeyEvent>
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
    if (!hasFocus() || !isModified()) setText(plain_number(value));
}

void NumberField::take() {
    if (!isModified()) return;
    setModified(false);
    const auto value = parse_metres(text());
    if (!value || *value == value_) {
        setText(plain_number(value_));
        return;
    }
    value_ = *value;
    setText(plain_number(value_));
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
    value_ += steps * step_;
    setText(plain_number(value_));
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
        setText(plain_number(value_));
    }
    QLineEdit::keyPressEvent(event);
}

} // namespace rubble::app
