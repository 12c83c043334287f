#pragma once

#include <functional>

#include <QLineEdit>

namespace rubble::app {

/// A number one can type with units and sums, step with the wheel or the arrow keys; says when it was
/// changed to something understood, and goes back to what it was otherwise.
class NumberField : public QLineEdit {
    Q_OBJECT
public:
    /// The unit is shown behind the number.
    NumberField(const QString& name, double step, const QString& unit = {}, QWidget* parent = nullptr);
    void show_value(double value);

signals:
    void changedTo(double value);

protected:
    void wheelEvent(QWheelEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void paintEvent(QPaintEvent* event) override;

private:
    void take();
    void step_by(double steps);

    double value_ = 0, step_;
    QString unit_;
};

} // namespace rubble::app
