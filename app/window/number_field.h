#pragma once

#include <functional>
#include <optional>

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
    /// The unit is shown behind the number. Values in "m" are shown and typed in the unit of lengths.
    NumberField(const QString& name, double step, const QString& unit = {}, QWidget* parent = nullptr);
    void show_value(double value);
    void step_by(double steps);
    /// Steps by dragging left and right, by the unit or by the number's name.
    void begin_drag(double at_px);
    void drag_to(double at_px);
    void end_drag();

signals:
    void changedTo(double value);
    void changedBy(double difference);
    /// A drag begins, or ends: what changes meanwhile is one change.
    void dragged(bool going_on);

protected:
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void paintEvent(QPaintEvent* event) override;

private:
    void take();
    QString shown() const;
    bool on_unit(const QPointF& at) const;

    struct Drag {
        double taken_at_px = 0;
        int steps = 0;
        bool going_on = false;
    };
    double value_ = 0, step_;
    bool length_;
    QString unit_;
    std::optional<Drag> drag_;
};

/// The name of a number, which can be dragged left and right to step it.
class NumberHandle : public QLabel {
    Q_OBJECT
public:
    NumberHandle(const QString& text, NumberField& field);

protected:
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;

private:
    NumberField& field_;
};

} // namespace rubble::app
