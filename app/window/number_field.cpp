#include "window/number_field.h"

#include <QKeyEvent>
#include <QWheelEvent>

#include "numbers.h"

namespace rubble::app {

NumberField::NumberField(const QString& name, double step, QWidget* parent) : QLineEdit(parent), step_(step) {
    setAccessibleName(name);
    setAlignment(Qt::AlignRight);
    setFixedWidth(72);
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
    value_ += event->angleDelta().y() > 0 ? step_ : -step_;
    setText(plain_number(value_));
    emit changedTo(value_);
    event->accept();
}

void NumberField::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Up || event->key() == Qt::Key_Down) {
        value_ += event->key() == Qt::Key_Up ? step_ : -step_;
        setText(plain_number(value_));
        emit changedTo(value_);
        return;
    }
    if (event->key() == Qt::Key_Escape) {
        setModified(false);
        setText(plain_number(value_));
    }
    QLineEdit::keyPressEvent(event);
}

} // namespace rubble::app
