#pragma once

#include <functional>

#include <QLabel>
#include <QLineEdit>

namespace rubble::app {

/// A number one can type with units and sums, step with the wheel or the arrow keys; says when it was
/// changed to something understood, and goes back to what it was otherwise. One that is not a number stands
/// for several that differ and reads "mixed"; stepping it, or typing "+ 0.5" into any, changes by a
/// difference.
class NumberField : public QLineEdit {
    Q_OBJECT
public:
    /// The unit is shown behind the number.
    NumberField(const QString& name, double step, const QString& unit = {}, QWidget* parent = nullptr);
    void show_value(double value);
    void step_by(double steps);

signals:
    void changedTo(double value);
    void changedBy(double difference);

protected:
    void wheelEvent(QWheelEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void paintEvent(QPaintEvent* event) override;

private:
    void take();
    QString shown() const;

    double value_ = 0, step_;
    QString unit_;
};

/// The name of a number, which can be dragged left and right to step it.
class NumberHandle : public QLabel {
    Q_OBJECT
public:
    NumberHandle(const QString& text, NumberField& field);

signals:
    /// A drag begins, or ends: what changes meanwhile is one change.
    void dragged(bool going_on);

protected:
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;

private:
    NumberField& field_;
    int taken_at_ = 0, steps_ = 0;
    bool going_on_ = false;
};

} // namespace rubble::app
